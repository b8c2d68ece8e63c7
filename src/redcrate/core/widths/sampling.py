"""Samples of a function of the window's width, dense where it changes: a few dozen instead of a thousand."""

from collections.abc import Callable, Iterable, Iterator
from typing import Generic, TypeVar

State = TypeVar("State")


class Samples(Generic[State]):
    """What is so at some whole px. at: the states that are known, by width."""

    def __init__(
        self,
        look: Callable[[int], State],
        alike: Callable[[State, State], bool],
        level: Callable[[State, State], bool] = lambda one, other: True,
        straight: Callable[[int, State, int, State, int, State], bool] = lambda *three: True,
    ) -> None:
        """look: the state at a width. alike: whether two are of one kind, so that no event lies between them. Where
        states have amounts too, level: whether all of them are equal; straight: whether those of the second of three
        states lie between those of the others.
        """
        self._look = look
        self._alike = alike
        self._level = level
        self._straight = straight
        self.at: dict[int, State] = {}

    def state(self, width: int) -> State:
        """The state at a width; looked at once."""
        if width not in self.at:
            self.at[width] = self._look(width)
        return self.at[width]

    def every(self, first: int, last: int) -> Iterator[float]:
        """Look at every px that was not looked at yet; yields how much is done."""
        missing = [w for w in range(first, last + 1) if w not in self.at]
        for number, width in enumerate(missing):
            self.state(width)
            yield (number + 1) / len(missing)

    def run(self, first: int, last: int, step: int, also: Iterable[int] = ()) -> Iterator[float]:
        """Sample from `first` to `last` every `step` px and at other widths, then between them where it changes.

        Yields how much of it is done, 0 to 1, after each look; what is known so far may be shown.
        """
        seeds = sorted(
            {first, last, *range(first, last + 1, step), *(w for w in also if first <= w <= last)}
        )
        for number, width in enumerate(seeds):
            self.state(width)
            yield 0.5 * (number + 1) / len(seeds)
        for number, (low, high) in enumerate(zip(seeds, seeds[1:], strict=False)):
            for _ in self._between(low, high):
                yield 0.5 + 0.5 * number / len(seeds)
        yield 1.0

    def _between(self, low: int, high: int) -> Iterator[None]:
        """Halve a stretch until both ends of each part are alike, and straight, or next to one another."""
        todo = [(low, high)]
        while todo:
            low, high = todo.pop()
            if high - low < 2:
                continue
            one, other = self.at[low], self.at[high]
            alike = self._alike(one, other)
            if alike and self._level(one, other):
                continue
            middle = (low + high) // 2
            known = middle in self.at
            between = self.state(middle)
            if not known:
                yield
            straight = alike and self._alike(one, between)
            if straight and self._straight(low, one, middle, between, high, other):
                continue
            todo += [(middle, high), (low, middle)]
