"""Floats of one block formatting context: CSS 2.2 §9.5.1 and §9.5.2.

Places count from the top left of the context's own border box, in 1/64 px. Each side keeps the
outline of its floats as a step function of y, so that a question costs a search, however many
floats there are.
"""

from bisect import bisect_right

from redcrate.core.layout.fragments import Refusal
from redcrate.core.records import dataclass
from redcrate.core.units import STEP, LayoutUnit

_FAR = LayoutUnit(2**40)


class _Outline:
    """How far floats reach in from one side, for each y; bigger is further in."""

    __slots__ = ("bottom", "reach", "tops")

    def __init__(self) -> None:
        self.tops: list[LayoutUnit] = [-_FAR]
        self.reach: list[LayoutUnit] = [-_FAR]
        self.bottom = -_FAR

    def add(self, top: LayoutUnit, bottom: LayoutUnit, reach: LayoutUnit) -> None:
        """A float from `top` to `bottom` that reaches to `reach`."""
        self.bottom = max(self.bottom, bottom)
        if bottom <= top:
            return
        first = self._split(top)
        last = self._split(bottom)
        for i in range(first, last):
            if reach > self.reach[i]:
                self.reach[i] = reach

    def _split(self, y: LayoutUnit) -> int:
        at = bisect_right(self.tops, y) - 1
        if self.tops[at] == y:
            return at
        self.tops.insert(at + 1, y)
        self.reach.insert(at + 1, self.reach[at])
        return at + 1

    def at(self, top: LayoutUnit, height: LayoutUnit) -> LayoutUnit:
        """The furthest reach between `top` and `top + height`."""
        i = bisect_right(self.tops, top) - 1
        found = self.reach[i]
        end = top + height
        i += 1
        while i < len(self.tops) and self.tops[i] < end:
            if self.reach[i] > found:
                found = self.reach[i]
            i += 1
        return found

    def copy(self) -> "_Outline":
        """The outline as it is now."""
        other = _Outline()
        other.tops, other.reach, other.bottom = self.tops[:], self.reach[:], self.bottom
        return other

    def next_step(self, y: LayoutUnit) -> LayoutUnit:
        """The next y below `y` at which the outline changes, or far away."""
        i = bisect_right(self.tops, y)
        return self.tops[i] if i < len(self.tops) else _FAR


@dataclass(frozen=True, slots=True)
class FloatPosition:
    """Where a float's margin box went, and the places that it was refused."""

    x: LayoutUnit
    y: LayoutUnit
    refusals: tuple[Refusal, ...]


@dataclass(frozen=True, slots=True, eq=False)
class FloatState:
    """The floats of a context at one moment."""

    left: _Outline
    right: _Outline
    ceiling: LayoutUnit
    count: int


_NOTHING = _Outline()  # of most contexts: nothing is ever added to it


class FloatContext:
    """The floats placed so far in one block formatting context."""

    __slots__ = ("_left", "_right", "asked", "ceiling", "count")

    def __init__(self) -> None:
        self._left = _NOTHING
        self._right = _NOTHING  # reaches are counted as -x
        self.ceiling = -_FAR  # rule 5: no float is higher than an earlier one
        self.count = 0
        self.asked: LayoutUnit = _FAR  # the highest place that was looked at: what results hang on

    def state(self) -> "FloatState":
        """What `back_to` needs to forget all floats that come after now."""
        return FloatState(self._left.copy(), self._right.copy(), self.ceiling, self.count)

    def back_to(self, state: "FloatState") -> None:
        """Forget the floats that were placed since `state`; a state is gone back to once."""
        self._left, self._right = state.left, state.right
        self.ceiling, self.count = state.ceiling, state.count

    @property
    def bottom(self) -> LayoutUnit:
        """The lowest bottom margin edge of all floats."""
        return max(self._left.bottom, self._right.bottom)

    def clears(self, clear: str, y: LayoutUnit) -> LayoutUnit | None:
        """§9.5.2: the bottom of the floats that `clear` is about, if it lies below y; else None."""
        if y < self.asked:
            self.asked = y
        bottom = self.side_bottom(clear)
        return bottom if bottom > y else None

    def side_bottom(self, clear: str) -> LayoutUnit:
        """The lowest edge of the floats that `clear` (left, right or both) is about; §9.5.2."""
        if clear == "left":
            return self._left.bottom
        if clear == "right":
            return self._right.bottom
        return self.bottom

    def room(
        self, y: LayoutUnit, height: LayoutUnit, left: LayoutUnit, right: LayoutUnit
    ) -> tuple[LayoutUnit, LayoutUnit]:
        """The left and right edge of the room between floats inside `left` and `right`."""
        if y < self.asked:
            self.asked = y
        if self.count == 0 or y >= self.bottom:
            return left, right
        return (
            max(left, self._left.at(y, height)),
            min(right, -self._right.at(y, height)),
        )

    def next_step(self, y: LayoutUnit) -> LayoutUnit:
        """The next y at which the room changes."""
        return min(self._left.next_step(y), self._right.next_step(y))

    def place(
        self,
        side: str,
        clear: str,
        width: LayoutUnit,
        height: LayoutUnit,
        y: LayoutUnit,
        left: LayoutUnit,
        right: LayoutUnit,
    ) -> FloatPosition:
        """Place a float's margin box inside `left` and `right`, not above `y`: the nine rules.

        As high as possible, then as far to its side as possible (rules 8 and 9).
        """
        y = max(y, self.ceiling)
        if clear != "none":
            y = max(y, self.side_bottom(clear))
        refusals: list[Refusal] = []
        while True:
            from_x, to_x = self.room(y, STEP, left, right)
            narrowed = from_x > left or to_x < right
            if width <= to_x - from_x or not narrowed:
                break
            x = from_x if side == "left" else to_x - width
            refusals.append(Refusal(x, y, to_x - from_x, width - (to_x - from_x)))
            y = self.next_step(y)
        x = from_x if side == "left" else to_x - width
        self.add(side, x, y, width, height)
        return FloatPosition(x, y, tuple(refusals))

    def add(
        self, side: str, x: LayoutUnit, y: LayoutUnit, width: LayoutUnit, height: LayoutUnit
    ) -> None:
        """Keep a float that has its place."""
        self.count += 1
        self.ceiling = max(self.ceiling, y)
        if side == "left":
            if self._left is _NOTHING:
                self._left = _Outline()
            self._left.add(y, y + height, x + width)
        else:
            if self._right is _NOTHING:
                self._right = _Outline()
            self._right.add(y, y + height, -x)
