"""What was found of the element that was asked about last: the budget, the marks and the diagrams ask the same in turn."""

from collections.abc import Callable
from functools import wraps
from typing import TypeVar
from weakref import WeakKeyDictionary

from redcrate.core.markup.elements import Element
from redcrate.core.page import Page

_Answer = TypeVar("_Answer")


def last_asked(find: Callable[[Page, Element], _Answer]) -> Callable[[Page, Element], _Answer]:
    """`find`, which keeps its last answer for each page; a page never changes."""
    known: WeakKeyDictionary[Page, tuple[Element, _Answer]] = WeakKeyDictionary()

    @wraps(find)
    def found(page: Page, element: Element) -> _Answer:
        last = known.get(page)
        if last is None or last[0] is not element:
            last = known[page] = element, find(page, element)
        return last[1]

    return found
