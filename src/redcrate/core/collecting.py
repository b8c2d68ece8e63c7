"""Python's cycle collector, kept still while a page is computed: one owner of that switch.

A pass makes very many objects that live on and next to no cycles; the collector would walk the whole
heap again and again for nothing. What has become garbage is found afterwards.
"""

import gc
from collections.abc import Iterator
from contextlib import contextmanager
from threading import Lock


def collect_seldom() -> None:
    """For whole programs: let some megabytes gather before the collector looks at them."""
    gc.set_threshold(200_000, 20, 100)


class _Collector:
    """Counts who wants it still; safe for threads."""

    def __init__(self) -> None:
        self._lock = Lock()
        self._pauses = 0
        self._was_on = False

    def pause(self) -> None:
        """Somebody begins."""
        with self._lock:
            if not self._pauses:
                self._was_on = gc.isenabled()
                gc.disable()
            self._pauses += 1

    def resume(self) -> None:
        """Somebody is done; the last one switches the collector on, if it was on before."""
        with self._lock:
            self._pauses -= 1
            if not self._pauses and self._was_on:
                gc.enable()


_COLLECTOR = _Collector()


@contextmanager
def collector_paused() -> Iterator[None]:
    """Hold the cycle collector back while the block runs; may be nested, and used by many threads."""
    _COLLECTOR.pause()
    try:
        yield
    finally:
        _COLLECTOR.resume()
