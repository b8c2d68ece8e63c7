"""The flex formatting context: CSS Flexbox 1 §9, its steps in their order."""

from redcrate.core.boxes.box import Box
from redcrate.core.layout import block_container
from redcrate.core.layout.alignment import Alignment, Place, alignment, self_alignment
from redcrate.core.layout.block_container import layout_block_container
from redcrate.core.layout.contexts import Content, FlowArea, LayoutRun
from redcrate.core.layout.edges import gap_of
from redcrate.core.layout.flex.axes import FlexAxes, axes_of
from redcrate.core.layout.flex.content_sizes import flex_content_sizes
from redcrate.core.layout.flex.flexible_lengths import resolve
from redcrate.core.layout.flex.items import FlexItem, items_of
from redcrate.core.layout.flex.lines import (
    FlexLine,
    collect,
    cross_size_of,
    place_across,
    place_along,
    place_lines,
)
from redcrate.core.layout.flex.measuring import AlongHeight, AlongWidth, MainAxis
from redcrate.core.layout.flex_facts import FlexFacts
from redcrate.core.layout.fragments import (
    ContentSizes,
    Fragment,
    HeightSource,
    OutOfFlowCandidate,
    Placed,
)
from redcrate.core.layout.margins import NO_MARGINS
from redcrate.core.layout.relative import relative_shift
from redcrate.core.layout.space import ConstraintSpace
from redcrate.core.layout.widths import shared_margins
from redcrate.core.units import ZERO, LayoutUnit


class FlexContext:
    """Lays out flex containers."""

    reasons = block_container.REASONS

    def layout(self, run: LayoutRun, box: Box, space: ConstraintSpace) -> Fragment:
        """The box, and its items in their lines."""
        return layout_block_container(run, box, space, _flow)

    def content_sizes(self, run: LayoutRun, box: Box, space: ConstraintSpace) -> ContentSizes:
        """§9.9: what its items ask for."""
        return flex_content_sizes(run, box)


def _flow(run: LayoutRun, box: Box, area: FlowArea) -> Content:
    return _Flex(run, box, area).run_all()


class _Flex:
    """One container while it is laid out."""

    def __init__(self, run: LayoutRun, box: Box, area: FlowArea) -> None:
        self.run = run
        self.box = box
        self.area = area
        style = self.style = box.style
        self.axes: FlexAxes = axes_of(style)
        self.is_single = style.flex_wrap == "nowrap"
        self.items: list[FlexItem] = items_of(run.cache, box, self.axes, area.width)
        across, down = (
            gap_of(style.column_gap, area.width),
            gap_of(style.row_gap, area.percent_height),
        )
        self.gap, self.line_gap = (across, down) if self.axes.is_row else (down, across)
        self.along: MainAxis
        if self.axes.is_row:
            cross = area.percent_height if self.is_single else None
            self.along = AlongWidth(run, area, cross)
        else:
            self.along = AlongHeight(run, area, is_single=self.is_single)
        self.lines: list[FlexLine] = []
        self.main = self.cross = ZERO
        self.out_of_flow: list[OutOfFlowCandidate] = []

    def run_all(self) -> Content:
        """§9, from the sizes of items to their places."""
        for item in self.items:
            self.along.measure(item)
        self.lines = collect(self.items, self.wraps_at(), self.gap, wraps=not self.is_single)
        self.main = self.main_size()
        for line in self.lines:
            line.free = resolve(line.items, self.main, line.gaps)
        for item in self.items:
            item.fragment = self.along.lay_out(item, None)
        auto_height = self.line_sizes()
        self.stretch_items()
        for line in self.lines:
            place_along(line, self.main, self.axes, alignment(self.style.justify_content))
            for item in line.items:
                place_across(line, item)
        for child in self.box.children:
            if child.is_out_of_flow:
                self.out_of_flow.append(self.candidate(child))
        placed = [self.placed(line, item) for line in self.lines for item in line.items]
        return self.content(placed, auto_height)

    def wraps_at(self) -> LayoutUnit | None:
        """§9.3.5: the main size at which lines break; None where there is no end to it."""
        if self.axes.is_row:
            return self.area.width
        if self.area.percent_height is not None:
            return self.area.percent_height
        largest = LayoutUnit(2**40)
        most = self.area.height.used(largest, "children").content
        return most if most < largest else None

    def main_size(self) -> LayoutUnit:
        """§9.3.4: the content size along the main axis; down, that of the content within the limits."""
        if self.axes.is_row:
            return self.area.width
        auto = max([ZERO, *(line.hypothetical for line in self.lines)])
        return self.area.height.used(auto, "children").content

    def line_sizes(self) -> LayoutUnit:
        """§9.4.8, §9.4.9 and §9.4.15: the cross sizes of lines and of the container; returns its auto height."""
        for line in self.lines:
            line.cross_size = cross_size_of(line)
        gaps = self.line_gap * max(0, len(self.lines) - 1)
        auto = sum((line.cross_size for line in self.lines), ZERO) + gaps
        if not self.axes.is_row:
            self.cross = self.area.width
            auto_height = max([ZERO, *(line.hypothetical for line in self.lines)])
        else:
            self.cross = self.area.height.used(auto, "children").content
            auto_height = auto
        if self.is_single and self.lines:
            self.lines[0].cross_size = self.cross
        elif self.lines:
            value = alignment(self.style.align_content)
            place_lines(self.lines, self.cross, self.line_gap, self.axes, value)
        return auto_height

    def stretch_items(self) -> None:
        """§9.4.11: items that stretch are laid out again in the cross size that they have now."""
        for line in self.lines:
            for item in line.items:
                if not item.stretches or (self.is_single and not self.axes.is_row):
                    continue
                size = self.along.stretched(item, line.cross_size - item.margins_cross)
                item.fragment = self.along.lay_out(item, size)

    def placed(self, line: FlexLine, item: FlexItem) -> Placed:
        """The item where it stands, from the container's border box."""
        fragment = item.laid_out
        main = item.main_start
        cross = line.cross_start + item.cross_start
        if self.axes.main_reversed:
            main = self.main - main - (fragment.width if self.axes.is_row else fragment.height)
        if self.axes.cross_reversed:
            cross = self.cross - cross - item.border_cross
        x, y = (main, cross) if self.axes.is_row else (cross, main)
        area = self.area
        takes = item.margin.across > fragment.margin.across
        fragment = fragment.with_margins(item.margin, shared_margins(item.style, takes=takes))
        shift = relative_shift(item.style, area.width, area.percent_height, self.style.direction)
        return Placed(fragment, area.x + x, area.y + y, *shift)

    def candidate(self, child: Box) -> OutOfFlowCandidate:
        """§4.1: the static place of an absolute box is that of a sole item."""
        axes, area, style = self.axes, self.area, self.style
        justify = axes.justify(alignment(style.justify_content), ZERO)
        own = axes.own(self_alignment(child.style.align_self, style.align_items), child.style)
        along = _sole(justify, turned=axes.main_reversed)
        across = _sole(own, turned=axes.cross_reversed)
        height = self.cross if axes.is_row else self.main
        place_x, place_y = (along, across) if axes.is_row else (across, along)
        x = area.x + {"start": ZERO, "center": area.width // 2, "end": area.width}[place_x]
        y = area.y + {"start": ZERO, "center": height // 2, "end": height}[place_y]
        return OutOfFlowCandidate(child, x, y, None, place_x, place_y)

    def content(self, placed: list[Placed], auto_height: LayoutUnit) -> Content:
        """What is inside; §8.5: the container's baselines."""
        source: HeightSource = "children" if placed else "nothing"
        out_of_flow = self.out_of_flow
        for at in placed:
            out_of_flow = [*out_of_flow, *at.out_of_flow]
        first, last = self.baselines(placed)
        facts = FlexFacts(
            tuple(line.facts() for line in self.lines),
            self.axes.is_row,
            self.main,
            self.gap,
            self.line_gap,
        )
        return Content(
            tuple(placed),
            (),
            auto_height,
            source,
            NO_MARGINS,
            first,
            last,
            tuple(out_of_flow),
            facts=facts,
        )

    def baselines(self, placed: list[Placed]) -> tuple[LayoutUnit | None, LayoutUnit | None]:
        """§8.5: of the first line's item that takes part in baseline alignment, else of its first item."""
        if not placed:
            return None, None
        at = dict(zip([i for line in self.lines for i in line.items], placed, strict=True))
        turned = self.axes.cross_reversed and self.axes.is_row
        upper, lower = self.lines[0], self.lines[-1]
        if turned:
            upper, lower = lower, upper
        first = next((i for i in upper.items if i.baseline_group == "baseline"), upper.items[0])
        last = next((i for i in lower.items if i.baseline_group == "last baseline"), lower.items[-1])
        return at[first].baseline(last=False), at[last].baseline(last=True)


def _sole(value: Alignment, *, turned: bool) -> Place:
    """Where a sole item stands, from the left or the top."""
    keyword = value.keyword
    if keyword in ("center", "space-around", "space-evenly"):
        return "center"
    at_end = keyword in ("flex-end", "end", "self-end", "right", "last baseline")
    return "end" if at_end != turned else "start"
