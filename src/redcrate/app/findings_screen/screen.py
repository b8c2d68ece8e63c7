"""The Findings screen: the list in groups, beside it the page where a finding holds, its cause and its fixes."""

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import (
    QButtonGroup,
    QCheckBox,
    QListWidgetItem,
    QPushButton,
    QSplitter,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.chooser import Chooser, labels_of
from redcrate.app.findings.reading import FindingsReader
from redcrate.app.findings.search import FindingsSearch
from redcrate.app.findings_screen.details import Details
from redcrate.app.findings_screen.grouping import TITLES, Grouping, grouped
from redcrate.app.flowing import Flowing
from redcrate.app.screen import Screen
from redcrate.app.sentence_list import SentenceList
from redcrate.app.settings import Settings
from redcrate.app.sheet.looking_sheet import LookingSheet
from redcrate.app.theme.look import colour
from redcrate.app.theme.plain import Label, plain_tip
from redcrate.core.findings import FAMILIES, Finding, Fix, Severity
from redcrate.core.findings.at_widths import Held, counts_of
from redcrate.core.findings.finding import Key
from redcrate.core.session import Change, Session
from redcrate.core.units import format_number

_CHOOSE = "Choose a finding to see it on the page, with its cause and fixes."


class FindingsScreen(Screen):
    """What was found, read at length."""

    def __init__(self, session: Session, search: FindingsSearch, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.search = search
        self.reader = FindingsReader(session, search, self)
        self._rows: list[str] = []  # what titles and rows say
        self._source: object = None  # of the page that is listed
        self.by = Chooser("Group by", labels_of(Grouping))
        self.shown = {severity: QPushButton() for severity in Severity}
        self.minor = QCheckBox()
        self.ignored = QCheckBox()
        self.words = Label("")
        self.list = SentenceList("Findings")
        self.sheet = LookingSheet(session, session.views, self)
        self.widths: dict[float, QPushButton] = {}
        self._width_group = QButtonGroup(self)
        self._width_row = Flowing()
        self._seen_at = Label("")
        self.details = Details(session)
        self._build()
        self._connect()
        session.listen(self._changed)

    # -- parts

    def _build(self) -> None:
        right = QSplitter(Qt.Orientation.Vertical)
        right.setChildrenCollapsible(False)
        right.addWidget(self._page_side())
        right.addWidget(self.details)
        right.setSizes([360, 300])
        self.split = QSplitter(Qt.Orientation.Horizontal)
        self.split.setChildrenCollapsible(False)
        self.split.addWidget(self.list)
        self.split.addWidget(right)
        self.split.setStretchFactor(1, 1)
        self.split.setSizes([430, 850])
        self.list.setMinimumWidth(220)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addLayout(self._bar())
        box.addWidget(self.split, 1)

    def _bar(self) -> Flowing:
        bar = Flowing()
        bar.setContentsMargins(12, 6, 12, 6)
        bar.setSpacing(6)
        bar.addWidget(Label("Group by"))
        bar.addWidget(self.by)
        for severity, button in self.shown.items():
            button.setCheckable(True)
            button.setChecked(True)
            button.setToolTip(plain_tip(f"Show or hide: {TITLES[severity]}"))
            bar.addWidget(button)
        for box in (self.minor, self.ignored):
            bar.addWidget(box)
        self.minor.setToolTip("Minor advice, such as rules of shared stylesheets that match no element")
        self.ignored.setToolTip("Findings that you ignore on their element")
        bar.addWidget(self.words)
        bar.spring()
        for name, step in (("Previous", -1), ("Next", 1)):
            button = QPushButton(name)
            keys = "Alt+N" if step > 0 else "Alt+Shift+N"
            button.setToolTip(plain_tip(f"{name} finding  ({keys})"))
            button.clicked.connect(lambda _=False, s=step: self.go_to_finding(s))
            bar.addWidget(button)
        return bar

    def _page_side(self) -> QWidget:
        """The page, and at which of its widths the finding holds."""
        side = QWidget()
        column = QVBoxLayout(side)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self._width_row.setContentsMargins(12, 4, 12, 6)
        self._width_row.setSpacing(6)
        self._seen_at.setStyleSheet(f"color: {colour('second_ink').name()};")
        column.addLayout(self._width_row)
        column.addWidget(self.sheet, 1)
        return side

    def _connect(self) -> None:
        self.by.taken.connect(self._fill)
        for button in self.shown.values():
            button.toggled.connect(lambda _: self._fill())
        self.minor.toggled.connect(self.search.tell_minor)
        self.ignored.toggled.connect(lambda _: self._fill())
        self.list.currentItemChanged.connect(lambda now, _: self._chosen(now, goes=True))
        self.search.renewed.connect(self._renew)
        self.reader.said.connect(self.said)
        self.reader.lit.connect(self.sheet.light_up)
        self.reader.fix_found.connect(self._fix_found)
        self.reader.all_tried.connect(self._all_tried)
        self.details.place_wanted.connect(lambda file, line: self.wanted.emit("source", (file, line)))
        self.details.silenced.connect(self._ignore)
        self.details.told_again.connect(self._tell_again)

    # -- rows

    @property
    def listed(self) -> tuple[Held, ...]:
        """The findings that are listed, in the order of the rows."""
        return tuple(h for _, group in self._groups() for h in group)

    def _groups(self) -> list[tuple[str, list[Held]]]:
        shown = [h for h in self.search.held if self.shown[h.finding.severity].isChecked()]
        groups = grouped(shown, self.by.chosen)
        ignored = list(self.search.ignored) if self.ignored.isChecked() else []
        return [*groups, ("Ignored", ignored)] if ignored else groups

    def _told(self) -> list[str]:
        return [
            text for title, group in self._groups() for text in (title, *map(self.reader.words, group))
        ]

    def _renew(self) -> None:
        """Bring the list up to date where it is seen; what is read stays open where nothing of it has changed."""
        if not self.isVisible():
            return
        same = self._told() == self._rows and self._source is self._session.views.page.source
        self._tell_counts()
        if not same or self.search.tries_again:
            self._fill()

    def _tell_counts(self) -> None:
        counts = counts_of(self.search.findings)
        for severity, button in self.shown.items():
            number = f" {counts[severity]}" if self.search.found else ""
            button.setText(f"{severity.shape}{number}")
            button.setAccessibleName(f"{TITLES[severity]}: {counts[severity]}")
        minor, ignored = self.search.minor_count, len(self.search.ignored)
        self.minor.setText(f"Minor advice ({minor})")
        self.minor.setVisible(bool(minor))
        self.ignored.setText(f"Ignored ({ignored})")
        self.ignored.setVisible(bool(ignored) or self.ignored.isChecked())
        self.minor.blockSignals(True)
        self.minor.setChecked(self.search.minor)
        self.minor.blockSignals(False)
        self.words.setText("" if self.search.found else "Looking …")

    def _fill(self) -> None:
        """All rows anew; what is read stays where it is."""
        held = self._held_of(self.list.currentItem())
        chosen = held.finding.key if held is not None else self.search.read
        place = self.list.reading()
        self.list.blockSignals(True)
        self.list.clear()
        for title, group in self._groups():
            self.list.add_title(title)
            for number, one in enumerate(group):
                self._add(one, under=number > 0)
        chosen = self.reader.followed((h.finding.key for h in self.listed), chosen)
        self.list.setCurrentItem(self.list.item_of(chosen))
        self.list.blockSignals(False)
        self._rows = self._told()
        self._source = self._session.views.page.source
        self._tell_counts()
        self.list.fit_rows()
        self._chosen(self.list.currentItem(), goes=False)
        self.list.go_on_reading(place)

    def _add(self, held: Held, *, under: bool) -> None:
        """under: there is a row above it in its group, which may be that of its cause."""
        words = self.reader.words(held)
        item = self.list.add(words if under else words.removeprefix("↳ "), held.finding.key)
        item.setToolTip(plain_tip(FAMILIES[held.finding.family].title))
        if held.finding.severity is Severity.BREAKS:
            item.setForeground(colour("problem"))

    def _held_of(self, item: QListWidgetItem | None) -> Held | None:
        key = self.list.key_of(item)
        known = (*self.search.held, *self.search.ignored) if key is not None else ()
        return next((h for h in known if h.finding.key == key), None)

    # -- what is read

    @property
    def current(self) -> Finding | None:
        """The finding that is read."""
        held = self._held_of(self.list.currentItem())
        return held.finding if held is not None else None

    def go_to_finding(self, step: int) -> None:
        """Read the next (or the previous) finding of the list, round the end."""
        keys = [h.finding.key for h in self.listed]
        if not keys:
            self.said.emit(self._nothing(), False)
            return
        now = self.current
        at = keys.index(now.key) + step if now is not None else 0 if step > 0 else -1
        item = self.list.item_of(keys[at % len(keys)])
        self.list.setCurrentItem(item)
        self.list.scrollToItem(item)

    def _chosen(self, item: QListWidgetItem | None, *, goes: bool) -> None:
        held = self._held_of(item)
        if held is None:
            self.details.say(_CHOOSE if self.listed else self._nothing())
        else:
            self._show(held)
        self.reader.read(held, goes=goes)
        self._lay_widths()

    def _nothing(self) -> str:
        if not self.search.found:
            return "The page is being checked …"
        if self.search.findings:
            return "No finding has a severity that is shown. Select a severity above."
        return self.reader.none_found()

    def _show(self, held: Held) -> None:
        ignored = held.finding.key in self.search.silenced
        self.details.show_finding(held.finding, ignored=ignored)
        fixes = self.details.fixes
        assert fixes is not None
        fixes.previewed.connect(self.reader.preview)
        fixes.taken.connect(self._take)

    def _take(self, fix: Fix) -> None:
        self.list.setFocus()  # the buttons of what was read go
        self.reader.take(fix)
        if self._session.predict_first.waiting is not None:  # it is asked on the bench
            self.wanted.emit("bench", None)

    def _ignore(self) -> None:
        self.list.setFocus()
        self.reader.silence()

    def _tell_again(self) -> None:
        self.list.setFocus()
        finding = self.current
        if finding is not None:
            self.search.tell_again(finding)

    def _fix_found(self, fix: Fix) -> None:
        fixes, finding = self.details.fixes, self.current
        if fixes is None or finding is None:
            return
        fixes.add_fix(fix)
        if len(self.search.fixes) == 1:
            fixes.tell_effects(self.search.mended_too(finding))

    def _all_tried(self) -> None:
        if self.details.fixes is not None:
            self.details.fixes.all_known(bool(self.search.fixes))

    # -- widths

    def _lay_widths(self) -> None:
        """A button for each width at which what is read holds."""
        held, now = self.reader.current, self._session.views.viewport.width
        wanted = tuple(sorted({*(held.widths if held is not None else ()), now}, reverse=True))
        if tuple(self.widths) != wanted:
            self._make_width_buttons(wanted)
        for width, button in self.widths.items():
            button.setChecked(width == now)
        holds = held is None or now in held.widths
        self._seen_at.setText("" if holds else f"Not at {format_number(now)} px")

    def _make_width_buttons(self, widths: tuple[float, ...]) -> None:
        while self._width_row.count():
            item = self._width_row.takeAt(0)
            widget = item.widget() if item is not None else None
            if isinstance(widget, QPushButton):
                self._width_group.removeButton(widget)
            if widget is not None and widget is not self._seen_at:
                widget.hide()
                widget.deleteLater()
        self.widths = {}
        self._width_row.addWidget(Label("The page at"))
        for width in widths:
            button = QPushButton(f"{format_number(width)} px")
            button.setCheckable(True)
            button.clicked.connect(lambda _=False, w=width: self._session.views.set_width(w))
            self._width_group.addButton(button)
            self._width_row.addWidget(button)
            self.widths[width] = button
        self._width_row.addWidget(self._seen_at)

    # -- the session and the screen

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """What is read stays in view."""
        super().resizeEvent(event)
        QTimer.singleShot(0, self._show_selected)

    def _show_selected(self) -> None:
        if self._session.views.selected is not None:
            self.sheet.show_element(self._session.views.selected)

    def _changed(self, change: Change) -> None:
        if not self.isVisible():
            return
        if change is Change.PAGE:
            self._lay_widths()
        if change in (Change.PAGE, Change.SELECTION):
            self._show_selected()

    def enter(self) -> None:
        """What was read on the bench is read here."""
        read = self.reader.take_over()
        self._open(read)
        self.list.setFocus()
        self._show_selected()

    def _open(self, key: Key | None) -> None:
        self.list.blockSignals(True)
        self.list.setCurrentItem(self.list.item_of(key))
        self.list.blockSignals(False)
        self._fill()

    def notes_over(self) -> QWidget:
        """The sheet: nothing is moved by a note."""
        return self.sheet

    def forget_pictures(self) -> None:
        """Read the page's pictures again."""
        self.sheet.forget_pictures()

    def keep(self, settings: Settings) -> None:
        """Remember how the parts are laid out."""
        settings.keep_bytes("findings", self.split.saveState().data())

    def restore(self, settings: Settings) -> None:
        """Lay the parts out as they were."""
        state = settings.bytes_of("findings")
        if state:
            self.split.restoreState(state)
