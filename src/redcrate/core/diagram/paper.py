"""Drawings on sheets of paper: one or several a page, as large as they fit. Lengths of paper are pt (1/72 inch)."""

from collections.abc import Sequence

from redcrate.core.diagram.drawing import Drawing
from redcrate.core.records import dataclass

PT_PER_PX = 0.75  # CSS Values 4 §6.2
_MARGIN, _GAP, _FOOT = 34.0, 16.0, 14.0
MOST_ON_A_PAGE = 24


@dataclass(frozen=True, slots=True)
class Paper:
    """A format of paper, upright; ISO 216 for the A formats."""

    width: float
    height: float


PAPERS = {"a4": Paper(595.28, 841.89), "a3": Paper(841.89, 1190.55), "letter": Paper(612.0, 792.0)}


@dataclass(frozen=True, slots=True)
class Cell:
    """Where a drawing stands on its page; scale: pt for one px of it."""

    number: int
    x: float
    y: float
    scale: float


@dataclass(frozen=True, slots=True)
class PaperPage:
    """One page; foot: the baseline of its number, None on a page that is as large as its drawing."""

    width: float
    height: float
    cells: tuple[Cell, ...]
    foot: float | None = None


def pages_to_fit(drawings: Sequence[Drawing]) -> list[PaperPage]:
    """A page for each drawing, as large as that."""
    return [
        PaperPage(d.width * PT_PER_PX, d.height * PT_PER_PX, (Cell(n, 0.0, 0.0, PT_PER_PX),))
        for n, d in enumerate(drawings)
    ]


def pages_of(drawings: Sequence[Drawing], paper: Paper, each: int) -> list[PaperPage]:
    """Pages of `paper` with `each` drawings, upright or lying, in the columns that let them be largest."""
    best = max(_ways(paper, each), key=lambda way: _size(drawings, *way))
    width, height, columns, rows = best
    wide, high = _room(width, height, columns, rows)
    pages = []
    for first in range(0, len(drawings), each):
        cells = []
        for place, drawing in enumerate(drawings[first : first + each]):
            row, column = divmod(place, columns)
            scale = _scale(drawing, wide, high)
            x = _MARGIN + column * (wide + _GAP) + (wide - drawing.width * scale) / 2
            y = _MARGIN + row * (high + _GAP) + (high - drawing.height * scale) / 2
            cells.append(Cell(first + place, x, y, scale))
        pages.append(PaperPage(width, height, tuple(cells), height - _MARGIN + _FOOT))
    return pages


def _ways(paper: Paper, each: int) -> list[tuple[float, float, int, int]]:
    """Page width and height, columns and rows: upright first."""
    return [
        (width, height, columns, -(-each // columns))
        for width, height in ((paper.width, paper.height), (paper.height, paper.width))
        for columns in range(1, each + 1)
    ]


def _room(width: float, height: float, columns: int, rows: int) -> tuple[float, float]:
    """What a cell has."""
    return (
        (width - 2 * _MARGIN - _GAP * (columns - 1)) / columns,
        (height - 2 * _MARGIN - _GAP * (rows - 1)) / rows,
    )


def _scale(drawing: Drawing, wide: float, high: float) -> float:
    return min(PT_PER_PX, wide / drawing.width, high / drawing.height)


def _size(drawings: Sequence[Drawing], width: float, height: float, columns: int, rows: int) -> float:
    """How large the drawings come out, all together."""
    wide, high = _room(width, height, columns, rows)
    return sum(_scale(d, wide, high) for d in drawings) if min(wide, high) > 0 else -1.0
