"""Reading findings: what choosing one, looking at a fix and taking it do to the session, whichever list it is done in."""

from collections.abc import Iterable

from PyQt6.QtCore import QObject, pyqtSignal

from redcrate.app.findings.search import FindingsSearch
from redcrate.core.errors import RedCrateError
from redcrate.core.findings import Finding, Fix
from redcrate.core.findings.at_widths import Held, counts_of
from redcrate.core.findings.breaks import told_between
from redcrate.core.findings.breaks_between_widths import FAMILY as BETWEEN_WIDTHS
from redcrate.core.findings.finding import Key
from redcrate.core.session import Session
from redcrate.core.units import listed


class FindingsReader(QObject):
    """One list's reader. Of several readers one reads at a time: whoever chose last, or is seen.

    lit: the other elements of what is read. said: a sentence, and whether it tells of something wrong. fix_found, all_tried:
    about the fixes of what is read here.
    """

    lit = pyqtSignal(object)
    said = pyqtSignal(str, bool)
    fix_found = pyqtSignal(object)
    all_tried = pyqtSignal()

    def __init__(self, session: Session, search: FindingsSearch, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.search = search
        self.current: Held | None = None
        self._followed: Key | None = None  # what is to be chosen as soon as it is found
        search.failed.connect(lambda sentence: self.said.emit(sentence, True) if self.reads else None)
        search.fix_found.connect(lambda fix: self.fix_found.emit(fix) if self.reads else None)
        search.all_tried.connect(lambda: self.all_tried.emit() if self.reads else None)

    @property
    def reads(self) -> bool:
        """Whether what is read is read here."""
        return self.search.reader is self

    def take_over(self) -> Key | None:
        """Read here from now on; the key of what was read elsewhere, or here."""
        self.search.reader = self
        return self.search.read

    def read(self, held: Held | None, *, goes: bool) -> None:
        """Read a finding, or none: its fixes are tried.

        goes: the page is seen where it holds, and its element is selected.
        """
        self.search.reader = self
        self.current = held
        self.search.read = held.finding.key if held is not None else None
        self.search.try_fixes(None)
        self._session.views.preview(self, None)
        self.lit.emit(())
        if held is None:
            return
        if goes:
            self._followed = None
            self._go_where_it_is_seen(held)
            self._select(held.finding)
        self.search.try_fixes(held.finding)

    def _select(self, finding: Finding) -> None:
        shown = tuple(e for e in finding.elements if e.index >= 0)
        if shown:
            self._session.views.select(shown[0])
            self.lit.emit(shown[1:])

    def _go_where_it_is_seen(self, held: Held) -> None:
        """See the page at the nearest width at which the finding holds."""
        now = self._session.views.viewport.width
        if now not in held.widths:
            between = (b for b in self._session.broken if told_between(b).key == held.finding.key)
            self._followed = next((b.finding.key for b in between), None)
            self._session.views.set_width(min(held.widths, key=lambda w: abs(w - now)))

    def followed(self, keys: Iterable[Key], read: Key | None) -> Key | None:
        """Which of the findings that are listed now is the one that was read; None: it is not there (yet)."""
        listed_now = set(keys)
        if self._followed in listed_now:  # it was told as between widths, and is seen now
            read, self._followed = self._followed, None
        elif read not in listed_now and set(self.search.found) != set(self.search.widths):
            self._followed = read  # some are told when all widths are known
        return read if read in listed_now else None

    # -- words

    def words(self, held: Held) -> str:
        """A finding's row: its shape and sentence, and its widths where it is not there at all of them."""
        under = "↳ " if held.because_of is not None else ""
        text = f"{under}{held.finding.severity.shape}  {held.finding.sentence}"
        if set(held.widths) >= set(self.search.widths) or held.finding.family == BETWEEN_WIDTHS.name:
            return text
        return f"{text}  At {told_widths(held.widths)}."

    def counts(self) -> str:
        """How many of each severity, with its shape."""
        numbers = counts_of(self.search.findings).items()
        hidden = self.search.silenced
        parts = [f"{s.shape} {n}" for s, n in numbers if n]
        return "   ".join([*parts, *([f"{len(hidden)} ignored"] if hidden else [])])

    def none_found(self) -> str:
        """What is said where nothing was found."""
        return f"No findings at {told_widths(self.search.widths)}."

    # -- fixes

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
        """Tell what is read no more on its element."""
        if self.current is not None:
            self.search.silence(self.current.finding)


def told_widths(widths: Iterable[float]) -> str:
    """Widths in words, from the narrowest."""
    return f"{listed([f'{width:g}' for width in sorted(widths)])} px"
