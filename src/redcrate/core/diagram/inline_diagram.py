"""An inline element drawn line by line: its sides push, its top and bottom are painted and push nothing.

CSS 2.2 §10.3.1, §10.6.1 and §10.8: the line box is drawn behind each piece, with its height and its baseline.
"""

from redcrate.core.diagram.board import LEADER, SIZE, SMALL, Board
from redcrate.core.diagram.codes import Fill
from redcrate.core.diagram.drawing import Stroke
from redcrate.core.diagram.figure import Figure, run_of
from redcrate.core.diagram.label_places import Place
from redcrate.core.explain.across import inline_terms
from redcrate.core.explain.down import inline_terms_down
from redcrate.core.layout.fragments import InlinePiece, Line
from redcrate.core.page import ElementBox, Page
from redcrate.core.units import format_px

_WIDEST, _TALLEST = 500.0, 120.0
_SHOWN = 8  # lines
_BAND = Stroke("second_ink", 0.7, (6, 3))
_BASELINE = Stroke("ink", 0.9, (9, 3, 2, 3))
_BESIDE = 26.0  # how far the line box is drawn beyond the piece

OnLine = tuple[InlinePiece, Line]


def lines_of(box: ElementBox) -> list[OnLine]:
    """The pieces of an inline element with their lines."""
    return list(zip(box.pieces, box.lines, strict=True))


def rows_of_lines(
    board: Board,
    page: Page,
    box: ElementBox,
    lines: list[OnLine],
    *,
    to_scale: bool,
    names: bool,
    sums: bool,
) -> float | None:
    """Draw the lines one under another; returns the scale, None where widths are not to scale."""
    scale = None
    if to_scale:
        widest = max(p.width + abs(p.margin.left) + abs(p.margin.right) for p, _ in lines) / 64
        tallest = max(max(p.height, line.height) for p, line in lines) / 64
        scale = min(2.0, _WIDEST / max(1.0, widest), _TALLEST / max(1.0, tallest))
    y = 0.0
    for number, (piece, line) in enumerate(lines[:_SHOWN], 1):
        name = f"line {number} of {len(lines)}" if len(lines) > 1 else "its line"
        _Row(board, page, box, piece, line, scale).draw(y, name, names=names, sums=sums)
        y = board.bottom + 40
    if len(lines) > _SHOWN:
        board.text(0, y, f"and {len(lines) - _SHOWN} lines more", SIZE, colour="second_ink")
    return scale


class _Row:
    """One line: the line box, the piece, its baseline, and the chains."""

    def __init__(
        self,
        board: Board,
        page: Page,
        box: ElementBox,
        piece: InlinePiece,
        line: Line,
        scale: float | None,
    ) -> None:
        self.board = board
        self.page = page
        self.element = box.element
        self.piece = piece
        self.line = line
        self.scale = scale
        tallest = max(piece.height, line.height, line.y + line.height - piece.y, 64) / 64
        self.down_scale = scale or min(2.0, _TALLEST / tallest)

    def y(self, y: float, top: float) -> float:
        """A place of the fragment (1/64 px) on the board, for a piece or a line that begins at `top`."""
        return top + (y - min(self.piece.y, self.line.y)) / 64 * self.down_scale

    def draw(self, top: float, name: str, *, names: bool, sums: bool) -> None:
        """The row with its highest edge at `top`."""
        board, line = self.board, self.line
        wide = run_of(inline_terms(self.page, self.element, self.piece), 0.0, self.scale, down=False)
        high_terms = inline_terms_down(self.page, self.element, self.piece)
        high = run_of(high_terms, self.y(self.piece.y, top), self.down_scale, down=True)
        figure = Figure(board, self.element, wide, high)
        left, right = min(wide.edges) - _BESIDE, max(wide.edges) + _BESIDE
        start, end = self.y(line.y, top), self.y(line.y + line.height, top)
        baseline = self.y(line.baseline, top)
        with board.part("line-box"):
            board.area(Place(left, start, right - left, end - start), Fill.CONTENT, _BAND)
        figure.boxes(Fill.PAPER)
        with board.part("baseline"):
            board.line(left, baseline, right, baseline, _BASELINE)
        with board.part("content"):
            figure.content_label("")
        lowest = self._beside_left(left, start, end, baseline, name) if names else end
        beside = figure.chain_down(min(top, start), sums=sums, aside=_BESIDE + 16)
        if names and (pushes := self._pushes_nothing()):
            with board.part("pushes-nothing"):
                x = beside + 18
                for number, text in enumerate(pushes):
                    board.text(x, top + 12 + 14 * number, text, SMALL, colour="second_ink")
        figure.chain_across(max(lowest, max(high.edges), end, self._lowest_beside(top)), sums=sums)

    def _lowest_beside(self, top: float) -> float:
        """How far down the numbers beside the row reach."""
        return max((p.y + p.height for p in self.board.labels if p.y >= top), default=top)

    def _pushes_nothing(self) -> list[str]:
        """What of the element takes no room in the line."""
        parts = [p for p in ("padding", "border") if getattr(self.piece, p).down]
        rows = (
            [f"{' and '.join(parts)} above and below:", "painted, do not affect layout"] if parts else []
        )
        if self.piece.margin.down:
            rows += ["margins above and below:", "have no effect"]
        return rows

    def _beside_left(self, left: float, start: float, end: float, baseline: float, name: str) -> float:
        """The line's number, height and baseline left of it; returns how far down they reach."""
        board, x = self.board, left - 12
        with board.part("line-height"):
            board.line(x, start, x, end)
            for edge in (start, end):
                board.tick(x, edge, down=True)
            texts = (name, f"line height {format_px(self.line.height)}")
            middle = (start + end) / 2
            for number, text in enumerate(texts):
                shade = "second_ink" if number == 0 else "ink"
                board.text(x - 12, middle - 8 + 14 * number, text, SMALL, colour=shade, anchor="end")
            words = f"baseline {format_px(self.line.baseline - self.line.y)}"
            y = middle + 26
            board.text(x - 24, y, words, SMALL, colour="second_ink", anchor="end")
            board.line(x - 20, y - 4, x - 10, y - 4, LEADER)
            board.line(x - 10, y - 4, left, baseline, LEADER)
        return max(y + 4, end)
