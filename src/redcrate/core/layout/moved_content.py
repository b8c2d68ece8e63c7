"""What is inside a box whose own room or picture alone has become another one: the same, in another place.

For blocks that start a block formatting context: their content hangs on its own width and on nothing outside.
"""

from dataclasses import replace

from redcrate.core.boxes.box import Box, InnerDisplay
from redcrate.core.layout.cache import LayoutCache
from redcrate.core.layout.contexts import Content, FlowArea
from redcrate.core.layout.fragments import Fragment, Placed, Refusal
from redcrate.core.layout.known_height import known_height
from redcrate.core.layout.margins import NO_MARGINS, MarginGroup
from redcrate.core.layout.space import ConstraintSpace
from redcrate.core.style.affected import keeps_inside
from redcrate.core.units import LayoutUnit


def moved_content(cache: LayoutCache, box: Box, area: FlowArea) -> Content | None:
    """The content of a box in `area`, taken from the box that it stands for now; None where it may differ."""
    earlier = _earlier(box)
    if earlier is None:
        return None
    for space, fragment in cache.of(earlier).kept():
        if fragment.across.content == area.width and _is_alike(fragment, space, area):
            return _moved(fragment, area)
    return None


def _earlier(box: Box) -> Box | None:
    """The box before its style changed, if what stands in it is the same and asks for no height."""
    if box.stands_for is None or box.inner is not InnerDisplay.BLOCKS or box.inside_reads:
        return None
    earlier = box.stands_for()
    if earlier is None or earlier.children != box.children:
        return None
    return earlier if keeps_inside(earlier.style, box.style) else None


def _is_alike(fragment: Fragment, space: ConstraintSpace, area: FlowArea) -> bool:
    """Whether a fragment says how high its content is, and what heights in it referred to is the same now."""
    if fragment.down.source == "contained" or fragment.out_of_flow:
        return False
    for placed in fragment.children:
        if placed.block is not None:
            return False
    extra = fragment.border.down + fragment.padding.down
    return known_height(fragment.box, space, extra, None).percent_basis == area.percent_height


def _moved(fragment: Fragment, area: FlowArea) -> Content:
    """The content of a fragment, with its places counted from the border edges that `area` tells of."""
    x = area.x - fragment.border.left - fragment.padding.left
    y = area.y - fragment.border.top - fragment.padding.top
    first, last = fragment.first_baseline, fragment.last_baseline
    return Content(
        tuple([_placed(placed, x, y) for placed in fragment.children]),
        (),
        fragment.down.auto_height,
        fragment.down.source,
        NO_MARGINS,
        None if first is None else first + y,
        None if last is None else last + y,
        (),
        tuple([MarginGroup(g.margins, g.y + y, g.ended_by) for g in fragment.groups]),
    )


def _placed(placed: Placed, x: LayoutUnit, y: LayoutUnit) -> Placed:
    """A child so much further right and down; the places that it was refused go with it."""
    refusals: tuple[Refusal, ...] = placed.refusals
    if refusals:
        refusals = tuple([replace(r, x=r.x + x, y=r.y + y) for r in refusals])
    return Placed(
        placed.fragment,
        placed.x + x,
        placed.y + y,
        placed.shift_x,
        placed.shift_y,
        refusals,
        placed.clearance,
        None,
        placed.below_marker,
    )
