"""One open page: its document, its editor, its views and its disk, made for one another."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING

from redcrate.core.collecting import collect_seldom
from redcrate.core.files.recovery import RecoveryFolder
from redcrate.core.session.changes import Change, Listener, Listeners
from redcrate.core.session.disk import Disk
from redcrate.core.session.document import Document
from redcrate.core.session.editor import Editor
from redcrate.core.session.views import Views

if TYPE_CHECKING:  # the families are loaded by those who look for findings
    from redcrate.core.findings.finding import Finding

DEFAULT_WIDTHS = (1100, 820, 390)


class Session:
    """What is open. Every command of the program is a function of one of its parts, or below them.

    document: the files and their texts. views: pages, selection, preview. editor: what changes the
    document. disk: saving, changes from outside, unsaved work. found: the findings that are told at each
    window width, px, as they were when somebody last looked.
    """

    def __init__(
        self, path: Path, width: float = DEFAULT_WIDTHS[0], recovery: RecoveryFolder | None = None
    ) -> None:
        """Open `path`; raises PageNotReadable with a sentence if it cannot be read.

        width: of the window that it is seen in first, px. recovery: where unsaved steps are kept.
        """
        collect_seldom()
        self._listeners = Listeners()
        self.document = Document(path)
        self.views = Views(self.document, width, self._listeners)
        self.editor = Editor(self.document, self.views, self._listeners)
        self.disk = Disk(self.document, self.editor, recovery)
        self.found: Mapping[float, Sequence[Finding]] = {}

    @property
    def widths(self) -> tuple[float, ...]:
        """The window widths that the page is looked at, px: its settings file's, or the usual ones."""
        return self.document.settings.widths or DEFAULT_WIDTHS

    def keep_widths(self, widths: Iterable[float]) -> None:
        """Look at the page in windows of these widths from now on, px, widest first; kept beside the page.

        Raises PageNotWritable; they hold all the same.
        """
        settings = replace(self.document.settings, widths=tuple(sorted(widths, reverse=True)))
        try:
            self.document.keep_settings(settings)
        finally:
            self._listeners.tell(Change.WIDTHS)

    def keep_found(self, found: "Mapping[float, Sequence[Finding]]") -> None:
        """Tell everybody what was found at each window width, px."""
        self.found = found
        self._listeners.tell(Change.FINDINGS)

    def listen(self, listener: Listener) -> None:
        """Tell `listener` about every change from now on."""
        self._listeners.add(listener)

    def unlisten(self, listener: Listener) -> None:
        """Tell `listener` no more."""
        self._listeners.remove(listener)
