"""The crate: Red Crate's mark."""

from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from redcrate.app.theme.look import colour


class Mark(QWidget):
    """The crate: a red frame round a white field."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFixedSize(18, 18)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the mark."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("border_ink"))
        painter.fillRect(self.rect().adjusted(4, 4, -4, -4), colour("paper"))
