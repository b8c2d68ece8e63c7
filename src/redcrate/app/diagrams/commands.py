"""The commands of the Diagrams screen that are there on every screen."""

from collections.abc import Sequence

from redcrate.app.commands.command import Command
from redcrate.app.screen import Host


def diagram_commands(host: Host) -> Sequence[Command]:
    """The drawing of what is selected, large."""

    def is_selected() -> bool:
        return host.session is not None and host.session.views.selected is not None

    def show() -> None:
        assert host.session is not None
        host.show_screen("diagrams", host.session.views.selected)

    return [
        Command(
            "diagram",
            "Box diagram of the selected block",
            "Ctrl+D",
            show,
            is_selected,
            "Show the drawing large on the Diagrams screen, to copy, print or export it",
        )
    ]
