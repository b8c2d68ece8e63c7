"""The Exercises screen: begun, worked on with the bench, checked, hints in steps, kept as done."""

import json
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QListWidgetItem
from pytestqt.qtbot import QtBot

from redcrate.app.exercises.screen import ExercisesScreen
from redcrate.app.screens import bench_of, exercises_of
from redcrate.app.start import make_application
from redcrate.app.window import Window
from redcrate.core.edit.gives import Gives
from tests.app.conftest import click, make_window
from tests.app.pointer import QTest, press, type_over


@pytest.fixture
def window(qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Window:
    """A window without a page, for a user who has done nothing yet."""
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    make_application()
    made = Window()
    qtbot.addWidget(made, before_close_func=lambda w: setattr(w, "_warned", True))
    made.resize(1280, 800)
    made.show()
    made.activateWindow()
    assert QTest.qWaitForWindowActive(made)
    press(made.buttons["exercises"])
    return made


def item(screen: ExercisesScreen, title: str) -> QListWidgetItem:
    """The item of an exercise."""
    items = (screen.list.item(n) for n in range(screen.list.count()))
    return next(i for i in items if i is not None and title in i.text())


def begun(qtbot: QtBot, window: Window) -> None:
    """Press Begin, and wait until the page is on the bench."""
    with qtbot.waitSignal(window.opened, timeout=10_000):
        press(exercises_of(window).begin)
    assert bench_of(window).isVisible()


def test_an_exercise_is_begun_worked_on_and_done(qtbot: QtBot, window: Window, tmp_path: Path) -> None:
    """The task stays in sight; the first hint fits the mistake; right boxes pass, saved or not; it stays done."""
    screen = exercises_of(window)
    assert screen.title.text() == "The border box of the notice"
    assert (
        not screen.check.isEnabled() and not screen.again.isVisible() and not window.greeting.isVisible()
    )
    begun(qtbot, window)
    assert window.greeting.isVisible() and "636 px wide" in window.greeting.words.text()
    click(qtbot, window, "notice")
    for side in ("left", "right"):
        press(
            bench_of(window).budget._gives[
                next(g for g in bench_of(window).budget._gives if g is Gives.BOX)
            ]
        )
        type_over(bench_of(window).budget.cell("across", "padding", side).field, "30")
    type_over(bench_of(window).budget.cell("across", "content", "").field, "636")
    press(window.greeting.button)
    screen = exercises_of(window)
    assert screen.isVisible() and not window.greeting.isVisible() and screen.is_open
    press(screen.check)
    assert screen.words.text().splitlines() == [
        "4 of 5 conditions are met.",
        "→  The content is 636 px wide: 30 + 30 px of padding and 2 + 2 px of border are added.",
    ]
    press(screen.hint)
    assert (
        screen.words.text().splitlines()[-1]
        == "→  The border box of section.notice is 700 px wide: 64 px too much."
    )
    press(screen.hint)
    assert "636 px content + 60 padding" in screen.words.text() and not screen.hint.isVisible()
    press(screen.begin)
    assert bench_of(window).isVisible()
    type_over(bench_of(window).budget.cell("across", "content", "").field, "572")
    press(window.buttons["exercises"])
    assert screen.words.text() == ""
    press(screen.check)
    assert screen.words.text().startswith(
        "All conditions are met:\n✓  The border box of section.notice is 636 px wide."
    )
    assert item(screen, "The border box of the notice").text().startswith("✓")
    assert "1 of 4" in item(screen, "Sums of a box").text()
    kept = json.loads(
        (tmp_path / "data" / "redcrate" / "exercises" / "progress.json").read_text(encoding="utf-8")
    )
    assert kept == {"passed": ["sums/notice-636"]}
    press(screen.next)
    assert screen.title.text() == "Content for a drawing" and not screen.check.isEnabled()
    assert not screen.next.isVisible() and screen.begin.text() == "Start"


def test_the_list_goes_by_keys_and_another_page_is_no_exercise(
    qtbot: QtBot, window: Window, demo_copy: Path
) -> None:
    """Heads of sets are passed over; a page of one's own has no task in sight."""
    screen = exercises_of(window)
    for _ in range(4):
        QTest.keyClick(screen.list, Qt.Key.Key_Down)
    assert screen.chosen is not None and screen.chosen.name == "modes/two-plots"
    begun(qtbot, window)
    assert "both plots 300 px" in window.greeting.words.text()
    window.open_page(demo_copy)
    qtbot.waitSignal(window.opened, timeout=10_000).wait()
    assert not window.greeting.isVisible()
    press(window.buttons["exercises"])
    assert exercises_of(window).title.text() == "The border box of the notice"
    assert not exercises_of(window).is_open


def test_it_can_be_begun_again(qtbot: QtBot, window: Window) -> None:
    """What was saved in the learner's copy goes; the exercise itself was never touched."""
    begun(qtbot, window)
    click(qtbot, window, "notice")
    type_over(bench_of(window).budget.cell("across", "content", "").field, "50")
    press(window.buttons["save"])
    assert window.session is not None
    copy = window.session.document.path
    assert "width: 50px" in copy.read_text(encoding="utf-8")
    press(window.buttons["exercises"])
    screen = exercises_of(window)
    with qtbot.waitSignal(window.opened, timeout=10_000):
        press(screen.again)
    assert "width: 600px" in copy.read_text(encoding="utf-8")
    assert window.session.document.path == copy


def test_an_exercise_that_is_open_is_the_one_that_is_shown(qtbot: QtBot, window: Window) -> None:
    """However the page was opened."""
    screen = exercises_of(window)
    press(screen.list.viewport(), screen.list.visualItemRect(item(screen, "Up by twelve")).center())
    begun(qtbot, window)
    assert window.session is not None
    again = make_window(qtbot, window.session.document.path)
    press(again.buttons["exercises"])
    assert exercises_of(again).title.text() == "Up by twelve" and exercises_of(again).is_open
