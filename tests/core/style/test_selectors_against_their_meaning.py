"""Selectors with what they keep of a tree, held against a matcher that keeps nothing and asks as the standard says."""

import gc
from collections.abc import Iterator

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from redcrate.core.markup import SourceText, parse_html
from redcrate.core.markup.elements import Element
from redcrate.core.style.css_syntax import component_values
from redcrate.core.style.selectors import SelectorNotUnderstood, compile_selectors

COMBINATORS = (" ", ">", "+", "~")
Chain = list[tuple[str, str]]  # combinator in front, compound


def related(element: Element, combinator: str) -> Iterator[Element]:
    """What stands where a combinator says, seen from the left: Selectors 4 §17."""
    if combinator == " ":
        yield from list(element.walk())[1:]
    elif combinator == ">":
        yield from element.child_elements
    elif element.parent is not None:
        behind = element.parent.child_elements[element.sibling_index + 1 :]
        yield from behind[:1] if combinator == "+" else behind


def is_compound(element: Element, compound: str) -> bool:
    """A tag, a class, or one of the pseudo-classes below."""
    siblings = element.parent.child_elements if element.parent is not None else [element]
    alike = [s for s in siblings if s.tag == element.tag]
    with_a = [s for s in siblings if "a" in s.classes]
    known = {
        ":first-of-type": alike[0] is element,
        ":nth-last-of-type(2)": len(alike) > 1 and alike[-2] is element,
        ":nth-child(2 of .a)": len(with_a) > 1 and with_a[1] is element,
        ":nth-last-child(odd of .a)": element in with_a
        and (len(with_a) - with_a.index(element)) % 2 == 1,
        ":is(.a, b)": "a" in element.classes or element.tag == "b",
        ":not(.a)": "a" not in element.classes,
    }
    if compound in known:
        return known[compound]
    return compound[1:] in element.classes if compound.startswith(".") else element.tag == compound


def ends(starts: list[Element], chain: Chain) -> set[Element]:
    """Where a chain may end that begins at some elements, its first compound not yet asked."""
    found = set(starts)
    for combinator, compound in chain:
        found = {e for one in found for e in related(one, combinator) if is_compound(e, compound)}
    return found


COMPOUNDS = ["i", "b", ".a", ".c", ":first-of-type", ":nth-last-of-type(2)", ":nth-child(2 of .a)", ":nth-last-child(odd of .a)", ":is(.a, b)", ":not(.a)"]  # fmt: skip
chains = st.lists(
    st.tuples(st.sampled_from(COMBINATORS), st.sampled_from(COMPOUNDS)), min_size=1, max_size=4
)
trees = st.recursive(
    st.just(""),
    lambda inside: st.lists(st.tuples(st.sampled_from(["i", "b", "u"]), st.sampled_from(["", "a", "c", "a c"]), inside), max_size=4)
    .map(lambda those: "".join(f"<{t} class='{c}'>{x}</{t}>" for t, c, x in those)),
    max_leaves=14,
)  # fmt: skip


def every(markup: str) -> list[Element]:
    """The elements of a page; svg, since formatting elements are moved about in HTML."""
    return list(parse_html(SourceText("p", f"<!doctype html><svg>{markup}</svg>")).root.walk())


@settings(max_examples=250, deadline=None)
@given(trees, chains, chains)
def test_complex_and_relative_selectors(markup: str, chain: Chain, inside: Chain) -> None:
    """The same elements, asked one after another and again, in either order; also with `:has()` of a whole chain."""
    elements = every(markup)
    first = chain[0][1]
    text = first + "".join(f"{c}{compound}" for c, compound in chain[1:])
    relative = "".join(f"{c} {compound}" for c, compound in inside).strip()
    (plain,), (has,) = (compile_selectors(component_values(t)) for t in (text, f"*:has({relative})"))
    wanted = ends([e for e in elements if is_compound(e, first)], chain[1:])
    holders = {e for e in elements if ends([e], inside)}
    for order in (elements, list(reversed(elements))):
        assert {e for e in order if plain.matches(e)} == wanted, text
        assert {e for e in order if has.matches(e)} == holders, relative
    others = every(f"<b class=a>{markup}</b>")
    assert {e for e in others if has.matches(e)} == {e for e in others if ends([e], inside)}, (
        "another tree"
    )


def test_what_is_kept_of_a_tree_goes_with_it() -> None:
    """Asked about one tree after another, a selector holds the last one alone."""
    (selector,) = compile_selectors(component_values("body:has(b ~ i) b i:nth-last-child(1 of i)"))

    def alive() -> int:
        gc.collect()
        return sum(isinstance(one, Element) for one in gc.get_objects())

    markup = "<b><i></i></b><i></i>" * 50
    assert sum(selector.matches(e) for e in every(markup)) == 50
    first = alive()
    for _ in range(5):
        assert sum(selector.matches(e) for e in every(markup)) == 50
    assert alive() <= first + 5


@pytest.mark.parametrize(
    ("selector", "why"),
    [
        (":has(:has(b))", "is not allowed"), (":has(p:not(:has(b)))", "is not allowed"),
        (" ".join(["a"] * 200), "too many parts"), (",".join(["a"] * 20_000), "too many parts"), (":not(" * 80 + "a" + ")" * 80, "too many parts"),
    ],
)  # fmt: skip
def test_selectors_that_are_not_read(selector: str, why: str) -> None:
    """`:has()` in `:has()` by the standard; and what has more parts than anybody writes."""
    with pytest.raises(SelectorNotUnderstood, match=why):
        compile_selectors(component_values(selector))


def test_a_long_list_of_classes_is_looked_up() -> None:
    """With others between them."""
    names = ",".join(f".k{n}" for n in range(40))
    (selector,) = compile_selectors(component_values(f":is({names}, b.a, i)"))
    elements = every("<u class='k7'></u><u class='k77'></u><b class=a></b><b></b><i></i>")
    assert [e.tag for e in elements if selector.matches(e)] == ["u", "b", "i"]
