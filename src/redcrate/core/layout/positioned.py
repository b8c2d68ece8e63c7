"""Absolutely positioned boxes: CSS 2.2 §10.3.7, §10.3.8, §10.6.4 and §10.6.5.

One axis at a time; both follow the same rules with start and end for left and right.
"""

from dataclasses import dataclass

from redcrate.core.layout.edges import margin_or_zero
from redcrate.core.style.values import SizeValue
from redcrate.core.units import LayoutUnit


@dataclass(frozen=True, slots=True)
class AxisRules:
    """One axis of an absolute box.

    start, end: the offsets; None for auto. size: the content size; None for auto. extra: border plus
    padding. static: the static place of the margin edge. length: of the containing block.
    """

    start: LayoutUnit | None
    end: LayoutUnit | None
    size: LayoutUnit | None
    extra: LayoutUnit
    margin_start: SizeValue
    margin_end: SizeValue
    static: LayoutUnit
    length: LayoutUnit
    percent_base: LayoutUnit  # the width of the containing block, for margins


@dataclass(frozen=True, slots=True)
class AxisPlace:
    """The outcome: place of the margin edge from the containing block, used size and margins.

    size is None where the content decides (shrink-to-fit or auto height); `available` is then what
    there is for it.
    """

    place: LayoutUnit
    size: LayoutUnit | None
    margin_start: LayoutUnit
    margin_end: LayoutUnit
    available: LayoutUnit
    stretched: bool = False


def offset(value: SizeValue, base: LayoutUnit) -> LayoutUnit | None:
    """An offset property; percentages refer to the containing block, whose size is known."""
    return None if isinstance(value, str) else value.resolve(base)


def solve(rules: AxisRules, *, from_end: bool = False) -> AxisPlace:
    """§10.3.7 and §10.6.4. from_end: over-constrained boxes keep the end offset (rtl)."""
    base = rules.percent_base
    margin_start = margin_or_zero(rules.margin_start, base)
    margin_end = margin_or_zero(rules.margin_end, base)
    start, end = rules.start, rules.end
    if start is None and end is None:
        start = rules.static
        available = rules.length - start - margin_start - margin_end - rules.extra
        return AxisPlace(start, rules.size, margin_start, margin_end, available)
    taken = margin_start + margin_end + rules.extra
    if start is None or end is None:
        available = rules.length - (start or 0) - (end or 0) - taken
        if start is not None:
            return AxisPlace(start, rules.size, margin_start, margin_end, available)
        assert end is not None
        size = rules.size
        # Without a size the place follows from it; the caller asks again once it is known.
        place = rules.length - end - taken - (size or 0)
        return AxisPlace(place, size, margin_start, margin_end, available)
    if rules.size is None:
        available = rules.length - start - end - taken
        return AxisPlace(start, max(0, available), margin_start, margin_end, available, stretched=True)
    return _over_constrained(rules, start, end, margin_start, margin_end, from_end)


def _over_constrained(
    rules: AxisRules,
    start: LayoutUnit,
    end: LayoutUnit,
    margin_start: LayoutUnit,
    margin_end: LayoutUnit,
    from_end: bool,
) -> AxisPlace:
    """Both offsets and the size are given: auto margins share the rest, or one offset gives."""
    assert rules.size is not None
    rest = rules.length - start - end - rules.size - rules.extra
    auto_start, auto_end = rules.margin_start == "auto", rules.margin_end == "auto"
    if auto_start and auto_end:
        if rest >= 0:
            margin_start, margin_end = rest // 2, rest - rest // 2
        else:
            margin_start, margin_end = (rest, 0) if from_end else (0, rest)
    elif auto_start:
        margin_start = rest - margin_end
    elif auto_end:
        margin_end = rest - margin_start
    elif from_end:
        start = rules.length - end - margin_start - margin_end - rules.size - rules.extra
    return AxisPlace(start, rules.size, margin_start, margin_end, 0)
