"""A strip of the budget: the terms of one axis in proportion, what is left of it, and its sum in words."""

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import (
    QWidget,
)

from redcrate.app.bench.term_cell import TermCell
from redcrate.app.theme.look import colour, part_brush, text_px
from redcrate.core.diagram.codes import Fill
from redcrate.core.explain import Equation
from redcrate.core.units import ZERO, format_px

AXES = {
    "across": (
        ("margin", "left"),
        ("border", "left"),
        ("padding", "left"),
        ("content", ""),
        ("padding", "right"),
        ("border", "right"),
        ("margin", "right"),
    ),
    "down": (
        ("margin", "top"),
        ("border", "top"),
        ("padding", "top"),
        ("content", ""),
        ("padding", "bottom"),
        ("border", "bottom"),
        ("margin", "bottom"),
    ),
}


class Rest(QWidget):
    """What is left of the container (grey diagonals), or what is over (violet cross-hatch)."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.over = ZERO
        self.unknown = False

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The pattern, and the number where it is over."""
        painter = QPainter(self)
        if self.unknown:
            painter.fillRect(self.rect(), colour("paper"))
            return
        fill = Fill.OVERSPENT if self.over else Fill.UNSPENT
        painter.fillRect(self.rect(), part_brush(fill, self.devicePixelRatioF()))
        if self.over:
            text = f" {format_px(self.over)} over "
            rect = painter.fontMetrics().boundingRect(text)
            rect.moveCenter(self.rect().center())
            painter.fillRect(rect.adjusted(-3, -2, 3, 2), colour("field"))
            painter.setPen(colour("problem"))
            painter.drawText(rect, Qt.AlignmentFlag.AlignCenter, text)


class Strip(QWidget):
    """The cells of one axis in a row, with the rest behind them."""

    def __init__(self, axis: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.axis = axis
        self.cells = [TermCell(part, side, axis, self) for part, side in AXES[axis]]
        self.rest = Rest(self)
        self._shares: list[float] = []
        self._left = ZERO
        self.setFixedHeight(text_px(44))

    def sizeHint(self) -> QSize:
        """As wide as there is room."""
        return QSize(700, text_px(44))

    def show_equation(self, equation: Equation, *, editable: bool) -> None:
        """Show an equation; terms that it lacks are hidden."""
        by_key = {(t.part, t.side): t for t in equation.terms}
        for cell in self.cells:
            term = by_key.get((cell.part, cell.side))
            cell.setVisible(term is not None)
            if term is not None:
                cell.show_term(term, editable=editable)
        self._left = equation.left if equation.available is not None else ZERO
        over = self.axis == "across" and not equation.is_shared
        self.rest.over = max(ZERO, -self._left) if over else ZERO
        self.rest.unknown = self.axis == "down" or equation.is_shared
        self._arrange(equation)

    def _arrange(self, equation: Equation | None = None) -> None:
        """Widths: each edge as much as its label needs, content and rest in proportion."""
        shown = [c for c in self.cells if c.isVisibleTo(self)]
        edges = {c: text_px(64) if c.part != "content" else 0 for c in shown}
        room = self.width() - sum(edges.values())
        content = next((c for c in shown if c.part == "content"), None)
        used = content.term.used if content is not None and content.term is not None else 1
        left = max(0, self._left)
        over = self.rest.over
        share = used / max(1, used + left)
        rest_width = 0
        if over:
            rest_width = text_px(76)
        elif self.axis == "across" or left:
            rest_width = max(0, min(room - 130, round(room * (1 - share))))
        if self.axis == "down" and content is not None:
            rest_width = max(0, room - 200)
        x = 1
        for cell in shown:
            width = edges[cell] or max(80, room - rest_width)
            cell.setGeometry(x, 1, width, self.height() - 2)
            x += width
        self.rest.setGeometry(x, 1, max(0, self.width() - 1 - x), self.height() - 2)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Arrange the cells anew."""
        self._arrange()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """A thin frame."""
        painter = QPainter(self)
        painter.setPen(QPen(colour("second_ink"), 1))
        painter.drawRect(self.rect().adjusted(0, 0, -1, -1))


def below_text(equation: Equation) -> str:
    """The small line under an axis' name."""
    if equation.axis == "across":
        return f"{format_px(equation.available or ZERO)} available"
    content = next(t for t in equation.terms if t.part == "content")
    return f"height {content.written}" if content.written else "height auto"


def sum_words(equation: Equation) -> str:
    """What is spent, and what is left or over."""
    grey, violet = colour("second_ink").name(), colour("problem").name()
    if equation.axis == "down":
        inner = sum((t.used for t in equation.terms if t.part != "margin"), ZERO)
        return (
            f"<b>{format_px(equation.spent)}</b> used<br>"
            f"<span style='color:{grey}'>border box {format_px(inner)}</span>"
        )
    if equation.is_shared:
        return f"<b>{format_px(equation.spent)}</b> used<br><span style='color:{grey}'>the rest is shared</span>"
    if equation.left < 0:
        return (
            f"<b style='color:{violet}'>{format_px(equation.spent)}</b> used<br>"
            f"<span style='color:{violet}'>{format_px(-equation.left)} too wide</span>"
        )
    return (
        f"<b>{format_px(equation.spent)}</b> used<br>"
        f"<span style='color:{grey}'>{format_px(equation.left)} free</span>"
    )
