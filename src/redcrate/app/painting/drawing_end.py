"""The QPainter end of drawings: shapes of the core onto a Qt paint device."""

from functools import lru_cache
from math import cos, pi, sin

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QFont, QFontMetricsF, QPainter, QPen

from redcrate.app.theme.look import lettering, part_brush
from redcrate.app.theme.look import palette as window_palette
from redcrate.core.diagram.codes import Palette
from redcrate.core.diagram.drawing import Area, Dot, Label, Segment, Stroke

_HALO = 2.0  # px around the letters
_AROUND = tuple(
    QPointF(share * _HALO * cos(n * pi / 8), share * _HALO * sin(n * pi / 8))
    for share, every in ((1.0, 1), (0.5, 4))
    for n in range(0, 16, every)
)


@lru_cache(maxsize=500)
def _shade(value: str) -> QColor:
    """A colour of a palette; never changed by those who get it."""
    return QColor(value)


class DrawingEnd:
    """A painter of the drawing protocol over a QPainter.

    palette: another one than the window's. ratio: how fine patterns are; the device's own if not given.
    halo: what lies behind a label's letters is a halo round them instead of a field.
    """

    def __init__(
        self,
        painter: QPainter,
        *,
        palette: Palette | None = None,
        ratio: float | None = None,
        halo: bool = False,
    ) -> None:
        self._painter = painter
        self._palette = palette or window_palette()
        self._halo = halo
        self._pens: dict[Stroke, QPen] = {}
        self._fonts: dict[tuple[float, bool], tuple[QFont, QFontMetricsF]] = {}
        device = painter.device()
        self._ratio = ratio or (device.devicePixelRatioF() if device is not None else 1.0)

    def _colour(self, name: str) -> QColor:
        return _shade(str(getattr(self._palette, name)))

    def _pen(self, stroke: Stroke | None) -> QPen | Qt.PenStyle:
        if stroke is None:
            return Qt.PenStyle.NoPen
        known = self._pens.get(stroke)
        if known is None:
            known = self._pens[stroke] = QPen(self._colour(stroke.colour), stroke.width)
            known.setCapStyle(Qt.PenCapStyle.FlatCap)
            if stroke.dashes:
                known.setDashPattern([d / stroke.width for d in stroke.dashes])
        return known

    def _font(self, size: float, *, bold: bool) -> tuple[QFont, QFontMetricsF]:
        """A font with its measures; not shared with other drawings, which may be made in other threads."""
        known = self._fonts.get((size, bold))
        if known is None:
            font = lettering(size, bold=bold)
            known = self._fonts[(size, bold)] = font, QFontMetricsF(font)
        return known

    def area(self, shape: Area) -> None:
        """A rectangle."""
        painter = self._painter
        painter.setPen(self._pen(shape.stroke))
        painter.setBrush(
            part_brush(shape.fill, self._ratio, of=self._palette)
            if shape.fill
            else Qt.BrushStyle.NoBrush
        )
        painter.drawRect(QRectF(shape.x, shape.y, shape.width, shape.height))

    def segment(self, shape: Segment) -> None:
        """A line."""
        self._painter.setPen(self._pen(shape.stroke))
        self._painter.drawLine(QPointF(shape.x1, shape.y1), QPointF(shape.x2, shape.y2))

    def dot(self, shape: Dot) -> None:
        """A mark."""
        self._painter.setPen(Qt.PenStyle.NoPen)
        self._painter.setBrush(self._colour("ink"))
        self._painter.drawEllipse(QPointF(shape.x, shape.y), shape.radius, shape.radius)

    def label(self, shape: Label) -> None:
        """Text."""
        painter = self._painter
        font, metrics = self._font(shape.size, bold=shape.bold)
        painter.setFont(font)
        width = metrics.horizontalAdvance(shape.text)
        x = shape.x - {"start": 0.0, "middle": width / 2, "end": width}[shape.anchor]
        if shape.back and self._halo:
            painter.setPen(self._colour("paper"))
            for (
                aside
            ) in _AROUND:  # a stroked path of the letters looks the same and takes eight times as long
                painter.drawText(QPointF(x, shape.y) + aside, shape.text)
            painter.setPen(self._colour(shape.colour))
            painter.drawText(QPointF(x, shape.y), shape.text)
            return
        if shape.back:
            back = QRectF(x - 3, shape.y - metrics.ascent(), width + 6, metrics.height())
            painter.fillRect(back, self._colour("paper"))
        painter.setPen(self._colour(shape.colour))
        painter.drawText(QPointF(x, shape.y), shape.text)
