"""What is painted otherwise in tables: the grid without its captions, borders that collapsed, empty cells.

CSS 2.2 §17.4, §17.5.1, §17.6.1.1 and §17.6.2.
"""

from dataclasses import replace
from functools import lru_cache

from PyQt6.QtCore import QLineF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPen

from redcrate.app.painting.colours import to_colour, to_rect
from redcrate.core.geometry import SIDES, Rect
from redcrate.core.layout.table.borders import Border, CollapsedBorders
from redcrate.core.layout.table_facts import TableFacts
from redcrate.core.page import PlacedBox
from redcrate.core.style.computed import ComputedStyle

_PENS = {"dashed": Qt.PenStyle.DashLine, "dotted": Qt.PenStyle.DotLine}


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
    """The borders that won round a cell, each in the middle of its edge."""
    facts = facts_around(box)
    cell = None if facts is None else facts.cells.get(box.fragment.box)
    if facts is None or facts.collapsed is None or cell is None:
        return
    found: CollapsedBorders = facts.collapsed
    winners = {
        "left": found.beside[cell.row, cell.column],
        "right": found.beside[cell.row, cell.column_end],
        "top": found.above[cell.row, cell.column],
        "bottom": found.above[cell.row_end, cell.column],
    }
    rect = to_rect(box.rect)
    for side in SIDES:
        _edge(painter, rect, side, winners[side])


def _edge(painter: QPainter, rect: QRectF, side: str, border: Border) -> None:
    if border.owner is None or not border.width or border.style in ("none", "hidden"):
        return
    width = border.width / 64
    colour = to_colour(getattr(border.owner.style, f"border_{border.side}_color"))
    ends = {
        "left": (rect.left(), rect.top(), rect.left(), rect.bottom()),
        "right": (rect.right(), rect.top(), rect.right(), rect.bottom()),
        "top": (rect.left(), rect.top(), rect.right(), rect.top()),
        "bottom": (rect.left(), rect.bottom(), rect.right(), rect.bottom()),
    }[side]
    pen = QPen(colour, width, _PENS.get(border.style, Qt.PenStyle.SolidLine))
    pen.setCapStyle(
        Qt.PenCapStyle.SquareCap if pen.style() == Qt.PenStyle.SolidLine else Qt.PenCapStyle.FlatCap
    )
    painter.setPen(pen)
    painter.drawLine(QLineF(*ends))
