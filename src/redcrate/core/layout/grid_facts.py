"""What a grid container has found out about its tracks, for explanations: CSS Grid 1 §12; 1/64 px."""

from collections.abc import Mapping
from enum import Enum

from redcrate.core.boxes.box import Box
from redcrate.core.records import dataclass
from redcrate.core.units import LayoutUnit


class TrackReason(Enum):
    """Why a track has its size."""

    FIXED = "a length"
    CONTENT = "grown to its content"
    FLEX = "a fraction of the free space"
    STRETCHED = "auto, stretched over free space"
    LIMIT = "grown to its limit"
    EMPTY = "auto-fit: empty"
    SHARED = "of the grid around"


@dataclass(frozen=True, slots=True)
class GridTrack:
    """One track. start: from the content box's left or top. asked_by: the item that it grew for, if any.

    factor: of a flexible one. number: of a subgrid's track, in the grid around.
    """

    start: LayoutUnit
    size: LayoutUnit
    reason: TrackReason
    asked_by: Box | None = None
    factor: float = 0.0
    number: int = 0

    @property
    def end(self) -> LayoutUnit:
        """Its far edge."""
        return self.start + self.size


@dataclass(frozen=True, slots=True)
class GridArea:
    """The tracks of an item: the first and one after the last, both ways."""

    columns: tuple[int, int]
    rows: tuple[int, int]


@dataclass(frozen=True, slots=True, eq=False)
class GridFacts:
    """The tracks of a grid, and where its items are.

    fraction_*: what one fr came to, 0 without any. left_*: what the tracks leave of the container.
    """

    columns: tuple[GridTrack, ...]
    rows: tuple[GridTrack, ...]
    areas: Mapping[Box, GridArea]
    column_gap: LayoutUnit
    row_gap: LayoutUnit
    left_across: LayoutUnit
    left_down: LayoutUnit
