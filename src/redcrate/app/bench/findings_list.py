"""The findings: what is wrong or suspicious, why, and fixes that are seen before they are taken."""

from collections.abc import Generator
from pathlib import Path

from PyQt6.QtCore import QEvent, QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QColor, QEnterEvent, QFocusEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.bench.heading import heading
from redcrate.app.painting.page_painter import PagePainter
from redcrate.app.theme.look import colour
from redcrate.core.document import Resources, assemble
from redcrate.core.errors import RedCrateError
from redcrate.core.findings import FAMILIES, Finding, Fix, Severity
from redcrate.core.findings.checking import is_silenced, place_of
from redcrate.core.findings.finding import MakeFix
from redcrate.core.findings.register import finding_steps, verify
from redcrate.core.markup import SourceText
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page, compute_page
from redcrate.core.page_settings import PageSettings, read_settings, write_settings
from redcrate.core.session import Change, Session
from redcrate.core.style.media import Viewport

_IDLE_MS = 350  # after the last change
_EXAMPLE_WIDTH = 240


class Example(QWidget):
    """A little page that shows a family, laid out and painted by the real engine."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._page: Page | None = None
        self._painter: PagePainter | None = None
        self.setFixedHeight(86)
        self.setAccessibleName("A small example")

    def show_family(self, name: str) -> None:
        """Show the example of a family."""
        resources = Resources(Path("example.html"))
        text = f"<!doctype html><style>html{{font:12px 'Liberation Sans'}}body{{margin:8px}}</style>{FAMILIES[name].example}"
        source = SourceText("example", text)
        self._page = compute_page(assemble(source, resources).page, Viewport(_EXAMPLE_WIDTH, 80))
        self._painter = PagePainter(self._page, resources)
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the example."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor("#ffffff"))
        if self._painter is not None:
            self._painter.paint(painter, QRectF(0, 0, self.width(), self.height()), 1.0)
        painter.setPen(colour("hairline"))
        painter.drawRect(self.rect().adjusted(0, 0, -1, -1))


class FixButton(QPushButton):
    """A fix; hovered or focused it asks to be shown."""

    looked_at = pyqtSignal(bool)

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


class FindingsList(QWidget):
    """The list with what is known of the chosen finding below it; looked for while nothing else happens."""

    renewed = pyqtSignal()
    previewed = pyqtSignal(object)
    lit = pyqtSignal(object)
    place_wanted = pyqtSignal(str, int)
    said = pyqtSignal(str, bool)

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.findings: tuple[Finding, ...] = ()
        self._all: tuple[Finding, ...] = ()
        self._steps: Generator[str, None, list[Finding]] | None = None
        self._ways: list[MakeFix] = []
        self.fixes: list[Fix] = []
        self.settings: PageSettings = read_settings(session.path)
        self.list = QListWidget()
        self.list.setWordWrap(True)
        self.list.setTextElideMode(Qt.TextElideMode.ElideNone)
        self.list.setResizeMode(QListWidget.ResizeMode.Adjust)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.setAccessibleName("Findings")
        self.list.currentRowChanged.connect(self._chosen)
        self.count = QLabel("")
        self._build()
        self._idle = QTimer(self)
        self._idle.setSingleShot(True)
        self._idle.setInterval(_IDLE_MS)
        self._idle.timeout.connect(self._begin)
        self._step = QTimer(self)
        self._step.setInterval(0)
        self._step.timeout.connect(self._go_on)
        session.listen(self._changed)
        self._idle.start()

    def _build(self) -> None:
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addWidget(heading("Findings", "F8 goes on"))
        self.count.setStyleSheet("padding: 0 12px 6px 12px;")
        box.addWidget(self.count)
        box.addWidget(self.list, 3)
        inside = QWidget()
        self._details = QVBoxLayout(inside)
        self._details.setContentsMargins(12, 8, 12, 8)
        self._details.setSpacing(6)
        scroll = QScrollArea()
        scroll.setWidget(inside)
        scroll.setWidgetResizable(True)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        box.addWidget(scroll, 4)

    # -- looking

    def _changed(self, change: Change) -> None:
        if change is Change.PAGE:
            self._step.stop()
            self._idle.start()

    def _begin(self) -> None:
        self._steps = finding_steps(self._session.page, self._session.texts())
        self._step.start()

    def _go_on(self) -> None:
        """One family, or one fix to be verified, a turn of the event loop."""
        if self._steps is not None:
            try:
                next(self._steps)
            except StopIteration as end:
                self._steps = None
                self._show(tuple(end.value))
        elif self._ways:
            self._verify_next()
        else:
            self._step.stop()

    def look_now(self) -> tuple[Finding, ...]:
        """The findings at once, for those who cannot wait."""
        self._idle.stop()
        self._begin()
        while self._steps is not None:
            self._go_on()
        return self.findings

    def _show(self, found: tuple[Finding, ...]) -> None:
        self._all = found
        chosen = self.current.key if self.current is not None else None
        self.findings = tuple(f for f in found if not is_silenced(f, self.settings))
        self.list.blockSignals(True)
        self.list.clear()
        for finding in self.findings:
            item = QListWidgetItem(f"{finding.severity.shape}  {finding.sentence}")
            item.setToolTip(FAMILIES[finding.family].title)
            if finding.severity is Severity.BREAKS:
                item.setForeground(QColor(colour("problem")))
            self.list.addItem(item)
        keys = [f.key for f in self.findings]
        self.list.setCurrentRow(keys.index(chosen) if chosen in keys else -1)
        self.list.blockSignals(False)
        self.count.setText(self.counts() or "Nothing found at this width.")
        self._chosen(self.list.currentRow(), select=False)
        self.renewed.emit()

    def counts(self) -> str:
        """How many of each severity, with its shape."""
        numbers = [(s, sum(f.severity is s for f in self.findings)) for s in Severity]
        hidden = len(self._all) - len(self.findings)
        parts = [f"{s.shape} {n}" for s, n in numbers if n]
        return "   ".join([*parts, *([f"{hidden} silenced"] if hidden else [])])

    @property
    def elements(self) -> set[Element]:
        """The elements that a finding is about, its first one each."""
        return {f.elements[0] for f in self.findings if f.elements}

    # -- the chosen one

    @property
    def current(self) -> Finding | None:
        """The finding that is chosen."""
        row = self.list.currentRow()
        return self.findings[row] if 0 <= row < len(self.findings) else None

    def go(self, step: int) -> None:
        """Choose the next (or the previous) finding, round the end."""
        if not self.findings:
            self.look_now()
        if not self.findings:
            self.said.emit("Nothing was found at this width.", False)
            return
        row = self.list.currentRow()
        self.list.setCurrentRow(
            (row + step) % len(self.findings) if row >= 0 or step > 0 else len(self.findings) - 1
        )

    def _chosen(self, row: int, *, select: bool = True) -> None:
        self._clear()
        finding = self.current
        self._ways, self.fixes = [], []
        self.previewed.emit(None)
        self.lit.emit(())
        if finding is None:
            return
        shown = tuple(e for e in finding.elements if e.index >= 0)
        if select and shown:
            self._session.select(shown[0])
            self.lit.emit(shown[1:])
        self._describe(finding)
        self._ways = list(finding.ways)
        self._step.start()

    def _describe(self, finding: Finding) -> None:
        family = FAMILIES[finding.family]
        self._line(finding.sentence)
        if finding.cause is not None and finding.cause.line:
            cause = finding.cause
            button = QPushButton(
                f"{' '.join(cause.selector.split())[:60]}, {cause.file} line {cause.line}"
            )
            button.setToolTip("Show it on the Source screen")
            button.setStyleSheet(
                "text-align: left; border: none; text-decoration: underline; padding: 0;"
            )
            button.clicked.connect(lambda: self.place_wanted.emit(cause.file, cause.line))
            self._details.addWidget(button)
        self._fixes = QVBoxLayout()
        self._fixes.setSpacing(4)
        self._waiting = QLabel("Working out fixes …" if finding.ways else "")
        self._waiting.setStyleSheet(f"color: {colour('second_ink').name()};")
        self._details.addLayout(self._fixes)
        self._details.addWidget(self._waiting)
        row = QHBoxLayout()
        silence = QPushButton("Silence it here")
        silence.setToolTip("Say no more of this on this element; kept beside the page")
        silence.clicked.connect(self.silence)
        row.addWidget(silence)
        row.addStretch()
        self._details.addLayout(row)
        self._line(family.title, bold=True)
        self._line(family.teaches)
        example = Example()
        example.show_family(finding.family)
        self._details.addWidget(example)
        self._details.addStretch()

    def _line(self, text: str, *, bold: bool = False) -> None:
        label = QLabel(text)
        label.setWordWrap(True)
        label.setIndent(0)
        label.setStyleSheet(f"font-weight: {'bold' if bold else 'normal'};")
        self._details.addWidget(label)

    def _clear(self) -> None:
        stack = [self._details]
        while stack:
            layout = stack.pop()
            while layout.count():
                item = layout.takeAt(0)
                if item is None:
                    continue
                widget, inner = item.widget(), item.layout()
                if widget is not None:
                    widget.setParent(None)
                    widget.deleteLater()
                elif inner is not None:
                    stack.append(inner)  # type: ignore[arg-type]

    # -- fixes

    def _verify_next(self) -> None:
        finding = self.current
        way = self._ways.pop(0)
        if finding is None:
            self._ways.clear()
            return
        fix = verify(way, finding, self._all, self._session.tried)
        if fix is not None and len(self.fixes) < 4:
            self.fixes.append(fix)
            self._fixes.addWidget(self._fix_button(fix))
        if not self._ways:
            self._waiting.setText("" if self.fixes else "No fix holds: see to it by hand.")

    def fixes_now(self) -> list[Fix]:
        """The verified fixes of the chosen finding, for those who cannot wait."""
        while self._ways:
            self._verify_next()
        return self.fixes

    def _fix_button(self, fix: Fix) -> FixButton:
        button = FixButton(fix.sentence[0].upper() + fix.sentence[1:])
        button.setStyleSheet("text-align: left;")
        button.setToolTip(f"{fix.sentence}. Shown on the sheet while you look at it.")
        button.looked_at.connect(lambda looked: self.preview(fix if looked else None))
        button.clicked.connect(lambda: self.take(fix))
        return button

    def preview(self, fix: Fix | None) -> None:
        """Show on the sheet what a fix does; None: the page as it is."""
        try:
            self.previewed.emit(self._session.preview(fix.patch) if fix is not None else None)
        except RedCrateError:
            self.previewed.emit(None)

    def take(self, fix: Fix) -> None:
        """Do a fix, as one undo step."""
        self.previewed.emit(None)
        try:
            self._session.apply(fix.patch)
        except RedCrateError as problem:
            self.said.emit(problem.sentence, True)
            return
        self.said.emit(f"Done: {fix.sentence}.", False)

    def silence(self) -> None:
        """Tell the chosen finding no more on its element; kept beside the page."""
        finding = self.current
        if finding is None:
            return
        first = finding.elements[0] if finding.elements else None
        self.settings = self.settings.with_silenced(finding.family, place_of(first))
        try:
            write_settings(self._session.path, self.settings)
        except RedCrateError as problem:
            self.said.emit(problem.sentence, True)
        self._show(self._all)
