"""Flex items as they are while a container is laid out, and what is kept of them: CSS Flexbox 1 §4, §9.2.

Amounts are of the content box, in 1/64 px, unless they are called outer.
"""

from redcrate.core.boxes.box import Box, BoxKind
from redcrate.core.geometry import Edges
from redcrate.core.layout.alignment import Alignment, self_alignment
from redcrate.core.layout.cache import LayoutCache
from redcrate.core.layout.edges import margins_or_zero
from redcrate.core.layout.flex.axes import FlexAxes
from redcrate.core.layout.flex_facts import BaseReason, FlexedItem, FlexLimit
from redcrate.core.layout.fragments import Fragment
from redcrate.core.layout.table.kept import used_edges
from redcrate.core.records import dataclass
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.units import ZERO, LayoutUnit


@dataclass(slots=True, eq=False)
class FlexItem:
    """One item. extra_*: border plus padding. margin_*: as they stand, auto ones 0 until §9.5 and §9.6.

    base, least, most: §9.2 and its limits. target: the main size while and after it is flexed (§9.7);
    round: in which round of that it was frozen. cross_start: of its margin edge in its line. written_extra: what
    the margin box has more than the content box while auto margins are 0. auto_*: which margins are auto, from the
    start of the axis. stretches: it takes the cross size of its line (§8.3).
    """

    box: Box
    axes: FlexAxes
    margin: Edges
    extra_main: LayoutUnit
    extra_cross: LayoutUnit
    align: Alignment
    written_extra: LayoutUnit
    auto_main: tuple[bool, bool]
    auto_cross: tuple[bool, bool]
    stretches: bool
    base: LayoutUnit = ZERO
    base_reason: BaseReason = BaseReason.CONTENT
    least: LayoutUnit = ZERO
    least_reason: FlexLimit = FlexLimit.NONE
    most: LayoutUnit | None = None
    hypothetical: LayoutUnit = ZERO
    target: LayoutUnit = ZERO
    limit: FlexLimit = FlexLimit.NONE
    is_frozen: bool = False
    round: int = 0
    fragment: Fragment | None = None
    main_start: LayoutUnit = ZERO
    cross_start: LayoutUnit = ZERO

    @property
    def style(self) -> ComputedStyle:
        """Of its box."""
        return self.box.style

    def clamped(self, size: LayoutUnit) -> LayoutUnit:
        """A main size within the item's limits; the smallest one wins (§9.7)."""
        if self.most is not None and size > self.most:
            size = self.most
        return max(size, self.least)

    @property
    def margins_main(self) -> LayoutUnit:
        """Both margins along the main axis."""
        return sum(self.axes.main(self.margin), ZERO)

    @property
    def margins_cross(self) -> LayoutUnit:
        """Both margins along the cross axis."""
        return sum(self.axes.cross(self.margin), ZERO)

    @property
    def outer_extra(self) -> LayoutUnit:
        """What the margin box has more than the content box, along the main axis."""
        return self.margins_main + self.extra_main

    @property
    def laid_out(self) -> Fragment:
        """The fragment, once the item has one."""
        assert self.fragment is not None
        return self.fragment

    @property
    def border_cross(self) -> LayoutUnit:
        """The size of the border box along the cross axis."""
        return self.laid_out.height if self.axes.is_row else self.laid_out.width

    @property
    def outer_cross(self) -> LayoutUnit:
        """The size of the margin box along the cross axis."""
        return self.border_cross + self.margins_cross

    @property
    def shrinks_to_nothing(self) -> bool:
        """§4.5: whether the automatic minimum is 0, as that of what scrolls along the main axis is."""
        style = self.style
        overflow = style.overflow_x if self.axes.is_row else style.overflow_y
        return overflow not in ("visible", "clip") and self.box.kind is not BoxKind.REPLACED

    @property
    def baseline_group(self) -> str:
        """ "baseline" or "last baseline" where its cross axis place comes from that (§8.3), else ""."""
        keyword = self.align.keyword
        takes_part = keyword.endswith("baseline") and self.axes.is_row and not any(self.auto_cross)
        return keyword if takes_part else ""

    def facts(self) -> FlexedItem:
        """What is kept of it for explanations."""
        return FlexedItem(
            self.box,
            self.base,
            self.base_reason,
            self.hypothetical,
            self.target,
            self.limit,
            self.round,
            self.written_extra,
        )


def items_of(cache: LayoutCache, box: Box, axes: FlexAxes, width: LayoutUnit) -> list[FlexItem]:
    """The items of a container of that content width, in their order (§5.4); absolute boxes are none."""
    inside = [c for c in box.children if c.in_flow]
    if any(c.style.order for c in inside):
        inside.sort(key=lambda c: c.style.order)
    return [_item(cache, c, axes, width, box.style.align_items) for c in inside]


def _item(cache: LayoutCache, box: Box, axes: FlexAxes, width: LayoutUnit, align_items: str) -> FlexItem:
    style = box.style
    border, padding = used_edges(cache, box, width)
    margin = margins_or_zero(style, width)
    across, down = border.across + padding.across, border.down + padding.down
    own = axes.own(self_alignment(style.align_self, align_items), style)
    main, cross = (across, down) if axes.is_row else (down, across)
    auto_main = _auto(style, across=axes.is_row, turned=axes.main_reversed)
    auto_cross = _auto(style, across=not axes.is_row, turned=axes.cross_reversed)
    size = style.height if axes.is_row else style.width
    stretches = own.keyword in ("stretch", "normal") and size == "auto" and not any(auto_cross)
    extra = main + sum(axes.main(margin), ZERO)
    return FlexItem(box, axes, margin, main, cross, own, extra, auto_main, auto_cross, stretches)


def _auto(style: ComputedStyle, *, across: bool, turned: bool) -> tuple[bool, bool]:
    """Which of the two margins of an axis are auto, from its start."""
    if across:
        start, end = style.margin_left == "auto", style.margin_right == "auto"
    else:
        start, end = style.margin_top == "auto", style.margin_bottom == "auto"
    return (end, start) if turned else (start, end)
