"""What boxes whose overflow is not visible leave of those inside them: CSS Overflow 3 §3.1, with rounded corners."""

from collections.abc import Sequence
from dataclasses import field

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QPainter, QPainterPath

from redcrate.app.painting.colours import to_rect
from redcrate.app.painting.corners import inner_corners
from redcrate.app.painting.dots import on_dots
from redcrate.core.page import PlacedBox
from redcrate.core.records import dataclass


@dataclass(frozen=True, slots=True)
class Clip:
    """A rectangle, px, and the rounded ones of those around it."""

    rect: QRectF
    corners: tuple[QPainterPath, ...] = ()

    def within(self, around: "Clip | None") -> "Clip":
        """This one inside another one."""
        if around is None:
            return self
        return Clip(around.rect.intersected(self.rect), (*around.corners, *self.corners))

    def put_on(self, painter: QPainter) -> None:
        """Paint no more outside of it."""
        painter.setClipRect(on_dots(painter, self.rect), Qt.ClipOperation.IntersectClip)
        for path in self.corners:
            painter.setClipPath(path, Qt.ClipOperation.IntersectClip)


@dataclass(slots=True)
class Clips:
    """Of the surfaces, and of the contents, of boxes.

    The overflow of the root, and of body in its stead, is the window's. A transformed box is clipped only
    by what is inside it.
    """

    surfaces: dict[PlacedBox, Clip] = field(default_factory=dict)
    contents: dict[PlacedBox, Clip] = field(default_factory=dict)


def clips_of(boxes: Sequence[PlacedBox]) -> Clips:
    """The clips of boxes, each of which comes before those inside it."""
    found = Clips()
    for box in boxes:
        clip = found.contents.get(box.container) if box.container is not None else None
        if clip is not None and not box.fragment.box.style.is_transformed:
            found.surfaces[box] = found.contents[box] = clip
        if _hides_overflow(box):
            found.contents[box] = _inside(box).within(found.surfaces.get(box))
    return found


def _hides_overflow(box: PlacedBox) -> bool:
    element, style = box.fragment.box.element, box.fragment.box.style
    if element is None or element.tag in ("html", "body"):
        return False
    return style.overflow_x != "visible" or style.overflow_y != "visible"


def _inside(box: PlacedBox) -> Clip:
    """The padding box with its corners; CSS Backgrounds 3 §5.3."""
    outer, style = to_rect(box.rect), box.fragment.box.style
    inner = to_rect(box.rect.inset(box.fragment.border))
    corners = inner_corners(outer, inner, style)
    return Clip(inner, () if corners is None else (corners,))
