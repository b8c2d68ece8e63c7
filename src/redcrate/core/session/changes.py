"""Who is told when something has changed: plain observers."""

from collections.abc import Callable
from enum import Enum
from typing import TypeAlias


class Change(Enum):
    """What listeners are told about."""

    PAGE = "page"  # the geometry is a new one
    PREVIEW = "preview"  # another page is shown for a while, or no longer
    SELECTION = "selection"
    HISTORY = "history"
    WIDTHS = "widths"  # the page is looked at in windows of other widths
    FINDINGS = "findings"  # they were looked for
    BROKEN = "broken"  # what breaks at any width was searched for
    COMP = "comp"  # another picture lies over the page, or in another way
    PREDICTION = "prediction"  # a change waits for one, or what one was worth is known
    GIVES = "gives"  # what gives way, or where edits are written to


Listener: TypeAlias = Callable[[Change], None]


class Listeners:
    """Those who listen, in the order in which they came."""

    def __init__(self) -> None:
        self._listeners: list[Listener] = []

    def add(self, listener: Listener) -> None:
        """Tell `listener` about every change from now on."""
        self._listeners.append(listener)

    def remove(self, listener: Listener) -> None:
        """Tell `listener` no more."""
        self._listeners.remove(listener)

    def tell(self, *changes: Change) -> None:
        """Tell everybody of each change in turn."""
        for change in changes:
            for listener in tuple(self._listeners):
                listener(change)
