"""What is known of one finding: its cause, its fixes, and, folded, what its family teaches."""

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from redcrate.app.findings.cause import cause_of
from redcrate.app.findings.fixes import Fixes
from redcrate.app.findings.teaching import Teaching
from redcrate.core.findings import Finding


def ignore_button() -> QPushButton:
    """The button that hides a finding on its element."""
    made = QPushButton("Ignore on this element")
    made.setToolTip("Ignore this finding on this element; kept in the settings file beside the page")
    return made


class OpenedFinding(QWidget):
    """Stands in the list below the finding's sentence."""

    place_wanted = pyqtSignal(str, int)
    silenced = pyqtSignal()
    resized = pyqtSignal()

    def __init__(self, finding: Finding, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.fixes = Fixes(finding)
        self.fixes.resized.connect(self.resized)
        box = QVBoxLayout(self)
        box.setContentsMargins(10, 4, 10, 10)
        box.setSpacing(5)
        cause = cause_of(finding, self.place_wanted.emit)
        if cause is not None:
            box.addWidget(cause)
        box.addWidget(self.fixes)
        row = QHBoxLayout()
        row.setSpacing(6)
        self.more = QPushButton("Why")
        self.more.setCheckable(True)
        self.more.toggled.connect(self._fold)
        silence = ignore_button()
        silence.clicked.connect(self.silenced)
        for button in (self.more, silence):
            button.setStyleSheet("padding: 3px 6px;")
            row.addWidget(button)
        row.addStretch()
        box.addLayout(row)
        self._teaching = Teaching(finding.family)
        self._teaching.hide()
        box.addWidget(self._teaching)

    def _fold(self, shown: bool) -> None:
        """Show what the family teaches, with its example, or fold it away."""
        if shown:
            self._teaching.show_example()
        self._teaching.setVisible(shown)
        self.resized.emit()
