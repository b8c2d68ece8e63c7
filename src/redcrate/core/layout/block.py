"""The block formatting context: blocks one under another, floats beside them.

CSS 2.2 §9.4.1 (flow), §8.3.1 (collapsing, judged in `collapsing.py`), §9.5 (floats), §9.5.2
(clearance), §10.6.3 (auto heights).
"""

from collections.abc import Sequence
from dataclasses import replace

from redcrate.core.boxes.box import Box, BoxKind
from redcrate.core.layout import block_container, intrinsic
from redcrate.core.layout.alignment import (
    Place,
    alignment,
    offset_of,
    place_across,
    self_alignment,
)
from redcrate.core.layout.block_container import layout_block_container
from redcrate.core.layout.collapsing import (
    collapses_through,
    open_bottom,
    through_margins,
    top_margins,
    vertical_margins,
)
from redcrate.core.layout.contexts import Content, FlowArea, LayoutRun
from redcrate.core.layout.edges import margin_or_zero
from redcrate.core.layout.floats import FloatContext
from redcrate.core.layout.fragments import (
    ContentSizes,
    Fragment,
    HeightSource,
    OutOfFlowCandidate,
    Placed,
    Refusal,
)
from redcrate.core.layout.margins import NO_MARGINS, MarginGroup, MarginSet, drops_default_margins
from redcrate.core.layout.relative import relative_shift
from redcrate.core.layout.space import ConstraintSpace, Mode, Sizing
from redcrate.core.layout.text_alignment import aligned_start
from redcrate.core.layout.widths import block_align, justified
from redcrate.core.text.inline_fonts import inline_font
from redcrate.core.units import STEP, ZERO, LayoutUnit


class BlockContext:
    """Lays out block containers of block-level boxes."""

    reasons = block_container.REASONS

    def layout(self, run: LayoutRun, box: Box, space: ConstraintSpace) -> Fragment:
        """The box, and its block-level children one under another."""
        return layout_block_container(run, box, space, _flow)

    def content_sizes(self, run: LayoutRun, box: Box, space: ConstraintSpace) -> ContentSizes:
        """As wide as the widest child."""
        return intrinsic.of_blocks(run, box)


def _flow(run: LayoutRun, box: Box, area: FlowArea) -> Content:
    return flow_blocks(run, box, area, box.children)


def flow_blocks(run: LayoutRun, box: Box, area: FlowArea, children: Sequence[Box]) -> Content:
    """What becomes of those `children` of a box that flow in `area`."""
    return _Flow(run, box, area).run_all(children)


def lines_in(fragment: Fragment) -> int:
    """How many lines stand in a block and in the blocks in it that share its formatting context."""
    inner = (p.fragment for p in fragment.children if p.fragment.box.in_flow)
    return len(fragment.lines) + sum(lines_in(f) for f in inner if not f.box.establishes_bfc)


class _Flow:
    """Block-level children, one after another.

    y: the bottom border edge of the last child, from the content box. margin_strut: the margins that
    hang below it. at_top: all margins so far are counted in the parent's place.
    """

    def __init__(self, run: LayoutRun, box: Box, area: FlowArea) -> None:
        self.run = run
        self.box = box
        self.area = area
        self.floats: FloatContext = area.floats
        self.at_top = area.at_top
        self.y: LayoutUnit = ZERO
        self.margin_strut: MarginSet = NO_MARGINS
        self.children: list[Placed] = []
        self.out_of_flow: list[OutOfFlowCandidate] = []
        self.groups: list[MarginGroup] = []
        self.first_baseline: LayoutUnit | None = None
        self.last_baseline: LayoutUnit | None = None
        self.cleared_through = False
        self.has_content = False
        self.lines_left = area.lines_left
        self.last_shown: LayoutUnit | None = None  # the bottom of the block in which no line is left
        self.is_cut = False
        self.drops_defaults = drops_default_margins(box)
        self.direction = box.style.direction
        self.align = block_align(box.style)
        self.items_normal = box.style.justify_items in ("legacy", "normal", "auto")

    def run_all(self, children: Sequence[Box]) -> Content:
        """Lay out all children."""
        for child in children:
            if child.is_out_of_flow:
                self.candidate(child)
            elif child.is_float:
                self.float(child)
            elif child.establishes_bfc:
                self.beside_floats(child)
            else:
                self.block(child)
        return self.finish()

    def candidate(self, child: Box) -> None:
        """The static place of an absolute box: §10.3.7, where it would begin if it were static.

        An inline one would begin in the middle or at the end of a line that is aligned so. One that is aligned itself
        has the width of its block to stand in (CSS Align 3 §6.1, Positioned Layout 3 §3.5.1).
        """
        rtl = self.box.style.direction == "rtl"
        x = self.area.x + (self.area.width if rtl else 0)
        y = self.area.y + self.y + self.counted(self.margin_strut).used
        place: Place = "end" if rtl else "start"
        asked = self_alignment(child.style.justify_self, self.box.style.justify_items)
        if asked.keyword not in ("auto", "normal", "stretch"):
            place = place_across(asked, self.box.style.direction, child.style.direction)
            x = self.area.x + offset_of(place, self.area.width)
        down = alignment(child.style.align_self)
        if child.style.flow_display.startswith("inline"):
            start, _ = aligned_start(self.box.style, self.area.width, ends=True)
            if start:
                x, place = self.area.x + start, "start"
        self.out_of_flow.append(
            OutOfFlowCandidate(child, x, y, None, place, place_across(down, "ltr", "ltr"))
        )

    def finish(self) -> Content:
        """§10.6.3: the auto height, and the margins that hang out at the bottom."""
        box, area = self.box, self.area
        marker_line = self.marker_line()
        height = max(self.y, marker_line)
        if "block-end" in box.style.margin_trim:
            self.trim_end()
        end_margins = self.margin_strut
        if self.cleared_through or not open_bottom(box, area.width):
            hanging = self.margin_strut
            if self.drops_defaults:
                hanging = hanging.without_defaults()
            height = max(marker_line, self.y + hanging.used)
            self.note_group(hanging, height, "the bottom edge of the parent")
            end_margins = NO_MARGINS
        if self.is_cut and self.last_shown is not None:
            height, end_margins = self.last_shown, NO_MARGINS
        return Content(
            tuple(self.children),
            (),
            height,
            self.source(marker_line),
            end_margins,
            self.first_baseline,
            self.last_baseline,
            tuple(self.out_of_flow),
            tuple(self.groups),
        )

    def source(self, marker_line: LayoutUnit) -> HeightSource:
        """What the height comes from."""
        if self.is_cut:
            return "shown lines"
        return "children" if self.has_content else "lines" if marker_line else "nothing"

    def trim_end(self) -> None:
        """CSS Box 4 §3.2: the margins at the bottom edge go, and what collapses through stands at it."""
        self.margin_strut = NO_MARGINS
        for at, placed in reversed(tuple(enumerate(self.children))):
            if placed.fragment.height or not placed.fragment.box.in_flow:
                break
            self.children[at] = replace(placed, y=self.area.y + self.y)

    def marker_line(self) -> LayoutUnit:
        """The line of an outside marker, where a list item has no line for it to stand beside."""
        if not self.has_marker_outside or self.first_baseline is not None:
            return ZERO
        font = inline_font(self.box.style)
        self.first_baseline = self.last_baseline = self.area.y + font.leading_ascent
        return font.leading_ascent + font.leading_descent

    @property
    def has_marker_outside(self) -> bool:
        """Whether it is a list item whose marker stands beside its first line."""
        return self.box.marker is not None and self.box.style.list_style_position == "outside"

    def below_marker(self, child: Fragment) -> LayoutUnit:
        """How far down the block with the first line goes, so that a marker fits that reaches further up than the line."""
        if (
            self.first_baseline is not None
            or child.first_baseline is None
            or not self.has_marker_outside
        ):
            return ZERO
        return max(ZERO, inline_font(self.box.style).leading_ascent - child.first_baseline)

    def note_group(self, margins: MarginSet, y: LayoutUnit, ended_by: str) -> None:
        """Keep a collapsed margin for explanations."""
        if margins.members or margins.dropped:
            self.groups.append(MarginGroup(margins, self.area.y + y, ended_by))

    def float(self, child: Box) -> None:
        """§9.5.1: a float, from where the flow stands (collapsed margins so far included)."""
        area = self.area
        space = ConstraintSpace(area.width, area.percent_height, Sizing.SHRINK_TO_FIT)
        fragment = self.run.layout(child, space)
        place = self.floats.place(
            child.style.float_,
            child.style.clear,
            fragment.margin_width,
            fragment.margin_height,
            area.bfc_y + self.y + self.counted(self.margin_strut).used,
            area.bfc_x,
            area.bfc_x + area.width,
        )
        x = place.x - area.bfc_x + fragment.margin.left
        y = place.y - area.bfc_y + fragment.margin.top
        self.put(fragment, x, y, place.refusals)

    def put(
        self,
        fragment: Fragment,
        x: LayoutUnit,
        y: LayoutUnit,
        refusals: tuple[Refusal, ...] = (),
        clearance: LayoutUnit = ZERO,
        below_marker: LayoutUnit = ZERO,
    ) -> None:
        """Keep a child whose border box stands at x, y in the content box."""
        area = self.area
        shift = relative_shift(fragment.box.style, area.width, area.percent_height, self.direction)
        place = area.x + x, area.y + y
        placed = Placed(fragment, *place, *shift, refusals, clearance, None, below_marker)
        self.children.append(placed)
        if fragment.out_of_flow:
            self.out_of_flow += placed.out_of_flow

    def clearance_for(self, child: Box, y: LayoutUnit) -> LayoutUnit | None:
        """§9.5.2: y of the border edge below the floats, if clearance is needed; else None."""
        if child.style.clear == "none":
            return None
        bottom = self.floats.clears(child.style.clear, self.area.bfc_y + y)
        return None if bottom is None else bottom - self.area.bfc_y

    def block(self, child: Box) -> None:
        """A block-level box of the same formatting context."""
        area = self.area
        if self.at_top:
            margins, y = NO_MARGINS, self.y
        else:
            margins = self.margins_above(child, self.margin_strut, area.bfc_y + self.y)
            y = self.y + margins.used
        cleared = self.clearance_for(child, y)
        if cleared is not None:
            if self.at_top:
                margins = self.margins_above(child, NO_MARGINS, area.bfc_y)
            self.at_top = False
            clearance, y = cleared - y, cleared
        else:
            clearance = ZERO
        if collapses_through(self.run.cache, child, area.percent_height):
            self.through(child, y, clearance if cleared is not None else None)
            return
        fragment = self.in_same_context(child, y)
        if not self.at_top:
            self.note_group(margins, y, "a box" if cleared is None else "clearance")
        self.settle(fragment, y, clearance)

    def counted(self, margins: MarginSet) -> MarginSet:
        """Of the margins above what comes next those that count here."""
        return margins.without_defaults() if self.drops_defaults and not self.has_content else margins

    def margins_above(self, child: Box, above: MarginSet, y: LayoutUnit) -> MarginSet:
        """The margins that meet at the child's top with those `above` it."""
        area = self.area
        met = top_margins(self.run, child, area.width, area.percent_height, above, self.floats, y)
        return self.counted(met)

    def aligned(self, child: Box) -> str:
        """Where a block stands across, if something says so: its own words, else an attribute around it."""
        own = child.style.justify_self
        if (own == "auto" and self.items_normal) or child.element is None:
            return self.align
        asked = self_alignment(own, self.box.style.justify_items)
        if asked.keyword in ("auto", "normal", "stretch"):
            return self.align
        place = place_across(asked, self.direction, child.style.direction)
        return justified(place, is_safe=asked.is_safe)

    def in_same_context(self, child: Box, y: LayoutUnit) -> Fragment:
        """A child that takes part in this block formatting context, with its top border edge at y."""
        area = self.area
        return self.run.layout(
            child,
            ConstraintSpace(
                area.width,
                area.percent_height,
                Sizing.FILL,
                None,
                None,
                self.direction,
                self.aligned(child),
                Mode.LAYOUT,
                self.lines_left if self.lines_left else None,
                self.floats,
                area.bfc_x,
                area.bfc_y + y,
            ),
        )

    def settle(
        self,
        fragment: Fragment,
        y: LayoutUnit,
        clearance: LayoutUnit,
        x: LayoutUnit | None = None,
        refusals: tuple[Refusal, ...] = (),
    ) -> None:
        """A child that takes room stands at y; the flow goes on below it. x: where floats moved it."""
        moved = self.below_marker(fragment) if self.box.marker is not None else ZERO
        y += moved
        self.put(fragment, fragment.across.start if x is None else x, y, refusals, clearance, moved)
        self.at_top = False
        self.has_content = True
        self.cleared_through = False
        self.y = y + fragment.height
        self.count_lines(fragment)
        self.note_baselines(fragment, self.area.y + y)
        self.margin_strut = fragment.end_margins.including(
            fragment.box, "bottom", fragment.margin.bottom
        )

    def count_lines(self, fragment: Fragment) -> None:
        """CSS Overflow 4 §5.1.4: the lines of blocks in the same formatting context are counted together."""
        if self.lines_left is None:
            return
        if self.last_shown is not None:
            self.is_cut = True
        elif not fragment.box.establishes_bfc:
            self.lines_left = max(0, self.lines_left - lines_in(fragment))
            if not self.lines_left:
                self.last_shown = self.y

    def note_baselines(self, fragment: Fragment, y: LayoutUnit) -> None:
        """The first and last baseline of in-flow content, from the border box."""
        if fragment.box.establishes_bfc and fragment.box.kind is BoxKind.REPLACED:
            return
        if fragment.first_baseline is not None and self.first_baseline is None:
            self.first_baseline = y + fragment.first_baseline
        style = fragment.box.style
        if style.overflow_x != "visible" or style.overflow_y != "visible":
            self.last_baseline = y + fragment.height + fragment.margin.bottom  # CSS Align 3 §9.1
        elif fragment.last_baseline is not None:
            self.last_baseline = y + fragment.last_baseline

    def through(self, child: Box, y: LayoutUnit, clearance: LayoutUnit | None) -> None:
        """A block whose margins collapse through it: its place, and the margins that go on.

        §8.3.1: its top edge stands as if it had a bottom border; with clearance, as clear says.
        """
        area = self.area
        fragment = self.in_same_context(child, y)
        if fragment.height:  # clearance from floats outside has separated its margins after all
            self.settle(fragment, y, clearance or ZERO)
            return
        self.put(fragment, fragment.across.start, y, (), clearance or ZERO)
        if self.at_top:
            return
        if clearance is not None:
            own = through_margins(child, area.width, NO_MARGINS)
            top = NO_MARGINS.including(child, "top", margin_or_zero(child.style.margin_top, area.width))
            self.y = y - top.used
            self.margin_strut = own
            self.cleared_through = True
        else:
            self.margin_strut = through_margins(child, area.width, self.margin_strut)

    def beside_floats(self, child: Box) -> None:
        """§9.5: a box with a new formatting context must not overlap floats; it may be narrower.

        Its top margin collapses with what is above it, but not with its own content.
        """
        area = self.area
        top, _ = vertical_margins(child, area.width)
        margins = self.counted(self.margin_strut.including(child, "top", top))
        y = self.y if self.at_top else self.y + margins.used
        cleared = self.clearance_for(child, y)
        clearance = ZERO
        if cleared is not None:
            self.at_top = False
            clearance, y = cleared - y, cleared
        fragment, x, y, refusals = self.find_room(child, y)
        if not self.at_top:
            self.note_group(margins, y, "a box" if cleared is None else "clearance")
        self.settle(fragment, y, clearance, x, refusals)

    def find_room(
        self, child: Box, y: LayoutUnit
    ) -> tuple[Fragment, LayoutUnit, LayoutUnit, tuple[Refusal, ...]]:
        """The first place from y downwards where the border box stands clear of all floats."""
        area = self.area
        bounds = (area.bfc_x, area.bfc_x + area.width)
        refusals: list[Refusal] = []
        height = STEP
        while True:
            bfc_y = area.bfc_y + y
            left, right = self.floats.room(bfc_y, height, *bounds)
            if (left, right) == bounds:
                fragment = self.whole_row(child)
                tall = max(STEP, fragment.height)
                if self.floats.room(bfc_y, tall, *bounds) == bounds:
                    return fragment, fragment.across.start, y, tuple(refusals)
                if tall > height:  # a float further down is in its way
                    height = tall
                    continue
            fragment, x = self.in_gap(child, left, right)
            lack = self.lack(child, fragment, x, left, right)
            if lack <= 0:
                if self.floats.room(bfc_y, max(STEP, fragment.height), *bounds) == (left, right):
                    return fragment, x - area.bfc_x, y, tuple(refusals)
                if fragment.height > height:
                    height = fragment.height
                    continue
            refusals.append(Refusal(left, bfc_y, right - left, max(ZERO, lack)))
            y = self.floats.next_step(bfc_y) - area.bfc_y
            height = STEP

    def whole_row(self, child: Box) -> Fragment:
        """The box where no float is in its way."""
        return self.run.layout(child, self.row_space(child, None))

    def row_space(self, child: Box, available: LayoutUnit | None) -> ConstraintSpace:
        """What a child with a formatting context of its own is laid out in."""
        area = self.area
        return ConstraintSpace(
            area.width,
            area.percent_height,
            Sizing.FILL,
            available,
            None,
            self.direction,
            self.aligned(child),
        )

    def in_gap(self, child: Box, left: LayoutUnit, right: LayoutUnit) -> tuple[Fragment, LayoutUnit]:
        """The box between floats, and x of its border box in the formatting context.

        Its margins count from the containing block and may lie under floats.
        """
        area, style = self.area, child.style
        margin_left = margin_or_zero(style.margin_left, area.width)
        margin_right = margin_or_zero(style.margin_right, area.width)
        start = max(left, area.bfc_x + margin_left)
        end = min(right, area.bfc_x + area.width - margin_right)
        fragment = self.run.layout(child, self.row_space(child, max(ZERO, end - start)))
        free = end - start - fragment.width
        if free > 0 and style.margin_left == "auto":
            start += free // 2 if style.margin_right == "auto" else free
        elif self.box.style.direction == "rtl":
            start = end - fragment.width
        return fragment, start

    @staticmethod
    def lack(
        child: Box, fragment: Fragment, x: LayoutUnit, left: LayoutUnit, right: LayoutUnit
    ) -> LayoutUnit:
        """How much wider than the gap the border box is; 0 or less if it fits."""
        return max(x + fragment.width - right, left - x)
