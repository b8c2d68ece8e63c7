"""How deep Python may nest: one owner of a switch that the whole process shares.

Boxes nest as deep as a page's author likes. Frames of Python code take no room on the C stack, so the
limit may be as high as the work needs; it is lowered again when the last one who needs it is done.
"""

import sys
from collections.abc import Iterator
from contextlib import contextmanager
from threading import Lock

_SPARE_FRAMES = 2000


class _RecursionLimit:
    """Counts who needs which limit; safe for threads."""

    def __init__(self) -> None:
        self._lock = Lock()
        self._needed: list[int] = []
        self._usual = 0

    def raised(self, frames: int) -> None:
        """Somebody begins work that nests `frames` deep."""
        with self._lock:
            if not self._needed:
                self._usual = sys.getrecursionlimit()
            self._needed.append(frames)
            sys.setrecursionlimit(max(self._usual, *self._needed))

    def done(self, frames: int) -> None:
        """That work has ended."""
        with self._lock:
            self._needed.remove(frames)
            if not self._needed:
                sys.setrecursionlimit(self._usual)


_LIMIT = _RecursionLimit()


@contextmanager
def room_for_depth(frames: int) -> Iterator[None]:
    """Let Python nest `frames` deep, and some more, while the block runs."""
    needed = frames + _SPARE_FRAMES
    _LIMIT.raised(needed)
    try:
        yield
    finally:
        _LIMIT.done(needed)
