"""Samples of a function of the window's width, dense where it changes: a few dozen instead of a thousand."""

from collections.abc import Callable, Iterable, Iterator, Sequence
from itertools import pairwise
from typing import Generic, TypeAlias, TypeVar

from redcrate.core.records import dataclass

State = TypeVar("State")

# Looks at some widths: the state at each of them, in any order.
LookAt: TypeAlias = Callable[[Sequence[int]], Iterable[tuple[int, State]]]


@dataclass(frozen=True, slots=True)
class Stretch(Generic[State]):
    """Two widths with what is so at them, and something between that is not known yet."""

    low: int
    one: State
    high: int
    other: State


# Looks into some stretches: the states that it has looked at, in any order.
LookInto: TypeAlias = Callable[[Sequence[Stretch[State]]], Iterable[tuple[int, State]]]


@dataclass(frozen=True, slots=True)
class Likeness(Generic[State]):
    """How states are compared.

    alike: whether two are of one kind, so that no event lies between them. Where states have amounts too, level:
    whether all of them are equal; straight: whether those of the second of three states lie between those of the others.
    """

    alike: Callable[[State, State], bool]
    level: Callable[[State, State], bool] = lambda one, other: True
    straight: Callable[[int, State, int, State, int, State], bool] = lambda *three: True

    def is_open(self, stretch: Stretch[State]) -> bool:
        """Whether something may change in a stretch that is not known yet."""
        if stretch.high - stretch.low < 2:
            return False
        one, other = stretch.one, stretch.other
        return not (self.alike(one, other) and self.level(one, other))

    def looked_into(
        self, stretch: Stretch[State], look: Callable[[int], State]
    ) -> Iterator[tuple[int, State]]:
        """Halve a stretch until both ends of each part are alike, and straight, or next to one another."""
        todo = [stretch]
        while todo:
            part = todo.pop()
            if not self.is_open(part):
                continue
            middle = (part.low + part.high) // 2
            between = look(middle)
            yield middle, between
            low, one, high, other = part.low, part.one, part.high, part.other
            straight = self.alike(one, other) and self.alike(one, between)
            if straight and self.straight(low, one, middle, between, high, other):
                continue
            todo += [Stretch(middle, between, high, other), Stretch(low, one, middle, between)]


class Samples(Generic[State]):
    """What is so at some whole px. at: the states that are known, by width."""

    def __init__(
        self,
        likeness: Likeness[State],
        look: Callable[[int], State],
        look_at: LookAt[State] | None = None,
        look_into: LookInto[State] | None = None,
    ) -> None:
        """look: the state at a width. look_at, look_into: for many widths or stretches at once; else one by one."""
        self._likeness = likeness
        self._look_at = look_at or (lambda widths: ((width, look(width)) for width in widths))
        self._look_into = look_into or (
            lambda stretches: (found for s in stretches for found in likeness.looked_into(s, look))
        )
        self.at: dict[int, State] = {}

    def look(self, widths: Iterable[int]) -> Iterator[float]:
        """Look at widths, each once; yields how much of it is done, 0 to 1."""
        missing = sorted(set(widths) - self.at.keys())
        for number, (width, state) in enumerate(self._look_at(missing) if missing else (), 1):
            self.at[width] = state
            yield number / len(missing)

    def every(self, first: int, last: int) -> Iterator[float]:
        """Look at every px that was not looked at yet; yields how much is done."""
        yield from self.look(range(first, last + 1))

    def run(self, first: int, last: int, step: int, also: Iterable[int] = ()) -> Iterator[float]:
        """Sample from `first` to `last` every `step` px and at other widths, then between them where it changes.

        Yields how much of it is done, 0 to 1, after each look; what is known so far may be shown.
        """
        seeds = sorted(
            {first, last, *range(first, last + 1, step), *(w for w in also if first <= w <= last)}
        )
        for done in self.look(seeds):
            yield 0.5 * done
        stretches = [Stretch(a, self.at[a], b, self.at[b]) for a, b in pairwise(seeds)]
        stretches = [stretch for stretch in stretches if self._likeness.is_open(stretch)]
        missing = sum(stretch.high - stretch.low - 1 for stretch in stretches)
        for number, (width, state) in enumerate(self._look_into(stretches) if stretches else (), 1):
            self.at[width] = state
            yield 0.5 + 0.5 * min(1.0, number / missing)
        yield 1.0
