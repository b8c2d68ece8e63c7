"""Tables of what is known of things for as long as these are in use."""

from collections.abc import Callable
from typing import TypeVar
from weakref import ref

_Thing = TypeVar("_Thing")
_Known = TypeVar("_Known")


def forgetting(known: dict[ref[_Thing], _Known]) -> Callable[[ref[_Thing]], object]:
    """What takes a thing that is gone out of a table; it holds the table alone, so that its owner is no cycle."""

    def forget(gone: ref[_Thing]) -> None:
        known.pop(gone, None)

    return forget
