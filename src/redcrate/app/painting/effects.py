"""Filters and clipping shapes of a group's picture: Filter Effects 1 §13 (with the standard's figures), Masking 1 §5.1."""

from math import ceil, cos, hypot, radians, sin
from typing import Any

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QImage, QPainter, QPainterPath, QPolygonF

from redcrate.app.painting.colours import to_colour
from redcrate.app.painting.gradients import place_in, px
from redcrate.app.painting.pixels import Pixels, image_of, pixels_of
from redcrate.app.painting.shadows import blurred_rows
from redcrate.core.style.colours import Colour

_LUMA = (0.2126, 0.7152, 0.0722)


def clipping_shape(shape: tuple[Any, ...], box: QRectF) -> QPainterPath:
    """A basic shape in the border box of its element, px."""
    path = QPainterPath()
    kind = shape[0]
    if kind == "inset":
        top, right, bottom, left = (
            px(edge, box.height() if number % 2 == 0 else box.width())
            for number, edge in enumerate(shape[1:5])
        )
        round_by = px(shape[5], box.width())
        inner = box.adjusted(left, top, -right, -bottom)
        if inner.width() > 0 and inner.height() > 0:
            path.addRoundedRect(inner, round_by, round_by)
    elif kind == "polygon":
        path.addPolygon(QPolygonF([place_in(point, box) for point in shape[1]]))
        path.setFillRule(Qt.FillRule.WindingFill)
    else:
        centre = place_in(shape[-1], box)
        across, down = _radii(shape, box, centre)
        path.addEllipse(centre, across, down)
    return path


def _radii(shape: tuple[Any, ...], box: QRectF, centre: QPointF) -> tuple[float, float]:
    sides = (
        (abs(centre.x() - box.left()), abs(box.right() - centre.x())),
        (abs(centre.y() - box.top()), abs(box.bottom() - centre.y())),
    )
    if shape[0] == "circle":
        if isinstance(shape[1], str):
            pick = min if shape[1] == "closest-side" else max
            radius = pick(*sides[0], *sides[1])
        else:
            radius = px(shape[1], hypot(box.width(), box.height()) / 2**0.5)
        return radius, radius
    found = []
    for given, ends, base in zip(shape[1:3], sides, (box.width(), box.height()), strict=True):
        pick = min if given == "closest-side" else max
        found.append(pick(*ends) if isinstance(given, str) else px(given, base))
    return found[0], found[1]


def cut_out(painter: QPainter, path: QPainterPath) -> None:
    """Leave of a picture what is inside a path; painter: that which painted it."""
    around = QPainterPath()
    around.addRect(path.boundingRect().adjusted(-1e5, -1e5, 1e5, 1e5))
    painter.setCompositionMode(QPainter.CompositionMode.CompositionMode_Clear)
    painter.fillPath(around.subtracted(path), QColor("black"))
    painter.setCompositionMode(QPainter.CompositionMode.CompositionMode_SourceOver)


def reach_of(filters: tuple[tuple[str, Any], ...]) -> float:
    """How far a filter paints beyond what it is given, px."""
    reach = 0.0
    for name, amount in filters:
        if name == "blur":
            reach += 3 * px(amount, 0)
        elif name == "drop-shadow":
            reach += max(abs(px(amount.x, 0)), abs(px(amount.y, 0))) + 3 * px(amount.blur, 0)
    return min(400.0, ceil(reach))


def filtered(image: QImage, filters: tuple[tuple[str, Any], ...], scale: float) -> QImage:
    """A picture after its filters, in their order. scale: dots of the picture for one px of the page."""
    pixels = pixels_of(image)
    for name, amount in filters:
        pixels = _one(pixels, name, amount, scale)
    return image_of(pixels, image)


def _one(pixels: Pixels, name: str, amount: Any, scale: float) -> Pixels:
    import numpy

    if name == "blur":
        soft: Pixels = blurred_rows(pixels, px(amount, 0) * scale)
        return soft
    if name == "drop-shadow":
        return _with_shadow(pixels, amount, scale)
    alpha = pixels[:, :, 3:]
    if name == "opacity":
        faint: Pixels = pixels * min(1.0, amount)
        return faint
    if name == "brightness":
        return numpy.concatenate([numpy.minimum(pixels[:, :, :3] * amount, alpha), alpha], axis=2)
    if name in ("contrast", "invert"):
        if name == "invert":
            amount = min(1.0, amount)
            factor, add = 1 - 2 * amount, amount
        else:
            factor, add = amount, 0.5 - 0.5 * amount
        inner = numpy.clip(pixels[:, :, :3] * factor + add * alpha, 0, alpha)
        return numpy.concatenate([inner, alpha], axis=2)
    matrix = numpy.array(_matrix(name, amount))[::-1, ::-1]  # pixels are blue, green, red
    inner = numpy.clip(pixels[:, :, :3] @ matrix.T, 0, alpha)
    return numpy.concatenate([inner, alpha], axis=2)


def _matrix(name: str, amount: float) -> list[list[float]]:
    """How red, green and blue come of red, green and blue."""
    r, g, b = _LUMA
    if name == "sepia":
        rest = 1 - min(1.0, amount)
        return [
            [0.393 + 0.607 * rest, 0.769 - 0.769 * rest, 0.189 - 0.189 * rest],
            [0.349 - 0.349 * rest, 0.686 + 0.314 * rest, 0.168 - 0.168 * rest],
            [0.272 - 0.272 * rest, 0.534 - 0.534 * rest, 0.131 + 0.869 * rest],
        ]
    if name == "hue-rotate":
        c, s = cos(radians(amount)), sin(radians(amount))
        return [
            [
                0.213 + c * 0.787 - s * 0.213,
                0.715 - c * 0.715 - s * 0.715,
                0.072 - c * 0.072 + s * 0.928,
            ],
            [
                0.213 - c * 0.213 + s * 0.143,
                0.715 + c * 0.285 + s * 0.140,
                0.072 - c * 0.072 - s * 0.283,
            ],
            [
                0.213 - c * 0.213 - s * 0.787,
                0.715 - c * 0.715 + s * 0.715,
                0.072 + c * 0.928 + s * 0.072,
            ],
        ]
    full = amount if name == "saturate" else 1 - min(1.0, amount)  # grayscale
    return [
        [r + (1 - r) * full, g - g * full, b - b * full],
        [r - r * full, g + (1 - g) * full, b - b * full],
        [r - r * full, g - g * full, b + (1 - b) * full],
    ]


def _with_shadow(pixels: Pixels, shadow: Any, scale: float) -> Pixels:
    import numpy

    shade = to_colour(shadow.colour) if isinstance(shadow.colour, Colour) else QColor("black")
    x, y = round(px(shadow.x, 0) * scale), round(px(shadow.y, 0) * scale)
    alpha = numpy.roll(pixels[:, :, 3:], (y, x), axis=(0, 1))
    soft = blurred_rows(alpha, px(shadow.blur, 0) * scale) * shade.alphaF()
    parts = [soft * c for c in (shade.blueF(), shade.greenF(), shade.redF(), 1.0)]
    both: Pixels = pixels + numpy.concatenate(parts, axis=2) * (1 - pixels[:, :, 3:])
    return both
