"""Where a comp lies on the page, at which scale, and how it is shown; kept in the settings file."""

from typing import Annotated

from msgspec import Meta, Struct

from redcrate.core.labelled import Labelled
from redcrate.core.records import dataclass

LEAST_SCALE, MOST_SCALE, FURTHEST = 0.05, 20.0, 100_000.0


class CompWay(Labelled):
    """How a comp meets the page; the values are the words of the interface and of the file."""

    OVER = "over", "over the page"
    UNDER = "under", "under the page"
    DIFFERENCE = "difference", "difference"


@dataclass(frozen=True, slots=True)
class CompPlace:
    """A comp for windows of one width.

    file: the picture, as the way from the page's folder. x, y: where its upper left corner lies on the page, px.
    scale: px of the picture for one px of the page. strength: from 0 to 1.
    """

    file: str
    x: float = 0.0
    y: float = 0.0
    scale: float = 1.0
    strength: float = 0.5
    way: CompWay = CompWay.OVER

    def to_picture(self, x: float, y: float) -> tuple[float, float]:
        """A place of the page, px, in px of the picture."""
        return (x - self.x) * self.scale, (y - self.y) * self.scale

    def to_page(self, x: float, y: float) -> tuple[float, float]:
        """A place in the picture, px, on the page."""
        return x / self.scale + self.x, y / self.scale + self.y


class KeptComp(Struct):
    """A comp as it stands in the settings file."""

    file: str
    x: Annotated[float, Meta(ge=-FURTHEST, le=FURTHEST)] = 0.0
    y: Annotated[float, Meta(ge=-FURTHEST, le=FURTHEST)] = 0.0
    scale: Annotated[float, Meta(ge=LEAST_SCALE, le=MOST_SCALE)] = 1.0
    strength: Annotated[float, Meta(ge=-FURTHEST, le=FURTHEST)] = 0.5
    way: CompWay = CompWay.OVER

    @classmethod
    def of(cls, place: CompPlace) -> "KeptComp":
        """A comp to be kept."""
        return cls(place.file, place.x, place.y, place.scale, place.strength, place.way)

    def placed(self) -> CompPlace:
        """The comp; its strength is from 0 to 1, whatever is kept."""
        strength = min(1.0, max(0.0, self.strength))
        return CompPlace(self.file, self.x, self.y, self.scale, strength, self.way)


def likely_scale(name: str, picture_width: float, window: float) -> float:
    """How many px of a picture stand for one of the page: by `@2x` in its name, or by its width, 2 or 3 times the
    window's.
    """
    for times in (2.0, 3.0):
        if f"@{times:g}x" in name or abs(picture_width - times * window) <= times:
            return times
    return 1.0
