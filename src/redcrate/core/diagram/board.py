"""The drawing board: what every drawing is put together on, in parts, with the places of its labels.

Lengths are px of the drawing. Nothing need stand right of or below 0 while it is drawn: the finished drawing is as
large as what is on it, with the same margin all round.
"""

from collections.abc import Iterator
from contextlib import contextmanager
from math import inf

from redcrate.core.diagram.codes import Fill
from redcrate.core.diagram.drawing import Area, Dot, Drawing, Label, Part, Segment, Shape, Stroke, moved
from redcrate.core.diagram.label_places import Place
from redcrate.core.diagram.lettering import label_place

THIN = Stroke("ink", 0.8)
TICK = Stroke("ink", 1.4)
EXTENSION = Stroke("second_ink", 0.7, (1.5, 2.5))
LEADER = Stroke("second_ink", 0.7)
SIZE, SMALL = 12.0, 10.5  # px of lettering
_MARGIN = 20.0


class Board:
    """Collects shapes in parts, and the places that labels take."""

    def __init__(self) -> None:
        self._parts: list[tuple[str, str, list[Shape]]] = []
        self.labels: list[Place] = []
        # How far what was drawn reaches.
        self.left = self.top = inf
        self.right = self.bottom = -inf

    @contextmanager
    def part(self, name: str, link: str = "") -> Iterator[None]:
        """What is drawn meanwhile belongs to that part."""
        self._parts.append((name, link, []))
        yield
        self._parts.append(("", "", []))

    def add(self, *shapes: Shape) -> None:
        """Put shapes on the board; of labels the places are kept."""
        if not self._parts:
            self._parts.append(("", "", []))
        self._parts[-1][2].extend(shapes)
        for shape in shapes:
            if isinstance(shape, Segment):
                self._reach(
                    min(shape.x1, shape.x2),
                    min(shape.y1, shape.y2),
                    max(shape.x1, shape.x2),
                    max(shape.y1, shape.y2),
                )
                continue
            place = place_of(shape)
            self._reach(place.x, place.y, place.x + place.width, place.y + place.height)
            if isinstance(shape, Label):
                self.labels.append(place)

    def _reach(self, left: float, top: float, right: float, bottom: float) -> None:
        self.left, self.top = min(self.left, left), min(self.top, top)
        self.right, self.bottom = max(self.right, right), max(self.bottom, bottom)

    def area(self, place: Place, fill: Fill | None, stroke: Stroke | None = None) -> None:
        """A rectangle."""
        self.add(Area(place.x, place.y, place.width, place.height, fill, stroke))

    def line(self, x1: float, y1: float, x2: float, y2: float, stroke: Stroke = THIN) -> None:
        """A straight line."""
        self.add(Segment(x1, y1, x2, y2, stroke))

    def dot(self, x: float, y: float) -> None:
        """The mark at the end of a leader."""
        self.add(Dot(x, y))

    def text(
        self,
        x: float,
        y: float,
        text: str,
        size: float = SIZE,
        *,
        anchor: str = "start",
        bold: bool = False,
        colour: str = "ink",
        back: bool = False,
    ) -> Place:
        """A label on a baseline; returns the place that it takes."""
        self.add(Label(x, y, text, size, bold=bold, colour=colour, anchor=anchor, back=back))
        return self.labels[-1]

    def tick(self, x: float, y: float, *, down: bool = False) -> None:
        """A drawing-office tick: a short slanted stroke over the end of a dimension."""
        self.line(x - 3, y + 3, x + 3, y - 3, TICK)
        if down:
            self.line(x - 6, y, x + 6, y)
        else:
            self.line(x, y - 6, x, y + 6)

    def dimension_across(
        self, start: float, end: float, y: float, text: str, *, bold: bool = False
    ) -> None:
        """A dimension line with its text on it, or behind its end where the line is too short for that."""
        self.line(start, y, end, y)
        self.tick(start, y)
        self.tick(end, y)
        label = Label(0, 0, text, SIZE, bold=bold)
        if label_place(label).width + 16 <= abs(end - start):
            self.text((start + end) / 2, y - 5, text, anchor="middle", bold=bold)
        else:
            self.text(max(start, end) + 10, y + 4, text, bold=bold)

    def parts(self, dx: float = 0.0, dy: float = 0.0) -> tuple[Part, ...]:
        """What was drawn, moved."""
        return tuple(Part(n, moved(s, dx, dy), link) for n, link, s in self._parts if s)

    def lay(self, other: "Board", prefix: str, dx: float, dy: float) -> None:
        """Lay another board's parts on this one, moved; their names get the prefix."""
        for part in other.parts(dx, dy):
            with self.part(f"{prefix}{part.name}", part.link):
                self.add(*part.shapes)

    def finish(self, title: str, description: str = "") -> Drawing:
        """The drawing: as large as what is on it."""
        width, height = self.right - self.left + 2 * _MARGIN, self.bottom - self.top + 2 * _MARGIN
        parts = self.parts(_MARGIN - self.left, _MARGIN - self.top)
        return Drawing(width, height, parts, title, description)


def place_of(shape: Shape) -> Place:
    """The room that a shape takes."""
    if isinstance(shape, Label):
        return label_place(shape)
    if isinstance(shape, Area):
        return Place(shape.x, shape.y, shape.width, shape.height)
    if isinstance(shape, Segment):
        x, y = min(shape.x1, shape.x2), min(shape.y1, shape.y2)
        return Place(x, y, abs(shape.x2 - shape.x1), abs(shape.y2 - shape.y1))
    r = shape.radius
    return Place(shape.x - r, shape.y - r, 2 * r, 2 * r)
