"""The block formatting context: blocks one under another, floats beside them.

CSS 2.2 §9.4.1 (flow), §8.3.1 (collapsing, judged in `collapsing.py`), §9.5 (floats), §9.5.2
(clearance), §10.6.3 (auto heights).
"""

from dataclasses import replace

from redcrate.core.boxes.box import Box, BoxKind
from redcrate.core.geometry import Edges
from redcrate.core.layout import widths
from redcrate.core.layout.collapsing import (
    collapses_through,
    height_is_auto,
    open_bottom,
    open_top,
    through_margins,
    top_margins,
    vertical_margins,
)
from redcrate.core.layout.edges import border_and_padding, margin_or_zero
from redcrate.core.layout.floats import FloatContext
from redcrate.core.layout.fragments import Across, Down, Fragment, Pending, Placed, Refusal
from redcrate.core.layout.heights import percent_basis, ratio_height, ratio_width, used_height
from redcrate.core.layout.inline import layout_lines
from redcrate.core.layout.inline_items import inline_font
from redcrate.core.layout.line_boxes import relative_shift
from redcrate.core.layout.margins import NO_MARGINS, MarginGroup, MarginSet
from redcrate.core.layout.run import ContainingBlock, FlowArea, Inside, LayoutRun
from redcrate.core.units import LayoutUnit


def layout_inside(run: LayoutRun, box: Box, area: FlowArea, *, at_top: bool) -> Inside:
    """Lay out the content of a block container.

    at_top: the margins at the top of the content already count in the box's own place.
    """
    if box.children_inline:
        return layout_lines(run, box, area)
    return _Flow(run, box, area, at_top).run_all()


class _Flow:
    """Block-level children, one after another.

    y: the bottom border edge of the last child, from the content box. strut: the margins that hang
    below it. at_top: all margins so far are counted in the parent's place.
    """

    def __init__(self, run: LayoutRun, box: Box, area: FlowArea, at_top: bool) -> None:
        self.run = run
        self.box = box
        self.area = area
        self.floats: FloatContext = area.floats
        self.at_top = at_top
        self.y: LayoutUnit = 0
        self.strut: MarginSet = NO_MARGINS
        self.children: list[Placed] = []
        self.pending: list[Pending] = []
        self.groups: list[MarginGroup] = []
        self.first_baseline: LayoutUnit | None = None
        self.last_baseline: LayoutUnit | None = None
        self.cleared_through = False
        self.has_content = False
        self.around = widths.around_of(box.style.direction, box.style.text_align)

    def run_all(self) -> Inside:
        """Lay out all children."""
        for child in self.box.children:
            if child.is_out_of_flow:
                self.out_of_flow(child)
            elif child.is_float:
                self.float(child)
            elif child.establishes_bfc:
                self.beside_floats(child)
            else:
                self.block(child)
        return self.finish()

    def out_of_flow(self, child: Box) -> None:
        """The static place of an absolute box: §10.3.7, where it would begin if it were static."""
        rtl = self.box.style.direction == "rtl"
        x = self.area.x + (self.area.width if rtl else 0)
        y = self.area.y + self.y + self.strut.used
        self.pending.append(Pending(child, x, y, from_right=rtl))

    def finish(self) -> Inside:
        """§10.6.3: the auto height, and the margins that hang out at the bottom."""
        box, area = self.box, self.area
        marker_line = self.marker_line()
        height = max(self.y, marker_line)
        end_margins = self.strut
        if self.cleared_through or not open_bottom(box, area.width):
            height = max(marker_line, self.y + self.strut.used)
            self.note_group(self.strut, height, "the bottom edge of the parent")
            end_margins = NO_MARGINS
        source = "children" if self.has_content else "lines" if marker_line else "nothing"
        return Inside(
            tuple(self.children),
            (),
            height,
            source,
            end_margins,
            self.first_baseline,
            self.last_baseline,
            tuple(self.pending),
            tuple(self.groups),
        )

    def marker_line(self) -> LayoutUnit:
        """The line of an outside marker, where a list item has no content to stand beside."""
        box = self.box
        if box.marker is None or self.has_content or box.style.list_style_position != "outside":
            return 0
        font = inline_font(box.style)
        self.first_baseline = self.last_baseline = self.area.y + font.leading_ascent
        return font.leading_ascent + font.leading_descent

    def note_group(self, margins: MarginSet, y: LayoutUnit, ended_by: str) -> None:
        """Keep a collapsed margin for explanations."""
        if margins.members:
            self.groups.append(MarginGroup(margins, self.area.y + y, ended_by))

    def float(self, child: Box) -> None:
        """§9.5.1: a float, from where the flow stands (collapsed margins so far included)."""
        area = self.area
        fragment = self.run.independent(child, area.width, area.percent_height)
        place = self.floats.place(
            child.style.float_,
            child.style.clear,
            fragment.margin_width,
            fragment.margin_height,
            area.bfc_y + self.y + self.strut.used,
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
        clearance: LayoutUnit = 0,
    ) -> None:
        """Keep a child whose border box stands at x, y in the content box."""
        area = self.area
        shift = relative_shift(
            fragment.box.style, area.width, area.percent_height, self.box.style.direction
        )
        placed = Placed(fragment, area.x + x, area.y + y, *shift, refusals, clearance)
        self.children.append(placed)
        self.pending += placed.waiting

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
            above = area.bfc_y + self.y
            margins = top_margins(child, area.width, area.percent_height, self.strut, self.floats, above)
            y = self.y + margins.used
        cleared = self.clearance_for(child, y)
        if cleared is not None:
            if self.at_top:
                margins = top_margins(
                    child, area.width, area.percent_height, NO_MARGINS, self.floats, area.bfc_y
                )
            self.at_top = False
            clearance, y = cleared - y, cleared
        else:
            clearance = 0
        if collapses_through(child, area.percent_height):
            self.through(child, y, clearance if cleared is not None else None)
            return
        fragment, end_margins = layout_block(
            self.run,
            child,
            area.width,
            area.percent_height,
            self.floats,
            area.bfc_x,
            area.bfc_y + y,
            self.around,
        )
        if not self.at_top:
            self.note_group(margins, y, "a box" if cleared is None else "clearance")
        self.settle(fragment, y, clearance)
        self.strut = end_margins.including(child, "bottom", fragment.margin.bottom)

    def settle(self, fragment: Fragment, y: LayoutUnit, clearance: LayoutUnit) -> None:
        """A child that takes room stands at y; the flow goes on below it."""
        self.put(fragment, fragment.across.start, y, (), clearance)
        self.at_top = False
        self.has_content = True
        self.cleared_through = False
        self.y = y + fragment.height
        self.note_baselines(fragment, self.area.y + y)

    def note_baselines(self, fragment: Fragment, y: LayoutUnit) -> None:
        """The first and last baseline of in-flow content, from the border box."""
        if fragment.box.establishes_bfc and fragment.box.kind is BoxKind.REPLACED:
            return
        if fragment.first_baseline is not None and self.first_baseline is None:
            self.first_baseline = y + fragment.first_baseline
        if fragment.last_baseline is not None:
            self.last_baseline = y + fragment.last_baseline

    def through(self, child: Box, y: LayoutUnit, clearance: LayoutUnit | None) -> None:
        """A block whose margins collapse through it: its place, and the margins that go on.

        §8.3.1: its top edge stands as if it had a bottom border; with clearance, as clear says.
        """
        area = self.area
        fragment, end_margins = layout_block(
            self.run,
            child,
            area.width,
            area.percent_height,
            self.floats,
            area.bfc_x,
            area.bfc_y + y,
            self.around,
        )
        if fragment.height:  # clearance from floats outside has separated its margins after all
            self.settle(fragment, y, clearance or 0)
            self.strut = end_margins.including(child, "bottom", fragment.margin.bottom)
            return
        self.put(fragment, fragment.across.start, y, (), clearance or 0)
        if self.at_top:
            return
        if clearance is not None:
            own = through_margins(child, area.width, NO_MARGINS)
            top = NO_MARGINS.including(child, "top", margin_or_zero(child.style.margin_top, area.width))
            self.y = y - top.used
            self.strut = own
            self.cleared_through = True
        else:
            self.strut = through_margins(child, area.width, self.strut)

    def beside_floats(self, child: Box) -> None:
        """§9.5: a box with a new formatting context must not overlap floats; it may be narrower.

        Its top margin collapses with what is above it, but not with its own content.
        """
        area = self.area
        top, bottom = vertical_margins(child, area.width)
        margins = self.strut.including(child, "top", top)
        y = self.y if self.at_top else self.y + margins.used
        cleared = self.clearance_for(child, y)
        clearance = 0
        if cleared is not None:
            self.at_top = False
            clearance, y = cleared - y, cleared
        fragment, x, y, refusals = self.find_room(child, y)
        if not self.at_top:
            self.note_group(margins, y, "a box" if cleared is None else "clearance")
        self.put(fragment, x, y, refusals, clearance)
        self.at_top = False
        self.has_content = True
        self.cleared_through = False
        self.y = y + fragment.height
        self.note_baselines(fragment, area.y + y)
        self.strut = NO_MARGINS.including(child, "bottom", bottom)

    def find_room(
        self, child: Box, y: LayoutUnit
    ) -> tuple[Fragment, LayoutUnit, LayoutUnit, tuple[Refusal, ...]]:
        """The first place from y downwards where the border box stands clear of all floats."""
        area = self.area
        bounds = (area.bfc_x, area.bfc_x + area.width)
        refusals: list[Refusal] = []
        height: LayoutUnit = 1
        while True:
            bfc_y = area.bfc_y + y
            left, right = self.floats.room(bfc_y, height, *bounds)
            if (left, right) == bounds:
                fragment = self.whole_row(child)
                return fragment, fragment.across.start, y, tuple(refusals)
            fragment, x = self.in_gap(child, left, right)
            lack = self.lack(child, fragment, x, left, right)
            if lack <= 0:
                if self.floats.room(bfc_y, max(1, fragment.height), *bounds) == (left, right):
                    return fragment, x - area.bfc_x, y, tuple(refusals)
                if fragment.height > height:
                    height = fragment.height
                    continue
            refusals.append(Refusal(left, bfc_y, right - left, max(0, lack)))
            y = self.floats.next_step(bfc_y) - area.bfc_y
            height = 1

    def whole_row(self, child: Box) -> Fragment:
        """The box where no float is in its way."""
        area = self.area
        return layout_new_context(self.run, child, area.width, area.percent_height, None, self.around)

    def in_gap(self, child: Box, left: LayoutUnit, right: LayoutUnit) -> tuple[Fragment, LayoutUnit]:
        """The box between floats, and x of its border box in the formatting context.

        Its margins count from the containing block and may lie under floats.
        """
        area, style = self.area, child.style
        margin_left = margin_or_zero(style.margin_left, area.width)
        margin_right = margin_or_zero(style.margin_right, area.width)
        start = max(left, area.bfc_x + margin_left)
        end = min(right, area.bfc_x + area.width - margin_right)
        fragment = layout_new_context(
            self.run,
            child,
            area.width,
            area.percent_height,
            max(0, end - start),
            self.around,
        )
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


def layout_new_context(
    run: LayoutRun,
    box: Box,
    cb_width: LayoutUnit,
    cb_height: LayoutUnit | None,
    room: LayoutUnit | None,
    around: widths.Around,
) -> Fragment:
    """A block-level box that establishes a formatting context of its own.

    room: the width between floats that an auto width fills; None for the whole row.
    """
    key = ("context", cb_width, cb_height, room, around)
    known = box.cache.get(key)
    if known is not None:
        fragment: Fragment = known
        return fragment
    if box.kind is BoxKind.REPLACED:
        fragment = run.independent(box, cb_width, cb_height)
        margins = widths.side_margins(box.style, cb_width, fragment.width, around)
        across = widths.with_margins(fragment.across, margins, fragment.width)
        margin = replace(fragment.margin, left=margins.left, right=margins.right)
        fragment = replace(fragment, across=across, margin=margin)
    else:
        border, padding = border_and_padding(box.style, cb_width)
        extra = border.across + padding.across
        by_ratio = ratio_width(box.style, cb_height, extra, border.down + padding.down)
        across = widths.block_in_flow(
            box.style, cb_width, extra, lambda: run.min_max(box), around, by_ratio
        )
        if room is not None and box.style.width == "auto" and by_ratio is None:
            filled, limit = widths.limited_width(
                max(0, room - extra), box.style, cb_width, extra, lambda: run.min_max(box)
            )
            rest = cb_width - across.margin_left - across.margin_right - extra - filled
            across = replace(
                across, content=filled, limit=limit, tentative=max(0, room - extra), rest=rest
            )
        fragment = assemble_context(run, box, across, cb_width, cb_height)
    remember(box, key, fragment)
    return fragment


def assemble_context(
    run: LayoutRun,
    box: Box,
    across: Across,
    cb_width: LayoutUnit,
    cb_height: LayoutUnit | None,
    forced_height: LayoutUnit | None = None,
) -> Fragment:
    """A box of known width with a new block formatting context inside.

    §10.6.7: its auto height reaches down to the bottom of its floats. forced_height: a content
    height that the place demands (absolute boxes between two offsets).
    """
    border, padding = border_and_padding(box.style, cb_width)
    extra = border.down + padding.down
    x, y = border.left + padding.left, border.top + padding.top
    by_ratio = ratio_height(box.style, across.content, border.across + padding.across, extra)
    basis = forced_height
    if forced_height is None:
        basis = percent_basis(box, cb_height, extra, by_ratio)
    floats = FloatContext()
    area = FlowArea(x, y, x, y, across.content, basis, floats)
    inside = layout_inside(run, box, area, at_top=False)
    auto_height, source = inside.height, inside.source
    if inside.end_margins.members:
        auto_height += inside.end_margins.used
    if floats.count and floats.bottom - y > auto_height:
        auto_height, source = floats.bottom - y, "floats"
    down = used_height(box.style, cb_height, extra, max(0, auto_height), source, by_ratio)
    if forced_height is not None:
        down = replace(down, content=forced_height)
    top, bottom = vertical_margins(box, cb_width)
    margin = Edges(top, across.margin_right, bottom, across.margin_left)
    return build_fragment(run, box, across, down, margin, border, padding, inside)


def build_fragment(
    run: LayoutRun,
    box: Box,
    across: Across,
    down: Down,
    margin: Edges,
    border: Edges,
    padding: Edges,
    inside: Inside,
) -> Fragment:
    """The finished fragment; absolute boxes that it contains are laid out in its padding box."""
    width = across.content + border.across + padding.across
    height = down.content + border.down + padding.down
    children, pending = inside.children, inside.pending
    if pending and box.element is not None and box.style.position != "static":
        area = ContainingBlock(
            border.left, border.top, width - border.across, height - border.down, box.style.direction
        )
        placed, rest = run.place_all(pending, area)
        children, pending = (*children, *placed), tuple(rest)
    return Fragment(
        box,
        width,
        height,
        margin,
        border,
        padding,
        across,
        down,
        children,
        inside.lines,
        inside.first_baseline,
        inside.last_baseline,
        pending,
        inside.groups,
    )


def remember(box: Box, key: object, value: object) -> None:
    """Keep a result on its box; a few constraints at a time."""
    if len(box.cache) >= 6:
        box.cache.clear()
    box.cache[key] = value


def layout_block(
    run: LayoutRun,
    box: Box,
    cb_width: LayoutUnit,
    cb_height: LayoutUnit | None,
    floats: FloatContext,
    bfc_x: LayoutUnit,
    bfc_y: LayoutUnit,
    around: widths.Around,
) -> tuple[Fragment, MarginSet]:
    """A block of the same formatting context whose border box begins at bfc_y.

    bfc_x: of the containing block's content box. Returns the fragment and the margins of its content
    that hang out at the bottom. Kept results are used where no float reaches in or out: `rises` is how
    far above its border box its content looked for floats (negative margins pull it up).
    """
    key = ("block", cb_width, cb_height, around)
    if not box.holds_floats:
        known = box.cache.get(key)
        if known is not None and (floats.count == 0 or floats.bottom <= bfc_y - known[2]):
            floats.asked = min(floats.asked, bfc_y - known[2])
            result: tuple[Fragment, MarginSet, LayoutUnit] = known
            return result[:2]
    asked_outside, floats.asked = floats.asked, bfc_y
    border, padding = border_and_padding(box.style, cb_width)
    extra = border.across + padding.across
    extra_down = border.down + padding.down
    across = widths.block_in_flow(
        box.style,
        cb_width,
        extra,
        lambda: run.min_max(box),
        around,
        ratio_width(box.style, cb_height, extra, extra_down),
    )
    by_ratio = ratio_height(box.style, across.content, extra, extra_down)
    x, y = border.left + padding.left, border.top + padding.top
    area = FlowArea(
        x,
        y,
        bfc_x + across.start + x,
        bfc_y + y,
        across.content,
        percent_basis(box, cb_height, extra_down, by_ratio),
        floats,
    )
    inside = layout_inside(run, box, area, at_top=open_top(box, cb_width))
    down = used_height(box.style, cb_height, extra_down, inside.height, inside.source, by_ratio)
    end_margins = inside.end_margins
    if down.content != inside.height or not height_is_auto(box, cb_height):
        end_margins = NO_MARGINS
    top, bottom = vertical_margins(box, cb_width)
    margin = Edges(top, across.margin_right, bottom, across.margin_left)
    fragment = build_fragment(run, box, across, down, margin, border, padding, inside)
    rises = bfc_y - floats.asked
    if not box.holds_floats and (floats.count == 0 or floats.bottom <= floats.asked):
        remember(box, key, (fragment, end_margins, rises))
    floats.asked = min(floats.asked, asked_outside)
    return fragment, end_margins
