"""One open page: its document, its editor, its views and its disk, made for one another."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING

from redcrate.core.collecting import collect_seldom
from redcrate.core.comp.placing import CompPlace
from redcrate.core.files.loading import Told, nobody_is_told
from redcrate.core.files.recovery import RecoveryFolder
from redcrate.core.files.settings import PageSettings
from redcrate.core.session.changes import Change, Listener, Listeners
from redcrate.core.session.disk import Disk
from redcrate.core.session.document import Document
from redcrate.core.session.editor import Editor
from redcrate.core.session.predict_first import PredictFirst
from redcrate.core.session.views import Views
from redcrate.core.style.media import DEFAULT_WIDTHS

if TYPE_CHECKING:  # the families are loaded by those who look for findings
    from redcrate.core.findings.breaks import Broken
    from redcrate.core.findings.finding import Finding


class Session:
    """What is open. Every command of the program is a function of one of its parts, or below them.

    document: the files and their texts. views: pages, selection, preview. editor: what changes the
    document. predict_first: what lets a change wait for a prediction. disk: saving,
    changes from outside, unsaved work. found: the findings that are told at each
    window width, px, as they were when somebody last looked.
    """

    def __init__(
        self,
        path: Path,
        width: float = DEFAULT_WIDTHS[0],
        recovery: RecoveryFolder | None = None,
        told: Told = nobody_is_told,
    ) -> None:
        """Open `path`; raises PageNotReadable with a sentence if it cannot be read.

        width: of the window that it is seen in first, px. recovery: where unsaved steps are kept. told: is told
        what is being read; what it raises ends the work.
        """
        collect_seldom()
        self._listeners = Listeners()
        self.document = Document(path, told)
        told("laying out the page")
        self.views = Views(self.document, width, self._listeners)
        self.editor = Editor(self.document, self.views, self._listeners)
        self.predict_first = PredictFirst(self.views, self.editor, self._listeners)
        self.disk = Disk(self.document, self.editor, recovery)
        self.found: Mapping[float, Sequence[Finding]] = {}
        self._broken: tuple[Broken, ...] = ()
        self._broken_of: object = None

    @property
    def widths(self) -> tuple[float, ...]:
        """The window widths that the page is looked at, px: its settings file's, or the usual ones."""
        return self.document.settings.widths or DEFAULT_WIDTHS

    def keep_widths(self, widths: Iterable[float]) -> None:
        """Look at the page in windows of these widths from now on, px, widest first; kept beside the page.

        Raises PageNotWritable; they hold all the same.
        """
        self._keep(replace(self.document.settings, widths=tuple(sorted(widths, reverse=True))))

    def move_width(self, width: float, to: float) -> None:
        """Look at the page in a window of another width, px, instead of one; its name goes along.

        Raises PageNotWritable; it holds all the same.
        """
        kept = self.document.settings
        names = {(to if w == width else w): n for w, n in kept.names.items()}
        widths = {(to if w == width else w) for w in self.widths}
        self._keep(replace(kept, widths=tuple(sorted(widths, reverse=True)), names=names))

    def name_width(self, width: float, name: str) -> None:
        """Call a width by a name, kept beside the page; "": no longer. Raises PageNotWritable; it holds all the same."""
        names = {w: n for w, n in self.document.settings.names.items() if w != width}
        self._keep(replace(self.document.settings, names={**names, width: name} if name else names))

    def name_of(self, width: float) -> str:
        """What the designer calls a width; "" where it has no name."""
        return self.document.settings.names.get(width, "")

    def keep_comp(self, width: float, comp: CompPlace | None) -> None:
        """Lay a picture over the page in windows of a width, kept beside the page; None: no longer.

        Raises PageNotWritable; it holds all the same.
        """
        kept = self.document.settings
        comps = {w: c for w, c in kept.comps.items() if w != width}
        comps = {**comps, width: comp} if comp is not None else comps
        try:
            self.document.keep_settings(replace(kept, comps=comps))
        finally:
            self._listeners.tell(Change.COMP)

    @property
    def comp(self) -> CompPlace | None:
        """The picture that belongs to windows of the width that is seen now."""
        return self.document.settings.comps.get(self.views.viewport.width)

    def _keep(self, settings: PageSettings) -> None:
        try:
            self.document.keep_settings(settings)
        finally:
            self._listeners.tell(Change.WIDTHS)

    def keep_found(self, found: "Mapping[float, Sequence[Finding]]") -> None:
        """Tell everybody what was found at each window width, px."""
        self.found = found
        self._listeners.tell(Change.FINDINGS)

    @property
    def broken(self) -> "tuple[Broken, ...]":
        """What breaks at any width, as it was last searched for on the page as it is now."""
        return self._broken if self._broken_of is self.views.page.source else ()

    def keep_broken(self, broken: "tuple[Broken, ...]") -> None:
        """Tell everybody what breaks at any width."""
        if broken != self.broken:
            self._broken, self._broken_of = broken, self.views.page.source
            self._listeners.tell(Change.BROKEN)

    def listen(self, listener: Listener) -> None:
        """Tell `listener` about every change from now on."""
        self._listeners.add(listener)

    def unlisten(self, listener: Listener) -> None:
        """Tell `listener` no more."""
        self._listeners.remove(listener)
