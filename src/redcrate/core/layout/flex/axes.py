"""The two axes of a flex container, and where keywords lie on them: CSS Flexbox 1 §2, §5, CSS Align 3 §4.

Amounts along an axis count from its start, wherever that is on the page.
"""

from redcrate.core.geometry import Edges
from redcrate.core.layout.alignment import Alignment
from redcrate.core.records import dataclass
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.units import LayoutUnit

_POSITIONS = {"start": "end", "end": "start", "self-start": "self-end", "self-end": "self-start"}


@dataclass(frozen=True, slots=True)
class FlexAxes:
    """is_row: the main axis is across. *_reversed: it runs from the right, or from the bottom.

    wraps_reversed, rtl: of the container. main_turned: the direction is one that ends in -reverse.
    """

    is_row: bool
    main_reversed: bool
    cross_reversed: bool
    main_turned: bool
    wraps_reversed: bool
    rtl: bool

    def main(self, edges: Edges) -> tuple[LayoutUnit, LayoutUnit]:
        """The edges at the start and the end of the main axis."""
        return _pair(edges, across=self.is_row, turned=self.main_reversed)

    def cross(self, edges: Edges) -> tuple[LayoutUnit, LayoutUnit]:
        """The edges at the start and the end of the cross axis."""
        return _pair(edges, across=not self.is_row, turned=self.cross_reversed)

    def justify(self, value: Alignment, free: LayoutUnit) -> Alignment:
        """justify-content with that much room left, told from where the main axis starts."""
        keyword = _if_safe(value, free)
        if keyword in ("left", "right"):
            if not self.is_row:
                keyword = "start"
            else:
                keyword = "start" if (keyword == "left") != self.rtl else "end"
        return Alignment(_turned(keyword) if self.main_turned else keyword)

    def content(self, value: Alignment, free: LayoutUnit) -> Alignment:
        """align-content with that much room left, told from where the cross axis starts."""
        keyword = _if_safe(value, free)
        return Alignment(_turned(keyword) if self.wraps_reversed else keyword)

    def own(self, value: Alignment, item: ComputedStyle) -> Alignment:
        """align-self of an item, told from where the cross axis starts."""
        keyword = value.keyword
        if keyword in ("self-start", "self-end") and not self.is_row:
            other_way = (item.direction == "rtl") != self.rtl
            keyword = _turned(keyword) if other_way else keyword
        return Alignment(_turned(keyword) if self.wraps_reversed else keyword, value.is_safe)


def _if_safe(value: Alignment, free: LayoutUnit) -> str:
    """CSS Align 3 §4.4: what would overflow on both sides or at the start goes to the start instead."""
    return "start" if value.is_safe and free < 0 else value.keyword


def _turned(keyword: str) -> str:
    return _POSITIONS.get(keyword, keyword)


def _pair(edges: Edges, *, across: bool, turned: bool) -> tuple[LayoutUnit, LayoutUnit]:
    start, end = (edges.left, edges.right) if across else (edges.top, edges.bottom)
    return (end, start) if turned else (start, end)


def axes_of(style: ComputedStyle) -> FlexAxes:
    """The axes that flex-direction, flex-wrap and direction make (§5.1, §5.2)."""
    is_row = style.flex_direction.startswith("row")
    turned = style.flex_direction.endswith("-reverse")
    wraps_reversed = style.flex_wrap == "wrap-reverse"
    rtl = style.direction == "rtl"
    return FlexAxes(
        is_row,
        turned != (rtl and is_row),
        wraps_reversed != (rtl and not is_row),
        turned,
        wraps_reversed,
        rtl,
    )
