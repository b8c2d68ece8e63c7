"""Paints the markers of list items: CSS Lists 3 §3."""

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPen, QPolygonF

from redcrate.app.painting.colours import to_colour
from redcrate.app.painting.glyphs import draw_run
from redcrate.core.page import PlacedBox
from redcrate.core.records import dataclass
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.text.inline_fonts import inline_font
from redcrate.core.text.shaping import shape

# The corners of what says that details are shut or open: right of the marker's left edge, over the baseline; em.
_TRIANGLES = {
    "▸": ((0.0, 0.74), (0.0, 0.06), (0.6, 0.4)),
    "▾": ((0.0, 0.7), (0.64, 0.7), (0.32, 0.1)),
}


@dataclass(frozen=True, slots=True)
class _Place:
    """Where a marker stands. left, right: the content box, px. inside: in its own box. backwards: right of the item."""

    left: float
    right: float
    baseline: float
    inside: bool
    backwards: bool

    def before(self, width: float, gap: float) -> float:
        """The left edge of a mark that is so wide, so far in front of the content."""
        if self.inside:
            return self.left
        return self.right + gap - width if self.backwards else self.left - gap


def _spot(style: ComputedStyle, place: _Place) -> QRectF:
    """A bullet by the ascent of its font, in whole px."""
    ascent = inline_font(style).ascent // 64
    part = ascent * 2 // 3
    size = max(1, (part + 1) // 2)
    top = place.baseline - ascent + 3 * (ascent - part) // 2
    return QRectF(place.before(size, part + 7), top, size, size)


def paint_marker(painter: QPainter, box: PlacedBox, marker: str) -> None:
    """An outside marker in front of the first line, where it takes no room; an inside one in its own box."""
    style, fragment, content = box.fragment.box.style, box.fragment, box.content_rect
    baseline = fragment.height if fragment.first_baseline is None else fragment.first_baseline
    place = _Place(
        content.x / 64,
        content.right / 64,
        (box.rect.y + baseline) / 64,
        fragment.box.element is None,
        style.direction == "rtl",
    )
    shade, size = to_colour(style.color), style.font_size
    painter.setPen(shade)
    if marker in "•◦▪":
        spot = _spot(style, place)
        painter.setPen(QPen(shade, 1) if marker == "◦" else Qt.PenStyle.NoPen)
        painter.setBrush(Qt.BrushStyle.NoBrush if marker == "◦" else shade)
        painter.drawRect(spot) if marker == "▪" else painter.drawEllipse(spot)
        return
    if marker in _TRIANGLES:
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(shade)
        x, y = place.before(0.64 * size, 0.8 * size), place.baseline
        painter.drawPolygon(
            QPolygonF([QPointF(x + size * a, y - size * b) for a, b in _TRIANGLES[marker]])
        )
        return
    inline = inline_font(style)
    if place.backwards and marker.endswith(". "):
        marker = f" .{marker[:-2]}"
    run = shape(inline.face, marker)
    width = run.sums[-1] * size / inline.face.upem
    draw_run(painter, run, place.before(width, width), place.baseline, size)
