"""Layout units: integers that count 1/64 px, and the roundings into them.

Whether boxes fit beside each other is decided at this grain, so every length is cut to a step
before it takes part in a sum (CSS Values 4 §4.1 leaves the grain to the program).
"""

from collections.abc import Sequence
from math import ceil, floor
from struct import Struct
from typing import TYPE_CHECKING

if TYPE_CHECKING:

    class LayoutUnit(int):
        """A length that counts steps of 1/64 px.

        To the type checker it is a type of its own: a number of anything else is no length, and a sum of lengths, or a
        length some times, is one. When the program runs, it is a plain number, and costs no more than one.
        """

        def __add__(self, other: int) -> "LayoutUnit": ...
        def __radd__(self, other: int) -> "LayoutUnit": ...
        def __sub__(self, other: int) -> "LayoutUnit": ...
        def __rsub__(self, other: int) -> "LayoutUnit": ...
        def __mul__(self, other: int) -> "LayoutUnit": ...
        def __rmul__(self, other: int) -> "LayoutUnit": ...
        def __floordiv__(self, other: int) -> "LayoutUnit": ...
        def __mod__(self, other: int) -> "LayoutUnit": ...
        def __neg__(self) -> "LayoutUnit": ...
        def __abs__(self) -> "LayoutUnit": ...
else:
    LayoutUnit = int

ZERO = LayoutUnit(0)
STEP = LayoutUnit(1)
STEPS_PER_PX = 64
# Larger lengths are clamped: sums of a few of them still fit into 32 bits, as in other engines.
LARGEST_PX = 2**25 - 1
# A product such as 0.29 * 100 falls a hair short of the whole number that was meant.
_HAIR = 1e-5
_FLOAT = Struct("f")
_LARGEST_FLOAT = 3e38
FIRST_WORDS = 4  # as many of a long row of names are told


def _clamped(px: float) -> float:
    """`px` within ±LARGEST_PX; 0 for NaN (CSS Values 4 §10.9: a NaN at the top is 0)."""
    if px != px:
        return 0.0
    return max(-LARGEST_PX, min(LARGEST_PX, px))


def from_px(px: float) -> LayoutUnit:
    """`px` cut to a step of 1/64 px, toward zero."""
    steps = (px if -LARGEST_PX < px < LARGEST_PX else _clamped(px)) * 64
    return LayoutUnit(steps + _HAIR) if steps >= 0 else LayoutUnit(steps - _HAIR)


def ceil_from_px(px: float) -> LayoutUnit:
    """`px` rounded up to a step of 1/64 px: the room that a piece of text takes."""
    if -LARGEST_PX < px < LARGEST_PX:  # the common case without a call; this is asked for each word
        return LayoutUnit(ceil(px * 64 - _HAIR))
    return LayoutUnit(ceil(_clamped(px) * 64 - _HAIR))


def nearest_from_px(px: float) -> LayoutUnit:
    """`px` rounded to the nearest step of 1/64 px: line heights that are lengths."""
    return LayoutUnit(floor(_clamped(px) * 64 + 0.5))


def to_px(units: LayoutUnit) -> float:
    """`units` of 1/64 px as px, exactly."""
    return units / 64


def percent_of(base: LayoutUnit, percent: float) -> LayoutUnit:
    """`percent` of `base` (1/64 px), cut to a step toward zero."""
    return from_px(base * percent / 6400)


def border_width(px: float) -> LayoutUnit:
    """The used width of a border or outline in 1/64 px: whole px, never 0 unless `px` is 0.

    CSS Backgrounds 3 §4.3 (snapping a border width).
    """
    if px <= 0 or px != px:
        return ZERO
    return LayoutUnit(max(1, int(_clamped(px) + 1e-7)) * 64)


def format_px(units: LayoutUnit) -> str:
    """`units` of 1/64 px as people read them: px, at most 2 decimals, no trailing zeros."""
    return format_number(units / 64)


def listed(words: Sequence[str]) -> str:
    """Words in a row: `a`, `a and b`, `a, b and c`."""
    *first, last = words
    return f"{', '.join(first)} and {last}" if first else last


def counted(count: int, one: str, many: str) -> str:
    """`one` for a count of 1, else `many` with the count in it: counted(3, "1 box", "{count} boxes") is `3 boxes`."""
    return one if count == 1 else many.format(count=count)


def first_of(words: Sequence[str], between: str = ", ") -> str:
    """The first four words and how many more there are: `a, b, c, d and 3 more`."""
    more = f" and {len(words) - FIRST_WORDS} more" if len(words) > FIRST_WORDS else ""
    return f"{between.join(words[:FIRST_WORDS])}{more}"


def format_number(value: float) -> str:
    """A number with at most 2 decimals and no trailing zeros; `-0` is `0`."""
    text = f"{value:.2f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text


def float32(value: float) -> float:
    """The nearest 32-bit float; one that is too large for that is left as it is."""
    if not -_LARGEST_FLOAT < value < _LARGEST_FLOAT:
        return value
    packed: float = _FLOAT.unpack(_FLOAT.pack(value))[0]
    return packed
