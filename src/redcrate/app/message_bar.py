"""The note over the lower edge of the screen: a sentence, and buttons where it asks for a choice.

It lies over the page instead of pushing it: nothing that the pointer is on its way to moves. A plain
sentence lets clicks through and leaves as soon as it no longer applies; a question stays.
"""

from collections.abc import Callable, Sequence

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtWidgets import QHBoxLayout, QPlainTextEdit, QPushButton, QVBoxLayout, QWidget

from redcrate.app.theme.look import colour, dress
from redcrate.app.theme.plain import Label

Choice = tuple[str, Callable[[], None]]
_ASIDE = 12
_WIDEST = 760
_TALLEST = 170  # px of the details


class MessageBar(QWidget):
    """Says one thing at a time; a question stays until it is answered."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.label = Label("")
        self.label.setWordWrap(True)
        self.label.setAccessibleName("Message")
        self.details = QPlainTextEdit()
        self.details.setReadOnly(True)
        self.details.setAccessibleName("What differs")
        self._choices = QHBoxLayout()
        self._choices.setSpacing(6)
        self.buttons: list[QPushButton] = []
        self.asks = False
        self._anchor: QWidget | None = None
        row = QHBoxLayout()
        row.setContentsMargins(12, 4, 12, 4)
        row.addWidget(self.label, 1)
        row.addLayout(self._choices)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addLayout(row)
        box.addWidget(self.details)
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.say("")

    def hang_on(self, anchor: QWidget) -> None:
        """Lie over the lower edge of `anchor`, a part of the same window."""
        self._anchor = anchor
        self.place()

    def place(self) -> None:
        """Take the place again: the anchor has moved or the text has changed."""
        anchor, parent = self._anchor, self.parentWidget()
        if anchor is None or parent is None or not self.isVisible():
            return
        corner = anchor.mapTo(parent, QPoint(0, 0))
        width = max(200, min(anchor.width() - 2 * _ASIDE, _WIDEST))
        self.setFixedWidth(width)
        height = self.heightForWidth(width) if self.hasHeightForWidth() else self.sizeHint().height()
        self.setFixedHeight(height)
        below = corner.y() + anchor.height() - _ASIDE
        self.move(corner.x() + (anchor.width() - width) // 2, max(0, below - height))
        self.raise_()

    def text(self) -> str:
        """The sentence that is shown."""
        return self.label.text()

    def say(self, sentence: str, *, wrong: bool = False) -> None:
        """Show a sentence; an empty one hides the bar. A question that is open stays."""
        if not self.asks:
            self._show(sentence, wrong, ())

    def ask(self, sentence: str, choices: Sequence[Choice], details: str = "") -> None:
        """Show a question with a button for each answer."""
        self.asks = True
        self._show(sentence, True, choices, details)

    def tell(self, sentence: str, name: str, what: Callable[[], None]) -> None:
        """Show a sentence that stays until the next one or the question is closed, with one button."""
        if self.asks and [b.text() for b in self.buttons] == [name]:
            self.label.setText(sentence)  # the button stays under the pointer
            self.place()
            return
        self.asks = True
        self._show(sentence, False, [(name, what)])

    def close_question(self) -> None:
        """The question is answered."""
        self.asks = False
        self._show("", False, ())

    def _show(self, sentence: str, wrong: bool, choices: Sequence[Choice], details: str = "") -> None:
        ground, paper = colour("problem" if wrong else "ink").name(), colour("paper").name()
        dress(self, f"MessageBar {{ background: {ground}; }}")
        dress(self.label, f"background: {ground}; color: {paper}; padding: 3px 0;")
        self.label.setText(sentence)
        for button in self.buttons:
            button.setParent(None)
            button.deleteLater()
        self.buttons = []
        for name, what in choices:
            button = QPushButton(name)
            button.clicked.connect(lambda _=False, w=what: self._answer(w))
            self._choices.addWidget(button)
            self.buttons.append(button)
        self.details.setPlainText(details)
        line = self.details.fontMetrics().lineSpacing()
        self.details.setFixedHeight(min(_TALLEST, (details.count("\n") + 1) * line + 3 * _ASIDE))
        self.details.setVisible(bool(details))
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents, not choices)
        self.setVisible(bool(sentence))
        self.place()

    def _answer(self, what: Callable[[], None]) -> None:
        self.close_question()
        what()
