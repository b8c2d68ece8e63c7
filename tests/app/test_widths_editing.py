"""Editing for a range of widths in the window: ranges, typed values, blocks left out, widths drawn and named."""

import json
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtWidgets import QApplication, QMenu
from pytestqt.qtbot import QtBot

from redcrate.app.screens import bench_of, widths_of
from redcrate.app.widths.column import Column
from redcrate.app.widths.screen import WidthsScreen
from redcrate.app.window import Window
from redcrate.core.style.window_ranges import WindowRange
from tests.app.conftest import click, element
from tests.app.pointer import QTest, choose, drag, press, settled, type_over


@pytest.fixture
def screen(qtbot: QtBot, window: Window) -> WidthsScreen:
    """The Widths screen, with the plots selected."""
    click(qtbot, window, "plot")
    press(window.buttons["widths"])
    made = widths_of(window)
    qtbot.waitUntil(lambda: len({c.sheet.scale for c in made.columns}) == 1, timeout=5000)
    settled()
    return made


def css(window: Window) -> str:
    """The stylesheet as it is now."""
    assert window.session is not None
    return window.session.document.texts()["style.css"]


def take_from_menu(words: str) -> None:
    """The menu that has just opened: walk to an entry, and take it."""
    QApplication.processEvents()
    menu = QApplication.activePopupWidget()
    assert isinstance(menu, QMenu)
    for _ in range(len(menu.actions())):
        QTest.keyClick(menu, Qt.Key.Key_Down)
        active = menu.activeAction()
        if active is not None and active.text() == words:
            break
    active = menu.activeAction()
    assert active is not None and active.text() == words, [a.text() for a in menu.actions()]
    QTest.keyClick(menu, Qt.Key.Key_Return)


def test_a_range_is_made_and_edits_go_there(qtbot: QtBot, window: Window, screen: WidthsScreen) -> None:
    """A new range, a value typed on the bench, told before it is written; one step; every byte back."""
    before = css(window)
    assert [b.text() for b in screen.ranges.buttons.values()] == [
        "all widths",
        "up to 1000",
        "up to 520",
    ]
    press(screen.ranges.new)
    type_over(screen.ranges.most, "wide")
    assert "width in px" in screen.ranges.wrong.text()
    QTest.keyClick(screen.ranges.most, Qt.Key.Key_A, Qt.KeyboardModifier.ControlModifier)
    QTest.keyClicks(screen.ranges.most, "820")
    press(screen.ranges.take)
    assert window.session is not None and window.session.editor.window == WindowRange(1, 820)
    assert [b.text() for b in screen.ranges.buttons.values() if b.isChecked()] == ["up to 820"]
    press(window.buttons["bench"])
    bench = bench_of(window)
    assert window.session.views.viewport.width == 820, "the bench looks into the range"
    assert bench.selected.windows.currentText() == "up to 820 px"
    field = bench.budget.cell("across", "content", "").field
    type_over(field, "30%", enter=False)
    told = bench.budget.message
    assert (
        "width 44% → 30% in new rule .plot for widths up to 820 px, style.css (3 elements)"
        in told.text()
    )
    qtbot.waitUntil(
        lambda: "Boxes change at 820 px, none at 1100 and 390 px." in told.text(), timeout=3000
    )
    QTest.keyClick(field, Qt.Key.Key_Return)
    made = "@media (max-width: 820px) {\n  .plot { width: 30%; }\n}\n\n"
    assert css(window) == before.replace("/* A telephone */", made + "/* A telephone */")
    window.session.editor.undo()
    assert css(window) == before


def test_outside_of_the_range_nothing_is_written(
    qtbot: QtBot, window: Window, screen: WidthsScreen
) -> None:
    """The bench at a wider window says so; all windows again by the list."""
    press(next(b for b in screen.ranges.buttons.values() if b.text() == "up to 520"))
    press(window.buttons["bench"])
    bench, before = bench_of(window), css(window)
    press(bench.width_bar.buttons.buttons()[0])
    type_over(bench.budget.cell("across", "padding", "left").field, "31")
    assert (
        "edits go to widths up to 520 px, and the viewport is 1100 px wide"
        in bench.budget.message.text()
    )
    assert css(window) == before
    choose(bench.selected.windows, "all widths")
    QTest.keyClick(bench.budget.cell("across", "padding", "left").field, Qt.Key.Key_Return)
    assert css(window) != before and "@media (max-width: 520px) {\n  h1," in css(window)


def test_left_out_listed_selected_and_brought_back(
    qtbot: QtBot, window: Window, screen: WidthsScreen
) -> None:
    """The block goes at the widths of the range; its name in the column selects it; the way back is exact."""
    session = window.session
    assert session is not None
    press(window.buttons["bench"])
    click(qtbot, window, "tides")
    press(window.buttons["widths"])
    before = session.document.texts()
    assert not screen.block.out.isEnabled(), "at all widths it would be no page's matter"
    press(next(b for b in screen.ranges.buttons.values() if b.text() == "up to 1000"))
    press(screen.block.out)
    assert "hidden, up to 1000 px" in window.sentence.text()
    assert "Boxes change at 820 and 390 px, none at 1100 px." in window.sentence.text()
    qtbot.waitUntil(lambda: screen.columns[1].left.isVisible(), timeout=3000)
    assert [c.left.isVisible() for c in screen.columns] == [False, True, True]
    shown = screen.columns[1].sheet
    qtbot.waitUntil(lambda: shown.shown_page.box_of(element(window, "tides")) is None, timeout=3000)
    session.views.select(None)
    press(screen.columns[1].left)
    take_from_menu("aside#tides.tides")
    selected = session.views.selected
    assert selected is not None and selected.id == "tides"
    press(screen.block.back)
    assert " shown, " in window.sentence.text() and session.document.texts() == before


def test_values_from_another_width_and_the_same_again(
    qtbot: QtBot, window: Window, screen: WidthsScreen
) -> None:
    """From the menus; what is taken out is named."""
    before = css(window)
    press(next(b for b in screen.ranges.buttons.values() if b.text() == "up to 520"))
    press(screen.block.copy)
    take_from_menu("820 px")
    assert ".plot { float: left; width: 44%;" in css(window).split("/* A telephone */")[1]
    window.session.editor.undo()
    assert css(window) == before
    qtbot.waitUntil(screen.block.same.isEnabled, timeout=2000)
    press(screen.block.same)
    take_from_menu("width: auto")
    telephone = css(window).split("/* A telephone */")[1]
    assert ".plot { float: none; margin: 0 20px 20px; }" in telephone


def test_a_width_is_drawn_to_another_one(
    qtbot: QtBot, window: Window, screen: WidthsScreen, demo_copy: Path
) -> None:
    """By its right edge, with the pointer and with the keys; its name goes along; all kept beside the page."""
    narrow = screen.columns[2]
    press(narrow.name)
    QTest.keyClicks(narrow.name, "telephone")
    QTest.keyClick(narrow.name, Qt.Key.Key_Return)
    middle = screen.columns[1].grip
    start = middle.rect().center()
    by = round(-40 * screen.columns[1].sheet.scale)
    drag(middle, start, start + QPoint(by, 0))
    moved = [c.px for c in screen.columns]
    assert moved[0] == 1100 and abs(moved[1] - 780) <= 2 and moved[2] == 390
    grip = screen.columns[2].grip
    QTest.keyClick(grip, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    assert screen.columns[2].px == 400 and screen.columns[2].name.text() == "telephone"
    kept = json.loads((demo_copy.parent / "index.html.redcrate.json").read_text())
    assert kept["widths"] == [1100, moved[1], 400] and kept["names"] == {"400": "telephone"}


def test_an_edge_that_is_let_go_with_escape_stays(
    qtbot: QtBot, window: Window, screen: WidthsScreen
) -> None:
    """While it is drawn its px are told."""
    column: Column = screen.columns[0]
    grip = column.grip
    drag(grip, grip.rect().center(), grip.rect().center() - QPoint(60, 0), let_go=False)
    assert column.number.text() != "1100"
    QTest.keyClick(grip, Qt.Key.Key_Escape)
    assert column.number.text() == "1100"
    QTest.mouseRelease(grip, Qt.MouseButton.LeftButton, pos=grip.rect().center())
    assert [c.px for c in screen.columns] == [1100, 820, 390]


def test_ranges_stand_as_bars(qtbot: QtBot, window: Window, screen: WidthsScreen) -> None:
    """A click on one lets edits go there; where two share a px it is said."""
    strip = screen.strip
    assert [w.words for w in strip.windows] == ["up to 1000", "up to 520"] and strip.faults == []
    press(strip, strip.bar(1).center().toPoint())
    assert window.session is not None and window.session.editor.window == WindowRange(1, 520)
    assert screen.columns[2].holds.text() == "(max-width: 1000px), (max-width: 520px)"
    assert screen.columns[0].holds.text() == "no media query applies"
    press(screen.ranges.new)
    type_over(screen.ranges.least, "520", enter=False)
    press(screen.ranges.take)
    press(window.buttons["bench"])
    click(qtbot, window, "notice")
    type_over(bench_of(window).budget.cell("across", "padding", "left").field, "31")
    press(window.buttons["widths"])
    assert strip.faults == [(520, "at 520 px both up to 520 and from 520 apply")]
    assert "at 520 px both" in strip.accessibleDescription()
