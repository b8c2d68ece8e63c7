"""Replaced elements: CSS 2.2 §10.3.2, §10.3.4, §10.6.2 and the table of §10.4."""

from dataclasses import replace

from redcrate.core.boxes.box import Box
from redcrate.core.boxes.form_controls import drawn_below
from redcrate.core.boxes.image_size import NO_SIZE, IntrinsicSize
from redcrate.core.layout.block_container import build_fragment
from redcrate.core.layout.containment import contained_picture
from redcrate.core.layout.contexts import Content, LayoutRun
from redcrate.core.layout.edges import border_and_padding, margin_or_zero
from redcrate.core.layout.fragments import (
    Across,
    ContentSizes,
    Down,
    Fragment,
    HeightLimit,
    MarginReason,
    SizeReason,
    WidthLimit,
)
from redcrate.core.layout.heights import definite_height, limited_height
from redcrate.core.layout.margins import NO_MARGINS
from redcrate.core.layout.space import ConstraintSpace, ForcedSize, Sizing
from redcrate.core.layout.squeezing import is_percentage, replaced_squeezes
from redcrate.core.layout.widths import SideMargins, content_width, limited_width, side_margins
from redcrate.core.records import dataclass
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.values import NO_LENGTH, Length
from redcrate.core.units import ZERO, LayoutUnit, from_px

_DEFAULT_WIDTH, _DEFAULT_HEIGHT = LayoutUnit(300 * 64), LayoutUnit(150 * 64)
_NO_LIMIT = LayoutUnit(2**40)


_NOTHING = Content((), (), ZERO, "nothing", NO_MARGINS, None, None, (), ())


class ReplacedContext:
    """Lays out images and what else is one piece to CSS."""

    reasons = frozenset(SizeReason) - {SizeReason.CONTENT, SizeReason.SHRINK_TO_FIT, SizeReason.VIEWPORT}

    def layout(self, run: LayoutRun, box: Box, space: ConstraintSpace) -> Fragment:
        """The size from the image, the ratio and the style; the baseline is the bottom of the margin, or a control's own."""
        style = box.style
        border, padding = border_and_padding(style, space.width)
        extra, extra_down = border.across + padding.across, border.down + padding.down
        if space.forced is not None:
            style = _forced(style, space.forced, extra, extra_down)
        size = replaced_size(style, contained_picture(box), space.width, space.height, extra, extra_down)
        if space.forced is not None:
            size = _with_reasons(size, space.forced)
        margins = _side_margins(box, space, size.width + extra)
        across = Across(
            size.width,
            margins.left,
            margins.right,
            space.width,
            size.width_reason,
            margins.reason,
            size.width,
            size.width_limit,
            rest=space.width - margins.left - extra - size.width - margins.right,
        )
        down = Down(
            size.height, size.height_reason, size.height, space.height, size.height, size.height_limit
        )
        content = _NOTHING
        below = drawn_below(box)
        if below is not None:
            content = replace(_NOTHING, last_baseline=down.content + extra_down - below)
        return build_fragment(run, box, space.width, across, down, border, padding, content)

    def content_sizes(self, run: LayoutRun, box: Box, space: ConstraintSpace) -> ContentSizes:
        """CSS Box Sizing 3 §5.2.2: with a width in percent it may become as narrow as nothing.

        At its widest a percentage counts as auto (§5.2.1).
        """
        style = box.style
        if is_percentage(style.width) or is_percentage(style.max_width):
            style = replace(
                style,
                width="auto" if is_percentage(style.width) else style.width,
                max_width="none" if is_percentage(style.max_width) else style.max_width,
            )
        border, padding = border_and_padding(style, space.width)
        extra = border.across + padding.across
        width = replaced_size(
            style, contained_picture(box), space.width, space.height, extra, border.down + padding.down
        ).width
        return ContentSizes(ZERO if replaced_squeezes(box) else width, width)


def _forced(
    style: ComputedStyle, forced: ForcedSize, extra_across: LayoutUnit, extra_down: LayoutUnit
) -> ComputedStyle:
    """The style that says what the container has decided."""
    inside = style.box_sizing == "border-box"
    if forced.width is not None:
        width = Length((forced.width + extra_across * inside) / 64)
        style = replace(style, width=width, min_width="auto", max_width="none")
    if forced.height is not None:
        height = Length((forced.height + extra_down * inside) / 64)
        style = replace(style, height=height, min_height="auto", max_height="none")
    return style


def _with_reasons(size: "ReplacedSize", forced: ForcedSize) -> "ReplacedSize":
    """The size with what the container says about it."""
    return replace(
        size,
        width_reason=size.width_reason if forced.width is None else forced.width_reason,
        height_reason=size.height_reason if forced.height is None else forced.height_reason,
    )


def _side_margins(box: Box, space: ConstraintSpace, border_box: LayoutUnit) -> SideMargins:
    """§10.3.4 for blocks in flow; elsewhere auto is 0 (§10.3.2, §10.3.6, §10.3.8, §10.3.10)."""
    if space.sizing is Sizing.FILL:
        return side_margins(box.style, space.across, border_box)
    left = margin_or_zero(box.style.margin_left, space.width)
    right = margin_or_zero(box.style.margin_right, space.width)
    return SideMargins(left, right, MarginReason.SPECIFIED)


@dataclass(frozen=True, slots=True)
class ReplacedSize:
    """Used content size in 1/64 px, why, and which limit took over ("" if none)."""

    width: LayoutUnit
    height: LayoutUnit
    width_reason: SizeReason
    height_reason: SizeReason
    width_limit: WidthLimit = ""
    height_limit: HeightLimit = ""


@dataclass(frozen=True, slots=True)
class _Frame:
    """What the lengths of one replaced element refer to."""

    style: ComputedStyle
    cb_width: LayoutUnit
    cb_height: LayoutUnit | None
    extra_across: LayoutUnit
    extra_down: LayoutUnit
    natural: LayoutUnit  # the width that content-based keywords mean

    def width(self) -> tuple[LayoutUnit, SizeReason] | None:
        """The specified content width."""
        return content_width(
            self.style.width, self.style, self.cb_width, self.extra_across, self._natural
        )

    def _natural(self) -> ContentSizes:
        return ContentSizes(self.natural, self.natural)

    def limit_width(self, width: LayoutUnit) -> tuple[LayoutUnit, WidthLimit]:
        """min-width and max-width applied."""
        return limited_width(width, self.style, self.cb_width, self.extra_across, self._natural)

    def limit_height(self, height: LayoutUnit) -> tuple[LayoutUnit, HeightLimit]:
        """min-height and max-height applied."""
        return limited_height(height, self.style, self.cb_height, self.extra_down)


def replaced_size(
    style: ComputedStyle,
    intrinsic: IntrinsicSize | None,
    cb_width: LayoutUnit,
    cb_height: LayoutUnit | None,
    extra_across: LayoutUnit,
    extra_down: LayoutUnit,
) -> ReplacedSize:
    """The used content size of a replaced element."""
    size = _with_preferred_ratio(intrinsic or NO_SIZE, style)
    width, height = _natural_size(size, cb_width - extra_across)
    given_height = definite_height(style.height, style, cb_height, extra_down)
    content = width
    if given_height is not None and size.ratio:
        content = from_px(given_height / 64 * size.ratio)
    frame = _Frame(style, cb_width, cb_height, extra_across, extra_down, content)
    given_width = frame.width()
    if given_width is None and given_height is None:
        return _both_auto(frame, size, width, height)
    if given_width is not None:
        width, width_limit = frame.limit_width(given_width[0])
        width_reason = given_width[1]
        if given_height is not None:
            height, height_reason = given_height, _specified(style)
        elif size.ratio:
            height, height_reason = from_px(width / 64 / size.ratio), SizeReason.RATIO
        else:
            height_reason = SizeReason.INTRINSIC
        height, height_limit = frame.limit_height(height)
        return ReplacedSize(width, height, width_reason, height_reason, width_limit, height_limit)
    assert given_height is not None
    height, height_limit = frame.limit_height(given_height)
    width_reason = SizeReason.INTRINSIC
    if size.ratio:
        width, width_reason = from_px(height / 64 * size.ratio), SizeReason.RATIO
    width, width_limit = frame.limit_width(width)
    return ReplacedSize(width, height, width_reason, _specified(style), width_limit, height_limit)


def _with_preferred_ratio(size: IntrinsicSize, style: ComputedStyle) -> IntrinsicSize:
    """CSS Sizing 4 §5.1: a preferred ratio instead of the image's own, or only where it has none."""
    wanted = style.aspect_ratio
    if isinstance(wanted, str) or (wanted.natural_first and size.ratio):
        return size
    width, height = size.width, size.height
    if width is not None and height is not None:
        height = None
    return IntrinsicSize(width, height, wanted.ratio)


def _specified(style: ComputedStyle) -> SizeReason:
    value = style.height
    percent = not isinstance(value, NO_LENGTH) and value.has_percent
    return SizeReason.PERCENT if percent else SizeReason.SPECIFIED


def _natural_size(size: IntrinsicSize, available: LayoutUnit) -> tuple[LayoutUnit, LayoutUnit]:
    """§10.3.2 and §10.6.2 with both sizes auto and no limits."""
    if size.width is not None:
        width = from_px(size.width)
        if size.height is not None:
            return width, from_px(size.height)
        return width, from_px(size.width / size.ratio) if size.ratio else _DEFAULT_HEIGHT
    if size.height is not None:
        height = from_px(size.height)
        return (from_px(size.height * size.ratio) if size.ratio else _DEFAULT_WIDTH), height
    if size.ratio:
        width = max(ZERO, available)
        return width, from_px(width / 64 / size.ratio)
    return _DEFAULT_WIDTH, _DEFAULT_HEIGHT


def _both_auto(
    frame: _Frame, size: IntrinsicSize, width: LayoutUnit, height: LayoutUnit
) -> ReplacedSize:
    """§10.4: minimum and maximum sizes that keep the ratio where they can."""
    new_width, width_limit = frame.limit_width(width)
    new_height, height_limit = frame.limit_height(height)
    if size.ratio and width > 0 and height > 0 and (width_limit or height_limit):
        new_width, new_height = _keep_ratio(frame, width, height)
    return ReplacedSize(
        new_width,
        new_height,
        SizeReason.INTRINSIC,
        SizeReason.INTRINSIC,
        width_limit,
        height_limit,
    )


def _keep_ratio(frame: _Frame, width: LayoutUnit, height: LayoutUnit) -> tuple[LayoutUnit, LayoutUnit]:  # noqa: C901 the table of §10.4
    """The table of §10.4: w, h and what each constraint violation makes of them."""
    most_w, least_w = frame.limit_width(_NO_LIMIT)[0], frame.limit_width(ZERO)[0]
    most_h, least_h = frame.limit_height(_NO_LIMIT)[0], frame.limit_height(ZERO)[0]
    most_w, most_h = max(most_w, least_w), max(most_h, least_h)
    too_wide, too_narrow = width > most_w, width < least_w
    too_high, too_low = height > most_h, height < least_h
    if too_wide and too_high:
        if most_w * height <= most_h * width:
            return most_w, max(least_h, most_w * height // width)
        return max(least_w, most_h * width // height), most_h
    if too_narrow and too_low:
        if least_w * height <= least_h * width:
            return min(most_w, least_h * width // height), least_h
        return least_w, min(most_h, least_w * height // width)
    if too_narrow and too_high:
        return least_w, most_h
    if too_wide and too_low:
        return most_w, least_h
    if too_wide:
        return most_w, max(most_w * height // width, least_h)
    if too_narrow:
        return least_w, min(least_w * height // width, most_h)
    if too_high:
        return max(most_h * width // height, least_w), most_h
    if too_low:
        return min(least_h * width // height, most_w), least_h
    return width, height
