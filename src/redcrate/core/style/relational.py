"""`:has()`: Selectors 4 §4.5 and §17.1. An element matches by what stands inside it or behind it.

Read from the left: the element must have something where the leading combinator says that matches the first compound, and
has in its turn what the rest says. So each part is asked of each element of a tree once.
"""

from collections.abc import Sequence
from typing import Any

from redcrate.core.markup.elements import Element
from redcrate.core.style.tree_facts import Test, descendant_that, later_sibling_that

Step = tuple[str, Test]  # a combinator, and the compound to the right of it


def relational(leading: str, steps: Sequence[Step]) -> Test:
    """The test of one relative selector. leading: the combinator in front of it. steps: the first one's counts for none."""
    first, rest = steps[0][1], steps[1:]
    if not rest:
        return _related(leading, first)
    further = relational(rest[0][0], rest)
    return _related(leading, lambda e: first(e) and further(e))


def _related(combinator: str, matches: Test) -> Test:
    """Whether an element has one that matches where a combinator says."""
    if combinator == " ":
        return descendant_that(matches)
    if combinator == ">":
        return lambda e: any(matches(c) for c in e.child_elements)
    if combinator == "~":
        return later_sibling_that(matches)
    return lambda e: (after := _next(e)) is not None and matches(after)


def _next(element: Element) -> Element | None:
    if element.parent is None:
        return None
    siblings = element.parent.child_elements
    at = element.sibling_index + 1
    return siblings[at] if at < len(siblings) else None


def contains_relational(tree: Any, parser: Any) -> bool:
    """Whether a selector has a `:has()` in it, however deep: §4.5 allows none in another one. parser: the library's."""
    stack = [tree]
    while stack:
        one = stack.pop()
        if isinstance(one, parser.RelationalSelector):
            return True
        if isinstance(one, parser.CombinedSelector):
            stack += [one.left, one.right]
        elif isinstance(one, parser.CompoundSelector):
            stack += one.simple_selectors
        elif hasattr(one, "selector_list"):
            stack += [s.parsed_tree for s in one.selector_list]
    return False
