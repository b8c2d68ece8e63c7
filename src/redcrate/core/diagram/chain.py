"""The chain of dimensions beside a selected box on the sheet, as shapes in px of the sheet."""

from redcrate.core.diagram.drawing import Label, Segment, Shape, Stroke
from redcrate.core.diagram.lettering import text_width
from redcrate.core.explain.terms import Equation, Term
from redcrate.core.units import format_px

_LETTERS = {"margin": ("m", "margin_ink"), "border": ("b", "border_ink"), "padding": ("p", "ink")}
_LINE = Stroke("ink", 1.0)
_EXTENSION = Stroke("second_ink", 0.8)
_ROW = 14.0


def chain_across(equation: Equation, left: float, y: float, scale: float) -> list[Shape]:
    """The widths below a box whose margin box begins at `left`; y is where extension lines start."""
    line_y = y + 26
    total_width = sum(t.used for t in equation.terms) / 64 * scale
    shapes: list[Shape] = [Segment(left, line_y, left + total_width, line_y, Stroke("ink", 0.6))]
    at = left
    edges = [left]
    small: list[tuple[Term, float]] = []
    for term in equation.terms:
        end = at + term.used / 64 * scale
        if term.part == "content":
            shapes += dimension_across(at, end, line_y, f"content {format_px(term.used)}")
        elif term.used:
            small.append((term, (at + end) / 2))
        at = end
        edges.append(at)
    for edge in sorted(set(edges)):
        shapes.append(Segment(edge, y + 4, edge, line_y + 5, _EXTENSION))
    bottom = line_y + 8 + _small_labels(small, line_y, shapes)
    start, end = _border_edges(equation, left, scale)
    total = sum(t.used for t in equation.terms if t.part != "margin")
    shapes += dimension_across(start, end, bottom + 16, f"border box {format_px(total)}", bold=True)
    return shapes


def _border_edges(equation: Equation, left: float, scale: float) -> tuple[float, float]:
    at = left
    start = end = left
    for term in equation.terms:
        width = term.used / 64 * scale
        if term.part == "margin" and term.side in ("left", "top"):
            start = at + width
        elif term.part != "margin":
            end = at + width
        at += width
    return start, end


def _small_labels(small: list[tuple[Term, float]], line_y: float, shapes: list[Shape]) -> float:
    """`p 36`, `m 16`, `b 3` in as many rows as keep them apart; returns the height used."""
    rows: list[float] = []
    for term, middle in small:
        letter, shade = _LETTERS[term.part]
        text = f"{letter} {format_px(term.used)}"
        half = text_width(text, 11) / 2
        row = next((i for i, end in enumerate(rows) if middle - half > end + 4), None)
        if row is None:
            rows.append(0.0)
            row = len(rows) - 1
        rows[row] = middle + half
        shapes.append(
            Label(middle, line_y + 18 + row * _ROW, text, 11, colour=shade, anchor="middle", back=True)
        )
    return len(rows) * _ROW


def dimension_across(
    start: float, end: float, y: float, text: str, *, bold: bool = False
) -> list[Shape]:
    """One dimension: a line with slanted ticks, and its text on it."""
    shapes: list[Shape] = [Segment(start, y, end, y, _LINE)]
    for x in (start, end):
        shapes.append(Segment(x - 3, y + 3, x + 3, y - 3, Stroke("ink", 1.4)))
    shapes.append(Label((start + end) / 2, y + 4, text, 11.5, bold=bold, anchor="middle", back=True))
    return shapes


def chain_down(equation: Equation, top: float, x: float, scale: float) -> list[Shape]:
    """The heights to the right of a box whose margin box begins at `top`."""
    shapes: list[Shape] = []
    at = top
    line_x = x + 16
    edges = [top]
    occupied = -1e9
    for term in equation.terms:
        end = at + term.used / 64 * scale
        if term.used:
            middle = max((at + end) / 2 + 4, occupied + 12)
            letter, shade = _LETTERS.get(term.part, ("", "ink"))
            text = f"{letter} {format_px(term.used)}".strip()
            shapes.append(Label(line_x + 8, middle, text, 11, colour=shade, back=True))
            if term.struck:
                width = text_width(text, 11)
                shapes.append(Segment(line_x + 6, middle - 4, line_x + 10 + width, middle - 4, _LINE))
            occupied = middle
        at = end
        edges.append(at)
    for edge in sorted(set(edges)):
        shapes.append(Segment(x + 4, edge, line_x + 5, edge, _EXTENSION))
        shapes.append(Segment(line_x - 3, edge + 3, line_x + 3, edge - 3, Stroke("ink", 1.4)))
    shapes.append(Segment(line_x, edges[0], line_x, edges[-1], Stroke("ink", 0.6)))
    return shapes
