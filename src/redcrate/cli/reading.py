"""What the commands share: a page from its file, window sizes, and errors as sentences."""

import sys
from collections.abc import Callable
from pathlib import Path
from typing import TypeVar

import click

from redcrate.cli.telling import complain
from redcrate.core.error_boundary import error_boundary
from redcrate.core.errors import RedCrateError
from redcrate.core.files.loading import assemble, read_page
from redcrate.core.files.resources import Resources
from redcrate.core.page import Page, compute_page
from redcrate.core.style.media import DEFAULT_HEIGHT, DEFAULT_WIDTHS, Viewport

T = TypeVar("T")

width_option = click.option(
    "--width", type=float, default=DEFAULT_WIDTHS[0], show_default=True, help="Viewport width, px."
)
height_option = click.option(
    "--height", type=float, default=DEFAULT_HEIGHT, show_default=True, help="Viewport height, px."
)


def guarded(work: Callable[[], T]) -> T:
    """Run `work`; an error of ours becomes its sentence, and the exit status 2."""
    try:
        with error_boundary("this page"):
            return work()
    except RedCrateError as problem:
        complain(problem.sentence)
        sys.exit(2)


def load(path: Path, width: float, height: float) -> Page:
    """The page at `path` in a window of that size; raises PageNotReadable."""
    source = assemble(read_page(path).source, Resources(path)).page
    return compute_page(source, Viewport(width, height))
