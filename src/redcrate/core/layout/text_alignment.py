"""Where a line of text stands in its room: CSS 2.2 §16.2, CSS Text 3 §6."""

from functools import lru_cache

from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.keywords import BLOCK_ALIGNS
from redcrate.core.units import ZERO, LayoutUnit


def aligned_start(style: ComputedStyle, free: LayoutUnit, *, ends: bool) -> tuple[LayoutUnit, bool]:
    """§16.2: where a line with that much room left begins, and whether it is justified instead.

    ends: it is the last one, or ended by a forced break.
    """
    align = BLOCK_ALIGNS.get(style.text_align, style.text_align)
    if ends and style.text_align_last != "auto":
        align = style.text_align_last
    elif align == "justify" and ends:
        align = "start"
    rtl = style.direction == "rtl"
    if align == "start":
        align = "right" if rtl else "left"
    elif align == "end":
        align = "left" if rtl else "right"
    if align == "right":
        return free, False
    return (free // 2, False) if align == "center" else (ZERO, align == "justify")


@lru_cache(maxsize=5_000)
def begins_left(style: ComputedStyle) -> bool:
    """Whether all lines of a block begin at its left edge, whatever room is left in them."""
    return not any(aligned_start(style, LayoutUnit(64), ends=ends)[0] for ends in (False, True))


@lru_cache(maxsize=5_000)
def needs_ends(style: ComputedStyle) -> bool:
    """Whether the lines of a block may stand where their ends are looked at: not all at the side where they begin."""
    begin = ("start", "right" if style.direction == "rtl" else "left")
    align = BLOCK_ALIGNS.get(style.text_align, style.text_align)
    return align not in begin or style.text_align_last not in ("auto", *begin)


@lru_cache(maxsize=5_000)
def justifies(style: ComputedStyle) -> bool:
    """Whether a line of a block may be justified."""
    return any(aligned_start(style, LayoutUnit(64), ends=ends)[1] for ends in (False, True))
