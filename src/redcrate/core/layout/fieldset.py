"""Fieldsets whose legend stands on their top border: HTML Standard §15.3.13."""

from collections.abc import Sequence
from dataclasses import replace

from redcrate.core.boxes.box import Box
from redcrate.core.boxes.legends import legend_among
from redcrate.core.layout import block_container, intrinsic
from redcrate.core.layout.block import flow_blocks
from redcrate.core.layout.block_container import layout_block_container
from redcrate.core.layout.contexts import Content, FlowArea, LayoutRun
from redcrate.core.layout.edges import border_and_padding
from redcrate.core.layout.fieldset_facts import FieldsetFacts
from redcrate.core.layout.fragments import ContentSizes, Fragment, Placed
from redcrate.core.layout.relative import relative_shift
from redcrate.core.layout.space import ConstraintSpace
from redcrate.core.layout.widths import block_align
from redcrate.core.units import ZERO, LayoutUnit


class FieldsetContext:
    """Lays out fieldsets with a rendered legend; those without one are block containers."""

    reasons = block_container.REASONS

    def layout(self, run: LayoutRun, box: Box, space: ConstraintSpace) -> Fragment:
        """The fieldset, its legend on the top border, the other children below."""
        return layout_block_container(run, box, space, _flow)

    def content_sizes(self, run: LayoutRun, box: Box, space: ConstraintSpace) -> ContentSizes:
        """As wide as the widest child, be it the legend."""
        return intrinsic.of_blocks(run, box)


def _flow(run: LayoutRun, box: Box, area: FlowArea) -> Content:
    """The space of the top border is its width or the legend with its margins, whichever is more."""
    legend = legend_among(box.children)
    others = [c for c in box.children if c is not legend]
    if legend is None:
        return flow_blocks(run, box, area, others)
    border = border_and_padding(box.style, area.width)[0].top
    placed = _on_border(run, box, legend, area, border)
    room = max(ZERO, placed.fragment.margin_height - border)
    content = flow_blocks(run, box, _below(area, room), others)
    middle = placed.y + placed.fragment.height // 2
    return replace(
        content,
        children=_in_order(box, placed, content.children),
        height=content.height + room,
        source="children" if room else content.source,
        out_of_flow=(*placed.out_of_flow, *content.out_of_flow),
        facts=FieldsetFacts(legend, room, max(ZERO, middle - border // 2)),
    )


def _on_border(run: LayoutRun, box: Box, legend: Box, area: FlowArea, border: LayoutUnit) -> Placed:
    """The legend: between the side paddings, and where it is lower than the border in the middle of that."""
    style = box.style
    space = ConstraintSpace(
        area.width, area.percent_height, direction=style.direction, align=block_align(style)
    )
    fragment = run.layout(legend, space)
    y = fragment.margin.top + max(ZERO, border - fragment.margin_height) // 2
    shift = relative_shift(legend.style, area.width, area.percent_height, style.direction)
    return Placed(fragment, area.x + fragment.across.start, LayoutUnit(y), *shift)


def _below(area: FlowArea, room: LayoutUnit) -> FlowArea:
    """What is left of the content box under a legend that takes `room` of it."""
    height = area.percent_height
    left = None if height is None else max(ZERO, height - room)
    return replace(area, y=area.y + room, bfc_y=area.bfc_y + room, percent_height=left)


def _in_order(box: Box, legend: Placed, others: Sequence[Placed]) -> tuple[Placed, ...]:
    """The children as the tree has them, so that what comes later is painted later."""
    at = box.children.index(legend.fragment.box)
    before = set(box.children[:at])
    split = sum(1 for p in others if p.fragment.box in before)
    return (*others[:split], legend, *others[split:])
