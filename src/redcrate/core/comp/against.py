"""A place, and a box, held against the edges of the picture."""

from statistics import median

from redcrate.core.comp.edges import Picture, edges_near, nearest_edge
from redcrate.core.comp.measuring import Measure
from redcrate.core.comp.placing import CompPlace
from redcrate.core.geometry import Rect
from redcrate.core.records import dataclass
from redcrate.core.units import format_number

_REACH = 40.0  # px of the page within which an edge of the picture may be a side of the box
_LINES = (0.2, 0.35, 0.5, 0.65, 0.8)  # where along a side the picture is looked at
_LINE = 4.0  # px: how thick a border that is drawn may be
_SAME = 0.5  # px: nobody sees less


def caught(picture: Picture, place: CompPlace, x: float, y: float, reach: float) -> tuple[float, float]:
    """A place of the page, px, caught on the edges of the picture within `reach` px of the page, on each axis."""
    px, py = place.to_picture(x, y)
    across = nearest_edge(picture, px, py, across=True, reach=reach * place.scale)
    down = nearest_edge(picture, px, py, across=False, reach=reach * place.scale)
    cx, cy = place.to_page(px if across is None else across, py if down is None else down)
    return (x if across is None else cx), (y if down is None else cy)


@dataclass(frozen=True, slots=True)
class Comparison:
    """A box beside the sides of the picture that were found, px of the page; None where there is no edge near."""

    left: float | None
    top: float | None
    right: float | None
    bottom: float | None
    box: Measure

    @property
    def differences(self) -> tuple[str, ...]:
        """What is other than in the picture, in words: "12 px narrower", "3 px lower"."""
        found = []
        if self.left is not None and self.right is not None:
            found.append(_told(self.box.width - (self.right - self.left), "wider", "narrower"))
        if self.top is not None and self.bottom is not None:
            found.append(_told(self.box.height - (self.bottom - self.top), "higher", "shorter"))
        if self.left is not None:
            found.append(_told(self.box.left - self.left, "further right", "further left"))
        if self.top is not None:
            found.append(_told(self.box.top - self.top, "lower", "further up"))
        return tuple(f for f in found if f)

    @property
    def sentence(self) -> str:
        """All of it."""
        sides = (self.left, self.top, self.right, self.bottom)
        known = sum(s is not None for s in sides)
        if not known:
            return f"The comp has no edge within {format_number(_REACH)} px of this box."
        missing = "" if known == 4 else f" {4 - known} of its sides have no edge near."
        return (", ".join(self.differences) or "as in the comp") + "." + missing


def _told(by: float, more: str, less: str) -> str:
    if abs(by) <= _SAME:
        return ""
    return f"{format_number(abs(by))} px {more if by > 0 else less}"


def compared(picture: Picture, place: CompPlace, rect: Rect) -> Comparison:
    """A border box, 1/64 px, beside the nearest edges of the picture."""
    box = Measure(rect.x / 64, rect.y / 64, rect.right / 64, rect.bottom / 64)

    def side(at: float, *, across: bool, outwards: int) -> float | None:
        along = (box.top, box.height) if across else (box.left, box.width)
        found = []
        for part in _LINES:
            other = along[0] + along[1] * part
            px, py = place.to_picture(*((at, other) if across else (other, at)))
            edges = edges_near(picture, px, py, across=across, reach=_REACH * place.scale)
            shown = [place.to_page(e, e)[0 if across else 1] for e in edges]
            if shown:
                found.append(_outermost(shown, at, outwards))
        return median(found) if len(found) * 2 > len(_LINES) else None

    return Comparison(
        side(box.left, across=True, outwards=-1),
        side(box.top, across=False, outwards=-1),
        side(box.right, across=True, outwards=1),
        side(box.bottom, across=False, outwards=1),
        box,
    )


def _outermost(edges: list[float], at: float, outwards: int) -> float:
    """The edge nearest to a side; of a line, such as a border, its outer edge."""
    nearest = min(edges, key=lambda e: abs(e - at))
    line = [e for e in edges if 0 <= (e - nearest) * outwards <= _LINE]
    return max(line, key=lambda e: e * outwards)
