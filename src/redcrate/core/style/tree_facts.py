"""Answers that tests of selectors keep about the elements of one tree, so that none is worked out twice.

Elements never change once they are parsed. What is kept of a tree goes when another one is asked about.
"""

from collections.abc import Callable, Iterable
from typing import Generic, TypeAlias, TypeVar

from redcrate.core.markup.elements import Element

Test: TypeAlias = Callable[[Element], bool]
Fact = TypeVar("Fact")


class PerTree(Generic[Fact]):
    """A table of facts by element, of the tree that was asked about last."""

    __slots__ = ("_held",)

    def __init__(self) -> None:
        self._held: tuple[object, dict[Element, Fact]] = (None, {})

    def of(self, element: Element) -> dict[Element, Fact]:
        """The table of the tree that an element is in; safe for threads that ask about different ones."""
        held = self._held
        if held[0] is not element.tree:
            held = self._held = (element.tree, {})
        return held[1]


def ancestor_that(matches: Test) -> Test:
    """Whether an ancestor of an element matches."""
    facts: PerTree[bool] = PerTree()  # whether it or an ancestor of it does

    def test(element: Element) -> bool:
        at = element.parent
        if at is None:
            return False
        known = facts.of(at)
        answer = known.get(at)
        if answer is None:
            way: list[Element] = []
            while at is not None and answer is None:
                way.append(at)
                answer = True if matches(at) else known.get(at.parent) if at.parent else False
                at = at.parent
            for one in way:
                known[one] = bool(answer)
        return bool(answer)

    return test


def earlier_sibling_that(matches: Test) -> Test:
    """Whether a sibling in front of an element matches."""
    return _sibling_that(matches, lambda first, last, at: first < at)


def later_sibling_that(matches: Test) -> Test:
    """Whether a sibling behind an element matches."""
    return _sibling_that(matches, lambda first, last, at: last > at)


def _sibling_that(matches: Test, stands: Callable[[int, int, int], bool]) -> Test:
    """stands: whether the first or the last sibling that matches stands as is wanted, seen from a place."""
    facts: PerTree[tuple[int, int]] = (
        PerTree()
    )  # of a parent: the places of its first and last child that do

    def test(element: Element) -> bool:
        parent = element.parent
        if parent is None:
            return False
        known = facts.of(parent)
        if parent not in known:
            places = [n for n, s in enumerate(parent.child_elements) if matches(s)]
            known[parent] = (places[0], places[-1]) if places else (len(parent.child_elements), -1)
        return stands(*known[parent], element.sibling_index)

    return test


def descendant_that(matches: Test) -> Test:
    """Whether anything inside an element matches."""
    facts: PerTree[bool] = PerTree()

    def test(element: Element) -> bool:
        known = facts.of(element)
        if element not in known:
            _note_ancestors(element, matches, known)
        return known[element]

    return test


def _note_ancestors(top: Element, matches: Test, known: dict[Element, bool]) -> None:
    """For `top` and all inside it whether anything inside them matches."""
    every = list(top.walk())
    known.update(dict.fromkeys(every, False))
    for one in reversed(every[1:]):  # from the inside out
        if one.parent is not None and (known[one] or matches(one)):
            known[one.parent] = True


_Places: TypeAlias = dict[Element, tuple[int, int]]


def places_among(kind: Callable[[Element], object]) -> Callable[[Element], tuple[int, int] | None]:
    """Of what gives an element's kind (None: it counts for nothing) what gives its place among its siblings of one
    kind, from 0, and how many they are.
    """
    facts: PerTree[_Places] = PerTree()

    def place(element: Element) -> tuple[int, int] | None:
        parent = element.parent
        if parent is None:
            return (0, 1) if kind(element) is not None else None
        known = facts.of(parent)
        if parent not in known:
            known[parent] = _places(parent.child_elements, kind)
        return known[parent].get(element)

    return place


def _places(siblings: Iterable[Element], kind: Callable[[Element], object]) -> _Places:
    groups: dict[object, list[Element]] = {}
    for one in siblings:
        found = kind(one)
        if found is not None:
            groups.setdefault(found, []).append(one)
    return {one: (n, len(group)) for group in groups.values() for n, one in enumerate(group)}
