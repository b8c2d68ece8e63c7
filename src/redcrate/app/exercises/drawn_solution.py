"""A drawing shown as large as there is room."""

from PyQt6.QtCore import QSize
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from redcrate.app.painting.drawing_end import DrawingEnd
from redcrate.app.theme.look import colour
from redcrate.core.diagram.drawing import Drawing, paint

_ROOM = 12


class DrawnSolution(QWidget):
    """Nothing is seen where there is no drawing."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.drawing: Drawing | None = None
        self.setAccessibleName("A solution, drawn")
        self.hide()

    def show_drawing(self, drawing: Drawing | None) -> None:
        """Show a drawing, or none; what it says is there for those who do not see it."""
        self.drawing = drawing
        self.setAccessibleDescription("" if drawing is None else drawing.description)
        self.setVisible(drawing is not None)
        self.update()

    def sizeHint(self) -> QSize:
        """Half of the room beside the page."""
        return QSize(440, 300)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The drawing on paper, never larger than it is."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("paper"))
        if self.drawing is None:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        room = self.width() - 2 * _ROOM, self.height() - 2 * _ROOM
        scale = min(1.0, room[0] / self.drawing.width, room[1] / self.drawing.height)
        painter.translate(_ROOM + (room[0] - self.drawing.width * scale) / 2, _ROOM)
        painter.scale(scale, scale)
        paint(self.drawing, DrawingEnd(painter))
