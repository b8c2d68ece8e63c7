"""The fixes of a finding as they are found: each is seen before it is taken."""

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from redcrate.app.fix_button import FixButton
from redcrate.app.theme.look import colour
from redcrate.app.theme.plain import Label, plain_tip
from redcrate.core.findings import Finding, Fix
from redcrate.core.units import counted


class Fixes(QWidget):
    """A button for each; below them, what the first one also removes, or why there are none."""

    previewed = pyqtSignal(object)  # a fix that is looked at, or None
    taken = pyqtSignal(object)
    resized = pyqtSignal()

    def __init__(self, finding: Finding, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._is_list = bool(finding.parts)
        self._buttons = QVBoxLayout()
        self._buttons.setSpacing(4)
        self._effects = Label("")
        self._effects.setWordWrap(True)
        self._effects.hide()
        self._waiting = Label("Computing fixes …" if finding.ways else "")
        self._waiting.setStyleSheet(f"color: {colour('second_ink').name()};")
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(5)
        box.addLayout(self._buttons)
        box.addWidget(self._effects)
        box.addWidget(self._waiting)
        self._waiting.setVisible(bool(finding.ways))

    def add_fix(self, fix: Fix) -> None:
        """Offer a fix that was verified."""
        button = FixButton(fix.told)
        button.setToolTip(plain_tip(f"{fix.told}. The sheet shows it as a preview."))
        button.looked_at.connect(lambda looked: self.previewed.emit(fix if looked else None))
        button.clicked.connect(lambda: self.taken.emit(fix))
        self._buttons.addWidget(button)
        button.show()  # at once, so that its height counts
        self.resized.emit()

    def tell_effects(self, sentences: list[str]) -> None:
        """Say which other findings the first fix mends too."""
        if sentences:
            count = counted(len(sentences), "1 other finding", "{count} other findings")
            self._effects.setText(f"The first fix also removes {count}.")
            self._effects.setToolTip(plain_tip("\n".join(sentences)))
            self._effects.show()
            self.resized.emit()

    def all_known(self, found: bool) -> None:
        """No more fixes are worked out."""
        told = found or self._is_list
        self._waiting.setText("" if told else "No fix passed the check; edit by hand.")
        self._waiting.setVisible(not told)
        self.resized.emit()
