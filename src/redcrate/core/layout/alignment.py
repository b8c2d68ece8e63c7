"""Where things go in more room, or less, than they need: CSS Box Alignment 3 §4 to §6.

Values are texts of properties; what comes out are keywords of one axis and amounts in 1/64 px.
"""

from functools import lru_cache
from typing import Literal, TypeAlias

from redcrate.core.records import dataclass
from redcrate.core.units import ZERO, LayoutUnit

Place: TypeAlias = Literal["start", "center", "end"]
_STARTS = frozenset(("start", "self-start", "flex-start", "left", "normal", "stretch", "auto"))
_ENDS = frozenset(("end", "self-end", "flex-end", "right"))


@dataclass(frozen=True, slots=True)
class Alignment:
    """A value of an alignment property: its keyword, and whether what overflows goes to the start (§4.4)."""

    keyword: str
    is_safe: bool = False


@lru_cache(maxsize=1000)
def alignment(value: str) -> Alignment:
    """The parts of a value; `first baseline` is `baseline`, `legacy left` is `left`."""
    words = value.lower().split()
    if "baseline" in words:
        return Alignment("last baseline" if "last" in words else "baseline", is_safe=True)
    rest = [w for w in words if w not in ("safe", "unsafe", "legacy")]
    return Alignment(rest[0] if rest else "normal", "safe" in words)


def self_alignment(own: str, items: str) -> Alignment:
    """§6.1, §6.3: `auto` is what the container says about its items."""
    found = alignment(own)
    return alignment(items) if found.keyword == "auto" else found


def place_of(keyword: str, *, reversed_axis: bool, reversed_self: bool) -> Place:
    """Where a positional keyword (§4.1) puts a box along an axis that counts from the physical start.

    reversed_axis: the container's start is the physical end (`rtl`). reversed_self: so is the box's own.
    """
    if keyword == "center":
        return "center"
    if keyword in ("left", "right"):
        return "start" if keyword == "left" else "end"
    at_end = keyword in _ENDS
    if keyword in ("self-start", "self-end"):
        return "end" if at_end != reversed_self else "start"
    return "end" if at_end != reversed_axis else "start"


def place_across(value: Alignment, around: str, own: str) -> Place:
    """Where a box stands across, by the directions of what is around and of its own; baselines are as good as the start.

    `anchor-center` is the middle where there is no anchor.
    """
    keyword = {"baseline": "start", "last baseline": "end", "anchor-center": "center"}.get(
        value.keyword, value.keyword
    )
    return place_of(keyword, reversed_axis=around == "rtl", reversed_self=own == "rtl")


def offset_of(place: Place, free: LayoutUnit) -> LayoutUnit:
    """How far from the start a box stands with that much room left; less than nothing where it overflows."""
    if place == "start":
        return ZERO
    return free if place == "end" else free // 2


@dataclass(frozen=True, slots=True)
class Distribution:
    """How content-distribution shares room (§5.3): before the first of them, and between two; 1/64 px."""

    before: LayoutUnit
    between: LayoutUnit


def distribution(value: Alignment, free: LayoutUnit, count: int) -> Distribution:
    """`free` among `count` things along an axis that counts from its start.

    Where there is less than nothing, or nothing to stand apart, the fallback of §5.3 holds: the start for
    space-between, the middle (but no overflow at the start) for the others.
    """
    keyword = value.keyword
    if keyword.startswith("space-"):
        if keyword == "space-between":
            if free <= 0 or count < 2:
                return Distribution(ZERO, ZERO)
            return Distribution(ZERO, free // (count - 1))
        if free <= 0 or count < 1:
            return Distribution(ZERO, ZERO)
        if keyword == "space-around":
            return Distribution(free // (2 * count), free // count)
        return Distribution(free // (count + 1), free // (count + 1))
    if value.is_safe and free < 0:
        return Distribution(ZERO, ZERO)
    if keyword in _ENDS:
        return Distribution(free, ZERO)
    return Distribution(free // 2 if keyword == "center" else ZERO, ZERO)
