"""The grid formatting context: CSS Grid 1, from the template to the place of each item."""

from collections.abc import Sequence
from types import MappingProxyType

from redcrate.core.boxes.box import Box
from redcrate.core.geometry import Edges, Rect
from redcrate.core.layout import block_container
from redcrate.core.layout.alignment import (
    Alignment,
    alignment,
    distribution,
    offset_of,
    place_across,
    self_alignment,
)
from redcrate.core.layout.block_container import layout_block_container
from redcrate.core.layout.contexts import Content, FlowArea, LayoutRun
from redcrate.core.layout.edges import border_of, gap_of
from redcrate.core.layout.fragments import ContentSizes, Fragment, OutOfFlowCandidate, Placed
from redcrate.core.layout.grid.items import GridItem, items_of
from redcrate.core.layout.grid.lines import Grid
from redcrate.core.layout.grid.placement import Span, wanted
from redcrate.core.layout.grid.subgrids import (
    asked_across,
    asked_down,
    own_gap,
    shared_alone,
    shared_by,
    with_columns,
    with_rows,
)
from redcrate.core.layout.grid.template import (
    ExplicitTracks,
    Room,
)
from redcrate.core.layout.grid.track_sizing import Constraint, TrackSizing
from redcrate.core.layout.grid.tracks import Track, gaps_in, shared_track
from redcrate.core.layout.grid_facts import GridArea, GridFacts
from redcrate.core.layout.heights import definite_height
from redcrate.core.layout.margins import NO_MARGINS
from redcrate.core.layout.relative import relative_shift
from redcrate.core.layout.shared_tracks import SharedTracks
from redcrate.core.layout.space import ConstraintSpace
from redcrate.core.layout.widths import shared_margins
from redcrate.core.records import dataclass
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.grid import GridLine
from redcrate.core.style.values import NO_LENGTH
from redcrate.core.units import ZERO, LayoutUnit


class GridContext:
    """Lays out grid containers."""

    reasons = block_container.REASONS

    def layout(self, run: LayoutRun, box: Box, space: ConstraintSpace) -> Fragment:
        """The box, and its items in their areas."""
        return layout_block_container(run, box, space, _flow)

    def content_sizes(self, run: LayoutRun, box: Box, space: ConstraintSpace) -> ContentSizes:
        """§5.2: what the columns come to under both constraints."""
        sizes = [_columns_of_content(run, box, c) for c in ("min-content", "max-content")]
        return ContentSizes(sizes[0], max(sizes))


def _columns_of_content(run: LayoutRun, box: Box, constraint: Constraint) -> LayoutUnit:
    style = box.style
    gap = gap_of(style.column_gap, ZERO)
    most = None if isinstance(style.max_width, NO_LENGTH) else style.max_width.resolve(ZERO)
    least = None if isinstance(style.min_width, NO_LENGTH) else style.min_width.resolve(ZERO)
    down = Room(None, gap=gap_of(style.row_gap, None))
    grid = Grid(box, Room(None, most, least, gap), down, shared_alone(box))
    items = items_of(box, grid.placement.areas, run)
    for item in items:
        shared_by(item, grid, (gap, ZERO))
    tracks = grid.column_tracks(None)
    spanning = [asked for item in items for asked in asked_across(item)]
    TrackSizing(tracks, spanning, gap, None, constraint, stretches=False).run()
    return sum((t.base for t in tracks), ZERO) + gaps_in(tracks, gap)


def _flow(run: LayoutRun, box: Box, area: FlowArea) -> Content:
    return _GridLayout(run, box, area).run_all()


def place_tracks(tracks: Sequence[Track], room: LayoutUnit, gap: LayoutUnit, value: Alignment) -> None:
    """§10.5: content alignment puts the tracks into the container."""
    shown = sum(1 for t in tracks if not t.is_collapsed)
    free = room - sum((t.base for t in tracks), ZERO) - gaps_in(tracks, gap)
    shared = distribution(value, free, shown)
    start, is_first = shared.before, True
    for track in tracks:
        if not track.is_collapsed and not is_first:
            start += gap + shared.between
        is_first = is_first and track.is_collapsed
        track.start = start
        start += track.base


def _given(shared: SharedTracks | None) -> list[Track]:
    """Grid 2 §9: the tracks that a subgrid has of the grid around, where these have their sizes."""
    places = () if shared is None else shared.places or ()
    first = 0 if shared is None else shared.first
    return [shared_track(start, size, first + at) for at, (start, size) in enumerate(places)]


def _reach_of(tracks: Sequence[Track], span: Span) -> tuple[LayoutUnit, LayoutUnit]:
    """Where an area starts, and how large it is, gaps included."""
    inside = tracks[span.start : span.end]
    start = inside[0].start
    return start, inside[-1].start + inside[-1].base - start


@dataclass(frozen=True, slots=True)
class _Edges:
    """The edges along one axis that an absolute box is placed between: its first and last line; None: auto."""

    start: LayoutUnit | None
    end: LayoutUnit | None


class _GridLayout:
    """One container while it is laid out."""

    def __init__(self, run: LayoutRun, box: Box, area: FlowArea) -> None:
        self.run = run
        self.box = box
        self.area = area
        self.style: ComputedStyle = box.style
        forced = area.height.space.forced
        self.shared = (None, None) if forced is None else (forced.columns, forced.rows)
        self.column_gap: LayoutUnit = gap_of(box.style.column_gap, area.width)
        self.row_gap: LayoutUnit = gap_of(box.style.row_gap, area.percent_height)
        if self.shared[0] is not None:
            self.column_gap = own_gap(box, self.shared[0], 0)
        if self.shared[1] is not None:
            self.row_gap = own_gap(box, self.shared[1], 1)
        across = Room(area.width, gap=self.column_gap)
        self.grid = Grid(box, across, self.row_room(), self.shared)
        self.items: list[GridItem] = items_of(box, self.grid.placement.areas, run)
        for item in self.items:
            shared_by(item, self.grid, (self.column_gap, self.row_gap))
        self.columns: list[Track] = []
        self.rows: list[Track] = []
        self.height = ZERO

    def row_room(self) -> Room:
        """What there is for rows before they are sized."""
        style, known = self.style, self.area.height
        basis = known.space.height
        most = definite_height(style.max_height, style, basis, known.extra)
        least = definite_height(style.min_height, style, basis, known.extra)
        return Room(self.area.percent_height, most, least, self.row_gap)

    def run_all(self) -> Content:
        """§12.1: columns, then rows, then items in their areas."""
        self.size_columns()
        auto_height = self.size_rows()
        self.height = self.area.height.used(auto_height, "children").content
        if not _given(self.shared[1]):
            place_tracks(self.rows, self.height, self.row_gap, alignment(self.style.align_content))
        placed = [self.placed(item) for item in self.items]
        return self.content(placed, auto_height)

    def size_columns(self) -> None:
        """§12.1.1: the columns in the width of the container."""
        self.columns = _given(self.shared[0]) or self.sized_columns()
        for item in self.items:
            item.width = _reach_of(self.columns, item.area.columns)[1]
            with_columns(item, self.columns)

    def sized_columns(self) -> list[Track]:
        """The columns, sized and placed."""
        width, style = self.area.width, self.style
        columns = self.grid.column_tracks(width)
        spanning = [asked for item in self.items for asked in asked_across(item)]
        justify = alignment(style.justify_content)
        stretches = justify.keyword in ("normal", "stretch")
        TrackSizing(columns, spanning, self.column_gap, width, "", stretches).run()
        if justify.keyword in ("left", "right"):
            at_start = (justify.keyword == "left") != (style.direction == "rtl")
            justify = Alignment("start" if at_start else "end", justify.is_safe)
        place_tracks(columns, width, self.column_gap, justify)
        return columns

    def size_rows(self) -> LayoutUnit:
        """§12.1.2: the rows; again with the height that they make where something hangs on that. The auto height."""
        given = _given(self.shared[1])
        if given:
            self.rows = given
            return given[-1].start + given[-1].base
        room = self.area.percent_height
        self.rows = self.sized_rows(room)
        auto = sum((t.base for t in self.rows), ZERO) + gaps_in(self.rows, self.row_gap)
        if room is None:
            used = self.area.height.used(auto, "children").content
            if used != auto or self.rows_hang_on_height():
                self.rows = self.sized_rows(used)
            self.row_gap = gap_of(self.style.row_gap, used)
        return auto

    def rows_hang_on_height(self) -> bool:
        """Whether a row is a share of a height that was not known, or of less than all that is left."""
        fresh = self.grid.row_tracks(ZERO)
        if any(a.least != b.least or a.most != b.most for a, b in zip(self.rows, fresh, strict=True)):
            return True
        return 0 < sum(t.factor for t in fresh) < 1

    def sized_rows(self, room: LayoutUnit | None) -> list[Track]:
        """The rows in that height; None: as high as they ask."""
        rows = self.grid.row_tracks(room)
        self.align_baselines()
        spanning = [a for i in self.items for a in asked_down(i, self.area_height(i, rows))]
        constraint: Constraint = "" if room is not None else "max-content"
        stretches = alignment(self.style.align_content).keyword in ("normal", "stretch")
        TrackSizing(rows, spanning, self.row_gap, room, constraint, stretches).run()
        return rows

    @staticmethod
    def area_height(item: GridItem, rows: Sequence[Track]) -> LayoutUnit | None:
        """§12.5: what percentages refer to while rows are sized: rows of fixed sizes alone."""
        inside = rows[item.area.rows.start : item.area.rows.end]
        if all(t.least == "fixed" and t.most == "fixed" and t.base == t.growth_limit for t in inside):
            return sum((t.base for t in inside), ZERO)
        return None

    def align_baselines(self) -> None:
        """§10.6: what items with aligned baselines need above them, by the row that they share."""
        for keyword in ("baseline",):
            groups: dict[int, list[GridItem]] = {}
            for item in self.items:
                auto = "auto" in (item.style.margin_top, item.style.margin_bottom)
                if item.align.keyword == keyword and not auto:
                    groups.setdefault(item.area.rows.start, []).append(item)
            for group in groups.values():
                reach = [_ascent(i, i.lay_out(None, final=False)) for i in group]
                for item, own in zip(group, reach, strict=True):
                    item.shim = max(reach) - own

    def placed(self, item: GridItem) -> Placed:
        """The item in its area, from the container's border box: §10.2 to §10.4."""
        area, style = self.area, item.style
        left, width = _reach_of(self.columns, item.area.columns)
        top, height = _reach_of(self.rows, item.area.rows)
        with_rows(item, self.rows)
        fragment = item.lay_out(height, final=True)
        if self.style.direction == "rtl":
            left = area.width - left - width
        margin = _used_margins(item, fragment, width, height)
        spare = width - fragment.width - margin.across
        x = margin.left + _offset(item.justify, spare, self.style.direction, style.direction)
        free = height - fragment.height - margin.down
        y = margin.top + item.shim
        if item.align.keyword != "baseline":
            y = margin.top + _offset(item.align, free, "ltr", "ltr")
        takes = margin.across > item.margins().across
        fragment = fragment.with_margins(margin, shared_margins(style, takes=takes))
        shift = relative_shift(style, width, height, self.style.direction)
        return Placed(fragment, area.x + left + x, area.y + top + y, *shift)

    def content(self, placed: list[Placed], auto_height: LayoutUnit) -> Content:
        """What is inside; §4.3: the container's baselines."""
        candidates = [self.candidate(c) for c in self.box.children if c.is_out_of_flow]
        for at in placed:
            candidates += at.out_of_flow
        first, last = self.baselines(placed)
        gaps = gaps_in(self.columns, self.column_gap), gaps_in(self.rows, self.row_gap)
        areas = {
            i.box: GridArea(
                (i.area.columns.start, i.area.columns.end), (i.area.rows.start, i.area.rows.end)
            )
            for i in self.items
        }
        facts = GridFacts(
            tuple(t.facts() for t in self.columns),
            tuple(t.facts() for t in self.rows),
            MappingProxyType(areas),
            self.column_gap,
            self.row_gap,
            self.area.width - sum((t.base for t in self.columns), ZERO) - gaps[0],
            self.height - sum((t.base for t in self.rows), ZERO) - gaps[1],
        )
        return Content(
            tuple(placed),
            (),
            auto_height,
            "children" if placed or self.rows else "nothing",
            NO_MARGINS,
            first,
            last,
            tuple(candidates),
            facts=facts,
        )

    def baselines(self, placed: list[Placed]) -> tuple[LayoutUnit | None, LayoutUnit | None]:
        """§4.3: of the first and the last row that holds an item."""
        if not placed:
            return None, None
        order = list(zip(self.items, placed, strict=True))
        first = min(order, key=lambda at: (at[0].area.rows.start, at[0].area.columns.start))
        top = first[0].area.rows.start
        aligned = [a for a in order if a[0].area.rows.start == top and a[0].align.keyword == "baseline"]
        last = max(order, key=lambda at: (at[0].area.rows.end, at[0].area.columns.end))
        return (aligned or [first])[0][1].baseline(last=False), last[1].baseline(last=True)

    def candidate(self, child: Box) -> OutOfFlowCandidate:
        """§9.1, §9.2: an absolute box: its static place, and the area that it is placed in."""
        style, area, around = child.style, self.area, self.style
        justify = self_alignment(style.justify_self, around.justify_items)
        align = self_alignment(style.align_self, around.align_items)
        across = place_across(justify, around.direction, style.direction)
        down = place_across(align, "ltr", "ltr")
        named = self.area_of(child)
        at = named or Rect(area.x, area.y, area.width, self.height)
        x, y = at.x + offset_of(across, at.width), at.y + offset_of(down, at.height)
        return OutOfFlowCandidate(child, x, y, None, across, down, area=named)

    def area_of(self, child: Box) -> Rect | None:
        """§9.1: the grid area of an absolute box, from the border box; None where it asks for none.

        It counts only where the container contains the box.
        """
        style, found = child.style, self.grid.placement
        if self.style.position == "static" and not self.style.contains_fixed:
            return None
        across = self.edges(
            (style.grid_column_start, style.grid_column_end),
            self.grid.columns,
            found.before_columns,
            self.columns,
        )
        down = self.edges(
            (style.grid_row_start, style.grid_row_end), self.grid.rows, found.before_rows, self.rows
        )
        if across == _Edges(None, None) and down == _Edges(None, None):
            return None
        area, border = self.area, border_of(self.style)
        padding_left, padding_top = border.left - area.x, border.top - area.y
        right = self.padding_size[0] + padding_left
        bottom = self.padding_size[1] + padding_top
        left_edge = across.start if across.start is not None else padding_left
        right_edge = across.end if across.end is not None else right
        if self.style.direction == "rtl":
            left_edge = padding_left if across.end is None else area.width - across.end
            right_edge = right if across.start is None else area.width - (across.start or ZERO)
        top_edge = padding_top if down.start is None else down.start
        bottom_edge = bottom if down.end is None else down.end
        return Rect(
            area.x + left_edge,
            area.y + top_edge,
            max(ZERO, right_edge - left_edge),
            max(ZERO, bottom_edge - top_edge),
        )

    @property
    def padding_size(self) -> tuple[LayoutUnit, LayoutUnit]:
        """Width and height of the container's padding box."""
        area, border = self.area, border_of(self.style)
        right, bottom = self.padding_end
        return (
            area.x - border.left + area.width + right,
            area.y - border.top + self.height + bottom,
        )

    @property
    def padding_end(self) -> tuple[LayoutUnit, LayoutUnit]:
        """The paddings on the right and at the bottom."""
        style, width = self.style, self.area.height.space.width
        return (
            max(ZERO, style.padding_right.resolve(width)),
            max(ZERO, style.padding_bottom.resolve(width)),
        )

    @staticmethod
    def edges(
        lines: tuple[GridLine, GridLine], explicit: ExplicitTracks, before: int, tracks: Sequence[Track]
    ) -> _Edges:
        """The edges that two placement properties of an absolute box mean; lines that are not there are auto."""
        start, end = lines
        if start.is_auto and end.is_auto:
            return _Edges(None, None)
        span = wanted(start, end, explicit).span
        if span is None:
            return _Edges(None, None)
        first, last = span.start + before, span.end + before
        known = range(len(tracks) + 1)
        one = (
            None if start.is_auto or start.is_span or first not in known else _line_at(tracks, first, 0)
        )
        two = None if end.is_auto or end.is_span or last not in known else _line_at(tracks, last, 1)
        if start.is_span and last in known:
            one = _line_at(tracks, first, 0) if first in known else None
        if end.is_span and first in known:
            two = _line_at(tracks, last, 1) if last in known else None
        return _Edges(one, two)


def _line_at(tracks: Sequence[Track], line: int, side: int) -> LayoutUnit:
    """Where a line lies: at the start of the track behind it (side 0), or the end of the one in front (1)."""
    if not tracks:
        return ZERO
    if side == 0:
        if line < len(tracks):
            return tracks[line].start
        return tracks[-1].start + tracks[-1].base
    return tracks[line - 1].start + tracks[line - 1].base if line else tracks[0].start


def _ascent(item: GridItem, fragment: Fragment) -> LayoutUnit:
    found = fragment.first_baseline
    return item.margins().top + (fragment.height if found is None else found)


def _used_margins(item: GridItem, fragment: Fragment, width: LayoutUnit, height: LayoutUnit) -> Edges:
    """§10.2: auto margins take what is left of the area."""
    margin, style = item.margins(), item.style
    across = max(ZERO, width - fragment.width - margin.across)
    down = max(ZERO, height - fragment.height - margin.down)
    left, right = _auto_shares(across, style.margin_left == "auto", style.margin_right == "auto")
    top, bottom = _auto_shares(down, style.margin_top == "auto", style.margin_bottom == "auto")
    return Edges(margin.top + top, margin.right + right, margin.bottom + bottom, margin.left + left)


def _auto_shares(free: LayoutUnit, first: bool, second: bool) -> tuple[LayoutUnit, LayoutUnit]:
    if first and second:
        return free // 2, free - free // 2
    return (free if first else ZERO), (free if second else ZERO)


def _offset(value: Alignment, free: LayoutUnit, around: str, own: str) -> LayoutUnit:
    """Where an item stands in its area, from the left or the top, by the directions of the grid and its own."""
    if value.is_safe and free < 0:
        value = Alignment("start")
    return offset_of(place_across(value, around, own), free)
