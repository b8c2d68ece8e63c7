"""Setting longhands of an element: the edits that write them where `targets.py` says."""

from collections.abc import Mapping, Sequence

from redcrate.core.edit.css_text import block_place, declaration_place, insertion
from redcrate.core.edit.patch import TextEdit
from redcrate.core.edit.range_rules import number_of, range_rules_edit
from redcrate.core.edit.range_targets import target_for
from redcrate.core.edit.rule_places import new_rule_edit
from redcrate.core.edit.targets import ANYWHERE, WritesTo, WriteTarget
from redcrate.core.errors import EditRefused
from redcrate.core.explain.terms import split_values
from redcrate.core.geometry import SIDES
from redcrate.core.markup.elements import Element, Span
from redcrate.core.markup.tags import tag_attributes, tag_name_length
from redcrate.core.page import Page
from redcrate.core.records import dataclass
from redcrate.core.style.sheets import Declaration, Origin, StyleRule
from redcrate.core.style.window_ranges import WindowRange

_FOUR_SIDED = ("margin", "padding", "border-width", "inset")


@dataclass(frozen=True, slots=True)
class Assignment:
    """A value to write for one longhand."""

    longhand: str
    value: str


def write_edits(
    page: Page,
    texts: Mapping[str, str],
    element: Element,
    assignments: list[Assignment],
    writes_to: WritesTo = ANYWHERE,
    *,
    alone: bool = False,
) -> list[TextEdit]:
    """The edits that give an element these values.

    texts: the current text of each file by name. writes_to: where they are wanted. alone: in a range, by a rule
    that touches this element only, if there can be one. Assignments that fall into one declaration become one edit.
    Raises EditRefused if the element is not in the source, or if a value would lose where it was to be written.
    """
    return write_all([(element, assignments)], page, texts, writes_to, alone=alone)


def write_all(
    values: Sequence[tuple[Element, list[Assignment]]],
    page: Page,
    texts: Mapping[str, str],
    writes_to: WritesTo = ANYWHERE,
    *,
    alone: bool = False,
) -> list[TextEdit]:
    """The same for several elements. Raises EditRefused also where two of them that share a rule want other values."""
    places = _Places()
    for element, assignments in values:
        for assignment in assignments:
            target = target_for(page, element, assignment.longhand, writes_to, alone=alone)
            places.add(element, target, assignment)
    edits: list[TextEdit] = []
    for declaration, wanted in places.declarations.items():
        edits.append(_change(texts[declaration.file], declaration, wanted))
    for rule, wanted in places.rules.items():
        edits.append(_append(texts[rule.file], rule, wanted))
    for window, made in places.made.items():
        edits += _new_rules(page, texts, window, made)
    for element, inline in places.own.items():
        edits.append(_style_attribute(page, texts, element, inline))
    return edits


class _Places:
    """What is to be written, by the places that it goes to."""

    def __init__(self) -> None:
        self.declarations: dict[Declaration, list[Assignment]] = {}
        self.rules: dict[StyleRule, list[Assignment]] = {}
        self.made: dict[WindowRange | None, dict[str, tuple[WriteTarget, list[Assignment]]]] = {}
        self.own: dict[Element, list[tuple[Declaration | None, Assignment]]] = {}

    def add(self, element: Element, target: WriteTarget, assignment: Assignment) -> None:
        """One value of an element, to be written at its target."""
        applied, rule = target.applied, target.rule
        if applied is not None and applied.rule.origin is Origin.INLINE:
            self.own.setdefault(element, []).append((applied.declaration, assignment))
        elif applied is not None:
            _want(self.declarations.setdefault(applied.declaration, []), assignment, target)
        elif target.selector:
            made = self.made.setdefault(target.window, {})
            _want(made.setdefault(target.selector, (target, []))[1], assignment, target)
        elif rule is not None:
            _want(self.rules.setdefault(rule, []), assignment, target)
        else:
            self.own.setdefault(element, []).append((None, assignment))


def _want(wanted: list[Assignment], assignment: Assignment, target: WriteTarget) -> None:
    """One more value for a place, unless it is wanted there already."""
    other = next((a for a in wanted if a.longhand == assignment.longhand), None)
    if other is not None and other.value != assignment.value:
        raise EditRefused(
            f"the elements share {target.label}: its {assignment.longhand} cannot be both "
            f"{other.value} and {assignment.value}.",
            remedy="Use equal parts, or choose separate rules.",
        )
    if other is None:
        wanted.append(assignment)


def _new_rules(
    page: Page,
    texts: Mapping[str, str],
    window: WindowRange | None,
    made: Mapping[str, tuple[WriteTarget, list[Assignment]]],
) -> list[TextEdit]:
    rules = [(s, "; ".join(f"{a.longhand}: {a.value}" for a in w)) for s, (_, w) in made.items()]
    if window is None:
        return [new_rule_edit(page, texts, selector, values) for selector, values in rules]
    behind = [t.after for t, _ in made.values() if t.after is not None]
    after = max(behind, key=lambda r: number_of(page, r)) if behind else None
    return [range_rules_edit(page, texts, window, rules, after)]


def changed_declaration(text: str, offset: int, name: str, wanted: list[Assignment]) -> TextEdit:
    """The edit that makes the declaration `name` at `offset` set the wanted longhands.

    A side of a 1–4 value shorthand becomes its four-value form; of any other shorthand, a longhand
    that follows it.
    """
    place = declaration_place(text, offset)
    value = text[place.value.start : place.value.end]
    if len(wanted) == 1 and wanted[0].longhand == name:
        return TextEdit("", place.value.start, place.value.end, wanted[0].value)
    four = _four_values(name, value)
    if four is not None:
        for assignment in wanted:
            side = next(s for s in SIDES if s in assignment.longhand.split("-"))
            four[SIDES.index(side)] = assignment.value
        return TextEdit("", place.value.start, place.value.end, " ".join(four))
    important = " !important" if place.important else ""
    added = "".join(f"; {a.longhand}: {a.value}{important}" for a in wanted)
    return TextEdit("", place.whole.end, place.whole.end, added)


def _four_values(name: str, value: str) -> list[str] | None:
    if name not in _FOUR_SIDED or "var(" in value or "/*" in value:
        return None
    values = split_values(value)
    if not 1 <= len(values) <= 4:
        return None
    places = ((0, 0, 0, 0), (0, 1, 0, 1), (0, 1, 2, 1), (0, 1, 2, 3))[len(values) - 1]
    return [values[p] for p in places]


def _change(text: str, declaration: Declaration, wanted: list[Assignment]) -> TextEdit:
    edit = changed_declaration(text, declaration.offset, declaration.name, wanted)
    return TextEdit(declaration.file, edit.start, edit.end, edit.text)


def _append(text: str, rule: StyleRule, wanted: list[Assignment]) -> TextEdit:
    block = block_place(text, rule.start)
    if block is None:
        raise EditRefused(f"the rule {rule.label} has no block.", where=rule.file)
    declaration = "; ".join(f"{a.longhand}: {a.value}" for a in wanted)
    at, inserted = insertion(text, block, declaration)
    return TextEdit(rule.file, at, at, inserted)


def _style_attribute(
    page: Page,
    texts: Mapping[str, str],
    element: Element,
    wanted: list[tuple[Declaration | None, Assignment]],
) -> TextEdit:
    """The edit of the element's style attribute, which is made where there is none."""
    markup = page.source.markup
    file = markup.source.name
    text = texts[file]
    tag = markup.start_tag(element)
    if tag is None:
        raise EditRefused(
            f"{element.label} has no tag in the source.",
            where=file,
            remedy="Add its tag to the page first.",
        )
    style = markup.style_attribute(element)
    shift = 0
    groups: dict[Declaration | None, list[Assignment]] = {}
    for declaration, assignment in wanted:
        groups.setdefault(declaration, []).append(assignment)
    base = page.source.inline_rules[element].start if element in page.source.inline_rules else 0
    for declaration, group in sorted(groups.items(), key=lambda g: g[0].offset if g[0] else 1 << 40):
        if declaration is None:
            head = style.rstrip()
            joint = "" if not head else " " if head.endswith(";") else "; "
            style = head + joint + "; ".join(f"{a.longhand}: {a.value}" for a in group)
            continue
        edit = changed_declaration(style, declaration.offset - base + shift, declaration.name, group)
        style = style[: edit.start] + edit.text + style[edit.end :]
        shift += len(edit.text) - (edit.end - edit.start)
    return attribute_edit(file, text, tag, "style", markup.style_attribute(element), style)


def attribute_edit(file: str, text: str, tag: Span, name: str, old: str, value: str) -> TextEdit:
    """The smallest edit of the start tag at `tag` that gives attribute `name` another value.

    old: its value now, character references resolved. The attribute is made where there is none, and
    taken out where the new value is empty.
    """
    known = next((a for a in tag_attributes(text, tag) if a.name == name), None)
    if known is None:
        at = tag.start + 1 + tag_name_length(text, tag)
        return TextEdit(file, at, at, f' {name}="{escape_attribute(value, chr(34))}"')
    if not value:  # an attribute that says nothing goes, with the space in front of it
        gap = len(text[tag.start : known.whole.start]) - len(
            text[tag.start : known.whole.start].rstrip()
        )
        return TextEdit(file, known.whole.start - gap, known.whole.end, "")
    if known.value is None or not known.quote:
        escaped = escape_attribute(value, '"')
        return TextEdit(file, known.whole.start, known.whole.end, f'{name}="{escaped}"')
    raw = text[known.value.start : known.value.end]
    if raw != old:  # it holds character references
        return TextEdit(file, known.value.start, known.value.end, escape_attribute(value, known.quote))
    return _smallest_edit(file, known.value.start, raw, value, known.quote)


def _smallest_edit(file: str, at: int, old: str, new: str, quote: str) -> TextEdit:
    """Only what differs between two texts, so that bytes that the edit does not concern stay."""
    head = 0
    while head < min(len(old), len(new)) and old[head] == new[head]:
        head += 1
    tail = 0
    while tail < min(len(old), len(new)) - head and old[-1 - tail] == new[-1 - tail]:
        tail += 1
    text = escape_attribute(new[head : len(new) - tail], quote)
    return TextEdit(file, at + head, at + len(old) - tail, text)


def escape_attribute(value: str, quote: str) -> str:
    """A value as it stands between quotes in HTML (HTML Standard §13.1.2.3)."""
    escaped = value.replace("&", "&amp;")
    return escaped.replace('"', "&quot;") if quote == '"' else escaped.replace("'", "&#39;")
