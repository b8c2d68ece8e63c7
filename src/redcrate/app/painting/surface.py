"""Paints the surface of a box: shadows, background, borders; and its outline.

CSS Backgrounds 3 §4 (borders) and CSS UI 4 §4 (outline); the other parts have modules of their own.
None of it takes room.
"""

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QColor, QPainter

from redcrate.app.painting.blending import NON_SEPARABLE
from redcrate.app.painting.border_images import paint_border_image
from redcrate.app.painting.borders import paint_borders, plain_borders
from redcrate.app.painting.colours import to_colour
from redcrate.app.painting.corners import CORNERS, inner_corners, outer_corners, radius_px
from redcrate.app.painting.groups import NO_EFFECTS, Effects, Groups, mode_of
from redcrate.app.painting.layers import Boxes, FindPicture, ground_apart, paint_background
from redcrate.app.painting.shadows import paint_inset_shadows, paint_outer_shadows
from redcrate.core.geometry import NO_EDGES, SIDES, Edges
from redcrate.core.records import dataclass
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
            and style.border_image_source == "none"
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
    window: QRectF | None = None,
) -> None:
    """Shadows, background and borders of a border box; `edges` and `padding` in 1/64 px, the rest in px.

    window: where the page is seen first, for backgrounds that stay there.
    """
    skin = _skin(style)
    if skin.is_plain:
        if skin.ground is not None:
            painter.fillRect(rect, skin.ground)
        if skin.border is not None and (edges.across or edges.down):
            plain_borders(painter, rect, edges, skin.border)
        return
    outline = outer_corners(rect, style)
    paint_outer_shadows(painter, rect, style, outline)
    inner = inset(rect, edges)
    boxes = Boxes(rect, inner, inset(inner, padding), outline, window)
    if all(mode == "normal" for mode in style.background_blend_mode):
        paint_background(painter, boxes, style, find)
    else:
        _blended_background(painter, boxes, style, find)
    hole = inner_corners(rect, inner, style) if outline is not None else None
    paint_inset_shadows(painter, inner, style, hole)
    if not paint_border_image(painter, rect, style, edges, find) and (edges.across or edges.down):
        paint_borders(painter, rect, style, edges, outline, hole)


def _blended_background(
    painter: QPainter, boxes: Boxes, style: ComputedStyle, find: FindPicture
) -> None:
    """Compositing 1 §8: the layers are mixed with one another, and not with what is behind the box."""
    rect, groups = boxes.rect("border-box"), Groups(painter)
    groups.begin(rect)
    for mode, layer in ground_apart(style):
        mixed = Effects(mixed=mode) if mode in NON_SEPARABLE else NO_EFFECTS
        groups.begin(rect, mode=mode_of(mode), effects=mixed)
        paint_background(groups.painter, boxes, layer, find)
        groups.end()
    groups.end()


def inset(rect: QRectF, edges: Edges) -> QRectF:
    """A rectangle, px, less edges in 1/64 px."""
    return rect.adjusted(edges.left / 64, edges.top / 64, -edges.right / 64, -edges.bottom / 64)
