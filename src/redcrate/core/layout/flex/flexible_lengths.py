"""Resolving flexible lengths: how the free space of a line is shared, CSS Flexbox 1 §9.7.

Amounts are 1/64 px along the main axis; shares go to the nearest step.
"""

from collections.abc import Sequence
from math import floor, isfinite

from redcrate.core.layout.flex.items import FlexItem
from redcrate.core.layout.flex_facts import FlexLimit
from redcrate.core.units import ZERO, LayoutUnit


def resolve(items: Sequence[FlexItem], room: LayoutUnit, gaps: LayoutUnit) -> LayoutUnit:
    """Give each item its target size; room: of the line, gaps: what stands between its items.

    Returns the free space that there was to share, negative where items shrink.
    """
    hypothetical = sum((i.hypothetical + i.outer_extra for i in items), ZERO) + gaps
    grows = hypothetical < room
    for item in items:
        item.target = item.base
        too_large = item.base > item.hypothetical
        too_small = item.base < item.hypothetical
        if not _factor(item, grows=grows) or (too_large if grows else too_small):
            item.target, item.is_frozen = item.hypothetical, True
            if too_large or too_small:
                item.limit = FlexLimit.MAXIMUM if too_large else item.least_reason
    initial = free = _free(items, room, gaps)
    count = 0
    while not all(i.is_frozen for i in items):
        count += 1
        factors = sum(_factor(i, grows=grows) for i in items if not i.is_frozen)
        if factors < 1 and abs(initial * factors) < abs(free):
            free = LayoutUnit(initial * factors)
        _share(items, free, grows=grows)
        _freeze(items, count)
        free = _free(items, room, gaps)
    return initial


def _factor(item: FlexItem, *, grows: bool) -> float:
    return item.style.flex_grow if grows else item.style.flex_shrink


def _free(items: Sequence[FlexItem], room: LayoutUnit, gaps: LayoutUnit) -> LayoutUnit:
    """What is left: frozen items count at their targets, others at their base sizes."""
    taken = sum(((i.target if i.is_frozen else i.base) + i.outer_extra for i in items), ZERO)
    return room - taken - gaps


def _share(items: Sequence[FlexItem], free: LayoutUnit, *, grows: bool) -> None:
    """§9.7.4c: in proportion to the factors; shrinking ones count with the base size."""
    open_ = [i for i in items if not i.is_frozen]
    weights = [_factor(i, grows=grows) * (1.0 if grows else float(i.base)) for i in open_]
    total = sum(weights)
    for item, weight in zip(open_, weights, strict=True):
        share = free * weight / total if total and isfinite(total) else 0.0
        item.target = LayoutUnit(item.base + floor(share + 0.5))


def _freeze(items: Sequence[FlexItem], count: int) -> None:
    """§9.7.4d and e: clamp, and freeze those that broke a limit on the side that weighs more."""
    open_ = [i for i in items if not i.is_frozen]
    violations = []
    for item in open_:
        clamped = item.clamped(item.target)
        violations.append(clamped - item.target)
        item.target = clamped
    total = sum(violations)
    for item, violation in zip(open_, violations, strict=True):
        if total == 0 or (violation > 0 if total > 0 else violation < 0):
            item.is_frozen, item.round = True, count
            if violation:
                item.limit = item.least_reason if violation > 0 else FlexLimit.MAXIMUM
