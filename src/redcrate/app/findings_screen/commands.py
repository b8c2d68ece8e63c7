"""Going from finding to finding: on the screen where they are read at length, else on the bench."""

from functools import partial

from redcrate.app.commands.command import Command
from redcrate.app.screen import Host


def finding_commands(host: Host) -> list[Command]:
    """The next and the previous finding."""

    def go(step: int) -> None:
        name = "findings" if host.shown == "findings" else "bench"
        host.show_screen(name)
        screen = host.screen_named(name)
        if screen is not None:
            screen.go_to_finding(step)

    def has_page() -> bool:
        return host.session is not None

    return [
        Command("next-finding", "Next finding", "Alt+N", partial(go, 1), has_page),
        Command("previous-finding", "Previous finding", "Alt+Shift+N", partial(go, -1), has_page),
    ]
