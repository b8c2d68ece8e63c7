"""What hangs on a style, by what its properties say that they affect: the question of every short way of the core.

A short way has an account of some properties and takes all others to be as they are initially; it gives way where one
that it does not know, and that affects what it does, has another value. So a new property is right before it is fast.
"""

from collections.abc import Iterable
from functools import lru_cache

from redcrate.core.style.anonymous import initial_style
from redcrate.core.style.computed import COMPUTED_FIELDS, ComputedStyle
from redcrate.core.style.properties import PROPERTIES
from redcrate.core.style.property import BOXES, EVERYTHING, INSIDE, LINES, NOTHING, Affects

_AFFECTS = {p.attribute: p.affects for p in PROPERTIES.values()}
_BY_FIELD = tuple(_AFFECTS.get(name, EVERYTHING) for name in COMPUTED_FIELDS)


def those_that_affect(what: Affects) -> frozenset[str]:
    """The fields of all properties that affect any of it."""
    return frozenset(name for name, affects in _AFFECTS.items() if affects & what)


@lru_cache(maxsize=5_000)
def difference(before: ComputedStyle, now: ComputedStyle) -> Affects:
    """What becomes another one where a style takes the place of another; NOTHING where their values are equal."""
    found = NOTHING
    for affects, old, new in zip(_BY_FIELD, before.values, now.values, strict=True):
        if old != new:
            found |= affects
    return found


@lru_cache(maxsize=5_000)
def keeps_inside(before: ComputedStyle, now: ComputedStyle) -> bool:
    """Whether nothing but the room that a box takes and its picture become others."""
    return not difference(before, now) & (BOXES | LINES | INSIDE)


class Account:
    """The properties that a short way has an account of, among those that affect some of what it does."""

    def __init__(self, affects: Affects, known: Iterable[str]) -> None:
        """known: fields of ComputedStyle. Raises KeyError where one of them is no property's."""
        initial = initial_style()
        known = {name for name in known if _AFFECTS[name]}
        self._unknown = tuple(sorted(those_that_affect(affects) - known))
        self._initial = tuple((name, getattr(initial, name)) for name in self._unknown)
        self.covers = lru_cache(maxsize=5_000)(self._covers)

    def _covers(self, style: ComputedStyle) -> bool:
        """Whether all else that a style says of it is as it is initially."""
        return all(getattr(style, name) == value for name, value in self._initial)

    def tells(self, before: ComputedStyle, now: ComputedStyle) -> bool:
        """Whether two styles differ in nothing else."""
        return all(getattr(before, name) == getattr(now, name) for name in self._unknown)
