"""The console script: opens the window at once, or hands over to the commands, which load much more than it needs."""

import sys
from pathlib import Path

from redcrate.cli.window_opening import NoWindow, open_window
from redcrate.core.collecting import collect_seldom
from redcrate.core.processes import keep_to_own_modules

COMMANDS = ("report", "draw", "window", "example", "check", "fix", "sweep", "prove", "exercise")


def main(arguments: list[str] | None = None) -> None:
    """`redcrate PAGE` is short for `redcrate window PAGE`."""
    if arguments is None:
        keep_to_own_modules()
    collect_seldom()
    given = list(sys.argv[1:] if arguments is None else arguments)
    if given and _names_a_page(given[0]):
        given.insert(0, "window")
    if not given or (given[0] == "window" and len(given) < 3 and not given[-1].startswith("-")):
        _start_window(*map(Path, given[1:]))
    else:
        from redcrate.cli.commands import commands

        commands(given, prog_name="redcrate")


def _names_a_page(word: str) -> bool:
    """Whether the first word on the command line is a page to open, and no command."""
    if word in COMMANDS or word.startswith("-"):
        return False
    return word.endswith((".html", ".htm")) or "/" in word or Path(word).exists()


def _start_window(page: Path | None = None) -> None:
    try:
        sys.exit(open_window(page))
    except NoWindow as fault:
        sys.exit(f"Error: {fault}")  # as the commands say theirs
