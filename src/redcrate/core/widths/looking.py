"""Looking at a page at many widths, here or by a pool of worker processes, each of which takes a part of them.

Python computes on one core at a time, and what a large page takes it would take from the window too.
"""

import os
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager, suppress
from typing import Any, Generic, Protocol, TypeAlias, TypeVar

from redcrate.core.files.trial import PageSnapshot, Trial
from redcrate.core.page import Page
from redcrate.core.processes import WorkersLost, or_lost, settle_in, worker_processes
from redcrate.core.widths.sampling import Likeness, Samples, State, Stretch

PageAt: TypeAlias = Callable[[int, Page | None], Page]
Task = TypeVar("Task")
_LARGE = 400  # elements
_MOST_WORKERS = 4
_IN_ALL = 20_000  # elements, in all processes: each has a page of its own
_PARTS = 3  # of what is asked for, for each process: none waits long for another
_FEW = 4  # widths are looked at here before a pool has come


class Question(Protocol[State]):
    """What is asked of a page at each width. It is sent to processes, and so is what it gives: plain data."""

    @property
    def likeness(self) -> Likeness[State]:
        """How its answers are compared."""
        ...

    def answer(self, page: Page) -> State:
        """What is so on a page."""
        ...


class WorkerPool(Generic[State]):
    """Processes that know a page. Close it when nobody asks any more."""

    def __init__(
        self, snapshot: PageSnapshot, height: float, question: Question[State], number: int
    ) -> None:
        """height: of the window, px. number: how many processes; they begin to read the page. Raises WorkersLost."""
        self._number = number
        with or_lost():
            self._pool = worker_processes(number, _begin, snapshot, height, question)
            for _ in range(number):
                self._pool.submit(_look, ())

    def look_at(self, widths: Sequence[int]) -> Iterator[tuple[int, State]]:
        """What is so at widths, as it becomes known. Raises WorkersLost."""
        size = -(-len(widths) // (self._number * _PARTS))
        parts = [tuple(widths[n : n + size]) for n in range(0, len(widths), size)]
        yield from self._all(_look, parts)

    def look_into(self, stretches: Sequence[Stretch[State]]) -> Iterator[tuple[int, State]]:
        """What is so inside stretches, as it becomes known. Raises WorkersLost."""
        yield from self._all(_look_into, stretches)

    def _all(
        self, work: Callable[[Task], list[tuple[int, Any]]], tasks: Sequence[Task]
    ) -> Iterator[tuple[int, State]]:
        from concurrent.futures import as_completed

        with or_lost():
            for done in as_completed([self._pool.submit(work, task) for task in tasks]):
                yield from done.result()

    def close(self) -> None:
        """No more is asked for; what is under way ends by itself."""
        self._pool.shutdown(wait=False, cancel_futures=True)


def worker_count(page: Page) -> int:
    """How many processes may work on a page at once: one for each core, as far as there is memory for; 0: none pays."""
    cores = len(os.sched_getaffinity(0))
    if cores < 2 or not is_large(page):
        return 0
    return min(cores, _MOST_WORKERS, _IN_ALL // len(page.elements))


def is_large(page: Page) -> bool:
    """Whether it takes long to lay a page out at many widths."""
    return len(page.elements) >= _LARGE


class Looking(Generic[State]):
    """A look at many widths. samples: what is known so far."""

    def __init__(
        self,
        look: Callable[[int], State],
        likeness: Likeness[State],
    ) -> None:
        """look: what is so at a width, found here."""
        self._look = look
        self._likeness = likeness
        self._make_pool: Callable[[int], WorkerPool[State]] | None = None
        self._workers: WorkerPool[State] | None = None
        self.samples = Samples(likeness, look, self._look_at, self._look_into)

    def share_out(self, trial: Trial, height: float, question: Question[State]) -> None:
        """Have a trial, in windows of that height, looked at by several processes where that pays."""
        self._make_pool = lambda number: WorkerPool(trial.snapshot(), height, question, number)

    @contextmanager
    def at_work(self, page: Page) -> Iterator[None]:
        """With a pool, where there is one to be had and a page is large enough."""
        number = worker_count(page)
        if self._make_pool is not None and number:
            with suppress(WorkersLost):
                self._workers = self._make_pool(number)
        try:
            yield
        finally:
            self._dismiss()

    def _dismiss(self) -> None:
        if self._workers is not None:
            self._workers.close()
        self._workers = None

    def _look_at(self, widths: Sequence[int]) -> Iterator[tuple[int, State]]:
        missing = set(widths)
        if self._workers is not None and len(widths) > _FEW:
            try:
                for width, state in self._workers.look_at(widths):
                    missing.discard(width)
                    yield width, state
            except WorkersLost:
                self._dismiss()
        for width in sorted(missing):
            yield width, self._look(width)

    def _look_into(self, stretches: Sequence[Stretch[State]]) -> Iterator[tuple[int, State]]:
        if self._workers is not None:
            try:
                yield from self._workers.look_into(stretches)
                return
            except WorkersLost:
                self._dismiss()
        for stretch in stretches:
            yield from self._likeness.looked_into(stretch, self._look)


class _Worker:
    """A process of a pool: the page that it knows, and what is asked of it."""

    def __init__(self, snapshot: PageSnapshot, height: float, question: Question[Any]) -> None:
        self.page_at, self.question = Trial.of_snapshot(snapshot).in_windows(height), question
        self.page: Page | None = None

    def look(self, width: int) -> Any:
        """What is so at a width."""
        self.page = self.page_at(width, self.page)
        return self.question.answer(self.page)


_WORKER: _Worker | None = None


def _begin(snapshot: PageSnapshot, height: float, question: Question[Any]) -> None:
    global _WORKER
    settle_in()
    _WORKER = _Worker(snapshot, height, question)


def _look(widths: Sequence[int]) -> list[tuple[int, Any]]:
    assert _WORKER is not None
    return [(width, _WORKER.look(width)) for width in widths]


def _look_into(stretch: Stretch[Any]) -> list[tuple[int, Any]]:
    assert _WORKER is not None
    return list(_WORKER.question.likeness.looked_into(stretch, _WORKER.look))
