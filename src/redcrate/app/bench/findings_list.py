"""The findings beside the sheet: what is wrong or suspicious, why, and fixes that are seen before they are taken."""

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtGui import QColor, QShowEvent
from PyQt6.QtWidgets import QCheckBox, QHBoxLayout, QListWidgetItem, QPushButton, QVBoxLayout, QWidget

from redcrate.app.findings.opened import OpenedFinding
from redcrate.app.findings.reading import FindingsReader
from redcrate.app.findings.search import FindingsSearch
from redcrate.app.sentence_list import SentenceList
from redcrate.app.theme.heading import heading
from redcrate.app.theme.look import colour
from redcrate.app.theme.plain import Label, plain_tip
from redcrate.core.findings import FAMILIES, Finding, Fix, Severity
from redcrate.core.findings.at_widths import Held
from redcrate.core.findings.finding import Key
from redcrate.core.markup.elements import Element
from redcrate.core.session import Session


class FindingsList(QWidget):
    """The list; the chosen finding opens in place with its cause and its fixes."""

    renewed = pyqtSignal()
    all_wanted = pyqtSignal()  # the screen where they are read at length
    place_wanted = pyqtSignal(str, int)

    def __init__(self, session: Session, search: FindingsSearch, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.search = search
        self.reader = FindingsReader(session, search, self)
        self.lit, self.said = self.reader.lit, self.reader.said
        self.held: tuple[Held, ...] = ()
        self._source: object = None  # of the page that is listed
        self.opened: OpenedFinding | None = None
        self.list = SentenceList("Findings")
        self.list.currentItemChanged.connect(lambda now, _: self._chosen(now))
        self.count = Label("Looking …")
        self.count.setStyleSheet("padding: 0 12px 6px 12px;")
        self.minor = QCheckBox("")
        self.minor.setStyleSheet("padding: 0 12px 6px 0;")
        self.minor.setToolTip("Minor advice, such as rules of shared stylesheets that match no element")
        self.minor.toggled.connect(search.tell_minor)
        more = QPushButton("Show in Findings")
        more.setToolTip("Show findings in groups, each with its drawing and explanation")
        more.setStyleSheet("padding: 3px 6px;")
        more.clicked.connect(self.all_wanted)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addWidget(heading("Findings", "Alt+N: next"))
        line = QHBoxLayout()
        line.addWidget(self.count, 1)
        line.addWidget(self.minor)
        box.addLayout(line)
        box.addWidget(self.list, 1)
        last = QHBoxLayout()
        last.setContentsMargins(12, 6, 12, 6)
        last.addWidget(more)
        last.addStretch()
        box.addLayout(last)
        search.renewed.connect(self._renew)
        self.reader.fix_found.connect(self._fix_found)
        self.reader.all_tried.connect(self._all_tried)
        if search.found:
            self._renew()

    # -- the rows

    @property
    def findings(self) -> tuple[Finding, ...]:
        """The findings in the order of the list."""
        return tuple(h.finding for h in self.held)

    def _renew(self) -> None:
        """List what is known; what is read stays open where nothing of it has changed."""
        search = self.search
        count = search.minor_count
        self.minor.blockSignals(True)
        self.minor.setChecked(search.minor)
        self.minor.blockSignals(False)
        self.minor.setText(f"Minor advice ({count})")
        self.minor.setVisible(bool(count))  # who has none is not asked
        words = self.reader.words
        unlike = [words(h) for h in search.held] != [words(h) for h in self.held]
        same = self._is_shown and not unlike and not search.tries_again
        chosen = self.current.key if self.current is not None else None
        self.held, self._source = search.held, self._session.views.page.source
        if not same:
            self._fill(chosen)
        self.renewed.emit()

    @property
    def _is_shown(self) -> bool:
        """Whether what is listed is about the page as it is."""
        return self._source is self._session.views.page.source

    def _fill(self, chosen: Key | None) -> None:
        self.list.blockSignals(True)
        read = self.list.reading()
        self.opened = None
        self.list.clear()
        for one in self.held:
            item = self.list.add(self.reader.words(one), one.finding.key)
            item.setToolTip(plain_tip(FAMILIES[one.finding.family].title))
            if one.finding.severity is Severity.BREAKS:
                item.setForeground(QColor(colour("problem")))
        if self.reader.reads:
            chosen = self.reader.followed((f.key for f in self.findings), chosen)
            self.list.setCurrentItem(self.list.item_of(chosen))
        self.list.blockSignals(False)
        self.count.setText(self.counts() or self.reader.none_found())
        self.list.fit_rows()
        if self.reader.reads:
            self._chosen(self.list.currentItem(), goes=False)
        self.list.go_on_reading(read)

    def counts(self) -> str:
        """How many of each severity, with its shape."""
        return self.reader.counts()

    @property
    def elements(self) -> set[Element]:
        """The elements that a finding at the width seen now is about, its first one each."""
        now = self._session.views.viewport.width
        return {h.finding.elements[0] for h in self.held if h.finding.elements and now in h.widths}

    # -- the chosen one

    def showEvent(self, event: QShowEvent | None) -> None:
        """What was read on another screen is open here too."""
        super().showEvent(event)
        if not self.reader.reads:
            read = self.reader.take_over()
            self.list.blockSignals(True)
            self.list.setCurrentItem(self.list.item_of(read))
            self.list.blockSignals(False)
            self._chosen(self.list.currentItem(), goes=False)

    @property
    def current(self) -> Finding | None:
        """The finding that is chosen."""
        held = self._held_of(self.list.currentItem())
        return held.finding if held is not None else None

    def _held_of(self, item: QListWidgetItem | None) -> Held | None:
        key = self.list.key_of(item)
        return next((h for h in self.held if h.finding.key == key), None)

    def choose(self, number: int) -> None:
        """Choose a finding by its number in `findings`."""
        self.list.setCurrentItem(self.list.item_of(self.findings[number].key))

    def go(self, step: int) -> None:
        """Choose the next (or the previous) finding, round the end."""
        if not self.findings:
            self.search.look_now()
        if not self.findings:
            self.said.emit(self.reader.none_found(), False)
            return
        now = self.current
        at = self.findings.index(now) + step if now is not None else 0 if step > 0 else -1
        self.choose(at % len(self.findings))

    def _chosen(self, item: QListWidgetItem | None, *, goes: bool = True) -> None:
        """Open the finding of an item in place; the one that was open closes."""
        if item is not None and self.list.key_of(item) is None:
            return  # the opened one's own row
        if self.opened is not None:
            self.list.remove_part(self.opened)
            self.opened = None
        held = self._held_of(item)
        if held is not None and item is not None:
            self._open(held.finding, item, scrolls=goes)
        self.reader.read(held, goes=goes)

    def _open(self, finding: Finding, item: QListWidgetItem, *, scrolls: bool) -> None:
        opened = OpenedFinding(finding)
        opened.place_wanted.connect(self.place_wanted)
        opened.silenced.connect(self._ignore)
        opened.fixes.previewed.connect(self.reader.preview)
        opened.fixes.taken.connect(self._take)
        opened.resized.connect(self.list.fit_rows)
        self.opened = opened
        self.list.add_part_below(item, opened)
        if scrolls:
            self.list.scrollToItem(item, SentenceList.ScrollHint.PositionAtTop)

    # -- fixes

    def _take(self, fix: Fix) -> None:
        self.list.setFocus()  # the buttons of what was read go
        self.reader.take(fix)

    def _ignore(self) -> None:
        self.list.setFocus()
        self.reader.silence()

    def _fix_found(self, fix: Fix) -> None:
        """One more fix of the chosen finding holds: it is offered at once."""
        finding = self.current
        if self.opened is None or finding is None:
            return
        self.opened.fixes.add_fix(fix)
        if len(self.search.fixes) == 1:
            self.opened.fixes.tell_effects(self.search.mended_too(finding))

    def _all_tried(self) -> None:
        if self.opened is not None:
            self.opened.fixes.all_known(bool(self.search.fixes))
