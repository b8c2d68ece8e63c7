"""What a subgrid is told of the tracks that it shares with the grid around it: CSS Grid 2 §9; 1/64 px."""

from redcrate.core.records import dataclass
from redcrate.core.units import LayoutUnit


@dataclass(frozen=True, slots=True)
class SharedTracks:
    """The tracks of one axis that a subgrid spans.

    names: of their lines, so one more than there are tracks. gap: between them. first: the number of the first one in the
    grid around, from 1. places: where each begins, from the subgrid's content edge, and its size; None while nobody knows.
    depth: how many subgrids stand round it.
    """

    names: tuple[frozenset[str], ...]
    gap: LayoutUnit
    first: int
    places: tuple[tuple[LayoutUnit, LayoutUnit], ...] | None = None
    depth: int = 0

    @property
    def count(self) -> int:
        """How many."""
        return len(self.names) - 1
