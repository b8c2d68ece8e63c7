"""A drawing as plain values, and the protocol that paints it.

Lengths are px of the drawing. `paint` sends the shapes of a drawing to any painter in order; the
painters are thin: an SVG writer, a recorder for tests, and the window's.
"""

from collections.abc import Sequence
from typing import Protocol, TypeAlias

from redcrate.core.diagram.codes import Fill
from redcrate.core.records import dataclass


@dataclass(frozen=True, slots=True)
class Stroke:
    """A line's colour (a name of the palette), width and dashes in px."""

    colour: str = "ink"
    width: float = 1.0
    dashes: tuple[float, ...] = ()


@dataclass(frozen=True, slots=True)
class Area:
    """A rectangle; without a fill only its outline, without a stroke only its surface."""

    x: float
    y: float
    width: float
    height: float
    fill: Fill | None = None
    stroke: Stroke | None = None


@dataclass(frozen=True, slots=True)
class Segment:
    """A straight line."""

    x1: float
    y1: float
    x2: float
    y2: float
    stroke: Stroke = Stroke()


@dataclass(frozen=True, slots=True)
class Dot:
    """A filled round mark."""

    x: float
    y: float
    radius: float = 2.0


@dataclass(frozen=True, slots=True)
class Label:
    """Text on a baseline. anchor: "start", "middle" or "end". back: whether paper lies behind it."""

    x: float
    y: float
    text: str
    size: float = 12.0
    bold: bool = False
    colour: str = "ink"
    anchor: str = "start"
    back: bool = False


Shape: TypeAlias = Area | Segment | Dot | Label


@dataclass(frozen=True, slots=True)
class Part:
    """Shapes that belong together. name: as in `chain-across`; link: where a click leads, "" for nowhere."""

    name: str
    shapes: tuple[Shape, ...]
    link: str = ""


@dataclass(frozen=True, slots=True)
class Drawing:
    """A finished drawing. title names it, description tells its numbers, for those who cannot see it."""

    width: float
    height: float
    parts: tuple[Part, ...]
    title: str
    description: str = ""

    @property
    def shapes(self) -> tuple[Shape, ...]:
        """The shapes of all parts, in order."""
        return tuple(shape for part in self.parts for shape in part.shapes)


def moved(shapes: Sequence[Shape], dx: float, dy: float) -> tuple[Shape, ...]:
    """The shapes in another place."""
    return tuple(_moved(shape, dx, dy) for shape in shapes)


def _moved(shape: Shape, dx: float, dy: float) -> Shape:
    if isinstance(shape, Segment):
        return Segment(shape.x1 + dx, shape.y1 + dy, shape.x2 + dx, shape.y2 + dy, shape.stroke)
    if isinstance(shape, Label):
        s = shape
        return Label(s.x + dx, s.y + dy, s.text, s.size, s.bold, s.colour, s.anchor, s.back)
    if isinstance(shape, Area):
        return Area(shape.x + dx, shape.y + dy, shape.width, shape.height, shape.fill, shape.stroke)
    return Dot(shape.x + dx, shape.y + dy, shape.radius)


class Painter(Protocol):
    """An end that shapes are painted on."""

    def area(self, shape: Area) -> None:
        """Paint a rectangle."""
        ...

    def segment(self, shape: Segment) -> None:
        """Paint a line."""
        ...

    def dot(self, shape: Dot) -> None:
        """Paint a mark."""
        ...

    def label(self, shape: Label) -> None:
        """Paint text."""
        ...


def paint(drawing: Drawing, painter: Painter) -> None:
    """Paint all shapes in order."""
    for part in drawing.parts:
        paint_part(part, painter)


def paint_part(part: Part, painter: Painter) -> None:
    """Paint the shapes of one part."""
    for shape in part.shapes:
        if isinstance(shape, Area):
            painter.area(shape)
        elif isinstance(shape, Segment):
            painter.segment(shape)
        elif isinstance(shape, Dot):
            painter.dot(shape)
        else:
            painter.label(shape)


class Recorder:
    """A painter that writes down what it was sent, one line a shape."""

    def __init__(self) -> None:
        self.lines: list[str] = []

    def area(self, shape: Area) -> None:
        """Record a rectangle."""
        fill = shape.fill.value if shape.fill else "-"
        self.lines.append(f"area {fill} {shape.x:g},{shape.y:g} {shape.width:g}x{shape.height:g}")

    def segment(self, shape: Segment) -> None:
        """Record a line."""
        self.lines.append(f"line {shape.x1:g},{shape.y1:g} {shape.x2:g},{shape.y2:g}")

    def dot(self, shape: Dot) -> None:
        """Record a mark."""
        self.lines.append(f"dot {shape.x:g},{shape.y:g}")

    def label(self, shape: Label) -> None:
        """Record text."""
        self.lines.append(f"text {shape.text}")
