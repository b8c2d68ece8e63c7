"""A picture in the place of borders: cut in nine, its corners in the corners (CSS Backgrounds 3 §6)."""

from collections.abc import Iterator
from math import ceil
from typing import Any

from PyQt6.QtCore import QPointF, QRectF, QSizeF, Qt
from PyQt6.QtGui import QImage, QPainter, QPixmap
from PyQt6.QtSvg import QSvgRenderer

from redcrate.app.painting.gradients import gradient_brush, px
from redcrate.app.painting.layers import FindPicture, natural_size
from redcrate.core.geometry import SIDES, Edges
from redcrate.core.records import dataclass
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.images import Gradient
from redcrate.core.style.property_parsers import Url

_MOST_TILES = 500
_LARGEST = 4096  # dots of a picture that is made of a gradient or of vectors
_Four = tuple[float, float, float, float]  # px, clockwise from the top


@dataclass(frozen=True, slots=True)
class _Source:
    """The picture with its own size, px, and how many dots it has for one of them."""

    picture: QPixmap
    size: QSizeF
    scale: float

    def draw(self, painter: QPainter, target: QRectF, part: QRectF) -> None:
        """Paint a part of it, px, as large as the target."""
        s = self.scale
        dots = QRectF(part.x() * s, part.y() * s, part.width() * s, part.height() * s)
        painter.drawPixmap(target, self.picture, dots)


def paint_border_image(
    painter: QPainter, rect: QRectF, style: ComputedStyle, edges: Edges, find: FindPicture
) -> bool:
    """The picture of a border box's borders; whether there is one: else the borders themselves are painted."""
    if style.border_image_source == "none":
        return False
    borders = tuple(getattr(edges, side) / 64 for side in SIDES)
    top, right, bottom, left = (
        _multiple(size, border) for size, border in zip(style.border_image_outset, borders, strict=True)
    )
    area = rect.adjusted(-left, -top, right, bottom)
    source = _source(style, area, painter, find)
    if source is None or area.isEmpty():
        return False
    cuts = _cuts(style, source.size)
    widths = _widths(style, area, borders, cuts)
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
    for target, part, tile, repeat in _parts(area, source.size, cuts, widths, style):
        _fill(painter, source, target, part, tile, repeat)
    painter.restore()
    return True


def _multiple(size: Any, border: float) -> float:
    """A length, or so many border widths."""
    return float(size[1]) * border if isinstance(size, tuple) else px(size, 0)


def _source(style: ComputedStyle, area: QRectF, painter: QPainter, find: FindPicture) -> _Source | None:
    image = style.border_image_source
    if isinstance(image, Gradient):
        return _drawn(image, area.size(), painter)
    picture = find(image.address) if isinstance(image, Url) else None
    size = natural_size(picture)
    if picture is None or size is None:
        return None
    if isinstance(picture, QSvgRenderer):
        return _drawn(picture, QSizeF(*size), painter)
    return _Source(picture, QSizeF(*size), 1.0)


def _drawn(image: Gradient | QSvgRenderer, size: QSizeF, painter: QPainter) -> _Source | None:
    """A gradient, or vectors, as a picture as sharp as what is painted on."""
    wanted = max(1.0, abs(painter.deviceTransform().determinant()) ** 0.5)
    scale = min(wanted, _LARGEST / max(1.0, size.width(), size.height()))
    dots = QImage(
        ceil(size.width() * scale),
        ceil(size.height() * scale),
        QImage.Format.Format_ARGB32_Premultiplied,
    )
    if dots.isNull():
        return None
    dots.fill(0)
    inner = QPainter(dots)
    inner.scale(scale, scale)
    whole = QRectF(QPointF(), size)
    if isinstance(image, Gradient):
        inner.fillRect(whole, gradient_brush(image, whole))
    else:
        image.render(inner, whole)
    inner.end()
    return _Source(QPixmap.fromImage(dots), size, scale)


def _cuts(style: ComputedStyle, size: QSizeF) -> _Four:
    """§6.2: how far in from each edge the picture is cut; not farther than to the other edge."""
    top, right, bottom, left = (
        min(px(amount, base), base)
        for amount, base in zip(style.border_image_slice[:4], _bases(size), strict=True)
    )
    return top, right, bottom, left


def _bases(size: QSizeF) -> _Four:
    return size.height(), size.width(), size.height(), size.width()


def _widths(style: ComputedStyle, area: QRectF, borders: tuple[float, ...], cuts: _Four) -> _Four:
    """§6.3: how wide the four sides are; where they overlap all shrink by the same share."""
    found = []
    for size, border, cut, base in zip(
        style.border_image_width, borders, cuts, _bases(area.size()), strict=True
    ):
        wide = (
            cut
            if size == "auto"
            else _multiple(size, border)
            if isinstance(size, tuple)
            else px(size, base)
        )
        found.append(wide)
    top, right, bottom, left = found
    share = min(
        1.0,
        area.width() / (left + right) if left + right > 0 else 1.0,
        area.height() / (top + bottom) if top + bottom > 0 else 1.0,
    )
    return top * share, right * share, bottom * share, left * share


def _parts(
    area: QRectF, size: QSizeF, cuts: _Four, widths: _Four, style: ComputedStyle
) -> Iterator[tuple[QRectF, QRectF, QSizeF, tuple[str, str]]]:
    """§6.5: each of the nine parts: where it goes, which part of the picture it is, how large a tile of it is, repeats."""
    rows = _thirds(area.top(), area.height(), widths[0], widths[2])
    columns = _thirds(area.left(), area.width(), widths[3], widths[1])
    cut_rows = _thirds(0, size.height(), cuts[0], cuts[2])
    cut_columns = _thirds(0, size.width(), cuts[3], cuts[1])
    across, down = style.border_image_repeat
    for y in range(3):
        for x in range(3):
            if x == y == 1 and not style.border_image_slice[4]:
                continue
            target = QRectF(columns[x][0], rows[y][0], columns[x][1], rows[y][1])
            part = QRectF(cut_columns[x][0], cut_rows[y][0], cut_columns[x][1], cut_rows[y][1])
            if target.isEmpty() or part.isEmpty():
                continue
            tall = _factor(columns, cut_columns) if y == 1 and x == 1 else target.width() / part.width()
            wide = _factor(rows, cut_rows) if y == 1 and x == 1 else target.height() / part.height()
            tile = QSizeF(
                part.width() * wide if x == 1 else target.width(),
                part.height() * tall if y == 1 else target.height(),
            )
            yield target, part, tile, (across if x == 1 else "stretch", down if y == 1 else "stretch")


def _thirds(at: float, size: float, first: float, last: float) -> tuple[tuple[float, float], ...]:
    """The beginning and the size of the parts of one axis."""
    end = at + size
    return (at, first), (at + first, max(0.0, size - first - last)), (end - last, last)


def _factor(places: tuple[tuple[float, float], ...], cuts: tuple[tuple[float, float], ...]) -> float:
    """By how much the middle is scaled: as the side before it, or that behind it, is."""
    for end in (0, 2):
        if cuts[end][1] > 0 and places[end][1] > 0:
            return places[end][1] / cuts[end][1]
    return 1.0


def _fill(
    painter: QPainter,
    source: _Source,
    target: QRectF,
    part: QRectF,
    tile: QSizeF,
    repeat: tuple[str, str],
) -> None:
    """A part of the picture, repeated in its place."""
    if repeat == ("stretch", "stretch"):
        source.draw(painter, target, part)
        return
    xs, width = _places(target.left(), target.width(), tile.width(), repeat[0])
    ys, height = _places(target.top(), target.height(), tile.height(), repeat[1])
    painter.save()
    painter.setClipRect(target, Qt.ClipOperation.IntersectClip)
    for y in ys:
        for x in xs:
            source.draw(painter, QRectF(x, y, width, height), part)
    painter.restore()


def _places(at: float, size: float, tile: float, repeat: str) -> tuple[list[float], float]:
    """Where the tiles of one axis begin, and how long they are."""
    count = int(size / tile + 1e-6) if tile > 0 else 0
    if repeat == "stretch" or count > _MOST_TILES or tile <= 0:
        return [at], size
    if repeat == "round":
        count = max(1, round(size / tile))
        return [at + n * size / count for n in range(count)], size / count
    if repeat == "space":
        gap = (size - count * tile) / (count + 1)
        return [at + gap + n * (tile + gap) for n in range(count)], tile
    first = at + (size - tile) / 2  # one tile in the middle
    before = ceil((first - at) / tile)
    return [first + (n - before) * tile for n in range(2 * before + 1)], tile
