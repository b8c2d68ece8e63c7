"""A row: the blocks that stand beside each other, what is between them, and what is left of their room.

Its sum is exact in 1/64 px: margin boxes and gaps, and what is left (negative: over), add up to the room.
"""

from enum import Enum

from redcrate.core.geometry import Rect
from redcrate.core.markup.elements import Element
from redcrate.core.page import PlacedBox
from redcrate.core.records import dataclass
from redcrate.core.units import ZERO, LayoutUnit


class RowKind(Enum):
    """What puts the items beside each other."""

    FLOATS = "floats"
    INLINE = "inline-level boxes"
    FLEX = "items of a flex line"
    GRID = "items of a grid row"
    CELLS = "cells of a table's row"


@dataclass(frozen=True, slots=True)
class RowItem:
    """One block of a row. margin_box: where the flow put it, relative positioning apart."""

    element: Element
    margin_box: Rect
    side: str  # "left" or "right" for floats, "" in a line


@dataclass(frozen=True, slots=True)
class Gap:
    """What stands between two items of a line, or before the first or after the last one.

    after: behind the item of this number (-1: before the first). spaces: the width of spaces of the source.
    text: of other text. edges: of inline boxes' margins, borders and padding, or what keeps cells apart. gap: of a
    flex or grid container.
    """

    after: int
    spaces: LayoutUnit = ZERO
    text: LayoutUnit = ZERO
    edges: LayoutUnit = ZERO
    gap: LayoutUnit = ZERO

    @property
    def total(self) -> LayoutUnit:
        """The whole gap, 1/64 px."""
        return self.spaces + self.text + self.edges + self.gap


@dataclass(frozen=True, slots=True)
class Dropped:
    """The block that came next and found too little room in the row."""

    element: Element
    width: LayoutUnit  # of its margin box
    spaces: LayoutUnit  # of the source, in front of it
    room: LayoutUnit  # what the row had left for it
    missing: LayoutUnit


@dataclass(frozen=True, slots=True)
class Row:
    """Blocks on one line. room: what the line or the container's content box offers.

    shared: in words, who got the free space of a flex line, or which columns a grid has; "" for others.
    """

    container: Element
    kind: RowKind
    top: LayoutUnit
    room: LayoutUnit
    items: tuple[RowItem, ...]
    gaps: tuple[Gap, ...]
    dropped: Dropped | None
    shared: str = ""

    @property
    def sum(self) -> LayoutUnit:
        """What the row spends: margin boxes and gaps."""
        return sum((i.margin_box.width for i in self.items), ZERO) + sum(g.total for g in self.gaps)

    @property
    def left(self) -> LayoutUnit:
        """What is left of the room; negative where the row is over."""
        return self.room - self.sum


def flow_rect(placed: PlacedBox) -> Rect:
    """The margin box as the flow placed it, without the shift of relative positioning."""
    rect = placed.rect.moved(-placed.placed.shift_x, -placed.placed.shift_y)
    return rect.outset(placed.fragment.margin)
