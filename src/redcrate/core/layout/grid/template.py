"""The explicit grid along one axis: its tracks, and which lines a name stands for, CSS Grid 1 §7.

Lines count from 1 at the start of the explicit grid, as authors count them.
"""

from collections.abc import Iterator, Sequence

from redcrate.core.layout.grid.breadths import fixed
from redcrate.core.layout.shared_tracks import SharedTracks
from redcrate.core.records import dataclass
from redcrate.core.style.grid import (
    AUTO_FILL,
    AUTO_FIT,
    AUTO_TRACK,
    MOST_LINES,
    Areas,
    LineNames,
    Repeat,
    Subgrid,
    TrackEntry,
    TrackList,
    TrackSize,
)
from redcrate.core.units import STEP, ZERO, LayoutUnit


@dataclass(frozen=True, slots=True)
class Room:
    """How much there is for tracks: definite, or limited from above or below; None: not known. 1/64 px."""

    size: LayoutUnit | None
    most: LayoutUnit | None = None
    least: LayoutUnit | None = None
    gap: LayoutUnit = ZERO


@dataclass(frozen=True, slots=True, eq=False)
class ExplicitTracks:
    """The explicit tracks of one axis. names: of each line, from line 1. fitted: the tracks of an auto-fit.

    sized: how many of them the template sizes; those that areas add are sized as implicit ones (§7.1). is_shared: they are
    a subgrid's, which has no implicit ones (Grid 2 §9).
    """

    tracks: tuple[TrackSize, ...]
    sized: int
    names: tuple[frozenset[str], ...]
    fitted: range
    is_shared: bool = False

    def named(self, name: str) -> list[int]:
        """The numbers of the lines with that name."""
        return [at + 1 for at, names in enumerate(self.names) if name in names]


def explicit_tracks(template: TrackList, areas: Sequence[Sequence[str]], room: Room) -> ExplicitTracks:
    """§7.1: the tracks of a template, and those that the areas (rows of this axis) need beyond."""
    times, fits = _auto_times(template, room), any(_is_fit(e) for e in template)
    tracks: list[TrackSize] = []
    names: list[set[str]] = [set()]
    fitted = range(0)
    for entry in template:
        start = len(tracks)
        _add(entry, times, tracks, names)
        if fits and _is_fit(entry):
            fitted = range(start, len(tracks))
    sized = len(tracks)
    while len(tracks) < len(areas):
        tracks.append(AUTO_TRACK)
        names.append(set())
    for name, (first, last) in area_lines(areas).items():
        names[first].add(f"{name}-start")
        names[last].add(f"{name}-end")
    return ExplicitTracks(tuple(tracks), sized, tuple(frozenset(n) for n in names), fitted)


def subgrid_in(template: TrackList) -> Subgrid | None:
    """What a template says of a subgrid; None where it is none."""
    return template[0] if template and isinstance(template[0], Subgrid) else None


def subgrid_tracks(own: Subgrid, areas: Sequence[Sequence[str]], shared: SharedTracks) -> ExplicitTracks:
    """Grid 2 §9: as many tracks as it spans; lines have names of the grid around, of its own, and of its areas."""
    names = [set(those) for those in shared.names]
    for line, more in zip(names, _own_names(own, len(names)), strict=False):
        line.update(more)
    for name, (first, last) in area_lines(areas).items():
        names[min(first, shared.count)].add(f"{name}-start")
        names[min(last, shared.count)].add(f"{name}-end")
    tracks = (AUTO_TRACK,) * shared.count
    found = tuple(frozenset(n) for n in names)
    return ExplicitTracks(tracks, shared.count, found, range(0), is_shared=True)


def _own_names(own: Subgrid, lines: int) -> list[tuple[str, ...]]:
    """Grid 2 §7.2: the names of its lines, repeated ones as often as there are lines, written out."""
    fixed = sum(_length_of(e) for e in own.names if not _is_auto(e))
    auto = sum(_length_of(e) for e in own.names if _is_auto(e))
    times = max(0, lines - fixed) // auto if auto else 0
    found: list[tuple[str, ...]] = []
    for entry in own.names:
        if isinstance(entry, LineNames):
            found.append(entry.names)
        elif isinstance(entry, Repeat):
            inner = [e.names for e in entry.entries if isinstance(e, LineNames)]
            found += inner * (min(entry.times, MOST_LINES) if entry.times > 0 else times)
    return found


def _is_auto(entry: TrackEntry) -> bool:
    return isinstance(entry, Repeat) and entry.times == AUTO_FILL


def _length_of(entry: TrackEntry) -> int:
    if not isinstance(entry, Repeat):
        return 1
    return len(entry.entries) * max(1, entry.times)


def _is_fit(entry: TrackEntry) -> bool:
    return isinstance(entry, Repeat) and entry.times == AUTO_FIT


def area_lines(areas: Sequence[Sequence[str]]) -> dict[str, tuple[int, int]]:
    """§7.3.2: the lines, from 0, between which each named area lies along one axis."""
    found: dict[str, tuple[int, int]] = {}
    for at, cells in enumerate(areas):
        for name in cells:
            if name:
                first = found[name][0] if name in found else at
                found[name] = first, at + 1
    return found


def columns_of(areas: Areas) -> tuple[tuple[str, ...], ...]:
    """The same areas, column by column."""
    return tuple(zip(*areas, strict=True))


def _add(entry: TrackEntry, times: int, tracks: list[TrackSize], names: list[set[str]]) -> None:
    """Append one entry of a template: the names of a line, a track, or a repetition."""
    if isinstance(entry, LineNames):
        names[-1].update(entry.names)
    elif isinstance(entry, TrackSize):
        if len(tracks) < MOST_LINES:
            tracks.append(entry)
            names.append(set())
    elif isinstance(entry, Repeat):
        for _ in range(entry.times if entry.times > 0 else times):
            for inner in entry.entries:
                _add(inner, times, tracks, names)


def _sizes(entries: Sequence[TrackEntry]) -> Iterator[TrackSize]:
    for entry in entries:
        if isinstance(entry, TrackSize):
            yield entry
        elif isinstance(entry, Repeat) and entry.times > 0:
            for _ in range(entry.times):
                yield from _sizes(entry.entries)


def _auto_times(template: TrackList, room: Room) -> int:
    """§7.2.3.2: how often an auto-fill or auto-fit repeats: as often as it fits, once at least."""
    auto = next(
        (e for e in template if isinstance(e, Repeat) and e.times in (AUTO_FILL, AUTO_FIT)), None
    )
    if auto is None:
        return 0
    base = room.size
    if base is None:
        base = room.most if room.most is not None else room.least
    if base is None:
        return 1
    others = [_length(s, room) for s in _sizes(template)]
    repeated = [_length(s, room) for s in _sizes(auto.entries)]
    one = sum((max(STEP * 64, s) for s in repeated), ZERO) + room.gap * len(repeated)
    left = base + room.gap - sum(others, ZERO) - room.gap * len(others)
    if room.size is None and room.most is None:
        return max(1, -(-left // one))
    return max(1, min(MOST_LINES, left // one))


def _length(size: TrackSize, room: Room) -> LayoutUnit:
    """The length that a track counts with: its largest, else its smallest; the latter is a floor."""
    most, least = fixed(size.most, room.size), fixed(size.least, room.size)
    if most is None:
        return least or ZERO
    return max(most, least or ZERO)
