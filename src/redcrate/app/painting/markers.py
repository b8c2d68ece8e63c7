"""Paints the markers of list items: CSS Lists 3 §3."""

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPen, QPolygonF

from redcrate.app.painting.colours import to_colour
from redcrate.app.painting.glyphs import draw_run
from redcrate.core.page import PlacedBox
from redcrate.core.text.inline_fonts import inline_font
from redcrate.core.text.shaping import shape

# The corners of what says that details are shut or open: right of the marker's left edge, over the baseline; em.
_TRIANGLES = {
    "▸": ((0.05, 0.6), (0.05, 0.1), (0.45, 0.35)),
    "▾": ((0.0, 0.55), (0.5, 0.55), (0.25, 0.15)),
}


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
        radius = size * 0.15
        spot = QRectF(x - size * 0.8, y - size * 0.28 - radius, radius * 2, radius * 2)
        painter.setPen(QPen(shade, 1))
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
