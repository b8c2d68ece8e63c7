"""The rulers along the top and the left of a sheet, in px of the page."""

import math

from PyQt6.QtCore import QPointF, QRectF
from PyQt6.QtGui import QPainter

from redcrate.app.theme.look import colour, lettering
from redcrate.core.records import dataclass

RULER = 22  # px, how thick a ruler is
_STEPS = (10, 20, 50, 100, 200, 500, 1000, 2000, 5000)
_LEAST = 52  # screen px between two numbers


@dataclass(frozen=True, slots=True)
class RulerView:
    """What the rulers measure: the viewport's size, where the page begins, its scale and its size in px."""

    width: int
    height: int
    origin: QPointF
    scale: float
    page: tuple[float, float]


def paint_rulers(painter: QPainter, view: RulerView, cursor: QPointF | None) -> None:
    """Both rulers, with marks at the pointer."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
    painter.fillRect(QRectF(0, 0, view.width, RULER), colour("paper"))
    painter.fillRect(QRectF(0, 0, RULER, view.height), colour("paper"))
    painter.setFont(lettering(10))
    painter.setPen(colour("second_ink"))
    step = next((s for s in _STEPS if s * view.scale >= _LEAST), _STEPS[-1])
    for value in _numbers(view.origin.x(), view.width, view.page[0], view.scale, step):
        x = round(view.origin.x() + value * view.scale)
        if RULER <= x <= view.width:
            painter.drawLine(x, RULER - 5, x, RULER)
            painter.drawText(x + 3, RULER - 7, str(value))
    for value in _numbers(view.origin.y(), view.height, view.page[1], view.scale, step):
        y = round(view.origin.y() + value * view.scale)
        if RULER <= y <= view.height:
            _down(painter, y, str(value))
    painter.fillRect(QRectF(0, 0, RULER, RULER), colour("paper"))
    painter.setPen(colour("hairline"))
    painter.drawLine(0, RULER, view.width, RULER)
    painter.drawLine(RULER, 0, RULER, view.height)
    if cursor is not None:
        painter.setPen(colour("ink"))
        painter.drawLine(round(cursor.x()), 0, round(cursor.x()), RULER)
        painter.drawLine(0, round(cursor.y()), RULER, round(cursor.y()))


def _numbers(origin: float, seen: int, page: float, scale: float, step: int) -> range:
    """What is written along a ruler: of a long page only what can be seen."""
    first = max(0, math.floor((RULER - origin) / scale / step) * step)
    return range(first, int(min(page, (seen - origin) / scale)) + 1, step)


def _down(painter: QPainter, y: int, number: str) -> None:
    """A mark on the left ruler; its number is turned."""
    painter.drawLine(RULER - 5, y, RULER, y)
    painter.save()
    painter.translate(RULER - 8, y + 3)
    painter.rotate(90)
    painter.drawText(0, 0, number)
    painter.restore()
