"""The findings: what is wrong or suspicious, why, and fixes that are seen before they are taken."""

from collections.abc import Generator, Sequence
from time import sleep

from PyQt6.QtCore import QCoreApplication, QRect, QSize, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QColor, QResizeEvent
from PyQt6.QtWidgets import (
    QCheckBox,
    QHBoxLayout,
    QListWidget,
    QListWidgetItem,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.bench.opened_finding import OpenedFinding
from redcrate.app.pauses import pause_ms
from redcrate.app.theme.heading import heading
from redcrate.app.theme.look import colour
from redcrate.app.theme.plain import Label, plain_tip
from redcrate.core.errors import RedCrateError
from redcrate.core.findings import FAMILIES, Finding, Fix, Severity
from redcrate.core.findings.at_widths import Held, counts_of, held_at, is_cause, with_causes
from redcrate.core.findings.breaks import told_between
from redcrate.core.findings.breaks_between_widths import FAMILY as BETWEEN_WIDTHS
from redcrate.core.findings.checking import is_silenced, is_told, place_of
from redcrate.core.findings.finding import Key
from redcrate.core.findings.register import finding_steps
from redcrate.core.findings.surveyor import FarVerifier, Surveyor
from redcrate.core.findings.verifying import MOST_FIXES, Verifier, without_names
from redcrate.core.markup.elements import Element
from redcrate.core.processes import WorkersLost
from redcrate.core.session import Change, Session
from redcrate.core.style.media import Viewport
from redcrate.core.units import listed
from redcrate.core.widths.looking import worker_count

_ITEM_PADDING = 10  # above and below what stands in a row, as the style gives it
_IDLE_MS = 220  # after the last change
_ANSWER_MS = 15  # between two looks whether a process has answered
_LAST = object()
_NUMBER = Qt.ItemDataRole.UserRole  # which finding a row is; the opened one's own row has none


def _is_done(steps: Generator[None, None, None]) -> bool:
    """Take one step; whether it was the last one."""
    return next(steps, _LAST) is _LAST


class FindingsList(QWidget):
    """The list; the chosen finding opens in place with its cause and its fixes.

    Looked for while nothing else happens: at the width that is worked at first, then at the page's others.
    """

    renewed = pyqtSignal()
    lit = pyqtSignal(object)
    place_wanted = pyqtSignal(str, int)
    said = pyqtSignal(str, bool)

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.held: tuple[Held, ...] = ()
        self._found: dict[float, tuple[Finding, ...]] = {}
        self._widths: tuple[float, ...] = ()
        self._steps: Generator[None, None, None] | None = None
        self._verifier: Verifier | FarVerifier | None = None
        self._traced: Verifier | FarVerifier | None = None  # that has tried the causes' fixes
        self._surveyor: Surveyor | None = None  # who looks, where a page is large
        self._surveyor_failed = False
        self._reopens = False  # the fixes of the opened finding are to be tried anew
        self._followed: Key | None = None  # what is to be chosen as soon as it is found
        self._source: object = None  # of the pages that the findings and their fixes are about
        self._trying: Generator[None, None, None] | None = None  # the fixes of the chosen finding
        self._tracing: Generator[None, None, None] | None = None  # which findings are effects of others
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
        self.count = Label("")
        self.count.setStyleSheet("padding: 0 12px 6px 12px;")
        self.minor = QCheckBox("")
        self.minor.setStyleSheet("padding: 0 12px 6px 0;")
        self.minor.setToolTip(
            "Advice that most pages can do without, such as rules of shared sheets that no element matches"
        )
        self.minor.toggled.connect(lambda _: self._show(self._found, self._traced))
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addWidget(heading("Findings", "Alt+N goes on"))
        line = QHBoxLayout()
        line.addWidget(self.count, 1)
        line.addWidget(self.minor)
        box.addLayout(line)
        box.addWidget(self.list, 1)
        self._idle = QTimer(self)
        self._idle.setSingleShot(True)
        self._idle.setInterval(pause_ms(_IDLE_MS))
        self._idle.timeout.connect(self._begin)
        self._step = QTimer(self)
        self._step.setInterval(0)
        self._step.timeout.connect(self._go_on)
        session.listen(self._changed)
        self._idle.start()

    # -- looking

    def _changed(self, change: Change) -> None:
        if change in (Change.PAGE, Change.WIDTHS):
            self._step.stop()
            self._idle.start()
        elif change is Change.BROKEN and self._is_current():
            self._show(self._found)

    def _begin(self) -> None:
        now = self._session.views.viewport.width
        self._widths = (now, *(w for w in self._session.widths if w != now))
        if self._surveyor is not None and self._trying is not None:  # it answers no more
            self._trying, self._reopens = None, True
        if not self._found:
            self.count.setText("Looking …")
        self._engage()
        self._steps = self._looking()
        self._tracing = self._traced = None
        self._step.start(pause_ms(_ANSWER_MS) if self._surveyor is not None else 0)

    def _engage(self) -> None:
        """Have a large page looked at by another process: whatever it takes, the window goes on."""
        views = self._session.views
        if self._surveyor_failed or not worker_count(views.page):
            self._dismiss()
            return
        if self._surveyor is None:
            self._surveyor = Surveyor()
            application = QCoreApplication.instance()
            for end in (self.destroyed, *([application.aboutToQuit] if application else [])):
                end.connect(self._surveyor.close)
        try:
            self._surveyor.renew(self._session.document.trial().snapshot(), views.viewport.height)
        except WorkersLost:
            self._surveyor_failed = True
            self._dismiss()

    def _dismiss(self) -> None:
        if self._surveyor is not None:
            self._surveyor.close()
        self._surveyor = None

    def _looking(self) -> Generator[None, None, None]:
        """One family at one width a step; shown after the first width, and when all are known."""
        found: dict[float, tuple[Finding, ...]] = {}
        for width in self._widths:
            found[width] = tuple((yield from self._look_at(width)))
            if len(found) in (1, len(self._widths)):
                self._show(dict(found))
        self._tracing = self._tracing_causes()

    def _look_at(self, width: float) -> Generator[None, None, list[Finding]]:
        """The findings at a width."""
        root = self._session.views.page.source.markup.root
        if self._surveyor is not None:
            told = yield from self._surveyor.look(width)
            return [one.on(root) for one in told]
        texts = self._session.document.texts()
        page = self._session.views.page_at(width)
        yield
        return (yield from without_names(finding_steps(page, texts)))

    def _go_on(self) -> None:
        """One family, or one fix to be verified, a turn of the event loop."""
        try:
            self._take_step()
        except WorkersLost:  # what is not known yet is found out here
            self._surveyor_failed = True
            self._begin()

    def _take_step(self) -> None:
        if self._steps is not None:
            try:
                self._steps = None if _is_done(self._steps) else self._steps
            except RedCrateError as problem:  # what was found before stays
                self._steps = None
                self.said.emit(problem.sentence, True)
        elif self._trying is not None:
            self._trying = None if _is_done(self._trying) else self._trying
        elif self._tracing is not None:
            self._tracing = None if _is_done(self._tracing) else self._tracing
        else:
            self._step.stop()

    def look_now(self) -> tuple[Finding, ...]:
        """The findings at once, for those who cannot wait."""
        self._idle.stop()
        self._begin()
        while self._steps is not None:
            self._go_on()
            self._pause()
        return self.findings

    def _pause(self) -> None:
        """Whoever cannot wait leaves another process the time that it needs."""
        if self._surveyor is not None:
            sleep(pause_ms(_ANSWER_MS) / 1000)

    def _tracing_causes(self) -> Generator[None, None, None]:
        """Which findings the first fix of an earlier one mends too: those stand under it."""
        verifier = self._verifier
        if verifier is None:
            return
        for held in self.held:
            if is_cause(held.finding):
                for way in held.finding.ways:
                    if (yield from verifier.steps(way, held.finding)) is not None:
                        break
        self._traced = verifier
        self._show(self._found, verifier)

    @property
    def knows_all(self) -> bool:
        """Whether all widths were looked at since the last change, and causes are traced."""
        looked = set(self._found) == set(self._widths) and not self._idle.isActive()
        return looked and self._steps is None and self._tracing is None

    @property
    def findings(self) -> tuple[Finding, ...]:
        """The findings in the order of the list."""
        return tuple(h.finding for h in self.held)

    def _show(
        self, found: dict[float, tuple[Finding, ...]], verifier: Verifier | FarVerifier | None = None
    ) -> None:
        """List what was found. verifier: one that has tried the causes' fixes on it already."""
        settings = self._session.document.settings
        minor = self.minor.isChecked()
        told = {w: [f for f in those if is_told(f, settings, minor=minor)] for w, those in found.items()}
        self._session.keep_found(told)
        self._count_minor(found)
        held = held_at(told, of=len(self._widths))
        if verifier is not None:
            held = with_causes(held, {h.finding.key: verifier.mends_too(h.finding) for h in held})
        held = (*held, *self._between())
        unlike = [self._words(h) for h in held] != [self._words(h) for h in self.held]
        same = self._is_current() and not unlike and not self._reopens
        self._reopens = False
        chosen = self.current.key if self.current is not None else None
        self._take_over(found, held, verifier)
        if same:  # nothing that is read has changed: what is open stays open
            self.renewed.emit()
            return
        self.list.blockSignals(True)
        self.opened = None
        self.list.clear()
        for number, one in enumerate(held):
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
        elif chosen not in keys and set(found) != set(self._widths):
            self._followed = chosen  # some are told when all widths are known
        self.list.setCurrentRow(keys.index(chosen) if chosen in keys else -1)
        self.list.blockSignals(False)
        self.count.setText(self.counts() or f"Nothing found at {self._told_widths(self._widths)}.")
        self._fit_rows()
        self._chosen(self.list.currentItem(), select=False)
        self.renewed.emit()

    def _count_minor(self, found: dict[float, tuple[Finding, ...]]) -> None:
        """Say how many minor ones there are; who has none is not asked."""
        settings = self._session.document.settings
        known = {
            w: [f for f in those if f.minor and not is_silenced(f, settings)]
            for w, those in found.items()
        }
        count = len(held_at(known, of=len(self._widths)))
        self.minor.setText(f"Minor advice ({count})")
        self.minor.setVisible(bool(count))

    def _between(self) -> list[Held]:
        """What breaks where none of the page's widths looks, if that was searched for."""
        settings = self._session.document.settings
        return [
            Held(told_between(b), (float(b.ranges[0].least),))
            for b in self._session.broken
            if not b.holds_at(self._widths) and not is_silenced(b.finding, settings)
        ]

    def _take_over(
        self,
        found: dict[float, tuple[Finding, ...]],
        held: tuple[Held, ...],
        verifier: Verifier | FarVerifier | None,
    ) -> None:
        self._found, self.held, self._verifier = found, held, verifier
        self._source = self._session.views.page.source
        if verifier is None and self._surveyor is not None:
            self._verifier = FarVerifier(self._surveyor)
        elif verifier is None:
            pages = {width: self._session.views.page_at(width) for width in found}
            trial = self._session.document.trial()
            height = self._session.views.viewport.height
            near = next(iter(pages.values()), None)
            self._verifier = Verifier(
                pages,
                found,
                self._session.editor.tried_at_widths,
                lambda width: (trial.page(Viewport(width, height), near), trial.texts),
            )

    def _is_current(self) -> bool:
        """Whether the page is still the one that was looked at; fixes know their places in its text alone."""
        return self._session.views.page.source is self._source

    def _words(self, held: Held) -> str:
        """A finding's row: its shape and sentence, and its widths where it is not there at all of them."""
        under = "↳ " if held.because_of is not None else ""
        text = f"{under}{held.finding.severity.shape}  {held.finding.sentence}"
        if set(held.widths) >= set(self._widths) or held.finding.family == BETWEEN_WIDTHS.name:
            return text
        return f"{text}  At {self._told_widths(held.widths)}."

    def _told_widths(self, widths: Sequence[float]) -> str:
        return f"{listed([f'{width:g}' for width in sorted(widths)])} px"

    def counts(self) -> str:
        """How many of each severity, with its shape."""
        numbers = counts_of(self.findings).items()
        settings = self._session.document.settings
        hidden = {f.key for those in self._found.values() for f in those if is_silenced(f, settings)}
        parts = [f"{s.shape} {n}" for s, n in numbers if n]
        return "   ".join([*parts, *([f"{len(hidden)} silenced"] if hidden else [])])

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
            self.look_now()
        if not self.findings:
            self.said.emit(f"Nothing was found at {self._told_widths(self._widths)}.", False)
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
        self._trying, self.fixes = None, []
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
        self._open(finding, self.list.row(item))
        self._trying = self._trying_fixes(finding)
        self._step.start()  # as often as before

    def _go_where_it_is_seen(self) -> None:
        """See the page at the nearest width at which the chosen finding holds."""
        held, now = self._current, self._session.views.viewport.width
        if held is not None and now not in held.widths:
            between = (b for b in self._session.broken if told_between(b).key == held.finding.key)
            self._followed = next((b.finding.key for b in between), None)
            self._session.views.set_width(min(held.widths, key=lambda w: abs(w - now)))

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
                item.setSizeHint(QSize(60, self.opened.height_in(viewport.width()) + _ITEM_PADDING))
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

    def _trying_fixes(self, finding: Finding) -> Generator[None, None, None]:
        """The ways of the chosen finding, tried one after the other; what holds is offered at once."""
        verifier = self._verifier
        if verifier is None:
            return
        for way in finding.ways:
            fix = (yield from verifier.steps(way, finding)) if len(self.fixes) < MOST_FIXES else None
            if fix is not None and self.opened is not None:
                self.fixes.append(fix)
                self.opened.add_fix(fix)
                if len(self.fixes) == 1:
                    self.opened.tell_effects(self._effects_of(finding))
        if self.opened is not None:
            self.opened.all_known(bool(self.fixes))

    @property
    def knows_fixes(self) -> bool:
        """Whether all fixes of the chosen finding were tried."""
        return self._trying is None

    def _effects_of(self, finding: Finding) -> list[str]:
        """The sentences of the findings that its first fix mends too."""
        keys = self._verifier.mends_too(finding) if self._verifier is not None else frozenset()
        return [f.sentence for f in self.findings if f.key in keys]

    def fixes_now(self) -> list[Fix]:
        """The verified fixes of the chosen finding, for those who cannot wait."""
        while self._trying is not None or self._reopens:
            self._go_on()
            self._pause()
        return self.fixes

    def preview(self, fix: Fix | None) -> None:
        """Show on the sheet what a fix does; None: the page as it is."""
        shown = fix if self._is_current() else None
        try:
            self._session.predict_first.preview(self, shown.patch if shown is not None else None)
        except RedCrateError:
            self._session.views.preview(self, None)

    def take(self, fix: Fix) -> None:
        """Do a fix, as one undo step."""
        self._session.views.preview(self, None)
        if not self._is_current():
            self.said.emit("The page has changed since: its fixes are being worked out anew.", False)
            return
        try:
            done = self._session.predict_first.offer(fix.patch, said=fix.sentence)
        except RedCrateError as problem:
            self.said.emit(problem.sentence, True)
            return
        if done:
            self.said.emit(f"Done: {fix.told}.", False)

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
        self._show(self._found, self._traced)
