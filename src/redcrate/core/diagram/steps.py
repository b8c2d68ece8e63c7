"""The steps of a box: content, then padding, border and margin round it, then the other sizing mode.

A teaching series on one sheet: each step has its sum across and down.
"""

from collections.abc import Iterator

from redcrate.core.diagram.board import SIZE, Board
from redcrate.core.diagram.box_diagram import DiagramOptions, equations_of
from redcrate.core.diagram.drawing import Drawing
from redcrate.core.diagram.figure import PARTS, Figure, depth, run_of, scale_of
from redcrate.core.diagram.title_block import Sheet, finished
from redcrate.core.errors import RedCrateError
from redcrate.core.explain import Equation, Term
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.records import dataclass
from redcrate.core.units import ZERO, format_px

_ACROSS = 3  # figures beside each other
_GAP = 56.0
_NAMES = {"content": "content", "padding": "padding box", "border": "border box", "margin": "margin box"}


class NoSteps(RedCrateError):
    """The element has no box whose parts could be shown one by one."""


@dataclass(frozen=True, slots=True)
class _Step:
    """One figure of the series: its parts from `part` inwards."""

    caption: str
    part: str
    equations: tuple[Equation, Equation]
    sized: str  # the part that width and height mean


def steps(
    page: Page,
    element: Element,
    other: tuple[Page, Element] | None = None,
    options: DiagramOptions | None = None,
) -> Drawing:
    """The sheet of an element's steps. Raises NoSteps for one without a box of its own.

    other: the page on which the element has the other sizing mode, and the element there.
    """
    options = options or DiagramOptions()
    box, equations = page.box_of(element), equations_of(page, element)
    if box is None or box.box is None or equations is None:
        raise NoSteps(
            f"{element.label} has no box of its own to add up.",
            remedy="Choose a block, an inline-block or a float.",
        )
    series = list(_series(page, element, equations))
    if other is not None and (there := equations_of(*other)) is not None:
        mode = other[0].style_of(other[1]).box_sizing
        series.append(_Step(f"the same values with {mode}", "margin", there, _sized(mode)))
    scale = scale_of(*(s.equations for s in series)) if options.to_scale else None
    board = Board()
    _lay_out(board, [_figure(element, s, n, scale) for n, s in enumerate(series, 1)])
    sheet = Sheet(page, options.page_name, "step by step", scale, options.title)
    words = "; ".join(step.caption for step in series)
    return finished(board, element.label, sheet, f"The box of {element.label}, step by step", words)


def _series(page: Page, element: Element, equations: tuple[Equation, Equation]) -> Iterator[_Step]:
    """A step for each part that takes room, the content first."""
    mode = page.style_of(element).box_sizing
    sized = _sized(mode)
    yield _Step(f"content ({mode})", "content", equations, sized)
    for part in reversed(PARTS[:-1]):
        if any(t.used for equation in equations for t in equation.terms if t.part == part):
            yield _Step(f"+ {part}", part, equations, sized)


def _sized(mode: str) -> str:
    """The part that a written width means: CSS Sizing 3 §3.3."""
    return "border" if mode == "border-box" else "content"


def _figure(element: Element, step: _Step, number: int, scale: float | None) -> Board:
    """A board with one step: caption, figure, chains, sums."""
    board = Board()
    wide, high = (_inside(e, step.part) for e in step.equations)
    figure = Figure(
        board, element, run_of(wide, 0.0, scale, down=False), run_of(high, 0.0, scale, down=True)
    )
    figure.boxes()
    with board.part("content"):
        figure.content_label("content")
    top = min(figure.place(step.part).y, figure.place("content").y)
    figure.chain_down(top - 6, sums=False)
    figure.chain_across(board.bottom, sums=False)
    y, left = board.bottom + 30, board.left
    with board.part("sums"):
        for words in _sums(step, wide, high):
            board.text(left, y, words, SIZE)
            y += 18
    with board.part("caption"):
        board.text(left, board.top - 18, f"{number}  {step.caption}", 14, bold=True)
    return board


def _inside(equation: Equation, part: str) -> tuple[Term, ...]:
    return tuple(t for t in equation.terms if depth(t.part) >= depth(part))


def _sums(step: _Step, wide: tuple[Term, ...], high: tuple[Term, ...]) -> Iterator[str]:
    """`across: 36 + 640 + 52 = padding box 728`; of the last figure also the box that `width` means."""
    for name, terms in (("across", wide), ("down", high)):
        if step.sized == "border" and step.part == "margin":
            yield _sum(name, "border", tuple(t for t in terms if t.part != "margin"), step.sized)
        yield _sum(name, step.part, terms, step.sized)


def _sum(axis: str, part: str, terms: tuple[Term, ...], sized: str) -> str:
    total = format_px(sum((t.used for t in terms), ZERO))
    shown = [format_px(t.used) for t in terms if t.used or t.part == "content"]
    added = f"{' + '.join(n if n[0] != '-' else f'({n})' for n in shown)} = " if len(shown) > 1 else ""
    content = next(t for t in terms if t.part == "content")
    means = f" = {content.longhand}" if part == sized and content.written not in ("", "auto") else ""
    return f"{axis}: {added}{_NAMES[part]} {total}{means}"


def _lay_out(board: Board, figures: list[Board]) -> None:
    """The figures in rows from left to right, each row as high as its tallest."""
    widest = max(f.right - f.left for f in figures)
    y = 0.0
    for start in range(0, len(figures), _ACROSS):
        row = figures[start : start + _ACROSS]
        for column, figure in enumerate(row):
            x = column * (widest + _GAP)
            board.lay(figure, f"step-{start + column + 1}-", x - figure.left, y - figure.top)
        y = board.bottom + _GAP
