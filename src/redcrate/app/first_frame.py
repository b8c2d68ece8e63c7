"""The first frame: something to see within half a second, while the rest of the program is loaded beside it.

The window's modules, Qt's widgets apart, take longer to load than the application object; they are loaded off the interface
thread, so that the frame stays alive meanwhile.
"""

import importlib
from collections.abc import Callable

from PyQt6.QtCore import QObject, QRunnable, QThreadPool, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QMainWindow, QWidget

from redcrate.app.settings import Settings
from redcrate.app.theme.mark import Mark
from redcrate.app.theme.plain import Label


class _Loaded(QObject):
    done = pyqtSignal()


class _Loading(QRunnable):
    def __init__(self, module: str, loaded: _Loaded) -> None:
        super().__init__()
        self._module = module
        self._loaded = loaded

    def run(self) -> None:
        """Load it; a module that cannot be loaded is met again by who imports it."""
        try:
            importlib.import_module(self._module)
        finally:
            self._loaded.done.emit()


class FirstFrame(QMainWindow):
    """The window's place and size, its name, and what is being opened."""

    def __init__(self, page: str, settings: Settings | None = None) -> None:
        super().__init__()
        self.setWindowTitle("Red Crate")
        fit_screen(self, settings)
        whole = QWidget()
        row = QHBoxLayout(whole)
        row.setSpacing(8)
        row.addStretch()
        row.addWidget(Mark())
        row.addWidget(Label(f"Opening {page} …"))
        row.addStretch()
        self.setCentralWidget(whole)
        self._loaded = _Loaded()

    def load(self, module: str, then: Callable[[], object]) -> None:
        """Load a module beside the frame, then go on."""
        self._loaded.done.connect(then)
        pool = QThreadPool.globalInstance()
        assert pool is not None
        pool.start(_Loading(module, self._loaded))


def fit_screen(window: QWidget, settings: Settings | None) -> None:
    """The size and place that a window had; the first time 1280 × 800, or what a smaller screen has."""
    window.resize(1280, 800)
    screen = window.screen()
    if screen is not None:
        window.resize(window.size().boundedTo(screen.availableGeometry().size()))
    if settings is not None and settings.bytes_of("window"):
        window.restoreGeometry(settings.bytes_of("window"))
