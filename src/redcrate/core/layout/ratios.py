"""Preferred aspect ratios of boxes that are not replaced: CSS Sizing 4 §5.1."""

from redcrate.core.layout.fragments import ContentSizes, SizeReason
from redcrate.core.layout.heights import definite_height, limited_height
from redcrate.core.records import dataclass
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.values import SizeValue
from redcrate.core.units import ZERO, LayoutUnit, from_px

_NO_LIMIT = LayoutUnit(2**40)


def ratio_of(style: ComputedStyle) -> float | None:
    """The preferred aspect ratio of a box that is not replaced."""
    return None if isinstance(style.aspect_ratio, str) else style.aspect_ratio.ratio


def ratio_height(
    style: ComputedStyle, width: LayoutUnit, extra_across: LayoutUnit, extra_down: LayoutUnit
) -> LayoutUnit | None:
    """The content height that the ratio makes of a used content width; None without a ratio.

    The ratio is that of the box that box-sizing names.
    """
    ratio = ratio_of(style)
    if ratio is None:
        return None
    if style.box_sizing == "border-box":
        return max(ZERO, from_px((width + extra_across) / 64 / ratio) - extra_down)
    return from_px(width / 64 / ratio)


@dataclass(frozen=True, slots=True)
class RatioWidth:
    """What a preferred aspect ratio says about a content width.

    given: the width that it makes of a definite height; None where the height hangs on the width. least,
    most: what the limits of the height come to across. keeps_content: no narrower than the content (§5.1.1).
    """

    given: LayoutUnit | None
    least: LayoutUnit
    most: LayoutUnit
    keeps_content: bool

    def of_auto(self, width: LayoutUnit, sizes: ContentSizes) -> tuple[LayoutUnit, SizeReason] | None:
        """What becomes of an auto width: that of the ratio, or `width` within the limits (§5.1.2).

        None where the ratio leaves it as it is.
        """
        if self.given is None:
            found, why = min(max(width, self.least), self.most), SizeReason.RATIO_LIMIT
            if found == width:
                return None
        else:
            found, why = self.given, SizeReason.RATIO
        if self.keeps_content and found < sizes.min_content:
            return sizes.min_content, SizeReason.RATIO_CONTENT
        return found, why


def ratio_width(
    style: ComputedStyle, cb_height: LayoutUnit | None, extra_across: LayoutUnit, extra_down: LayoutUnit
) -> RatioWidth | None:
    """What the ratio says about a width that hangs on content or on the room; None without a ratio."""
    ratio = ratio_of(style)
    if ratio is None:
        return None

    def across(height: LayoutUnit) -> LayoutUnit:
        if style.box_sizing == "border-box":
            return max(ZERO, from_px((height + extra_down) / 64 * ratio) - extra_across)
        return from_px(height / 64 * ratio)

    def limit(value: SizeValue) -> LayoutUnit | None:
        found = definite_height(value, style, cb_height, extra_down)
        return None if found is None else across(found)

    height = definite_height(style.height, style, cb_height, extra_down)
    given = None
    if height is not None:
        given = across(limited_height(height, style, cb_height, extra_down)[0])
    least, most = limit(style.min_height), limit(style.max_height)
    keeps_content = style.min_width == "auto" and style.overflow_x in ("visible", "clip")
    return RatioWidth(given, least or ZERO, _NO_LIMIT if most is None else most, keeps_content)
