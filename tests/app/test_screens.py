"""The screens are a list: each is made when it is wanted, and one that is added needs nothing else."""

from pathlib import Path

import pytest
from PyQt6.QtWidgets import QLabel, QVBoxLayout, QWidget
from pytestqt.qtbot import QtBot

from redcrate.app import all_commands as register
from redcrate.app import screens as screens_module
from redcrate.app import top_bar
from redcrate.app import window as window_module
from redcrate.app.commands.command import Command
from redcrate.app.screen import OpenPage, Screen, ScreenEntry
from redcrate.app.window import Window
from redcrate.core.session import Session
from tests.app.conftest import make_window
from tests.app.pointer import press


class Counted(Screen):
    """A screen of a test; it notes what is done with it."""

    def __init__(self, session: Session | None, parent: QWidget) -> None:
        super().__init__(parent)
        assert session is not None
        self.done: list[object] = []
        QVBoxLayout(self).addWidget(QLabel(f"{len(session.views.page.elements)} elements"))

    def enter(self) -> None:
        self.done.append("entered")

    def leave(self) -> None:
        self.done.append("left")

    def show_what(self, what: object) -> None:
        self.done.append(what)


def test_a_screen_is_added_in_one_place(
    qtbot: QtBot, demo_copy: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """It has a button, a shortcut and commands; it is made late, entered, left, and shown things."""
    made: list[Counted] = []

    def make(of: OpenPage | None, parent: QWidget) -> Screen:
        made.append(Counted(of.session if of is not None else None, parent))
        return made[-1]

    entry = ScreenEntry(
        "counted",
        "Counted",
        "Ctrl+9",
        "How many there are",
        make,
        lambda host: [Command("count", "Count", "", lambda: host.show_screen("counted", "all"))],
    )
    for module in (screens_module, window_module, top_bar, register):
        monkeypatch.setattr(module, "SCREENS", (*screens_module.SCREENS, entry))
    window: Window = make_window(qtbot, demo_copy)
    assert not made and window.buttons["counted"].text() == "Counted"
    press(window.buttons["counted"])
    (screen,) = made
    assert screen.isVisible() and screen.done == ["entered"]
    assert window.buttons["counted"].isChecked() and not window.buttons["bench"].isChecked()
    press(window.buttons["source"])
    assert screen.done == ["entered", "left"] and not screen.isVisible()
    window.actions_by_name["count"].trigger()
    assert screen.done[2:] == ["entered", "all"] and len(made) == 1
    screen.wanted.emit("bench", None)
    assert window.buttons["bench"].isChecked() and not screen.isVisible()


def test_the_source_is_made_when_it_is_wanted(qtbot: QtBot, demo_copy: Path) -> None:
    """Opening a page makes the bench alone; another page makes its screens anew."""
    window = make_window(qtbot, demo_copy)
    assert list(window._screens) == ["bench"]
    press(window.buttons["source"])
    assert list(window._screens) == ["bench", "source"]
    window.show_session(Session(demo_copy))
    assert list(window._screens) == ["bench"] and window.buttons["bench"].isChecked()


def test_screens_of_a_page_need_one(qtbot: QtBot) -> None:
    """Without a page only what begins one can be gone to."""
    window = Window()
    qtbot.addWidget(window)
    assert not window.buttons["source"].isEnabled() and window.screen_named("source") is None
    window.actions_by_name["new"].trigger()
    assert list(window._screens) == ["new"]
