"""How far fragments reach: found once for each fragment, so that an edit asks only what it made anew.

A fragment's reach counts from the top left of its border box, in 1/64 px.
"""

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


def inner_fragments(fragment: Fragment) -> list[Placed]:
    """What stands in a fragment: blocks, floats and absolute boxes, then the atomic boxes of its lines."""
    inner = list(fragment.children)
    for line in fragment.lines:
        inner += [piece for piece in line.content if isinstance(piece, Placed)]
    return inner


class Extents:
    """The extents of the fragments that are in use."""

    def __init__(self) -> None:
        self._known: WeakKeyDictionary[Fragment, Extent] = WeakKeyDictionary()

    def of(self, fragment: Fragment) -> Extent:
        """The extent of a fragment; those inside are found first, however deep they nest."""
        known = self._known.get(fragment)
        if known is not None:
            return known
        found: dict[Fragment, Extent] = {}
        for at, inner in reversed(self._unknown_in(fragment, found)):
            found[at] = _around(at, inner, found)
        self._known.update(found)
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
                known = self._known.get(placed.fragment)
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
    if fragment.lines:
        lines = fragment.lines
        left = min(left, min([line.x for line in lines]))
        top = min(top, min([line.y for line in lines]))
        reach = max(reach, max([line.x + line.used for line in lines]))
        bottom = max(bottom, max([line.y + line.height for line in lines]))
    right = reach
    for placed in inner:
        at = found[placed.fragment]
        x, y = placed.x + placed.shift_x, placed.y + placed.shift_y
        lowest = max(lowest, y + at.lowest)
        left, top = min(left, x + at.left), min(top, y + at.top)
        right, bottom = max(right, x + at.right), max(bottom, y + at.bottom)
        clips = placed.fragment.box.style.overflow_x != "visible"
        reach = max(reach, x + (placed.fragment.width if clips else at.reach))
        transformed = transformed or at.transformed
    return Extent(lowest, left, top, right, bottom, reach, transformed)
