"""Paints the markers of list items: CSS Lists 3 §3."""

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPen, QPolygonF

from redcrate.app.painting.colours import to_colour
from redcrate.app.painting.glyphs import draw_run
from redcrate.core.page import PlacedBox
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.text.inline_fonts import inline_font
from redcrate.core.text.shaping import shape

# The corners of what says that details are shut or open: right of the marker's left edge, over the baseline; em.
_TRIANGLES = {
    "▸": ((0.0, 0.74), (0.0, 0.06), (0.6, 0.4)),
    "▾": ((0.0, 0.7), (0.64, 0.7), (0.32, 0.1)),
}


def _spot(style: ComputedStyle, x: float, y: float) -> QRectF:
    """A bullet by the ascent of its font, in whole px; x: where the content begins, y: the baseline."""
    ascent = inline_font(style).ascent // 64
    part = ascent * 2 // 3
    size = max(1, (part + 1) // 2)
    return QRectF(x - part - 7, y - ascent + 3 * (ascent - part) // 2, size, size)


def paint_marker(painter: QPainter, box: PlacedBox, marker: str) -> None:
    """An outside marker in front of the first line, where it takes no room; an inside one in its own box."""
    style = box.fragment.box.style
    baseline = box.fragment.first_baseline
    if baseline is None:
        baseline = box.fragment.height
    size = style.font_size
    x, y = box.content_rect.x / 64, (box.rect.y + baseline) / 64
    if box.fragment.box.element is None:
        x += size * 0.8
    shade = to_colour(style.color)
    painter.setPen(shade)
    if marker in "•◦▪":
        spot = _spot(style, x, y)
        painter.setPen(QPen(shade, 1) if marker == "◦" else Qt.PenStyle.NoPen)
        painter.setBrush(Qt.BrushStyle.NoBrush if marker == "◦" else shade)
        painter.drawRect(spot) if marker == "▪" else painter.drawEllipse(spot)
        return
    if marker in _TRIANGLES:
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(shade)
        corners = [QPointF(x + size * (a - 0.8), y - size * b) for a, b in _TRIANGLES[marker]]
        painter.drawPolygon(QPolygonF(corners))
        return
    inline = inline_font(style)
    run = shape(inline.face, marker)
    width = run.sums[-1] * size / inline.face.upem
    draw_run(painter, run, x - width, y, size)
