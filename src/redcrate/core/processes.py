"""Processes that compute for this one: Python computes on one core at a time, and a window needs that one.

A Python that is started with `-c` or `-m` looks for modules in the present folder first, which may be a stranger's: none
of ours does.
"""

import os
import signal
import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import TYPE_CHECKING

from redcrate.core.collecting import collect_seldom

if TYPE_CHECKING:
    from concurrent.futures import ProcessPoolExecutor

_NICE = 5  # the window comes first


class WorkersLost(Exception):
    """The processes could not be had, or one of them failed: what they were asked for is done here instead."""


@contextmanager
def or_lost() -> Iterator[None]:
    """Whatever goes wrong with a process, or in it, comes to light here where the same is done again."""
    try:
        yield
    except Exception as problem:
        raise WorkersLost from problem


def keep_children_to_own_modules() -> None:
    """No Python that this process starts from now on takes modules from the present folder."""
    os.environ["PYTHONSAFEPATH"] = "1"
    if "PYTHONPATH" in os.environ:  # an empty part of it, too, is the present folder
        named = os.environ["PYTHONPATH"].split(os.pathsep)
        os.environ["PYTHONPATH"] = os.pathsep.join(place for place in named if os.path.isabs(place))


def keep_to_own_modules() -> None:
    """The same for this process too; called once, by the program."""
    keep_children_to_own_modules()
    if not sys.flags.safe_path:
        here = {"", ".", *_present_folder()}
        sys.path[:] = [place for place in sys.path if place not in here]


def _present_folder() -> list[str]:
    try:
        return [os.getcwd()]
    except OSError:  # it is gone
        return []


def python_command() -> list[str]:
    """This Python as a command; it takes no modules from the present folder."""
    return [sys.executable, "-P"]


def worker_processes(number: int, begin: Callable[..., None], *first: object) -> "ProcessPoolExecutor":
    """A pool of so many processes, each of which begins with what it is told `first`; begin: calls `settle_in`."""
    from concurrent.futures import ProcessPoolExecutor  # here: few need it, all would wait for it
    from multiprocessing import get_context

    keep_children_to_own_modules()
    context = get_context("spawn")  # a copy of a process with threads may stand still
    return ProcessPoolExecutor(number, context, begin, first)


def settle_in() -> None:
    """Let the window come first; whoever asks is interrupted, and lets the process go."""
    os.nice(_NICE)
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    collect_seldom()
