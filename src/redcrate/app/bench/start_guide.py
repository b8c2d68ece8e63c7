"""The first three steps for a newcomer: from the page to the first padding that does not widen its block."""

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QPushButton, QWidget

from redcrate.app.flowing import Flowing
from redcrate.app.theme.look import colour
from redcrate.app.theme.plain import Label

_STEPS = (
    "Click a block on the sheet, for example the notice board",
    "Click its left padding in the row Across below",
    "Type 30, press Enter: the block keeps its width",
)


class StartGuide(QWidget):
    """One line above the budget; each step is ticked when it was done as it asks, and in its order."""

    done = pyqtSignal()

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.at = 0
        self.labels = [Label() for _ in _STEPS]
        row = Flowing(self)
        row.setContentsMargins(12, 5, 12, 5)
        row.setSpacing(18)
        for label in self.labels:
            row.addWidget(label)
        row.spring()
        close = QPushButton("Close the guide")
        close.setStyleSheet("padding: 2px 8px;")
        close.clicked.connect(self._finish)
        row.addWidget(close)
        self._renew()

    def did(self, step: int) -> None:
        """A step (from 1) was done as it was asked; it counts only behind the one before it."""
        if step == self.at + 1:
            self.at = step
            self._renew()

    def _renew(self) -> None:
        for number, (label, words) in enumerate(zip(self.labels, _STEPS, strict=True)):
            sign = "✓" if number < self.at else f"{number + 1}"
            label.setText(f"{sign}  {words}")
            shade = "ink" if number == self.at else "second_ink"
            weight = "bold" if number == self.at else "normal"
            label.setStyleSheet(f"color: {colour(shade).name()}; font-weight: {weight};")

    def _finish(self) -> None:
        self.hide()
        self.done.emit()
