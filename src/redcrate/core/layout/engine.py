"""One layout of a page: the register of formatting contexts, and the initial containing block.

CSS 2.2 §9.1.1 and §10.1. `layout_page` is the one way in.
"""

from collections.abc import Iterable, Mapping
from dataclasses import replace

from redcrate.core.boxes.box import Box, InnerDisplay
from redcrate.core.collecting import collector_paused
from redcrate.core.layout import positioned
from redcrate.core.layout.block import BlockContext
from redcrate.core.layout.cache import BoxRecord, LayoutCache
from redcrate.core.layout.containment import contained_sizes
from redcrate.core.layout.contexts import ContainingBlock, FormattingContext
from redcrate.core.layout.fieldset import FieldsetContext
from redcrate.core.layout.flex.context import FlexContext
from redcrate.core.layout.floats import FloatContext
from redcrate.core.layout.fragments import ContentSizes, Fragment, OutOfFlowCandidate, Placed
from redcrate.core.layout.grid.context import GridContext
from redcrate.core.layout.inline import InlineContext
from redcrate.core.layout.relative import relative_shift
from redcrate.core.layout.replaced import ReplacedContext
from redcrate.core.layout.space import MEASURING, ConstraintSpace, Sizing
from redcrate.core.layout.table.context import TableContext, TablePartContext
from redcrate.core.recursing import room_for_depth
from redcrate.core.units import ZERO, LayoutUnit

_FRAMES_PER_BOX = 16

CONTEXTS: Mapping[InnerDisplay, FormattingContext] = {
    InnerDisplay.BLOCKS: BlockContext(),
    InnerDisplay.LINES: InlineContext(),
    InnerDisplay.FLEX: FlexContext(),
    InnerDisplay.GRID: GridContext(),
    InnerDisplay.TABLE: TableContext(),
    InnerDisplay.TABLE_PART: TablePartContext(),
    InnerDisplay.FIELDSET: FieldsetContext(),
    InnerDisplay.REPLACED: ReplacedContext(),
}


class Layout:
    """Lays out one page at one viewport; implements `LayoutRun`.

    The fragments that it makes are held until it ends, so that what is tried twice is made once.
    """

    def __init__(
        self, viewport_width: LayoutUnit, viewport_height: LayoutUnit, cache: LayoutCache
    ) -> None:
        self.viewport_width = viewport_width
        self.viewport_height = viewport_height
        self.cache = cache
        self._made: list[Fragment] = []

    def page(self, root: Box) -> Placed:
        """The root box in the initial containing block, with all that hangs on the latter."""
        width, height = self.viewport_width, self.viewport_height
        placed = self._place_root(root)
        fragment, x, y = placed.fragment, placed.x + placed.shift_x, placed.y + placed.shift_y
        window = ContainingBlock(-x, -y, width, height, root.style.direction)
        found, _ = self.place_out_of_flow(fragment.out_of_flow, window, fixed=True)
        if found:
            children = (*fragment.children, *found)
            fragment = replace(fragment, children=children, out_of_flow=(), made_of=fragment)
        return replace(placed, fragment=fragment)

    def _place_root(self, root: Box) -> Placed:
        """§9.3.1, §9.5: the root may be positioned or float; it stands in the initial containing block."""
        width, height, style = self.viewport_width, self.viewport_height, root.style
        if root.is_out_of_flow:
            window = ContainingBlock(ZERO, ZERO, width, height, style.direction)
            return positioned.place_absolute(self, OutOfFlowCandidate(root, ZERO, ZERO), window)
        sizing = Sizing.SHRINK_TO_FIT if root.is_float else Sizing.FILL
        fragment = self.layout(root, ConstraintSpace(width, height, sizing, direction=style.direction))
        x = fragment.across.start
        if root.is_float and style.float_ == "right":
            x = width - fragment.width - fragment.margin.right
        shift = relative_shift(style, width, height, style.direction)
        return Placed(fragment, x, fragment.margin.top, *shift)

    def layout(self, box: Box, space: ConstraintSpace) -> Fragment:
        """The fragment of a box in `space`: kept, or made by the context of what it holds."""
        record = self.cache.of(box)
        if space.floats is not None:
            return self._layout_among_floats(record, box, space, space.floats)
        kept = record.fragments.get(space)
        known = kept() if kept is not None else None
        if known is not None:
            return known
        fragment = CONTEXTS[box.inner].layout(self, box, space)
        self._keep(record, space, fragment, ZERO)
        return fragment

    def _layout_among_floats(
        self, record: BoxRecord, box: Box, space: ConstraintSpace, floats: FloatContext
    ) -> Fragment:
        """A box that takes part in a context with floats: kept is what no float reaches into.

        `asked` is the highest place in the context at which a layout looked for floats.
        """
        top = space.floats_y
        if not box.holds_floats:
            kept = record.fragments.get(space)
            known = kept() if kept is not None else None
            if kept is not None and known is not None:
                highest = top - kept.rises
                if floats.count == 0 or floats.bottom <= highest:
                    floats.asked = min(floats.asked, highest)
                    return known
        asked_outside, floats.asked = floats.asked, top
        fragment = CONTEXTS[box.inner].layout(self, box, space)
        if not box.holds_floats and (floats.count == 0 or floats.bottom <= floats.asked):
            self._keep(record, space, fragment, top - floats.asked)
        floats.asked = min(floats.asked, asked_outside)
        return fragment

    def _keep(
        self, record: BoxRecord, space: ConstraintSpace, fragment: Fragment, rises: LayoutUnit
    ) -> None:
        self._made.append(fragment)
        record.keep(space, fragment, rises)

    def content_sizes(self, box: Box) -> ContentSizes:
        """Content sizes: CSS 2.2 §10.3.5, kept for each box."""
        sizes = self.cache.of(box).sizes
        found = sizes.get(MEASURING)
        if found is None:
            found = contained_sizes(box)
            if found is None:
                found = CONTEXTS[box.inner].content_sizes(self, box, MEASURING)
            sizes[MEASURING] = found
        return found

    def place_out_of_flow(
        self,
        candidates: Iterable[OutOfFlowCandidate],
        block: ContainingBlock,
        *,
        fixed: bool = False,
    ) -> tuple[list[Placed], list[OutOfFlowCandidate]]:
        """Absolute boxes in their containing block: CSS 2.2 §10.3.7 and §10.6.4."""
        return positioned.place_all(self, candidates, block, fixed=fixed)


def layout_page(
    root: Box, width: LayoutUnit, height: LayoutUnit, cache: LayoutCache | None = None
) -> Placed:
    """Lay out the box tree in a window of `width` by `height` (1/64 px).

    cache: of the page's family; what it keeps is used, and what is found out is kept in it.
    """
    with collector_paused(), room_for_depth(root.depth * _FRAMES_PER_BOX):
        return Layout(width, height, LayoutCache() if cache is None else cache).page(root)
