"""What a command is: its words, its keys, what it does, and whether it can be done now."""

from collections.abc import Callable
from dataclasses import dataclass


def _always() -> bool:
    return True


@dataclass(frozen=True, slots=True)
class Command:
    """One command of the program. keys: as Qt writes them, "" for none.

    once: the words that it had before, by which it is still found.
    """

    name: str
    words: str
    keys: str
    run: Callable[[], object]
    enabled: Callable[[], bool] = _always
    teaches: str = ""
    once: str = ""
