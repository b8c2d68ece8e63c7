"""The table: its used width, its columns, its rows, and the boxes of all its parts, CSS 2.2 chapter 17."""

from collections.abc import Sequence

from redcrate.core.boxes.box import Box
from redcrate.core.geometry import NO_EDGES, Edges, Rect
from redcrate.core.layout.block_container import REASONS, build_fragment
from redcrate.core.layout.contexts import Content, LayoutRun
from redcrate.core.layout.edges import border_and_padding, margin_or_zero
from redcrate.core.layout.fragments import (
    Across,
    ContentSizes,
    Down,
    Fragment,
    MarginReason,
    OutOfFlowCandidate,
    Placed,
    SizeReason,
    WidthLimit,
)
from redcrate.core.layout.intrinsic import contributions
from redcrate.core.layout.known_height import known_height
from redcrate.core.layout.margins import NO_MARGINS
from redcrate.core.layout.relative import relative_shift
from redcrate.core.layout.space import ConstraintSpace, ForcedSize, Sizing
from redcrate.core.layout.table.borders import TableBorders
from redcrate.core.layout.table.column_measures import (
    UNLIMITED,
    Measure,
    column_measures,
    distribute,
    percent_of_width,
    table_content_sizes,
)
from redcrate.core.layout.table.fixed_layout import fixed_columns, fixed_least
from redcrate.core.layout.table.kept import kept_table, used_edges
from redcrate.core.layout.table.row_heights import (
    MeasuredCell,
    RowHeight,
    grow_rows,
    measured_cell,
    row_heights,
)
from redcrate.core.layout.table.structure import (
    Cell,
    RowGroup,
    TableStructure,
)
from redcrate.core.layout.table_facts import TableColumn, TableFacts
from redcrate.core.layout.widths import content_width, limited_width, side_margins
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.values import NO_LENGTH
from redcrate.core.units import ZERO, LayoutUnit


def spacing_of(style: ComputedStyle) -> tuple[LayoutUnit, LayoutUnit]:
    """The space between cells, across and down (§17.6.1)."""
    if style.border_collapse == "collapse":
        return ZERO, ZERO
    across, down = style.border_spacing
    return across.resolve(ZERO), down.resolve(ZERO)


class TableContext:
    """Lays out tables."""

    reasons = REASONS

    def layout(self, run: LayoutRun, box: Box, space: ConstraintSpace) -> Fragment:
        """The table with its captions, columns, rows and cells."""
        return _Table(run, box, space).lay_out()

    def content_sizes(self, run: LayoutRun, box: Box, space: ConstraintSpace) -> ContentSizes:
        """§17.5.2.2: what the columns come to, and no narrower than the captions."""
        kept, style = kept_table(run.cache, box), box.style
        across, _ = spacing_of(style)
        measures = column_measures(run, kept.structure, kept.borders, across, fixed=False)
        gaps = _gaps(measures, across)
        least, most = table_content_sizes(measures, gaps)
        border, padding = used_edges(run.cache, box, ZERO)
        if style.table_layout == "fixed" and percent_of_width(style.width) is not None:
            most = UNLIMITED  # it will be a share of whatever there is
            fixed = column_measures(run, kept.structure, kept.borders, across, fixed=True)
            least = fixed_least(fixed) + gaps
        captions = _captions_least(run, kept.structure) - border.across - padding.across
        least = max(least, captions)
        return ContentSizes(least, max(least, most))


class TablePartContext:
    """Rows, row groups and columns, which their table lays out; alone they are nothing."""

    reasons = REASONS

    def layout(self, run: LayoutRun, box: Box, space: ConstraintSpace) -> Fragment:
        """Nothing: a part without its table has no size."""
        across = Across(ZERO, ZERO, ZERO, space.width, SizeReason.COLUMNS)
        down = Down(ZERO, SizeReason.ROWS)
        return Fragment(box, ZERO, ZERO, NO_EDGES, NO_EDGES, NO_EDGES, across, down)

    def content_sizes(self, run: LayoutRun, box: Box, space: ConstraintSpace) -> ContentSizes:
        """Nothing."""
        return ContentSizes(ZERO, ZERO)


def _gaps(measures: Sequence[Measure], spacing: LayoutUnit) -> LayoutUnit:
    """The space between columns and at both ends; merged columns have none."""
    count = sum(1 for m in measures if not m.is_merged)
    return spacing * (count + 1) if count else ZERO


def _captions_least(run: LayoutRun, table: TableStructure) -> LayoutUnit:
    return max([ZERO, *(contributions(run, c).min_content for c in table.captions)])


class _Table:
    """One table while it is laid out; places count from its border box, captions included."""

    def __init__(self, run: LayoutRun, box: Box, space: ConstraintSpace) -> None:
        self.run = run
        self.box = box
        self.space = space
        style = self.style = box.style
        kept = kept_table(run.cache, box)
        self.table: TableStructure = kept.structure
        self.borders: TableBorders = kept.borders
        self.border, self.padding = used_edges(run.cache, box, space.width)
        self.extra: LayoutUnit = self.border.across + self.padding.across
        self.extra_down: LayoutUnit = self.border.down + self.padding.down
        self.spacing, self.spacing_down = spacing_of(style)
        self.is_fixed = style.table_layout == "fixed" and style.width not in (
            "auto",
            "max-content",
        )
        self.measures: list[Measure] = column_measures(
            run, self.table, self.borders, self.spacing, fixed=self.is_fixed
        )
        self.gaps: LayoutUnit = _gaps(self.measures, self.spacing)
        self.out_of_flow: list[OutOfFlowCandidate] = []

    def lay_out(self) -> Fragment:
        """Widths, then heights, then places."""
        across = self.used_width()
        self.width: LayoutUnit = across.content + self.extra
        self.room = max(ZERO, across.content - self.gaps)
        if self.is_fixed:
            sizes = fixed_columns(self.measures, self.room)
        else:
            sizes = distribute(self.measures, self.room)
        self.columns = self.placed_columns(sizes)
        cells = {c: self.measure(c) for c in self.table.cells}
        self.rows: list[RowHeight] = row_heights(self.table, cells, self.spacing_down)
        top = [self.caption(c) for c in self.table.captions if c.style.caption_side == "top"]
        bottom = [self.caption(c) for c in self.table.captions if c.style.caption_side != "top"]
        above = sum((f.margin_height for f in top), ZERO)
        below = sum((f.margin_height for f in bottom), ZERO)
        grid_height, down = self.used_height(above + below)
        children = self.stacked(top, ZERO)
        children += self.column_boxes(above)
        children += self.groups(above)
        children += self.stacked(bottom, above + grid_height + self.extra_down)
        down = Down(
            grid_height + above + below,
            down.reason,
            down.auto_height + above + below,
            down.basis,
            down.tentative + above + below,
            down.limit,
            down.source,
        )
        return self.fragment(across, down, children, above, grid_height)

    # Widths

    def content_sizes(self) -> ContentSizes:
        """The content sizes of this table, as its layout mode counts them."""
        if self.is_fixed:
            least = fixed_least(self.measures) + self.gaps
            return ContentSizes(least, least)
        least, most = table_content_sizes(self.measures, self.gaps)
        least = max(least, _captions_least(self.run, self.table) - self.extra)
        return ContentSizes(least, max(least, most))

    def used_width(self) -> Across:
        """§17.5.2: auto tables are as wide as they need; none is narrower than its columns."""
        style, space = self.style, self.space
        sizes = self.content_sizes()
        forced = space.forced
        left = margin_or_zero(style.margin_left, space.width)
        right = margin_or_zero(style.margin_right, space.width)
        available = space.available
        if available is None:
            available = max(ZERO, space.width - left - right)
        room = max(ZERO, available - self.extra)
        fit = (sizes.min_content, sizes.max_content, room)
        found = content_width(style.width, style, space.width, self.extra, lambda: sizes)
        if forced is not None and forced.width is not None:
            found = forced.width, forced.width_reason
        if found is None:
            tentative = min(max(sizes.min_content, room), sizes.max_content)
            reason = SizeReason.SHRINK_TO_FIT
        else:
            tentative, reason = found
        width = tentative
        limit: WidthLimit = ""
        if forced is None or forced.width is None:
            width, limit = limited_width(tentative, style, space.width, self.extra, lambda: sizes)
        if width < sizes.min_content:
            width, limit = sizes.min_content, ""
            reason = reason if reason is SizeReason.SHRINK_TO_FIT else SizeReason.COLUMNS
        margins = (left, right, MarginReason.SPECIFIED)
        if space.sizing is Sizing.FILL:
            own = side_margins(style, space.across, width + self.extra)
            margins = (own.left, own.right, own.reason)
        rest = space.width - margins[0] - margins[1] - width - self.extra
        return Across(
            width,
            margins[0],
            margins[1],
            space.width,
            reason,
            margins[2],
            tentative,
            limit,
            fit if reason is SizeReason.SHRINK_TO_FIT else None,
            rest,
        )

    def placed_columns(self, sizes: Sequence[LayoutUnit]) -> list[TableColumn]:
        """Where each column lies, from the border box's left; merged ones take no space between."""
        at = self.border.left + self.padding.left
        found: list[TableColumn] = []
        for number, (size, measure) in enumerate(zip(sizes, self.measures, strict=True)):
            box = self.table.column_box(number)
            is_collapsed = box is not None and any(
                b is not None and b.style.visibility == "collapse" for b in (box.box, box.group)
            )
            size = ZERO if is_collapsed else size
            if not measure.is_merged:
                at += ZERO if is_collapsed and found else self.spacing
            found.append(
                TableColumn(
                    at,
                    size,
                    measure.least,
                    measure.most,
                    measure.percent,
                    measure.has_width,
                    measure.least_by,
                    measure.most_by,
                )
            )
            at += size
        return found

    def span_across(self, first: int, end: int) -> tuple[LayoutUnit, LayoutUnit]:
        """Where columns begin and how wide they are together; from the right in rtl."""
        start = self.columns[first].start
        last = self.columns[end - 1]
        width = last.start + last.size - start
        if self.style.direction == "rtl":
            start = self.width - start - width + self.border.left - self.border.right
            start += self.padding.left - self.padding.right
        return start, width

    # Heights

    def cell_space(self, cell: Cell, forced: ForcedSize) -> ConstraintSpace:
        """What a cell is laid out in."""
        return ConstraintSpace(self.grid_across()[1], None, Sizing.SHRINK_TO_FIT, forced=forced)

    def inner_width(self, cell: Cell) -> tuple[LayoutUnit, Edges]:
        """The content width of a cell in its columns, and its borders."""
        border = self.borders.of_cell(cell)
        padding = border_and_padding(cell.box.style, self.grid_across()[1])[1]
        width = self.span_across(cell.column, cell.column_end)[1]
        return max(ZERO, width - border.across - padding.across), border

    def measure(self, cell: Cell) -> MeasuredCell:
        """The cell as high as its content."""
        width, border = self.inner_width(cell)
        forced = ForcedSize(width, SizeReason.COLUMNS, border=border)
        return measured_cell(cell, self.run.layout(cell.box, self.cell_space(cell, forced)))

    def used_height(self, captions: LayoutUnit) -> tuple[LayoutUnit, Down]:
        """§17.5.3: the content height of the grid, as high as its rows at least; rows share what is more.

        A height that is written is that of the grid; one that the container gives holds the captions too.
        """
        self.grow_groups()
        auto = self.grid_height() + self.ends
        known = known_height(self.box, self.space, self.extra_down, None)
        down = known.used(auto, "children" if self.rows else "nothing")
        wanted = down.content if known.given is None else down.content - captions
        if wanted > auto and self.rows:
            self.grow_table(wanted - auto, wanted)
        return max(auto, wanted), down

    @property
    def ends(self) -> LayoutUnit:
        """The space above the first and below the last row."""
        return self.spacing_down * 2 if any(not r.row.is_collapsed for r in self.rows) else ZERO

    def rows_height(self, rows: Sequence[RowHeight]) -> LayoutUnit:
        """Rows with the space between them."""
        shown = [r for r in rows if not r.row.is_collapsed]
        heights = sum((r.height for r in shown), ZERO)
        return heights + self.spacing_down * max(0, len(shown) - 1)

    def rows_of(self, group: RowGroup) -> list[RowHeight]:
        """The measured rows of a group."""
        if not group.rows:
            return []
        first = group.rows[0].number
        return self.rows[first : first + len(group.rows)]

    def grow_groups(self) -> None:
        """A row group's height, where that is more than its rows ask for."""
        for group in self.table.groups:
            if group.box is None or isinstance(group.box.style.height, NO_LENGTH):
                continue
            wanted = group.box.style.height
            rows = self.rows_of(group)
            if not wanted.has_percent and rows:
                lack = wanted.resolve(ZERO) - self.rows_height(rows)
                if lack > 0:
                    shown = [r for r in rows if not r.row.is_collapsed]
                    grow_rows(shown, lack, wanted.resolve(ZERO), spans=False)

    def group_height(self, group: RowGroup) -> LayoutUnit:
        """As high as its rows; one without rows as high as it says."""
        rows = self.rows_of(group)
        if rows or group.box is None or isinstance(group.box.style.height, NO_LENGTH):
            return self.rows_height(rows)
        height = group.box.style.height
        return ZERO if height.has_percent else max(ZERO, height.resolve(ZERO))

    def grid_height(self) -> LayoutUnit:
        """All groups, with the space between those that have rows."""
        shown = sum(1 for g in self.table.groups if any(not r.is_collapsed for r in g.rows))
        heights = sum((self.group_height(g) for g in self.table.groups), ZERO)
        return heights + self.spacing_down * max(0, shown - 1)

    def grow_table(self, extra: LayoutUnit, base: LayoutUnit) -> None:
        """Rows of bodies share what a table has more; without a body all rows do."""
        bodies = [
            r
            for g in self.table.groups
            if g.box is None or g.box.style.display == "table-row-group"
            for r in self.rows_of(g)
        ]
        rows = [r for r in bodies or self.rows if not r.row.is_collapsed]
        if rows:
            grow_rows(rows, extra, base, spans=False)

    # Places

    def caption(self, box: Box) -> Fragment:
        """§17.4.1: a caption is a block as wide as the table."""
        return self.run.layout(box, ConstraintSpace(self.width, None))

    def stacked(self, captions: Sequence[Fragment], y: LayoutUnit) -> list[Placed]:
        """Captions one under another."""
        placed = []
        for fragment in captions:
            shift = relative_shift(fragment.box.style, self.width, None, self.style.direction)
            x = fragment.across.start
            placed.append(Placed(fragment, x, y + fragment.margin.top, *shift))
            self.out_of_flow += placed[-1].out_of_flow
            y += fragment.margin_height
        return placed

    def part(
        self, box: Box, width: LayoutUnit, height: LayoutUnit, children: Sequence[Placed]
    ) -> Fragment:
        """The fragment of a row, a row group or a column: no edges, as large as the grid says."""
        inner = self.width - self.extra
        across = Across(
            width, ZERO, ZERO, inner, SizeReason.COLUMNS, tentative=width, rest=inner - width
        )
        down = Down(height, SizeReason.ROWS, height)
        candidates = [c for child in children for c in child.out_of_flow]
        candidates += [OutOfFlowCandidate(c, ZERO, ZERO) for c in box.children if c.is_out_of_flow]
        content = Content(
            tuple(children), (), height, "children", NO_MARGINS, None, None, tuple(candidates)
        )
        built = build_fragment(self.run, box, inner, across, down, NO_EDGES, NO_EDGES, content)
        return built.with_margins(NO_EDGES)

    def column_boxes(self, above: LayoutUnit) -> list[Placed]:
        """The boxes of columns and their groups, which reach over all rows."""
        height = self.grid_height()
        y = above + self.border.top + self.padding.top + self.ends // 2
        placed = []
        groups: dict[Box, list[Placed]] = {}
        spans: dict[Box, tuple[int, int]] = {}
        for column in self.table.columns:
            first, end = column.first, min(column.first + column.count, len(self.columns))
            if column.group is not None:
                start = spans.get(column.group, (first, end))[0]
                spans[column.group] = start, end
                groups.setdefault(column.group, [])
            if column.box is None:
                continue
            x, width = self.span_across(first, end)
            fragment = self.part(column.box, width, height, ())
            at = Placed(fragment, x, y)
            if column.group is None:
                placed.append(at)
            else:
                groups[column.group].append(at)
        for group, inside in groups.items():
            x, width = self.span_across(*spans[group])
            moved = [Placed(p.fragment, p.x - x, ZERO) for p in inside]
            placed.append(Placed(self.part(group, width, height, moved), x, y))
        return placed

    def groups(self, above: LayoutUnit) -> list[Placed]:
        """Row groups with their rows and cells, one under another."""
        y = above + self.border.top + self.padding.top + self.ends // 2
        left, width = self.grid_across()
        self.baselines: list[LayoutUnit] = []
        placed: list[Placed] = []
        is_first = True
        for group in self.table.groups:
            rows = self.rows_of(group)
            shown = [r for r in rows if not r.row.is_collapsed]
            if shown and not is_first:
                y += self.spacing_down
            is_first = is_first and not shown
            inner = self.rows_in(rows, left, width)
            height = self.group_height(group)
            if group.box is None:
                own = [Placed(p.fragment, p.x + left, p.y + y, p.shift_x, p.shift_y) for p in inner]
                placed += own
            else:
                fragment = self.part(group.box, width, height, inner)
                shift = relative_shift(group.box.style, self.width, None, self.style.direction)
                own = [Placed(fragment, left, y, *shift)]
                placed += own
            for at in own:
                self.out_of_flow += at.out_of_flow
            self.baselines += [y + b for b in self.row_baselines(rows)]
            y += height
        return placed

    def grid_across(self) -> tuple[LayoutUnit, LayoutUnit]:
        """Where rows begin, and how wide they are."""
        if not self.columns:
            left = self.border.left + self.padding.left
            return left + self.spacing * bool(self.rows), max(ZERO, self.width - self.extra)
        return self.span_across(0, len(self.columns))

    def row_baselines(self, rows: Sequence[RowHeight]) -> list[LayoutUnit]:
        """The baselines of rows that have one, from the top of the first: §17.5.3."""
        found, y = [], ZERO
        for row in rows:
            if row.row.is_collapsed:
                continue
            if row.ascent is not None:
                found.append(y + row.ascent)
            y += row.height + self.spacing_down
        return found

    def bottom_of_first_row(self, above: LayoutUnit) -> LayoutUnit | None:
        """§17.5.3: a row without a baseline has one at the bottom of the lowest content box in it."""
        first = next((r for r in self.rows if not r.row.is_collapsed), None)
        if first is None or not first.cells:
            return None
        below = min(c.fragment.padding.bottom + c.fragment.border.bottom for c in first.cells)
        top = above + self.border.top + self.padding.top + self.ends // 2
        return top + first.height - below

    def rows_in(self, rows: Sequence[RowHeight], left: LayoutUnit, width: LayoutUnit) -> list[Placed]:
        """The rows of a group, from the group's top left."""
        placed, y = [], ZERO
        for row in rows:
            cells = [self.cell(c, row, left) for c in row.cells]
            fragment = self.part(row.row.box, width, row.height, cells)
            shift = relative_shift(row.row.box.style, self.width, None, self.style.direction)
            placed.append(Placed(fragment, ZERO, y, *shift))
            y += row.height + (ZERO if row.row.is_collapsed else self.spacing_down)
        return placed

    def cell(self, at: MeasuredCell, row: RowHeight, left: LayoutUnit) -> Placed:
        """A cell as high as its rows, its content where vertical-align says."""
        cell, box = at.cell, at.cell.box
        height = self.rows_height(self.rows[cell.row : cell.row_end])
        width, border = self.inner_width(cell)
        extra = at.fragment.border.down + at.fragment.padding.down
        free = height - at.natural
        shift = {"top": ZERO, "middle": free // 2, "bottom": free}.get(at.align)
        if shift is None:
            baseline = at.baseline
            shift = ZERO if baseline is None or row.ascent is None else row.ascent - baseline
        forced = ForcedSize(
            width,
            SizeReason.COLUMNS,
            max(ZERO, height - extra),
            SizeReason.ROWS,
            definite=self.is_definite(cell),
            border=border,
            content_shift=max(ZERO, shift),
        )
        fragment = self.run.layout(box, self.cell_space(cell, forced)).with_margins(NO_EDGES)
        x = self.span_across(cell.column, cell.column_end)[0] - left
        moved = relative_shift(box.style, self.width, None, self.style.direction)
        return Placed(fragment, x, ZERO, *moved)

    def is_definite(self, cell: Cell) -> bool:
        """Whether percentages of heights in a cell refer to its height: where one is written."""
        own = not isinstance(cell.box.style.height, NO_LENGTH)
        whole = known_height(self.box, self.space, self.extra_down, None)
        return own or whole.percent_basis is not None

    def fragment(
        self,
        across: Across,
        down: Down,
        children: Sequence[Placed],
        above: LayoutUnit,
        grid_height: LayoutUnit,
    ) -> Fragment:
        """The finished table; its baselines are those of its rows."""
        facts = TableFacts(
            tuple(self.columns),
            self.table.by_box,
            self.borders.collapsed,
            Rect(ZERO, above, self.width, grid_height + self.extra_down),
            self.room,
            self.spacing,
            self.is_fixed,
        )
        candidates = [
            *(OutOfFlowCandidate(c, ZERO, ZERO) for c in self.box.children if c.is_out_of_flow),
            *self.out_of_flow,
        ]
        content = Content(
            tuple(children),
            (),
            down.content,
            down.source,
            NO_MARGINS,
            self.baselines[0] if self.baselines else self.bottom_of_first_row(above),
            self.baselines[-1] if self.baselines else None,
            tuple(candidates),
            facts=facts,
        )
        return build_fragment(
            self.run, self.box, self.space.width, across, down, self.border, self.padding, content
        )
