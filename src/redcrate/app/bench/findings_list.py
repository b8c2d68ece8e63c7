"""The findings: what is wrong or suspicious, why, and fixes that are seen before they are taken."""

from collections.abc import Generator

from PyQt6.QtCore import QRect, QSize, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QColor, QResizeEvent
from PyQt6.QtWidgets import QLabel, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from redcrate.app.bench.heading import heading
from redcrate.app.bench.opened_finding import OpenedFinding
from redcrate.app.theme.look import colour
from redcrate.core.errors import RedCrateError
from redcrate.core.findings import FAMILIES, Finding, Fix, Severity
from redcrate.core.findings.checking import is_silenced, place_of
from redcrate.core.findings.finding import MakeFix
from redcrate.core.findings.register import finding_steps, verify
from redcrate.core.markup.elements import Element
from redcrate.core.session import Change, Session

_IDLE_MS = 350  # after the last change
_NUMBER = Qt.ItemDataRole.UserRole  # which finding a row is; the opened one's own row has none


class FindingsList(QWidget):
    """The list; the chosen finding opens in place with its cause and its fixes.

    Looked for while nothing else happens.
    """

    renewed = pyqtSignal()
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
        self.opened: OpenedFinding | None = None
        self.list = QListWidget()
        self.list.setWordWrap(True)
        self.list.setTextElideMode(Qt.TextElideMode.ElideNone)
        self.list.setResizeMode(QListWidget.ResizeMode.Adjust)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOn)  # one width for all
        self.list.setVerticalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        self.list.setAccessibleName("Findings")
        self.list.currentItemChanged.connect(lambda now, _: self._chosen(now))
        self.count = QLabel("")
        self.count.setStyleSheet("padding: 0 12px 6px 12px;")
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addWidget(heading("Findings", "Alt+N goes on"))
        box.addWidget(self.count)
        box.addWidget(self.list, 1)
        self._idle = QTimer(self)
        self._idle.setSingleShot(True)
        self._idle.setInterval(_IDLE_MS)
        self._idle.timeout.connect(self._begin)
        self._step = QTimer(self)
        self._step.setInterval(0)
        self._step.timeout.connect(self._go_on)
        session.listen(self._changed)
        self._idle.start()

    # -- looking

    def _changed(self, change: Change) -> None:
        if change is Change.PAGE:
            self._step.stop()
            self._idle.start()

    def _begin(self) -> None:
        self._steps = finding_steps(self._session.views.page, self._session.document.texts())
        self._step.start()

    def _go_on(self) -> None:
        """One family, or one fix to be verified, a turn of the event loop."""
        if self._steps is not None:
            try:
                next(self._steps)
            except StopIteration as end:
                self._steps = None
                self._show(tuple(end.value))
            except RedCrateError as problem:  # what was found before stays
                self._steps = None
                self.said.emit(problem.sentence, True)
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
        self.findings = tuple(f for f in found if not is_silenced(f, self._session.document.settings))
        self.list.blockSignals(True)
        self.opened = None
        self.list.clear()
        for number, finding in enumerate(self.findings):
            item = QListWidgetItem(f"{finding.severity.shape}  {finding.sentence}")
            item.setData(_NUMBER, number)
            item.setToolTip(FAMILIES[finding.family].title)
            if finding.severity is Severity.BREAKS:
                item.setForeground(QColor(colour("problem")))
            self.list.addItem(item)
        keys = [f.key for f in self.findings]
        self.list.setCurrentRow(keys.index(chosen) if chosen in keys else -1)
        self.list.blockSignals(False)
        self.count.setText(self.counts() or "Nothing found at this width.")
        self._fit_rows()
        self._chosen(self.list.currentItem(), select=False)
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
        item = self.list.currentItem()
        number = item.data(_NUMBER) if item is not None else None
        return self.findings[number] if isinstance(number, int) else None

    def choose(self, number: int) -> None:
        """Choose a finding by its number in `findings`."""
        rows = (self.list.item(row) for row in range(self.list.count()))
        self.list.setCurrentItem(next(i for i in rows if i is not None and i.data(_NUMBER) == number))

    def go(self, step: int) -> None:
        """Choose the next (or the previous) finding, round the end."""
        if not self.findings:
            self.look_now()
        if not self.findings:
            self.said.emit("Nothing was found at this width.", False)
            return
        now = self.current
        at = self.findings.index(now) + step if now is not None else 0 if step > 0 else -1
        self.choose(at % len(self.findings))

    def _chosen(self, item: QListWidgetItem | None, *, select: bool = True) -> None:
        """Open the finding of an item in place; the one that was open closes."""
        if item is not None and item.data(_NUMBER) is None:
            return  # the opened one's own row
        self._close()
        finding = self.current
        self._ways, self.fixes = [], []
        self._session.views.preview(self, None)
        self.lit.emit(())
        if finding is None or item is None:
            return
        shown = tuple(e for e in finding.elements if e.index >= 0)
        if select and shown:
            self._session.views.select(shown[0])
            self.lit.emit(shown[1:])
        self._open(finding, self.list.row(item))
        self._ways = list(finding.ways)
        self._step.start()

    def _open(self, finding: Finding, row: int) -> None:
        opened = OpenedFinding(finding)
        opened.place_wanted.connect(self.place_wanted)
        opened.silenced.connect(self.silence)
        opened.previewed.connect(self.preview)
        opened.taken.connect(self.take)
        opened.resized.connect(self._fit_rows)
        place = QListWidgetItem()
        place.setFlags(Qt.ItemFlag.NoItemFlags)  # the arrow keys go past it
        self.list.insertItem(row + 1, place)
        self.list.setItemWidget(place, opened)
        self.opened = opened
        self._fit_rows()
        self.list.scrollToItem(self.list.item(row), QListWidget.ScrollHint.PositionAtTop)

    def _fit_rows(self) -> None:
        """Every row is as high as what it says at the present width."""
        viewport = self.list.viewport()
        if viewport is None:
            return
        room = QRect(0, 0, viewport.width() - 26, 1000)
        for item in (self.list.item(row) for row in range(self.list.count())):
            if item is None:
                continue
            if self.opened is not None and self.list.itemWidget(item) is self.opened:
                item.setSizeHint(QSize(60, self.opened.height_in(viewport.width())))
            else:
                words = self.list.fontMetrics().boundingRect(
                    room, int(Qt.TextFlag.TextWordWrap), item.text()
                )
                item.setSizeHint(QSize(60, words.height() + 12))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Sentences wrap anew."""
        super().resizeEvent(event)
        self._fit_rows()

    def _close(self) -> None:
        rows = [self.list.item(row) for row in range(self.list.count())]
        self.list.blockSignals(True)
        for item in rows:
            if item is not None and item.data(_NUMBER) is None:
                self.list.removeItemWidget(item)
                self.list.takeItem(self.list.row(item))
        self.list.blockSignals(False)
        self.opened = None

    # -- fixes

    def _verify_next(self) -> None:
        finding = self.current
        way = self._ways.pop(0)
        if finding is None:
            self._ways.clear()
            return
        fix = verify(way, finding, self._all, self._session.editor.tried)
        if fix is not None and len(self.fixes) < 4:
            self.fixes.append(fix)
            if self.opened is not None:
                self.opened.add_fix(fix)
        if not self._ways and self.opened is not None:
            self.opened.all_known(bool(self.fixes))

    def fixes_now(self) -> list[Fix]:
        """The verified fixes of the chosen finding, for those who cannot wait."""
        while self._ways:
            self._verify_next()
        return self.fixes

    def preview(self, fix: Fix | None) -> None:
        """Show on the sheet what a fix does; None: the page as it is."""
        try:
            self._session.views.preview(
                self, self._session.editor.page_after(fix.patch) if fix is not None else None
            )
        except RedCrateError:
            self._session.views.preview(self, None)

    def take(self, fix: Fix) -> None:
        """Do a fix, as one undo step."""
        self._session.views.preview(self, None)
        try:
            self._session.editor.apply(fix.patch)
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
        document = self._session.document
        try:
            document.keep_settings(document.settings.with_silenced(finding.family, place_of(first)))
        except RedCrateError as problem:
            self.said.emit(problem.sentence, True)
        self._show(self._all)
