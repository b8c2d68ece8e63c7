"""Selectors: parsed by `cssselect2`, compiled here into tests on our elements.

The library's own matcher recurses on deep trees and compiles Python source; this one walks with
loops, so that any depth of tree can be matched, and is indexed by the last compound's id, class
and tag (Selectors 4).
"""

from collections.abc import Callable
from dataclasses import replace
from typing import Any

import tinycss2
from cssselect2 import parser as cp
from tinycss2.nth import parse_nth

from redcrate.core.markup.elements import HTML_NAMESPACE, Element
from redcrate.core.records import dataclass
from redcrate.core.style.calc import significant
from redcrate.core.style.css_syntax import css_text, is_beyond
from redcrate.core.style.property_parsers import split_commas
from redcrate.core.style.relational import contains_relational, relational
from redcrate.core.style.scopes import Scope
from redcrate.core.style.tree_facts import Test, ancestor_that, earlier_sibling_that, places_among

_MOST_COMPOUNDS = 150  # in one complex selector
_MOST_TOKENS, _DEEPEST = 20_000, 60  # in all selectors of a rule
_MANY = 12  # selectors in a list


class SelectorNotUnderstood(ValueError):
    """A selector that CSS or Red Crate does not know: its rule matches nothing."""


@dataclass(frozen=True, slots=True)
class Selector:
    """One complex selector.

    test: whether an element matches. specificity: (ids, classes, tags). pseudo: the pseudo-element
    or "". key: what the index files it under: ("id"|"class"|"tag"|"any", name). scope: the part of the
    page that it is about; None for all of it.
    """

    text: str
    test: Test
    specificity: tuple[int, int, int]
    pseudo: str
    key: tuple[str, str]
    scope: Scope | None = None

    def matches(self, element: Element) -> bool:
        """Whether it is about the element (or a pseudo-element of it)."""
        return self.test(element) and (self.scope is None or self.scope.distance(element) is not None)


def compile_selectors(tokens: list[Any]) -> list[Selector]:
    """The selectors of a rule's prelude (tokens of tinycss2).

    Raises SelectorNotUnderstood with a sentence if one of them is invalid: then all are.
    """
    may_be = len(tokens) > _MANY or any(t.type == "function" for t in tokens)
    if may_be and is_beyond(tokens, _MOST_TOKENS, _DEEPEST):
        raise SelectorNotUnderstood("it has too many parts")
    try:
        return _compiled(list(tokens))
    except SelectorNotUnderstood:
        parts = split_commas(list(tokens))
        if not any(_matches_nothing_here(part) or _part_of_range(part) for part in parts):
            raise
    return [selector for part in parts for selector in _compiled_kindly(part)]


def _compiled_kindly(part: list[Any]) -> list[Selector]:
    """One selector that may speak of what only one maker names."""
    name = _part_of_range(part)
    if name:
        colon = significant(part)[-3]
        around = part[: next(at for at, token in enumerate(part) if token is colon)]
        if not significant(around) or around[-1].type == "whitespace":
            around = [*around, *tinycss2.parse_component_value_list("*")]
        return [_of_part(one, name) for one in _compiled(around)]
    return [_nothing(part)] if _matches_nothing_here(part) else _compiled(part)


def _of_part(one: Selector, name: str) -> Selector:
    ids, classes, types = one.specificity
    return replace(one, text=f"{one.text}::{name}", specificity=(ids, classes, types + 1), pseudo=name)


def _part_of_range(part: list[Any]) -> str:
    """The part of a range that a selector is about; "" for others."""
    end = significant(part)[-3:]
    if len(end) < 3 or end[2].type != "ident" or end[2].lower_value not in PARTS_OF_RANGES:
        return ""
    colons = all(t.type == "literal" and t.value == ":" for t in end[:2])
    return str(end[2].lower_value) if colons else ""


def _compiled(tokens: list[Any]) -> list[Selector]:
    try:
        return [
            Selector(
                repr(s.parsed_tree),
                compile_tree(s.parsed_tree),
                tuple(s.specificity),
                s.pseudo_element if isinstance(s.pseudo_element, str) else _pseudo_name(s),
                _index_key(s.parsed_tree),
            )
            for s in cp.parse(tokens)
        ]
    except cp.SelectorError as problem:
        raise SelectorNotUnderstood(str(problem.args[-1] if problem.args else problem)) from None
    except RecursionError:
        raise SelectorNotUnderstood("it has too many parts") from None


# What pages give ranges a height by; other parts that one maker names alone are those of nothing here.
PARTS_OF_RANGES = ("-webkit-slider-runnable-track", "-webkit-slider-thumb")


def _matches_nothing_here(part: list[Any]) -> bool:
    """Whether a selector is valid, but about a pseudo-element that Red Crate has none of.

    Selectors 4 §3.6.2 (any `::-webkit-` name is one) and §3.6.3 (states of a pseudo-element).
    """
    words = significant(part)
    for at in range(len(words) - 2):
        colons = all(t.type == "literal" and t.value == ":" for t in words[at : at + 2])
        name = words[at + 2]
        if not colons or name.type not in ("ident", "function"):
            continue
        known = name.lower_value if name.type == "ident" else name.lower_name
        states = words[at + 3 :]
        colons = all(t.type == "literal" and t.value == ":" for t in states[::2])
        plain = colons and all(t.type in ("ident", "function") for t in states[1::2])
        return plain and (known.startswith("-webkit-") or (bool(states) and known in _PSEUDO_ELEMENTS))
    return False


def _nothing(part: list[Any]) -> Selector:
    return Selector(css_text(part), lambda e: False, (0, 0, 1), "none", ("any", ""))


_PSEUDO_ELEMENTS = frozenset(
    """before after first-letter first-line marker placeholder selection backdrop file-selector-button
    details-content target-text spelling-error grammar-error highlight part slotted cue""".split()
)


def _pseudo_name(selector: Any) -> str:
    found = selector.pseudo_element
    return "" if found is None else str(getattr(found, "name", "?"))


def _last_compound(tree: Any) -> Any:
    return tree.right if isinstance(tree, cp.CombinedSelector) else tree


def _index_key(tree: Any) -> tuple[str, str]:
    best = ("any", "")
    for simple in _last_compound(tree).simple_selectors:
        if isinstance(simple, cp.IDSelector):
            return ("id", simple.ident)
        if isinstance(simple, cp.ClassSelector):
            best = ("class", simple.class_name)
        elif isinstance(simple, cp.LocalNameSelector) and best[0] == "any":
            best = ("tag", simple.lower_local_name)
        elif isinstance(simple, cp.MatchesAnySelector) and len(simple.selector_list) == 1:
            inner = _index_key(simple.selector_list[0].parsed_tree)  # `&` of a rule with one selector
            best = inner if best[0] == "any" or inner[0] == "id" else best
    return best


def compile_tree(tree: Any) -> Test:
    """The test of a complex selector given as the library's tree."""
    steps = _steps(tree)
    test = steps[0][1]
    for combinator, right in steps[1:]:
        test = _COMBINATORS[combinator](test, right)
    return test


def _steps(tree: Any) -> list[tuple[str, Test]]:
    """The compounds of a complex selector from left to right, each with the combinator in front of it."""
    chain: list[tuple[str, Test]] = []
    while isinstance(tree, cp.CombinedSelector):
        chain.append((tree.combinator, _compile_compound(tree.right)))
        tree = tree.left
    if len(chain) > _MOST_COMPOUNDS:
        raise SelectorNotUnderstood("it has too many parts")
    return [("", _compile_compound(tree)), *reversed(chain)]


def _descendant(left: Test, right: Test) -> Test:
    above = ancestor_that(left)
    return lambda e: right(e) and above(e)


def _child(left: Test, right: Test) -> Test:
    return lambda e: right(e) and e.parent is not None and left(e.parent)


def _next_sibling(left: Test, right: Test) -> Test:
    def test(element: Element) -> bool:
        if not right(element):
            return False
        siblings, at = _siblings(element)
        return at > 0 and left(siblings[at - 1])

    return test


def _later_sibling(left: Test, right: Test) -> Test:
    before = earlier_sibling_that(left)
    return lambda e: right(e) and before(e)


_COMBINATORS: dict[str, Callable[[Test, Test], Test]] = {
    " ": _descendant,
    ">": _child,
    "+": _next_sibling,
    "~": _later_sibling,
}


def _siblings(element: Element) -> tuple[list[Element], int]:
    """The element and its siblings, and its place among them from 0."""
    if element.parent is None:
        return [element], 0
    return element.parent.child_elements, element.sibling_index


def _compile_compound(compound: Any) -> Test:
    compiled = [_compile_simple(s) for s in compound.simple_selectors]
    tests: list[Test] = [t for t in compiled if t is not None]
    if not tests:
        return lambda e: True
    if len(tests) == 1:
        return tests[0]
    if len(tests) == 2:
        first, second = tests
        return lambda e: first(e) and second(e)
    return lambda e: all(t(e) for t in tests)


def _compile_simple(simple: Any) -> Any:  # noqa: C901 a case for each kind of selector
    if isinstance(simple, cp.LocalNameSelector):
        lower, exact = simple.lower_local_name, simple.local_name
        return lambda e: e.tag == (lower if e.namespace == HTML_NAMESPACE else exact)
    if isinstance(simple, cp.IDSelector):
        ident = simple.ident
        return lambda e: e.id == ident
    if isinstance(simple, cp.ClassSelector):
        name = simple.class_name
        return lambda e: name in e.classes
    if isinstance(simple, cp.AttributeSelector):
        return _attribute(simple)
    if isinstance(simple, cp.PseudoClassSelector):
        return _pseudo_class(simple.name.lower())
    if isinstance(simple, cp.FunctionalPseudoClassSelector):
        return _functional(simple.name.lower(), list(simple.arguments))
    if isinstance(simple, cp.NegationSelector):
        none_of = _any_of(_compile_list(simple))
        return lambda e: not none_of(e)
    if isinstance(simple, (cp.MatchesAnySelector, cp.SpecificityAdjustmentSelector)):
        return _compile_any(simple)
    if isinstance(simple, cp.RelationalSelector):
        return _relational(simple)
    if isinstance(simple, cp.NamespaceSelector):
        return None
    raise SelectorNotUnderstood(f"{simple!r} is unknown")


def _compile_list(simple: Any) -> list[Test]:
    return _compile_tests(simple.selector_list)


def _compile_tests(selectors: Any) -> list[Test]:
    if any(s.pseudo_element for s in selectors):
        raise SelectorNotUnderstood("a pseudo-element is not allowed there")
    return [compile_tree(s.parsed_tree) for s in selectors]


def _compile_any(simple: Any) -> Test:
    """`:is()` and `:where()`; a long list of names is looked up, not gone through."""
    if len(simple.selector_list) < _MANY:
        return _any_of(_compile_list(simple))
    names: set[str] = set()
    others = []
    for one in simple.selector_list:
        alone: Any = getattr(one.parsed_tree, "simple_selectors", ())
        if len(alone) == 1 and isinstance(alone[0], cp.ClassSelector) and not one.pseudo_element:
            names.add(alone[0].class_name)
        else:
            others.append(one)
    tests = [] if not others else _compile_tests(others)
    return _any_of([lambda e: not names.isdisjoint(e.classes), *tests])


def _any_of(tests: list[Test]) -> Test:
    if len(tests) == 1:
        return tests[0]
    return lambda e: any(t(e) for t in tests)


def _relational(simple: Any) -> Test:
    """`:has()`: Selectors 4 §4.5, where none may stand in another one."""
    trees = [(r.combinator, r.selector.parsed_tree) for r in simple.selector_list]
    if any(contains_relational(tree, cp) for _, tree in trees):
        raise SelectorNotUnderstood("`:has()` is not allowed in `:has()`")
    return _any_of([relational(combinator, _steps(tree)) for combinator, tree in trees])


def _attribute(simple: Any) -> Test:
    """Attribute selectors: Selectors 4 §6."""
    name, operator, value = simple.lower_name, simple.operator, simple.value
    fold = simple.case_sensitive is False
    if operator is None:
        return lambda e: name in e.attributes
    wanted = value.lower() if fold else value
    compare = _ATTRIBUTE_TESTS[operator]

    def test(element: Element) -> bool:
        actual = element.attributes.get(name)
        if actual is None:
            return False
        return compare(actual.lower() if fold else actual, wanted)

    return test


_ATTRIBUTE_TESTS: dict[str, Callable[[str, str], bool]] = {
    "=": lambda a, w: a == w,
    "~=": lambda a, w: bool(w) and w in a.split(),
    "|=": lambda a, w: a == w or a.startswith(w + "-"),
    "^=": lambda a, w: bool(w) and a.startswith(w),
    "$=": lambda a, w: bool(w) and a.endswith(w),
    "*=": lambda a, w: bool(w) and w in a,
}

_NEVER_TRUE = frozenset(
    """host indeterminate in-range out-of-range user-valid current past future muted seeking stalled buffering
    volume-locked blank local-link active-view-transition has-slotted xr-overlay -webkit-autofill
    -webkit-full-screen -webkit-drag hover focus active visited target focus-within focus-visible autofill fullscreen modal
    picture-in-picture playing paused user-invalid popover-open target-within""".split()
)


def _pseudo_class(name: str) -> Test:
    if name in _NEVER_TRUE:
        return lambda e: False
    test = _PSEUDO_CLASSES.get(name)
    if test is None:
        raise SelectorNotUnderstood(f":{name} is unknown")
    return test


_place_of_type = places_among(lambda e: e.tag)


def _of_type(element: Element) -> tuple[int, int]:
    """Its place among its siblings of one tag, from 0, and how many they are."""
    found = _place_of_type(element)
    assert found is not None
    return found


def _is_last_of_type(element: Element) -> bool:
    place, count = _of_type(element)
    return place == count - 1


def _is_empty(element: Element) -> bool:
    return all(not isinstance(c, Element) and not c.data for c in element.children)


def _lacks_value(element: Element) -> bool:
    """HTML Standard §4.10.20: of what makes a control invalid only a missing value is known."""
    return "required" in element.attributes and not element.attributes.get("value")


_FORM_TAGS = ("button", "input", "select", "textarea", "fieldset", "option", "optgroup")
_PSEUDO_CLASSES: dict[str, Test] = {
    "root": lambda e: e.parent is None,
    "scope": lambda e: e.parent is None,
    "first-child": lambda e: e.sibling_index == 0,
    "last-child": lambda e: e.sibling_index == len(_siblings(e)[0]) - 1,
    "only-child": lambda e: len(_siblings(e)[0]) == 1,
    "first-of-type": lambda e: _of_type(e)[0] == 0,
    "last-of-type": _is_last_of_type,
    "only-of-type": lambda e: _of_type(e)[1] == 1,
    "empty": _is_empty,
    "link": lambda e: e.tag in ("a", "area") and "href" in e.attributes,
    "any-link": lambda e: e.tag in ("a", "area") and "href" in e.attributes,
    "enabled": lambda e: e.tag in _FORM_TAGS and "disabled" not in e.attributes,
    "disabled": lambda e: e.tag in _FORM_TAGS and "disabled" in e.attributes,
    "valid": lambda e: e.tag in _FORM_TAGS and not _lacks_value(e),
    "invalid": lambda e: e.tag in _FORM_TAGS and _lacks_value(e),
    "checked": lambda e: "checked" in e.attributes or "selected" in e.attributes,
    "required": lambda e: e.tag in _FORM_TAGS and "required" in e.attributes,
    "optional": lambda e: e.tag in ("input", "select", "textarea") and "required" not in e.attributes,
    "read-only": lambda e: e.tag not in ("input", "textarea") or "readonly" in e.attributes,
    "read-write": lambda e: e.tag in ("input", "textarea") and "readonly" not in e.attributes,
    "placeholder-shown": lambda e: "placeholder" in e.attributes and not e.attributes.get("value"),
    "defined": lambda e: True,
    "default": lambda e: "checked" in e.attributes,
    "open": lambda e: "open" in e.attributes,
}


def _functional(name: str, arguments: list[Any]) -> Test:
    if name in ("nth-child", "nth-last-child"):
        return _nth_child(arguments, from_end=name == "nth-last-child")
    if name in ("nth-of-type", "nth-last-of-type"):
        return _nth_of_type(arguments, from_end=name == "nth-last-of-type")
    if name in ("host", "host-context", "state", "active-view-transition-type"):
        return lambda e: False  # there is no shadow tree, and no script
    if name == "lang":
        return _lang([t.value for t in arguments if t.type in ("ident", "string")])
    if name == "dir":
        wanted = next((t.lower_value for t in arguments if t.type == "ident"), "")
        return lambda e: _direction(e) == wanted
    raise SelectorNotUnderstood(f":{name}() is unknown")


def _nth_child(arguments: list[Any], *, from_end: bool) -> Test:
    """`:nth-child(An+B of S)`: Selectors 4 §13.3."""
    of_at = next(
        (i for i, t in enumerate(arguments) if t.type == "ident" and t.lower_value == "of"), None
    )
    inner: Test | None = None
    if of_at is not None:
        inner = _any_of([s.test for s in compile_selectors(arguments[of_at + 1 :])])
        arguments = arguments[:of_at]
    a, b = _an_plus_b(arguments)
    if inner is None:
        return lambda e: _is_nth(_place(e, from_end=from_end), a, b)
    counted = inner
    return _nth(places_among(lambda e: True if counted(e) else None), a, b, from_end=from_end)


def _place(element: Element, *, from_end: bool) -> int:
    """Its place among its siblings, from 1."""
    siblings, at = _siblings(element)
    return len(siblings) - at if from_end else at + 1


def _nth_of_type(arguments: list[Any], *, from_end: bool) -> Test:
    return _nth(_place_of_type, *_an_plus_b(arguments), from_end=from_end)


def _nth(place: Callable[[Element], tuple[int, int] | None], a: int, b: int, *, from_end: bool) -> Test:
    """Whether the place of an element among those that count is one of An+B."""

    def test(element: Element) -> bool:
        found = place(element)
        if found is None:
            return False
        at, count = found
        return _is_nth(count - at if from_end else at + 1, a, b)

    return test


def _an_plus_b(arguments: list[Any]) -> tuple[int, int]:
    found = parse_nth(arguments)
    if found is None:
        raise SelectorNotUnderstood("An+B was expected, such as 2n+1")
    return found[0], found[1]


def _is_nth(position: int, a: int, b: int) -> bool:
    steps = position - b
    return steps == 0 if a == 0 else steps % a == 0 and steps // a >= 0


def _lang(wanted: list[str]) -> Test:
    def test(element: Element) -> bool:
        at: Element | None = element
        while at is not None:
            if "lang" in at.attributes:
                actual = at.attributes["lang"].lower()
                return any(actual == w.lower() or actual.startswith(w.lower() + "-") for w in wanted)
            at = at.parent
        return False

    return test


def _direction(element: Element) -> str:
    at: Element | None = element
    while at is not None:
        if at.attributes.get("dir", "").lower() in ("ltr", "rtl"):
            return at.attributes["dir"].lower()
        at = at.parent
    return "ltr"
