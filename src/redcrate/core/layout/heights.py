"""Used heights: CSS 2.2 §10.5, §10.6 and §10.7, without what the content itself measures."""

from redcrate.core.layout.fragments import Down, SizeReason
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.values import NO_LENGTH, SizeValue
from redcrate.core.units import LayoutUnit


def definite_height(
    value: SizeValue, style: ComputedStyle, cb_height: LayoutUnit | None, extra: LayoutUnit
) -> LayoutUnit | None:
    """The content height that a height, min-height or max-height means.

    cb_height: the containing block's height if it is definite; a percentage of anything else counts
    as auto (§10.5). extra: top and bottom border plus padding. None for auto, none and sizes from
    content, which in the block axis are the auto height (CSS Box Sizing 3 §3.2).
    """
    if isinstance(value, NO_LENGTH):
        return None
    if value.has_percent and cb_height is None:
        return None
    height = value.resolve(cb_height or 0)
    if style.box_sizing == "border-box":
        height -= extra
    return max(0, height)


def limited_height(
    height: LayoutUnit, style: ComputedStyle, cb_height: LayoutUnit | None, extra: LayoutUnit
) -> tuple[LayoutUnit, str]:
    """§10.7: max-height, then min-height. Returns the height, and which of the two took over."""
    limit = ""
    if style.max_height != "none":
        largest = definite_height(style.max_height, style, cb_height, extra)
        if largest is not None and height > largest:
            height, limit = largest, "max-height"
    if style.min_height != "auto":
        smallest = definite_height(style.min_height, style, cb_height, extra)
        if smallest is not None and height < smallest:
            height, limit = smallest, "min-height"
    return height, limit


def percent_basis(
    style: ComputedStyle, cb_height: LayoutUnit | None, extra: LayoutUnit
) -> LayoutUnit | None:
    """The height that percentages of the children refer to; None while it hangs on content."""
    given = definite_height(style.height, style, cb_height, extra)
    return None if given is None else limited_height(given, style, cb_height, extra)[0]


def used_height(
    style: ComputedStyle,
    cb_height: LayoutUnit | None,
    extra: LayoutUnit,
    auto_height: LayoutUnit,
    source: str,
) -> Down:
    """§10.6.3 and §10.7: the used content height, given what auto comes to."""
    given = definite_height(style.height, style, cb_height, extra)
    if given is not None:
        assert not isinstance(style.height, NO_LENGTH)
        reason = SizeReason.PERCENT if style.height.has_percent else SizeReason.SPECIFIED
        tentative = given
    else:
        lost = not isinstance(style.height, NO_LENGTH)
        reason = SizeReason.PERCENT_OF_NOTHING if lost else SizeReason.CONTENT
        tentative = auto_height
    height, limit = limited_height(tentative, style, cb_height, extra)
    return Down(height, reason, auto_height, cb_height, tentative, limit, source)
