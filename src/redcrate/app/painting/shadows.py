"""Shadows of boxes: CSS Backgrounds 3 §6. They take no room; what is blurred is a small picture, stretched in its middle."""

from functools import lru_cache
from math import ceil, exp
from typing import Any

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QImage, QPainter, QPainterPath

from redcrate.app.painting.colours import to_colour
from redcrate.app.painting.corners import Radii, radii_of, rounded
from redcrate.app.painting.gradients import px
from redcrate.core.style.backgrounds import Shadow
from redcrate.core.style.colours import Colour
from redcrate.core.style.computed import ComputedStyle

_LARGEST = 4000.0  # px: a picture of an inset shadow
_MOST_BLUR = 150.0  # px: what is asked for beyond looks no other way


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
    for shadow in reversed(outer):
        x, y, blur, spread = _numbers(shadow)
        shape = rect.adjusted(x - spread, y - spread, x + spread, y + spread)
        _paint(painter, shape, _radii(rect, style, spread), blur, _shade(shadow))
    painter.restore()


def paint_inset_shadows(
    painter: QPainter, inner: QRectF, style: ComputedStyle, corners: QPainterPath | None
) -> None:
    """Over the background, inside the padding edge: all but the shrunk and shifted padding box."""
    inset = [s for s in style.box_shadow if s.inset]
    if not inset or inner.isEmpty() or max(inner.width(), inner.height()) > _LARGEST:
        return
    painter.save()
    field = QPainterPath()
    if corners is not None:
        field = corners
    else:
        field.addRect(inner)
    painter.setClipPath(field, Qt.ClipOperation.IntersectClip)
    for shadow in reversed(inset):
        _paint_inset(painter, inner, style, shadow)
    painter.restore()


def _paint_inset(painter: QPainter, inner: QRectF, style: ComputedStyle, shadow: Shadow) -> None:
    x, y, blur, spread = _numbers(shadow)
    light = inner.adjusted(x + spread, y + spread, x - spread, y - spread)
    image = QImage(inner.toAlignedRect().size(), QImage.Format.Format_ARGB32_Premultiplied)
    image.fill(_shade(shadow))
    if not light.isEmpty():
        onto = QPainter(image)
        onto.setRenderHint(QPainter.RenderHint.Antialiasing)
        onto.setCompositionMode(QPainter.CompositionMode.CompositionMode_DestinationOut)
        onto.translate(-inner.topLeft())
        _paint(onto, light, _radii(inner, style, -spread), blur, QColor("black"))
        onto.end()
    painter.drawImage(inner.toAlignedRect().topLeft(), image)


def _numbers(shadow: Shadow) -> tuple[float, float, float, float]:
    blur = min(_MOST_BLUR, max(0.0, px(shadow.blur, 0)))
    return px(shadow.x, 0), px(shadow.y, 0), blur, px(shadow.spread, 0)


def _shade(shadow: Shadow) -> QColor:
    return to_colour(shadow.colour) if isinstance(shadow.colour, Colour) else QColor(0, 0, 0)


def _radii(rect: QRectF, style: ComputedStyle, spread: float) -> Radii:
    """§6.1.1: round corners are rounder by the spread, square ones are square."""
    known = radii_of(rect, style) or [(0.0, 0.0)] * 4
    return [(max(0.0, x + spread), max(0.0, y + spread)) if x and y else (0.0, 0.0) for x, y in known]


def blurred_rows(values: Any, sigma: float) -> Any:
    """An array of rows and columns, blurred by a Gaussian of that deviation along both."""
    import numpy

    if sigma < 0.1:
        return values
    reach = ceil(3 * sigma)
    taps = [exp(-(n * n) / (2 * sigma * sigma)) for n in range(-reach, reach + 1)]
    for axis in (0, 1):
        whole = numpy.zeros_like(values, dtype=float)
        room = values.shape[axis]
        for number, tap in enumerate(taps):
            shift = number - reach
            if abs(shift) < room:
                to = [slice(None)] * values.ndim
                of = [slice(None)] * values.ndim
                to[axis], of[axis] = (
                    slice(max(0, shift), room + min(0, shift)),
                    slice(max(0, -shift), room - max(0, shift)),
                )
                whole[tuple(to)] += values[tuple(of)] * tap
        values = whole / sum(taps)
    return values


# -- one shape, blurred


def _paint(painter: QPainter, shape: QRectF, radii: Radii, blur: float, shade: QColor) -> None:
    """A shape in a colour, with soft edges where it is blurred."""
    if shape.isEmpty():
        return
    if blur < 0.5:
        painter.fillPath(rounded(shape, radii), shade)
        return
    reach = ceil(1.5 * blur)
    corner = ceil(max(max(pair) for pair in radii)) + reach
    size = min(ceil(shape.width()), 2 * corner + 1), min(ceil(shape.height()), 2 * corner + 1)
    rounds = tuple((round(x, 1), round(y, 1)) for x, y in radii)
    picture = _blurred(size, rounds, round(blur, 1), shade.rgba())
    _stretch(painter, picture, shape.adjusted(-reach, -reach, reach, reach), corner + reach)


def _stretch(painter: QPainter, picture: QImage, target: QRectF, corner: int) -> None:
    """The picture's corners as they are, what is between them stretched."""
    xs, widths = _cuts(picture.width(), target.width(), corner)
    ys, heights = _cuts(picture.height(), target.height(), corner)
    for (x, width), (to_x, to_width) in zip(xs, widths, strict=True):
        for (y, height), (to_y, to_height) in zip(ys, heights, strict=True):
            if width > 0 and height > 0:
                place = QRectF(target.x() + to_x, target.y() + to_y, to_width, to_height)
                painter.drawImage(place, picture, QRectF(x, y, width, height))


def _cuts(
    size: int, wanted: float, corner: int
) -> tuple[list[tuple[float, float]], list[tuple[float, float]]]:
    """Where a picture is cut along one axis, and where its parts go: places and lengths."""
    if size < 2 * corner + 1:
        return [(0.0, float(size))], [(0.0, wanted)]
    return (
        [(0.0, float(corner)), (float(corner), 1.0), (float(size - corner), float(corner))],
        [(0.0, corner), (corner, wanted - 2 * corner), (wanted - corner, float(corner))],
    )


@lru_cache(maxsize=300)
def _blurred(
    size: tuple[int, int], radii: tuple[tuple[float, float], ...], blur: float, rgba: int
) -> QImage:
    """§6.1.2: a shape of that size, px, blurred by a Gaussian whose deviation is half of the blur radius."""
    import numpy  # with the first soft shadow: most pages have none

    reach = ceil(1.5 * blur)
    width, height = size[0] + 2 * reach, size[1] + 2 * reach
    mask = QImage(width, height, QImage.Format.Format_ARGB32_Premultiplied)
    mask.fill(0)
    onto = QPainter(mask)
    onto.setRenderHint(QPainter.RenderHint.Antialiasing)
    shape = QRectF(QPointF(reach, reach), QPointF(reach + size[0], reach + size[1]))
    onto.fillPath(rounded(shape, list(radii)), QColor("black"))
    onto.end()
    bits = mask.constBits()
    assert bits is not None
    alpha = (
        numpy.frombuffer(bits.asstring(mask.sizeInBytes()), numpy.uint8).reshape(height, width, 4)[
            :, :, 3
        ]
        / 255.0
    )
    alpha = blurred_rows(alpha, blur / 2)
    shade = QColor.fromRgba(rgba)
    soft = numpy.clip(alpha * shade.alphaF(), 0, 1)
    parts = [soft * c for c in (shade.blueF(), shade.greenF(), shade.redF(), 1.0)]
    pixels = (numpy.stack(parts, axis=2) * 255 + 0.5).astype(numpy.uint8)
    return QImage(
        pixels.tobytes(), width, height, 4 * width, QImage.Format.Format_ARGB32_Premultiplied
    ).copy()
