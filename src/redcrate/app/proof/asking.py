"""Asking the browser off the interface thread: one proof at a time, one browser that is kept warm in between."""

from collections.abc import Callable

from PyQt6.QtCore import QObject, QThreadPool, pyqtSignal

from redcrate.app.background_task import BackgroundTask, Runner, Step
from redcrate.core.files.trial import Trial
from redcrate.core.proof.proving import Proof, Wish
from redcrate.core.proof.warm import WarmBrowser


class Asking(QObject):
    """found: a proof. failed: the sentence why there is none. went_on: widths done, of how many."""

    found = pyqtSignal(object)
    failed = pyqtSignal(str)
    went_on = pyqtSignal(int, int)

    def __init__(self, browser: WarmBrowser, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._browser = browser
        self._task: BackgroundTask | None = None
        self._result: list[Proof] = []
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(1)

    @property
    def is_asking(self) -> bool:
        """Whether a proof is under way."""
        return self._task is not None

    def ask(self, trial: Trial, wish: Wish) -> None:
        """Begin; an earlier proof that is not there yet is given up."""
        self.give_up()
        result: list[Proof] = []
        task = BackgroundTask(_work(self._browser, trial, wish, result), "this proof")
        task.went_on.connect(self.went_on)
        task.ended.connect(lambda sentence, wrong: self._ended(task, result, sentence))
        self._task = task
        self._pool.start(Runner(task))

    def give_up(self) -> None:
        """The proof that is under way is no longer wanted; a browser that hangs over it ends."""
        if self._task is not None:
            self._task.give_up()
            self._task = None
            self._browser.stop()

    def end(self) -> None:
        """Nothing more is asked: the browser ends."""
        self.give_up()
        self._browser.stop()

    def _ended(self, task: BackgroundTask, result: list[Proof], sentence: str) -> None:
        if task is not self._task:
            return
        self._task = None
        if result:
            self.found.emit(result[0])
        else:
            self.failed.emit(sentence)


def _work(browser: WarmBrowser, trial: Trial, wish: Wish, result: list[Proof]) -> Callable[[Step], str]:
    def work(step: Step) -> str:
        result.append(browser.prove(trial, wish, step))
        return ""

    return work
