"""The constraint space: all that a layout is told beside its box, and the key of what is kept.

Terms of CSS 2.2 §10.1 (containing block), CSS Box Sizing 3 §2 (available size) and §5 (content sizes).
"""

from dataclasses import field
from enum import Enum
from typing import NamedTuple

from redcrate.core.geometry import Edges
from redcrate.core.layout.floats import FloatContext
from redcrate.core.layout.fragments import SizeReason
from redcrate.core.layout.shared_tracks import SharedTracks
from redcrate.core.records import dataclass
from redcrate.core.units import ZERO, LayoutUnit


class Sizing(Enum):
    """How a box comes to a width that its style leaves to `auto`."""

    __hash__ = object.__hash__  # members are equal only to themselves; spaces with them are keys

    FILL = "a block in flow fills its containing block"  # §10.3.3
    SHRINK_TO_FIT = "shrink-to-fit"  # §10.3.5, §10.3.7, §10.3.9
    STRETCH = "from one offset to the other"  # §10.3.7


class Mode(Enum):
    """What is asked for."""

    __hash__ = object.__hash__

    LAYOUT = "a fragment"
    CONTENT_SIZES = "the min-content and the max-content size"


@dataclass(frozen=True, slots=True)
class ForcedSize:
    """What a flex, grid or table container has decided for a box in it: content sizes, and why.

    None: the box's own rules say. definite: percentages inside may refer to the height. border: of a cell whose
    borders collapse. content_shift: how far down its content begins (CSS 2.2 §17.5.3). columns, rows: what a subgrid
    shares with the grid around it.
    """

    width: LayoutUnit | None = None
    width_reason: SizeReason = SizeReason.FLEXED
    height: LayoutUnit | None = None
    height_reason: SizeReason = SizeReason.FLEXED
    definite: bool = False
    border: Edges | None = None
    content_shift: LayoutUnit = ZERO
    columns: SharedTracks | None = None
    rows: SharedTracks | None = None


class RoomAcross(NamedTuple):
    """All of a constraint space that used widths and side margins hang on; what is kept of them has this key."""

    width: LayoutUnit
    sizing: Sizing = Sizing.FILL
    available: LayoutUnit | None = None
    direction: str = "ltr"
    align: str = ""


def _forced_down(forced: ForcedSize | None) -> tuple[object, ...] | None:
    """What a container has decided about a height, and tracks; None for nothing."""
    if forced is None or (forced.height is None and forced.columns is None and forced.rows is None):
        return None
    down = forced.height, forced.height_reason, forced.definite, forced.content_shift
    return *down, forced.columns, forced.rows


@dataclass(frozen=True, slots=True)
class ConstraintSpace:
    """What a box is laid out in; 1/64 px.

    width, height: of the containing block, which percentages refer to; None: the height hangs on
    content. sizing: what an auto width means. available: the border-box width on offer, where that is
    not what the containing block leaves (between floats, between two offsets). stretched_height: the
    content height between two offsets (§10.6.4), for an auto height. direction, align: what the block
    around decides about side margins (widths.py). lines_left: how many lines a block around still shows
    (CSS Overflow 4 §5.1.4); None: all. forced: what the container has decided already. floats: of the
    block formatting context that the box takes part in; None where it starts one. floats_x, floats_y: of
    the containing block's content edge, and of the box's top border edge, in that context. The floats are
    no part of the key, since a result is kept only where none reaches in.
    """

    width: LayoutUnit
    height: LayoutUnit | None
    sizing: Sizing = Sizing.FILL
    available: LayoutUnit | None = None
    stretched_height: LayoutUnit | None = None
    direction: str = "ltr"
    align: str = ""
    mode: Mode = Mode.LAYOUT
    lines_left: int | None = None
    floats: FloatContext | None = field(default=None, compare=False)
    floats_x: LayoutUnit = field(default=ZERO, compare=False)
    floats_y: LayoutUnit = field(default=ZERO, compare=False)
    forced: ForcedSize | None = None

    @property
    def across(self) -> RoomAcross:
        """What decides widths, where the container has not decided them."""
        return RoomAcross(self.width, self.sizing, self.available, self.direction, self.align)

    def gives_alike(self, other: "ConstraintSpace", *, reads_height: bool) -> bool:
        """Whether what is in a box is the same in both, if its content width is: for one that starts a context of its own.

        reads_height: whether the height of the containing block counts. How many lines a block around shows does not.
        """
        return (
            self.stretched_height == other.stretched_height
            and self.mode is other.mode
            and (not reads_height or self.height == other.height)
            and _forced_down(self.forced) == _forced_down(other.forced)
        )

    def __hash__(self) -> int:
        """By what differs: a box is laid out in few spaces of one size."""
        return hash((self.width, self.height, self.sizing))


# Content sizes are asked for before anything that percentages could refer to is known.
MEASURING = ConstraintSpace(ZERO, None, mode=Mode.CONTENT_SIZES)
