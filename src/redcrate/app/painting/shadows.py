"""Shadows of boxes: CSS Backgrounds 3 §6. They take no room; a blur is a few see-through layers."""

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath

from redcrate.app.painting.colours import to_colour
from redcrate.app.painting.gradients import px
from redcrate.core.style.backgrounds import Shadow
from redcrate.core.style.colours import Colour
from redcrate.core.style.computed import ComputedStyle

_MOST_LAYERS = 8
_NEARLY_OPAQUE = 0.97  # layers of an opaque colour must let each other be seen


def paint_outer_shadows(
    painter: QPainter, rect: QRectF, style: ComputedStyle, outline: QPainterPath | None
) -> None:
    """Behind the box, the last one first; nothing of them shows inside the border edge (§6.1.1)."""
    outer = [s for s in style.box_shadow if not s.inset]
    if not outer:
        return
    painter.save()
    everywhere, hole = QPainterPath(), QPainterPath()
    everywhere.addRect(rect.adjusted(-2000, -2000, 2000, 2000))
    if outline is not None:
        hole = outline
    else:
        hole.addRect(rect)
    painter.setClipPath(everywhere.subtracted(hole), Qt.ClipOperation.IntersectClip)
    painter.setPen(Qt.PenStyle.NoPen)
    for shadow in reversed(outer):
        x, y, blur, spread = _numbers(shadow)
        for grow, shade in _layers(shadow, blur):
            painter.setBrush(shade)
            radius = max(0.0, blur / 2)
            if outline is not None and not (grow + spread):
                painter.drawPath(outline.translated(x, y))
            else:
                more = spread + grow
                radius += max(0.0, outline.currentPosition().x() - rect.left()) if outline else 0.0
                painter.drawRoundedRect(
                    rect.adjusted(x - more, y - more, x + more, y + more), radius, radius
                )
    painter.restore()


def paint_inset_shadows(
    painter: QPainter, inner: QRectF, style: ComputedStyle, corners: QPainterPath | None
) -> None:
    """Over the background, inside the padding edge: all but the shrunk and shifted padding box."""
    inset = [s for s in style.box_shadow if s.inset]
    if not inset:
        return
    painter.save()
    field = QPainterPath()
    if corners is not None:
        field = corners
    else:
        field.addRect(inner)
    painter.setClipPath(field, Qt.ClipOperation.IntersectClip)
    painter.setPen(Qt.PenStyle.NoPen)
    for shadow in reversed(inset):
        x, y, blur, spread = _numbers(shadow)
        for grow, shade in _layers(shadow, blur):
            less = spread + grow
            light, ring = QPainterPath(), QPainterPath()
            light.addRect(inner.adjusted(x + less, y + less, x - less, y - less).normalized())
            ring.addRect(inner.adjusted(-1, -1, 1, 1))
            painter.fillPath(ring.subtracted(light), shade)
    painter.restore()


def _numbers(shadow: Shadow) -> tuple[float, float, float, float]:
    return px(shadow.x, 0), px(shadow.y, 0), max(0.0, px(shadow.blur, 0)), px(shadow.spread, 0)


def _layers(shadow: Shadow, blur: float) -> list[tuple[float, QColor]]:
    """How far each layer grows, and its shade: together they are the shadow's own in its middle."""
    shade = to_colour(shadow.colour) if isinstance(shadow.colour, Colour) else QColor(0, 0, 0)
    count = max(1, min(_MOST_LAYERS, round(blur / 2)))
    if count == 1:
        return [(0.0, shade)]
    thin = QColor(shade)
    thin.setAlphaF(1 - (1 - min(_NEARLY_OPAQUE, shade.alphaF())) ** (1 / count))
    return [(blur / 2 - blur * n / (count - 1), thin) for n in range(count)]
