"""Where transformed boxes are painted: CSS Transforms 1 §3. They move no layout."""

import math

from redcrate.core.geometry import Rect
from redcrate.core.records import dataclass
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.values import Length, MathLength
from redcrate.core.units import from_px


@dataclass(frozen=True, slots=True)
class Matrix:
    """x' = a·x + c·y + e, y' = b·x + d·y + f; px."""

    a: float = 1.0
    b: float = 0.0
    c: float = 0.0
    d: float = 1.0
    e: float = 0.0
    f: float = 0.0

    def times(self, inner: "Matrix") -> "Matrix":
        """First `inner`, then this."""
        return Matrix(
            self.a * inner.a + self.c * inner.b,
            self.b * inner.a + self.d * inner.b,
            self.a * inner.c + self.c * inner.d,
            self.b * inner.c + self.d * inner.d,
            self.a * inner.e + self.c * inner.f + self.e,
            self.b * inner.e + self.d * inner.f + self.f,
        )

    def point(self, x: float, y: float) -> tuple[float, float]:
        """Where a point goes."""
        return self.a * x + self.c * y + self.e, self.b * x + self.d * y + self.f

    def bounds(self, rect: Rect) -> Rect:
        """The smallest upright rectangle round a transformed one, 1/64 px."""
        x, y, right, bottom = (n / 64 for n in (rect.x, rect.y, rect.right, rect.bottom))
        corners = [self.point(*p) for p in ((x, y), (right, y), (x, bottom), (right, bottom))]
        left, top = min(p[0] for p in corners), min(p[1] for p in corners)
        width, height = max(p[0] for p in corners) - left, max(p[1] for p in corners) - top
        return Rect(from_px(left), from_px(top), from_px(width), from_px(height))

    @property
    def only_moves(self) -> bool:
        """Whether nothing is turned, sized or skewed."""
        return (self.a, self.b, self.c, self.d) == (1.0, 0.0, 0.0, 1.0)


def own_matrix(style: ComputedStyle, rect: Rect) -> Matrix | None:
    """What a style does to the picture of a box with that border box, in px of the page; None if nothing.

    Inline boxes are not transformed (§3).
    """
    if not style.is_transformed:
        return None
    width, height = rect.width / 64, rect.height / 64
    origin_x = rect.x / 64 + _px(style.transform_origin.x, width)
    origin_y = rect.y / 64 + _px(style.transform_origin.y, height)
    found = Matrix(e=origin_x, f=origin_y)
    for function in _functions(style):
        found = found.times(_matrix(function, width, height))
    return found.times(Matrix(e=-origin_x, f=-origin_y))


def _functions(style: ComputedStyle) -> tuple[tuple[object, ...], ...]:
    """CSS Transforms 2 §6: translate, rotate and scale come before the list."""
    found: tuple[tuple[object, ...], ...] = (
        *style.translate,
        *style.rotate,
        *style.scale,
        *style.transform,
    )
    return found


def _matrix(function: tuple[object, ...], width: float, height: float) -> Matrix:
    """One function in a box of that size, px."""
    name, *values = function
    if name == "translate":
        return Matrix(e=_px(values[0], width), f=_px(values[1], height))
    numbers = [float(v) for v in values]  # type: ignore[arg-type]
    if name == "rotate":
        sine, cosine = _sine(numbers[0]), _sine(numbers[0] + 90)
        return Matrix(cosine, sine, -sine, cosine)
    if name == "scale":
        return Matrix(numbers[0], 0.0, 0.0, numbers[1])
    if name == "skew":
        across, down = (math.tan(math.radians(n)) for n in numbers)
        return Matrix(1.0, down, across, 1.0)
    return Matrix(*numbers)


def _px(value: object, base: float) -> float:
    """A computed length in px; percentages refer to the side of the box."""
    assert isinstance(value, (Length, MathLength))
    return value.resolve_px(base)


def _sine(degrees: float) -> float:
    """The sine, exact at right angles."""
    quarters = degrees / 90
    if quarters == int(quarters):
        return (0.0, 1.0, 0.0, -1.0)[int(quarters) % 4]
    return math.sin(math.radians(degrees))
