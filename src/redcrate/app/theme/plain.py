"""Labels and tips that show a text as it is. A page's texts are strangers': as rich text they could load files."""

from html import escape

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLabel, QWidget


class Label(QLabel):
    """A label of plain text."""

    def __init__(self, text: str = "", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setText(text)


def plain_tip(text: str) -> str:
    """A tip that Qt shows as the text is, which else looks for rich text in it."""
    return f"<p style='white-space: pre-wrap'>{escape(text)}</p>" if "<" in text else text
