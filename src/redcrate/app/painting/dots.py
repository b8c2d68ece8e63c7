"""On whole dots of the screen: edges of boxes and baselines, as browsers set them, so that thin lines are sharp."""

from math import floor

from PyQt6.QtCore import QPointF, QRectF
from PyQt6.QtGui import QPainter


def on_dots(painter: QPainter, rect: QRectF) -> QRectF:
    """A rectangle with its edges on the nearest dots, unless the page is turned."""
    t = painter.deviceTransform()
    if t.m12() or t.m21() or t.m11() <= 0 or t.m22() <= 0:
        return rect
    left, right = (floor(t.m11() * x + t.dx() + 0.5) for x in (rect.left(), rect.right()))
    top, bottom = (floor(t.m22() * y + t.dy() + 0.5) for y in (rect.top(), rect.bottom()))
    return QRectF(
        (left - t.dx()) / t.m11(),
        (top - t.dy()) / t.m22(),
        (right - left) / t.m11(),
        (bottom - top) / t.m22(),
    )


def line_on_dots(painter: QPainter, rect: QRectF) -> QRectF:
    """A line as a rectangle with its edges on dots; a thin one that is made smaller is still one dot wide."""
    found, t = on_dots(painter, rect), painter.deviceTransform()
    if found is rect:
        return rect
    found.setWidth(max(found.width(), 1 / t.m11()))
    found.setHeight(max(found.height(), 1 / t.m22()))
    return found


def on_a_row(painter: QPainter, origin: QPointF) -> QPointF:
    """Where letters stand: their baseline on a whole row of dots, unless the page is turned."""
    t = painter.deviceTransform()
    if t.m12() or t.m21() or t.m22() <= 0:
        return origin
    row = floor(t.m22() * origin.y() + t.dy() + 0.5)
    return QPointF(origin.x(), (row - t.dy()) / t.m22())
