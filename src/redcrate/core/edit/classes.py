"""Classes: who has them and which rules they have; give, take, rename, and make one of an own style."""

import re
from collections.abc import Callable, Iterator, Mapping, Sequence
from functools import lru_cache, partial
from typing import Any

from tinycss2.serializer import serialize_identifier

from redcrate.core.edit.css_text import block_place, insertion
from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.edit.rule_places import author_rules, new_rule_edit
from redcrate.core.edit.tree_edits import set_attribute
from redcrate.core.errors import EditRefused
from redcrate.core.markup.elements import Element, Markup
from redcrate.core.markup.source_text import SourceText
from redcrate.core.page import Page
from redcrate.core.records import dataclass
from redcrate.core.style.css_syntax import component_values
from redcrate.core.style.sheets import StyleRule
from redcrate.core.units import counted


@dataclass(frozen=True, slots=True, eq=False)
class ClassUse:
    """A class name of the page: the elements that have it, and the author's rules that name it.

    A rule with an attribute selector that the name fits, such as [class^="col-"], counts as one of them.
    """

    name: str
    users: tuple[Element, ...]
    rules: tuple[StyleRule, ...]


def class_list(page: Page) -> tuple[ClassUse, ...]:
    """All classes that elements have or rules name, by name."""
    users: dict[str, list[Element]] = {}
    rules: dict[str, list[StyleRule]] = {}
    for element in page.source.markup.root.walk():
        for name in dict.fromkeys(element.classes):
            users.setdefault(name, []).append(element)
    for rule in author_rules(page):
        names, patterns = _classes_in(rule.selector_text)
        named = dict.fromkeys(names)
        for fits in patterns:
            named.update(dict.fromkeys(n for n in users if fits(n)))
        for name in named:
            rules.setdefault(name, []).append(rule)
    return tuple(
        ClassUse(n, tuple(users.get(n, ())), tuple(rules.get(n, ()))) for n in sorted({*users, *rules})
    )


# Selectors in whose text no string, escape or number hides a dot.
_PLAIN = re.compile(r"(?:[.#:]?-?[_a-zA-Z][\w-]*+|\d++(?!\.)|[\s>+~*,:()])*+", re.ASCII)
# What is asked of another attribute than the class says nothing of classes.
_ATTRIBUTE = re.compile(
    r"\[(?!class\b)[a-z][\w-]*+(?:[~|^$*]?=(?:\"[^\"\\\n]*+\"|'[^'\\\n]*+'|[a-zA-Z][\w-]*+))?\]",
    re.ASCII,
)
_DOTTED = re.compile(r"\.(-?[_a-zA-Z][\w-]*)", re.ASCII)


@lru_cache(maxsize=2**15)
def _classes_in(selector: str) -> tuple[tuple[str, ...], tuple[Callable[[str], bool], ...]]:
    """What a selector's text says of classes: names, and what attribute selectors ask of a name."""
    plain = _ATTRIBUTE.sub("", selector) if "[" in selector else selector
    if _PLAIN.fullmatch(plain):
        return tuple(_DOTTED.findall(plain)), ()
    return tuple(n for n, _ in class_tokens(selector)), tuple(_class_patterns(selector))


def class_tokens(selector: str) -> Iterator[tuple[str, int]]:
    """The class names in a selector's text with the offset of each name, functions included."""
    source = SourceText("", selector)
    for before, token in _selector_tokens(selector):
        dotted = before is not None and before.type == "literal" and before.value == "."
        if token.type == "ident" and dotted:
            yield token.value, source.offset_of(token.source_line, token.source_column)


def id_names(selector: str) -> Iterator[str]:
    """The ids in a selector's text, functions included."""
    for _, token in _selector_tokens(selector) if "#" in selector else ():
        if token.type == "hash" and token.is_identifier:
            yield token.value


def _selector_tokens(selector: str) -> Iterator[tuple[Any, Any]]:
    """Each token of a selector's text, those in functions too, with the one before it."""
    stack = [component_values(selector)]
    while stack:
        tokens: list[Any] = stack.pop()
        for before, token in zip([None, *tokens], tokens):
            yield before, token
            if token.type == "function":
                stack.append(token.arguments)


def _class_patterns(selector: str) -> Iterator[Callable[[str], bool]]:
    """What the attribute selectors for `class` in a selector's text ask of a name: Selectors 4 §6.2."""
    for _, token in _selector_tokens(selector) if "[" in selector else ():
        if token.type == "[] block":
            words = [t for t in token.content if t.type != "whitespace"]
            wanted = next((t.value for t in words[1:] if t.type in ("ident", "string")), "")
            if words and words[0].type == "ident" and words[0].lower_value == "class" and wanted:
                sign = "".join(t.value for t in words[1:] if t.type == "literal")
                yield partial(_FITS.get(sign, _is_one_of), wanted)


def _is_one_of(wanted: str, name: str) -> bool:
    return name in wanted.split()


_FITS: dict[str, Callable[[str, str], bool]] = {
    "^=": lambda wanted, name: name.startswith(wanted),
    "$=": lambda wanted, name: name.endswith(wanted),
    "*=": lambda wanted, name: any(w in name for w in wanted.split()),
    "|=": lambda wanted, name: name == wanted or name.startswith(f"{wanted}-"),
}


def own_class_name(page: Page, element: Element) -> str:
    """A class that no element and no rule knows, named for the element."""
    taken = {c.name for c in class_list(page)}
    stem = f"{element.classes[0] if element.classes else element.tag}-own"
    return next(n for n in (stem, *(f"{stem}-{i}" for i in range(2, 10_000))) if n not in taken)


def with_class(markup: Markup, targets: Sequence[Element], name: str) -> Patch:
    """The class given to all `targets` that lack it."""
    _check_name(name)
    edits = [
        set_attribute(
            markup,
            t,
            "class",
            t.attributes.get("class", ""),
            _joined(t.attributes.get("class", ""), name),
        )
        for t in targets
        if name not in t.classes
    ]
    if not edits:
        raise EditRefused(f"all selected elements already have the class “{name}”.")
    return Patch(tuple(edits), f"class {name} added to {_count(len(edits))}")


def without_class(markup: Markup, targets: Sequence[Element], name: str) -> Patch:
    """The class taken off all `targets` that have it."""
    edits = [
        set_attribute(
            markup, t, "class", t.attributes["class"], " ".join(c for c in t.classes if c != name)
        )
        for t in targets
        if name in t.classes
    ]
    if not edits:
        raise EditRefused(f"no selected element has the class “{name}”.")
    return Patch(tuple(edits), f"class {name} removed from {_count(len(edits))}")


def classes_changed(
    markup: Markup,
    targets: Sequence[Element],
    given: Sequence[str],
    taken: Sequence[str],
    order: Sequence[str] = (),
) -> Patch:
    """Some classes given to all `targets` that lack them and others taken off all that have them, in one step.

    order: the classes as they were typed; who has just these then has them in this order.
    """
    edits = []
    for name in given:
        _check_name(name)
    for target in targets:
        before = target.attributes.get("class", "")
        after = " ".join(c for c in target.classes if c not in taken)
        if after == " ".join(target.classes):
            after = before  # as it is written
        for name in given:
            after = after if name in target.classes else _joined(after, name)
        if after != before and set(after.split()) == set(order):
            after = " ".join(order)
        if after != before:
            edits.append(set_attribute(markup, target, "class", before, after))
    if not edits:
        raise EditRefused("all selected elements already have these classes.")
    return Patch(tuple(edits), f"classes of {_count(len(edits))} changed")


def class_renamed(page: Page, texts: Mapping[str, str], old: str, new: str) -> Patch:
    """The class under another name in all elements and in all rules."""
    _check_name(new)
    markup = page.source.markup
    if any(new in e.classes for e in markup.root.walk()):
        raise EditRefused(f"the class “{new}” already exists.", remedy="Choose another name.")
    edits: list[TextEdit] = []
    for element in markup.root.walk():
        if old in element.classes:
            value = " ".join(new if c == old else c for c in element.classes)
            edits.append(set_attribute(markup, element, "class", element.attributes["class"], value))
    for rule in author_rules(page):
        edits.extend(_renamed_in(rule, texts, old, new))
    if not edits:
        raise EditRefused(f"no element and no rule uses the class “{old}”.")
    return Patch(
        tuple(dict.fromkeys(edits)),
        f"class {old} → {new}, {counted(len(edits), '1 place', '{count} places')}",
    )


def _renamed_in(rule: StyleRule, texts: Mapping[str, str], old: str, new: str) -> Iterator[TextEdit]:
    text = texts[rule.file]
    prelude = text[rule.start : text.index("{", rule.start)] if "{" in text[rule.start :] else ""
    for name, offset in class_tokens(prelude):
        if name == old:
            start = rule.start + offset
            written = _written_length(text, start)
            yield TextEdit(rule.file, start, start + written, serialize_identifier(new))


def _written_length(text: str, start: int) -> int:
    """How many characters the name at `start` has as written, escapes included."""
    at = start
    while at < len(text) and (text[at].isalnum() or text[at] in "-_\\" or ord(text[at]) > 127):
        at += 2 if text[at] == "\\" else 1
    return at - start


def style_into_class(page: Page, texts: Mapping[str, str], target: Element, name: str) -> Patch:
    """The element's own style as the declarations of a class, which is made where there is no rule."""
    _check_name(name)
    markup = page.source.markup
    rule = page.source.inline_rules.get(target)
    if rule is None or not rule.declarations:
        raise EditRefused(f"{target.label} has no style attribute.")
    declarations = "; ".join(
        f"{d.name}: {d.text}{' !important' if d.important else ''}" for d in rule.declarations
    )
    edits = [set_attribute(markup, target, "style", markup.style_attribute(target), "")]
    selector = f".{serialize_identifier(name)}"
    known = next(
        (r for r in reversed(author_rules(page)) if r.selector_text == selector and not r.media), None
    )
    if known is None:
        edits.append(new_rule_edit(page, texts, selector, declarations))
    else:
        text = texts[known.file]
        block = block_place(text, known.start)
        if block is None:
            raise EditRefused(f"the rule {selector} has no block.", where=known.file)
        at, inserted = insertion(text, block, declarations)
        edits.append(TextEdit(known.file, at, at, inserted))
    if name not in target.classes:
        value = _joined(target.attributes.get("class", ""), name)
        edits.append(set_attribute(markup, target, "class", target.attributes.get("class", ""), value))
    return Patch(tuple(_merged(edits)), f"style attribute of {target.label} → class {name}")


def _merged(edits: list[TextEdit]) -> list[TextEdit]:
    """Insertions at one and the same place as one edit."""
    found: dict[tuple[str, int, int], TextEdit] = {}
    for edit in edits:
        key = (edit.file, edit.start, edit.end)
        known = found.get(key)
        found[key] = edit if known is None else TextEdit(*key, known.text + edit.text)
    return list(found.values())


def _joined(value: str, name: str) -> str:
    return f"{value} {name}" if value.strip() and not value.endswith(" ") else f"{value}{name}"


def _check_name(name: str) -> None:
    if not name or name.split() != [name]:
        raise EditRefused(
            f"“{name}” is not a class name.", remedy="A class is one word, such as notice."
        )


def _count(number: int) -> str:
    return counted(number, "1 element", "{count} elements")
