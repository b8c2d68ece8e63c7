"""A field for one value: the first press takes all of it, so that typing replaces it."""

from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QFocusEvent, QMouseEvent
from PyQt6.QtWidgets import QApplication, QLineEdit


class ValueField(QLineEdit):
    """The press that brings the focus selects all; a second one places the caret; dragging selects."""

    _fresh = False  # the focus has come by a press that is not over yet
    _pressed_at: QPoint | None = None

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        """All of the value is selected, however the focus comes."""
        super().focusInEvent(event)
        self.selectAll()
        self._fresh = event is not None and event.reason() == Qt.FocusReason.MouseFocusReason

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """The press after focus-in would put the caret into the middle of the value."""
        super().mousePressEvent(event)
        self._pressed_at = None
        if self._fresh and event is not None and event.button() is Qt.MouseButton.LeftButton:
            self._pressed_at = event.position().toPoint()
            self.selectAll()
        self._fresh = False

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """A drag selects from where it was pressed, on the first press too."""
        if event is not None and self._pressed_at is not None:
            way = event.position().toPoint() - self._pressed_at
            if way.manhattanLength() < QApplication.startDragDistance():
                return
            self.setCursorPosition(self.cursorPositionAt(self._pressed_at))
            self._pressed_at = None
        super().mouseMoveEvent(event)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """The press is over."""
        self._pressed_at = None
        super().mouseReleaseEvent(event)
