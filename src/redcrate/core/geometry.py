"""Plain frozen values for places and sizes, all in layout units (1/64 px)."""

from typing import Literal, TypeAlias

from redcrate.core.records import dataclass
from redcrate.core.units import ZERO, LayoutUnit

Axis: TypeAlias = Literal["across", "down"]
Side: TypeAlias = Literal["top", "right", "bottom", "left"]
SIDES: tuple[Side, ...] = ("top", "right", "bottom", "left")  # as shorthands list them


@dataclass(frozen=True, slots=True)
class Edges:
    """One amount for each side of a box, 1/64 px."""

    top: LayoutUnit = ZERO
    right: LayoutUnit = ZERO
    bottom: LayoutUnit = ZERO
    left: LayoutUnit = ZERO

    @property
    def across(self) -> LayoutUnit:
        """Left plus right."""
        return self.left + self.right

    @property
    def down(self) -> LayoutUnit:
        """Top plus bottom."""
        return self.top + self.bottom

    def side(self, name: str) -> LayoutUnit:
        """The amount of the side called `name`: top, right, bottom or left."""
        amount: LayoutUnit = getattr(self, name)
        return amount


NO_EDGES = Edges()


@dataclass(frozen=True, slots=True)
class Rect:
    """A rectangle on the page, 1/64 px, y downwards from the top left of the page."""

    x: LayoutUnit
    y: LayoutUnit
    width: LayoutUnit
    height: LayoutUnit

    @property
    def right(self) -> LayoutUnit:
        """x of the right edge."""
        return self.x + self.width

    @property
    def bottom(self) -> LayoutUnit:
        """y of the bottom edge."""
        return self.y + self.height

    def shared_with(self, other: "Rect") -> "Rect":
        """What both cover; of no width or height where they do not meet."""
        x, y = max(self.x, other.x), max(self.y, other.y)
        width, height = min(self.right, other.right) - x, min(self.bottom, other.bottom) - y
        return Rect(x, y, max(ZERO, width), max(ZERO, height))

    def moved(self, dx: LayoutUnit, dy: LayoutUnit) -> "Rect":
        """The same size, `dx` and `dy` further."""
        return Rect(self.x + dx, self.y + dy, self.width, self.height)

    def inset(self, edges: Edges) -> "Rect":
        """What is left inside `edges`; sizes never go below 0."""
        return Rect(
            self.x + edges.left,
            self.y + edges.top,
            max(ZERO, self.width - edges.across),
            max(ZERO, self.height - edges.down),
        )

    def outset(self, edges: Edges) -> "Rect":
        """The rectangle with `edges` added outside; negative edges take away."""
        return Rect(
            self.x - edges.left,
            self.y - edges.top,
            self.width + edges.across,
            self.height + edges.down,
        )

    def contains(self, x: LayoutUnit, y: LayoutUnit) -> bool:
        """Whether the point lies inside; right and bottom edges do not belong."""
        return self.x <= x < self.right and self.y <= y < self.bottom


def union(rects: "list[Rect] | tuple[Rect, ...]") -> Rect:
    """The smallest rectangle round all of `rects`, which must not be empty."""
    left = min(r.x for r in rects)
    top = min(r.y for r in rects)
    right = max(r.right for r in rects)
    bottom = max(r.bottom for r in rects)
    return Rect(left, top, right - left, bottom - top)
