"""One layout of a page: which formatting context lays out which box, and the initial containing block.

CSS 2.2 §9.1.1 and §10.1. `layout_page` is the one way in.
"""

import sys
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from dataclasses import replace

from redcrate.core.boxes.box import Box, BoxKind
from redcrate.core.collecting import collector_paused
from redcrate.core.geometry import Edges
from redcrate.core.layout import intrinsic, positioned, widths
from redcrate.core.layout.block import (
    assemble_context,
    build_fragment,
    layout_new_context,
    remember,
)
from redcrate.core.layout.collapsing import vertical_margins
from redcrate.core.layout.edges import border_and_padding, margin_or_zero
from redcrate.core.layout.fragments import (
    Across,
    Down,
    Fragment,
    MarginReason,
    Pending,
    Placed,
)
from redcrate.core.layout.heights import ratio_width
from redcrate.core.layout.line_boxes import relative_shift
from redcrate.core.layout.margins import NO_MARGINS
from redcrate.core.layout.replaced import ReplacedSize, replaced_size
from redcrate.core.layout.run import ContainingBlock, Inside
from redcrate.core.units import LayoutUnit

_FRAMES_PER_BOX = 14
_EMPTY = Inside((), (), 0, "nothing", NO_MARGINS, None, None, (), ())


class Layout:
    """Lays out one page at one viewport; implements `LayoutRun`."""

    def __init__(self, viewport_width: LayoutUnit, viewport_height: LayoutUnit) -> None:
        self.viewport_width = viewport_width
        self.viewport_height = viewport_height

    def page(self, root: Box) -> Placed:
        """The root box in the initial containing block, with all that hangs on the latter."""
        width, height = self.viewport_width, self.viewport_height
        placed = self._place_root(root)
        fragment, x, y = placed.fragment, placed.x + placed.shift_x, placed.y + placed.shift_y
        window = ContainingBlock(-x, -y, width, height, root.style.direction)
        waiting, _ = self.place_all(fragment.pending, window, fixed=True)
        if waiting:
            fragment = replace(fragment, children=(*fragment.children, *waiting), pending=())
        return replace(placed, fragment=fragment)

    def _place_root(self, root: Box) -> Placed:
        """§9.3.1, §9.5: the root may be positioned or float; it stands in the initial containing block."""
        width, height, style = self.viewport_width, self.viewport_height, root.style
        if root.is_out_of_flow:
            window = ContainingBlock(0, 0, width, height, style.direction)
            return positioned.place_absolute(self, Pending(root, 0, 0), window)
        if root.is_float:
            fragment = self.independent(root, width, height)
            right = width - fragment.width - fragment.margin.right
            x = fragment.margin.left if style.float_ == "left" else right
        else:
            around = widths.Around(style.direction)
            fragment = layout_new_context(self, root, width, height, None, around)
            x = fragment.across.start
        shift = relative_shift(style, width, height, style.direction)
        return Placed(fragment, x, fragment.margin.top, *shift)

    def min_max(self, box: Box) -> tuple[LayoutUnit, LayoutUnit]:
        """Preferred widths: CSS 2.2 §10.3.5."""
        return intrinsic.min_max(box)

    def independent(
        self,
        box: Box,
        cb_width: LayoutUnit,
        cb_height: LayoutUnit | None,
        available: LayoutUnit | None = None,
    ) -> Fragment:
        """A float, inline-block or replaced box: CSS 2.2 §10.3.2, §10.3.5, §10.3.9."""
        key = ("independent", cb_width, cb_height, available)
        known = box.cache.get(key)
        if known is not None:
            fragment: Fragment = known
            return fragment
        if box.kind is BoxKind.REPLACED:
            fragment = self.replaced(box, cb_width, cb_height)
        else:
            border, padding = border_and_padding(box.style, cb_width)
            extra = border.across + padding.across
            by_ratio = ratio_width(box.style, cb_height, extra, border.down + padding.down)
            across = widths.shrink_to_fit(
                box.style, cb_width, extra, lambda: self.min_max(box), available, by_ratio
            )
            fragment = assemble_context(self, box, across, cb_width, cb_height)
        remember(box, key, fragment)
        return fragment

    def replaced(self, box: Box, cb_width: LayoutUnit, cb_height: LayoutUnit | None) -> Fragment:
        """A replaced box: size from the image, margins as specified; its baseline is its bottom."""
        style = box.style
        border, padding = border_and_padding(style, cb_width)
        size = replaced_size(
            style,
            box.intrinsic,
            cb_width,
            cb_height,
            border.across + padding.across,
            border.down + padding.down,
        )
        left = margin_or_zero(style.margin_left, cb_width)
        right = margin_or_zero(style.margin_right, cb_width)
        across, down = _replaced_sizes(size, left, right, cb_width, cb_height)
        taken = left + border.across + padding.across + size.width + right
        across = replace(across, rest=cb_width - taken)
        top, bottom = vertical_margins(box, cb_width)
        margin = Edges(top, right, bottom, left)
        return build_fragment(self, box, across, down, margin, border, padding, _EMPTY)

    def place_all(
        self, waiting: Iterable[Pending], block: ContainingBlock, *, fixed: bool = False
    ) -> tuple[list[Placed], list[Pending]]:
        """Absolute boxes in their containing block: CSS 2.2 §10.3.7 and §10.6.4."""
        return positioned.place_all(self, waiting, block, fixed=fixed)


def _replaced_sizes(
    size: ReplacedSize,
    left: LayoutUnit,
    right: LayoutUnit,
    cb_width: LayoutUnit,
    cb_height: LayoutUnit | None,
) -> tuple[Across, Down]:
    across = Across(
        size.width,
        left,
        right,
        cb_width,
        size.width_reason,
        MarginReason.SPECIFIED,
        size.width,
        size.width_limit,
    )
    down = Down(size.height, size.height_reason, size.height, cb_height, size.height, size.height_limit)
    return across, down


@contextmanager
def room_for_depth(depth: int) -> Iterator[None]:
    """Let Python nest as deep as the boxes do; frames of Python code take no room on the C stack."""
    before = sys.getrecursionlimit()
    sys.setrecursionlimit(max(before, depth * _FRAMES_PER_BOX + 2000))
    try:
        yield
    finally:
        sys.setrecursionlimit(before)


def layout_page(root: Box, width: LayoutUnit, height: LayoutUnit) -> Placed:
    """Lay out the box tree in a window of `width` by `height` (1/64 px)."""
    with collector_paused(), room_for_depth(root.depth):
        return Layout(width, height).page(root)
