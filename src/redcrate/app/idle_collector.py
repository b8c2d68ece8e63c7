"""Python's cycle collector in the window: it works while nobody does anything, so that no gesture stands still for it."""

from collections.abc import Callable
from time import monotonic

from PyQt6.QtCore import QEvent, QObject, QTimer
from PyQt6.QtGui import QWindow
from PyQt6.QtWidgets import QApplication

from redcrate.app.pauses import pause_ms
from redcrate.core.collecting import collect, collect_at_rest

_EVERY_MS = 5000
_WHOLE_EVERY = 12  # times: all objects, not the young ones alone
_REST_S = 1.5  # without a key, a click or a movement
_AGAIN_MS = 500
_PUT_OFF = 120  # times at most: what is dropped must not pile up
_INPUT = frozenset(
    (
        QEvent.Type.KeyPress,
        QEvent.Type.KeyRelease,
        QEvent.Type.MouseButtonPress,
        QEvent.Type.MouseButtonRelease,
        QEvent.Type.MouseMove,
        QEvent.Type.Wheel,
    )
)


class IdleCollector(QObject):
    """Collects what was dropped: young objects every few seconds, all of them once a minute, in moments of rest.

    What comes in is heard at the window that has the keyboard, where there is little of it.
    """

    def __init__(
        self,
        application: QApplication,
        collect: Callable[[int], object] = collect,
        clock: Callable[[], float] = monotonic,
    ) -> None:
        """clock: tells seconds."""
        super().__init__(application)
        self._collect = collect
        self._clock = clock
        self._last_input = -_REST_S
        self._put_off = 0
        self._turn = 0
        collect_at_rest()
        application.focusWindowChanged.connect(self._watch)
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self._rest)
        self._timer.start(pause_ms(_EVERY_MS))

    def _watch(self, window: QWindow | None) -> None:
        if window is not None:
            window.installEventFilter(self)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Note when something was done last."""
        if event is not None and event.type() in _INPUT:
            self._last_input = self._clock()
        return False

    def _rest(self) -> None:
        """Collect, unless somebody is at work: then a little later."""
        if self._clock() - self._last_input < _REST_S and self._put_off < _PUT_OFF:
            self._put_off += 1
            self._timer.start(pause_ms(_AGAIN_MS))
            return
        self._turn += 1
        whole = self._turn % _WHOLE_EVERY == 0 and self._put_off < _PUT_OFF
        self._put_off = 0
        self._collect(2 if whole else 1)
        self._timer.start(pause_ms(_EVERY_MS))
