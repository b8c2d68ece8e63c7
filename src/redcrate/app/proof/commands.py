"""The commands of the Proof screen that are there on every screen."""

from collections.abc import Sequence

from redcrate.app.commands.command import Command
from redcrate.app.screen import Host


def proof_commands(host: Host) -> Sequence[Command]:
    """Ask the browser, and see the page in it."""

    def is_open() -> bool:
        return host.session is not None

    def prove() -> None:
        host.show_screen("proof", "ask")

    def see() -> None:
        screen = host.screen_named("proof")
        if screen is not None:
            screen.show_what("preview")

    return [
        Command(
            "prove",
            "Compare the page with the installed browser",
            "",
            prove,
            is_open,
            "Compare every box at all widths of the page",
        ),
        Command(
            "see",
            "Open in the browser",
            "Ctrl+Shift+B",
            see,
            is_open,
            "Show the page as it is now, saved or not; it is updated after each edit",
        ),
    ]
