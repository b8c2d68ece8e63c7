"""The findings: what is wrong or suspicious, why, and fixes that are seen before they are taken."""

from collections.abc import Sequence

from PyQt6.QtCore import QEvent, QRect, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor
from PyQt6.QtWidgets import (
    QCheckBox,
    QHBoxLayout,
    QListWidget,
    QListWidgetItem,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.bench.opened_finding import OpenedFinding
from redcrate.app.findings_search import FindingsSearch
from redcrate.app.theme.heading import heading
from redcrate.app.theme.look import colour
from redcrate.app.theme.plain import Label, plain_tip
from redcrate.core.errors import RedCrateError
from redcrate.core.findings import FAMILIES, Finding, Fix, Severity
from redcrate.core.findings.at_widths import Held, counts_of
from redcrate.core.findings.breaks import told_between
from redcrate.core.findings.breaks_between_widths import FAMILY as BETWEEN_WIDTHS
from redcrate.core.findings.finding import Key
from redcrate.core.markup.elements import Element
from redcrate.core.session import Session
from redcrate.core.units import listed

_ITEM_PADDING = 10  # above and below what stands in a row, as the style gives it
_NUMBER = Qt.ItemDataRole.UserRole  # which finding a row is; the opened one's own row has none


class FindingsList(QWidget):
    """The list; the chosen finding opens in place with its cause and its fixes."""

    renewed = pyqtSignal()
    lit = pyqtSignal(object)
    place_wanted = pyqtSignal(str, int)
    said = pyqtSignal(str, bool)

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.search = FindingsSearch(session, self)
        self.held: tuple[Held, ...] = ()
        self._source: object = None  # of the page that is listed
        self._listed: list[Key] = []  # the findings that have a row, in their order
        self._followed: Key | None = None  # what is to be chosen as soon as it is found
        self.opened: OpenedFinding | None = None
        self.list = _list_widget()
        self.list.currentItemChanged.connect(lambda now, _: self._chosen(now))
        self.count = Label("Looking …")
        self.count.setStyleSheet("padding: 0 12px 6px 12px;")
        self.minor = QCheckBox("")
        self.minor.setStyleSheet("padding: 0 12px 6px 0;")
        self.minor.setToolTip("Minor advice, such as rules of shared stylesheets that match no element")
        self.minor.toggled.connect(self.search.tell_minor)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addWidget(heading("Findings", "Alt+N: next"))
        line = QHBoxLayout()
        line.addWidget(self.count, 1)
        line.addWidget(self.minor)
        box.addLayout(line)
        box.addWidget(self.list, 1)
        self.search.renewed.connect(self._renew)
        self.search.failed.connect(lambda sentence: self.said.emit(sentence, True))
        self.search.fix_found.connect(self._fix_found)
        self.search.all_tried.connect(self._all_tried)
        viewport = self.list.viewport()
        if viewport is not None:
            viewport.installEventFilter(self)

    # -- the rows

    def eventFilter(self, watched: object, event: QEvent | None) -> bool:
        """Rows are fitted as soon as the list has another width, so that none is cut when it is first seen."""
        if event is not None and event.type() is QEvent.Type.Resize:
            self._fit_rows()
        return False

    @property
    def findings(self) -> tuple[Finding, ...]:
        """The findings in the order of the list."""
        return tuple(h.finding for h in self.held)

    def _renew(self) -> None:
        """List what is known; what is read stays open where nothing of it has changed."""
        search = self.search
        count = search.minor_count
        self.minor.setText(f"Minor advice ({count})")
        self.minor.setVisible(bool(count))  # who has none is not asked
        unlike = [self._words(h) for h in search.held] != [self._words(h) for h in self.held]
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
        read = self._read_at()
        self.opened = None
        self.list.clear()
        for number, one in enumerate(self.held):
            finding = one.finding
            item = QListWidgetItem(self._words(one))
            item.setData(_NUMBER, number)
            item.setToolTip(plain_tip(FAMILIES[finding.family].title))
            if finding.severity is Severity.BREAKS:
                item.setForeground(QColor(colour("problem")))
            self.list.addItem(item)
        keys = [f.key for f in self.findings]
        if self._followed in keys:  # it was told as between widths, and is seen now
            chosen, self._followed = self._followed, None
        elif chosen not in keys and set(self.search.found) != set(self.search.widths):
            self._followed = chosen  # some are told when all widths are known
        self.list.setCurrentRow(keys.index(chosen) if chosen in keys else -1)
        self.list.blockSignals(False)
        self.count.setText(self.counts() or f"No findings at {self._told_widths(self.search.widths)}.")
        self._fit_rows()
        self._chosen(self.list.currentItem(), select=False)
        self._go_on_reading(read)

    def _read_at(self) -> tuple[Key, int] | None:
        """The finding at the upper end of what is seen, and where its row begins."""
        for row in range(self.list.count()):
            item = self.list.item(row)
            number = item.data(_NUMBER) if item is not None else None
            place = self.list.visualItemRect(item)
            if isinstance(number, int) and place.bottom() > 0 and number < len(self._listed):
                return self._listed[number], place.top()
        return None

    def _go_on_reading(self, read: tuple[Key, int] | None) -> None:
        """New rows come without moving what is read."""
        self._listed = [f.key for f in self.findings]
        bar = self.list.verticalScrollBar()
        if read is None or read[0] not in self._listed or bar is None:
            return
        if not bar.value() and self.current is None:
            return  # nobody reads further down: the worst is at the top
        number = self._listed.index(read[0])
        rows = (self.list.item(row) for row in range(self.list.count()))
        item = next(i for i in rows if i is not None and i.data(_NUMBER) == number)
        bar.setValue(bar.value() + self.list.visualItemRect(item).top() - read[1])

    def _words(self, held: Held) -> str:
        """A finding's row: its shape and sentence, and its widths where it is not there at all of them."""
        under = "↳ " if held.because_of is not None else ""
        text = f"{under}{held.finding.severity.shape}  {held.finding.sentence}"
        if set(held.widths) >= set(self.search.widths) or held.finding.family == BETWEEN_WIDTHS.name:
            return text
        return f"{text}  At {self._told_widths(held.widths)}."

    def _told_widths(self, widths: Sequence[float]) -> str:
        return f"{listed([f'{width:g}' for width in sorted(widths)])} px"

    def counts(self) -> str:
        """How many of each severity, with its shape."""
        numbers = counts_of(self.findings).items()
        hidden = self.search.silenced
        parts = [f"{s.shape} {n}" for s, n in numbers if n]
        return "   ".join([*parts, *([f"{len(hidden)} ignored"] if hidden else [])])

    @property
    def elements(self) -> set[Element]:
        """The elements that a finding at the width seen now is about, its first one each."""
        now = self._session.views.viewport.width
        return {h.finding.elements[0] for h in self.held if h.finding.elements and now in h.widths}

    # -- the chosen one

    @property
    def current(self) -> Finding | None:
        """The finding that is chosen."""
        held = self._current
        return held.finding if held is not None else None

    @property
    def _current(self) -> Held | None:
        item = self.list.currentItem()
        number = item.data(_NUMBER) if item is not None else None
        return self.held[number] if isinstance(number, int) and number < len(self.held) else None

    def choose(self, number: int) -> None:
        """Choose a finding by its number in `findings`."""
        rows = (self.list.item(row) for row in range(self.list.count()))
        self.list.setCurrentItem(next(i for i in rows if i is not None and i.data(_NUMBER) == number))

    def go(self, step: int) -> None:
        """Choose the next (or the previous) finding, round the end."""
        if not self.findings:
            self.search.look_now()
        if not self.findings:
            self.said.emit(f"No findings at {self._told_widths(self.search.widths)}.", False)
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
        self.search.try_fixes(None)
        self._session.views.preview(self, None)
        self.lit.emit(())
        if finding is None or item is None:
            return
        shown = tuple(e for e in finding.elements if e.index >= 0)
        if select:
            self._followed = None
            self._go_where_it_is_seen()
        if select and shown:
            self._session.views.select(shown[0])
            self.lit.emit(shown[1:])
        self._open(finding, self.list.row(item), scrolls=select)
        self.search.try_fixes(finding)

    def _go_where_it_is_seen(self) -> None:
        """See the page at the nearest width at which the chosen finding holds."""
        held, now = self._current, self._session.views.viewport.width
        if held is not None and now not in held.widths:
            between = (b for b in self._session.broken if told_between(b).key == held.finding.key)
            self._followed = next((b.finding.key for b in between), None)
            self._session.views.set_width(min(held.widths, key=lambda w: abs(w - now)))

    def _open(self, finding: Finding, row: int, *, scrolls: bool) -> None:
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
        if scrolls:
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
                item.setSizeHint(QSize(60, self.opened.height_in(viewport.width()) + _ITEM_PADDING))
            else:
                words = self.list.fontMetrics().boundingRect(
                    room, int(Qt.TextFlag.TextWordWrap), item.text()
                )
                item.setSizeHint(QSize(60, words.height() + 12))

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

    def _fix_found(self, fix: Fix) -> None:
        """One more fix of the chosen finding holds: it is offered at once."""
        finding = self.current
        if self.opened is None or finding is None:
            return
        self.opened.add_fix(fix)
        if len(self.search.fixes) == 1:
            self.opened.tell_effects(self.search.mended_too(finding))

    def _all_tried(self) -> None:
        if self.opened is not None:
            self.opened.all_known(bool(self.search.fixes))

    def preview(self, fix: Fix | None) -> None:
        """Show on the sheet what a fix does; None: the page as it is."""
        shown = fix if self.search.is_current else None
        try:
            self._session.predict_first.preview(self, shown.patch if shown is not None else None)
        except RedCrateError:
            self._session.views.preview(self, None)

    def take(self, fix: Fix) -> None:
        """Do a fix, as one undo step."""
        self._session.views.preview(self, None)
        if not self.search.is_current:
            self.said.emit("The page has changed: its fixes are computed again.", False)
            return
        try:
            done = self._session.predict_first.offer(fix.patch, said=fix.sentence)
        except RedCrateError as problem:
            self.said.emit(problem.sentence, True)
            return
        if done:
            self.said.emit(f"Fixed: {fix.told}.", False)

    def silence(self) -> None:
        """Tell the chosen finding no more on its element."""
        if self.current is not None:
            self.search.silence(self.current)


def _list_widget() -> QListWidget:
    """The list, in which sentences wrap."""
    made = QListWidget()
    made.setWordWrap(True)
    made.setTextElideMode(Qt.TextElideMode.ElideNone)
    made.setResizeMode(QListWidget.ResizeMode.Adjust)
    made.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    made.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOn)  # one width for all
    made.setVerticalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
    made.setAccessibleName("Findings")
    return made
