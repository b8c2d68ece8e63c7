"""How far fragments reach: found once for each fragment, so that an edit asks only what it made anew.

A fragment's reach counts from the top left of its border box, in 1/64 px.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from weakref import WeakKeyDictionary

from redcrate.core.layout.fragments import Fragment, Placed
from redcrate.core.made_often import made_often
from redcrate.core.units import ZERO, LayoutUnit


@made_often
@dataclass(frozen=True, slots=True)
class Extent:
    """What a fragment and all inside it cover.

    lowest: the lowest border box; left to bottom: with lines and what overflows. reach: the right edge of what can be
    seen of it, so without what boxes inside clip. transformed: whether any of them is.
    """

    lowest: LayoutUnit
    left: LayoutUnit
    top: LayoutUnit
    right: LayoutUnit
    bottom: LayoutUnit
    reach: LayoutUnit
    transformed: bool


def inner_fragments(fragment: Fragment) -> Iterator[Placed]:
    """What stands in a fragment: blocks, floats and absolute boxes, then the atomic boxes of its lines."""
    yield from fragment.children
    for line in fragment.lines:
        yield from (piece for piece in line.content if isinstance(piece, Placed))


class Extents:
    """The extents of the fragments that are in use."""

    def __init__(self) -> None:
        self._known: WeakKeyDictionary[Fragment, Extent] = WeakKeyDictionary()

    def of(self, fragment: Fragment) -> Extent:
        """The extent of a fragment; those inside are found first, however deep they nest."""
        known = self._known
        stack = [fragment]
        while stack:
            at = stack[-1]
            if at in known:
                stack.pop()
                continue
            missing = [p.fragment for p in inner_fragments(at) if p.fragment not in known]
            if missing:
                stack += missing
            else:
                known[at] = self._around(at)
        return known[fragment]

    def _around(self, fragment: Fragment) -> Extent:
        """The extent of a fragment whose inner ones are known."""
        lowest = bottom = fragment.height
        left = top = ZERO
        right = reach = fragment.width
        transformed = fragment.box.style.is_transformed
        for line in fragment.lines:
            left, top = min(left, line.x), min(top, line.y)
            right, bottom = max(right, line.x + line.used), max(bottom, line.y + line.height)
            reach = max(reach, line.x + line.used)
        for placed in inner_fragments(fragment):
            inner = self._known[placed.fragment]
            x, y = placed.x + placed.shift_x, placed.y + placed.shift_y
            lowest = max(lowest, y + inner.lowest)
            left, top = min(left, x + inner.left), min(top, y + inner.top)
            right, bottom = max(right, x + inner.right), max(bottom, y + inner.bottom)
            clips = placed.fragment.box.style.overflow_x != "visible"
            reach = max(reach, x + (placed.fragment.width if clips else inner.reach))
            transformed = transformed or inner.transformed
        return Extent(lowest, left, top, right, bottom, reach, transformed)
