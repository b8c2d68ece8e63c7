"""Before and after: one element at two states or two window widths, side by side at one scale.

What differs is dimensioned in the later figure (`52 (+16)`) and told below.
"""

from collections.abc import Iterator
from dataclasses import replace

from redcrate.core.diagram.board import Board
from redcrate.core.diagram.box_diagram import (
    NOT_EARLIER,
    DiagramOptions,
    Earlier,
    draw_box,
    equations_of,
)
from redcrate.core.diagram.drawing import Drawing
from redcrate.core.diagram.figure import Key, scale_of
from redcrate.core.diagram.title_block import Sheet, finished
from redcrate.core.explain import Equation
from redcrate.core.markup.elements import Element, at_path
from redcrate.core.page import Page
from redcrate.core.records import dataclass
from redcrate.core.units import LayoutUnit, format_px

_BETWEEN = 70.0
_COLUMN, _ROW = 300.0, 18.0
_ROWS = 8


@dataclass(frozen=True, slots=True)
class State:
    """An element on a page. caption: what the page is, as in “as saved”."""

    page: Page
    element: Element
    caption: str


@dataclass(frozen=True, slots=True)
class Difference:
    """A number that is another one; 1/64 px."""

    name: str
    before: LayoutUnit
    after: LayoutUnit

    @property
    def text(self) -> str:
        """As it stands in the list: `padding-left 36 → 52 (+16)`."""
        change = self.after - self.before
        return (
            f"{self.name} {format_px(self.before)} → {format_px(self.after)} "
            f"({'+' if change > 0 else ''}{format_px(change)})"
        )


def same_element(element: Element, page: Page) -> Element | None:
    """The element at the same place in another page's tree; None if another one or none stands there."""
    found = at_path(page.elements[0], element.path)
    return found if found is not None and found.tag == element.tag else None


def differences(before: State, after: State) -> tuple[Difference, ...]:
    """The numbers of the box that differ: its terms, its border box, its place on the page."""
    return tuple(d for d in _numbers(before, after) if d.before != d.after)


def _numbers(before: State, after: State) -> Iterator[Difference]:
    first, second = (equations_of(s.page, s.element) for s in (before, after))
    if first is None or second is None:
        return
    for one, other in zip(first, second, strict=True):
        earlier = _amounts(one)
        for term in other.terms:
            name = f"content {term.longhand}" if term.part == "content" else term.longhand
            yield Difference(name, earlier.get((term.part, term.side), term.used), term.used)
    boxes = before.page.box_of(before.element), after.page.box_of(after.element)
    if boxes[0] is not None and boxes[1] is not None:
        one_rect, other_rect = boxes[0].border_box, boxes[1].border_box
        for name in ("width", "height", "x", "y"):
            words = f"border box {name}" if name in ("width", "height") else name
            yield Difference(words, getattr(one_rect, name), getattr(other_rect, name))


def _amounts(equation: Equation) -> dict[Key, LayoutUnit]:
    return {(t.part, t.side): t.used for t in equation.terms}


def comparison(before: State, after: State, options: DiagramOptions | None = None) -> Drawing:
    """The drawing of both states."""
    options = options or DiagramOptions()
    first, second = (equations_of(s.page, s.element) for s in (before, after))
    there = [e for e in (first, second) if e is not None]
    scale = scale_of(*there) if options.to_scale and there else None
    earlier = (_amounts(there[0][0]), _amounts(there[0][1])) if len(there) == 2 else NOT_EARLIER
    board = Board()
    right = _lay(board, before, "before-", 0.0, options, (scale, first, NOT_EARLIER))
    _lay(board, after, "after-", right + _BETWEEN, options, (scale, second, earlier))
    found = differences(before, after)
    _list(board, found, len(there))
    sheet = Sheet(after.page, options.page_name, "before and after", scale, options.title)
    words = "; ".join(d.text for d in found) or "no difference"
    return finished(board, after.element.label, sheet, f"Before and after: {after.element.label}", words)


def _lay(
    board: Board,
    state: State,
    prefix: str,
    left: float,
    options: DiagramOptions,
    figure: tuple[float | None, tuple[Equation, Equation] | None, Earlier],
) -> float:
    """Draw one state with its caption above; returns its right edge. figure: its scale, equations, earlier amounts."""
    one = Board()
    draw_box(one, state.page, state.element, replace(options, standing=False), *figure)
    board.lay(one, prefix, left - one.left, -one.top)
    with board.part(f"{prefix}caption"):
        board.text(left, -24, state.caption, 14, bold=True)
    return board.right


def _list(board: Board, found: tuple[Difference, ...], boxes: int) -> None:
    """What differs, in columns below. boxes: how many of the two there are."""
    top = board.bottom + 40
    with board.part("differences"):
        if not found:
            words = (
                "The numbers of this box are equal."
                if boxes == 2
                else "One of the two states has no box."
            )
            board.text(0, top, words)
            return
        board.text(0, top, "Differences", bold=True)
        for number, difference in enumerate(found):
            column, row = divmod(number, _ROWS)
            board.text(column * _COLUMN, top + _ROW * (row + 1) + 4, difference.text)
