"""The last net under the window: an exception that nobody caught becomes a sentence, and work is kept."""

import sys
import time
import traceback
from types import TracebackType

from redcrate.app.window import Window
from redcrate.core.errors import LayoutBug, RedCrateError

_SILENT_SECONDS = 2.0  # the same fault again so soon, as from every repaint, is not told again


class ExceptionHook:
    """A `sys.excepthook` over one window; without one Qt ends the process (status 134)."""

    def __init__(self, window: Window) -> None:
        self._window = window
        self._told: dict[tuple[type[BaseException], str, int], float] = {}

    def install(self) -> None:
        """Catch from now on."""
        sys.excepthook = self.caught

    def caught(
        self, kind: type[BaseException], fault: BaseException, trace: TracebackType | None
    ) -> None:
        """Say what happened and keep the unsaved work; an interrupt from the keyboard ends the program."""
        if issubclass(kind, KeyboardInterrupt):
            self._window.close()
            return
        last = traceback.extract_tb(trace)[-1:] if trace is not None else []
        place = (kind, last[0].filename if last else "", (last[0].lineno or 0) if last else 0)
        now = time.monotonic()
        if now - self._told.get(place, -_SILENT_SECONDS) < _SILENT_SECONDS:
            return
        self._told[place] = now
        if not isinstance(fault, RedCrateError):
            sys.__excepthook__(kind, fault, trace)
            session = self._window.session
            fault = LayoutBug(
                session.document.path.name if session is not None else "the window", "", fault
            )
        self._window.keep_unsaved()
        self._window.say(fault.sentence, wrong=True)
