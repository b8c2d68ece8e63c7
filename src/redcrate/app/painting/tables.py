"""What is painted otherwise in tables: the grid without its captions, borders that collapsed, empty cells.

CSS 2.2 §17.4, §17.5.1, §17.6.1.1 and §17.6.2.
"""

from collections.abc import Iterable
from dataclasses import replace
from functools import lru_cache

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QColor, QPainter

from redcrate.app.painting.borders import paint_between
from redcrate.app.painting.colours import to_colour, to_rect
from redcrate.app.painting.dots import line_on_dots
from redcrate.core.geometry import Rect
from redcrate.core.layout.table.borders import Border, CollapsedBorders
from redcrate.core.layout.table.structure import Cell
from redcrate.core.layout.table_facts import TableFacts
from redcrate.core.page import PlacedBox
from redcrate.core.style.computed import ComputedStyle


def facts_around(box: PlacedBox) -> TableFacts | None:
    """The facts of the table that a cell stands in; None for what is no cell."""
    if box.fragment.box.style.display != "table-cell":
        return None
    at = box.container
    while at is not None and not isinstance(at.fragment.facts, TableFacts):
        at = at.container if at.fragment.box.style.display.startswith("table-") else None
    facts = None if at is None else at.fragment.facts
    return facts if isinstance(facts, TableFacts) else None


def surface_of(box: PlacedBox) -> tuple[Rect, ComputedStyle] | None:
    """The rectangle and the style that a box's surface is painted with; None where it is not painted."""
    rect, style = box.rect, box.fragment.box.style
    facts = box.fragment.facts
    if isinstance(facts, TableFacts):
        rect = Rect(rect.x + facts.grid.x, rect.y + facts.grid.y, facts.grid.width, facts.grid.height)
        return rect, without_borders(style) if facts.collapsed is not None else style
    around = facts_around(box)
    if around is None:
        return rect, style
    if around.collapsed is not None:
        return rect, without_borders(style)
    is_empty = not box.fragment.lines and not box.fragment.children
    return None if is_empty and style.empty_cells == "hide" else (rect, style)


@lru_cache(maxsize=2000)
def without_borders(style: ComputedStyle) -> ComputedStyle:
    """The style of a box whose borders something else paints, or nothing."""
    return replace(
        style,
        border_top_style="none",
        border_right_style="none",
        border_bottom_style="none",
        border_left_style="none",
    )


def paint_collapsed(painter: QPainter, box: PlacedBox) -> None:
    """The borders that won round a cell: each edge once, by the cell behind it where that has one border there."""
    facts = facts_around(box)
    cell = None if facts is None else facts.cells.get(box.fragment.box)
    if facts is None or facts.collapsed is None or cell is None:
        return
    rect, found = to_rect(box.rect), facts.collapsed
    behind = [found.table.slots.get((cell.row_end, c)) for c in range(cell.column, cell.column_end)]
    _flat(painter, (rect.left(), rect.right(), rect.top()), found, cell, cell.row)
    if any(other is None or _above(found, other, other.row) is None for other in behind):
        _flat(painter, (rect.left(), rect.right(), rect.bottom()), found, cell, cell.row_end)
    behind = [found.table.slots.get((r, cell.column_end)) for r in range(cell.row, cell.row_end)]
    _upright(painter, (rect.top(), rect.bottom(), rect.left()), found, cell, cell.column)
    if any(other is None or _beside(found, other, other.column) is None for other in behind):
        _upright(painter, (rect.top(), rect.bottom(), rect.right()), found, cell, cell.column_end)


def _above(found: CollapsedBorders, cell: Cell, row: int) -> Border | None:
    return _only(found.above[row, c] for c in range(cell.column, cell.column_end))


def _beside(found: CollapsedBorders, cell: Cell, column: int) -> Border | None:
    return _only(found.beside[r, column] for r in range(cell.row, cell.row_end))


def _only(borders: Iterable[Border]) -> Border | None:
    """The border along a whole edge of a cell; None where there are several."""
    first, *rest = borders
    alike = all((b.width, b.style, b.owner) == (first.width, first.style, first.owner) for b in rest)
    return first if alike else None


def _flat(
    painter: QPainter, place: tuple[float, float, float], found: CollapsedBorders, cell: Cell, row: int
) -> None:
    """The edge over a row, as far as a cell goes. place: its left and right end, and how far down it is, px."""
    border = _above(found, cell, row)
    if border is None or not _shows(border):
        return
    left, right = (
        _end(border, (found.beside.get((r, column)) for r in (row - 1, row)))
        for column in (cell.column, cell.column_end)
    )
    half = border.width / 128
    line = QRectF(place[0] - left, place[2] - half, place[1] - place[0] + left + right, 2 * half)
    paint_between(painter, line_on_dots(painter, line), _shade(border), border.style, is_flat=True)


def _upright(
    painter: QPainter,
    place: tuple[float, float, float],
    found: CollapsedBorders,
    cell: Cell,
    column: int,
) -> None:
    """The edge at the left of a column, as far as a cell goes. place: its ends, and how far to the right it is, px."""
    border = _beside(found, cell, column)
    if border is None or not _shows(border):
        return
    top, bottom = (
        _end(border, (found.above.get((row, c)) for c in (column - 1, column)))
        for row in (cell.row, cell.row_end)
    )
    half = border.width / 128
    line = QRectF(place[2] - half, place[0] - top, 2 * half, place[1] - place[0] + top + bottom)
    paint_between(painter, line_on_dots(painter, line), _shade(border), border.style, is_flat=False)


def _end(border: Border, crossing: Iterable[Border | None]) -> float:
    """How far beyond the middle of the borders that cross there an edge goes, px: through them, or up to wider ones."""
    widest = max((b.width for b in crossing if b is not None and _shows(b)), default=0)
    return (-widest if widest > border.width else widest) / 128


def _shows(border: Border) -> bool:
    return border.owner is not None and border.width > 0 and border.style not in ("none", "hidden")


def _shade(border: Border) -> QColor:
    assert border.owner is not None
    return to_colour(getattr(border.owner.style, f"border_{border.side}_color"))
