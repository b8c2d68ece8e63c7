"""Where the dimensions of the selected box go, so that the page stays readable: beside it, above, below, or outside.

A chain takes the first place at which its lettering and its lines cover no text, picture or field of the page; where
there is none, one label with a short form does; where that has no place either, nothing is drawn: the budget has
every number.
"""

from collections.abc import Callable, Iterable, Iterator

from PyQt6.QtCore import QPointF, QRectF, QSize

from redcrate.core.diagram.chain import Chain, chain_across, chain_down, short_forms
from redcrate.core.diagram.drawing import Segment
from redcrate.core.diagram.label_places import Bands, Place
from redcrate.core.diagram.lettering import text_width
from redcrate.core.diagram.page_ink import ink_of
from redcrate.core.explain import across, down
from redcrate.core.explain.terms import Equation
from redcrate.core.geometry import Edges, Rect
from redcrate.core.page import ElementBox, Page, PlacedBox
from redcrate.core.records import dataclass

_STEP, _FURTHEST = 14, 3  # px, and how many of them a chain moves away from its box
_EDGE = 4.0  # px between a chain and the end of the sheet
_HIGH = 15.0  # px: a label
_CLEAR = 2.0  # px around what is read: the halo of a label


@dataclass(frozen=True, slots=True)
class Note:
    """A short form of a sum and where it is: one label."""

    text: str
    place: Place


@dataclass(frozen=True, slots=True)
class Dimensions:
    """What is drawn beside the selected box."""

    chains: tuple[Chain, ...] = ()
    notes: tuple[Note, ...] = ()

    @property
    def places(self) -> Iterator[Place]:
        """What is covered by lettering and lines."""
        for chain in self.chains:
            yield from (*chain.labels, *chain.lines)
        yield from (note.place for note in self.notes)

    def is_over(self, point: QPointF) -> bool:
        """Whether a place of the viewport is under them."""
        strips = (*(c.strip for c in self.chains), *(n.place for n in self.notes))
        return any(
            s.x <= point.x() <= s.x + s.width and s.y <= point.y() <= s.y + s.height for s in strips
        )


@dataclass(frozen=True, slots=True)
class Surface:
    """The part of the page that is seen. ink: what is to stay readable, in px of the viewport."""

    to_screen: Callable[[Rect], QRectF]
    scale: float
    size: QSize
    ruler: float
    ink: Bands

    def is_free(self, places: Iterable[Place]) -> bool:
        """Whether all places are in view and cover nothing."""
        return all(self._is_in_view(p) and next(self.ink.meeting(p), None) is None for p in places)

    def _is_in_view(self, place: Place) -> bool:
        return (
            place.x >= self.ruler + _EDGE
            and place.y >= self.ruler + _EDGE
            and place.x + place.width <= self.size.width() - _EDGE
            and place.y + place.height <= self.size.height() - _EDGE
        )


def seen_ink(boxes: Iterable[PlacedBox], to_screen: Callable[[Rect], QRectF]) -> Bands:
    """What the boxes in view have of text and pictures, px of the viewport, with room for the halo of a label."""
    found = Bands()
    for rect in ink_of(boxes):
        kept = to_screen(rect).adjusted(-_CLEAR, -_CLEAR, _CLEAR, _CLEAR)
        found.add(Place(kept.x(), kept.y(), kept.width(), kept.height()))
    return found


def dimensions_of(page: Page, box: ElementBox, surface: Surface) -> Dimensions:
    """The dimensions of a box at the first places where they cover nothing that is read."""
    wide, high = across(page, box.element), down(page, box.element)
    if wide is None or high is None or not wide.terms:
        return Dimensions()
    outer = _margin_box(box, surface)
    chains: list[Chain] = []
    notes: list[Note] = []
    for equation, candidates in (
        (high, _down_places(high, outer, surface)),
        (wide, _across_places(wide, outer, surface)),
    ):
        taken = [p for c in chains for p in (*c.labels, *c.lines)] + [n.place for n in notes]
        chain = _first(candidates, surface, taken)
        if chain is not None:
            chains.append(chain)
            continue
        note = _note(equation, outer, surface, taken)
        if note is not None:
            notes.append(note)
    return Dimensions(tuple(chains), tuple(notes))


def _margin_box(box: ElementBox, surface: Surface) -> QRectF:
    """The margin box in the viewport; the first line's box of an inline element."""
    first = surface.to_screen(box.fragments[0])
    margin, k = box.margin if box.box else Edges(), surface.scale / 64
    return first.adjusted(
        -margin.left * k, -margin.top * k, max(0, margin.right) * k, max(0, margin.bottom) * k
    )


def _first(candidates: Iterable[Chain], surface: Surface, taken: list[Place]) -> Chain | None:
    for chain in candidates:
        places = (*chain.labels, *chain.lines)
        if surface.is_free((*places, *_thin(chain))) and not any(
            p.meets(other) for p in places for other in taken
        ):
            return chain
    return None


def _thin(chain: Chain) -> Iterator[Place]:
    """The places of all lines, leaders and extensions too."""
    for shape in chain.shapes:
        if isinstance(shape, Segment):
            left, top = min(shape.x1, shape.x2), min(shape.y1, shape.y2)
            yield Place(left, top, abs(shape.x2 - shape.x1) + 0.5, abs(shape.y2 - shape.y1) + 0.5)


def _across_places(wide: Equation, outer: QRectF, surface: Surface) -> Iterator[Chain]:
    """Below and above the box by turns, each further away."""
    for step in range(_FURTHEST):
        below, above = outer.bottom() + step * _STEP, outer.top() - step * _STEP
        yield chain_across(wide, outer.left(), below, surface.scale)
        yield chain_across(wide, outer.left(), above, surface.scale, over=True)


def _down_places(high: Equation, outer: QRectF, surface: Surface) -> Iterator[Chain]:
    """Right and left of the box by turns, each further away."""
    for step in range(_FURTHEST):
        right, left = outer.right() + step * _STEP, outer.left() - step * _STEP
        yield chain_down(high, outer.top(), right, surface.scale, highest=surface.ruler)
        yield chain_down(high, outer.top(), left, surface.scale, to_left=True, highest=surface.ruler)


def _note(equation: Equation, outer: QRectF, surface: Surface, taken: list[Place]) -> Note | None:
    """The fullest short form that has a place at an edge of the box."""
    for text in short_forms(equation):
        width = text_width(text, 11) + 6
        for x, y in _beside(outer, width, is_across=equation.axis == "across"):
            place = Place(x, y, width, _HIGH)
            if surface.is_free([place]) and not any(place.meets(other) for other in taken):
                return Note(text, place)
    return None


def _beside(outer: QRectF, width: float, *, is_across: bool) -> Iterator[tuple[float, float]]:
    """Upper left corners for a label at the edges of a box: along the edge that it measures, then the others."""
    level = (outer.bottom() + 3, outer.top() - _HIGH - 3)
    beside = (outer.right() + 4, outer.left() - width - 4)
    middle = outer.center()
    rows = [
        (x, y + way * step * _STEP)
        for step in range(4)
        for way, y in zip((1, -1), level, strict=True)
        for x in (middle.x() - width / 2, outer.left(), outer.right() - width)
    ]
    columns = [
        (x, y) for x in beside for y in (middle.y() - _HIGH / 2, outer.top(), outer.bottom() - _HIGH)
    ]
    yield from (*rows, *columns) if is_across else (*columns, *rows)
