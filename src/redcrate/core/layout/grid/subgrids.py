"""Subgrids: items that share tracks with the grid around, and whose own items ask of these: CSS Grid 2 §9.

Amounts are 1/64 px.
"""

from collections.abc import Callable, Iterator, Sequence

from redcrate.core.boxes.box import Box, InnerDisplay
from redcrate.core.layout.edges import gap_of
from redcrate.core.layout.grid.items import AcrossItem, DownItem, GridItem, items_of
from redcrate.core.layout.grid.lines import Grid
from redcrate.core.layout.grid.placement import Area, Span
from redcrate.core.layout.grid.template import ExplicitTracks, Room, area_lines, columns_of, subgrid_in
from redcrate.core.layout.grid.track_sizing import Contributions, Spanning
from redcrate.core.layout.grid.tracks import Track
from redcrate.core.layout.grid_facts import GridFacts
from redcrate.core.layout.shared_tracks import SharedTracks
from redcrate.core.layout.table.kept import used_edges
from redcrate.core.records import changed, dataclass
from redcrate.core.style.grid import TrackList
from redcrate.core.style.values import OffsetValue
from redcrate.core.units import ZERO, LayoutUnit

_DEEPEST = 32  # each is measured again for every one around it


def is_subgrid(box: Box, template: TrackList) -> bool:
    """Whether a grid item shares the tracks of an axis."""
    return box.inner is InnerDisplay.GRID and subgrid_in(template) is not None


def shared_by(item: GridItem, grid: Grid, gaps: tuple[LayoutUnit, LayoutUnit]) -> None:
    """Tell an item which tracks it shares, without their sizes; far down in subgrids of subgrids it has none."""
    style, found = item.style, grid.placement
    columns = rows = None
    if grid.depth >= _DEEPEST:
        return
    if is_subgrid(item.box, style.grid_template_columns):
        areas = columns_of(grid.style.grid_template_areas)
        names = _names(item.area.columns, grid.columns, found.before_columns, areas)
        columns = SharedTracks(names, gaps[0], item.area.columns.start + 1, None, grid.depth)
    if is_subgrid(item.box, style.grid_template_rows):
        names = _names(item.area.rows, grid.rows, found.before_rows, grid.style.grid_template_areas)
        rows = SharedTracks(names, gaps[1], item.area.rows.start + 1, None, grid.depth)
    item.shared = columns, rows


def _names(
    span: Span, explicit: ExplicitTracks, before: int, areas: Sequence[Sequence[str]]
) -> tuple[frozenset[str], ...]:
    """§9: the names of the lines inside; an area that lies partly in it ends with it."""
    lines = range(span.start - before, span.end - before + 1)
    names = [set(explicit.names[n]) if 0 <= n < len(explicit.names) else set() for n in lines]
    for name, (first, last) in area_lines(areas).items():
        if first < lines[0] < last:
            names[0].add(f"{name}-start")
        if first < lines[-1] < last:
            names[-1].add(f"{name}-end")
    return tuple(frozenset(n) for n in names)


def with_columns(item: GridItem, tracks: Sequence[Track]) -> None:
    """Tell an item how large the columns are that it shares."""
    columns, rows = item.shared
    if columns is not None:
        places = _places(item, columns, tracks[item.area.columns.start : item.area.columns.end], 0)
        item.shared = changed(columns, places=places), rows


def with_rows(item: GridItem, tracks: Sequence[Track]) -> None:
    """Tell an item how large the rows are that it shares."""
    columns, rows = item.shared
    if rows is not None:
        places = _places(item, rows, tracks[item.area.rows.start : item.area.rows.end], 1)
        item.shared = columns, changed(rows, places=places)


def _places(
    item: GridItem, shared: SharedTracks, tracks: Sequence[Track], axis: int
) -> tuple[tuple[LayoutUnit, LayoutUnit], ...]:
    """§9: the tracks from the content edge: its edges and half the difference of the gaps are taken off them."""
    before, after = edges_of(item, axis)
    half = (own_gap(item.box, shared, axis) - shared.gap) // 2
    origin = tracks[0].start + before
    found = []
    for at, track in enumerate(tracks):
        start = track.start + (half if at else before)
        end = track.start + track.base - (half if at < len(tracks) - 1 else after)
        found.append((LayoutUnit(start - origin), max(ZERO, LayoutUnit(end - start))))
    return tuple(found)


def own_gap(box: Box, shared: SharedTracks, axis: int) -> LayoutUnit:
    """§9: `normal` is the gap of the grid around."""
    value: OffsetValue = box.style.row_gap if axis else box.style.column_gap
    return shared.gap if isinstance(value, str) else gap_of(value, ZERO)


def edges_of(item: GridItem, axis: int) -> tuple[LayoutUnit, LayoutUnit]:
    """Margin, border and padding at the start and the end of an axis."""
    border, padding = used_edges(item.run.cache, item.box, item.width)
    margin = item.margins()
    if axis:
        return margin.top + border.top + padding.top, margin.bottom + border.bottom + padding.bottom
    left = margin.left + border.left + padding.left
    right = margin.right + border.right + padding.right
    return (right, left) if item.style.direction == "rtl" else (left, right)


@dataclass(slots=True, eq=False)
class _Edges:
    """What a subgrid asks of its first and its last track for its own edges, as if nothing stood there."""

    box: Box
    size: LayoutUnit

    def minimum(self, tracks: Sequence[Track]) -> LayoutUnit:
        """Its edges."""
        return self.size

    def min_content(self) -> LayoutUnit:
        """Its edges."""
        return self.size

    def max_content(self) -> LayoutUnit:
        """Its edges."""
        return self.size


@dataclass(slots=True, eq=False)
class _Inside:
    """What an item of a subgrid asks of the tracks around: extra: the edges of the subgrid that it stands at."""

    box: Box
    asks: Contributions
    extra: LayoutUnit

    def minimum(self, tracks: Sequence[Track]) -> LayoutUnit:
        """As it asks by itself."""
        return self.asks.minimum(tracks) + self.extra

    def min_content(self) -> LayoutUnit:
        """As it asks by itself."""
        return self.asks.min_content() + self.extra

    def max_content(self) -> LayoutUnit:
        """As it asks by itself."""
        return self.asks.max_content() + self.extra


def asked_across(item: GridItem) -> Iterator[Spanning]:
    """What an item asks of columns, or what the items of a subgrid do."""
    shared = item.shared[0]
    if shared is None:
        yield Spanning(AcrossItem(item), item.area.columns)
        return
    grid = Grid(item.box, Room(None), Room(None), item.shared)
    gaps = own_gap(item.box, shared, 0), ZERO
    yield from _passed_on(item, shared, 0, inner_items(item, grid, gaps), asked_across)


def inner_items(item: GridItem, grid: Grid, gaps: tuple[LayoutUnit, LayoutUnit]) -> Iterator[GridItem]:
    """The items of a subgrid, which may be subgrids too."""
    for inner in items_of(item.box, grid.placement.areas, item.run):
        shared_by(inner, grid, gaps)
        yield inner


def asked_down(item: GridItem, basis: LayoutUnit | None) -> Iterator[Spanning]:
    """What an item asks of rows, or what the items of a subgrid do, in its columns. basis: the height of its area."""
    shared = item.shared[1]
    if shared is None:
        yield Spanning(DownItem(item, basis), item.area.rows)
        return
    facts = item.lay_out(None, final=False).facts
    inside = _measured(item, shared, facts) if isinstance(facts, GridFacts) else iter(())
    yield from _passed_on(item, shared, 1, inside, lambda inner: asked_down(inner, None))


def _measured(item: GridItem, shared: SharedTracks, facts: GridFacts) -> Iterator[GridItem]:
    """The items of a subgrid whose columns have their sizes."""
    areas = {box: Area(Span(*a.columns), Span(*a.rows)) for box, a in facts.areas.items()}
    gaps = facts.column_gap, own_gap(item.box, shared, 1)
    tracks = [Track("fixed", "fixed", base=t.size, limit=t.size, start=t.start) for t in facts.columns]
    grid = Grid(item.box, Room(None), Room(None), item.shared)
    for inner in items_of(item.box, areas, item.run):
        shared_by(inner, grid, gaps)
        inside = tracks[inner.area.columns.start : inner.area.columns.end]
        inner.width = inside[-1].start + inside[-1].base - inside[0].start
        with_columns(inner, tracks)
        yield inner


def _passed_on(
    item: GridItem,
    shared: SharedTracks,
    axis: int,
    inside: Iterator[GridItem],
    asked: Callable[[GridItem], Iterator[Spanning]],
) -> Iterator[Spanning]:
    """§9: what is in a subgrid asks of the tracks around as if it stood there, with the edges that it touches."""
    before, after = edges_of(item, axis)
    span = item.area.rows if axis else item.area.columns
    half = (own_gap(item.box, shared, axis) - shared.gap) // 2
    first, last = Span(span.start, span.start + 1), Span(span.end - 1, span.end)
    ends = [(LayoutUnit(before + after), span)] if span.count == 1 else [(before, first), (after, last)]
    yield from (Spanning(_Edges(item.box, size), track, is_edge=True) for size, track in ends if size)
    for inner in inside:
        for one in asked(inner):
            extra = (half if one.span.start else before) + (half if one.span.end < span.count else after)
            asks = _Inside(one.asks.box, one.asks, LayoutUnit(extra))
            yield Spanning(asks, one.span.moved(span.start))


def shared_alone(box: Box) -> tuple[SharedTracks | None, SharedTracks | None]:
    """The rows of a subgrid while the grid around asks for the sizes of its content: as many as it says itself."""
    style = box.style
    if not is_subgrid(box, style.grid_template_rows):
        return None, None
    start, end = style.grid_row_start, style.grid_row_end
    spans = [line.number for line in (start, end) if line.is_span and line.number]
    count = spans[0] if spans else abs(end.number - start.number) if end.number and start.number else 1
    return None, SharedTracks((frozenset(),) * (max(1, count) + 1), ZERO, 1)
