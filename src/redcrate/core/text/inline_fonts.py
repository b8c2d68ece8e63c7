"""The font of a style as lines need it: metrics, leading, and the size that advances are taken at."""

from functools import lru_cache

from redcrate.core.records import dataclass
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.computing import used_line_height
from redcrate.core.text.fonts import FontFace, FontMetrics, choose_font, shaping_size
from redcrate.core.text.shaping import Features, shape
from redcrate.core.units import LayoutUnit

HYPHEN = "\u2010"


@dataclass(frozen=True, slots=True, eq=False)
class InlineFont:
    """The font of an inline box as lines need it, 1/64 px.

    ascent, descent: of the content area. leading_ascent, leading_descent: of the inline box with its
    half-leading (CSS 2.2 §10.8.1).
    """

    face: FontFace
    size: float
    shaping_size: float
    ascent: LayoutUnit
    descent: LayoutUnit
    leading_ascent: LayoutUnit
    leading_descent: LayoutUnit
    x_height: float
    space: float


@lru_cache(maxsize=5000)
def inline_font(style: ComputedStyle) -> InlineFont:
    """The font of a style, with its leading."""
    face = choose_font(style.font_family, style.font_weight, style.font_style).face
    if face.axes:
        optical = {"opsz": style.font_size} if style.font_optical_sizing == "auto" else {}
        face = face.at(optical | dict(style.font_variation_settings))
    metrics = face.metrics(style.font_size)
    above, below = with_leading(metrics, used_line_height(style))
    space = shape(face, " ").sums[1] * style.font_size / face.upem
    return InlineFont(
        face,
        style.font_size,
        shaping_size(style.font_size),
        metrics.ascent,
        metrics.descent,
        above,
        below,
        metrics.x_height,
        space,
    )


def with_leading(metrics: FontMetrics, height: LayoutUnit | None) -> tuple[LayoutUnit, LayoutUnit]:
    """How far up and down a line of that height reaches, None for a normal one: CSS 2.2 §10.8.1.

    Half of the leading goes above, cut down to a whole px.
    """
    if height is None:
        height = metrics.ascent + metrics.descent + metrics.line_gap
    leading = height - metrics.ascent - metrics.descent
    above = metrics.ascent + (leading // 2) // 64 * 64
    return above, height - above


@lru_cache(maxsize=5000)
def features_of(style: ComputedStyle) -> Features:
    """CSS Fonts 4 §7.2: which features of a font are turned on or off; the later one counts."""
    kerning = () if style.font_kerning != "none" else (("kern", 0),)
    spaced = (("liga", 0), ("clig", 0)) if style.letter_spacing else ()  # CSS Text 3 §8.2
    return (*kerning, *spaced, *style.font_variant_numeric, *style.font_feature_settings)


@lru_cache(maxsize=1000)
def hyphen_of(style: ComputedStyle) -> str:
    """CSS Text 4 §6.3: what stands at the end of a line that ends inside a word."""
    if style.hyphenate_character != "auto":
        return style.hyphenate_character
    return HYPHEN if inline_font(style).face.has(HYPHEN) else "-"


@lru_cache(maxsize=1000)
def hyphen_width(style: ComputedStyle) -> LayoutUnit:
    """The room of that hyphen, 1/64 px."""
    font, hyphen = inline_font(style), hyphen_of(style)
    return shape(font.face, hyphen).width(0, len(hyphen), font.shaping_size)
