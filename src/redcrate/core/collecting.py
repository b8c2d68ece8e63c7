"""Python's cycle collector, kept still while a page is computed.

A pass makes very many objects that live on and next to no cycles; the collector would walk the whole
heap again and again for nothing. What has become garbage is found afterwards.
"""

import gc
from collections.abc import Iterator
from contextlib import contextmanager


def collect_seldom() -> None:
    """For whole programs: let some megabytes gather before the collector looks at them."""
    gc.set_threshold(200_000, 20, 100)


@contextmanager
def collector_paused() -> Iterator[None]:
    """Hold the cycle collector back; does nothing where it is off already."""
    if not gc.isenabled():
        yield
        return
    gc.disable()
    try:
        yield
    finally:
        gc.enable()
