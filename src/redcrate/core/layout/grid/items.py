"""Grid items: what they ask of columns and rows, and how large they are in their areas, CSS Grid 1 §6 and §12.5.

Amounts are 1/64 px.
"""

from collections.abc import Sequence

from redcrate.core.boxes.box import Box, BoxKind
from redcrate.core.boxes.form_controls import FIELD, is_control
from redcrate.core.geometry import Edges
from redcrate.core.layout.alignment import Alignment, self_alignment
from redcrate.core.layout.contexts import LayoutRun
from redcrate.core.layout.edges import margin_or_zero, margins_or_zero
from redcrate.core.layout.fragments import Fragment, SizeReason
from redcrate.core.layout.grid.placement import Area
from redcrate.core.layout.grid.tracks import Track
from redcrate.core.layout.heights import definite_height, is_from_content
from redcrate.core.layout.intrinsic import contributions
from redcrate.core.layout.shared_tracks import SharedTracks
from redcrate.core.layout.space import ConstraintSpace, ForcedSize, Sizing
from redcrate.core.layout.table.kept import used_edges
from redcrate.core.layout.widths import content_width, limited_width
from redcrate.core.records import dataclass
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.values import NO_LENGTH, SizeValue
from redcrate.core.units import ZERO, LayoutUnit


@dataclass(slots=True, eq=False)
class GridItem:
    """One item. shim: what baseline alignment puts above it in its row (§10.6); width, height: of its area.

    shared: the columns and the rows that it has of the grid, if it is a subgrid (Grid 2 §9).
    """

    box: Box
    area: Area
    justify: Alignment
    align: Alignment
    run: LayoutRun
    shim: LayoutUnit = ZERO
    width: LayoutUnit = ZERO
    height: LayoutUnit | None = None
    measured: Fragment | None = None
    shared: tuple[SharedTracks | None, SharedTracks | None] = (None, None)

    @property
    def style(self) -> ComputedStyle:
        """Of its box."""
        return self.box.style

    def margins(self) -> Edges:
        """The margins in its area, auto ones 0."""
        return margins_or_zero(self.style, self.width)

    def _stretches(self, value: Alignment, size: SizeValue, margins: tuple[object, object]) -> bool:
        """§6.2: `normal` fills the area too, but for what has a ratio, or a size of its own and is no control."""
        if size not in ("auto", FIELD) or "auto" in margins:
            return False
        if value.keyword == "normal":
            has_ratio = not isinstance(self.style.aspect_ratio, str)
            return not has_ratio and (
                self.box.kind is not BoxKind.REPLACED or is_control(self.box.element)
            )
        return value.keyword == "stretch"

    @property
    def fills_across(self) -> bool:
        """Whether it is as wide as its area."""
        style = self.style
        return self._stretches(self.justify, style.width, (style.margin_left, style.margin_right))

    @property
    def fills_down(self) -> bool:
        """Whether it is as high as its area."""
        style = self.style
        return self._stretches(self.align, style.height, (style.margin_top, style.margin_bottom))

    def lay_out(self, height: LayoutUnit | None, *, final: bool) -> Fragment:
        """The item in its area; height: of the area, None while rows are sized. final: it fills the area down."""
        style = self.style
        border, padding = used_edges(self.run.cache, self.box, self.width)
        margins = self.margins()
        extra, extra_down = border.across + padding.across, border.down + padding.down
        width = tall = None
        columns, rows = self.shared
        if columns is not None:
            width = max(ZERO, self.width - margins.across - extra)
        elif self.fills_across:
            room = max(ZERO, self.width - margins.across - extra)
            asked = self.run.content_sizes
            width = limited_width(room, style, self.width, extra, lambda: asked(self.box))[0]
        if final and height is not None and rows is not None:
            tall = max(ZERO, height - margins.down - extra_down)
        elif final and height is not None and self.fills_down:
            tall = self._filled(max(ZERO, height - margins.down - extra_down), height, extra_down)
        forced = ForcedSize(
            width, SizeReason.AREA, tall, SizeReason.AREA, definite=True, columns=columns, rows=rows
        )
        decided = width is not None or tall is not None or rows is not None
        space = ConstraintSpace(
            self.width,
            height,
            Sizing.SHRINK_TO_FIT,
            forced=forced if decided else None,
        )
        return self.run.layout(self.box, space)

    def _filled(self, room: LayoutUnit, basis: LayoutUnit, extra: LayoutUnit) -> LayoutUnit:
        """The content height that fills the area, within the item's limits."""
        style = self.style
        auto = self.measured.down.auto_height if self.measured is not None else None
        for value, is_most in ((style.max_height, True), (style.min_height, False)):
            limit = definite_height(value, style, basis, extra)
            if limit is None and is_from_content(value):
                limit = auto
            if limit is not None:
                room = min(room, limit) if is_most else max(room, limit)
        return room


class AcrossItem:
    """What an item asks of columns: §12.5."""

    def __init__(self, item: GridItem) -> None:
        self.item = item
        self.box = item.box
        self._sizes = contributions(item.run, item.box)

    def min_content(self) -> LayoutUnit:
        """As narrow as its content can be."""
        return self._sizes.min_content

    def max_content(self) -> LayoutUnit:
        """As wide as its content would like to be."""
        return self._sizes.max_content

    def minimum(self, tracks: Sequence[Track]) -> LayoutUnit:
        """With an auto width: its smallest width, where that is auto its content's (§6.6)."""
        style = self.box.style
        if not _hangs_on_area(style.width):
            return self._sizes.min_content
        border, padding = used_edges(self.item.run.cache, self.box, ZERO)
        extra = border.across + padding.across
        outer = extra + _side(style.margin_left) + _side(style.margin_right)
        least = style.min_width
        if least == "auto":
            if not _content_counts(self.box, style.overflow_x, tracks):
                return outer
            return _within(self._sizes.min_content, tracks, outer)
        if not isinstance(least, NO_LENGTH) and least.has_percent:
            return outer
        sizes = self.item.run.content_sizes
        found = content_width(least, style, ZERO, extra, lambda: sizes(self.box))
        return outer + (found[0] if found is not None else ZERO)


class DownItem:
    """What an item asks of rows, in columns that have their sizes."""

    def __init__(self, item: GridItem, basis: LayoutUnit | None) -> None:
        self.item = item
        self.box = item.box
        item.measured = item.lay_out(basis, final=False)
        self._outer: LayoutUnit = item.measured.height + item.margins().down + item.shim

    def min_content(self) -> LayoutUnit:
        """As high as it is laid out."""
        return self._outer

    def max_content(self) -> LayoutUnit:
        """As high as it is laid out."""
        return self._outer

    def minimum(self, tracks: Sequence[Track]) -> LayoutUnit:
        """With an auto height: its smallest height, where that is auto its content's (§6.6)."""
        style = self.box.style
        if not _hangs_on_area(style.height):
            return self._outer
        border, padding = used_edges(self.item.run.cache, self.box, self.item.width)
        extra = border.down + padding.down
        outer = extra + self.item.margins().down
        least = style.min_height
        if least == "auto":
            if not _content_counts(self.box, style.overflow_y, tracks):
                return outer
            return _within(self._outer, tracks, outer)
        if is_from_content(least):
            return self._outer
        return outer + (definite_height(least, style, None, extra) or ZERO)


def _hangs_on_area(size: SizeValue) -> bool:
    """Whether a size is auto, or will be a share of the area."""
    return size in ("auto", "stretch") or (not isinstance(size, NO_LENGTH) and size.has_percent)


def _side(margin: object) -> LayoutUnit:
    return margin_or_zero(margin, ZERO)  # type: ignore[arg-type]


def _content_counts(box: Box, overflow: str, tracks: Sequence[Track]) -> bool:
    """§6.6: whether the automatic minimum is that of the content."""
    scrolls = overflow not in ("visible", "clip") and box.kind is not BoxKind.REPLACED
    if scrolls or all(t.least != "auto" for t in tracks):
        return False
    return len(tracks) == 1 or all(t.most != "flex" for t in tracks)


def _within(size: LayoutUnit, tracks: Sequence[Track], outer: LayoutUnit) -> LayoutUnit:
    """§6.6: no more than tracks whose largest sizes are lengths, but for margins, borders and paddings."""
    if all(t.most == "fixed" for t in tracks):
        size = min(size, max(outer, sum((t.growth_limit for t in tracks), ZERO)))
    return size


def items_of(box: Box, areas: dict[Box, Area], run: LayoutRun) -> list[GridItem]:
    """The items of a container with the alignment that holds for each."""
    style = box.style
    return [
        GridItem(
            child,
            area,
            self_alignment(child.style.justify_self, style.justify_items),
            self_alignment(child.style.align_self, style.align_items),
            run,
        )
        for child, area in areas.items()
    ]
