"""Straight pieces of a quantity against the window's width, and their slopes in words."""

from collections.abc import Sequence
from fractions import Fraction
from math import inf

from redcrate.core.records import dataclass
from redcrate.core.units import LayoutUnit, format_number

TOLERANCE = 4  # 1/64 px: percentages are cut to 1/64 at each level
_JUMP = 2 * 64  # 1/64 px: more from one px to the next is no slope
_NAMED = {
    Fraction(1): "the viewport",
    Fraction(1, 2): "half of the viewport",
    Fraction(1, 3): "a third of the viewport",
    Fraction(2, 3): "two thirds of the viewport",
    Fraction(1, 4): "a quarter of the viewport",
    Fraction(3, 4): "three quarters of the viewport",
}


@dataclass(frozen=True, slots=True)
class Piece:
    """From `first` to `last` px of window width a quantity goes straight from `start` to `end`, 1/64 px.

    Both are None where there is no box.
    """

    first: int
    last: int
    start: LayoutUnit | None
    end: LayoutUnit | None

    @property
    def slope(self) -> float:
        """How many px more for each px of the window."""
        if self.start is None or self.end is None or self.first == self.last:
            return 0.0
        return (self.end - self.start) / 64 / (self.last - self.first)

    @property
    def words(self) -> str:
        """The piece in words: "half of the window, less 24"."""
        if self.start is None or self.end is None:
            return "no box"
        if self.first == self.last or abs(self.end - self.start) <= TOLERANCE:
            return f"{format_number(self.start / 64)} px"
        share = self._share()
        name = _NAMED.get(share) or f"{format_number(float(share * 100))} % of the viewport"
        rest = round(self.start / 64 - float(share) * self.first, 1)
        if not rest:
            return name
        return f"{name}, {'plus' if rest > 0 else 'less'} {format_number(abs(rest))}"

    def _share(self) -> Fraction:
        """The plainest share of the window that fits: a named one, else a percentage with few digits."""
        slope, off = self.slope, (TOLERANCE / 64) / (self.last - self.first)
        for share in _NAMED:
            if abs(float(share) - slope) <= off:
                return share
        for digits in (0, 1, 2):
            percent = round(slope * 100, digits)
            if abs(percent / 100 - slope) <= off:
                return Fraction(str(percent)) / 100
        return Fraction(slope).limit_denominator(10_000)

    def at(self, width: float) -> LayoutUnit | None:
        """The quantity at a width in it, 1/64 px."""
        if self.start is None:
            return None
        return LayoutUnit(round(self.start + self.slope * 64 * (width - self.first)))


def on_a_line(
    low: int,
    one: LayoutUnit | None,
    middle: int,
    between: LayoutUnit | None,
    high: int,
    other: LayoutUnit | None,
) -> bool:
    """Whether the second of three amounts lies between the others, as near as amounts are cut."""
    if one is None or between is None or other is None:
        return one is between is other
    wanted = one + (other - one) * (middle - low) / (high - low)
    return abs(between - wanted) <= TOLERANCE


class _Run:
    """A piece under way. Its line goes from its first amount to its last one, past those between."""

    def __init__(self, first: int, start: LayoutUnit | None) -> None:
        self.first, self.start = first, start
        self.at, self.end = first, start
        self._least, self._most = -inf, inf  # the slopes at which it passes all amounts so far

    def takes(self, width: int, amount: LayoutUnit | None) -> bool:
        """Whether a further amount lies on it."""
        if self.start is None or amount is None:
            return self.start is amount
        if self.at == self.first and width - self.first == 1 and abs(amount - self.start) > _JUMP:
            return False
        return self._least <= (amount - self.start) / (width - self.first) <= self._most

    def take(self, width: int, amount: LayoutUnit | None) -> None:
        """Go on to it."""
        self.at, self.end = width, amount
        if self.start is not None and amount is not None:
            by, on = amount - self.start, width - self.first
            self._least = max(self._least, (by - TOLERANCE) / on)
            self._most = min(self._most, (by + TOLERANCE) / on)

    def piece(self, last: int) -> Piece:
        """The piece, drawn on to `last`."""
        if self.start is None or self.end is None or self.at == self.first:
            return Piece(self.first, last, self.start, self.end)
        slope = (self.end - self.start) / (self.at - self.first)
        end = LayoutUnit(round(self.start + slope * (last - self.first)))
        return Piece(self.first, last, self.start, end)


def pieces_of(
    amounts: Sequence[tuple[int, LayoutUnit | None]], breaks: frozenset[int]
) -> tuple[Piece, ...]:
    """The pieces through amounts at ascending widths; a new one begins at each of the widths `breaks`."""
    found: list[Piece] = []
    run: _Run | None = None
    for width, amount in amounts:
        if run is not None and width not in breaks and run.takes(width, amount):
            run.take(width, amount)
            continue
        if run is not None:
            found.append(run.piece(width - 1))
        run = _Run(width, amount)
    if run is not None:
        found.append(run.piece(run.at))
    return tuple(_joined(found))


def _joined(pieces: Sequence[Piece]) -> list[Piece]:
    """Pieces that go straight on are one."""
    kept: list[Piece] = []
    for piece in pieces:
        before = kept[-1] if kept else None
        if before is not None and _continues(before, piece):
            kept[-1] = Piece(before.first, piece.last, before.start, piece.end)
        else:
            kept.append(piece)
    return kept


def _continues(one: Piece, other: Piece) -> bool:
    """Whether a piece goes straight on in the next one: both are long enough to tell."""
    if one.start is None or other.start is None or other.end is None:
        return one.start is other.start
    if one.last - one.first < 8 or other.last - other.first < 8:
        return False
    ends = one.first, one.start, other.last, other.end
    return all(
        on_a_line(ends[0], ends[1], at, value, ends[2], ends[3])
        for at, value in ((one.last, one.end), (other.first, other.start))
    )
