"""Borders of a box and its outline: CSS Backgrounds 3 §4 and §5, CSS UI 4 §4."""

from math import floor

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPen, QPolygonF

from redcrate.app.painting.colours import to_colour
from redcrate.app.painting.corners import grown_corners, inner_corners, path_of
from redcrate.core.geometry import SIDES, Edges
from redcrate.core.style.computed import ComputedStyle

_BROKEN = ("dotted", "dashed")
_CARVED = ("inset", "outset", "groove", "ridge")
_APART, _BLACKISH, _WHITISH = 0.33, 32, 20  # of full strength; steps of 255 from black and from white
_PALE, _GREY = QColor(238, 238, 238), QColor(128, 128, 128)


def paint_borders(
    painter: QPainter,
    rect: QRectF,
    style: ComputedStyle,
    edges: Edges,
    outline: QPainterPath | None,
    hole: QPainterPath | None,
) -> None:
    """The four borders. outline, hole: the border edge and the padding edge, where they are round."""
    alike = _alike(style, edges)
    if outline is None:
        if alike is not None and alike[0] == "solid":
            plain_borders(painter, rect, edges, alike[1])
        else:
            _sides(painter, rect, style, edges, None)
        return
    if alike is not None and _ring(painter, rect, style, edges, alike):
        return
    painter.save()
    painter.setClipPath(outline, Qt.ClipOperation.IntersectClip)
    _sides(painter, rect, style, edges, hole)
    painter.restore()


def plain_borders(painter: QPainter, rect: QRectF, edges: Edges, shade: QColor) -> None:
    """Solid borders of one colour with square corners: four rectangles."""
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


# -- borders that go round in one


def _alike(style: ComputedStyle, edges: Edges) -> tuple[str, QColor] | None:
    """The style and the colour that all borders have; None where they differ."""
    sides = [side for side in SIDES if getattr(edges, side)]
    kinds = {getattr(style, f"border_{side}_style") for side in sides}
    shades = {getattr(style, f"border_{side}_color") for side in sides}
    if len(kinds) != 1 or len(shades) != 1:
        return None
    return kinds.pop(), to_colour(shades.pop())


def _ring(
    painter: QPainter, rect: QRectF, style: ComputedStyle, edges: Edges, alike: tuple[str, QColor]
) -> bool:
    """A round ring that is smooth at both its edges; whether the style can be painted so."""
    kind, shade = alike
    if kind == "solid":
        painter.fillPath(_between(rect, style, edges, 0, 1), shade)
    elif kind == "double":
        painter.fillPath(_between(rect, style, edges, 0, 1 / 3), shade)
        painter.fillPath(_between(rect, style, edges, 2 / 3, 1), shade)
    elif kind in _BROKEN and len({getattr(edges, side) for side in SIDES}) == 1:
        width = edges.top / 64
        _stroke(painter, _edge(rect, style, edges, 0.5), width, shade, kind)
    else:
        return False
    return True


def _edge(rect: QRectF, style: ComputedStyle, edges: Edges, share: float) -> QPainterPath:
    """The edge so far from the border edge to the padding edge."""
    left, top, right, bottom = (
        getattr(edges, side) / 64 * share for side in ("left", "top", "right", "bottom")
    )
    inner = rect.adjusted(left, top, -right, -bottom)
    return path_of(inner, inner_corners(rect, inner, style))


def _between(
    rect: QRectF, style: ComputedStyle, edges: Edges, first: float, last: float
) -> QPainterPath:
    return _edge(rect, style, edges, first).subtracted(_edge(rect, style, edges, last))


def _stroke(painter: QPainter, path: QPainterPath, width: float, shade: QColor, kind: str) -> None:
    """Dots or dashes along a closed path, as many as go round evenly."""
    pen = _broken_pen(shade, width, kind, path.length(), closed=True)
    painter.strokePath(path, pen)


def _broken_pen(
    shade: QColor, width: float, kind: str, length: float, *, closed: bool = False, squares: bool = False
) -> QPen:
    """A pen whose pattern begins and ends alike: dots as far apart as they are wide, dashes twice as long as gaps.

    squares: the dots are squares.
    """
    pen = QPen(shade, width)
    mark, gap = (2.0, 1.0) if kind == "dashed" else (1.0, 1.0) if squares else (0.0, 2.0)
    if kind == "dashed" and width < 3:
        mark, gap = 3.0, 2.0
    gap = _best_gap(length / max(width, 0.01), mark, gap, closed=closed)
    pen.setDashPattern([max(mark, 0.01), gap])
    is_round = kind == "dotted" and not squares
    pen.setCapStyle(Qt.PenCapStyle.RoundCap if is_round else Qt.PenCapStyle.FlatCap)
    return pen


def _best_gap(length: float, mark: float, gap: float, *, closed: bool) -> float:
    """The gap that is nearest to the wanted one where a line has so many marks that it begins and ends with one."""
    least = max(1, floor((length + gap) / (mark + gap)))
    found = []
    for count in (least, least + 1):
        gaps = count if closed else count - 1
        if gaps > 0 and length - count * mark > 0:
            found.append((length - count * mark) / gaps)
    return min(found, key=lambda g: abs(g - gap), default=max(gap, length))


# -- a border between two cells


def paint_between(painter: QPainter, rect: QRectF, shade: QColor, kind: str, *, is_flat: bool) -> None:
    """A border that two cells share, in a rectangle. is_flat: it runs from left to right.

    CSS 2.2 §17.6.3: what looks sunk or raised is a groove or a ridge here.
    """
    width = rect.height() if is_flat else rect.width()
    if kind in _BROKEN:
        half = width / 2
        start = rect.topLeft() + (QPointF(0, half) if is_flat else QPointF(half, 0))
        end = rect.bottomRight() - (QPointF(0, half) if is_flat else QPointF(half, 0))
        pen = _broken_pen(shade, width, kind, rect.width() if is_flat else rect.height(), squares=True)
        painter.setPen(pen)
        painter.drawLine(start, end)
        painter.setPen(Qt.PenStyle.NoPen)
    elif kind == "double" and width >= 3:
        third = round(width / 3)
        for begin in (0.0, width - third):
            painter.fillRect(_stripe(rect, begin, third, is_flat=is_flat), shade)
    elif kind in _CARVED:
        dark, _ = _carved(shade)
        first, last = (dark, shade) if kind in ("groove", "outset") else (shade, dark)
        half = floor(width / 2 + 0.5)
        painter.fillRect(_stripe(rect, 0, half, is_flat=is_flat), first)
        painter.fillRect(_stripe(rect, half, width - half, is_flat=is_flat), last)
    else:
        painter.fillRect(rect, shade)


def _stripe(rect: QRectF, begin: float, size: float, *, is_flat: bool) -> QRectF:
    if is_flat:
        return QRectF(rect.x(), rect.y() + begin, rect.width(), size)
    return QRectF(rect.x() + begin, rect.y(), size, rect.height())


# -- each side by itself


def _sides(
    painter: QPainter, rect: QRectF, style: ComputedStyle, edges: Edges, hole: QPainterPath | None
) -> None:
    """Four borders as trapezoids, so that different colours meet on the diagonal."""
    left, right = edges.left / 64, edges.right / 64
    top, bottom = edges.top / 64, edges.bottom / 64
    inner = rect.adjusted(left, top, -right, -bottom)
    if hole is not None:
        ring = QPainterPath()
        ring.addRect(rect)
        painter.setClipPath(ring.subtracted(hole), Qt.ClipOperation.IntersectClip)
        inner = QRectF(rect.center(), rect.center())
    painter.setPen(Qt.PenStyle.NoPen)
    for at, (name, width) in enumerate(
        (("top", top), ("right", right), ("bottom", bottom), ("left", left))
    ):
        kind = getattr(style, f"border_{name}_style")
        if width > 0 and kind not in ("none", "hidden"):
            shade = to_colour(getattr(style, f"border_{name}_color"))
            if kind in _CARVED and shade in (to_colour(style.color), _GREY):
                shade = _PALE  # nobody has given it a colour
            _side(painter, (rect, inner), at, width, shade, kind)


def _side(
    painter: QPainter, both: tuple[QRectF, QRectF], at: int, width: float, shade: QColor, kind: str
) -> None:
    """One border. both: the border edge and the padding edge. at: 0 the top, on clockwise."""
    rect, inner = both
    if kind in _BROKEN:
        _broken(painter, both, at, width, shade, kind)
    elif kind == "double" and width >= 3:
        _trapezoid(painter, rect, _part(rect, inner, 1 / 3), at, shade)
        _trapezoid(painter, _part(rect, inner, 2 / 3), inner, at, shade)
    elif kind in ("groove", "ridge"):
        middle = _part(rect, inner, 0.5)
        dark, light = _carved(shade)
        sunk = (kind == "groove") == (at in (0, 3))
        _trapezoid(painter, rect, middle, at, dark if sunk else light)
        _trapezoid(painter, middle, inner, at, light if sunk else dark)
    else:
        if kind in ("inset", "outset"):
            dark, light = _carved(shade)
            shade = dark if (kind == "inset") == (at in (0, 3)) else light
        _trapezoid(painter, rect, inner, at, shade)


def _carved(shade: QColor) -> tuple[QColor, QColor]:
    """The dark and the light side of what looks carved, by a third of full strength apart; black and white stay."""
    parts = shade.red(), shade.green(), shade.blue()
    full = max(parts) / 255
    if not full:
        return shade, QColor(84, 84, 84, shade.alpha())
    dark = max(0.0, full - _APART) / full
    light = min(1.0, full + _APART) / full
    darker = sum(c * c for c in parts) > 3 * _BLACKISH**2
    lighter = sum((255 - c) ** 2 for c in parts) > 3 * _WHITISH**2
    return _times(shade, dark if darker else 1.0), _times(shade, light if lighter else 1.0)


def _times(shade: QColor, factor: float) -> QColor:
    red, green, blue = (min(255, round(c * factor)) for c in (shade.red(), shade.green(), shade.blue()))
    return QColor(red, green, blue, shade.alpha())


def _part(outer: QRectF, inner: QRectF, share: float) -> QRectF:
    corners = (
        (outer.topLeft(), inner.topLeft()),
        (outer.bottomRight(), inner.bottomRight()),
    )
    return QRectF(*(a + (b - a) * share for a, b in corners))


def _points(rect: QRectF) -> tuple[QPointF, QPointF, QPointF, QPointF]:
    return rect.topLeft(), rect.topRight(), rect.bottomRight(), rect.bottomLeft()


def _trapezoid(painter: QPainter, outer: QRectF, inner: QRectF, side: int, shade: QColor) -> None:
    a, b = _points(outer), _points(inner)
    following = (side + 1) % 4
    painter.setBrush(shade)
    painter.drawPolygon(QPolygonF([a[side], a[following], b[following], b[side]]))


def _broken(
    painter: QPainter, both: tuple[QRectF, QRectF], at: int, width: float, shade: QColor, kind: str
) -> None:
    """Dots or dashes from one corner to the other; a dot stands in the corner itself."""
    middle = _part(*both, 0.5)
    corners = _points(middle if kind == "dotted" else both[0])
    start, end = corners[at], corners[(at + 1) % 4]
    if kind == "dashed":
        half = width / 2
        shift = (QPointF(0, half), QPointF(-half, 0), QPointF(0, -half), QPointF(half, 0))[at]
        start, end = start + shift, end + shift
    length = abs(end.x() - start.x()) + abs(end.y() - start.y())
    painter.setPen(_broken_pen(shade, width, kind, length))
    painter.drawLine(start, end)
    painter.setPen(Qt.PenStyle.NoPen)


# -- the outline


def paint_outline(painter: QPainter, rect: QRectF, style: ComputedStyle) -> None:
    """Around the border box, over all that is in its stacking context; its corners follow those of the box."""
    width = getattr(style.outline_width, "px", style.outline_width)
    width = float(width) / 64 if isinstance(width, int) else float(width)
    if style.outline_style in ("none", "hidden") or width <= 0:
        return
    grow = float(getattr(style.outline_offset, "px", 0.0)) + width / 2
    line = rect.adjusted(-grow, -grow, grow, grow)
    path = path_of(line, grown_corners(rect, line, style))
    shade = to_colour(style.outline_color)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    if style.outline_style in _BROKEN:
        _stroke(painter, path, width, shade, style.outline_style)
        return
    pen = QPen(shade, width)
    pen.setJoinStyle(Qt.PenJoinStyle.MiterJoin)
    painter.strokePath(path, pen)
