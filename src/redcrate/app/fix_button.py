"""A button for a fix: its words wrap, and hovered or focused it asks to be shown."""

from PyQt6.QtCore import QEvent, QRect, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QEnterEvent, QFocusEvent, QPaintEvent
from PyQt6.QtWidgets import QPushButton, QSizePolicy, QStyle, QStyleOptionButton, QStylePainter, QWidget

_INSET = 9


class FixButton(QPushButton):
    """A fix; hovered or focused it asks to be shown."""

    looked_at = pyqtSignal(bool)

    def __init__(self, text: str, parent: QWidget | None = None) -> None:
        super().__init__(text, parent)
        self.setAccessibleName(text)
        policy = QSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Fixed)
        policy.setHeightForWidth(True)
        self.setSizePolicy(policy)

    def heightForWidth(self, width: int) -> int:
        """As high as the words are when they wrap at that width."""
        return self._words(width).height() + 12

    def _words(self, width: int) -> QRect:
        room = QRect(0, 0, max(20, width - 2 * _INSET), 1000)
        return self.fontMetrics().boundingRect(room, int(Qt.TextFlag.TextWordWrap), self.text())

    def sizeHint(self) -> QSize:
        """As high as the wrapped words at the present width."""
        width = self.width() if self.width() > 60 else 200
        return QSize(120, self._words(width).height() + 12)

    def minimumSizeHint(self) -> QSize:
        """Narrow, and as high as the words then are."""
        return QSize(60, 24)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The button, and its words on as many lines as they need."""
        painter = QStylePainter(self)
        option = QStyleOptionButton()
        self.initStyleOption(option)
        option.text = ""
        painter.drawControl(QStyle.ControlElement.CE_PushButton, option)
        painter.setPen(option.palette.buttonText().color())
        field = self.rect().adjusted(_INSET, 0, -_INSET, 0)
        flags = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
        painter.drawText(field, int(flags) | int(Qt.TextFlag.TextWordWrap), self.text())

    def enterEvent(self, event: QEnterEvent | None) -> None:
        """The pointer is over it."""
        self.looked_at.emit(True)
        super().enterEvent(event)

    def leaveEvent(self, event: QEvent | None) -> None:
        """The pointer has gone."""
        self.looked_at.emit(False)
        super().leaveEvent(event)

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        """The keyboard is on it."""
        self.looked_at.emit(True)
        super().focusInEvent(event)

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        """The keyboard has gone on."""
        self.looked_at.emit(False)
        super().focusOutEvent(event)
