"""Whole steps of 1/64 px in proportion: what is shared sums up, whatever is cut."""

from collections.abc import Sequence

from redcrate.core.units import ZERO, LayoutUnit


def in_proportion(whole: LayoutUnit, weights: Sequence[float]) -> list[LayoutUnit]:
    """`whole` in parts as large as their weights have it; nothing for anybody where all weights are 0."""
    total, so_far, given = sum(weights), 0.0, ZERO
    parts = []
    for weight in weights:
        so_far += weight
        upto = LayoutUnit(whole * so_far / total) if total else ZERO
        parts.append(upto - given)
        given = upto
    return parts
