"""The drawing of a sweep: a quantity against the viewport width in straight pieces, its events numbered and listed."""

from collections.abc import Sequence
from math import ceil, floor, log10

from redcrate.core.diagram.board import SMALL, Board
from redcrate.core.diagram.drawing import Area, Dot, Drawing, Label, Segment, Stroke
from redcrate.core.diagram.lettering import cut_to
from redcrate.core.units import format_number
from redcrate.core.widths.events import Event, EventKind
from redcrate.core.widths.standing_at import Quantity
from redcrate.core.widths.sweep import Swept
from redcrate.core.widths.sweep_report import value_of, words_of

_WIDTH, _HEIGHT, _LEFT, _TOP = 900.0, 280.0, 60.0, 50.0
_ROW, _MARK = 18.0, 14.0
_PROBLEMS = (EventKind.OVER, EventKind.PAGE_OVER)


def sweep_plot(swept: Swept, quantity: Quantity, page_name: str = "") -> Drawing:
    """One quantity of a sweep as a drawing."""
    return _Plot(swept, quantity).run(page_name)


def steps_of(low: float, high: float, most: int = 6) -> list[float]:
    """Round numbers from `low` to `high` for an axis, `most` at most."""
    if high <= low:
        return [low]
    rough = (high - low) / most
    power = 10.0 ** floor(log10(rough))
    step = next(s * power for s in (1, 2, 2.5, 5, 10) if s * power >= rough * 0.999)
    first = ceil(low / step - 1e-9)
    return [n * step for n in range(first, floor(high / step + 1e-9) + 1)]


def is_problem(event: Event) -> bool:
    """Whether an event is told in the colour of problems."""
    return event.kind in _PROBLEMS


class _Plot:
    """Collects the shapes of one plot."""

    def __init__(self, swept: Swept, quantity: Quantity) -> None:
        self.swept = swept
        self.quantity = quantity
        self.pieces = swept.pieces[quantity]
        self.board = Board()
        ends = [v for p in self.pieces for v in (value_of(p.start), value_of(p.end))]
        known = [v for v in ends if v is not None] or [0.0]
        self.low, self.high = min(0.0, *known), max(1.0, *known)

    def x(self, width: float) -> float:
        """Where a window width stands."""
        return _LEFT + (width - self.swept.first) / max(1, self.swept.last - self.swept.first) * _WIDTH

    def y(self, value: float) -> float:
        """Where an amount stands."""
        return _TOP + _HEIGHT - (value - self.low) / (self.high - self.low) * _HEIGHT

    def run(self, page_name: str) -> Drawing:
        """Axes, events, pieces, and the list of events below."""
        self.axes()
        marks = self.marks()
        with self.board.part("pieces"):
            for piece in self.pieces:
                self.piece(
                    piece.first,
                    piece.last,
                    value_of(piece.start),
                    value_of(piece.end),
                )
        self.listed(marks)
        unit = "" if self.quantity is Quantity.ROW else ", px"
        title = f"{self.quantity.label} of {self.swept.label} against the viewport width"
        head = f"Sweep · {self.quantity.label} of {self.swept.label}{unit}"
        where = f"{page_name} · viewport from {self.swept.first} to {self.swept.last} px".lstrip(" ·")
        with self.board.part("title"):
            self.board.add(Label(_LEFT, 20, head, 13, bold=True))
            self.board.add(Label(_LEFT + _WIDTH, 20, where, SMALL, colour="second_ink", anchor="end"))
        words = "; ".join(f"{p.first} to {p.last} px: {words_of(self.quantity, p)}" for p in self.pieces)
        return self.board.finish(title, words)

    def axes(self) -> None:
        """Grid lines with their numbers."""
        with self.board.part("axes"):
            for value in steps_of(self.low, self.high, 5):
                y = self.y(value)
                self.board.add(Segment(_LEFT, y, _LEFT + _WIDTH, y, Stroke("hairline", 0.8)))
                self.board.add(
                    Label(
                        _LEFT - 8, y + 4, format_number(value), SMALL, colour="second_ink", anchor="end"
                    )
                )
            base = _TOP + _HEIGHT
            self.board.add(Segment(_LEFT, base, _LEFT + _WIDTH, base, Stroke("ink", 1.2)))
            for width in steps_of(self.swept.first, self.swept.last, 10):
                x = self.x(width)
                self.board.add(Segment(x, base, x, base + 4, Stroke("ink", 1)))
                self.board.add(
                    Label(
                        x, base + 18, format_number(width), SMALL, colour="second_ink", anchor="middle"
                    )
                )

    def marks(self) -> list[tuple[int, list[Event]]]:
        """A dashed line and a number at each width at which something happens."""
        by_width: dict[int, list[Event]] = {}
        for event in self.swept.events:
            by_width.setdefault(event.width, []).append(event)
        numbered = list(by_width.items())
        free = [-1000.0, -1000.0, -1000.0]  # to the right of the last number in each line of them
        with self.board.part("events"):
            for number, (width, events) in enumerate(numbered, 1):
                x, colour = self.x(width), _colour(events)
                line = next((n for n, end in enumerate(free) if x - _MARK / 2 > end), 0)
                free[line] = x + _MARK / 2
                self.board.add(Segment(x, _TOP, x, _TOP + _HEIGHT, Stroke(colour, 1, (4, 3))))
                y = _TOP - 4 - line * 11
                self.board.add(
                    Label(x, y, str(number), SMALL, bold=True, colour=colour, anchor="middle")
                )
        return numbered

    def piece(self, first: int, last: int, start: float | None, end: float | None) -> None:
        """One straight piece; a dot where it is one px long."""
        if start is None or end is None:
            return
        if first == last:
            self.board.add(Dot(self.x(first), self.y(start), 1.5))
            return
        stroke = Stroke("ink", 2)
        self.board.add(Segment(self.x(first), self.y(start), self.x(last), self.y(end), stroke))

    def listed(self, marks: Sequence[tuple[int, list[Event]]]) -> None:
        """The pieces in words, then the events with their numbers."""
        y = _TOP + _HEIGHT + 46
        with self.board.part("words"):
            for piece in self.pieces:
                text = f"{piece.first} – {piece.last}: {words_of(self.quantity, piece)}"
                self.board.add(Label(_LEFT, y, text, SMALL))
                y += _ROW
        y += 6
        with self.board.part("list"):
            for number, (_, events) in enumerate(marks, 1):
                for event in events:
                    text = cut_to(event.sentence, _WIDTH - 30, SMALL)
                    self.board.add(
                        Label(_LEFT, y, str(number), SMALL, bold=True, colour=_colour([event]))
                    )
                    self.board.add(Label(_LEFT + 26, y, text, SMALL))
                    y += _ROW
            self.board.add(Area(_LEFT, y, 1, 1))


def _colour(events: Sequence[Event]) -> str:
    if any(is_problem(e) for e in events):
        return "problem"
    return "second_ink" if all(e.kind is EventKind.MEDIA for e in events) else "ink"
