"""Used heights: CSS 2.2 §10.5, §10.6 and §10.7, without what the content itself measures."""

from functools import lru_cache

from redcrate.core.boxes.box import Box
from redcrate.core.layout.fragments import Down, HeightLimit, HeightSource, SizeReason
from redcrate.core.markup.elements import DocumentMode
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.values import NO_LENGTH, FitContent, Length, SizeValue
from redcrate.core.units import ZERO, LayoutUnit


def definite_height(
    value: SizeValue, style: ComputedStyle, cb_height: LayoutUnit | None, extra: LayoutUnit
) -> LayoutUnit | None:
    """The content height that a height, min-height or max-height means.

    cb_height: the containing block's height if it is definite; a percentage of anything else counts
    as auto (§10.5). extra: top and bottom border plus padding. None for auto, none and sizes from
    content, which in the block axis are the auto height (CSS Box Sizing 3 §3.2).
    """
    if value == "stretch":
        return _stretched(style, cb_height, extra)
    if isinstance(value, NO_LENGTH):
        return None
    if value.has_percent and cb_height is None:
        return None
    height = value.resolve(cb_height or ZERO)
    if style.box_sizing == "border-box":
        height -= extra
    return max(ZERO, height)


def _stretched(
    style: ComputedStyle, cb_height: LayoutUnit | None, extra: LayoutUnit
) -> LayoutUnit | None:
    """CSS Sizing 4 §6.1: `stretch` fills a definite containing block, margins included."""
    if cb_height is None:
        return None
    margins = (style.margin_top, style.margin_bottom)
    taken = sum(ZERO if isinstance(m, str) else m.resolve(ZERO) for m in margins)
    return max(ZERO, cb_height - taken - extra)


def _limit(
    value: SizeValue,
    style: ComputedStyle,
    cb_height: LayoutUnit | None,
    extra: LayoutUnit,
    auto_height: LayoutUnit | None,
) -> LayoutUnit | None:
    """What a min-height or max-height comes to; sizes from content are the auto height."""
    found = definite_height(value, style, cb_height, extra)
    if found is None and is_from_content(value):
        return auto_height
    return found


def is_from_content(value: SizeValue) -> bool:
    """Whether a size is min-content, max-content or fit-content, with a limit or without."""
    return isinstance(value, FitContent) or value in ("min-content", "max-content", "fit-content")


def limited_height(
    height: LayoutUnit,
    style: ComputedStyle,
    cb_height: LayoutUnit | None,
    extra: LayoutUnit,
    auto_height: LayoutUnit | None = None,
) -> tuple[LayoutUnit, HeightLimit]:
    """§10.7: max-height, then min-height. Returns the height, and which of the two took over.

    auto_height: what the content asks for, where it is known.
    """
    limit: HeightLimit = ""
    if style.max_height != "none":
        largest = _limit(style.max_height, style, cb_height, extra, auto_height)
        if largest is not None and height > largest:
            height, limit = largest, "max-height"
    if style.min_height != "auto":
        least = style.min_height
        if cb_height is None and not isinstance(least, NO_LENGTH) and least.has_percent:
            least = Length(
                least.resolve_px(0.0)
            )  # CSS Sizing 3 §5.2.1: a percentage of nothing is 0 here
        smallest = _limit(least, style, cb_height, extra, auto_height)
        if smallest is not None and height < smallest:
            height, limit = smallest, "min-height"
    return height, limit


def percent_basis(
    box: Box,
    cb_height: LayoutUnit | None,
    extra: LayoutUnit,
    by_ratio: LayoutUnit | None = None,
) -> LayoutUnit | None:
    """The height that percentages of the children refer to; None while it hangs on content.

    Anonymous blocks are looked through (CSS 2.2 §9.2.1.1).
    """
    return cb_height if box.is_anonymous_block else _percent_basis(box.style, cb_height, extra, by_ratio)


@lru_cache(maxsize=20_000)
def _percent_basis(
    style: ComputedStyle,
    cb_height: LayoutUnit | None,
    extra: LayoutUnit,
    by_ratio: LayoutUnit | None,
) -> LayoutUnit | None:
    given = definite_height(style.height, style, cb_height, extra)
    if given is None:
        given = by_ratio
    if given is None and style.document_mode is DocumentMode.QUIRKS:
        return cb_height  # Quirks Mode Standard §3.5: percentages look past heights that are auto
    return None if given is None else limited_height(given, style, cb_height, extra)[0]


@lru_cache(maxsize=20_000)
def used_height(
    style: ComputedStyle,
    cb_height: LayoutUnit | None,
    extra: LayoutUnit,
    auto_height: LayoutUnit,
    source: HeightSource,
    by_ratio: LayoutUnit | None = None,
) -> Down:
    """§10.6.3 and §10.7: the used content height, given what auto comes to.

    by_ratio: what a preferred aspect ratio makes of the width; with an automatic minimum the content
    still fits (CSS Sizing 4 §5.1.1).
    """
    given = definite_height(style.height, style, cb_height, extra)
    if given is not None:
        tentative, reason = given, _given_reason(style.height)
    elif by_ratio is not None:
        tentative, reason = by_ratio, SizeReason.RATIO
        keeps_content = style.min_height == "auto" and style.overflow_y in ("visible", "clip")
        if keeps_content and auto_height > by_ratio:
            tentative, reason = auto_height, SizeReason.RATIO_CONTENT
    else:
        lost = not isinstance(style.height, NO_LENGTH)
        reason = SizeReason.PERCENT_OF_NOTHING if lost else SizeReason.CONTENT
        tentative = auto_height
    height, limit = limited_height(tentative, style, cb_height, extra, auto_height)
    return Down(height, reason, auto_height, cb_height, tentative, limit, source)


def _given_reason(value: SizeValue) -> SizeReason:
    if isinstance(value, NO_LENGTH):
        return SizeReason.STRETCH
    return SizeReason.PERCENT if value.has_percent else SizeReason.SPECIFIED
