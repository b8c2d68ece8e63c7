"""Opening a page off the interface thread."""

from pathlib import Path

from PyQt6.QtCore import QObject, QRunnable, pyqtSignal

from redcrate.core.error_boundary import error_boundary
from redcrate.core.errors import RedCrateError
from redcrate.core.files.recovery import RecoveryFolder
from redcrate.core.session import Session


class Opened(QObject):
    """Carries the outcome of an opening from its thread to the window."""

    ready = pyqtSignal(object, object)


class Opening(QRunnable):
    """Opens a page off the interface thread."""

    def __init__(self, path: Path, recovery: RecoveryFolder | None, opened: Opened) -> None:
        super().__init__()
        self._path = path
        self._recovery = recovery
        self._opened = opened

    def run(self) -> None:
        """Read, parse and lay out; an error of ours is handed over as such."""
        try:
            with error_boundary(self._path.name):
                session: Session | RedCrateError = Session(self._path, recovery=self._recovery)
        except RedCrateError as problem:
            session = problem
        self._opened.ready.emit(self._path, session)
