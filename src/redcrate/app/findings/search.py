"""Looking for findings while nothing else happens: when, where, at which widths, and which fixes hold. No widget.

The width that is worked at is looked at first, then the page's others; a large page by a surveyor, another process. Then
the causes' fixes are tried, which tells what follows from what. The list of the bench shows what is known here; every
screen that wants findings reads them here or in the session.
"""

from collections.abc import Callable, Generator
from time import sleep

from PyQt6.QtCore import QCoreApplication, QObject, QTimer, pyqtSignal

from redcrate.app.pauses import pause_ms
from redcrate.core.errors import RedCrateError
from redcrate.core.files.settings import PageSettings
from redcrate.core.findings import Finding, Fix
from redcrate.core.findings.at_widths import Held, held_at, is_cause, with_causes
from redcrate.core.findings.breaks import told_between
from redcrate.core.findings.checking import is_silenced, is_told, place_of
from redcrate.core.findings.finding import Key
from redcrate.core.findings.register import finding_steps
from redcrate.core.findings.surveyor import FarVerifier, Surveyor
from redcrate.core.findings.verifying import MOST_FIXES, Verifier, without_names
from redcrate.core.processes import WorkersLost
from redcrate.core.session import Change, Session
from redcrate.core.style.media import Viewport
from redcrate.core.widths.looking import worker_count

_IDLE_MS = 220  # after the last change
_ANSWER_MS = 15  # between two looks whether a process has answered
_LAST = object()
Found = dict[float, tuple[Finding, ...]]  # by width, px


def _is_done(steps: Generator[None, None, None]) -> bool:
    """Take one step; whether it was the last one."""
    return next(steps, _LAST) is _LAST


def _first_place(finding: Finding) -> str:
    return place_of(finding.elements[0] if finding.elements else None)


class FindingsSearch(QObject):
    """What is known of the session's findings.

    held: them with their widths, ranked. fixes: of the finding whose fixes are tried. renewed: `held` is another one.
    fix_found: one more fix holds. all_tried: so they are all. failed: a sentence.
    """

    renewed = pyqtSignal()
    fix_found = pyqtSignal(object)
    all_tried = pyqtSignal()
    failed = pyqtSignal(str)

    def __init__(self, session: Session, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.held: tuple[Held, ...] = ()
        self.found: Found = {}
        self.widths: tuple[float, ...] = ()
        self.fixes: list[Fix] = []
        self.reader: object = None  # in which of the lists a finding is read
        self.read: Key | None = None  # which one that is
        self.minor = False  # whether advice that most can do without is told
        self.tries_again = False  # the fixes that were being tried are about an earlier text
        self._steps: Generator[None, None, None] | None = None
        self._trying: Generator[None, None, None] | None = None  # the fixes of one finding
        self._tracing: Generator[None, None, None] | None = None  # which findings are effects of others
        self._verifier: Verifier | FarVerifier | None = None
        self._traced: Verifier | FarVerifier | None = None  # that has tried the causes' fixes
        self._surveyor: Surveyor | None = None  # who looks, where a page is large
        self._surveyor_failed = False
        self._source: object = None  # of the pages that the findings and their fixes are about
        self._idle = QTimer(self)
        self._idle.setSingleShot(True)
        self._idle.setInterval(pause_ms(_IDLE_MS))
        self._idle.timeout.connect(self._begin)
        self._step = QTimer(self)
        self._step.setInterval(0)
        self._step.timeout.connect(self._go_on)
        session.listen(self._changed)
        self._idle.start()

    # -- what is known

    @property
    def findings(self) -> tuple[Finding, ...]:
        """The findings in the order in which they are told."""
        return tuple(h.finding for h in self.held)

    @property
    def knows_all(self) -> bool:
        """Whether all widths were looked at since the last change, and causes are traced."""
        looked = set(self.found) == set(self.widths) and not self._idle.isActive()
        return looked and self._steps is None and self._tracing is None

    @property
    def knows_fixes(self) -> bool:
        """Whether all fixes that are wanted were tried."""
        return self._trying is None

    @property
    def is_current(self) -> bool:
        """Whether the page is still the one that was looked at; fixes know their places in its text alone."""
        return self._session.views.page.source is self._source

    @property
    def minor_count(self) -> int:
        """How many pieces of advice there are that most can do without."""
        return len(self._held_of(lambda f: f.minor and not is_silenced(f, self._settings)))

    @property
    def silenced(self) -> set[Key]:
        """The findings that are told no more."""
        return {f.key for those in self.found.values() for f in those if is_silenced(f, self._settings)}

    def mended_too(self, finding: Finding) -> list[str]:
        """The sentences of the findings that its first fix mends too."""
        keys = self._verifier.mends_too(finding) if self._verifier is not None else frozenset()
        return [f.sentence for f in self.findings if f.key in keys]

    @property
    def ignored(self) -> tuple[Held, ...]:
        """The findings that are told no more, each for itself."""
        return self._held_of(lambda f: is_silenced(f, self._settings), fold=False)

    # -- what others want

    def tell_minor(self, wanted: bool) -> None:
        """Tell advice that most can do without too, or no more."""
        self.minor = wanted
        self._tell(self.found, self._traced)

    def silence(self, finding: Finding) -> None:
        """Tell a finding no more on its element; kept beside the page."""
        self._keep(self._settings.with_silenced(finding.family, _first_place(finding)))

    def tell_again(self, finding: Finding) -> None:
        """Tell a finding again that was silenced on its element, or its family on all."""
        kept = self._settings.without_silenced(finding.family, _first_place(finding))
        self._keep(kept.without_silenced(finding.family, "*"))

    def _keep(self, settings: PageSettings) -> None:
        try:
            self._session.document.keep_settings(settings)
        except RedCrateError as problem:
            self.failed.emit(problem.sentence)
        self._tell(self.found, self._traced)

    def try_fixes(self, finding: Finding | None) -> None:
        """Try the ways of a finding, one after the other; none any more for None."""
        self.fixes, self.tries_again = [], False
        self._trying = None if finding is None else self._trying_fixes(finding)
        if finding is not None:
            self._step.start()  # as often as before

    def look_now(self) -> tuple[Finding, ...]:
        """The findings at once, for those who cannot wait."""
        self._idle.stop()
        self._begin()
        while self._steps is not None:
            self._go_on()
            self._pause()
        return self.findings

    def fixes_now(self) -> list[Fix]:
        """The verified fixes that are wanted, for those who cannot wait."""
        while self._trying is not None or self.tries_again:
            self._go_on()
            self._pause()
        return self.fixes

    def _pause(self) -> None:
        """Whoever cannot wait leaves another process the time that it needs."""
        if self._surveyor is not None:
            sleep(pause_ms(_ANSWER_MS) / 1000)

    # -- when

    def _changed(self, change: Change) -> None:
        if change in (Change.PAGE, Change.WIDTHS):
            self._step.stop()
            self._idle.start()
        elif change is Change.BROKEN and self.is_current:
            self._tell(self.found)

    def _begin(self) -> None:
        now = self._session.views.viewport.width
        self.widths = (now, *(w for w in self._session.widths if w != now))
        if self._surveyor is not None and self._trying is not None:  # it answers no more
            self._trying, self.tries_again = None, True
        self._engage()
        self._steps = self._looking()
        self._tracing = self._traced = None
        self._step.start(pause_ms(_ANSWER_MS) if self._surveyor is not None else 0)

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
                self.failed.emit(problem.sentence)
        elif self._trying is not None:
            self._trying = None if _is_done(self._trying) else self._trying
        elif self._tracing is not None:
            self._tracing = None if _is_done(self._tracing) else self._tracing
        else:
            self._step.stop()

    # -- where

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

    # -- looking

    def _looking(self) -> Generator[None, None, None]:
        """One family at one width a step; told after the first width, and when all are known."""
        found: Found = {}
        for width in self.widths:
            found[width] = tuple((yield from self._look_at(width)))
            if len(found) in (1, len(self.widths)):
                self._tell(dict(found))
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
        self._tell(self.found, verifier)

    def _trying_fixes(self, finding: Finding) -> Generator[None, None, None]:
        """The ways of a finding; what holds is told at once."""
        verifier = self._verifier
        if verifier is None:
            return
        for way in finding.ways:
            fix = (yield from verifier.steps(way, finding)) if len(self.fixes) < MOST_FIXES else None
            if fix is not None:
                self.fixes.append(fix)
                self.fix_found.emit(fix)
        self.all_tried.emit()

    # -- telling

    def _tell(self, found: Found, verifier: Verifier | FarVerifier | None = None) -> None:
        """Take over what was found. verifier: one that has tried the causes' fixes on it already."""
        self.found = found
        settings, minor = self._settings, self.minor
        told = {w: [f for f in those if is_told(f, settings, minor=minor)] for w, those in found.items()}
        self._session.keep_found(told)
        held = held_at(told, of=len(self.widths))
        if verifier is not None:
            held = with_causes(held, {h.finding.key: verifier.mends_too(h.finding) for h in held})
        self.held = (*held, *self._between())
        self._source = self._session.views.page.source
        self._verifier = self._new_verifier(found) if verifier is None else verifier
        self.renewed.emit()

    def _new_verifier(self, found: Found) -> Verifier | FarVerifier:
        """Who tries fixes of these findings."""
        if self._surveyor is not None:
            return FarVerifier(self._surveyor)
        pages = {width: self._session.views.page_at(width) for width in found}
        trial = self._session.document.trial()
        height = self._session.views.viewport.height
        near = next(iter(pages.values()), None)
        return Verifier(
            pages,
            found,
            self._session.editor.tried_at_widths,
            lambda width: (trial.page(Viewport(width, height), near), trial.texts),
        )

    @property
    def _settings(self) -> PageSettings:
        return self._session.document.settings

    def _held_of(self, is_wanted: Callable[[Finding], bool], *, fold: bool = True) -> tuple[Held, ...]:
        wanted = {w: [f for f in those if is_wanted(f)] for w, those in self.found.items()}
        return held_at(wanted, of=len(self.widths), fold=fold)

    def _between(self) -> list[Held]:
        """What breaks where none of the page's widths looks, if that was searched for."""
        return [
            Held(told_between(b), (float(b.ranges[0].least),))
            for b in self._session.broken
            if not b.holds_at(self.widths) and not is_silenced(b.finding, self._settings)
        ]
