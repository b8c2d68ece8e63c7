"""Places for labels: none overlaps another. Lengths are px of the drawing.

In a row labels stand as near as they can to what they name, pushed apart where they would touch; on a
free surface a label takes the first of its possible places that is still free.
"""

from collections.abc import Iterable, Iterator, Sequence
from typing import Any

from redcrate.core.records import dataclass


@dataclass(frozen=True, slots=True)
class Place:
    """A rectangle that a label takes."""

    x: float
    y: float
    width: float
    height: float

    def meets(self, other: "Place") -> bool:
        """Whether the two overlap."""
        return (
            self.x < other.x + other.width
            and other.x < self.x + self.width
            and self.y < other.y + other.height
            and other.y < self.y + self.height
        )


class Taken:
    """The places taken so far on one surface."""

    def __init__(self) -> None:
        self.places: list[Place] = []

    def take(self, place: Place) -> None:
        """Keep a place, whatever is there."""
        self.places.append(place)

    def first_free(self, candidates: Iterable[Place]) -> Place | None:
        """Take the first candidate that meets no other label; None if all do."""
        for place in candidates:
            if not any(place.meets(other) for other in self.places):
                self.places.append(place)
                return place
        return None


class Bands:
    """Things by the bands of the surface that their places lie in, so that only near ones are looked at."""

    def __init__(self, height: float = 48.0) -> None:
        self._height = height
        self._bands: dict[int, list[tuple[Place, Any]]] = {}

    def _of(self, place: Place) -> range:
        first, last = place.y // self._height, (place.y + place.height) // self._height
        return range(int(first), int(last) + 1)

    def add(self, place: Place, thing: Any = None) -> None:
        """Keep a thing at its place."""
        for band in self._of(place):
            self._bands.setdefault(band, []).append((place, thing))

    def meeting(self, place: Place) -> Iterator[tuple[Place, Any]]:
        """What overlaps a place, with its own place; perhaps more than once."""
        for band in self._of(place):
            yield from (known for known in self._bands.get(band, ()) if known[0].meets(place))


def spread(wanted: Sequence[float], sizes: Sequence[float], gap: float) -> list[float]:
    """Middles of labels in a row, in the order given, as near to the wanted ones as gaps allow.

    wanted: middles, ascending. sizes: how long each label is. Labels that would touch form a group,
    which stands where its members are moved the least together.
    """
    groups: list[tuple[float, float, list[int]]] = []  # (middle, length, members)
    for number, (middle, size) in enumerate(zip(wanted, sizes, strict=True)):
        groups.append((middle, size, [number]))
        while len(groups) > 1 and _touch(groups[-2], groups[-1], gap):
            later, earlier = groups.pop(), groups.pop()
            members = earlier[2] + later[2]
            groups.append(_group(members, wanted, sizes, gap))
    places = [0.0] * len(wanted)
    for middle, length, members in groups:
        at = middle - length / 2
        for number in members:
            places[number] = at + sizes[number] / 2
            at += sizes[number] + gap
    return places


def _touch(
    earlier: tuple[float, float, list[int]], later: tuple[float, float, list[int]], gap: float
) -> bool:
    return earlier[0] + earlier[1] / 2 + gap > later[0] - later[1] / 2


def _group(
    members: list[int], wanted: Sequence[float], sizes: Sequence[float], gap: float
) -> tuple[float, float, list[int]]:
    """The group's middle is the mean of where each member would have it."""
    length = sum(sizes[n] for n in members) + gap * (len(members) - 1)
    at, middles = 0.0, 0.0
    for number in members:
        middles += wanted[number] - (at + sizes[number] / 2) + length / 2
        at += sizes[number] + gap
    return middles / len(members), length, members
