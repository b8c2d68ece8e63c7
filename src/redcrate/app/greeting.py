"""The strip under the top bar: what a page that is open is for, while it is open."""

from collections.abc import Callable

from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from redcrate.app.theme.look import colour, text_px
from redcrate.app.theme.plain import Label


class Greeting(QWidget):
    """A sentence, and a button to the screen that says it."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.words = Label("")
        self.words.setWordWrap(True)
        self.words.setAccessibleName("The task")
        self.button = QPushButton("")
        self.button.clicked.connect(lambda: self._go())
        self._go: Callable[[], None] = lambda: None
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 4, 12, 6)
        row.setSpacing(12)
        row.addWidget(self.words, 1)
        row.addWidget(self.button)
        self.words.setStyleSheet(
            f"font-size: {text_px(13)}px; border-left: 3px solid {colour('accent').name()}; padding-left: 8px;"
        )
        self.hide()

    def forget(self) -> None:
        """Nothing is said."""
        self.words.setText("")
        self.hide()

    def show_words(self, words: str, button: str, go: Callable[[], None]) -> None:
        """Say something, and where the button leads."""
        self.words.setText(words)
        self.button.setText(button)
        self._go = go
