"""One term of the budget: its part code behind, its name, and a field to type into."""

from PyQt6.QtCore import QEvent, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from redcrate.app.theme.look import colour, dress, part_brush, text_px
from redcrate.app.theme.plain import Label, plain_tip
from redcrate.app.value_field import ValueField
from redcrate.core.diagram.codes import Fill
from redcrate.core.explain.terms import Term
from redcrate.core.units import format_px

FILLS = {
    "margin": Fill.MARGIN,
    "border": Fill.BORDER,
    "padding": Fill.PADDING,
    "content": Fill.CONTENT,
}


class TermField(ValueField):
    """The field of a term: arrows nudge, Esc gives up."""

    nudged = pyqtSignal(float)
    given_up = pyqtSignal()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """↑ and ↓: 1 px, with Shift 10, with Alt 0.1."""
        assert event is not None
        if event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            step = 1.0
            if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
                step = 10.0
            elif event.modifiers() & Qt.KeyboardModifier.AltModifier:
                step = 0.1
            self.nudged.emit(step if event.key() == Qt.Key.Key_Up else -step)
            return
        if event.key() == Qt.Key.Key_Escape:
            self.given_up.emit()
            return
        super().keyPressEvent(event)


class TermCell(QWidget):
    """A cell; signals carry what was typed, and the budget decides what becomes of it."""

    typed = pyqtSignal(object, str)
    committed = pyqtSignal(object, str)
    nudged = pyqtSignal(object, float)
    entered = pyqtSignal(object)
    left = pyqtSignal(object)

    def __init__(self, part: str, side: str, axis: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.part = part
        self.side = side
        self.axis = axis
        self.term: Term | None = None
        self._shown = ""
        self._wrong = False
        self._gives = False
        self._painted = False, False  # whether the ground is that of a negative term, or of nothing
        size_name = "width" if axis == "across" else "height"
        name = f"content · {size_name}" if part == "content" else part
        self._name = name
        self._label = Label(name)
        self._label.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.field = TermField()
        self.field.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.field.setAccessibleName(f"{axis}: {size_name if part == 'content' else f'{part} {side}'}")
        box = QVBoxLayout(self)
        box.setContentsMargins(4, 3, 4, 4)
        box.setSpacing(1)
        box.addWidget(self._label, alignment=Qt.AlignmentFlag.AlignHCenter)
        box.addWidget(self.field, alignment=Qt.AlignmentFlag.AlignHCenter)
        self.field.textEdited.connect(lambda text: self.typed.emit(self, text))
        self.field.returnPressed.connect(self.commit)
        self.field.nudged.connect(lambda step: self.nudged.emit(self, step))
        self.field.given_up.connect(self.give_up)
        self.field.installEventFilter(self)
        self._dress()

    def eventFilter(self, watched: object, event: QEvent | None) -> bool:
        """Leaving the field commits what was typed, if it is valid."""
        if event is not None and event.type() == QEvent.Type.FocusOut:
            self.commit()
            self.left.emit(self)
        elif event is not None and event.type() == QEvent.Type.FocusIn:
            self.entered.emit(self)
        return False

    def show_term(self, term: Term, *, editable: bool) -> None:
        """Show a term of the equation; a text that is being typed stays."""
        self.term = term
        was_edited = self.field.text() != self._shown
        self._shown = format_px(term.used)
        if not (was_edited and self._wrong):
            if self.field.text() != self._shown:
                self.field.setText(self._shown)
            self._wrong = False
            if self.field.hasFocus():
                self.field.selectAll()
        self.field.setReadOnly(not editable)
        self.setToolTip(plain_tip(tooltip(term)))
        self._show_name()
        self._dress()

    def set_gives(self, gives: bool) -> None:
        """Whether this term gives way when padding or border changes."""
        if gives != self._gives:
            self._gives = gives
            self._show_name()
            self._dress()

    def _show_name(self) -> None:
        """The part's name, the written value where it is another than the used one, and whether it gives."""
        words = [self._name]
        written = self.term.written if self.term is not None else ""
        if self.part == "content" and written and written != f"{self._shown}px":
            words.append(written)
        elif written.endswith(("%", "em")) or written in ("auto",):
            words = [written if self.width() < 90 else f"{self._name} {written}"]
        if self._gives and self.part == "content":
            words.append("adapts")
        text = " · ".join(words)
        fits = self._label.fontMetrics().horizontalAdvance(text) <= self.width() - 8
        self._label.setText(text if fits else self._name)
        font = self._label.font()
        if font.underline() != self._gives:
            font.setUnderline(self._gives)
            self._label.setFont(font)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """The field and the name as wide as there is room."""
        self.field.setFixedWidth(max(34, min(self.width() - 8, 150)))
        self._show_name()

    def commit(self) -> None:
        """Hand over the typed text, if it differs from what is shown."""
        if self.field.text() != self._shown and not self.field.isReadOnly():
            self.committed.emit(self, self.field.text())

    def give_up(self) -> None:
        """Back to the value as it is."""
        self.field.setText(self._shown)
        self.field.selectAll()
        self.set_wrong(False)
        self.typed.emit(self, "")

    def set_wrong(self, wrong: bool) -> None:
        """Whether the text is no value: the cell turns violet and keeps it."""
        if wrong != self._wrong:
            self._wrong = wrong
            self._dress()

    @property
    def is_wrong(self) -> bool:
        """Whether the typed text was refused."""
        return self._wrong

    @property
    def _is_negative(self) -> bool:
        """Whether it is a negative margin."""
        return self.term is not None and self.term.used < 0

    @property
    def _is_nothing(self) -> bool:
        """Whether the part takes no room: then only a strip of its code is shown."""
        return self.term is not None and self.term.used == 0 and self.part != "content"

    def _dress(self) -> None:
        """Colours of the label and the field on their ground."""
        paper, ink = colour("field").name(), colour("ink").name()
        red = self.part == "border" and not self._is_nothing
        problem = colour("problem").name()
        ground = "transparent" if red else paper
        text = "#ffffff" if red else ink
        edge = f"2px solid {problem}" if self._wrong else "1px solid transparent"
        focus = problem if self._wrong else "#ffffff" if red else ink
        struck = "line-through" if self.term is not None and self.term.struck else "none"
        dress(self._label, f"background: {ground}; color: {text}; padding: 0 3px;")
        dress(
            self.field,
            f"QLineEdit {{ background: {ground}; color: {problem if self._wrong else text};"
            f" border: {edge}; border-radius: 2px; padding: 0; font-weight: bold;"
            f" font-size: {text_px(13)}px; text-decoration: {struck}; }}"
            f"QLineEdit:focus {{ border: 2px solid {focus}; padding: 0; }}",
        )
        painted = self._is_negative, self._is_nothing
        if painted != self._painted:
            self._painted = painted
            self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The part code as the ground."""
        painter = QPainter(self)
        fill = FILLS[self.part]
        if self._is_negative:
            painter.fillRect(self.rect(), colour("field"))
            painter.setPen(QPen(colour("margin_ink"), 1.5, Qt.PenStyle.DashLine))
            painter.drawRect(self.rect().adjusted(1, 1, -2, -2))
        elif self._is_nothing:
            painter.fillRect(self.rect(), colour("field"))
            strip = self.rect().adjusted(0, self.height() - 5, 0, 0)
            painter.fillRect(strip, part_brush(fill, self.devicePixelRatioF()))
        else:
            painter.fillRect(self.rect(), part_brush(fill, self.devicePixelRatioF()))
        painter.setPen(QPen(colour("second_ink"), 1))
        painter.drawLine(self.width() - 1, 0, self.width() - 1, self.height())


def tooltip(term: Term) -> str:
    """One line that teaches where the value comes from."""
    lines = []
    if term.written:
        lines.append(f"{term.longhand.replace('-', ' ')}: written {term.written}")
    if term.why:
        lines.append(term.why)
    if term.source is not None:
        lines.append(term.source.sentence)
    return "\n".join(lines) or f"{term.longhand.replace('-', ' ')}: not set, {format_px(term.used)}"
