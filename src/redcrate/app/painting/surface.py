"""Paints the surface of a box: shadow, background colour and pictures, borders, corners, outline.

CSS Backgrounds 3: §2.3–2.9 (background), §4 (borders), §5 (corners), §6 (shadow); CSS UI 4 §4 (outline).
None of it takes room.
"""

import re
from collections.abc import Callable
from dataclasses import dataclass
from math import cos, radians, sin

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QColor, QLinearGradient, QPainter, QPainterPath, QPen, QPixmap, QPolygonF
from PyQt6.QtSvg import QSvgRenderer

from redcrate.core.geometry import SIDES, Edges
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.property_parsers import Colour

Picture = QPixmap | QSvgRenderer | None
FindPicture = Callable[[str], Picture]
_SHADOW = re.compile(r"(inset)|(-?[\d.]+)(px|em)?(?=[\s,]|\Z)|(#[0-9a-fA-F]+|rgba?\([^)]*\)|[a-z]+)")
_MOST_TILES = 4000
_CORNERS = ("top_left", "top_right", "bottom_right", "bottom_left")


def to_colour(value: Colour) -> QColor:
    """A CSS colour."""
    return QColor(value.red, value.green, value.blue, round(value.alpha * 255))


@dataclass(frozen=True, slots=True)
class _Skin:
    """What of a style matters for its surface; worked out once a style."""

    style: ComputedStyle  # kept, so that its id stays its own
    is_plain: bool  # a colour and solid borders of one colour, nothing else
    ground: QColor | None
    border: QColor


_skins: dict[int, _Skin] = {}
_SKINS_KEPT = 5000


def _skin(style: ComputedStyle) -> _Skin:
    known = _skins.get(id(style))
    if known is None:
        if len(_skins) >= _SKINS_KEPT:
            _skins.clear()
        corners = [r for n in _CORNERS for r in getattr(style, f"border_{n}_radius")]
        kinds = {getattr(style, f"border_{s}_style") for s in SIDES}
        shades = {
            getattr(style, f"border_{s}_color") for s in SIDES if getattr(style, f"border_{s}_width")
        }
        plain = (
            style.box_shadow == "none"
            and style.outline_style in ("none", "hidden")
            and all(i == "none" for i in style.background_image)
            and style.background_clip == "border-box"
            and not any(_px(r, 100) for r in corners)
            and kinds <= {"none", "hidden", "solid"}
            and len(shades) <= 1
        )
        ground = to_colour(style.background_color) if style.background_color.alpha > 0 else None
        border = to_colour(next(iter(shades), style.border_top_color))
        known = _skins[id(style)] = _Skin(style, plain, ground, border)
    return known


def paint_surface(
    painter: QPainter, rect: QRectF, style: ComputedStyle, edges: Edges, find: FindPicture
) -> None:
    """Shadow, background and borders of a border box; `edges` in 1/64 px, the rest in px."""
    skin = _skin(style)
    if skin.is_plain:
        if skin.ground is not None:
            painter.fillRect(rect, skin.ground)
        if edges.across or edges.down:
            _plain_borders(painter, rect, edges, skin.border)
        return
    outline = _corners(rect, style)
    _shadow(painter, rect, style, outline)
    inner = rect.adjusted(edges.left / 64, edges.top / 64, -edges.right / 64, -edges.bottom / 64)
    clip = {"content-box": inner, "padding-box": inner}.get(str(style.background_clip), rect)
    _background(painter, rect, inner, clip, style, outline, find)
    if edges.across or edges.down:
        if outline is not None:
            painter.save()
            painter.setClipPath(outline, Qt.ClipOperation.IntersectClip)
            _borders(painter, rect, style, edges, _inner_corners(rect, inner, style))
            painter.restore()
        else:
            _borders(painter, rect, style, edges, None)
    _outline(painter, rect, style)


def _plain_borders(painter: QPainter, rect: QRectF, edges: Edges, shade: QColor) -> None:
    """Solid borders of one colour: four rectangles."""
    x, y, width, height = rect.x(), rect.y(), rect.width(), rect.height()
    top, right, bottom, left = edges.top / 64, edges.right / 64, edges.bottom / 64, edges.left / 64
    if top:
        painter.fillRect(QRectF(x, y, width, top), shade)
    if bottom:
        painter.fillRect(QRectF(x, y + height - bottom, width, bottom), shade)
    if left:
        painter.fillRect(QRectF(x, y + top, left, height - top - bottom), shade)
    if right:
        painter.fillRect(QRectF(x + width - right, y + top, right, height - top - bottom), shade)


def _corners(rect: QRectF, style: ComputedStyle) -> QPainterPath | None:
    """The rounded outline; None where all corners are square."""
    radii = []
    for name in _CORNERS:
        pair = getattr(style, f"border_{name}_radius")
        radii.append(
            tuple(_px(r, size) for r, size in zip(pair, (rect.width(), rect.height()), strict=True))
        )
    if not any(x and y for x, y in radii):
        return None
    factor = 1.0
    for (a, b), size, axis in (
        ((0, 1), rect.width(), 0), ((3, 2), rect.width(), 0), ((0, 3), rect.height(), 1), ((1, 2), rect.height(), 1),
    ):  # fmt: skip
        total = radii[a][axis] + radii[b][axis]
        factor = min(factor, size / total) if total > size > 0 else factor
    return _rounded(rect, [(x * factor, y * factor) for x, y in radii])


def _px(radius: object, size: float) -> float:
    resolve = getattr(radius, "resolve_px", None)
    return max(0.0, float(resolve(size))) if resolve is not None else 0.0


def _rounded(rect: QRectF, radii: list[tuple[float, float]]) -> QPainterPath:
    (ax, ay), (bx, by), (cx, cy), (dx, dy) = radii
    path = QPainterPath(QPointF(rect.left() + ax, rect.top()))
    path.lineTo(rect.right() - bx, rect.top())
    path.arcTo(rect.right() - 2 * bx, rect.top(), 2 * bx, 2 * by, 90, -90) if bx and by else None
    path.lineTo(rect.right(), rect.bottom() - cy)
    path.arcTo(
        rect.right() - 2 * cx, rect.bottom() - 2 * cy, 2 * cx, 2 * cy, 0, -90
    ) if cx and cy else None
    path.lineTo(rect.left() + dx, rect.bottom())
    path.arcTo(rect.left(), rect.bottom() - 2 * dy, 2 * dx, 2 * dy, 270, -90) if dx and dy else None
    path.lineTo(rect.left(), rect.top() + ay)
    path.arcTo(rect.left(), rect.top(), 2 * ax, 2 * ay, 180, -90) if ax and ay else None
    path.closeSubpath()
    return path


def _inner_corners(rect: QRectF, inner: QRectF, style: ComputedStyle) -> QPainterPath | None:
    """The padding edge's corners: the outer radii less the borders (§5.2)."""
    lefts, tops = inner.left() - rect.left(), inner.top() - rect.top()
    rights, bottoms = rect.right() - inner.right(), rect.bottom() - inner.bottom()
    radii = []
    for name, less_x, less_y in (
        ("top_left", lefts, tops), ("top_right", rights, tops),
        ("bottom_right", rights, bottoms), ("bottom_left", lefts, bottoms),
    ):  # fmt: skip
        x, y = getattr(style, f"border_{name}_radius")
        radii.append((max(0.0, _px(x, rect.width()) - less_x), max(0.0, _px(y, rect.height()) - less_y)))
    return _rounded(inner, radii) if any(x and y for x, y in radii) else None


def _shadow(painter: QPainter, rect: QRectF, style: ComputedStyle, outline: QPainterPath | None) -> None:
    """Outer shadows, blurred as a few see-through layers; inset ones are left out."""
    for text in reversed(re.split(r",(?![^(]*\))", str(style.box_shadow))):
        numbers: list[float] = []
        shade, inset = to_colour(style.color), False
        for match in _SHADOW.finditer(text.strip()):
            if match[1]:
                inset = True
            elif match[2]:
                numbers.append(float(match[2]) * (style.font_size if match[3] == "em" else 1))
            elif match[4] and match[4] != "none":
                shade = _named(match[4]) or shade
        if inset or len(numbers) < 2:
            continue
        x, y, blur, spread = (*numbers, 0.0, 0.0)[:4]
        layers = max(1, min(8, round(blur / 2)))
        for layer in range(layers):
            grow = spread + (blur / 2 - blur * layer / layers if layers > 1 else 0)
            painter.setPen(Qt.PenStyle.NoPen)
            thin = QColor(shade)
            thin.setAlphaF(shade.alphaF() / layers)
            painter.setBrush(thin)
            if outline is not None and not grow:
                painter.drawPath(outline.translated(x, y))
            else:
                radius = max(0.0, blur / 2)
                painter.drawRoundedRect(
                    rect.adjusted(x - grow, y - grow, x + grow, y + grow), radius, radius
                )


def _named(text: str) -> QColor | None:
    if text.startswith("rgb"):
        numbers = [float(n) for n in re.findall(r"[\d.]+", text)]
        if len(numbers) >= 3:
            alpha = numbers[3] if len(numbers) > 3 else 1.0
            return QColor(
                round(numbers[0]), round(numbers[1]), round(numbers[2]), round(min(1.0, alpha) * 255)
            )
        return None
    if re.fullmatch(r"#[0-9a-fA-F]{8}", text):
        text = f"#{text[7:]}{text[1:7]}"
    found = QColor(text)
    return found if found.isValid() else None


# -- background


def _background(
    painter: QPainter,
    rect: QRectF,
    inner: QRectF,
    clip: QRectF,
    style: ComputedStyle,
    outline: QPainterPath | None,
    find: FindPicture,
) -> None:
    layers = [i for i in style.background_image if i != "none"]
    if style.background_color.alpha <= 0 and not layers:
        return
    painter.save()
    if outline is not None:
        painter.setClipPath(outline, Qt.ClipOperation.IntersectClip)
    if style.background_color.alpha > 0:
        painter.fillRect(clip, to_colour(style.background_color))
    if layers:
        painter.setClipRect(clip, Qt.ClipOperation.IntersectClip)
    values = {
        n: re.split(r",(?![^(]*\))", str(getattr(style, f"background_{n}")))
        for n in ("position", "size", "repeat")
    }
    for number, layer in reversed(list(enumerate(style.background_image))):
        own = {n: v[number % len(v)].strip() for n, v in values.items()}
        address = getattr(layer, "address", None)
        if address is not None:
            _tiles(painter, clip, inner, find(address), own, style.font_size)
        elif isinstance(layer, str) and layer.startswith("linear-gradient("):
            _gradient(painter, inner, layer[16:-1])
    painter.restore()


def _tiles(
    painter: QPainter, clip: QRectF, area: QRectF, picture: Picture, own: dict[str, str], em: float
) -> None:
    """One picture, placed and repeated (§3.4–3.6)."""
    if picture is None:
        return
    natural = picture.defaultSize() if isinstance(picture, QSvgRenderer) else picture.size()
    if natural.width() <= 0 or natural.height() <= 0:
        return
    width, height = _tile_size(own["size"], area, natural.width(), natural.height(), em)
    if width < 0.5 or height < 0.5:
        return
    x, y = _tile_place(own["position"], area, width, height, em)
    repeat = own["repeat"].split()
    across = repeat[0] in ("repeat", "repeat-x", "round", "space")
    down = repeat[-1] in ("repeat", "repeat-y", "round", "space")
    left, top = area.left() + x, area.top() + y
    if across:
        left -= ((left - clip.left()) // width + 1) * width
    if down:
        top -= ((top - clip.top()) // height + 1) * height
    columns = int((clip.right() - left) // width) + 1 if across else 1
    rows = int((clip.bottom() - top) // height) + 1 if down else 1
    if columns * rows > _MOST_TILES:
        columns, rows = min(columns, 64), min(rows, 64)
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
    for row in range(rows):
        for column in range(columns):
            target = QRectF(left + column * width, top + row * height, width, height)
            if isinstance(picture, QSvgRenderer):
                picture.render(painter, target)
            else:
                painter.drawPixmap(target, picture, QRectF(picture.rect()))


def _tile_size(text: str, area: QRectF, width: float, height: float, em: float) -> tuple[float, float]:
    if text in ("cover", "contain"):
        scales = (area.width() / width, area.height() / height)
        scale = max(scales) if text == "cover" else min(scales)
        return width * scale, height * scale
    parts = [*text.split(), "auto"][:2]
    across, down = _amount(parts[0], area.width(), em), _amount(parts[1], area.height(), em)
    if across is None and down is None:
        return width, height
    if across is None:
        return width * (down or 0) / height, down or 0
    return across, height * across / width if down is None else down


def _tile_place(text: str, area: QRectF, width: float, height: float, em: float) -> tuple[float, float]:
    words = text.split() or ["0%"]
    if len(words) == 1:
        words = ["center", words[0]] if words[0] in ("top", "bottom") else [words[0], "center"]
    if words[0] in ("top", "bottom") or words[1] in ("left", "right"):
        words = [words[1], words[0]]
    free = (area.width() - width, area.height() - height)
    shares = {"left": 0.0, "top": 0.0, "center": 0.5, "right": 1.0, "bottom": 1.0}
    found = []
    for word, room in zip(words[:2], free, strict=True):
        found.append(shares[word] * room if word in shares else _amount(word, room, em) or 0.0)
    return found[0], found[1]


def _amount(text: str, basis: float, em: float) -> float | None:
    match = re.fullmatch(r"(-?[\d.]+)(px|%|em|rem|)", text)
    if match is None:
        return None
    number = float(match[1])
    return {"%": number * basis / 100, "em": number * em, "rem": number * 16}.get(match[2], number)


def _gradient(painter: QPainter, area: QRectF, text: str) -> None:
    """A straight gradient: an angle or a side, and colours with places in % (CSS Images 3 §3.1)."""
    parts = [p.strip() for p in re.split(r",(?![^(]*\))", text)]
    angle = 180.0
    turned = re.fullmatch(r"(-?[\d.]+)deg", parts[0])
    if turned:
        angle = float(turned[1])
    elif parts[0].startswith("to "):
        sides = parts[0][3:].split()
        angle = {"top": 0.0, "right": 90.0, "bottom": 180.0, "left": 270.0}.get(sides[0], 180.0)
    if turned or parts[0].startswith("to "):
        parts = parts[1:]
    way = QPointF(sin(radians(angle)), -cos(radians(angle)))
    half = (abs(area.width() * way.x()) + abs(area.height() * way.y())) / 2
    fill = QLinearGradient(area.center() - way * half, area.center() + way * half)
    for number, part in enumerate(parts):
        place = re.search(r"(-?[\d.]+)%\s*\Z", part)
        shade = _named(part[: place.start()].strip() if place else part)
        if shade is not None:
            share = float(place[1]) / 100 if place else number / max(1, len(parts) - 1)
            fill.setColorAt(min(1.0, max(0.0, share)), shade)
    painter.fillRect(area, QBrush(fill))


# -- borders


def _borders(
    painter: QPainter, rect: QRectF, style: ComputedStyle, edges: Edges, hole: QPainterPath | None
) -> None:
    """Four borders as trapezoids, so that different colours meet on the diagonal."""
    left, right = edges.left / 64, edges.right / 64
    top, bottom = edges.top / 64, edges.bottom / 64
    inner_rect = rect.adjusted(left, top, -right, -bottom)
    if hole is not None:
        ring = QPainterPath()
        ring.addRect(rect)
        painter.setClipPath(ring.subtracted(hole), Qt.ClipOperation.IntersectClip)
        inner_rect = QRectF(rect.center(), rect.center())
    painter.setPen(Qt.PenStyle.NoPen)
    for name, width, at in (
        ("top", top, 0),
        ("right", right, 1),
        ("bottom", bottom, 2),
        ("left", left, 3),
    ):
        kind = getattr(style, f"border_{name}_style")
        if width <= 0 or kind in ("none", "hidden"):
            continue
        shade = to_colour(getattr(style, f"border_{name}_color"))
        if kind in ("dotted", "dashed"):
            _broken_border(painter, rect, at, width, shade, kind)
        elif kind == "double" and width >= 3:
            third = width / 3
            _trapezoid(painter, rect, _between(rect, inner_rect, third / width), at, shade)
            _trapezoid(painter, _between(rect, inner_rect, 1 - third / width), inner_rect, at, shade)
        elif kind in ("groove", "ridge"):
            middle = _between(rect, inner_rect, 0.5)
            sunk = (kind == "groove") == (at in (0, 3))
            _trapezoid(painter, rect, middle, at, shade.darker(150) if sunk else shade.lighter(125))
            _trapezoid(
                painter, middle, inner_rect, at, shade.lighter(125) if sunk else shade.darker(150)
            )
        else:
            if kind in ("inset", "outset"):
                dark = (kind == "inset") == (at in (0, 3))
                shade = shade.darker(140) if dark else shade.lighter(115)
            _trapezoid(painter, rect, inner_rect, at, shade)


def _between(outer: QRectF, inner: QRectF, share: float) -> QRectF:
    return QRectF(
        QPointF(
            outer.left() + (inner.left() - outer.left()) * share,
            outer.top() + (inner.top() - outer.top()) * share,
        ),
        QPointF(
            outer.right() + (inner.right() - outer.right()) * share,
            outer.bottom() + (inner.bottom() - outer.bottom()) * share,
        ),
    )


def _points(rect: QRectF) -> tuple[QPointF, QPointF, QPointF, QPointF]:
    return rect.topLeft(), rect.topRight(), rect.bottomRight(), rect.bottomLeft()


def _trapezoid(painter: QPainter, outer: QRectF, inner: QRectF, side: int, shade: QColor) -> None:
    a, b = _points(outer), _points(inner)
    following = (side + 1) % 4
    painter.setBrush(shade)
    painter.drawPolygon(QPolygonF([a[side], a[following], b[following], b[side]]))


def _broken_border(
    painter: QPainter, rect: QRectF, side: int, width: float, shade: QColor, kind: str
) -> None:
    corners = _points(rect)
    start, end = corners[side], corners[(side + 1) % 4]
    pen = QPen(shade, width)
    pen.setCapStyle(Qt.PenCapStyle.RoundCap if kind == "dotted" else Qt.PenCapStyle.FlatCap)
    pen.setDashPattern([0.01, 2] if kind == "dotted" else [2, 2])
    half = width / 2
    shift = (QPointF(0, half), QPointF(-half, 0), QPointF(0, -half), QPointF(half, 0))[side]
    painter.setPen(pen)
    painter.drawLine(start + shift, end + shift)
    painter.setPen(Qt.PenStyle.NoPen)


def _outline(painter: QPainter, rect: QRectF, style: ComputedStyle) -> None:
    width = getattr(style.outline_width, "px", style.outline_width)
    width = float(width) / 64 if isinstance(width, int) else float(width)
    if style.outline_style in ("none", "hidden") or width <= 0:
        return
    offset = float(getattr(style.outline_offset, "px", 0.0))
    pen = QPen(to_colour(style.outline_color), width)
    if style.outline_style in ("dashed", "dotted"):
        pen.setStyle(Qt.PenStyle.DashLine if style.outline_style == "dashed" else Qt.PenStyle.DotLine)
    pen.setJoinStyle(Qt.PenJoinStyle.MiterJoin)
    grow = offset + width / 2
    painter.setPen(pen)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawRect(rect.adjusted(-grow, -grow, grow, grow))
