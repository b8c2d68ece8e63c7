"""How far fragments reach: found once for each fragment, so that an edit asks only what it made anew.

A fragment's reach counts from the top left of its border box, in 1/64 px.
"""

from collections.abc import Callable
from weakref import ref

from redcrate.core.layout.forgetting import forgetting
from redcrate.core.layout.fragments import Fragment, Placed
from redcrate.core.records import dataclass
from redcrate.core.units import ZERO, LayoutUnit


@dataclass(frozen=True, slots=True)
class Extent:
    """What a fragment and all inside it cover.

    lowest: the lowest border box; left to bottom: with lines and what overflows. reach: the right edge of what can be
    seen of it, so without what boxes inside clip. transformed: whether any of them is. sticks: whether it or one of
    them does.
    """

    lowest: LayoutUnit
    left: LayoutUnit
    top: LayoutUnit
    right: LayoutUnit
    bottom: LayoutUnit
    reach: LayoutUnit
    transformed: bool
    sticks: bool = False


def inner_fragments(fragment: Fragment) -> list[Placed]:
    """What stands in a fragment: blocks, floats and absolute boxes, then the atomic boxes of its lines."""
    inner = list(fragment.children)
    for line in fragment.lines:
        inner += [piece for piece in line.content if isinstance(piece, Placed)]
    return inner


class Extents:
    """The extents of the fragments that are in use."""

    def __init__(self) -> None:
        self._known: dict[ref[Fragment], Extent] = {}
        self._forget: Callable[[ref[Fragment]], object] = forgetting(self._known)

    def of(self, fragment: Fragment) -> Extent:
        """The extent of a fragment; those inside are found first, however deep they nest."""
        known = self._known.get(ref(fragment))
        if known is not None:
            return known
        found: dict[Fragment, Extent] = {}
        for at, inner in reversed(self._unknown_in(fragment, found)):
            found[at] = _around(at, inner, found)
        for at, extent in found.items():
            self._known.setdefault(ref(at, self._forget), extent)
        return found[fragment]

    def _unknown_in(
        self, fragment: Fragment, found: dict[Fragment, Extent]
    ) -> list[tuple[Fragment, list[Placed]]]:
        """A fragment and those in it that are not known, outer ones first, with what stands in each.

        found: gets the extents of those that are.
        """
        missing = [(fragment, inner_fragments(fragment))]
        for _, inner in missing:
            for placed in inner:
                known = self._known.get(ref(placed.fragment))
                if known is None:
                    missing.append((placed.fragment, inner_fragments(placed.fragment)))
                else:
                    found[placed.fragment] = known
        return missing


def _around(fragment: Fragment, inner: list[Placed], found: dict[Fragment, Extent]) -> Extent:
    """The extent of a fragment in which the inner ones have those that were found."""
    lowest = bottom = fragment.height
    left = top = ZERO
    reach = fragment.width
    transformed = fragment.box.style.is_transformed
    sticks = fragment.box.style.position == "sticky" or any(found[p.fragment].sticks for p in inner)
    if fragment.lines:
        lines = fragment.lines
        left = min(left, min([line.x for line in lines]))
        top = min(top, min([line.y for line in lines]))
        reach = max(reach, max([line.x + line.used for line in lines]))
        bottom = max(bottom, max([line.y + line.height for line in lines]))
    right = reach
    for placed in inner:  # asked of thousands in one pass
        shown = placed.fragment
        at, x, y = found[shown], placed.x + placed.shift_x, placed.y + placed.shift_y
        if y + at.lowest > lowest:
            lowest = y + at.lowest
        if x + at.left < left:
            left = x + at.left
        if y + at.top < top:
            top = y + at.top
        if x + at.right > right:
            right = x + at.right
        if y + at.bottom > bottom:
            bottom = y + at.bottom
        seen = x + (at.reach if shown.box.style.overflow_x == "visible" else shown.width)
        if seen > reach:
            reach = seen
        if at.transformed:
            transformed = True
    return Extent(lowest, left, top, right, bottom, reach, transformed, sticks)
