"""The figure of a box: its parts nested, a chain of numbers across and down, and the sums.

Every number is a term of the explanation's equations or a sum of them, so the figure cannot disagree with them.
"""

from collections.abc import Iterator, Mapping
from dataclasses import field

from redcrate.core.diagram.board import EXTENSION, LEADER, SIZE, SMALL, THIN, Board
from redcrate.core.diagram.codes import Fill
from redcrate.core.diagram.drawing import Stroke
from redcrate.core.diagram.label_places import Place, spread
from redcrate.core.diagram.lettering import text_width
from redcrate.core.explain import Equation, Term
from redcrate.core.markup.elements import Element
from redcrate.core.records import dataclass
from redcrate.core.units import ZERO, LayoutUnit, format_px

PARTS = ("margin", "border", "padding", "content")  # from outside
FILLS = {"margin": Fill.MARGIN, "border": Fill.BORDER, "padding": Fill.PADDING}
_CONTENT = (280.0, 120.0)  # drawn size of a content box that is not to scale
_WIDEST, _TALLEST = 500.0, 300.0  # of a margin box to scale
_LARGEST_SCALE = 4.0
_STRUCK = Stroke("ink", 1.2)
_NEGATIVE = Stroke("margin_ink", 1.2, (5, 3))
_ROW = 28.0  # from one dimension line to the next
_LINE_HEIGHT = 14.0

_DEPTHS = {part: number for number, part in enumerate(PARTS)}
Key = tuple[str, str]  # part and side of a term


def depth(part: str) -> int:
    """How far inside a part lies."""
    return _DEPTHS[part]


@dataclass(frozen=True, slots=True)
class Run:
    """One axis of a figure.

    edges: where the terms meet on the drawing, one more than there are terms. earlier: amounts at another time, to
    be told beside those that changed. marks: what is said behind the sums, by part: `= width`.
    """

    terms: tuple[Term, ...]
    edges: tuple[float, ...]
    earlier: Mapping[Key, LayoutUnit] = field(default_factory=dict)
    marks: Mapping[str, str] = field(default_factory=dict)

    def outer(self, part: str) -> tuple[float, float]:
        """The drawn outer edges of the margin, border, padding or content box."""
        inside = [n for n, t in enumerate(self.terms) if depth(t.part) >= depth(part)]
        return self.edges[inside[0]], self.edges[inside[-1] + 1]

    def has(self, part: str) -> bool:
        """Whether a part takes room on either side."""
        return any(t.used for t in self.terms if t.part == part)

    def spans(self) -> Iterator[tuple[Term, float, float]]:
        """Each term with its drawn edges."""
        yield from zip(self.terms, self.edges, self.edges[1:], strict=False)

    def number(self, term: Term) -> str:
        """A term's amount, and by how much it changed."""
        return _changed(term.used, self.earlier.get((term.part, term.side), term.used))

    def has_changed(self, term: Term) -> bool:
        """Whether a term's amount is another one than it was."""
        return self.earlier.get((term.part, term.side), term.used) != term.used

    def total(self, part: str) -> str:
        """The size of one of the boxes, and by how much it changed."""
        inside = [t for t in self.terms if depth(t.part) >= depth(part)]
        now = sum((t.used for t in inside), ZERO)
        before = sum((self.earlier.get((t.part, t.side), t.used) for t in inside), ZERO)
        return _changed(now, before)


def _changed(now: LayoutUnit, before: LayoutUnit) -> str:
    if now == before:
        return format_px(now)
    return f"{format_px(now)} ({'+' if now > before else ''}{format_px(now - before)})"


def scale_of(*equations: tuple[Equation, Equation]) -> float:
    """The largest scale at which all boxes (across and down) fit the sheet."""
    wide = max(_extent(across) for across, _ in equations)
    high = max(_extent(down) for _, down in equations)
    return min(_LARGEST_SCALE, _WIDEST / max(1.0, wide), _TALLEST / max(1.0, high))


def _extent(equation: Equation) -> float:
    return sum(abs(t.used) for t in equation.terms) / 64


def run_of(
    terms: tuple[Term, ...],
    start: float,
    scale: float | None,
    *,
    down: bool,
    earlier: Mapping[Key, LayoutUnit] | None = None,
    marks: Mapping[str, str] | None = None,
) -> Run:
    """The axis that begins at `start`. scale: None where thin parts are widened so that labels fit."""
    edges = [start]
    for term in terms:
        edges.append(edges[-1] + _length(term, scale, down=down))
    return Run(terms, tuple(edges), earlier or {}, marks or {})


def _length(term: Term, scale: float | None, *, down: bool) -> float:
    """The drawn length of a term; below 0 for a negative margin."""
    used = term.used / 64
    if scale is not None:
        return used * scale
    if term.part == "content":
        return _CONTENT[down]
    if used < 0:
        return -14.0 - min(10.0, -used / 4)
    if used == 0:
        return 0.0
    return 9.0 + min(9.0, used) if term.part == "border" else 30.0 + min(30.0, used / 2)


class Figure:
    """Draws one box on a board: parts first, then the chains, which stand clear of what is there already."""

    def __init__(self, board: Board, element: Element, wide: Run, high: Run) -> None:
        self.board = board
        self.element = element
        self.wide = wide
        self.high = high

    def place(self, part: str) -> Place:
        """Where a box is drawn."""
        (x1, x2), (y1, y2) = self.wide.outer(part), self.high.outer(part)
        return Place(min(x1, x2), min(y1, y2), abs(x2 - x1), abs(y2 - y1))

    # -- the box

    def boxes(self, content: Fill = Fill.CONTENT) -> None:
        """The nested rectangles; negative margins as dashed lines with a minus over them."""
        reached = {t.part for t in self.wide.terms}
        with self.board.part("boxes"):
            for part, fill in FILLS.items():
                if part in reached and (self.wide.has(part) or self.high.has(part)):
                    dashed = Stroke("second_ink", 0.8, (4, 3)) if part == "margin" else None
                    self.board.area(self.place(part), fill, dashed)
            self.board.area(self.place("content"), content, THIN)
            for run in (self.wide, self.high):
                for term, start, end in run.spans():
                    if term.used < 0:
                        self._negative(start if term.side in ("left", "top") else end, run is self.high)

    def _negative(self, at: float, down: bool) -> None:
        """The edge of a negative margin, over the box that it lies in."""
        border = self.place("border")
        if down:
            self.board.line(border.x, at, border.x + border.width, at, _NEGATIVE)
            x, y = border.x + border.width * 0.8, at
        else:
            self.board.line(at, border.y, at, border.y + border.height, _NEGATIVE)
            x, y = at, border.y + border.height * 0.2
        self.board.area(Place(x - 6, y - 6, 12, 12), Fill.PAPER, Stroke("margin_ink", 1.0))
        self.board.line(x - 3.5, y, x + 3.5, y, Stroke("margin_ink", 1.4))

    def content_label(self, name: str, below: str = "", *, back: bool = False) -> bool:
        """Name and size in the middle of the content box, if there is room; whether there is.

        back: on paper, as something is drawn behind it.
        """
        at = self.place("content")
        width, height = (next(t for t in r.terms if t.part == "content") for r in (self.wide, self.high))
        size = f"{format_px(width.used)} × {format_px(height.used)}"
        letters = 18.0 if text_width(size, 18, bold=True) + 12 <= at.width else SIZE
        if text_width(size, letters, bold=True) + 8 > at.width or at.height < letters + 6:
            return False
        x, y = at.x + at.width / 2, at.y + at.height / 2
        rows = [r for r in ((name, 13.0), (below, SMALL)) if r[0]]
        fits = all(text_width(t, s) + 8 <= at.width for t, s in rows)
        if not fits or at.height < letters + 36:
            self.board.text(x, y + letters * 0.35, size, letters, bold=True, anchor="middle", back=back)
            return not rows
        self.board.text(x, y - 10, name, 13, colour="second_ink", anchor="middle", back=back)
        self.board.text(x, y + 10, size, letters, bold=True, anchor="middle", back=back)
        if below:
            self.board.text(x, y + 27, below, SMALL, colour="second_ink", anchor="middle", back=back)
        return True

    # -- down

    def chain_down(self, highest: float, *, sums: bool, aside: float = 24.0) -> float:
        """The heights right of the box, then the boxes' sums; no label stands above `highest`.

        aside: how far from the box. Returns where the words end.
        """
        outer = self.place(self.high.terms[0].part)
        x = max(outer.x + outer.width, self.place("border").x + self.place("border").width) + aside
        with self.board.part("chain-down"):
            right = self._heights(x, highest)
            for edge in sorted({*self.high.edges}):
                self.board.tick(x, edge, down=True)
                self.board.line(outer.x + outer.width + 4, edge, x - 8, edge, EXTENSION)
        for alike in _sums(self.high) if sums else ():
            with self.board.part(f"{alike[-1]}-box-down"):
                right = self._sum_down(alike, right + 22, highest)
        return right

    def _heights(self, x: float, highest: float) -> float:
        """The line with a number beside each term; returns where the longest number ends."""
        board, shown = self.board, [s for s in self.high.spans() if s[0].used or s[0].part == "content"]
        board.line(x, min(self.high.edges), x, max(self.high.edges))
        shown.sort(key=lambda s: s[1] + s[2])
        wanted = [(start + end) / 2 for _, start, end in shown]
        middles = spread(wanted, [_LINE_HEIGHT] * len(shown), 1.0)
        lowered = max(0.0, highest + _LINE_HEIGHT / 2 - middles[0]) if middles else 0.0
        right = x
        for (term, *_), middle, own in zip(shown, middles, wanted, strict=True):
            at = middle + lowered
            if abs(at - own) > 2:
                board.line(x + 3, own, x + 10, at, LEADER)
            place = board.text(x + 12, at + 4, self.high.number(term), bold=self.high.has_changed(term))
            if term.struck:
                board.line(place.x - 2, at, place.x + place.width + 2, at, _STRUCK)
            right = max(right, place.x + place.width)
        return right

    def _sum_down(self, alike: tuple[str, ...], x: float, highest: float) -> float:
        """One vertical dimension with its words beside it; returns where they end."""
        start, end = self.high.outer(alike[0])
        self.board.line(x, start, x, end)
        for edge in (start, end):
            self.board.tick(x, edge, down=True)
        names = [*(f"{p}," for p in alike[:-2]), *(f"{p} and" for p in alike[-2:-1]), f"{alike[-1]} box"]
        rows = [*names, self.high.total(alike[0]), *_marks(self.high, alike)]
        y = max((start + end) / 2 - _LINE_HEIGHT * len(rows) / 2, highest)
        right = x
        for number, text in enumerate(rows):
            y += _LINE_HEIGHT
            if number == len(names):
                place = self.board.text(x + 10, y - 3, text, bold="border" in alike)
            else:
                place = self.board.text(x + 10, y - 3, text, SMALL, colour="second_ink")
            right = max(right, place.x + place.width)
        return right

    # -- across

    def chain_across(self, top: float, *, sums: bool) -> None:
        """The widths below the box, then the sums; all stands below `top`."""
        shown = [s for s in self.wide.spans() if s[0].used or s[0].part == "content"]
        shown.sort(key=lambda s: s[1] + s[2])
        texts = [self._in_row(term) for term, *_ in shown]
        wanted = [(start + end) / 2 for _, start, end in shown]
        middles = spread(wanted, [text_width(t, SIZE, bold=True) for t in texts], 6.0)
        crowded = any(abs(m - w) > 1.5 for m, w in zip(middles, wanted, strict=True))
        y = top + (46 if crowded else 30)
        lines = {alike: y + _ROW * (n + 1) for n, alike in enumerate(_sums(self.wide) if sums else ())}
        self._extensions(y, lines)
        with self.board.part("chain-across"):
            self.board.line(min(self.wide.edges), y, max(self.wide.edges), y)
            for (term, *_), text, x, own in zip(shown, texts, middles, wanted, strict=True):
                at = y - (26 if crowded else 9)
                self.board.text(
                    x, at, text, anchor="middle", back=True, bold=self.wide.has_changed(term)
                )
                if crowded and abs(x - own) > 1.5:
                    self.board.line(own, y - 2, x, at + 4, LEADER)
            for edge in sorted({*self.wide.edges}):
                self.board.tick(edge, y)
        for alike, at in lines.items():
            with self.board.part(f"{alike[-1]}-box-across"):
                start, end = self.wide.outer(alike[0])
                marks = _marks(self.wide, alike)
                text = " ".join((f"{_together(alike)} box", self.wide.total(alike[0]), *marks))
                ends = min(start, end), max(start, end)
                self.board.dimension_across(*ends, at, text, bold="border" in alike)

    def _in_row(self, term: Term) -> str:
        mark = self.wide.marks.get("content", "") if term.part == "content" else ""
        return f"{self.wide.number(term)} {mark}".strip()

    def _extensions(self, chain: float, lines: Mapping[tuple[str, ...], float]) -> None:
        """Dotted lines from the box's edges down to the lowest dimension that ends there."""
        ends: dict[float, float] = dict.fromkeys(self.wide.edges, chain)
        for alike, y in lines.items():
            for edge in self.wide.outer(alike[0]):
                ends[edge] = y
        lowest = max(self.high.edges)
        with self.board.part("extension-lines"):
            for edge, y in ends.items():
                self.board.line(edge, lowest + 4, edge, y + 6, EXTENSION)


def _sums(run: Run) -> list[tuple[str, ...]]:
    """The boxes round the content, from inside; those of one size together."""
    reached = {t.part for t in run.terms}
    found: list[tuple[str, ...]] = []
    for part in reversed(PARTS[:-1]):
        if part not in reached:
            continue
        if found and not any(t.used for t in run.terms if t.part == part):
            found[-1] = (*found[-1], part)
        else:
            found.append((part,))
    return found


def _marks(run: Run, alike: tuple[str, ...]) -> list[str]:
    return [mark for part in alike if (mark := run.marks.get(part, ""))]


def _together(parts: tuple[str, ...]) -> str:
    return " and ".join((", ".join(parts[:-1]), parts[-1])) if len(parts) > 1 else parts[0]
