"""Used widths and side margins: CSS 2.2 §10.3 and §10.4, each case as one function.

All amounts are 1/64 px. `extra` is left and right border plus padding. Intrinsic widths come from
a callable, so that nothing is measured that is not asked for.
"""

from collections.abc import Callable
from dataclasses import replace
from functools import lru_cache
from typing import TypeAlias

from redcrate.core.boxes.form_controls import FIELD
from redcrate.core.layout.alignment import Place
from redcrate.core.layout.edges import margin_or_zero
from redcrate.core.layout.fragments import Across, ContentSizes, MarginReason, SizeReason, WidthLimit
from redcrate.core.layout.ratios import RatioWidth
from redcrate.core.layout.space import ConstraintSpace, RoomAcross, Sizing
from redcrate.core.records import dataclass
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.keywords import BLOCK_ALIGNS
from redcrate.core.style.values import FitContent, SizeValue
from redcrate.core.units import ZERO, LayoutUnit

# Measures the content where that is asked for.
SizesAsked: TypeAlias = Callable[[], ContentSizes]


_JUSTIFIED = "justified"  # first word of the alignment of a block that says it itself; "left" and the like: an attribute


def justified(place: Place, *, is_safe: bool) -> str:
    """What a block is told that `justify-self` puts somewhere: CSS Align 3 §6.1. is_safe: not where it is too wide."""
    return f"{_JUSTIFIED} {'safe' if is_safe else 'unsafe'} {place}"


def content_width(
    value: SizeValue, style: ComputedStyle, cb_width: LayoutUnit, extra: LayoutUnit, sizes: SizesAsked
) -> tuple[LayoutUnit, SizeReason] | None:
    """The content width that a width, min-width or max-width means; None for auto and none.

    With `box-sizing: border-box` the length includes `extra`: CSS Box Sizing 3 §3.3.
    """
    if value in ("auto", "none"):
        return None
    if isinstance(value, str):
        return _intrinsic_width(value, sizes, _available(style, cb_width, extra))
    if isinstance(value, FitContent):
        smallest, largest = sizes()
        limit = max(ZERO, value.limit.resolve(cb_width))
        return max(smallest, min(largest, limit)), SizeReason.FIT_CONTENT
    width = value.resolve(cb_width)
    if style.box_sizing == "border-box":
        width -= extra
    reason = SizeReason.PERCENT if value.has_percent else SizeReason.SPECIFIED
    return max(ZERO, width), reason


def _available(style: ComputedStyle, cb_width: LayoutUnit, extra: LayoutUnit) -> LayoutUnit:
    """CSS Box Sizing 3 §2: the content width that fills the containing block, margins included."""
    left = margin_or_zero(style.margin_left, cb_width)
    right = margin_or_zero(style.margin_right, cb_width)
    return max(ZERO, cb_width - left - right - extra)


def _intrinsic_width(
    keyword: str, sizes: SizesAsked, available: LayoutUnit
) -> tuple[LayoutUnit, SizeReason] | None:
    """CSS Box Sizing 3 §3.2: sizes from content."""
    if keyword == "min-content":
        return sizes()[0], SizeReason.MIN_CONTENT
    if keyword == "max-content":
        return sizes()[1], SizeReason.MAX_CONTENT
    if keyword == FIELD:
        return sizes()[1], SizeReason.FIELD
    if keyword == "fit-content":
        smallest, largest = sizes()
        return max(smallest, min(largest, available)), SizeReason.FIT_CONTENT
    if keyword == "stretch":
        return available, SizeReason.FILL
    return None


def limited_width(
    width: LayoutUnit,
    style: ComputedStyle,
    cb_width: LayoutUnit,
    extra: LayoutUnit,
    sizes: SizesAsked,
) -> tuple[LayoutUnit, WidthLimit]:
    """§10.4: max-width, then min-width. Returns the width, and which of the two took over."""
    limit: WidthLimit = ""
    if style.max_width != "none":
        largest = content_width(style.max_width, style, cb_width, extra, sizes)
        if largest is not None and width > largest[0]:
            width, limit = largest[0], "max-width"
    if style.min_width != "auto":
        smallest = content_width(style.min_width, style, cb_width, extra, sizes)
        if smallest is not None and width < smallest[0]:
            width, limit = smallest[0], "min-width"
    return width, limit


def used_across(
    style: ComputedStyle,
    space: ConstraintSpace,
    extra: LayoutUnit,
    sizes: SizesAsked,
    ratio: RatioWidth | None = None,
) -> Across:
    """The used width of a block container in `space`, as its sizing says.

    ratio: what a preferred aspect ratio says about an auto width.
    """
    forced, room = space.forced, space.across
    if forced is not None and forced.width is not None:
        return _as_decided(style, room.width, extra, forced.width, forced.width_reason)
    if ratio is not None:
        return _used_across(style, room, extra, sizes, ratio)
    asks = _asks_content(style, room.sizing) or room.align.startswith(_JUSTIFIED)
    return _of_style(style, room, extra, sizes() if asks else None)


@lru_cache(maxsize=20_000)
def _of_style(
    style: ComputedStyle, room: RoomAcross, extra: LayoutUnit, known: ContentSizes | None
) -> Across:
    """The used width that all boxes of one style have in rooms that are alike, those of one content if that has a say."""

    def sizes() -> ContentSizes:
        assert known is not None, "content is asked for its size by a style that does not name it"
        return known

    return _used_across(style, room, extra, sizes, None)


@lru_cache(maxsize=5_000)
def _asks_content(style: ComputedStyle, sizing: Sizing) -> bool:
    """Whether the size of the content may count for a width."""
    if sizing is Sizing.SHRINK_TO_FIT and style.width == "auto":
        return True
    values = (style.width, style.min_width, style.max_width)
    return any(
        isinstance(v, FitContent) or (isinstance(v, str) and v not in ("auto", "none", "stretch"))
        for v in values
    )


def _as_decided(
    style: ComputedStyle, cb_width: LayoutUnit, extra: LayoutUnit, width: LayoutUnit, why: SizeReason
) -> Across:
    """The width that a flex, grid or table container has decided."""
    left = margin_or_zero(style.margin_left, cb_width)
    right = margin_or_zero(style.margin_right, cb_width)
    rest = cb_width - left - right - extra - width
    return Across(width, left, right, cb_width, why, tentative=width, rest=rest)


def _used_across(
    style: ComputedStyle,
    room: RoomAcross,
    extra: LayoutUnit,
    sizes: SizesAsked,
    ratio: RatioWidth | None,
) -> Across:
    available = None if room.available is None else room.available - extra
    if room.sizing is Sizing.FILL:
        across = block_in_flow(style, room, extra, sizes, ratio)
        if available is not None and style.width == "auto" and across.reason is SizeReason.FILL:
            return _between_floats(across, style, max(ZERO, available), extra, sizes)
        return across
    if style.width == "stretch" and available is not None:
        return _between_offsets(style, room, max(ZERO, available), extra, sizes)
    if room.sizing is Sizing.STRETCH:
        given = content_width(style.width, style, room.width, extra, sizes)
        if given is None:
            return _between_offsets(style, room, max(ZERO, available or ZERO), extra, sizes)
    return shrink_to_fit(style, room.width, extra, sizes, available, ratio)


def _asked_with(sizes: SizesAsked, ratio: RatioWidth | None) -> SizesAsked:
    """What min-content and the like mean: with a ratio and a definite height the width that these make."""
    if ratio is None or ratio.given is None:
        return sizes
    given = ratio.given
    return lambda: ContentSizes(given, given)


def _by_ratio(
    ratio: RatioWidth | None, auto: LayoutUnit, style: ComputedStyle, sizes: SizesAsked
) -> tuple[LayoutUnit, SizeReason] | None:
    """What a preferred aspect ratio makes of an auto width; None where it leaves it as it is."""
    return None if ratio is None or style.width != "auto" else ratio.of_auto(auto, sizes())


def _between_floats(
    across: Across, style: ComputedStyle, room: LayoutUnit, extra: LayoutUnit, sizes: SizesAsked
) -> Across:
    """§9.5: an auto width beside floats fills the `room` that they leave."""
    filled, limit = limited_width(room, style, across.basis, extra, sizes)
    rest = across.basis - across.margin_left - across.margin_right - extra - filled
    return replace(across, content=filled, limit=limit, tentative=room, rest=rest)


def _between_offsets(
    style: ComputedStyle, room: RoomAcross, auto: LayoutUnit, extra: LayoutUnit, sizes: SizesAsked
) -> Across:
    """§10.3.7: an auto width between two offsets; the margins are as specified."""
    width, limit = limited_width(auto, style, room.width, extra, sizes)
    left = margin_or_zero(style.margin_left, room.width)
    right = margin_or_zero(style.margin_right, room.width)
    why = MarginReason.SPECIFIED
    return Across(width, left, right, room.width, SizeReason.STRETCH, why, auto, limit)


def block_in_flow(
    style: ComputedStyle,
    room: RoomAcross,
    extra: LayoutUnit,
    sizes: SizesAsked,
    ratio: RatioWidth | None = None,
) -> Across:
    """§10.3.3: block-level, non-replaced elements in normal flow.

    ratio: what a preferred aspect ratio says about an auto width.
    """
    cb_width = room.width
    asked = _asked_with(sizes, ratio)
    width_said = (
        "fit-content" if style.width == "auto" and room.align.startswith(_JUSTIFIED) else style.width
    )
    given = content_width(width_said, style, cb_width, extra, asked)
    if given is None:
        left = margin_or_zero(style.margin_left, cb_width)
        right = margin_or_zero(style.margin_right, cb_width)
        tentative = max(ZERO, cb_width - left - right - extra)
        reason = SizeReason.FILL
        given = _by_ratio(ratio, tentative, style, sizes)
    if given is not None:
        tentative, reason = given
    width, limit = limited_width(tentative, style, cb_width, extra, asked)
    if given is None and not limit:
        auto = "auto" in (style.margin_left, style.margin_right)
        why = MarginReason.AUTO_ZERO if auto else MarginReason.SPECIFIED
        rest = cb_width - left - right - extra - width
        return Across(width, left, right, cb_width, reason, why, tentative, rest=rest)
    margins = side_margins(style, room, width + extra)
    rest = cb_width - margins.left - width - extra - margins.right
    return Across(
        width,
        margins.left,
        margins.right,
        cb_width,
        reason,
        margins.reason,
        tentative,
        limit,
        rest=rest,
    )


def block_align(style: ComputedStyle) -> str:
    """Where an align attribute on a block moves the blocks inside: HTML Standard §15.3.3; "" for none."""
    return BLOCK_ALIGNS.get(style.text_align, "")


@dataclass(frozen=True, slots=True)
class SideMargins:
    """Side margins, and how they came about."""

    left: LayoutUnit
    right: LayoutUnit
    reason: MarginReason


def side_margins(style: ComputedStyle, room: RoomAcross, border_box: LayoutUnit) -> SideMargins:
    """§10.3.3: what the margins of a box of known width become; also for replaced blocks.

    Over-constrained margins keep what was specified: the rest is told by the reason.
    """
    left = margin_or_zero(style.margin_left, room.width)
    right = margin_or_zero(style.margin_right, room.width)
    rest = room.width - border_box - left - right
    left_auto, right_auto = style.margin_left == "auto", style.margin_right == "auto"
    if rest < 0 or not (left_auto or right_auto):
        if rest == 0:
            return SideMargins(left, right, MarginReason.SPECIFIED)
        if room.align and (rest > 0 or " unsafe " in room.align):
            where = room.align.split()[-1]
            before = rest // 2 if where == "center" else rest * (where in ("right", "end"))
            why = MarginReason.JUSTIFIED if room.align.startswith(_JUSTIFIED) else MarginReason.ALIGNED
            return SideMargins(left + before, right + rest - before, why)
        if room.direction == "rtl":
            return SideMargins(left, right, MarginReason.OVER_CONSTRAINED_LEFT)
        if left_auto or right_auto:
            return SideMargins(left, right, MarginReason.TOO_WIDE)
        return SideMargins(left, right, MarginReason.OVER_CONSTRAINED_RIGHT)
    if left_auto and right_auto:
        half = rest // 2
        return SideMargins(half, rest - half, MarginReason.AUTO_SPLIT)
    if left_auto:
        return SideMargins(rest, right, MarginReason.AUTO_LEFT)
    return SideMargins(left, rest, MarginReason.AUTO_RIGHT)


def shared_margins(style: ComputedStyle, *, takes: bool) -> MarginReason:
    """Why the side margins of an item are what they are; takes: auto ones had something to take.

    CSS Flexbox 1 §8.1, CSS Grid 1 §10.2.
    """
    left, right = style.margin_left == "auto", style.margin_right == "auto"
    if not (left or right):
        return MarginReason.SPECIFIED
    if not takes:
        return MarginReason.TOO_WIDE
    if left and right:
        return MarginReason.AUTO_SPLIT
    return MarginReason.AUTO_LEFT if left else MarginReason.AUTO_RIGHT


def shrink_to_fit(
    style: ComputedStyle,
    cb_width: LayoutUnit,
    extra: LayoutUnit,
    sizes: SizesAsked,
    available: LayoutUnit | None = None,
    ratio: RatioWidth | None = None,
) -> Across:
    """§10.3.5 and §10.3.9: floats and inline-blocks; auto margins are 0.

    available: the content width on offer, if it is not what the containing block leaves. ratio: what a
    preferred aspect ratio says about an auto width.
    """
    asked = _asked_with(sizes, ratio)
    left = margin_or_zero(style.margin_left, cb_width)
    right = margin_or_zero(style.margin_right, cb_width)
    auto = "auto" in (style.margin_left, style.margin_right)
    why = MarginReason.AUTO_ZERO if auto else MarginReason.SPECIFIED
    given = content_width(style.width, style, cb_width, extra, asked)
    room = cb_width - left - right - extra if available is None else available
    if given is None:
        smallest, largest = sizes()
        tentative = min(max(smallest, room), largest)
        given = _by_ratio(ratio, tentative, style, sizes)
    if given is not None:
        width, limit = limited_width(given[0], style, cb_width, extra, asked)
        rest = cb_width - left - right - extra - width
        return Across(width, left, right, cb_width, given[1], why, given[0], limit, rest=rest)
    width, limit = limited_width(tentative, style, cb_width, extra, sizes)
    return Across(
        width,
        left,
        right,
        cb_width,
        SizeReason.SHRINK_TO_FIT,
        why,
        tentative,
        limit,
        (smallest, largest, room),
        cb_width - left - right - extra - width,
    )


def with_margins(across: Across, margins: SideMargins, border_box: LayoutUnit) -> Across:
    """`across` of a box of that border-box width with other side margins."""
    return replace(
        across,
        margin_left=margins.left,
        margin_right=margins.right,
        margin_reason=margins.reason,
        rest=across.basis - margins.left - border_box - margins.right,
    )
