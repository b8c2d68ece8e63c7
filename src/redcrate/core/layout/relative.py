"""Relative positioning: CSS 2.2 §9.4.3."""

from redcrate.core.style.computed import ComputedStyle
from redcrate.core.units import ZERO, LayoutUnit


def relative_shift(
    style: ComputedStyle, cb_width: LayoutUnit, cb_height: LayoutUnit | None, direction: str
) -> tuple[LayoutUnit, LayoutUnit]:
    """§9.4.3: how far relative positioning moves a box; nothing else moves with it.

    direction: of the containing block; it decides which of two offsets counts.
    """
    if style.position != "relative":
        return ZERO, ZERO
    left = None if isinstance(style.left, str) else style.left.resolve(cb_width)
    right = None if isinstance(style.right, str) else style.right.resolve(cb_width)
    if left is not None and right is not None:
        x = -right if direction == "rtl" else left
    else:
        x = left if left is not None else -(right or ZERO)
    vertical: list[LayoutUnit | None] = []
    for value in (style.top, style.bottom):
        unknown = isinstance(value, str) or (value.has_percent and cb_height is None)
        if isinstance(value, str) or unknown:
            vertical.append(None)
        else:
            vertical.append(value.resolve(cb_height or ZERO))
    top, bottom = vertical
    return x, top if top is not None else -(bottom or ZERO)
