"""Mask layers of a group's picture: CSS Masking 1 §7."""

from collections.abc import Callable
from dataclasses import replace
from functools import lru_cache

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QImage, QPainter, QTransform

from redcrate.app.painting.layers import Boxes, FindPicture, paint_layer
from redcrate.app.painting.pixels import image_of, pixels_of
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.images import Image
from redcrate.core.style.property_parsers import Url

_MODES = QPainter.CompositionMode
_OVER = _MODES.CompositionMode_SourceOver
# §7.8: what is done with a layer and those below it.
_COMPOSITES = {
    "add": _OVER,
    "subtract": _MODES.CompositionMode_SourceOut,
    "intersect": _MODES.CompositionMode_SourceIn,
    "exclude": _MODES.CompositionMode_Xor,
}
_LUMA = (0.0722, 0.7152, 0.2126)  # blue, green, red

# Leaves of the picture that it is given what the mask shows, with a painter that stands so and has those hints.
PaintMask = Callable[[QImage, QTransform, QPainter.RenderHint], None]


def mask_of(style: ComputedStyle, boxes: Boxes, find: FindPicture) -> PaintMask | None:
    """What leaves of a group's picture where its mask is; None where it has none. boxes: px of the page."""
    if all(image == "none" or _is_drawn_in_the_page(image) for image in style.mask_image):
        return None
    ground = _as_ground(style)

    def leave(image: QImage, place: QTransform, hints: QPainter.RenderHint) -> None:
        mask = _blank(image)
        for number in reversed(range(len(ground.background_image))):
            painter = QPainter(one := _blank(image))
            painter.setTransform(place)
            painter.setRenderHints(hints)
            one = _layer(one, painter, ground, number, boxes, find)
            mode = _COMPOSITES[_of(style.mask_composite, number)]
            is_last = number == len(ground.background_image) - 1
            _put(one, mask, _OVER if is_last else mode)
        _put(mask, image, _MODES.CompositionMode_DestinationIn)

    return leave


def _is_drawn_in_the_page(image: Image) -> bool:
    """Whether a mask is an SVG element of the page (§6), which is not painted."""
    return isinstance(image, Url) and image.address.startswith("#")


@lru_cache(maxsize=200)
def _as_ground(style: ComputedStyle) -> ComputedStyle:
    """A style whose background layers are its mask layers."""
    return replace(
        style,
        background_image=style.mask_image,
        background_position=style.mask_position,
        background_size=style.mask_size,
        background_repeat=style.mask_repeat,
        background_origin=style.mask_origin,
        background_clip=style.mask_clip,
        background_attachment=("scroll",),
    )


def _of(values: tuple[str, ...], number: int) -> str:
    return values[number % len(values)]


def _blank(like: QImage) -> QImage:
    image = QImage(like.size(), QImage.Format.Format_ARGB32_Premultiplied)
    image.setDevicePixelRatio(like.devicePixelRatioF())
    image.fill(0)
    return image


def _layer(
    image: QImage, painter: QPainter, ground: ComputedStyle, number: int, boxes: Boxes, find: FindPicture
) -> QImage:
    """One mask layer, painted on an empty picture; light ones as the alpha that they stand for (§7.3)."""
    clip = _of(ground.background_clip, number)
    if clip != "no-clip":
        painter.setClipPath(boxes.path(clip, ground), Qt.ClipOperation.IntersectClip)
    paint_layer(painter, boxes, ground, number, find, everywhere=clip == "no-clip")
    painter.end()
    if _of(ground.mask_mode, number) != "luminance":
        return image
    pixels = pixels_of(image)
    pixels[:, :, 3] = pixels[:, :, :3] @ _LUMA
    return image_of(pixels, image)


def _put(one: QImage, onto: QImage, mode: QPainter.CompositionMode) -> None:
    painter = QPainter(onto)
    painter.setCompositionMode(mode)
    painter.drawImage(0, 0, one)
    painter.end()
