"""Opening a page off the interface thread: it says what is being read, and can be cancelled."""

import threading
from contextlib import suppress
from pathlib import Path

from PyQt6.QtCore import QObject, QRunnable, QThreadPool, QTimer, pyqtSignal

from redcrate.app.background_task import GivenUp
from redcrate.app.pauses import pause_ms
from redcrate.core.error_boundary import error_boundary
from redcrate.core.errors import RedCrateError
from redcrate.core.files.recovery import RecoveryFolder
from redcrate.core.session import Session

_SLOW_MS = 300  # what takes no longer is not spoken of


class _Carrier(QObject):
    """Carries what is told to the window, and outlives it where the work does."""

    went_on = pyqtSignal(object, str)
    ended = pyqtSignal(object, object)


class _Opening(QRunnable):
    """Opens one page."""

    def __init__(self, path: Path, recovery: RecoveryFolder | None, carrier: _Carrier) -> None:
        super().__init__()
        self.path = path
        self.cancelled = threading.Event()
        self._recovery = recovery
        self._carrier = carrier

    def _tell(self, what: str) -> None:
        if self.cancelled.is_set():
            raise GivenUp("Cancelled.")
        self._carrier.went_on.emit(self, what)

    def run(self) -> None:
        """Read, parse and lay out; an error of ours is handed over as such."""
        try:
            with error_boundary(self.path.name):
                outcome: Session | RedCrateError = Session(
                    self.path, recovery=self._recovery, told=self._tell
                )
        except RedCrateError as problem:
            outcome = problem
        with suppress(RuntimeError):  # the window, and the carrier with it, may be gone by now
            self._carrier.ended.emit(self, outcome)


class Opener(QObject):
    """Opens the page that was wanted last; what is wanted no more is forgotten.

    told: what is being read, of a page that takes its time. ready: the path, and a session or an error.
    """

    told = pyqtSignal(str)
    ready = pyqtSignal(object, object)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._work: _Opening | None = None
        self._what = ""
        self._slow = QTimer(self)
        self._slow.setSingleShot(True)
        self._slow.setInterval(pause_ms(_SLOW_MS))
        self._slow.timeout.connect(self._tell)
        self._carrier = _Carrier()
        self._carrier.went_on.connect(self._went_on)
        self._carrier.ended.connect(self._ended)

    @property
    def path(self) -> Path | None:
        """The page that is being opened."""
        return self._work.path if self._work is not None else None

    def open(self, path: Path, recovery: RecoveryFolder | None) -> None:
        """Open a page; another one that is being opened is not wanted any more."""
        self.cancel()
        self._work, self._what = _Opening(path, recovery, self._carrier), ""
        self._slow.start()
        pool = QThreadPool.globalInstance()
        assert pool is not None
        pool.start(self._work)

    def cancel(self) -> None:
        """No page is wanted."""
        if self._work is not None:
            self._work.cancelled.set()
        self._work = None
        self._slow.stop()

    def _went_on(self, work: object, what: str) -> None:
        if work is self._work:
            self._what = what
            if not self._slow.isActive():
                self._tell()

    def _tell(self) -> None:
        if self._work is not None:
            detail = f": {self._what}" if self._what else ""
            self.told.emit(f"Opening {self._work.path.name}{detail} …")

    def _ended(self, work: object, outcome: object) -> None:
        if work is not self._work or self._work is None:
            return
        path = self._work.path
        self.cancel()
        self.ready.emit(path, outcome)
