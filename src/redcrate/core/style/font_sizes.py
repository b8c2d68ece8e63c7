"""Computed font sizes: CSS Fonts 4 §2.5, and what all engines do with `font-family: monospace` alone.

Monospaced text has a default size of its own, 13 px. A size that was never given in absolute units is
scaled by 13/16 where the family changes to the generic `monospace` alone, and back where it changes
from it; a keyword is looked up in that default's own column (CSS Fonts 4 §2.5.1: the table is the
program's). Sizes are 32-bit floats, as every step of a chain of em sizes is rounded to one.
"""

from redcrate.core.records import dataclass
from redcrate.core.style.values import CalcNode, Dimension, LengthContext, compute_length
from redcrate.core.units import float32

LARGEST_FONT_PX = 10_000.0
_MONOSPACE_SCALE = 13 / 16
# Keyword → (px, px where the family is monospace alone).
SIZES = {
    "xx-small": (9.0, 9.0),
    "x-small": (10.0, 10.0),
    "small": (13.0, 12.0),
    "medium": (16.0, 13.0),
    "large": (18.0, 16.0),
    "x-large": (24.0, 20.0),
    "xx-large": (32.0, 26.0),
    "xxx-large": (48.0, 39.0),
}


@dataclass(frozen=True, slots=True)
class FontSize:
    """A computed size: px, the keyword it came from ("" for none), and whether it was given absolutely."""

    px: float
    keyword: str
    absolute: bool


@dataclass(frozen=True, slots=True)
class Known:
    """What the element around has: its size, how it was given, and whether it is monospaced."""

    px: float
    keyword: str
    absolute: bool
    monospace: bool


def is_monospace(families: tuple[str, ...]) -> bool:
    """Whether the generic family `monospace` stands alone."""
    return families == ("monospace",)


def font_size(
    value: str | Dimension | CalcNode | None,
    families: tuple[str, ...],
    around: Known,
    context: LengthContext,
) -> FontSize:
    """The computed size of a specified one; None: inherited. Never negative."""
    monospace = is_monospace(families)
    found = _specified(value, monospace, around, context)
    if found.absolute or monospace == around.monospace:
        return found
    if found.keyword:
        return FontSize(SIZES[found.keyword][monospace], found.keyword, False)
    scale = _MONOSPACE_SCALE if monospace else 1 / _MONOSPACE_SCALE
    return FontSize(float32(found.px * scale), "", False)


def _specified(
    value: str | Dimension | CalcNode | None, monospace: bool, around: Known, context: LengthContext
) -> FontSize:
    if value is None:
        return FontSize(around.px, around.keyword, around.absolute)
    if isinstance(value, str):
        if value in SIZES:
            return FontSize(SIZES[value][monospace], value, False)
        factor = 1.2 if value == "larger" else 1 / 1.2
        return FontSize(float32(around.px * factor), "", around.absolute)
    px = compute_length(value, context).resolve_px(around.px)
    px = float32(min(LARGEST_FONT_PX, max(0.0, px)))
    return FontSize(px, "", around.absolute or not _is_relative(value))


def _is_relative(value: Dimension | CalcNode) -> bool:
    """Whether a length hangs on the font around: em, ex and their like, or a percentage."""
    if isinstance(value, Dimension):
        return value.unit in ("%", "em", "ex", "ch", "cap", "ic", "lh")
    return all(_is_relative(a) for a in value.args if not isinstance(a, str) and _has_unit(a))


def _has_unit(value: Dimension | CalcNode) -> bool:
    return not isinstance(value, Dimension) or value.unit != ""
