"""Which differences follow from which: a box that is larger pushes others along, and those are no causes.

A part of a box (its place or its size) follows from another element where that one's difference alone gives the same
amount: from what it stands in, from what stands before it, or from what is in it.
"""

from collections.abc import Callable, Iterator, Mapping
from functools import partial

from redcrate.core.layout.fragments import SizeReason
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox
from redcrate.core.records import dataclass

_MOST_BEFORE = 20  # siblings that are looked at
_NOTHING = 0.02  # px: a step of layout, and what is lost in writing it down
_FROM_OUTSIDE = frozenset((SizeReason.FILL, SizeReason.PERCENT, SizeReason.STRETCH))
WRITTEN_SIZES = frozenset((SizeReason.SPECIFIED, SizeReason.INTRINSIC, SizeReason.FIELD))
# From what it stands in, and from what is in the others that stand there.
_FROM_BOTH = frozenset(
    (SizeReason.FLEXED, SizeReason.LINE, SizeReason.AREA, SizeReason.COLUMNS, SizeReason.ROWS)
)


@dataclass(frozen=True, slots=True, eq=False)
class Shift:
    """By how many px a box there is further right and down, wider and higher. box: ours."""

    x: float
    y: float
    width: float
    height: float
    box: ElementBox

    def beyond(self, tolerance: float) -> tuple[str, ...]:
        """The parts that differ by more than that."""
        amounts = (("x", self.x), ("y", self.y), ("width", self.width), ("height", self.height))
        return tuple(name for name, amount in amounts if abs(amount) > tolerance)

    def along(self, axis: int) -> tuple[float, float]:
        """By how much its place and its size differ across (0) or down (1)."""
        return ((self.x, self.width), (self.y, self.height))[axis]


Shifts = Mapping[Element, Shift]


class Following:
    """Finds for each element that differs the first one that its difference follows from; asks for each once."""

    def __init__(self, shifts: Shifts, tolerance: float) -> None:
        self._shifts = shifts
        self._tolerance = tolerance
        self._steps: dict[Element, tuple[tuple[str, ...], Element | None]] = {}
        self._causes: dict[Element, Element] = {}

    def own_parts(self, element: Element) -> tuple[str, ...]:
        """The parts of its difference that follow from nothing else; all, where it and others explain one another."""
        return self._step(element)[0] or self._shifts[element].beyond(self._tolerance)

    def cause_of(self, element: Element) -> Element:
        """The first element that it follows from; itself, where it is that."""
        way: list[Element] = []
        at = element
        while at not in self._causes and at not in way:
            way.append(at)
            own, follows = self._step(at)
            if own or follows is None:
                self._causes[at] = at
            else:
                at = follows
        if at not in self._causes:  # they explain one another: the first one in the document counts
            ring = way[way.index(at) :]
            self._causes[at] = min(ring, key=lambda e: e.index)
        for one in way:
            self._causes[one] = self._causes[at]
        return self._causes[element]

    def _step(self, element: Element) -> tuple[tuple[str, ...], Element | None]:
        """The parts that nothing else explains, and the first element that explains the others."""
        known = self._steps.get(element)
        if known is None:
            own: list[str] = []
            follows: Element | None = None
            for part in self._shifts[element].beyond(self._tolerance):
                found = self._explaining(element, part)
                if found is None:
                    own.append(part)
                elif found is not element:
                    follows = follows or found
            known = self._steps[element] = tuple(own), follows
        return known

    def _explaining(self, element: Element, part: str) -> Element | None:
        """The element whose own difference alone gives that of a part; the element itself where another part does."""
        amount: float = getattr(self._shifts[element], part)
        for source, given in _SOURCES[part](element, self._shifts):
            if abs(amount - given) <= self._tolerance and self._shifts[source].beyond(self._tolerance):
                return source
        return None


Given = Iterator[tuple[Element, float]]


def _place_from(element: Element, shifts: Shifts, axis: int) -> Given:
    """From what stands before it; from where what it stands in begins, ends or has its middle; from its own size."""
    for one in _before(element, shifts):
        place, size = shifts[one].along(axis)
        yield one, place + size
        yield one, place
    around = _around(element, shifts)
    base = 0.0
    if around is not None:
        base, size = shifts[around].along(axis)
        yield around, base
        yield around, base + size
        yield around, base + size / 2
    own = shifts[element].along(axis)[1]
    if abs(own) > _NOTHING:
        yield element, base - own
        yield element, base - own / 2


def _width_from(element: Element, shifts: Shifts) -> Given:
    """A width that comes from outside follows what it stands in, another one what is in it."""
    box = shifts[element].box
    reason = None if box.box is None else box.box.fragment.across.reason
    if reason not in _FROM_OUTSIDE and reason not in WRITTEN_SIZES:
        for one in _inside(element, shifts):
            yield one, shifts[one].x + shifts[one].width - shifts[element].x
    around = _around(element, shifts)
    if around is not None and (reason in _FROM_OUTSIDE or reason in _FROM_BOTH):
        outer = shifts[around]
        yield around, outer.width
        if outer.box.border_box.width:
            yield around, outer.width * box.border_box.width / outer.box.border_box.width


def _height_from(element: Element, shifts: Shifts) -> Given:
    """From what is in it; from its own width, which breaks lines elsewhere; from what it is stretched to."""
    shift = shifts[element]
    reason = None if shift.box.box is None else shift.box.box.fragment.down.reason
    inside = [] if reason in WRITTEN_SIZES else _inside(element, shifts)
    for one in inside:
        yield one, shifts[one].y + shifts[one].height - shift.y
    if abs(shift.width) > _NOTHING:
        yield element, shift.height
    around = _around(element, shifts)
    if around is not None and (reason in _FROM_OUTSIDE or reason in _FROM_BOTH):
        yield around, shifts[around].height


def _around(element: Element, shifts: Shifts) -> Element | None:
    """The nearest element with a box that it stands in."""
    return next((e for e in element.ancestors() if e in shifts), None)


def _before(element: Element, shifts: Shifts) -> Iterator[Element]:
    """What stands before it in the same element, the nearest first."""
    siblings = element.parent.child_elements if element.parent is not None else []
    at = element.sibling_index
    for one in reversed(siblings[max(0, at - _MOST_BEFORE) : at]):
        if one in shifts:
            yield one


def _inside(element: Element, shifts: Shifts) -> list[Element]:
    """The elements in it that have a box, of which those without one are looked through."""
    found: list[Element] = []
    for child in element.child_elements:
        found += [child] if child in shifts else _inside(child, shifts)
    return found


_SOURCES: dict[str, Callable[[Element, Shifts], Given]] = {
    "x": partial(_place_from, axis=0),
    "y": partial(_place_from, axis=1),
    "width": _width_from,
    "height": _height_from,
}
