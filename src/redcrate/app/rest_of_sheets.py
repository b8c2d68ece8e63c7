"""The rest of large stylesheets, read off the interface thread: their notices come when all rules were read."""

from contextlib import suppress

from PyQt6.QtCore import QObject, QRunnable, QThreadPool, pyqtSignal

from redcrate.core.errors import RedCrateError
from redcrate.core.notices import Notice
from redcrate.core.page import Page, PageSource


class _Read(QObject):
    done = pyqtSignal()


class _Reading(QRunnable):
    def __init__(self, source: PageSource, read: _Read) -> None:
        super().__init__()
        self._source = source
        self._read = read

    def run(self) -> None:
        """Read all; a fault of ours is met again by who asks for the notices."""
        try:
            with suppress(RedCrateError):
                _ = self._source.notices
        finally:
            self._read.done.emit()


class RestOfSheets(QObject):
    """The notices of the page that is shown. known: they can be told now."""

    known = pyqtSignal()

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._source: PageSource | None = None
        self._read = _Read()
        self._read.done.connect(self.known)

    def notices(self, page: Page) -> tuple[Notice, ...] | None:
        """All notices of a page; None as long as its stylesheets are being read for them."""
        if page.source.tells_at_once:
            return page.notices
        if self._source is not page.source:
            self._source = page.source
            pool = QThreadPool.globalInstance()
            assert pool is not None
            pool.start(_Reading(page.source, self._read))
        return None
