"""Looking at a page at one width after another, here or by a crew of processes, each of which takes a part of them.

Python computes on one core at a time, and what a large page takes it would take from the window too.
"""

import os
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor, as_completed
from contextlib import contextmanager
from dataclasses import dataclass
from multiprocessing import get_context
from typing import TypeAlias, TypeVar

from redcrate.core.collecting import collect_seldom
from redcrate.core.files.trial import Parcel, Trial
from redcrate.core.markup.elements import Element, at_path
from redcrate.core.page import Page
from redcrate.core.style.media import Viewport
from redcrate.core.widths.sampling import Stretch
from redcrate.core.widths.standing_at import LIKENESS, Quantity, Standing, standing_of

_Found: TypeAlias = list[tuple[int, Standing]]
Task = TypeVar("Task")
PageAt: TypeAlias = Callable[[int, Page | None], Page]
_MOST_HANDS = 4
_PARTS = 3  # of what is asked for, for each process: none waits long for another
_NICE = 5  # the window comes first


@dataclass(frozen=True, slots=True)
class Asked:
    """What is to be told of each width.

    path: of the element in the tree; None: the page. lines: whether line counts are events too.
    """

    path: tuple[int, ...] | None
    quantities: tuple[Quantity, ...]
    lines: bool


class Looker:
    """Looks at a page. page: at the width that was looked at last."""

    def __init__(self, page_at: PageAt, asked: Asked) -> None:
        self._page_at = page_at
        self._asked = asked
        self.page: Page | None = None

    def look(self, width: int) -> Standing:
        """How things stand at a width, px."""
        asked, page = self._asked, self._page_at(width, self.page)
        self.page = page
        return standing_of(page, self.element, asked.quantities, lines=asked.lines)

    @property
    def element(self) -> Element | None:
        """The element that is looked at; None for the page."""
        if self._asked.path is None or self.page is None:
            return None
        return at_path(self.page.elements[0], self._asked.path)


class CrewLost(Exception):
    """The processes could not be had, or one of them failed: what they were asked for is looked at here instead."""


class Crew:
    """Processes that know a page. Close it when nobody asks any more."""

    def __init__(self, parcel: Parcel, height: float, asked: Asked, number: int) -> None:
        """height: of the window, px. number: how many processes; they begin to read the page. Raises CrewLost."""
        self._number = number
        context = get_context("spawn")  # a copy of a process with threads may stand still
        with _or_lost():
            self._pool = ProcessPoolExecutor(number, context, _begin, (parcel, height, asked))
            for _ in range(number):
                self._pool.submit(_look, ())

    def look_at(self, widths: Sequence[int]) -> Iterator[tuple[int, Standing]]:
        """How things stand at widths, as they become known. Raises CrewLost."""
        size = -(-len(widths) // (self._number * _PARTS))
        parts = [tuple(widths[n : n + size]) for n in range(0, len(widths), size)]
        yield from self._all(_look, parts)

    def look_into(self, stretches: Sequence[Stretch[Standing]]) -> Iterator[tuple[int, Standing]]:
        """What is so inside stretches, as it becomes known. Raises CrewLost."""
        yield from self._all(_look_into, stretches)

    def _all(
        self, work: Callable[[Task], _Found], tasks: Sequence[Task]
    ) -> Iterator[tuple[int, Standing]]:
        with _or_lost():
            for done in as_completed([self._pool.submit(work, task) for task in tasks]):
                yield from done.result()

    def close(self) -> None:
        """No more is asked for; what is under way ends by itself."""
        self._pool.shutdown(wait=False, cancel_futures=True)


@contextmanager
def _or_lost() -> Iterator[None]:
    """Whatever goes wrong with a process, or in it, comes to light here where the same is done again."""
    try:
        yield
    except Exception as problem:
        raise CrewLost from problem


def hands() -> int:
    """How many processes may work at once."""
    return min(len(os.sched_getaffinity(0)), _MOST_HANDS)


_LOOKER: Looker | None = None  # of a process of a crew


def _begin(parcel: Parcel, height: float, asked: Asked) -> None:
    global _LOOKER
    os.nice(_NICE)
    collect_seldom()
    trial = Trial.of_parcel(parcel)
    _LOOKER = Looker(lambda width, known: trial.page(Viewport(width, height), known), asked)


def _look(widths: Sequence[int]) -> _Found:
    assert _LOOKER is not None
    return [(width, _LOOKER.look(width)) for width in widths]


def _look_into(stretch: Stretch[Standing]) -> _Found:
    assert _LOOKER is not None
    return list(LIKENESS.looked_into(stretch, _LOOKER.look))
