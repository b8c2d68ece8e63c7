"""What could be asked of boxes that are pointed at: the conditions that hold for them as they are."""

from collections.abc import Iterator, Sequence
from typing import get_args

from redcrate.core.edit.targets import matched, proposed_selectors, selectors_of
from redcrate.core.exercises.conditions import (
    Apart,
    Axis,
    BoxName,
    Centred,
    Condition,
    EdgeIs,
    Inside,
    Part,
    ShareLine,
    Side,
    SizeIs,
    judge,
)
from redcrate.core.geometry import SIDES
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox, Page


def offered(page: Page, elements: Sequence[Element]) -> tuple[Condition, ...]:
    """The conditions that hold for all of the elements together, the most usual first; none without a box.

    Values are those that they have now, px, to two decimals.
    """
    boxes = [page.box_of(e) for e in elements]
    if not elements or any(b is None for b in boxes):
        return ()
    of = selector_for(page, elements)
    found = [b for b in boxes if b is not None]
    sizes, places = list(_sizes(of, found[0])), list(_places(page, of, elements))
    first = [*places, *sizes] if len(elements) > 1 else [*sizes, *places]
    candidates = [*first, *_edges(of, found[0])]
    return tuple(c for c in candidates if judge(c, page).holds)


def _sizes(of: str, box: ElementBox) -> Iterator[Condition]:
    rects = {
        "border": box.border_box,
        "content": box.content_box,
        "margin": box.margin_box,
        "padding": box.padding_box,
    }
    names: tuple[BoxName, ...] = ("border", "content", "margin", "padding")
    for axis in get_args(Axis):
        wanted: Axis = axis
        for name in names:
            rect = rects[name]
            yield SizeIs(of, name, wanted, _px(rect.width if wanted == "width" else rect.height))


def _places(page: Page, of: str, elements: Sequence[Element]) -> Iterator[Condition]:
    if len(elements) > 1:
        yield ShareLine(of, len(elements))
    yield Centred(of)
    yield Inside(of)
    if len(elements) == 2:
        upper, lower = sorted(elements, key=lambda e: _top(page, e))
        one, other = page.box_of(upper), page.box_of(lower)
        if one is not None and other is not None:
            first, second = (selector_for(page, [e]) for e in (upper, lower))
            yield Apart(first, second, _px(other.border_box.y - one.border_box.bottom))


def _top(page: Page, element: Element) -> int:
    box = page.box_of(element)
    return 0 if box is None else box.border_box.y


def _edges(of: str, box: ElementBox) -> Iterator[Condition]:
    parts: tuple[Part, ...] = ("padding", "margin", "border")
    for part in parts:
        edges = {"margin": box.margin, "border": box.border, "padding": box.padding}[part]
        for name in SIDES:
            side: Side = name
            if edges.side(side):
                yield EdgeIs(of, part, side, _px(edges.side(side)))


def _px(units: float) -> float:
    return round(units / 64, 2)


def selector_for(page: Page, elements: Sequence[Element]) -> str:
    """The plainest selector that matches just these elements."""
    wanted = set(elements)
    for selector in _selectors(page, elements):
        if set(matched(page, selectors_of(selector))) == wanted:
            return selector
    return ", ".join(_by_place(e) for e in elements)


def _selectors(page: Page, elements: Sequence[Element]) -> Iterator[str]:
    """Those that are proposed for each of them, and with a class also by their place among siblings."""
    common = [
        s for s in proposed_selectors(elements[0]) if all(s in proposed_selectors(e) for e in elements)
    ]
    yield from common
    if len(elements) == 1:
        element = elements[0]
        for selector in (*common, element.tag):
            yield f"{selector}:nth-of-type({_number(element)})"


def _number(element: Element) -> int:
    siblings = element.parent.child_elements if element.parent is not None else [element]
    return [e for e in siblings if e.tag == element.tag].index(element) + 1


def _by_place(element: Element) -> str:
    """The way down to it from the root, or from the nearest element with an id of its own."""
    steps: list[str] = []
    at: Element | None = element
    while at is not None and at.index >= 0:
        steps.append(f"{at.tag}:nth-of-type({_number(at)})")
        at = at.parent
    return " > ".join(reversed(steps))
