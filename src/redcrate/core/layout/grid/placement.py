"""Which cells each item takes: CSS Grid 1 §8.3 (lines) and §8.5 (auto-placement).

Tracks count from 0 at the start of the implicit grid; explicit line 1 lies `before` tracks from there.
"""

from collections.abc import Iterable, Sequence

from redcrate.core.boxes.box import Box
from redcrate.core.layout.grid.template import ExplicitTracks
from redcrate.core.records import dataclass
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.grid import MOST_LINES, GridLine


@dataclass(frozen=True, slots=True)
class Span:
    """The tracks from `start` up to, not with, `end`."""

    start: int
    end: int

    @property
    def count(self) -> int:
        """How many."""
        return self.end - self.start

    def moved(self, by: int) -> "Span":
        """The same number of tracks, further on."""
        return Span(self.start + by, self.end + by)


@dataclass(frozen=True, slots=True)
class Wanted:
    """What an item asks for along one axis: a definite span, or a number of tracks anywhere."""

    span: Span | None
    count: int


@dataclass(frozen=True, slots=True)
class Area:
    """The cells of an item."""

    columns: Span
    rows: Span


@dataclass(frozen=True, slots=True)
class Placement:
    """Where all items are. before_*: how many implicit tracks lie in front of the explicit grid."""

    areas: dict[Box, Area]
    columns: int
    rows: int
    before_columns: int
    before_rows: int


def wanted(start: GridLine, end: GridLine, explicit: ExplicitTracks) -> Wanted:
    """§8.3 and §8.3.1: what two placement properties ask for; tracks count from the explicit grid's start."""
    first, last = _number(start, explicit, "start"), _number(end, explicit, "end")
    if first is None and last is None:
        span = next((g for g in (start, end) if g.is_span), None)
        return Wanted(None, 1 if span is None or span.name else span.number)
    if first is None:
        assert last is not None
        first = _spanned(start, last, explicit, forward=False)
    elif last is None:
        last = _spanned(end, first, explicit, forward=True)
    low, high = _in_limits(min(first, last)), _in_limits(max(first, last))
    return Wanted(Span(low, max(high, low + 1)), max(1, high - low))


def _in_limits(track: int) -> int:
    return max(-MOST_LINES, min(MOST_LINES, track))


def _number(value: GridLine, explicit: ExplicitTracks, side: str) -> int | None:
    """The line, from 0, that a definite value means; None for auto and spans."""
    if value.is_auto or value.is_span:
        return None
    last = len(explicit.tracks) + 1
    if not value.name:
        return value.number - 1 if value.number > 0 else last + value.number
    if not value.number:
        found = explicit.named(f"{value.name}-{side}") or explicit.named(value.name)
        return found[0] - 1 if found else last  # as the first implicit line (§8.3)
    found = explicit.named(value.name)
    count = abs(value.number)
    if len(found) >= count:
        return (found[count - 1] if value.number > 0 else found[-count]) - 1
    beyond = count - len(found)  # implicit lines have all names
    return last - 1 + beyond if value.number > 0 else -beyond


def _spanned(value: GridLine, at: int, explicit: ExplicitTracks, *, forward: bool) -> int:
    """The other line of a span (§8.3) that counts from line `at`."""
    if not value.is_span:
        return at + 1 if forward else at - 1
    if not value.name:
        return at + value.number if forward else at - value.number
    found = [n - 1 for n in explicit.named(value.name)]
    count = value.number
    if forward:
        behind = [n for n in found if n > at]
        if len(behind) >= count:
            return behind[count - 1]
        return max(at, len(explicit.tracks)) + count - len(behind)
    ahead = [n for n in reversed(found) if n < at]
    if len(ahead) >= count:
        return ahead[count - 1]
    return min(at, 0) - (count - len(ahead))


def place_items(
    items: Sequence[Box], style: ComputedStyle, columns: ExplicitTracks, rows: ExplicitTracks
) -> Placement:
    """§8.5: all items of a container in their cells."""
    by_column = style.grid_auto_flow.startswith("column")
    asked = {i: _asked(i, columns, rows) for i in items}
    if by_column:
        asked = {i: (down, across) for i, (across, down) in asked.items()}
        columns, rows = rows, columns
    if columns.is_shared or rows.is_shared:
        asked = {
            i: (_in_subgrid(a, columns, along_flow=False), _in_subgrid(d, rows, along_flow=True))
            for i, (a, d) in asked.items()
        }
    work = _AutoPlacement(asked, len(columns.tracks), len(rows.tracks), closed=columns.is_shared)
    work.run(dense=style.grid_auto_flow.endswith("dense"))
    work.stay_within(columns, rows)
    return work.placement(turned=by_column)


def _asked(item: Box, columns: ExplicitTracks, rows: ExplicitTracks) -> tuple[Wanted, Wanted]:
    style = item.style
    across = wanted(style.grid_column_start, style.grid_column_end, columns)
    down = wanted(style.grid_row_start, style.grid_row_end, rows)
    return across, down


def _in_subgrid(asked: Wanted, explicit: ExplicitTracks, *, along_flow: bool) -> Wanted:
    """Grid 2 §9: a subgrid has no implicit tracks; what asks for one stands in its first or its last.

    Along the flow what is behind the last one is moved there when all are placed, as engines do it.
    """
    if not explicit.is_shared:
        return asked
    last = len(explicit.tracks)
    count = min(asked.count, last)
    if asked.span is None:
        return Wanted(None, count)
    start = max(0, asked.span.start)
    span = Span(start, max(start + 1, asked.span.end))
    return Wanted(span if along_flow else _cut(span, explicit), count)


def _cut(span: Span, explicit: ExplicitTracks) -> Span:
    """As much of it as lies in a subgrid, one track at least."""
    last = len(explicit.tracks)
    if not explicit.is_shared or span.end <= last:
        return span
    start = min(span.start, last - 1)
    return Span(start, max(start + 1, last))


class _AutoPlacement:
    """The algorithm for `row` flow: each item asks for columns and rows; tracks count from the explicit grid."""

    def __init__(
        self, asked: dict[Box, tuple[Wanted, Wanted]], columns: int, rows: int, *, closed: bool
    ) -> None:
        """closed: there are no other columns."""
        self.asked, self.closed = asked, closed
        self.first, self.last = self._columns(columns)
        self.rows = rows
        self.taken: dict[int, int] = {}  # by row, its columns that are taken: a bit each
        self.placed: dict[Box, tuple[Span, Span]] = {}
        self.top = min([0, *(d.span.start for _, d in asked.values() if d.span is not None)])

    def _columns(self, explicit: int) -> tuple[int, int]:
        """§8.5.2: the columns of the implicit grid."""
        spans = [a.span for a, _ in self.asked.values() if a.span is not None]
        first = min([0, *(s.start for s in spans)])
        last = explicit if self.closed else max([explicit, *(s.end for s in spans)])
        widest = max([0, *(a.count for a, _ in self.asked.values() if a.span is None)])
        return first, max(last, first + widest, first + bool(self.asked))

    def run(self, *, dense: bool) -> None:
        """§8.5.0 to §8.5.4."""
        for item, (across, down) in self.asked.items():
            if across.span is not None and down.span is not None:
                self.take(item, across.span, down.span)
        self.locked_to_rows(dense=dense)
        column, row = self.first, self.top
        for item, (across, down) in self.asked.items():
            if item in self.placed:
                continue
            if dense:
                column, row = self.first, self.top
            if across.span is not None:
                if across.span.start < column:
                    row += 1
                while not self.is_free(across.span, Span(row, row + down.count)):
                    row += 1
                column = across.span.start
                self.take(item, across.span, Span(row, row + down.count))
            else:
                column, row = self.next_free(column, row, across.count, down.count)
                self.take(item, Span(column, column + across.count), Span(row, row + down.count))

    def locked_to_rows(self, *, dense: bool) -> None:
        """§8.5.1: items with a definite row and no definite column."""
        reached: dict[int, int] = {}
        for item, (across, down) in self.asked.items():
            if across.span is not None or down.span is None:
                continue
            start = self.first if dense else reached.get(down.span.start, self.first)
            while not self.is_free(Span(start, start + across.count), down.span):
                start += 1
            self.take(item, Span(start, start + across.count), down.span)
            reached[down.span.start] = start + across.count
            self.last = max(self.last, start + across.count)

    def next_free(self, column: int, row: int, wide: int, high: int) -> tuple[int, int]:
        """The next place from the cursor on where so many cells are free."""
        every = (1 << (self.last - self.first)) - 1
        while True:
            taken = 0
            for one in range(row, row + high):
                taken |= self.taken.get(one, 0)
            free = every & ~taken
            starts = free & (-1 << (column - self.first))
            for beyond in range(1, wide):
                starts &= free >> beyond
            if starts:
                return self.first + (starts & -starts).bit_length() - 1, row
            column, row = self.first, row + 1

    def is_free(self, columns: Span, rows: Span) -> bool:
        """Whether no item has any of these cells."""
        bits = self.bits(columns)
        return not any(self.taken.get(row, 0) & bits for row in range(rows.start, rows.end))

    def bits(self, columns: Span) -> int:
        """A bit for each of some columns."""
        return ((1 << (columns.end - columns.start)) - 1) << (columns.start - self.first)

    def take(self, item: Box, columns: Span, rows: Span) -> None:
        """Give the item its cells."""
        self.placed[item] = columns, rows
        bits = self.bits(columns)
        for row in range(rows.start, rows.end):
            self.taken[row] = self.taken.get(row, 0) | bits

    def stay_within(self, columns: ExplicitTracks, rows: ExplicitTracks) -> None:
        """Grid 2 §9: clamped once all are placed, so that items may lie on one another."""
        if columns.is_shared or rows.is_shared:
            for item, (across, down) in self.placed.items():
                self.placed[item] = _cut(across, columns), _cut(down, rows)
            self.last = len(columns.tracks) if columns.is_shared else self.last

    def placement(self, *, turned: bool) -> Placement:
        """All areas, counted from the start of the implicit grid."""
        bottom = max([self.rows, *(r.end for _, r in self.placed.values())])
        before = -self.first, -self.top
        count = self.last - self.first, bottom - self.top
        areas = {}
        for item in self.asked:
            first, second = self.placed[item]
            spans = first.moved(before[0]), second.moved(before[1])
            areas[item] = Area(*(reversed(spans) if turned else spans))
        if turned:
            before, count = (before[1], before[0]), (count[1], count[0])
        return Placement(areas, *count, *before)


def occupied(spans: Iterable[Span]) -> set[int]:
    """All tracks that any item takes."""
    return {track for span in spans for track in range(span.start, span.end)}
