"""One drawing large: fitted or at any scale, the one before and after it with the arrow keys."""

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QPainter, QPaintEvent, QResizeEvent, QWheelEvent
from PyQt6.QtWidgets import QScrollArea, QWidget

from redcrate.app.painting.drawing_end import DrawingEnd
from redcrate.app.theme.look import colour
from redcrate.core.diagram.codes import Palette
from redcrate.core.diagram.drawing import Drawing, paint

_LEAST, _MOST, _STEP = 0.25, 8.0, 1.25
_ASIDE = 24


class BigView(QScrollArea):
    """Shows one drawing. turned: another one is wanted, so many further on. closed: the contact sheet is wanted."""

    turned = pyqtSignal(int)
    closed = pyqtSignal()
    zoomed = pyqtSignal(float)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._sheet = _Sheet()
        self._fitted = True
        self.setWidget(self._sheet)
        self.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setStyleSheet(f"QScrollArea {{ background: {colour('desk').name()}; }}")

    @property
    def drawing(self) -> Drawing | None:
        """What is shown."""
        return self._sheet.drawing

    @property
    def scale(self) -> float:
        """Px of the screen for one px of the drawing."""
        return self._sheet.scale

    def show_drawing(self, drawing: Drawing, palette: Palette) -> None:
        """Show a drawing, at the scale that was chosen last."""
        self._sheet.drawing, self._sheet.palette_used = drawing, palette
        self.setAccessibleName(drawing.title)
        self.setAccessibleDescription(drawing.description)
        self._resize()

    def fit(self) -> None:
        """As large as the room allows."""
        self._fitted = True
        self._resize()

    def set_scale(self, scale: float) -> None:
        """A scale of its own."""
        self._fitted = False
        self._sheet.scale = min(_MOST, max(_LEAST, scale))
        self._resize()

    def _resize(self) -> None:
        drawing, viewport = self._sheet.drawing, self.viewport()
        if drawing is None or viewport is None:
            return
        if self._fitted:
            room = self.maximumViewportSize()
            across = (room.width() - _ASIDE) / drawing.width
            self._sheet.scale = max(_LEAST, min(2.0, across, (room.height() - _ASIDE) / drawing.height))
        scale = self._sheet.scale
        self._sheet.resize(QSize(round(drawing.width * scale), round(drawing.height * scale)))
        self._sheet.update()
        self.zoomed.emit(scale)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """A fitted drawing follows the window."""
        super().resizeEvent(event)
        if self._fitted:
            self._resize()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """With Ctrl the scale changes."""
        if event is not None and event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.set_scale(self.scale * (_STEP if event.angleDelta().y() > 0 else 1 / _STEP))
            event.accept()
            return
        super().wheelEvent(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """← and → turn, + and - scale, 0 fits, Esc or Return goes back to all."""
        if event is None:
            return
        key = event.key()
        turns = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}
        if key in turns:
            self.turned.emit(turns[Qt.Key(key)])
        elif key in (Qt.Key.Key_Escape, Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.closed.emit()
        elif event.text() in ("+", "-"):
            self.set_scale(self.scale * (_STEP if event.text() == "+" else 1 / _STEP))
        elif event.text() == "0":
            self.fit()
        else:
            super().keyPressEvent(event)


class _Sheet(QWidget):
    """The paper with the drawing."""

    def __init__(self) -> None:
        super().__init__()
        self.drawing: Drawing | None = None
        self.palette_used: Palette | None = None
        self.scale = 1.0

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The drawing at its scale."""
        if self.drawing is None or self.palette_used is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), QColor(self.palette_used.paper))
        painter.scale(self.scale, self.scale)
        ratio = self.devicePixelRatioF() * self.scale
        paint(self.drawing, DrawingEnd(painter, palette=self.palette_used, ratio=ratio))
        painter.end()
