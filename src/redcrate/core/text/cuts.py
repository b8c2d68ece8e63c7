"""Where a text may end a line, worked out once for all widths: CSS Text 3 §5, in the text's own advances.

Advances are sums, so that the last place that fits is found by halving them; only there the room is asked for exactly.
"""

from bisect import bisect_right
from collections.abc import Mapping, Sequence
from itertools import pairwise

from redcrate.core.records import dataclass


@dataclass(frozen=True, slots=True, eq=False)
class Cuts:
    """The places inside a text, and at its end, at which the next line may begin, ascending.

    offsets: these, in the text. ends: the same without the space before. sums: how far the text has advanced there,
    font units.
    """

    offsets: tuple[int, ...]
    ends: tuple[int, ...]
    sums: tuple[int, ...]

    def behind(self, start: int) -> int:
        """The number of the first cut behind an offset."""
        return bisect_right(self.offsets, start)

    def last_behind(self, start: int) -> int | None:
        """The last cut, if it is behind an offset."""
        return self.offsets[-1] if self.offsets and self.offsets[-1] > start else None


def cuts_between(
    text: str,
    breaks: Sequence[int],
    start: int,
    end: int,
    base: int,
    advances: Sequence[int],
    at_ends: Mapping[int, int],
) -> Cuts | None:
    """The cuts behind `start` up to `end`; None where the text runs backwards, which cannot be halved.

    breaks: all offsets at which a line may begin. base: where the run begins that `advances` are the sums of.
    at_ends: what is added to them where a line ends.
    """
    offsets = tuple(breaks[bisect_right(breaks, start) : bisect_right(breaks, end)])
    ends = tuple(at - 1 if text[at - 1] == " " else at for at in offsets)
    sums = tuple(advances[at - base] + at_ends.get(at - base, 0) for at in ends)
    if any(after < before for before, after in pairwise(sums)):
        return None
    return Cuts(offsets, ends, sums)
