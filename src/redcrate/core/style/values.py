"""Values of lengths: as specified (with units), and as computed (px and percent).

A computed length that still holds a percentage is resolved in layout, where the base is known:
`resolve(base)` gives 1/64 px, cut toward zero once for the whole expression (CSS Values 4 §10).
"""

import math
from collections.abc import Callable
from dataclasses import field
from typing import TypeAlias

from redcrate.core.records import dataclass, put
from redcrate.core.units import LayoutUnit, float32, from_px

ABSOLUTE_UNITS = {
    "px": 1.0,
    "in": 96.0,
    "cm": 96 / 2.54,
    "mm": 96 / 25.4,
    "q": 96 / 101.6,
    "pt": 96 / 72,
    "pc": 16.0,
}
FONT_UNITS = ("em", "rem", "ex", "rex", "ch", "rch", "cap", "rcap", "ic", "ric", "lh", "rlh")
# What one hundredth of the window is along each axis; the small, large and dynamic window are one here,
# and so is the window and a container that is not there (CSS Values 4 §6.1.2, Conditional 5 §4).
VIEWPORT_UNITS = {
    f"{size}{axis}": way
    for size in ("", "s", "l", "d")
    for axis, way in (
        ("vw", "width"), ("vi", "width"), ("vh", "height"), ("vb", "height"),
        ("vmin", "smaller"), ("vmax", "larger"),
    )
} | {
    "cqw": "width", "cqi": "width", "cqh": "height", "cqb": "height",
    "cqmin": "smaller", "cqmax": "larger",
}  # fmt: skip
LENGTH_UNITS = frozenset((*ABSOLUTE_UNITS, *FONT_UNITS, *VIEWPORT_UNITS))


@dataclass(frozen=True, slots=True)
class Dimension:
    """A number with its unit as specified; unit "%" is a percentage, "" a plain number."""

    value: float
    unit: str


@dataclass(frozen=True, slots=True)
class CalcNode:
    """A math function or operation as specified (CSS Values 4 §10).

    op: "+", "*" (second argument a plain number), "min", "max" or "clamp".
    """

    op: str
    args: "tuple[CalcNode | Dimension | str, ...]"


@dataclass(frozen=True, slots=True)
class Length:
    """A computed length: `px` plus `percent` of a base that layout knows."""

    px: float
    percent: float = 0.0
    fixed: LayoutUnit = field(init=False, compare=False, repr=False)

    def __post_init__(self) -> None:
        put(self, "fixed", from_px(self.px))

    @property
    def has_percent(self) -> bool:
        """Whether a base is needed."""
        return self.percent != 0.0

    def resolve(self, base: LayoutUnit) -> LayoutUnit:
        """The length in 1/64 px, with percentages of `base` (1/64 px)."""
        if self.percent == 0.0:
            return self.fixed
        return from_px(self.px + base * self.percent / 6400)

    def resolve_px(self, base_px: float) -> float:
        """The length in px before it is cut to a step."""
        return self.px + base_px * self.percent / 100


@dataclass(frozen=True, slots=True)
class Percentage(Length):
    """A computed percentage that was written as one: `0%` still has a base."""

    @property
    def has_percent(self) -> bool:
        """Always: even 0 % of an unknown height is not a length."""
        return True


@dataclass(frozen=True, slots=True)
class MathLength:
    """A computed min(), max() or clamp() whose outcome depends on the base."""

    op: str
    args: "tuple[LengthValue, ...]"

    @property
    def has_percent(self) -> bool:
        """Always: without a percentage the function is done at computed-value time."""
        return True

    def resolve_px(self, base_px: float) -> float:
        """The outcome in px for a base in px."""
        return apply_math(self.op, [a.resolve_px(base_px) for a in self.args])

    def resolve(self, base: LayoutUnit) -> LayoutUnit:
        """The outcome in 1/64 px for a base in 1/64 px."""
        return from_px(self.resolve_px(base / 64))


@dataclass(frozen=True, slots=True)
class FitContent:
    """`fit-content(limit)`: a size that only the content knows, so no length (CSS Box Sizing 3 §3.2)."""

    limit: "LengthValue"


LengthValue: TypeAlias = Length | MathLength
# A length, or a keyword such as "auto": offsets and margins.
OffsetValue: TypeAlias = Length | MathLength | str
# A width or height with its limits: as above, or fit-content() with a limit.
SizeValue: TypeAlias = Length | MathLength | FitContent | str
# What is no length: a keyword, or a size that only the content knows.
NO_LENGTH = (str, FitContent)
SpecifiedLength: TypeAlias = Dimension | CalcNode | str

ZERO = Length(0.0)


def apply_math(op: str, values: list[float]) -> float:
    """The outcome of a math function or operation on plain numbers."""
    if op == "+":
        return sum(values)
    if op == "*":
        return values[0] * values[1]
    if op == "min":
        return min(values)
    if op == "max":
        return max(values)
    low, middle, high = values  # clamp
    return max(low, min(middle, high))


@dataclass(frozen=True, slots=True)
class FontUnits:
    """The font-relative units of one font at one size, px (CSS Values 4 §6.1.1).

    lh: the line height; while a font size or line height is computed, that of the element around.
    """

    em: float
    ex: float
    ch: float
    cap: float
    ic: float
    lh: float


@dataclass(frozen=True, slots=True)
class LengthContext:
    """What relative units refer to (CSS Values 4 §6.1).

    font: of the element (of its parent while the font size itself is computed). root: of the root
    element. viewport_width, viewport_height: of the window, px. viewport_units: collects the units that
    referred to the window, so that who computes knows whether another window would change anything.
    """

    font: FontUnits
    root: FontUnits
    viewport_width: float
    viewport_height: float
    viewport_units: set[str] = field(default_factory=set, compare=False)

    def px_of(self, unit: str) -> float:
        """How many px one `unit` is."""
        if unit in ABSOLUTE_UNITS:
            return ABSOLUTE_UNITS[unit]
        way = VIEWPORT_UNITS.get(unit)
        if way is not None:
            self.viewport_units.add(unit)
            both = (self.viewport_width / 100, self.viewport_height / 100)
            return both[way == "height"] if way in ("width", "height") else _OF_BOTH[way](both)
        if unit.startswith("r") and unit != "r":
            return float(getattr(self.root, unit[1:]))
        return float(getattr(self.font, unit))


_OF_BOTH: dict[str, Callable[[tuple[float, float]], float]] = {"smaller": min, "larger": max}


def compute_length(value: Dimension | CalcNode, context: LengthContext) -> LengthValue:
    """The computed length of a specified one: units resolved, percentages kept.

    A whole calculation that comes to no number is 0: CSS Values 4 §10.9.1.
    """
    found = _computed(value, context)
    if isinstance(found, Length) and (math.isnan(found.px) or math.isnan(found.percent)):
        return Length(0.0)
    return found


def _computed(value: Dimension | CalcNode, context: LengthContext) -> LengthValue:
    if isinstance(value, Dimension):
        if value.unit == "%":
            return Percentage(0.0, value.value)
        if value.unit == "":
            return Length(value.value)
        px = value.value * context.px_of(value.unit)
        return Length(px if value.unit in ABSOLUTE_UNITS else float32(px))  # as engines keep it
    if value.op in ("+", "*"):
        return _compute_linear(value, context)
    args = [_computed(a, context) for a in value.args if not isinstance(a, str)]
    if any(a.has_percent for a in args):
        return MathLength(value.op, tuple(args))
    return Length(apply_math(value.op, [a.resolve_px(0.0) for a in args]))


def _compute_linear(value: CalcNode, context: LengthContext) -> LengthValue:
    args = [_computed(a, context) for a in value.args if not isinstance(a, str)]
    if any(isinstance(a, MathLength) for a in args):
        return MathLength(value.op, tuple(args))
    has_percent = any(a.has_percent for a in args)
    linear = [a for a in args if isinstance(a, Length)]
    if value.op == "+":
        px, percent = sum(a.px for a in linear), sum(a.percent for a in linear)
    else:
        factor = linear[1].px
        px, percent = linear[0].px * factor, linear[0].percent * factor
    return Percentage(px, percent) if has_percent else Length(px)
