"""Make your own: a trainer points at boxes, saves it, and a learner opens and solves it."""

import json
from pathlib import Path

import jsonschema
import pytest
from PyQt6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PyQt6.QtGui import QDragEnterEvent, QDropEvent
from PyQt6.QtWidgets import QApplication, QFileDialog, QListWidget
from pytestqt.qtbot import QtBot

from redcrate.app.exercises.making import MakeExercise
from redcrate.app.screens import bench_of, exercises_of, making_of
from redcrate.app.start import make_application
from redcrate.app.window import Window
from redcrate.core.edit.gives import Gives
from redcrate.core.exercises import exercise as exercise_module
from redcrate.core.exercises.exercise import read_exercise
from tests.app.conftest import click, make_window, outer_on_sheet
from tests.app.pointer import QTest, press, type_over
from tests.conftest import ROOT


@pytest.fixture
def window(qtbot: QtBot, demo_copy: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Window:
    """The demo page, for a user without any exercises of his own."""
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    make_application()
    return make_window(qtbot, demo_copy)


def point_at(
    screen: MakeExercise, window: Window, name: str, nth: int = 0, *, more: bool = False
) -> None:
    """Click a box on the maker's own sheet."""
    assert window.session is not None
    found = [e for e in window.session.views.page.elements if name in (*e.classes, e.tag)][nth]
    rect = window.session.views.page.by_element[found].border_box
    where = screen.sheet.to_screen(rect).topLeft() + QPoint(3, 3).toPointF()
    keys = Qt.KeyboardModifier.ControlModifier if more else Qt.KeyboardModifier.NoModifier
    press(screen.sheet.viewport(), where.toPoint(), keys)


def pick(items: QListWidget, words: str) -> None:
    """Click the line that has these words."""
    for row in range(items.count()):
        item = items.item(row)
        if item is not None and words in item.text():
            items.scrollToItem(item)
            press(items.viewport(), items.visualItemRect(item).center())
            return
    raise AssertionError([items.item(r).text() for r in range(items.count())])


def lines(items: QListWidget) -> list[str]:
    """The texts of a list."""
    return [i.text() for r in range(items.count()) if (i := items.item(r)) is not None]


def test_a_trainer_makes_one_and_a_learner_solves_it(
    qtbot: QtBot, window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Solved here, unsaved; boxes are pointed at; the learner gets the page as it was saved, and any right way counts."""
    click(qtbot, window, "notice")
    press(next(b for g, b in bench_of(window).budget._gives.items() if g is Gives.BOX))
    type_over(bench_of(window).budget.cell("across", "padding", "left").field, "40")
    press(window.buttons["exercises"])
    press(exercises_of(window).make)
    screen = making_of(window)
    assert screen.isVisible() and not screen.save.isEnabled() and screen.title.hasFocus()
    QTest.keyClicks(screen.title, "Forty at the left")
    QTest.keyClick(screen.title, Qt.Key.Key_Tab)
    QTest.keyClick(screen.group, Qt.Key.Key_Tab)
    assert screen.task.hasFocus()
    QTest.keyClicks(screen.task, "Give the notice 40 px of padding at its left.")
    assert "no condition yet" in screen.begins.text()
    press(screen.sheet.viewport(), QPoint(screen.sheet.width() // 2, screen.sheet.height() - 40))
    point_at(screen, window, "notice")
    assert screen.pointed.text() == "section.notice"
    pick(screen.offers, "The border box of .notice is 640 px wide")
    press(screen.ask)
    pick(screen.offers, "The left padding of .notice is 40 px")
    press(screen.ask)
    assert (
        "meets 1 of 2" not in screen.begins.text() and "meets 0 of 2 conditions" in screen.begins.text()
    )
    assert "kept as the solution" in screen.begins.text()
    pick(screen.offers, "The content of .notice is 560 px wide")
    type_over(screen.amount, "556", enter=False)
    press(screen.say)
    QTest.keyClicks(screen.say, "The content gave: the box did not grow.")
    QTest.keyClick(screen.say, Qt.Key.Key_Return)
    assert lines(screen.hints) == [
        "If the content of .notice is 556 px wide: The content gave: the box did not grow."
    ]
    point_at(screen, window, "plot")
    point_at(screen, window, "plot", 1, more=True)
    point_at(screen, window, "plot", 2, more=True)
    pick(screen.offers, "The 3 .plot are in one row")
    press(screen.ask)
    assert lines(screen.asked)[-1] == "the 3 .plot are in one row"
    file = tmp_path / "class" / "forty"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(file), ""))
    press(screen.save)
    written = file.with_name("forty.redcrate-exercise.json")
    kept = json.loads(written.read_text("utf-8"))
    schema = Path(exercise_module.__file__).with_name("exercise_schema.json").read_text("utf-8")
    jsonschema.validate(kept, json.loads(schema))
    made = read_exercise(written)
    assert len(made.conditions) == 3 and made.window == 1100 and made.solution
    assert window.session is not None
    source = window.session.document
    assert (file.parent / "style.css").read_bytes() == (source.path.parent / "style.css").read_bytes()
    assert (file.parent / "pictures").is_dir() or any(file.parent.glob("**/*.svg"))
    _solved_by_a_learner(qtbot, window, written, monkeypatch)


def _solved_by_a_learner(
    qtbot: QtBot, window: Window, written: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    assert window.session is not None
    press(window.buttons["undo"])
    press(window.buttons["exercises"])
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(written), ""))
    press(exercises_of(window).open)
    assert exercises_of(window).title.text() == "Forty at the left"
    with qtbot.waitSignal(window.opened, timeout=10_000):
        press(exercises_of(window).begin)
    window.activateWindow()  # the platform without a screen forgets it when the lists of the old page go
    assert QTest.qWaitForWindowActive(window)
    assert window.session.document.path.parent != written.parent
    assert window.greeting.words.text() == "Give the notice 40 px of padding at its left."
    click(qtbot, window, "notice")
    type_over(bench_of(window).budget.cell("across", "padding", "left").field, "40")
    press(window.greeting.button)
    screen = exercises_of(window)
    press(screen.check)
    assert "The content gave" in screen.words.text() and screen.picture.isVisible()
    assert screen.now.isVisible() and "636" in repr(screen.drawn.drawing), "as it is now"
    while screen.hint.isVisible():
        press(screen.hint)
    press(screen.solution)
    assert "640" in repr(screen.drawn.drawing)
    assert not screen.now.isVisible() and not screen.picture.isVisible(), "a solution has the whole room"
    press(window.buttons["bench"])
    type_over(bench_of(window).budget.cell("across", "content").field, "560")
    press(window.greeting.button)
    press(exercises_of(window).check)
    assert "All conditions are met" in screen.words.text() and screen.drawn.isVisible()


def test_what_cannot_be_an_exercise_is_said(
    window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Nothing to do, a folder with other files, a value that is none; nothing is written."""
    window.show_screen("make-exercise")
    screen = making_of(window)
    QTest.keyClicks(screen.title, "T")
    press(screen.task)
    QTest.keyClicks(screen.task, "Do it")
    point_at(screen, window, "notice")
    pick(screen.offers, "The border box of .notice is 636 px wide")
    type_over(screen.amount, "wide")
    assert "not a number of px" in window.sentence.text() and not lines(screen.asked)
    screen.amount.selectAll()
    QTest.keyClicks(screen.amount, "636")
    press(screen.ask)
    assert "already meets all conditions" in screen.begins.text() and not screen.save.isEnabled()
    press(screen.asked.viewport(), screen.asked.visualItemRect(screen.asked.item(0)).center())
    press(screen.ask)
    assert len(lines(screen.asked)) == 1, "the same is asked for once"
    press(screen.asked.parentWidget().findChildren(type(screen.save))[0])
    type_over(screen.amount, "600")
    assert lines(screen.asked) == ["the border box of .notice is 600 px wide"]
    assert "meets 0 of 1 conditions" in screen.begins.text() and screen.save.isEnabled()
    folder = tmp_path / "full"
    folder.mkdir()
    (folder / "other.html").write_text("mine", "utf-8")
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(folder / "x"), ""))
    press(screen.save)
    assert "Choose an empty folder" in window.sentence.text()
    assert [f.name for f in folder.iterdir()] == ["other.html"]
    assert outer_on_sheet(window, "notice").width == 636 * 64


def test_an_exercise_is_dropped_onto_the_window(window: Window, tmp_path: Path) -> None:
    """Its screen takes it, whatever is open; one that cannot be read is told, and the list stays."""
    folder = ROOT / "exercises" / "sums" / "notice-636"
    (tmp_path / "class").mkdir()
    for file in folder.iterdir():
        (tmp_path / "class" / file.name).write_bytes(file.read_bytes())
    given = next((tmp_path / "class").glob("*.redcrate-exercise.json"))
    drop(window, given)
    screen = exercises_of(window)
    assert screen.isVisible() and screen.title.text() == "The border box of the notice"
    assert screen.chosen is not None and screen.chosen.name.startswith("opened/notice-636-")
    assert len(lines(screen.list)) == 6 + 25
    given.write_text("{}", "utf-8")
    drop(window, given)
    assert "“format” is not 1" in window.sentence.text() and len(lines(screen.list)) == 6 + 25


def drop(window: Window, file: Path) -> None:
    """Files dragged over the window and let go there."""
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(file))])
    how = Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    over = QDragEnterEvent(QPoint(300, 300), *how)
    QApplication.sendEvent(window, over)
    assert over.isAccepted()
    QApplication.sendEvent(window, QDropEvent(QPointF(300, 300), *how))
