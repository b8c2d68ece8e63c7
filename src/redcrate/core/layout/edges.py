"""Used border, padding and vertical margins: CSS 2.2 §8 (percentages of the width around)."""

from functools import lru_cache

from redcrate.core.geometry import Edges
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.values import OffsetValue
from redcrate.core.units import ZERO, LayoutUnit


def border_of(style: ComputedStyle) -> Edges:
    """The border widths of a style."""
    return Edges(
        style.border_top_width,
        style.border_right_width,
        style.border_bottom_width,
        style.border_left_width,
    )


@lru_cache(maxsize=20_000)
def border_and_padding(style: ComputedStyle, cb_width: LayoutUnit) -> tuple[Edges, Edges]:
    """The used border widths and paddings of a box in a containing block of that width."""
    border = border_of(style)
    padding = Edges(
        max(ZERO, style.padding_top.resolve(cb_width)),
        max(ZERO, style.padding_right.resolve(cb_width)),
        max(ZERO, style.padding_bottom.resolve(cb_width)),
        max(ZERO, style.padding_left.resolve(cb_width)),
    )
    return border, padding


def margin_or_zero(value: OffsetValue, cb_width: LayoutUnit) -> LayoutUnit:
    """A used margin where `auto` is 0: CSS 2.2 §10.3.5, §10.6.3."""
    return ZERO if isinstance(value, str) else value.resolve(cb_width)


@lru_cache(maxsize=20_000)
def margins_or_zero(style: ComputedStyle, cb_width: LayoutUnit) -> Edges:
    """All four margins where `auto` is 0."""
    return Edges(
        margin_or_zero(style.margin_top, cb_width),
        margin_or_zero(style.margin_right, cb_width),
        margin_or_zero(style.margin_bottom, cb_width),
        margin_or_zero(style.margin_left, cb_width),
    )


def gap_of(value: OffsetValue, base: LayoutUnit | None) -> LayoutUnit:
    """A used gap (CSS Align 3 §8): `normal` is none; a percentage of a height that is not known is 0."""
    if isinstance(value, str):
        return ZERO
    return value.resolve(base or ZERO)
