"""What a track's sizing functions come to: CSS Grid 1 §7.2; 1/64 px."""

from redcrate.core.style.grid import Breadth, Fraction
from redcrate.core.style.values import Length, MathLength
from redcrate.core.units import ZERO, LayoutUnit


def fixed(breadth: Breadth, base: LayoutUnit | None) -> LayoutUnit | None:
    """The length of a fixed sizing function; None for others, and for a percentage of what is not known."""
    if not isinstance(breadth, (Length, MathLength)):
        return None
    if breadth.has_percent and base is None:
        return None
    return max(ZERO, breadth.resolve(base or ZERO))


def factor(breadth: Breadth) -> float:
    """The flex factor; 0 for what is not flexible."""
    return breadth.factor if isinstance(breadth, Fraction) else 0.0


def keyword(breadth: Breadth, base: LayoutUnit | None) -> str:
    """auto, min-content, max-content, "fixed" or "flex"; a percentage of what is not known is auto (§7.2.1)."""
    if isinstance(breadth, str):
        return breadth
    if isinstance(breadth, Fraction):
        return "flex"
    return "auto" if fixed(breadth, base) is None else "fixed"
