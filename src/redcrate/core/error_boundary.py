"""Red Crate's own faults: an exception that nobody expected becomes a `LayoutBug` at the core's entry.

The entries are the reading of a page's files, the computation, and the looking for findings; whoever
calls them meets only documented errors.
"""

from collections.abc import Iterator
from contextlib import contextmanager
from types import TracebackType
from typing import Any

from redcrate.core.boxes.box import Box
from redcrate.core.errors import LayoutBug, RedCrateError
from redcrate.core.markup.elements import Element


@contextmanager
def error_boundary(page: str) -> Iterator[None]:
    """Turn what goes wrong inside into a LayoutBug about `page`; errors of ours pass through.

    Raises LayoutBug with the element that was worked on, where the failed calls tell one.
    """
    try:
        yield
    except RedCrateError:
        raise
    except Exception as fault:
        raise LayoutBug(page, _at_work(fault.__traceback__), fault) from fault


def _at_work(traceback: TracebackType | None) -> str:
    """The element that the innermost failed call was about, as people call it; "" if none was."""
    found = ""
    while traceback is not None:
        for value in traceback.tb_frame.f_locals.values():
            found = _label(value) or found
        traceback = traceback.tb_next
    return found


def _label(value: Any) -> str:
    if isinstance(value, Element):
        return value.label
    if isinstance(value, Box) and value.element is not None:
        return value.label
    return ""
