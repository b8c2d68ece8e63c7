"""What is measured on a comp: a distance along one axis, or a marquee."""

from redcrate.core.records import dataclass
from redcrate.core.units import format_number


@dataclass(frozen=True, slots=True)
class Measure:
    """A rectangle in px of the page; a distance has no height, or no width."""

    left: float
    top: float
    right: float
    bottom: float

    @property
    def width(self) -> float:
        """Its width."""
        return self.right - self.left

    @property
    def height(self) -> float:
        """Its height."""
        return self.bottom - self.top

    @property
    def words(self) -> str:
        """As the panel says it."""
        if not self.height:
            return f"{format_number(self.width)} px across"
        if not self.width:
            return f"{format_number(self.height)} px down"
        return f"{format_number(self.width)} × {format_number(self.height)} px"

    @property
    def length(self) -> float:
        """Of a distance its length; of a marquee its width."""
        return self.width or self.height


def distance(start: tuple[float, float], end: tuple[float, float]) -> Measure:
    """The distance between two places along the axis on which they are further apart, px of the page."""
    (x1, y1), (x2, y2) = start, end
    if abs(x2 - x1) >= abs(y2 - y1):
        return Measure(min(x1, x2), y1, max(x1, x2), y1)
    return Measure(x1, min(y1, y2), x1, max(y1, y2))


def marquee(start: tuple[float, float], end: tuple[float, float]) -> Measure:
    """The rectangle between two places, px of the page."""
    (x1, y1), (x2, y2) = start, end
    return Measure(min(x1, x2), min(y1, y2), max(x1, x2), max(y1, y2))
