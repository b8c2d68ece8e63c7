"""One finding at length: its sentence, where its cause is written, its fixes, and what its family teaches."""

from textwrap import dedent

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QBoxLayout, QPushButton, QScrollArea, QVBoxLayout, QWidget

from redcrate.app.findings.cause import cause_of
from redcrate.app.findings.fixes import Fixes
from redcrate.app.findings.opened import ignore_button
from redcrate.app.findings.teaching import Teaching
from redcrate.app.theme.look import colour, text_font, text_px
from redcrate.app.theme.plain import Label
from redcrate.core.findings import Finding
from redcrate.core.markup import SourceText
from redcrate.core.session import Session

_TWO_COLUMNS = 620  # px: narrower, what the family teaches stands below the fixes
_AROUND = 1  # lines that are shown before and after that of the cause
_LONGEST = 200  # characters of a line


class Details(QScrollArea):
    """Beside one another where there is room: the finding with its fixes, and what its family teaches."""

    place_wanted = pyqtSignal(str, int)
    silenced = pyqtSignal()
    told_again = pyqtSignal()

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self._columns: QBoxLayout | None = None
        self.fixes: Fixes | None = None
        self.ignore: QPushButton | None = None
        self.setWidgetResizable(True)
        self.setAccessibleName("The finding that is read")
        self.say("")

    def say(self, sentence: str) -> None:
        """No finding: a sentence in its place."""
        label = Label(sentence)
        label.setWordWrap(True)
        label.setContentsMargins(14, 10, 14, 10)
        label.setAlignment(Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft)
        self._columns = self.fixes = self.ignore = None
        self._put(label)

    def _put(self, widget: QWidget) -> None:
        """Show a widget; the one before goes later: one of its buttons may have asked for it."""
        before = self.takeWidget()
        if before is not None:
            before.deleteLater()
        self.setWidget(widget)

    def show_finding(self, finding: Finding, *, ignored: bool) -> None:
        """Show a finding. ignored: it is told no more on its element."""
        whole = QWidget()
        self._columns = QBoxLayout(QBoxLayout.Direction.LeftToRight, whole)
        self._columns.setContentsMargins(14, 10, 14, 12)
        self._columns.setSpacing(24)
        teaching = Teaching(finding.family)
        teaching.show_example()
        right = QVBoxLayout()
        right.addWidget(teaching)
        right.addStretch()
        self._columns.addLayout(self._finding(finding, ignored=ignored), 3)
        self._columns.addLayout(right, 2)
        self._put(whole)
        self._turn()

    def _finding(self, finding: Finding, *, ignored: bool) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(8)
        sentence = Label(f"{finding.severity.shape}  {finding.sentence}")
        sentence.setWordWrap(True)
        sentence.setFont(text_font(14, bold=True))
        sentence.setStyleSheet(f"font-size: {text_px(14)}px; font-weight: bold;")
        column.addWidget(sentence)
        cause = cause_of(finding, self.place_wanted.emit)
        if cause is not None:
            column.addWidget(cause)
        written = self._written(finding)
        if written:
            column.addWidget(_code(written))
        self.fixes = Fixes(finding)
        self.fixes.resized.connect(self._turn)
        column.addWidget(self.fixes)
        self.ignore = ignore_button()
        if ignored:
            self.ignore.setText("Report again")
            self.ignore.setToolTip("Report this finding on this element again")
        self.ignore.clicked.connect(self.told_again if ignored else self.silenced)
        row = QBoxLayout(QBoxLayout.Direction.LeftToRight)
        row.addWidget(self.ignore)
        row.addStretch()
        column.addLayout(row)
        column.addStretch()
        return column

    def _written(self, finding: Finding) -> str:
        """The line of the cause with those around it; "" where a line is about many, or nothing was written."""
        cause, document = finding.cause, self._session.document
        if cause is None or not cause.line or finding.parts or cause.file not in document.files:
            return ""
        return quoted(document.text(cause.file), cause.line)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Two columns, or one."""
        super().resizeEvent(event)
        self._turn()

    def _turn(self) -> None:
        """Beside one another or below one another, and as high as the words then are."""
        whole, viewport = self.widget(), self.viewport()
        if self._columns is None or whole is None or viewport is None:
            return
        beside = self.width() >= _TWO_COLUMNS
        ways = QBoxLayout.Direction
        self._columns.setDirection(ways.LeftToRight if beside else ways.TopToBottom)
        self._columns.invalidate()
        whole.setMinimumHeight(self._columns.heightForWidth(viewport.width()))


def quoted(source: SourceText, line: int) -> str:
    """A line of a file and those around it with their numbers, the line itself marked."""
    lines = source.text.split("\n")
    first, last = max(1, line - _AROUND), min(len(lines), line + _AROUND)
    digits = len(str(last))
    shown = [text.rstrip("\r").expandtabs(4)[:_LONGEST] for text in lines[first - 1 : last]]
    return "\n".join(
        f"{'▸' if number == line else ' '} {number:>{digits}}  {text}"
        for number, text in enumerate(dedent("\n".join(shown)).split("\n"), first)
    )


def _code(text: str) -> QWidget:
    label = Label(text)
    label.setAccessibleName("Where it is written")
    label.setStyleSheet(
        f'font-family: "Liberation Mono"; background: {colour("field").name()}; padding: 6px 8px;'
    )
    label.setMinimumWidth(60)
    return label
