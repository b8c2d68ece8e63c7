"""A block container from outside: its used width, its content, its used height, its fragment.

CSS 2.2 §10.3 to §10.7 in the order in which they hang on one another. What flows inside is for the
formatting context to say.
"""

from collections.abc import Callable
from dataclasses import replace
from typing import TypeAlias

from redcrate.core.boxes.box import Box, InnerDisplay
from redcrate.core.geometry import Edges
from redcrate.core.layout import widths
from redcrate.core.layout.collapsing import height_is_auto, open_top
from redcrate.core.layout.contexts import ContainingBlock, Content, FlowArea, LayoutRun
from redcrate.core.layout.edges import border_and_padding, margins_or_zero
from redcrate.core.layout.floats import FloatContext
from redcrate.core.layout.fragments import Across, Down, Fragment, HeightSource, SizeReason
from redcrate.core.layout.known_height import known_height
from redcrate.core.layout.margins import NO_MARGINS
from redcrate.core.layout.moved_content import moved_content
from redcrate.core.layout.ratios import ratio_height, ratio_of, ratio_width
from redcrate.core.layout.space import ConstraintSpace
from redcrate.core.markup.buttons import is_button
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.units import ZERO, LayoutUnit

# Lays out the content of a block container in the area that its content box has.
Flow: TypeAlias = Callable[[LayoutRun, Box, FlowArea], Content]

REASONS = frozenset(SizeReason) - {SizeReason.INTRINSIC, SizeReason.INLINE, SizeReason.VIEWPORT}


def layout_block_container(run: LayoutRun, box: Box, space: ConstraintSpace, flow: Flow) -> Fragment:
    """The fragment of a block container in `space`; `flow` lays out its content."""
    style, floats = box.style, space.floats
    border, padding = border_and_padding(style, space.width)
    forced = space.forced
    if forced is not None and forced.border is not None:
        border = forced.border
    extra = border.across + padding.across
    extra_down = border.down + padding.down
    has_ratio = ratio_of(style) is not None
    across = widths.used_across(
        style,
        space,
        extra,
        lambda: run.content_sizes(box),
        ratio_width(style, space.height, extra, extra_down) if has_ratio else None,
    )
    if floats is None:
        reused = run.cache.of(box).alike(
            space, across.content, border, padding, reads_height=box.reads_height
        )
        if reused is not None:
            return _with_other_margins(reused, space, across)
    by_ratio = ratio_height(style, across.content, extra, extra_down) if has_ratio else None
    known = known_height(box, space, extra_down, by_ratio)
    x, y = border.left + padding.left, border.top + padding.top
    if forced is not None:
        y += forced.content_shift
    basis = known.percent_basis
    if floats is None:
        lines = style.shown_lines
        trims = "block-start" in style.margin_trim
        area = FlowArea(x, y, x, y, across.content, basis, FloatContext(), trims, known, lines)
    else:
        bfc_x, bfc_y = space.floats_x + across.start + x, space.floats_y + y
        at_top = open_top(box, space.width) or "block-start" in style.margin_trim
        lines = space.lines_left
        area = FlowArea(x, y, bfc_x, bfc_y, across.content, basis, floats, at_top, known, lines)
    is_centred = floats is None and centres_content(box)
    content = moved_content(run.cache, box, area) if floats is None and not is_centred else None
    if content is None:
        content = flow(run, box, area)
    height, source = (
        (content.height, content.source) if floats is not None else _with_floats(content, area)
    )
    down = known.used(height, source)
    if is_centred and down.content > height:
        content = flow(run, box, _lower(area, (down.content - height) // 2))
    return build_fragment(run, box, space.width, across, down, border, padding, content)


def centres_content(box: Box) -> bool:
    """Whether what flows in a box stands in the middle of its height, where it is lower: HTML Standard §15.5.2."""
    return box.inner in (InnerDisplay.BLOCKS, InnerDisplay.LINES) and is_button(box.element)


def _lower(area: FlowArea, by: LayoutUnit) -> FlowArea:
    """The same area so much further down."""
    y = area.y + by
    return replace(area, y=y, bfc_y=y, floats=FloatContext())


def _with_other_margins(reused: Fragment, space: ConstraintSpace, across: Across) -> Fragment:
    """A box of its own context with the same used width and height around has the same inside."""
    margin = _margins(reused.box.style, space.width, across)
    down = reused.down if reused.down.basis == space.height else replace(reused.down, basis=space.height)
    return reused.repeated(across, down, margin)


def _with_floats(content: Content, area: FlowArea) -> tuple[LayoutUnit, HeightSource]:
    """§10.6.7: a box of its own context also holds its floats."""
    if area.floats.count and area.floats.bottom - area.y > content.height:
        return max(ZERO, area.floats.bottom - area.y), "floats"
    return max(ZERO, content.height), content.source


def _margins(style: ComputedStyle, cb_width: LayoutUnit, across: Across) -> Edges:
    """The used margins: those of the style, but for the sides, which may be what the room makes of them."""
    margin = margins_or_zero(style, cb_width)
    if (margin.left, margin.right) == (across.margin_left, across.margin_right):
        return margin
    return Edges(margin.top, across.margin_right, margin.bottom, across.margin_left)


def build_fragment(
    run: LayoutRun,
    box: Box,
    cb_width: LayoutUnit,
    across: Across,
    down: Down,
    border: Edges,
    padding: Edges,
    content: Content,
) -> Fragment:
    """The finished fragment; absolute boxes that it contains are laid out in its padding box."""
    width = across.content + border.across + padding.across
    height = down.content + border.down + padding.down
    children, candidates = content.children, content.out_of_flow
    contains_fixed = bool(candidates) and box.style.contains_fixed
    contains = contains_fixed or box.style.position != "static"
    if candidates and box.element is not None and contains:
        block = ContainingBlock(
            border.left, border.top, width - border.across, height - border.down, box.style.direction
        )
        placed, rest = run.place_out_of_flow(candidates, block, fixed=contains_fixed)
        children, candidates = (*children, *placed), tuple(rest)
    end_margins = content.end_margins
    if end_margins.members and (
        box.establishes_bfc or down.content != content.height or not height_is_auto(box, down.basis)
    ):
        end_margins = NO_MARGINS
    return Fragment(
        box,
        width,
        height,
        _margins(box.style, cb_width, across),
        border,
        padding,
        across,
        down,
        children,
        content.lines,
        content.first_baseline,
        content.last_baseline,
        candidates,
        content.groups,
        end_margins,
        facts=content.facts,
    )
