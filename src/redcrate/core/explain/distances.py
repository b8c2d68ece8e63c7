"""How far a box is from its neighbours and from the edges of its container, in 1/64 px."""

from redcrate.core.geometry import Rect
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.records import dataclass
from redcrate.core.units import LayoutUnit


@dataclass(frozen=True, slots=True)
class Distance:
    """One straight distance between border edges.

    side: of the selected box. to: "container" or the neighbour's label. From (x, y), `length` long to
    the right for left and right, downwards for top and bottom.
    """

    side: str
    to: str
    x: LayoutUnit
    y: LayoutUnit
    length: LayoutUnit

    @property
    def is_across(self) -> bool:
        """Whether it runs from left to right."""
        return self.side in ("left", "right")


def distances(page: Page, element: Element) -> tuple[Distance, ...]:
    """On each side the nearest neighbour that faces the box, else the container's content edge."""
    box = page.box_of(element)
    if box is None or box.container is None:
        return ()
    me, room = box.border_box, box.container.content_rect
    facing = _neighbours(page, element)
    found = []
    for side in ("left", "right", "top", "bottom"):
        gaps = [(g, label) for rect, label in facing if (g := _gap(me, rect, side)) is not None]
        edge = _to_edge(me, room, side)
        gap, to = min([*gaps, (edge, "container")], key=lambda g: abs(g[0]) if g[0] >= 0 else 0)
        x = {"left": me.x - gap, "right": me.right}.get(side, me.x + me.width // 4)
        y = {"top": me.y - gap, "bottom": me.bottom}.get(side, me.y + me.height // 4)
        found.append(Distance(side, to, x, y, gap))
    return tuple(found)


def _neighbours(page: Page, element: Element) -> list[tuple[Rect, str]]:
    siblings = element.parent.child_elements if element.parent is not None else []
    boxes = [(s, page.box_of(s)) for s in siblings if s is not element]
    return [
        (b.border_box, s.label)
        for s, b in boxes
        if b is not None and b.border_box.width and b.border_box.height
    ]


def _gap(me: Rect, other: Rect, side: str) -> LayoutUnit | None:
    """The gap to `other` on a side; None if it does not face the box there."""
    beside = me.y < other.bottom and other.y < me.bottom
    stacked = me.x < other.right and other.x < me.right
    gap: LayoutUnit | None = None
    if side == "left" and beside:
        gap = me.x - other.right
    elif side == "right" and beside:
        gap = other.x - me.right
    elif side == "top" and stacked:
        gap = me.y - other.bottom
    elif side == "bottom" and stacked:
        gap = other.y - me.bottom
    return gap if gap is not None and gap >= 0 else None


def _to_edge(me: Rect, room: Rect, side: str) -> LayoutUnit:
    return {
        "left": me.x - room.x,
        "right": room.right - me.right,
        "top": me.y - room.y,
        "bottom": room.bottom - me.bottom,
    }[side]
