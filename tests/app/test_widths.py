"""The Widths screen: sheets side by side, one selection, sums per width, widths that come and go."""

import json
from pathlib import Path

import pytest
from PyQt6.QtCore import QEvent, QPoint, Qt
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from redcrate.app.screens import bench_of, widths_of
from redcrate.app.widths.column import Column
from redcrate.app.widths.screen import WidthsScreen
from redcrate.app.window import Window
from redcrate.core.markup.elements import Element
from tests.app.conftest import click, element
from tests.app.pointer import QTest, move_over, press, settled, type_over


@pytest.fixture
def screen(qtbot: QtBot, window: Window) -> WidthsScreen:
    """The screen, reached by its button."""
    press(window.buttons["widths"])
    made = widths_of(window)
    qtbot.waitUntil(lambda: len({c.sheet.scale for c in made.columns}) == 1, timeout=5000)
    settled()
    return made


def corner(column: Column, one: Element) -> QPoint:
    """A point in the upper left corner of an element on a sheet."""
    box = column.sheet.shown_page.by_element[one].border_box
    return column.sheet.to_screen(box).topLeft().toPoint() + QPoint(3, 3)


def cells(screen: WidthsScreen, row: int) -> list[str]:
    """A row of the table as it is read."""
    items = (screen.table.item(row, column) for column in range(screen.table.columnCount()))
    return [item.text() if item is not None else "" for item in items]


def test_one_selection_at_all_widths(qtbot: QtBot, window: Window, screen: WidthsScreen) -> None:
    """Each sheet is laid out for its own window, all at one scale; a click on any selects; the sums stand below."""
    assert [c.px for c in screen.columns] == [1100, 820, 390]
    assert not screen.table.isVisible() and "Click a block" in screen.words.text()
    notice, narrow = element(window, "notice"), screen.columns[2]
    press(narrow.sheet.viewport(), corner(narrow, notice))
    assert window.session is not None and window.session.views.selected is notice
    qtbot.waitUntil(lambda: screen.table.isVisible(), timeout=3000)
    assert screen.words.text() == "section.notice, selected at all widths"
    assert cells(screen, 0)[:6] == ["1100", "28", "2", "36", "560", "36"]
    assert cells(screen, 2)[0] == "390" and cells(screen, 2)[4] == "• 274" and cells(screen, 2)[2] == "2"
    for row, column in enumerate(screen.columns):
        box = column.view.page.by_element[notice].border_box
        assert cells(screen, row)[8].removeprefix("• ") == f"{box.width / 64:g}"


def test_what_is_under_the_pointer_is_shown_on_the_others(
    qtbot: QtBot, window: Window, screen: WidthsScreen
) -> None:
    """Until the pointer leaves."""
    first, others = screen.columns[0], screen.columns[1:]
    before = [c.sheet.grab().toImage() for c in others]
    move_over(first.sheet.viewport(), corner(first, element(window, "notice")))
    assert all(c.sheet.grab().toImage() != b for c, b in zip(others, before, strict=True))
    QApplication.sendEvent(first.sheet, QEvent(QEvent.Type.Leave))
    assert [c.sheet.grab().toImage() for c in others] == before


def test_an_edit_reaches_every_sheet_in_its_own_time(
    qtbot: QtBot, window: Window, screen: WidthsScreen
) -> None:
    """Undone from here: the sheets follow after the event, and so do the sums."""
    press(window.buttons["bench"])
    click(qtbot, window, "notice")
    type_over(bench_of(window).budget.cell("across", "padding", "left").field, "20")
    press(window.buttons["widths"])
    notice = element(window, "notice")
    for column in screen.columns:
        assert column.sheet.shown_page.by_element[notice].padding.left == 20 * 64
    shown = [c.sheet.shown_page for c in screen.columns]
    assert window.session is not None
    window.session.editor.undo()
    assert [c.sheet.shown_page for c in screen.columns] == shown, "its turn has not come yet"
    QApplication.processEvents()
    notice = element(window, "notice")
    for column in screen.columns:
        assert column.sheet.shown_page.by_element[notice].padding.left == 36 * 64
    qtbot.waitUntil(lambda: cells(screen, 0)[3] == "36", timeout=3000)


def test_sheets_scroll_together_by_element(qtbot: QtBot, window: Window, screen: WidthsScreen) -> None:
    """What stands at the upper edge of the one that is scrolled stands at that of the others, as far inside."""
    narrow, middle = screen.columns[2], screen.columns[1]
    bar, other = narrow.sheet.verticalScrollBar(), middle.sheet.verticalScrollBar()
    assert bar is not None and other is not None and bar.maximum() > 100
    notice = element(window, "notice")
    place = narrow.sheet.shown_page.by_element[notice].border_box
    bar.setValue(round((place.y / 64 + 6) * narrow.sheet.scale))
    there = middle.sheet.shown_page.by_element[notice].border_box
    assert 0 < other.value() <= other.maximum()
    assert other.value() < other.maximum()
    assert other.value() / middle.sheet.scale == pytest.approx(there.y / 64 + 6, abs=3)


def test_widths_come_and_go_and_are_kept(
    qtbot: QtBot, window: Window, screen: WidthsScreen, demo_copy: Path
) -> None:
    """Typed and taken out; kept beside the page; what is none is a sentence."""
    type_over(screen.new, "600")
    assert [c.px for c in screen.columns] == [1100, 820, 600, 390]
    kept = json.loads((demo_copy.parent / "index.html.redcrate.json").read_text())
    assert kept["widths"] == [1100, 820, 600, 390]
    for wrong, words in (
        ("600", "already shown"),
        ("wide", "width in px"),
        ("20", "from 100 to 6000"),
    ):
        QTest.keyClick(screen.new, Qt.Key.Key_A, Qt.KeyboardModifier.ControlModifier)
        QTest.keyClicks(screen.new, wrong)
        QTest.keyClick(screen.new, Qt.Key.Key_Return)
        assert words in window.sentence.text() and len(screen.columns) == 4
    qtbot.waitUntil(lambda: screen.columns[0].out.isVisible(), timeout=3000)
    press(screen.columns[0].out)
    assert [c.px for c in screen.columns] == [820, 600, 390]
    press(screen.one_scale)
    qtbot.waitUntil(lambda: len({round(c.sheet.scale, 3) for c in screen.columns}) == 3, timeout=3000)
    qtbot.waitUntil(lambda: screen.columns[1].number.isVisible(), timeout=3000)
    press(screen.columns[1].number)
    bench = bench_of(window)
    assert bench.isVisible()
    shown = [(b.text(), b.isChecked()) for b in bench.width_bar.buttons.buttons()]
    assert shown == [("820", False), ("600", True), ("390", False)]
    press(bench.width_bar.buttons.buttons()[2])
    assert window.session is not None and window.session.views.viewport.width == 390
    press(bench.width_bar.buttons.buttons()[1])
    assert window.session is not None and window.session.views.viewport.width == 600


def test_findings_are_counted_per_width(qtbot: QtBot, window: Window, screen: WidthsScreen) -> None:
    """By their shapes; an edit that makes one is counted after a rest."""
    qtbot.waitUntil(lambda: all(c.found.text() for c in screen.columns), timeout=8000)
    assert screen.columns[0].found.text() == "no findings"
    assert window.session is not None
    plots = [e for e in window.session.views.page.elements if "plot" in e.classes]
    patch = window.session.editor.plan(plots[0], "margin", ("left",), "90").patch
    window.session.editor.apply(patch)
    qtbot.waitUntil(lambda: "▲" in screen.columns[0].found.text(), timeout=8000)


def test_focus_stays_on_the_screen_when_a_width_is_removed(qtbot: QtBot, window: Window) -> None:
    """Not on the button of another screen, which would look as if that were shown."""
    press(window.buttons["widths"])
    screen = widths_of(window)
    qtbot.waitUntil(lambda: screen.columns[0].out.isVisible(), timeout=3000)
    press(screen.columns[0].out)
    qtbot.waitUntil(lambda: screen.isAncestorOf(window.focusWidget()), timeout=3000)
