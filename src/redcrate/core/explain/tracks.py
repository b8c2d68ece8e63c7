"""How a grid item came to its area, and each track of it to its size: CSS Grid 1 §12, from what layout kept."""

from collections.abc import Iterator, Sequence
from typing import assert_never

from redcrate.core.explain.terms import Reason
from redcrate.core.layout.grid_facts import GridFacts, GridTrack, TrackReason
from redcrate.core.page import ElementBox
from redcrate.core.records import dataclass
from redcrate.core.units import ZERO, LayoutUnit, format_px


@dataclass(frozen=True, slots=True)
class AreaSum:
    """One axis of an area: its tracks, the gaps between them, and where it begins; exact in 1/64 px."""

    kind: str  # "column" or "row"
    first: int
    tracks: tuple[GridTrack, ...]
    gaps: LayoutUnit

    @property
    def size(self) -> LayoutUnit:
        """From the start of the first to the end of the last."""
        return self.tracks[-1].end - self.tracks[0].start


def area_sums(box: ElementBox) -> tuple[AreaSum, AreaSum] | None:
    """The area of a grid item, across and down; None for what is no grid item."""
    around = None if box.box is None else box.box.container
    facts = None if around is None else around.fragment.facts
    if box.box is None or not isinstance(facts, GridFacts):
        return None
    area = facts.areas.get(box.box.fragment.box)
    if area is None:
        return None
    return _sum("column", facts.columns, area.columns), _sum("row", facts.rows, area.rows)


def _sum(kind: str, tracks: Sequence[GridTrack], span: tuple[int, int]) -> AreaSum:
    inside = tuple(tracks[span[0] : span[1]])
    size = inside[-1].end - inside[0].start
    return AreaSum(kind, span[0] + 1, inside, size - sum((t.size for t in inside), ZERO))


def area_reasons(found: AreaSum) -> Iterator[Reason]:
    """Which tracks the area has, and why each is as large as it is."""
    yield Reason(_area(found), None)
    for number, track in enumerate(found.tracks, found.first):
        yield Reason(track_sentence(found.kind, number, track), None)


def _area(found: AreaSum) -> str:
    size = format_px(found.size)
    if len(found.tracks) == 1:
        return f"Its area is {found.kind} {found.first}: {size} px."
    last = found.first + len(found.tracks) - 1
    parts = " + ".join(format_px(t.size) for t in found.tracks)
    gaps = f" + {format_px(found.gaps)} of gaps" if found.gaps else ""
    return f"Its area is {found.kind}s {found.first} to {last}: {parts}{gaps} = {size} px."


def track_sentence(kind: str, number: int, track: GridTrack) -> str:
    """Why a track has its size."""
    size, name = format_px(track.size), f"{kind.capitalize()} {number}"
    asked = "" if track.asked_by is None else f", because of {track.asked_by.label}"
    match track.reason:
        case TrackReason.FIXED:
            return f"{name} has a fixed size: {size} px."
        case TrackReason.FLEX:
            share = f"{track.factor:g}fr"
            if track.asked_by is not None:
                return f"{name}: its content{asked} needs more than {share}: {size} px."
            return f"{name}: {share} of the free space, {size} px."
        case TrackReason.CONTENT | TrackReason.LIMIT:
            if track.asked_by is None and track.size:
                return f"{name} has its minimum size: {size} px."
            return f"{name} grows to its content{asked}: {size} px."
        case TrackReason.STRETCHED:
            return f"{name} is auto and stretches over free space: {size} px."
        case TrackReason.EMPTY:
            return f"{name} is empty, so auto-fit collapses it."
        case TrackReason.SHARED:
            return f"{name} is {kind} {track.number} of the grid around: {size} px."
    assert_never(track.reason)
