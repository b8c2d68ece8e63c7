"""Notices when another program changes a file of the page, or one of its pictures."""

import os
from pathlib import Path

from PyQt6.QtCore import QFileSystemWatcher, QObject, QTimer, pyqtSignal

from redcrate.app.pauses import pause_ms
from redcrate.core.session import Session

_SETTLE_MS = 250  # programs write in several strokes


class FileWatch(QObject):
    """Watches the files of a session and their folders: a replaced file is forgotten by the system."""

    changed = pyqtSignal()
    pictures_changed = pyqtSignal()

    def __init__(self, session: Session, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self._watcher = QFileSystemWatcher(self)
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(pause_ms(_SETTLE_MS))
        self._timer.timeout.connect(self._look)
        self._watcher.fileChanged.connect(self._soon)  # bound: a watcher that is going away tells nobody
        self._watcher.directoryChanged.connect(self._soon)
        self._pictures = self._picture_times()
        self.renew()

    def _soon(self, _: str) -> None:
        """Something has changed on disk; more of it may follow at once."""
        self._timer.start()

    def renew(self) -> None:
        """Watch what the page consists of now."""
        files = [str(loaded.path) for loaded in self._session.document.files.values()]
        folders = {str(Path(f).parent) for f in files} | {str(p.parent) for p in self._pictures}
        wanted = {f for f in (*files, *folders) if os.path.exists(f)}
        known = {*self._watcher.files(), *self._watcher.directories()}
        if wanted - known:
            self._watcher.addPaths(sorted(wanted - known))
        if known - wanted:
            self._watcher.removePaths(sorted(known - wanted))

    def _picture_times(self) -> dict[Path, float]:
        found: dict[Path, float] = {}
        resources = self._session.document.resources
        for element in self._session.views.page.source.markup.referring:
            path = resources.path_of(element.attributes.get("src", ""), resources.folder)
            if path is not None:
                try:
                    found[path] = path.stat().st_mtime
                except OSError:
                    found[path] = 0.0
        return found

    def _look(self) -> None:
        self.renew()
        now = self._picture_times()
        if now != self._pictures:
            self._pictures = now
            self.pictures_changed.emit()
        self.changed.emit()
