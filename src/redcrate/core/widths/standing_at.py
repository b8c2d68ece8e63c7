"""How things stand at one window width: what may change from one px to the next, and the amounts that change with it."""

from collections.abc import Sequence

from redcrate.core.explain.refused import refused_places
from redcrate.core.labelled import Labelled
from redcrate.core.markup.elements import Element, at_path
from redcrate.core.overflow.sideways import over_the_window
from redcrate.core.page import ElementBox, Page
from redcrate.core.records import dataclass
from redcrate.core.rows import Row, is_surprising, rows_of
from redcrate.core.units import LayoutUnit, from_px
from redcrate.core.widths.pieces import on_a_line
from redcrate.core.widths.sampling import Likeness

_SLACK = 32  # 1/64 px: nobody sees less than half a px


class Quantity(Labelled):
    """What is drawn against the window's width; the values are the words of the interface."""

    WIDTH = "width", "border-box width"
    X = "x", "left edge"
    HEIGHT = "height", "height"
    ROW = "row", "blocks per row"
    OVER = "over", "content overflow"


@dataclass(frozen=True, slots=True)
class ElementState:
    """One element at one width.

    row: the numbers of the elements on its line, itself among them; empty if it has its line to itself. dropped:
    whether a place above was refused to it. limits: of its width and of its height. over: whether its content is
    wider than it is. lines: of its own text; 0 where nobody asked.
    """

    row: tuple[int, ...]
    dropped: bool
    limits: tuple[str, str]
    over: bool
    lines: int


@dataclass(frozen=True, slots=True)
class Standing:
    """One width. elements: the states of those that have a box, by their number. page_over: whether the page is
    wider than the window. amounts: of the quantities that are asked for, 1/64 px (a row: 64 for a block); None: no box.
    missing: how many px a dropped one lacks, 1/64 px. begins_row: those dropped ones that only begin the next row of a list.
    shape: the line counts of all that is inside; empty where
    nobody asked.
    """

    elements: dict[int, ElementState]
    page_over: bool
    amounts: tuple[LayoutUnit | None, ...]
    missing: dict[int, LayoutUnit]
    begins_row: frozenset[int]
    shape: tuple[int, ...] = ()

    def is_like(self, other: "Standing") -> bool:
        """Whether no event lies between them, as far as both ends tell."""
        same = self.elements == other.elements and self.page_over == other.page_over
        return same and self.shape == other.shape


def standing_of(
    page: Page, element: Element | None, quantities: Sequence[Quantity], *, lines: bool = False
) -> Standing:
    """How an element stands (None: all of the page)."""
    if element is None:
        watched = list(page.by_element)
        limited = watched
    else:
        watched = [element]
        limited = [element, *element.ancestors()]
    rows = _rows(page, watched)
    states: dict[int, ElementState] = {}
    missing: dict[int, LayoutUnit] = {}
    begins_row: list[int] = []
    for one in limited:
        box = page.box_of(one)
        if box is not None:
            number = one.index
            whole = element is None or one is element
            states[number] = _state(page, box, rows.get(number, ()), whole=whole, lines=lines and whole)
            if states[number].dropped and box.box is not None:
                refusal = refused_places(box.box)[0]
                missing[number] = refusal.missing
                if not is_surprising(page, box.box, refusal.refusal):
                    begins_row.append(number)
    amounts = tuple(_amount(page, element, rows, q) for q in quantities)
    shape = _shape(page, element) if lines else ()
    return Standing(
        states, over_the_window(page) > _SLACK, amounts, missing, frozenset(begins_row), shape
    )


def _shape(page: Page, element: Element | None) -> tuple[int, ...]:
    """The line counts of all elements in one; of the page without one."""
    inside = page.elements if element is None else [e for e in element.walk() if e.index >= 0]
    boxes = (page.box_of(e) for e in inside)
    return tuple(_lines(b) if b is not None else 0 for b in boxes)


def _state(
    page: Page, box: ElementBox, row: tuple[int, ...], *, whole: bool, lines: bool
) -> ElementState:
    """whole: else only what other elements feel of it, its limits."""
    at = box.box
    if at is None:
        return ElementState(row if whole else (), False, ("", ""), False, len(box.lines) if lines else 0)
    limits = (str(at.fragment.across.limit), str(at.fragment.down.limit))
    if not whole:
        return ElementState((), False, limits, False, 0)
    dropped = bool(at.placed.refusals and refused_places(at))
    return ElementState(row, dropped, limits, _over(page, box) > _SLACK, _lines(box) if lines else 0)


def _lines(box: ElementBox) -> int:
    """How many lines its own text has, in anonymous boxes too."""
    if box.box is None:
        return len(box.lines)
    fragment = box.box.fragment
    inner = sum(len(p.fragment.lines) for p in fragment.children if p.fragment.box.element is None)
    return len(fragment.lines) + inner


def _over(page: Page, box: ElementBox) -> LayoutUnit:
    """By how much what is in a box reaches beyond its border box on the right."""
    if box.box is None:
        return LayoutUnit(0)
    fragment = box.box.fragment
    return LayoutUnit(page.layouts.extents.of(fragment).reach - fragment.width)


def _rows(page: Page, watched: Sequence[Element]) -> dict[int, tuple[int, ...]]:
    """The rows with two blocks or more in which elements stand, by the elements' numbers."""
    holders: dict[Element, None] = {}
    for element in watched:
        at = element.parent
        while at is not None and ((box := page.box_of(at)) is None or box.box is None):
            at = at.parent
        if at is not None:
            holders[at] = None
    found: dict[int, tuple[int, ...]] = {}
    for holder in holders:
        for row in rows_of(page, holder):
            numbers = _numbers(row)
            found.update((n, numbers) for n in numbers)
    return found


def _numbers(row: Row) -> tuple[int, ...]:
    return tuple(i.element.index for i in row.items) if len(row.items) > 1 else ()


def _amount(
    page: Page, element: Element | None, rows: dict[int, tuple[int, ...]], quantity: Quantity
) -> LayoutUnit | None:
    if element is None:
        amounts = {Quantity.HEIGHT: page.height, Quantity.OVER: over_the_window(page)}
        return amounts.get(quantity, from_px(page.viewport.width))
    box = page.box_of(element)
    if box is None:
        return None
    if quantity is Quantity.ROW:
        return LayoutUnit(64 * max(1, len(rows.get(element.index, ()))))
    if quantity is Quantity.OVER:
        return _over(page, box)
    rect = box.border_box
    return {Quantity.WIDTH: rect.width, Quantity.X: rect.x, Quantity.HEIGHT: rect.height}[quantity]


def _straight(
    low: int, one: Standing, middle: int, between: Standing, high: int, other: Standing
) -> bool:
    amounts = zip(one.amounts, between.amounts, other.amounts, strict=True)
    return all(on_a_line(low, a, middle, b, high, c) for a, b, c in amounts)


_LIKENESS = Likeness(Standing.is_like, lambda one, other: one.amounts == other.amounts, _straight)


@dataclass(frozen=True, slots=True)
class HowItStands:
    """The question how things stand. path: of the element in the tree; None: the page. lines: line counts are told too."""

    path: tuple[int, ...] | None
    quantities: tuple[Quantity, ...]
    lines: bool

    @property
    def likeness(self) -> Likeness[Standing]:
        """How two widths are compared."""
        return _LIKENESS

    def element_of(self, page: Page) -> Element | None:
        """The element that it is about; None for the page."""
        return None if self.path is None else at_path(page.elements[0], self.path)

    def answer(self, page: Page) -> Standing:
        """How it stands on a page."""
        return standing_of(page, self.element_of(page), self.quantities, lines=self.lines)
