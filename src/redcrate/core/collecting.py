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


def collect_at_rest() -> None:
    """For windows: the collector is off from now on, and works where somebody calls `collect`."""
    _COLLECTOR.turn_off()


def collect(generation: int) -> None:
    """Collect what was dropped: of young objects (1) or of all (2)."""
    gc.collect(generation)


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

    def turn_off(self) -> None:
        """For good, also where a pause ends later."""
        with self._lock:
            self._was_on = False
            gc.disable()

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
