"""Tints: see-the-blocks colourings that Red Crate paints over the page and never writes into the files."""

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPen

from redcrate.app.painting.colours import to_rect
from redcrate.app.theme.look import colour, part_brush
from redcrate.core.diagram.codes import Fill
from redcrate.core.geometry import Edges, Rect
from redcrate.core.labelled import Labelled
from redcrate.core.page import Page


class Tint(Labelled):
    """The tints; the values are the words of the interface."""

    OFF = "off", "Tint: none"
    NESTING = "nesting", "Tint: nesting"
    PARTS = "parts", "Tint: box parts"
    OUTLINES = "outlines", "Tint: outlines"


# One wash a level, apart in hue and in lightness; the pen's pattern differs too.
_WASHES = ("#2F7A74", "#C79A2E", "#5B6BB0", "#8A5A83", "#5F8A3C", "#9A5B2E")
_LINES = (Qt.PenStyle.SolidLine, Qt.PenStyle.DashLine, Qt.PenStyle.DotLine)


def paint_tint(painter: QPainter, page: Page, tint: Tint, exposed: QRectF, scale: float) -> None:
    """Paint a tint over what lies in `exposed`; painter and rectangle in page px."""
    if tint is Tint.OFF:
        return
    painter.save()
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for at in page.in_order:
        element = at.fragment.box.element
        rect = to_rect(at.rect)
        if element is None or element.tag == "html" or not rect.intersects(exposed):
            continue
        depth = sum(1 for _ in element.ancestors()) - 1
        if tint is Tint.PARTS:
            _parts(painter, at.rect, at.fragment.margin, at.fragment.border, at.fragment.padding)
            continue
        shade = QColor(_WASHES[depth % len(_WASHES)])
        if tint is Tint.NESTING:
            wash = QColor(shade)
            wash.setAlpha(24)  # they lie over one another, level upon level
            painter.fillRect(rect, wash)
        pen = QPen(
            shade if tint is Tint.NESTING else colour("ink"), 1 / scale, _LINES[depth % len(_LINES)]
        )
        painter.setPen(pen)
        painter.drawRect(rect)
    painter.restore()


def _parts(painter: QPainter, rect: Rect, margin: Edges, border: Edges, padding: Edges) -> None:
    outer = rect.outset(margin)
    inner = rect.inset(border)
    content = inner.inset(padding)
    painter.setOpacity(0.6)
    for fill, big, small in (
        (Fill.MARGIN, outer, rect),
        (Fill.BORDER, rect, inner),
        (Fill.PADDING, inner, content),
    ):
        frame, hole = QPainterPath(), QPainterPath()
        frame.addRect(to_rect(big))
        hole.addRect(to_rect(small))
        painter.fillPath(frame.subtracted(hole), part_brush(fill))
    painter.setOpacity(1.0)
