"""Background layers: CSS Backgrounds 3 §2.3–2.10."""

from collections.abc import Callable
from dataclasses import replace
from functools import lru_cache

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPainterPath, QPixmap
from PyQt6.QtSvg import QSvgRenderer

from redcrate.app.painting.colours import to_colour
from redcrate.app.painting.corners import inner_corners, path_of
from redcrate.app.painting.gradients import gradient_brush, place_in, px
from redcrate.core.style.backgrounds import TileSize
from redcrate.core.style.colours import TRANSPARENT
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.images import Gradient, Image, Point
from redcrate.core.style.property_parsers import Url

Picture = QPixmap | QSvgRenderer | None
FindPicture = Callable[[str], Picture]
_MOST_TILES = 4000
_FAR = 1000  # px


class Boxes:
    """The edges of one box that background areas are named after."""

    def __init__(
        self,
        border: QRectF,
        padding: QRectF,
        content: QRectF,
        outline: QPainterPath | None,
        window: QRectF | None = None,
    ) -> None:
        """window: where the page is seen first, px of the page."""
        self.window = window
        self.rects = {"border-box": border, "padding-box": padding, "content-box": content}
        self.outline = outline

    def rect(self, name: str) -> QRectF:
        """The area of a name; text and other areas that are not painted count as the border box."""
        return self.rects.get(name, self.rects["border-box"])

    def area(self, style: ComputedStyle, number: int) -> QRectF:
        """§2.5, §2.8: in which a layer is placed; a fixed one in the window."""
        if self.window is not None and _of(style.background_attachment, number) == "fixed":
            return self.window
        return self.rect(_of(style.background_origin, number))

    def path(self, name: str, style: ComputedStyle) -> QPainterPath:
        """The area of a name with its rounded corners."""
        rect, border = self.rect(name), self.rects["border-box"]
        if self.outline is None:
            return path_of(rect, None)
        return path_of(rect, self.outline if rect is border else inner_corners(border, rect, style))


def paint_background(painter: QPainter, boxes: Boxes, style: ComputedStyle, find: FindPicture) -> None:
    """The colour in the area of the last layer's clip, then the layers, the last one first."""
    images = style.background_image
    if style.background_color.alpha > 0:
        clip = _of(style.background_clip, len(images) - 1)
        if clip != "text":
            painter.fillPath(boxes.path(clip, style), to_colour(style.background_color))
    for number in reversed(range(len(images))):
        image, clip = images[number], _of(style.background_clip, number)
        if image == "none" or clip == "text":
            continue
        painter.save()
        painter.setClipPath(boxes.path(clip, style), Qt.ClipOperation.IntersectClip)
        paint_layer(painter, boxes, style, number, find)
        painter.restore()


def paint_layer(
    painter: QPainter,
    boxes: Boxes,
    style: ComputedStyle,
    number: int,
    find: FindPicture,
    *,
    everywhere: bool = False,
) -> None:
    """One image of a background. everywhere: it goes on outside the box."""
    clip = boxes.rect(_of(style.background_clip, number))
    if everywhere:
        clip = clip.adjusted(-_FAR, -_FAR, _FAR, _FAR)
    _layer(painter, style.background_image[number], boxes.area(style, number), clip, style, number, find)


def paint_canvas(
    painter: QPainter, boxes: Boxes, canvas: QRectF, style: ComputedStyle, find: FindPicture
) -> None:
    """§2.11.1: colour and layers of the root cover the canvas; they are placed in the root's own box."""
    if style.background_color.alpha > 0:
        painter.fillRect(canvas, to_colour(style.background_color))
    for number in reversed(range(len(style.background_image))):
        area = boxes.area(style, number)
        _layer(painter, style.background_image[number], area, canvas, style, number, find)


@lru_cache(maxsize=200)
def without_ground(style: ComputedStyle) -> ComputedStyle:
    """The style of a box whose background covers the canvas instead."""
    return replace(style, background_color=TRANSPARENT, background_image=("none",))


@lru_cache(maxsize=200)
def ground_in_text(style: ComputedStyle) -> ComputedStyle | None:
    """The style of what shows in the letters of a box alone: CSS Backgrounds 4 §3.1; None where nothing does."""
    clips = [_of(style.background_clip, n) for n in range(len(style.background_image))]
    if "text" not in clips:
        return None
    images = tuple(
        image if clip == "text" else "none"
        for image, clip in zip(style.background_image, clips, strict=True)
    )
    ground = style.background_color if clips[-1] == "text" else TRANSPARENT
    return replace(
        style, background_color=ground, background_image=images, background_clip=("border-box",)
    )


@lru_cache(maxsize=200)
def ground_apart(style: ComputedStyle) -> tuple[tuple[str, ComputedStyle], ...]:
    """Compositing 1 §8: the colour and the layers of a background by themselves, from below, with the mode of each."""
    colour = replace(style, background_image=("none",))
    modes = style.background_blend_mode
    layers = [
        (
            _of(modes, number),
            replace(
                style,
                background_color=TRANSPARENT,
                background_image=tuple(
                    image if at == number else "none" for at, image in enumerate(style.background_image)
                ),
            ),
        )
        for number in reversed(range(len(style.background_image)))
    ]
    return (("normal", colour), *layers)


def has_ground(style: ComputedStyle) -> bool:
    """Whether there is anything to paint behind a box."""
    return style.background_color.alpha > 0 or any(i != "none" for i in style.background_image)


def _of(values: tuple[str, ...], number: int) -> str:
    """§2.3: lists that are too short begin again."""
    return values[number % len(values)]


def _layer(
    painter: QPainter,
    image: Image,
    area: QRectF,
    clip: QRectF,
    style: ComputedStyle,
    number: int,
    find: FindPicture,
) -> None:
    """One image, placed and repeated (§2.4–2.9)."""
    sizes, places = style.background_size, style.background_position
    repeats = style.background_repeat
    size, place = sizes[number % len(sizes)], places[number % len(places)]
    picture = find(image.address) if isinstance(image, Url) else None
    if isinstance(image, Url):
        natural = natural_size(picture)
        if natural is None:
            return
    elif isinstance(image, Gradient):
        natural = None
    else:
        return
    width, height = tile_size(size, area, natural)
    if width < 0.5 or height < 0.5:
        return
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
    for tile in tiles(area, clip, place, (width, height), repeats[number % len(repeats)]):
        if isinstance(image, Gradient):
            painter.fillRect(tile, gradient_brush(image, tile))
        elif isinstance(picture, QSvgRenderer):
            picture.render(painter, tile)
        elif picture is not None:
            painter.drawPixmap(tile, picture, QRectF(picture.rect()))


def natural_size(picture: Picture) -> tuple[float, float] | None:
    """A picture's own size; None if there is none to see."""
    if picture is None:
        return None
    size = picture.defaultSize() if isinstance(picture, QSvgRenderer) else picture.size()
    return (float(size.width()), float(size.height())) if not size.isEmpty() else None


def tile_size(size: TileSize, area: QRectF, natural: tuple[float, float] | None) -> tuple[float, float]:
    """§2.9: the size of one tile; a gradient has none of its own and fills the area."""
    if natural is None:
        width = area.width() if size.width is None else px(size.width, area.width())
        height = area.height() if size.height is None else px(size.height, area.height())
        return width, height
    own_width, own_height = natural
    if size.word:
        scales = (area.width() / own_width, area.height() / own_height)
        scale = max(scales) if size.word == "cover" else min(scales)
        return own_width * scale, own_height * scale
    if size.width is None and size.height is None:
        return natural
    if size.width is None:
        height = px(size.height, area.height())
        return own_width * height / own_height, height
    width = px(size.width, area.width())
    if size.height is None:
        return width, own_height * width / own_width
    return width, px(size.height, area.height())


def tiles(
    area: QRectF, clip: QRectF, place: Point, size: tuple[float, float], repeat: tuple[str, str]
) -> list[QRectF]:
    """§2.4–2.6: where the tiles of a layer stand, as far as the clip shows them."""
    width, height = size
    free = QRectF(area.x(), area.y(), area.width() - width, area.height() - height)
    first = place_in(place, free)
    xs, width = _along(
        first.x(), width, (area.left(), area.width()), clip.left(), clip.right(), repeat[0]
    )
    ys, height = _along(
        first.y(), height, (area.top(), area.height()), clip.top(), clip.bottom(), repeat[1]
    )
    if len(xs) * len(ys) > _MOST_TILES:
        xs, ys = xs[:64], ys[:64]
    return [QRectF(QPointF(x, y), QPointF(x + width, y + height)) for y in ys for x in xs]


def _along(
    at: float, size: float, area: tuple[float, float], low: float, high: float, repeat: str
) -> tuple[list[float], float]:
    """The places of tiles along one axis, and their size: `round` changes it, `space` the distance."""
    step = size
    if repeat == "no-repeat":
        return [at], size
    if repeat == "round":
        size = step = area[1] / max(1, round(area[1] / size))
        at = area[0]
    elif repeat == "space":
        count = int(area[1] // size)
        if count < 2:
            return [at], size
        step = size + (area[1] - count * size) / (count - 1)
        at = area[0]
    begin = at - ((at - low) // step + 1) * step
    count = min(_MOST_TILES, int((high - begin) / step) + 1)
    return [p for n in range(count) if (p := begin + n * step) + size > low and p < high], size
