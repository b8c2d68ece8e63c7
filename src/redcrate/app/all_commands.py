"""The register of all commands: buttons, keys and the searchable list are made from it."""

from functools import partial
from typing import TYPE_CHECKING

from redcrate.app.commands.command import Command
from redcrate.app.screen import ScreenEntry
from redcrate.app.screens import SCREENS

if TYPE_CHECKING:
    from redcrate.app.window import Window


def all_commands(window: "Window") -> list[Command]:
    """Every command of the window."""
    return [
        *_file_commands(window),
        *_edit_commands(window),
        Command(
            "commands",
            "All commands",
            "Alt+C",
            lambda: window.command_list.open(),
            teaches="Find any command by its words",
        ),
        *_screen_commands(window),
    ]


def _file_commands(window: "Window") -> list[Command]:
    def has_page() -> bool:
        return window.session is not None

    def edited() -> bool:
        return window.session is not None and window.session.document.is_edited

    return [
        Command("open", "Open a page…", "Ctrl+O", window.choose_page, teaches="Right click: pages opened before"),
        Command("recent", "Pages opened before", "Ctrl+Shift+O", window.show_recent),
        Command("save", "Save", "Ctrl+S", window.save, edited),
        Command("save-as", "Save as, with stylesheets and pictures…", "Ctrl+Shift+S", window.save_as, has_page),
        Command("quit", "Close the window", "Ctrl+Q", window.close),
    ]  # fmt: skip


def _edit_commands(window: "Window") -> list[Command]:
    def done() -> bool:
        return window.session is not None and bool(window.session.editor.history.done)

    def undone() -> bool:
        return window.session is not None and bool(window.session.editor.history.undone)

    return [
        Command("undo", "Undo", "Ctrl+Z", window.undo, done),
        Command("redo", "Redo", "Ctrl+Shift+Z", window.redo, undone),
    ]


def _screen_commands(window: "Window") -> list[Command]:
    """Going to each screen, and what it can do itself."""

    def can_go(entry: ScreenEntry) -> bool:
        return window.session is not None or not entry.needs_page

    found = [
        Command(
            entry.name, entry.words, entry.keys, partial(window.show_screen, entry.name),
            partial(can_go, entry), entry.teaches,
        )
        for entry in SCREENS
    ]  # fmt: skip
    return found + [command for entry in SCREENS for command in entry.commands(window)]
