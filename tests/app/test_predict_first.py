"""Predict first: a change waits, is asked about, and is shown beside what was said."""

import json
import shutil
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtWidgets import QApplication, QPushButton
from pytestqt.qtbot import QtBot

from redcrate.app.bench.sides import Side
from redcrate.app.fix_button import FixButton
from redcrate.app.screens import bench_of
from redcrate.app.settings import Settings
from redcrate.app.start import make_application
from redcrate.app.theme.look import page_colour
from redcrate.app.window import Window
from redcrate.core.geometry import Rect
from redcrate.core.session import Session
from redcrate.core.units import from_px
from tests.app.conftest import click, element, make_window, outer_on_sheet
from tests.app.pointer import QTest, choose, drag, hover, look_through, press, type_over
from tests.conftest import ROOT


@pytest.fixture
def window(qtbot: QtBot, demo_copy: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Window:
    """The demo page, for a user who has predicted nothing yet, with the switch on."""
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    make_application()
    made = make_window(qtbot, demo_copy)
    press(bench_of(made).width_bar.predicts)
    return made


def counted(tmp_path: Path) -> dict[str, list[int]]:
    """The counts in the user's data folder."""
    kept = json.loads((tmp_path / "data/redcrate/exercises/progress.json").read_text("utf-8"))
    found: dict[str, list[int]] = kept["predictions"]
    return found


def text(window: Window) -> str:
    """The stylesheet as it is now."""
    assert window.session is not None
    return "".join(window.session.document.texts().values())


def grow_padding(qtbot: QtBot, window: Window, px: str) -> None:
    """Type another left padding for the notice."""
    click(qtbot, window, "notice")
    type_over(bench_of(window).budget.cell("across", "padding", "left").field, px)


def at_middle(window: Window, rect: Rect) -> QPoint:
    """Where the middle of a rectangle of the page is on the sheet."""
    return bench_of(window).sheet.to_screen(rect).center().toPoint()


def test_a_typed_padding_waits_until_the_sum_is_said(
    qtbot: QtBot, window: Window, tmp_path: Path
) -> None:
    """Nothing changes and nothing is given away before; then page, difference, sum and count; one undo step."""
    bar, before = bench_of(window).prediction, text(window)
    assert not bar.isVisible()
    click(qtbot, window, "notice")
    cell = bench_of(window).budget.cell("across", "padding", "left")
    type_over(cell.field, "30", enter=False)
    assert "566" not in bench_of(window).budget.message.text()
    QTest.keyClick(cell.field, Qt.Key.Key_Return)
    assert bar.isVisible() and bar.field.hasFocus() and text(window) == before
    assert bar.words.text() == "How wide will the content of section.notice be?  Now it is 560 px."
    assert "566" not in bar.change.text() and cell.field.text() == "36"
    QTest.keyClicks(bar.field, "five")
    QTest.keyClick(bar.field, Qt.Key.Key_Return)
    assert "not a number of px" in bar.problem.text() and text(window) == before
    QTest.keyClicks(bar.field, "560-6")
    QTest.keyClick(bar.field, Qt.Key.Key_Return)
    assert bar.words.text() == "→  It is 566 px, 12 more than your answer."
    assert "566 px content" in bar.change.text() and cell.field.text() == "30"
    assert bar.record.text() == "Sums: 0 of 1 right" and counted(tmp_path) == {"sums": [0, 1]}
    assert cell.field.hasFocus(), "one goes on where one was"
    assert bar.close_it.isVisible() and not bar.at_once.isVisible()
    press(bar.close_it)
    assert not bar.isVisible()
    press(window.buttons["undo"])
    assert text(window) == before


def test_both_lengths_are_drawn_on_the_sheet(qtbot: QtBot, window: Window) -> None:
    """What it became in ink, what was said in grey, each from the same start to its own end."""
    sheet, bar = bench_of(window).sheet, bench_of(window).prediction
    grow_padding(qtbot, window, "30")
    type_over(bar.field, "466")
    found = sheet.viewport().grab().toImage()
    span = window.session.predict_first.told.question.after
    for amount, shade in ((566, "ink"), (466, "second_ink")):
        end = sheet.to_screen(Rect(span.start + from_px(amount), span.at, 0, 0)).topLeft()  # type: ignore[arg-type]
        wanted = page_colour(shade)
        strokes = [
            y
            for y in range(round(end.y()) - 170, round(end.y()) + 170)
            for c in (found.pixelColor(round(end.x()) + dx, y) for dx in (-1, 0, 1))
            if abs(c.red() - wanted.red()) + abs(c.blue() - wanted.blue()) < 80
        ]
        assert len(set(strokes)) > 6, f"no end of a dimension at {amount} px"
    assert sheet.dimensions() is None, "they would lie over what is to be compared"
    press(bar.close_it)
    assert sheet.dimensions() is not None
    for name in ("h1", "badge", "path"):  # what is read beside it stays as it is
        place = sheet.to_screen(outer_on_sheet(window, name)).toRect()
        assert found.copy(place) == sheet.viewport().grab().toImage().copy(place), name


def test_escape_shows_at_once_and_counts_nothing(qtbot: QtBot, window: Window, tmp_path: Path) -> None:
    """It never blocks: a key, another screen, a save, or the switch shows what waits."""
    bar, before = bench_of(window).prediction, text(window)
    grow_padding(qtbot, window, "30")
    QTest.keyClick(bar.field, Qt.Key.Key_Escape)
    assert not bar.isVisible() and "padding: 24px 36px 24px 30px" in text(window)
    for px, way in (
        ("31", lambda: press(window.buttons["source"])),
        ("32", lambda: press(window.buttons["save"])),
        ("33", lambda: press(bench_of(window).width_bar.predicts)),
    ):
        press(window.buttons["bench"])
        type_over(bench_of(window).budget.cell("across", "padding", "left").field, px)
        assert f"24px {px}px" not in text(window) and bar.isVisible()
        way()
        assert f"24px 36px 24px {px}px" in text(window) and not bar.isVisible()
    assert not (tmp_path / "data/redcrate/exercises/progress.json").exists() and text(window) != before


def test_another_change_does_not_push_in_front(qtbot: QtBot, window: Window) -> None:
    """While one waits, a second one is refused with what to do; undo takes the first one back."""
    bar, before = bench_of(window).prediction, text(window)
    grow_padding(qtbot, window, "30")
    cell = bench_of(window).budget.cell("across", "padding", "right")
    type_over(cell.field, "40")
    assert "Answer it, or press Esc" in bench_of(window).budget.message.text() and bar.isVisible()
    QTest.keyClick(cell.field, Qt.Key.Key_Escape)
    press(window.buttons["undo"])
    assert text(window) == before and not bar.isVisible()


def test_what_waits_never_falls_on_other_texts(qtbot: QtBot, window: Window) -> None:
    """An element is deleted meanwhile: the places that the change was for are others, so it is dropped, and said so."""
    bar = bench_of(window).prediction
    grow_padding(qtbot, window, "30")
    tree = bench_of(window).outline.view
    assert window.session is not None
    press(tree.viewport(), tree.visualRect(tree.currentIndex()).center())
    QTest.keyClick(tree, Qt.Key.Key_Delete)
    assert 'class="notice"' not in text(window) and not bar.isVisible()
    qtbot.waitUntil(lambda: bool(window.sentence.text()))
    assert window.sentence.text() == (
        "Not applied, because the page changed first: section.notice: padding left 36px → 30px."
    )
    press(window.buttons["undo"])
    assert "padding: 24px 36px;" in text(window)


def test_three_outcomes_for_a_row_that_gets_tight(qtbot: QtBot, window: Window, tmp_path: Path) -> None:
    """The right one by the computed page, with how much was lacking."""
    click(qtbot, window, "plot")
    type_over(bench_of(window).budget.cell("across", "margin", "right").field, "25")
    bar = bench_of(window).prediction
    buttons = [b for b in bar.outcomes.findChildren(QPushButton) if b.isVisible()]
    assert [b.text() for b in buttons][:2] == ["all stay in the row", "one block wraps"]
    assert buttons[0].hasFocus()
    QTest.keyClick(buttons[0], Qt.Key.Key_Tab)
    QTest.keyClick(buttons[1], Qt.Key.Key_Space)
    assert bar.words.text() == "✓  Yes: one block wraps."
    assert bar.change.text() == "article.plot needs 343 px and the row has 314 px free: short by 29 px."
    assert counted(tmp_path) == {"rows": [1, 1]}


def test_a_ghost_is_dragged_to_where_the_block_will_be(
    qtbot: QtBot, window: Window, tmp_path: Path
) -> None:
    """A choice is not shown while it is looked at; the ghost moves by pointer and arrows, Enter says it."""
    bench, before = bench_of(window), outer_on_sheet(window, "notice")
    click(qtbot, window, "notice")
    choice = bench.selected.choices.choices["float"]
    look_through(choice, "right")
    assert window.session is not None
    assert window.session.views.shown_page is window.session.views.page
    QTest.keyClick(choice.view(), Qt.Key.Key_Escape)
    choose(choice, "right")
    bar, sheet, tool = bench.prediction, bench.sheet, bench.sheet.ghost_tool
    assert bar.words.text() == "Where will section.notice be? Move its outline there."
    assert tool.ghost is not None and (tool.ghost.x, tool.ghost.y) == (before.x, before.y)
    assert sheet.is_busy, "chains would be in the ghost's way"
    start = at_middle(window, tool.ghost)
    drag(sheet.viewport(), start, start + QPoint(60, 0))
    assert tool.ghost.x == before.x + from_px(round(60 / sheet.scale)) and tool.ghost.y == before.y
    assert sheet.hasFocus()
    QTest.keyClick(sheet, Qt.Key.Key_Down, Qt.KeyboardModifier.ShiftModifier)
    QTest.keyClick(sheet, Qt.Key.Key_Left)
    assert tool.ghost.y == before.y + from_px(10)
    QTest.keyClick(sheet, Qt.Key.Key_Return)
    assert tool.ghost is None and outer_on_sheet(window, "notice").x > before.x
    assert "px further right and 10 px further up" in bar.words.text()
    assert "It floats right" in bar.change.text()
    assert counted(tmp_path) == {"places": [0, 1]}
    press(sheet.viewport(), at_middle(window, outer_on_sheet(window, "h1")))
    assert not sheet.is_busy and not bar.isVisible(), "an outcome goes with the element that it was of"


def test_a_drag_waits_too(qtbot: QtBot, window: Window) -> None:
    """The page stands still under a dragged edge; letting go asks."""
    bench, before = bench_of(window), text(window)
    click(qtbot, window, "notice")
    sheet = bench.sheet
    box = outer_on_sheet(window, "notice")
    edge = QPoint(round(sheet.to_screen(box).right()) - 1, at_middle(window, box).y())
    drag(sheet.viewport(), edge, edge + QPoint(-9, 0), let_go=False)
    assert window.session is not None
    assert sheet.edge_tool.drag is not None and sheet.edge_tool.drag.plan is not None
    assert window.session.views.shown_page is window.session.views.page
    shot = sheet.viewport().grab().toImage()
    greens = [
        min(shot.pixelColor(x, shot.height() - 60 + dy).green() for dy in range(8))
        for x in range(edge.x() - 60, edge.x() - 6)
    ]
    assert min(greens[-6:]) < 140 < min(greens[:-8]), "a line where the edge would be, and nowhere else"
    QTest.mouseRelease(sheet.viewport(), Qt.MouseButton.LeftButton, pos=edge + QPoint(-9, 0))
    assert bench.prediction.isVisible() and text(window) == before
    QTest.keyClick(bench.prediction.focusWidget() or bench.prediction, Qt.Key.Key_Escape)
    assert text(window) != before and QApplication.focusWidget() is not None
    assert element(window, "notice") is window.session.views.selected


def test_a_fix_waits_too(qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Looked at it is not shown; taken it is asked about; the answer takes it, as one step."""
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    shutil.copytree(ROOT / "demo" / "ploverfield-draft", tmp_path / "draft")
    draft = make_window(qtbot, tmp_path / "draft" / "index.html")
    bench, found = bench_of(draft), bench_of(draft).findings
    press(bench.width_bar.predicts)
    press(bench.side_buttons[Side.FINDINGS])
    qtbot.waitUntil(lambda: found.search.knows_all, timeout=8000)
    number = next(i for i, f in enumerate(found.findings) if f.family == "nearly-centred")
    item = found.list.item(number)
    found.list.scrollToItem(item)
    press(found.list.viewport(), found.list.visualItemRect(item).center())
    qtbot.waitUntil(lambda: bool(found.search.fixes), timeout=8000)
    assert found.opened is not None and draft.session is not None
    fix = next(b for b in found.opened.findChildren(FixButton) if b.isVisible())
    before, views = text(draft), draft.session.views
    hover(fix, over=True)
    assert views.shown_page is views.page
    press(fix)
    assert bench.prediction.isVisible() and text(draft) == before and not draft.sentence.text()
    press(bench.prediction.at_once)
    assert text(draft) != before and len(draft.session.editor.history.done) == 1


def test_neighbours_that_give_wait_too(qtbot: QtBot, window: Window) -> None:
    """What is arranged is a change like others."""
    bench, before = bench_of(window), text(window)
    click(qtbot, window, "notice")
    press(bench.side_buttons[Side.ROWS])
    type_over(bench.arranging.fields["amount"], "14")
    press(bench.arranging.give_buttons["Equal parts"])
    assert bench.prediction.isVisible() and text(window) == before
    press(bench.prediction.at_once)
    assert text(window) != before


def test_the_switch_stays_for_the_next_page(qtbot: QtBot, demo_copy: Path, tmp_path: Path) -> None:
    """Who learns goes on learning; by the list of commands too."""
    make_application()
    window = make_window(qtbot, demo_copy, Settings(tmp_path / "settings"))
    command = next(c for c in window.commands if c.name == "predict-first")
    press(window.buttons["commands"])
    QTest.keyClicks(window.command_list.field, "predict first")
    QTest.keyClick(window.command_list.field, Qt.Key.Key_Return)
    assert command.enabled() and window.session is not None and window.session.predict_first.on
    window.show_session(Session(demo_copy))
    assert window.session.predict_first.on and bench_of(window).width_bar.predicts.isChecked()
