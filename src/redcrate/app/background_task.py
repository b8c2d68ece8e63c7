"""Work off the interface thread: it says how far it is, and can be given up."""

import threading
from collections.abc import Callable

from PyQt6.QtCore import QObject, QRunnable, pyqtSignal

from redcrate.core.error_boundary import error_boundary
from redcrate.core.errors import RedCrateError


class GivenUp(RedCrateError):
    """The work is no longer wanted."""


# Says how far the work is: done, of how many. Raises GivenUp.
Step = Callable[[int, int], None]


class BackgroundTask(QObject):
    """One piece of work off the interface thread.

    went_on: done, of how many. ended: a sentence, and whether it tells of something wrong.
    """

    went_on = pyqtSignal(int, int)
    ended = pyqtSignal(str, bool)

    def __init__(self, work: Callable[[Step], str], what: str = "these drawings") -> None:
        """work: does it, and returns the sentence that tells of it. what: it is about, for a sentence on a fault of ours."""
        super().__init__()
        self._work = work
        self._what = what
        self._given_up = threading.Event()

    def give_up(self) -> None:
        """It is no longer wanted: it ends at its next step."""
        self._given_up.set()

    def _step(self, done: int, of: int) -> None:
        if self._given_up.is_set():
            raise GivenUp("Cancelled; finished parts are kept.")
        self.went_on.emit(done, of)

    def run(self) -> None:
        """Do it; an error of ours becomes its sentence."""
        try:
            with error_boundary(self._what):
                sentence = self._work(self._step)
        except RedCrateError as problem:
            self.ended.emit(problem.sentence, not isinstance(problem, GivenUp))
        else:
            self.ended.emit(sentence, False)


class Runner(QRunnable):
    """Runs a task off the interface thread."""

    def __init__(self, task: BackgroundTask) -> None:
        super().__init__()
        self._task = task

    def run(self) -> None:
        """Run it."""
        self._task.run()
