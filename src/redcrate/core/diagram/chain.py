"""The chains of dimensions beside a selected box on the sheet, as shapes in px of the sheet.

Its labels are in one row, pushed apart where their terms are too thin for them, each with a leader line to its
term: no two labels overlap. Where there is no place for a chain, short forms of its sum are for one label.
"""

from redcrate.core.diagram.drawing import Label, Segment, Shape, Stroke
from redcrate.core.diagram.label_places import Place, spread
from redcrate.core.diagram.lettering import text_width
from redcrate.core.explain.terms import Equation, Term
from redcrate.core.records import dataclass
from redcrate.core.units import ZERO, format_px

_LETTERS = {"margin": ("m", "margin_ink"), "border": ("b", "border_ink"), "padding": ("p", "ink")}
_LINE = Stroke("ink", 1.0)
_THIN = Stroke("ink", 0.6)
_EXTENSION = Stroke("second_ink", 0.8)
_LEADER = Stroke("second_ink", 0.7)
_SIZE = 11.0
_GAP = 7.0
_ASIDE = 4.0  # from the box to the strip
_TO_LINE = 14.0  # from the box to the dimension line
_TO_ROW = 19.0  # from the line to the baseline of the labels below it
_TO_SUM = 34.0  # from the line to that of the border box
_LETTER_HEIGHT = 14.0


@dataclass(frozen=True, slots=True)
class Chain:
    """A chain: the strip around all of it, its shapes, and the places of its labels and dimension lines."""

    strip: Place
    shapes: tuple[Shape, ...]
    labels: tuple[Place, ...]
    lines: tuple[Place, ...]


@dataclass(frozen=True, slots=True)
class _Span:
    """One term with where it begins and ends along the chain."""

    term: Term
    start: float
    end: float

    @property
    def middle(self) -> float:
        """Halfway."""
        return (self.start + self.end) / 2


def _spans(equation: Equation, start: float, scale: float) -> list[_Span]:
    found, at = [], start
    for term in equation.terms:
        end = at + term.used / 64 * scale
        found.append(_Span(term, at, end))
        at = end
    return found


def _text(term: Term) -> str:
    letter = _LETTERS.get(term.part, ("content", ""))[0]
    return f"{letter} {format_px(term.used)}"


def _shade(term: Term) -> str:
    return _LETTERS.get(term.part, ("", "ink"))[1]


def chain_across(
    equation: Equation,
    left: float,
    y: float,
    scale: float,
    *,
    over: bool = False,
) -> Chain:
    """The widths below a box whose margin box begins at `left`; y is its lower edge.

    over: above the box instead; y is its upper edge then.
    """
    way = -1 if over else 1
    line_y = y + way * _TO_LINE
    spans = _spans(equation, left, scale)
    work = _Work()
    small: list[_Span] = []
    for span in spans:
        fits = text_width(_text(span.term), 11.5) + 20 <= span.end - span.start
        if span.term.part == "content" and fits:
            work.line(spans[0].start, line_y, span.start, line_y, _THIN)
            work.line(span.end, line_y, spans[-1].end, line_y, _THIN)
            work.dimension(span.start, span.end, line_y, _text(span.term))
        elif span.term.used or span.term.part == "content":
            small.append(span)
    if any(s.term.part == "content" for s in small):
        work.line(spans[0].start, line_y, spans[-1].end, line_y, _THIN)
    for edge in sorted({spans[0].start, *(s.end for s in spans)}):
        work.line(edge, line_y - way * (_TO_LINE - _ASIDE), edge, line_y + way * 4, _EXTENSION)
    work.row(small, line_y, way)
    own = [s for s in spans if s.term.part != "margin"]
    total = sum((s.term.used for s in own), ZERO)
    work.dimension(
        own[0].start, own[-1].end, line_y + way * _TO_SUM, f"border box {format_px(total)}", bold=True
    )
    return work.done()


def short_forms(equation: Equation) -> tuple[str, ...]:
    """What one label can say of an equation, the fullest first: all terms, the two sums, the sum of the border box."""
    terms = [t for t in equation.terms if t.used or t.part == "content"]
    content = next(format_px(t.used) for t in terms if t.part == "content")
    own = sum((t.used for t in terms if t.part != "margin"), ZERO)
    name = "width" if equation.axis == "across" else "height"
    every = " · ".join(_text(t).removeprefix("content ") for t in terms)
    return f"{name}: {every}", f"{name}: content {content} · border box {format_px(own)}", format_px(own)


def chain_down(
    equation: Equation,
    top: float,
    x: float,
    scale: float,
    *,
    to_left: bool = False,
    highest: float = -1e9,
) -> Chain:
    """The heights to the right (or left) of a box whose margin box begins at `top`; x is its edge.

    highest: where the first label may stand.
    """
    way = -1 if to_left else 1
    line_x = x + way * _TO_LINE
    spans = _spans(equation, top, scale)
    work = _Work()
    work.line(line_x, spans[0].start, line_x, spans[-1].end, _THIN)
    for edge in sorted({spans[0].start, *(s.end for s in spans)}):
        work.line(x + way * _ASIDE, edge, line_x + way * 4, edge, _EXTENSION)
        work.line(line_x - 3, edge + 3, line_x + 3, edge - 3, Stroke("ink", 1.4))
    shown = [s for s in spans if s.term.used or s.term.part == "content"]
    shown.sort(key=lambda s: s.middle)
    middles = spread([s.middle for s in shown], [_LETTER_HEIGHT] * len(shown), 1.0)
    lowered = max(0.0, highest + _LETTER_HEIGHT - middles[0]) if middles else 0.0
    for span, wanted in zip(shown, middles, strict=True):
        middle = wanted + lowered
        text = _text(span.term).removeprefix("content ")
        label_x = line_x + way * 12
        if abs(middle - span.middle) > 2:
            work.line(line_x + way * 2, span.middle, label_x - way * 2, middle, _LEADER)
        work.text(label_x, middle + 4, text, _shade(span.term), "end" if to_left else "start")
        if span.term.struck:
            end = label_x + way * text_width(text, _SIZE)
            work.line(label_x - way * 2, middle, end + way * 2, middle, _LINE)
    return work.done()


class _Work:
    """Collects the shapes of one chain and the places of its labels."""

    def __init__(self) -> None:
        self.shapes: list[Shape] = []
        self.labels: list[Place] = []

    def line(self, x1: float, y1: float, x2: float, y2: float, stroke: Stroke) -> None:
        """A straight line."""
        self.shapes.append(Segment(x1, y1, x2, y2, stroke))

    def text(
        self,
        x: float,
        y: float,
        text: str,
        shade: str = "ink",
        anchor: str = "middle",
        size: float = _SIZE,
        *,
        bold: bool = False,
    ) -> None:
        """A label on a baseline; its place is kept."""
        width = text_width(text, size, bold=bold)
        start = x - {"start": 0.0, "middle": width / 2, "end": width}[anchor]
        self.shapes.append(Label(x, y, text, size, bold=bold, colour=shade, anchor=anchor, back=True))
        self.labels.append(Place(start - 2, y - 10, width + 4, 13))

    def dimension(self, start: float, end: float, y: float, text: str, *, bold: bool = False) -> None:
        """A line with slanted ticks and its text on it, or beside it where the line is too short."""
        for x in (start, end):
            self.line(x - 3, y + 3, x + 3, y - 3, Stroke("ink", 1.4))
        width, middle = text_width(text, 11.5, bold=bold), (start + end) / 2
        if width + 20 <= end - start:
            self.line(start, y, middle - width / 2 - 3, y, _LINE)
            self.line(middle + width / 2 + 3, y, end, y, _LINE)
            self.text(middle, y + 4, text, size=11.5, bold=bold)
        else:
            self.line(start, y, end, y, _LINE)
            self.text(end + 8, y + 4, text, anchor="start", size=11.5, bold=bold)

    def row(self, spans: list[_Span], line_y: float, way: int) -> None:
        """The small terms in one row below the line (way 1) or above it (-1), each with a leader line to its middle."""
        spans = sorted(spans, key=lambda s: s.middle)
        widths = [text_width(_text(s.term), _SIZE) + 4 for s in spans]
        for span, x in zip(spans, spread([s.middle for s in spans], widths, _GAP - 4), strict=True):
            baseline = line_y + _TO_ROW if way > 0 else line_y - _TO_ROW + 9
            self.line(span.middle, line_y + way, x, line_y + way * (_TO_ROW - 11), _LEADER)
            self.text(x, baseline, _text(span.term), _shade(span.term))

    def done(self) -> Chain:
        """The chain with the strip around all of it."""
        lines = [s for s in self.shapes if isinstance(s, Segment)]
        left = min([p.x for p in self.labels] + [min(s.x1, s.x2) for s in lines]) - 4
        right = max([p.x + p.width for p in self.labels] + [max(s.x1, s.x2) for s in lines]) + 4
        top = min([p.y for p in self.labels] + [min(s.y1, s.y2) for s in lines]) - 2
        bottom = max([p.y + p.height for p in self.labels] + [max(s.y1, s.y2) for s in lines]) + 3
        dimensions = [s for s in lines if s.stroke in (_LINE, _THIN)]
        return Chain(
            Place(left, top, right - left, bottom - top),
            tuple(self.shapes),
            tuple(self.labels),
            tuple(
                Place(
                    min(s.x1, s.x2) - 2, min(s.y1, s.y2) - 2, abs(s.x2 - s.x1) + 4, abs(s.y2 - s.y1) + 4
                )
                for s in dimensions
            ),
        )
