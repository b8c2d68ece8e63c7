"""Paints the surface of a box: shadows, background, borders; and its outline.

CSS Backgrounds 3 §4 (borders) and CSS UI 4 §4 (outline); the other parts have modules of their own.
None of it takes room.
"""

from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPen, QPolygonF

from redcrate.app.painting.colours import to_colour
from redcrate.app.painting.corners import CORNERS, inner_corners, outer_corners, radius_px
from redcrate.app.painting.layers import Boxes, FindPicture, paint_background
from redcrate.app.painting.shadows import paint_inset_shadows, paint_outer_shadows
from redcrate.core.geometry import NO_EDGES, SIDES, Edges
from redcrate.core.style.computed import ComputedStyle


@dataclass(frozen=True, slots=True)
class _Skin:
    """What of a style matters for its surface; worked out once a style."""

    style: ComputedStyle  # kept, so that its id stays its own
    is_plain: bool  # a colour and solid borders of one colour, nothing else
    ground: QColor | None
    border: QColor | None


_skins: dict[int, _Skin] = {}
_SKINS_KEPT = 5000


def _skin(style: ComputedStyle) -> _Skin:
    known = _skins.get(id(style))
    if known is None:
        if len(_skins) >= _SKINS_KEPT:
            _skins.clear()
        corners = [r for n in CORNERS for r in getattr(style, f"border_{n}_radius")]
        kinds = {getattr(style, f"border_{s}_style") for s in SIDES}
        shades = {
            getattr(style, f"border_{s}_color") for s in SIDES if getattr(style, f"border_{s}_width")
        }
        plain = (
            not style.box_shadow
            and all(i == "none" for i in style.background_image)
            and all(c == "border-box" for c in style.background_clip)
            and not any(radius_px(r, 100) for r in corners)
            and kinds <= {"none", "hidden", "solid"}
            and len(shades) <= 1
        )
        ground = to_colour(style.background_color) if style.background_color.alpha > 0 else None
        shown = "solid" in kinds
        border = to_colour(next(iter(shades), style.border_top_color)) if shown else None
        known = _skins[id(style)] = _Skin(style, plain, ground, border)
    return known


def paint_surface(
    painter: QPainter,
    rect: QRectF,
    style: ComputedStyle,
    edges: Edges,
    find: FindPicture,
    padding: Edges = NO_EDGES,
) -> None:
    """Shadows, background and borders of a border box; `edges` and `padding` in 1/64 px, the rest in px."""
    skin = _skin(style)
    if skin.is_plain:
        if skin.ground is not None:
            painter.fillRect(rect, skin.ground)
        if skin.border is not None and (edges.across or edges.down):
            _plain_borders(painter, rect, edges, skin.border)
        return
    outline = outer_corners(rect, style)
    paint_outer_shadows(painter, rect, style, outline)
    inner = _inset(rect, edges)
    boxes = Boxes(rect, inner, _inset(inner, padding), outline)
    paint_background(painter, boxes, style, find)
    hole = inner_corners(rect, inner, style) if outline is not None else None
    paint_inset_shadows(painter, inner, style, hole)
    if edges.across or edges.down:
        if outline is not None and (shade := _one_shade(style, edges)) is not None:
            painter.fillPath(outline if hole is None else outline.subtracted(hole), shade)
        elif outline is not None:
            painter.save()
            painter.setClipPath(outline, Qt.ClipOperation.IntersectClip)
            _borders(painter, rect, style, edges, hole)
            painter.restore()
        else:
            _borders(painter, rect, style, edges, None)


def _one_shade(style: ComputedStyle, edges: Edges) -> QColor | None:
    """The colour of solid borders that are all of one; such a ring is smooth at both its edges."""
    sides = [side for side in SIDES if getattr(edges, side)]
    kinds = {getattr(style, f"border_{side}_style") for side in sides}
    shades = {getattr(style, f"border_{side}_color") for side in sides}
    return to_colour(next(iter(shades))) if kinds == {"solid"} and len(shades) == 1 else None


def _inset(rect: QRectF, edges: Edges) -> QRectF:
    return rect.adjusted(edges.left / 64, edges.top / 64, -edges.right / 64, -edges.bottom / 64)


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


def paint_outline(painter: QPainter, rect: QRectF, style: ComputedStyle) -> None:
    """CSS UI 4 §4: around the border box, over all that is in its stacking context."""
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
