"""What a command is: its words, its keys, what it does, and whether it can be done now."""

from collections.abc import Callable

from redcrate.core.records import dataclass


def _always() -> bool:
    return True


@dataclass(frozen=True, slots=True)
class Command:
    """One command of the program. keys: as Qt writes them, "" for none."""

    name: str
    words: str
    keys: str
    run: Callable[[], object]
    enabled: Callable[[], bool] = _always
    teaches: str = ""
