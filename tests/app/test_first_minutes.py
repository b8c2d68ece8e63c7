"""The README's first task and its relatives: pointer and keys only, on a window of 1280 by 800."""

import sys
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QColor
from PyQt6.QtWidgets import QApplication, QLabel, QPushButton
from pytestqt.qtbot import QtBot

from redcrate.app.bench.sides import Side
from redcrate.app.exception_hook import ExceptionHook
from redcrate.app.screens import bench_of, source_of
from redcrate.app.settings import Settings
from redcrate.app.sheet.edge_drag import BoxEdge
from redcrate.app.theme.look import choose_palette
from redcrate.app.window import Window
from redcrate.core.diagram.codes import DARK, LIGHT
from redcrate.core.errors import LayoutBug
from redcrate.core.files.recovery import Fits
from redcrate.core.session import Session
from tests.app.conftest import click, element, make_window, outer_on_sheet
from tests.app.pointer import QTest, drag, press, row_of, type_over
from tests.app.test_dragging import place_of


def test_the_readme_s_first_task(qtbot: QtBot, demo_copy: Path, tmp_path: Path) -> None:
    """Click the notice, click its left padding, type 30, Enter: as wide as before; the guide is ticked; undo; save."""
    css = demo_copy.with_name("style.css")
    original = css.read_bytes()
    window = make_window(qtbot, demo_copy, Settings(tmp_path / "home"))
    assert window.size().width() == 1280 and window.size().height() == 800
    click(qtbot, window, "notice")
    before = outer_on_sheet(window, "notice")
    padding = bench_of(window).budget.cell("across", "padding", "left").field
    press(padding)
    assert padding.selectedText() == "36"
    QTest.keyClicks(padding, "30")
    assert padding.text() == "30"
    said = bench_of(window).budget.message.text()
    assert "padding left 36px → 30px; width 560px → 566px in .notice (1 element)" in said
    QTest.keyClick(padding, Qt.Key.Key_Return)
    assert outer_on_sheet(window, "notice") == before
    assert bench_of(window).guide.at == 3
    press(window.buttons["undo"])
    assert window.session is not None and window.session.document.text("style.css").encode() == original
    press(window.buttons["redo"])
    press(window.buttons["save"])
    assert b"width: 566px" in css.read_bytes() and "Saved style.css" in window.sentence.text()


def test_the_first_press_selects_the_second_places_the_caret(qtbot: QtBot, window: Window) -> None:
    """And a drag selects, on the first press too."""
    click(qtbot, window, "notice")
    field = bench_of(window).budget.cell("across", "content").field
    press(field)
    assert field.selectedText() == "560"
    press(field)
    assert not field.hasSelectedText()
    press(bench_of(window).budget.cell("across", "padding", "left").field)
    middle = field.rect().center()
    drag(field, middle + QPoint(-30, 0), middle)
    assert 0 < len(field.selectedText()) < 3


def test_a_message_moves_nothing_and_leaves(qtbot: QtBot, window: Window) -> None:
    """It lies over the sheet, lets clicks through, and goes when the selection, the value or the width changes."""
    assert window.session is not None
    button, budget = bench_of(window).width_bar.fit, bench_of(window).budget
    click(qtbot, window, "notice")
    QApplication.processEvents()
    places = [w.mapTo(window, QPoint(0, 0)) for w in (button, budget)]
    for change in (
        lambda: click(qtbot, window, "tides"),
        lambda: press(bench_of(window).width_bar.buttons.buttons()[1]),
        lambda: type_over(budget.cell("across", "padding", "left").field, "31"),
    ):
        window.say("Something was said.")
        assert window.sentence.isVisible()
        assert [w.mapTo(window, QPoint(0, 0)) for w in (button, budget)] == places
        change()
        assert "Something" not in window.sentence.text()
    window.say("Over the page.")
    at = window.sentence.geometry().center()
    assert window.centralWidget().childAt(at) is not window.sentence


def test_a_question_takes_clicks(qtbot: QtBot, window: Window) -> None:
    """It stays over changes until it is answered."""
    assert window.session is not None
    answers: list[int] = []
    window.sentence.ask(
        "Which?", [("This", lambda: answers.append(1)), ("That", lambda: answers.append(2))]
    )
    window.session.views.select(element(window, "tides"))
    assert window.sentence.asks
    press(window.sentence.buttons[1])
    assert answers == [2] and not window.sentence.isVisible()


def test_a_drag_stops_at_the_last_possible_value(qtbot: QtBot, window: Window) -> None:
    """Far beyond: the preview stays at the last value, says why, and letting go keeps it."""
    assert window.session is not None
    sheet, session = bench_of(window).sheet, window.session
    sheet.set_zoom(1.0)
    click(qtbot, window, "notice")
    start = place_of(window, "notice", BoxEdge("padding", "left")) + QPoint(2, 0)
    drag(sheet.viewport(), start, start - QPoint(2000, 0), let_go=False)
    held = sheet.edge_tool.drag
    assert held is not None and held.plan is not None and "short" in held.problem
    assert sheet.shown_page is not session.views.page
    QTest.mouseRelease(sheet.viewport(), Qt.MouseButton.LeftButton, pos=start - QPoint(2000, 0))
    box = session.views.page.by_element[element(window, "notice")]
    assert box.padding.left == (36 + 560) * 64 and box.content_box.width == 0
    assert "Stopped: " in window.sentence.text() and len(session.editor.history.done) == 1


def test_the_ghost_of_a_next_row_is_quiet(qtbot: QtBot, window: Window) -> None:
    """A plot that begins the next row is no surprise: no violet beside the page; a drop by 20 px is."""
    assert window.session is not None
    sheet, violet = bench_of(window).sheet, QColor(LIGHT.problem).name()

    def colours() -> set[str]:
        image = sheet.grab().toImage()
        return {
            image.pixelColor(x, y).name() for x in range(30, image.width(), 2) for y in range(30, 560, 2)
        }

    click(qtbot, window, "plot")
    assert violet not in colours()
    click(qtbot, window, "notice")
    press(bench_of(window).budget.cell("across", "padding", "left").field)
    window.session.editor.apply(
        window.session.editor.plan(element(window, "notice"), "width", ("",), "600").patch
    )
    window.session.views.select(element(window, "tides"))
    assert violet in colours()


def test_marks_are_dark_on_the_page_in_the_dark_palette_too(qtbot: QtBot, window: Window) -> None:
    """The chain's lines on their strip: ink on light paper."""
    try:
        choose_palette(DARK)
        click(qtbot, window, "notice")
        image = bench_of(window).sheet.grab().toImage()
        sheet = bench_of(window).sheet
        below = sheet.to_screen(outer_on_sheet(window, "notice")).bottom() + 24 * sheet.scale
        rows = range(round(below) + 4, round(below) + 80)
        strip = [[image.pixelColor(x, y) for x in range(100, 400)] for y in rows]
        lines = [r for r in strip if sum(c.lightness() < 140 for c in r) > 150]
        assert lines, "a dimension line is dark over most of its length"
        assert any(sum(c.lightness() > 230 for c in r) > 250 for r in strip), "its strip is light"
    finally:
        choose_palette(LIGHT)


def test_outline_and_source_follow_the_selection(qtbot: QtBot, window: Window) -> None:
    """Scrolled into view, on opening the Source screen too; a click on the page beside the text as well."""
    assert window.session is not None
    click(qtbot, window, "seeds")
    outline = bench_of(window).outline.view
    QApplication.processEvents()
    chosen = outline.visualRect(outline.model().index_of(element(window, "seeds")))
    assert outline.viewport().rect().contains(chosen.center())
    press(window.buttons["source"])
    source = source_of(window)
    tag = window.session.views.page.source.markup.start_tag(element(window, "seeds"))
    assert tag is not None and source.sheet.isVisible()
    line = window.session.document.text("index.html").line_of(tag.start)
    editor = source.editor("index.html")
    shown = range(editor.firstVisibleLine() + 1, editor.firstVisibleLine() + 45)
    assert line in shown
    press(source.files.viewport(), row_of(source.files, 1))
    where = source.sheet.to_screen(outer_on_sheet(window, "notice"))
    press(source.sheet.viewport(), QPoint(round(where.left()) + 3, round(where.top()) + 3))
    assert window.session.views.selected is element(window, "notice")
    css = source.editor("style.css")
    marked = [n for n, parts in css.marked_lines().items() if "content" in parts]
    assert any(css.firstVisibleLine() < n <= css.firstVisibleLine() + 50 for n in marked)


def test_either_side_of_the_source_can_be_hidden(qtbot: QtBot, window: Window) -> None:
    """Never both; and what is typed shows on the page beside it."""
    assert window.session is not None
    press(window.buttons["source"])
    source = source_of(window)
    press(source.side_buttons["page"])
    assert not source.sheet.isVisible() and source.text_side.isVisible()
    press(source.side_buttons["text"])
    assert source.sheet.isVisible() and not source.text_side.isVisible()
    press(source.side_buttons["text"])
    editor = source.editor("index.html")
    before = source.sheet.shown_page
    press(editor.viewport(), QPoint(120, 30))
    QTest.keyClicks(editor, " ")
    qtbot.waitUntil(lambda: source.sheet.shown_page is not before, timeout=8000)


def test_the_classes_are_a_table_that_sorts(qtbot: QtBot, window: Window) -> None:
    """A press on a column's head sorts by it, numbers as numbers; the heads name what the columns are."""
    press(bench_of(window).side_buttons[Side.CLASSES])
    side = bench_of(window).classes
    head = side.table.horizontalHeader()
    assert head is not None
    for column in (1, 2):
        at = QPoint(head.sectionViewportPosition(column) + 10, head.height() // 2)
        press(head.viewport(), at)
        counts = [int(cells[column].replace("none", "0")) for cells in side.rows()]
        assert counts == sorted(counts) and len(set(counts)) > 1
    assert [side.table.horizontalHeaderItem(c).text() for c in range(3)] == [
        "class",
        "elements",
        "rules",
    ]


def test_a_finding_opens_in_place(qtbot: QtBot, tmp_path: Path) -> None:
    """Its fixes stand under its sentence, the explanation is folded, and the list has the height."""
    import shutil

    from tests.conftest import ROOT

    shutil.copytree(ROOT / "demo" / "ploverfield-draft", tmp_path / "draft")
    window = make_window(qtbot, tmp_path / "draft" / "index.html")
    press(bench_of(window).side_buttons[Side.FINDINGS])
    found = bench_of(window).findings
    qtbot.waitUntil(lambda: found.search.knows_all, timeout=8000)
    assert found.list.height() > 0.8 * (found.height() - 60)
    number = next(i for i, f in enumerate(found.findings) if f.family == "class-missing-on-one")
    press(found.list.viewport(), row_of(found.list, number))
    opened = found.opened
    assert opened is not None and found.list.itemWidget(found.list.item(number + 1)) is opened
    assert "3 article elements" in found.findings[number].sentence
    qtbot.waitUntil(lambda: found.search.knows_fixes, timeout=8000)
    teaching = opened._teaching
    assert not teaching.isVisible()
    press(opened.more)
    assert teaching.isVisible()
    QApplication.processEvents()
    image = opened.findChildren(type(opened))  # nothing inside is another opened finding
    assert image == []
    example = next(w for w in opened.findChildren(QLabel) if "bold" in w.styleSheet())
    assert example.text()
    picture = next(w for w in opened.children() if w is teaching).grab().toImage()
    dark = sum(picture.pixelColor(x, y).lightness() < 40 for x in range(0, picture.width(), 4)
               for y in range(0, picture.height(), 4))  # fmt: skip
    assert dark < 0.2 * (picture.width() // 4) * (picture.height() // 4), (
        "the example is no black rectangle"
    )
    press(found.list.viewport(), found.list.visualItemRect(found.list.item(0)).center())
    assert found.opened is not opened


def test_selectors_over_several_lines_are_shown_on_one(qtbot: QtBot, window: Window) -> None:
    """In writes to, and in the reasons."""
    assert window.session is not None
    window.session.views.select(element(window, "h2"))
    press(bench_of(window).selected.writes)
    labels = [
        bench_of(window).selected.writes.itemText(i)
        for i in range(bench_of(window).selected.writes.count())
    ]
    assert any(".notice h2, .tides h2, .seeds h2" in t for t in labels) and not any(
        "\n" in t for t in labels
    )
    bench_of(window).selected.writes.hidePopup()
    qtbot.waitUntil(lambda: bool(bench_of(window).selected.sentences()), timeout=8000)
    texts = [b.text() for b in bench_of(window).selected.findChildren(QPushButton)]
    assert any(".notice h2, .tides h2" in t for t in texts) and not any("\n" in t for t in texts)


def test_the_last_net_says_a_sentence_and_keeps_the_work(
    qtbot: QtBot, demo_copy: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """An exception that nobody caught: a sentence, unsaved steps kept, the process alive; told once."""
    settings = Settings(tmp_path / "home")
    window = make_window(qtbot, demo_copy, settings)
    assert window.session is not None
    window.session.editor.apply(
        window.session.editor.plan(element(window, "notice"), "padding", ("left",), "30").patch
    )
    monkeypatch.setattr(sys, "__excepthook__", lambda *_: None)
    net = ExceptionHook(window)
    try:
        raise ZeroDivisionError("nobody expected this")
    except ZeroDivisionError as fault:
        net.caught(type(fault), fault, fault.__traceback__)
        assert "ZeroDivisionError: nobody expected this" in window.sentence.text()
        window.say("")
        net.caught(type(fault), fault, fault.__traceback__)
        assert window.sentence.text() == "", "every repaint would tell it again"
    window.session.disk.leave()
    (work,) = Session(demo_copy, recovery=settings.recovery).disk.unsaved_work()
    assert work.fits is Fits.ALL and len(work.steps) == 1


def test_a_failing_core_leaves_the_window_as_it_was(
    qtbot: QtBot, window: Window, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    """Opening, another width, typing, undoing: a sentence each, and what was there stays."""
    from redcrate.core.session import views as session_module

    assert window.session is not None
    session, page = window.session, window.session.views.page
    click(qtbot, window, "notice")
    type_over(bench_of(window).budget.cell("across", "padding", "left").field, "30")
    page, texts = session.views.page, session.document.texts()

    def failing(*_: object, **__: object) -> None:
        raise LayoutBug("index.html", "p", KeyError("x"))

    monkeypatch.setattr(session_module, "compute_page", failing)
    press(bench_of(window).width_bar.buttons.buttons()[2])
    assert "error in Red Crate" in window.sentence.text() and session.views.viewport.width == 1100
    press(window.buttons["undo"])
    assert "error in Red Crate" in window.sentence.text()
    type_over(bench_of(window).budget.cell("across", "padding", "right").field, "31")
    assert "error in Red Crate" in bench_of(window).budget.message.text()
    window.open_page(demo_of(tmp_path))
    QApplication.processEvents()
    with qtbot.waitSignal(window.opened, timeout=5000):
        press(window.sentence.buttons[1])
    assert "error in Red Crate" in window.sentence.text()
    assert window.session is session and session.views.page is page and session.document.texts() == texts


def demo_of(folder: Path) -> Path:
    """Another page to open."""
    path = folder / "other.html"
    path.write_text("<!doctype html><p>x</p>", encoding="utf-8")
    return path


def test_the_command_list_asks_in_its_own_words(qtbot: QtBot, window: Window) -> None:
    """Opened by key, it finds a command by its words."""
    QTest.keyClick(window, Qt.Key.Key_C, Qt.KeyboardModifier.AltModifier)
    assert window.command_list.isVisible()
    assert window.command_list.field.placeholderText() == "Find a command"
    QTest.keyClicks(window.command_list.field, "source")
    QTest.keyClick(window.command_list.field, Qt.Key.Key_Return)
    assert source_of(window).isVisible()
