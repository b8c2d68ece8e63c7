"""The tracks of one axis while they are sized, and how extra space is shared among them: CSS Grid 1 §12.2, §12.5.1.

Amounts are 1/64 px.
"""

from collections.abc import Callable, Sequence
from dataclasses import field

from redcrate.core.boxes.box import Box
from redcrate.core.layout.grid.breadths import factor, fixed, keyword
from redcrate.core.layout.grid_facts import GridTrack, TrackReason
from redcrate.core.layout.proportions import in_proportion
from redcrate.core.records import dataclass
from redcrate.core.style.grid import AUTO_TRACK, TrackSize
from redcrate.core.units import ZERO, LayoutUnit

INTRINSIC = frozenset(("auto", "min-content", "max-content"))


@dataclass(slots=True, eq=False)
class Track:
    """One track. least, most: the kinds of its sizing functions. limit: its growth limit; None: infinite.

    fit: what fit-content() caps it at. start: from the content edge once it is placed.
    """

    least: str
    most: str
    factor: float = 0.0
    base: LayoutUnit = ZERO
    limit: LayoutUnit | None = None
    fit: LayoutUnit | None = None
    is_collapsed: bool = False
    reason: TrackReason = TrackReason.CONTENT
    asked_by: Box | None = None
    limit_by: Box | None = None
    start: LayoutUnit = ZERO
    planned: LayoutUnit = field(default=ZERO, repr=False)
    grows_on: bool = False  # "infinitely growable" (§12.5.3)
    number: int = 0  # of a subgrid's track, in the grid around

    @property
    def growth_limit(self) -> LayoutUnit:
        """The growth limit, or the base size where that is infinite."""
        return self.base if self.limit is None else self.limit

    def facts(self) -> GridTrack:
        """What is kept of it."""
        return GridTrack(self.start, self.base, self.reason, self.asked_by, self.factor, self.number)


def new_track(size: TrackSize, room: LayoutUnit | None) -> Track:
    """§12.4: the base size and the growth limit to begin with; room: what percentages refer to."""
    least, most = keyword(size.least, room), keyword(size.most, room)
    flexes = factor(size.most)
    track = Track("auto" if least == "flex" else least, most, flexes)
    if flexes or most == "flex":
        track.reason = TrackReason.FLEX
    elif most == "fixed":
        track.reason = TrackReason.FIXED
    track.base = fixed(size.least, room) or ZERO
    track.limit = fixed(size.most, room)
    if size.fit is not None:
        track.fit = fixed(size.fit, room)
    if track.limit is not None:
        track.limit = max(track.limit, track.base)
    return track


def collapsed_track() -> Track:
    """§7.2.3.2: a track of an auto-fit that nothing is in."""
    track = new_track(AUTO_TRACK, None)
    track.least = track.most = "fixed"
    track.limit, track.is_collapsed, track.reason = ZERO, True, TrackReason.EMPTY
    return track


def shared_track(start: LayoutUnit, size: LayoutUnit, number: int) -> Track:
    """Grid 2 §9: a track of a subgrid, which the grid around has sized and placed."""
    return Track(
        "fixed", "fixed", base=size, limit=size, start=start, reason=TrackReason.SHARED, number=number
    )


def gaps_in(tracks: Sequence[Track], gap: LayoutUnit) -> LayoutUnit:
    """The gaps between tracks; those beside a collapsed one are one (§7.2.3.2)."""
    return gap * max(0, sum(1 for t in tracks if not t.is_collapsed) - 1)


def share_equally(
    tracks: Sequence[Track], space: LayoutUnit, room: Callable[[Track], LayoutUnit | None]
) -> tuple[dict[Track, LayoutUnit], LayoutUnit]:
    """Equal parts of `space`, none more than its `room` (None: no end); also what nobody took."""
    given = dict.fromkeys(tracks, ZERO)
    open_ = [t for t in tracks if room(t) != 0]
    while open_ and space > 0:
        full = []
        for at, track in enumerate(open_):
            part = -(-space // (len(open_) - at))
            most = room(track)
            if most is not None and given[track] + part >= most:
                part = most - given[track]
                full.append(track)
            given[track] += part
            space -= part
        if not full:
            break
        open_ = [t for t in open_ if t not in full]
    return given, space


def share_by_factor(tracks: Sequence[Track], space: LayoutUnit) -> dict[Track, LayoutUnit]:
    """§12.5.4: parts of `space` in proportion to flex factors; equal ones where all are 0."""
    if not any(t.factor for t in tracks):
        return share_equally(tracks, space, lambda _: None)[0]
    parts = in_proportion(space, [t.factor for t in tracks])
    return dict(zip(tracks, parts, strict=True))
