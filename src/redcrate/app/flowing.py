"""A bar whose parts go on in the next line where one line is too short for them."""

from PyQt6.QtCore import QPoint, QRect, QSize, Qt
from PyQt6.QtWidgets import QLayout, QLayoutItem, QWidget


class Flowing(QLayout):
    """Parts from left to right, in as many lines as they need; what follows the spring is at the right of its line."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._parts: list[QLayoutItem] = []
        self._spring = -1  # the number of the part that it is before

    def spring(self) -> None:
        """The parts that follow go to the right end, as far as they are in one line with those before."""
        self._spring = len(self._parts)

    # -- what Qt asks of a layout

    def addItem(self, item: QLayoutItem | None) -> None:
        """One more part, at the end."""
        assert item is not None
        self._parts.append(item)

    def count(self) -> int:
        """How many parts there are."""
        return len(self._parts)

    def itemAt(self, index: int) -> QLayoutItem | None:
        """A part by its number; None where there is none."""
        return self._parts[index] if 0 <= index < len(self._parts) else None

    def takeAt(self, index: int) -> QLayoutItem | None:
        """A part by its number, which is one no longer."""
        return self._parts.pop(index) if 0 <= index < len(self._parts) else None

    def expandingDirections(self) -> Qt.Orientation:
        """None."""
        return Qt.Orientation(0)

    def hasHeightForWidth(self) -> bool:
        """The narrower, the higher."""
        return True

    def heightForWidth(self, width: int) -> int:
        """The height of all lines at a width, px."""
        return self._lay(QRect(0, 0, width, 0), moves=False)

    def setGeometry(self, rect: QRect) -> None:
        """Put the parts into a rectangle."""
        super().setGeometry(rect)
        self._lay(rect, moves=True)

    def sizeHint(self) -> QSize:
        """All parts in one line."""
        shown = self._shown()
        margins = self.contentsMargins()
        width = sum(p.sizeHint().width() for _, p in shown) + self.spacing() * max(0, len(shown) - 1)
        height = max((p.sizeHint().height() for _, p in shown), default=0)
        return QSize(width + margins.left() + margins.right(), height + margins.top() + margins.bottom())

    def minimumSize(self) -> QSize:
        """As narrow as the widest part."""
        margins = self.contentsMargins()
        width = max((p.minimumSize().width() for _, p in self._shown()), default=0)
        height = max((p.sizeHint().height() for _, p in self._shown()), default=0)
        return QSize(width + margins.left() + margins.right(), height + margins.top() + margins.bottom())

    # -- lines

    def _shown(self) -> list[tuple[int, QLayoutItem]]:
        return [(n, p) for n, p in enumerate(self._parts) if not p.isEmpty()]

    def _lines(self, room: int) -> list[list[tuple[int, QLayoutItem]]]:
        lines: list[list[tuple[int, QLayoutItem]]] = [[]]
        used = 0
        for number, part in self._shown():
            width = part.sizeHint().width()
            if lines[-1] and used + self.spacing() + width > room:
                lines.append([])
                used = 0
            used += width + (self.spacing() if lines[-1] else 0)
            lines[-1].append((number, part))
        return [line for line in lines if line]

    def _lay(self, rect: QRect, *, moves: bool) -> int:
        """Put the parts into lines, where it `moves` them; the height that they take."""
        margins = self.contentsMargins()
        room = rect.width() - margins.left() - margins.right()
        y = rect.y() + margins.top()
        for line in self._lines(room):
            high = max(part.sizeHint().height() for _, part in line)
            used = sum(min(room, p.sizeHint().width()) for _, p in line) + self.spacing() * (
                len(line) - 1
            )
            x = rect.x() + margins.left()
            for place, (number, part) in enumerate(line):
                size = QSize(min(room, part.sizeHint().width()), part.sizeHint().height())
                if number >= self._spring >= 0 and (place == 0 or line[place - 1][0] < self._spring):
                    x += room - used
                if moves:
                    part.setGeometry(QRect(QPoint(x, y + (high - size.height()) // 2), size))
                x += size.width() + self.spacing()
            y += high + self.spacing()
        return y - self.spacing() + margins.bottom() - rect.y()
