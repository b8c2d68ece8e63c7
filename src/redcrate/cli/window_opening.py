"""Opening the window, which must be there within half a second: nothing is loaded here that it can be shown without."""

import os
from pathlib import Path

from redcrate.cli.display import display_fault


class NoWindow(Exception):
    """No window can be shown: why, and what to do instead."""


def open_window(page: Path | None) -> int:
    """Show the window with a page, None for the demo page, until it is closed; returns the exit status.

    Raises NoWindow.
    """
    fault = display_fault(os.environ)
    if fault:
        raise NoWindow(fault)
    try:
        from redcrate.app.start import run_window
    except ImportError as problem:
        raise NoWindow(
            f"the window needs Qt, which does not load ({problem}). ./run installs it and names "
            "missing system packages; otherwise install redcrate[window]."
        ) from None
    return run_window(page)
