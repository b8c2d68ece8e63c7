"""The bench, driven as a designer drives it: real widgets, clicks and keys, offscreen."""

from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QColor, QImage
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from redcrate.app.bench.outline_row import OutlineRow
from redcrate.app.screens import bench_of
from redcrate.app.window import Window
from redcrate.core.edit.gives import Gives
from tests.app.conftest import click, element, outer_on_sheet
from tests.app.pointer import press, type_over


def test_padding_without_the_block_growing(qtbot: QtBot, window: Window, demo_copy: Path) -> None:
    """The first real thing: select the notice, 30 of left padding, outer width unchanged; undo; save."""
    assert window.session is not None
    css = demo_copy.with_name("style.css")
    original = css.read_bytes()
    click(qtbot, window, "notice")
    assert window.session.views.selected is element(window, "notice")
    before = outer_on_sheet(window, "notice")
    budget = bench_of(window).budget
    assert "680" in budget.sum_text("across") and "320" in budget.sum_text("across")
    assert window.session.editor.gives is Gives.CONTENT
    cell = budget.cell("across", "padding", "left")
    type_over(cell.field, "30", enter=False)
    assert "padding left 36px → 30px; width 560px → 566px in .notice" in budget.message.text()
    assert (
        css.read_bytes() == original
        and window.session.document.texts()["style.css"].encode() == original
    )
    qtbot.keyClick(cell.field, Qt.Key.Key_Return)
    assert outer_on_sheet(window, "notice") == before
    assert cell.field.text() == "30"
    assert budget.cell("across", "content").field.text() == "566"
    assert "680" in budget.sum_text("across")
    edited = original.replace(b"width: 560px", b"width: 566px")
    edited = edited.replace(b"24px 36px;\n  border", b"24px 36px 24px 30px;\n  border")
    assert window.session.document.texts()["style.css"].encode() == edited
    press(window.buttons["undo"])
    assert window.session.document.texts()["style.css"].encode() == original
    press(window.buttons["redo"])
    assert window.buttons["save"].isEnabled()
    qtbot.mouseClick(window.buttons["save"], Qt.MouseButton.LeftButton)
    assert css.read_bytes() == edited and not window.buttons["save"].isEnabled()


def test_a_wrong_value_stays_in_its_cell_and_changes_nothing(qtbot: QtBot, window: Window) -> None:
    """The cell turns violet, one line says why, and Esc gives up."""
    assert window.session is not None
    click(qtbot, window, "notice")
    budget = bench_of(window).budget
    cell = budget.cell("across", "padding", "left")
    type_over(cell.field, "12,5", enter=False)
    qtbot.keyClick(cell.field, Qt.Key.Key_Return)
    assert cell.is_wrong and cell.field.text() == "12,5"
    assert "comma" in budget.message.text()
    assert not window.session.document.is_edited
    qtbot.keyClick(cell.field, Qt.Key.Key_Escape)
    assert not cell.is_wrong and cell.field.text() == "36"
    qtbot.keyClicks(cell.field, "9000")
    assert "negative" in budget.message.text() and "short by" in budget.message.text()


def test_arrows_nudge_and_tab_goes_on(qtbot: QtBot, window: Window) -> None:
    """↑ 1 px, Shift 10, both in one step of the history; Tab to the next term, which is selected whole."""
    assert window.session is not None
    click(qtbot, window, "tides")
    budget = bench_of(window).budget
    cell = budget.cell("across", "padding", "left")
    press(cell.field)
    qtbot.keyClick(cell.field, Qt.Key.Key_Up)
    qtbot.keyClick(cell.field, Qt.Key.Key_Up, Qt.KeyboardModifier.ShiftModifier)
    assert cell.field.text() == "35"
    assert budget.cell("across", "content").field.text() == "233"
    qtbot.keyClick(cell.field, Qt.Key.Key_Tab)
    following = budget.cell("across", "content").field
    qtbot.waitUntil(following.hasFocus)
    assert following.selectedText() == "233"
    assert len(window.session.editor.history.done) == 1
    press(window.buttons["undo"])
    assert not window.session.document.is_edited


def test_gives_decides_what_is_written(qtbot: QtBot, window: Window) -> None:
    """With “Box changes” the width stays and the block gets wider."""
    assert window.session is not None
    button = bench_of(window).budget._gives[Gives.BOX]
    qtbot.mouseClick(button, Qt.MouseButton.LeftButton)
    click(qtbot, window, "notice")
    before = outer_on_sheet(window, "notice").width
    cell = bench_of(window).budget.cell("across", "padding", "left")
    type_over(cell.field, "40")
    assert outer_on_sheet(window, "notice").width == before + 4 * 64
    assert "width: 560px" in window.session.document.texts()["style.css"]


def test_selection_is_one_in_sheet_outline_and_panel(qtbot: QtBot, window: Window) -> None:
    """A click on the sheet shows in the outline; again selects the parent; keys walk the tree."""
    assert window.session is not None
    bench = bench_of(window)
    click(qtbot, window, "notice")
    assert bench.outline.model.element(bench.outline.view.currentIndex()) is element(window, "notice")
    assert bench.selected.name.text() == "section.notice"
    assert any("560 px content + 72 padding" in s for s in bench.selected.sentences())
    click(qtbot, window, "notice")
    assert window.session.views.selected is element(window, "main")
    index = bench.outline.model.index_of(element(window, "footer"))
    bench.outline.view.scrollTo(index)
    press(bench.outline.view.viewport(), bench.outline.view.visualRect(index).center())
    assert window.session.views.selected is element(window, "footer")
    press(bench.sheet.viewport(), QPoint(4, 4))
    qtbot.keyClick(bench.sheet, Qt.Key.Key_Down)
    assert window.session.views.selected is element(window, "third")
    qtbot.keyClick(bench.sheet, Qt.Key.Key_Right)
    assert window.session.views.selected is not element(window, "third")


def test_the_selected_box_is_painted_in_its_codes(qtbot: QtBot, window: Window) -> None:
    """Border red and padding straw where they are; without a selection neither."""
    assert window.session is not None
    sheet = bench_of(window).sheet
    sheet.set_zoom(2.0)
    sheet.shows_chains = False
    where = sheet.to_screen(outer_on_sheet(window, "notice"))
    border_spot = QPointF(where.left() + 2, where.top() + 60).toPoint()
    plain = sheet.grab().toImage().pixelColor(border_spot)
    window.session.views.select(element(window, "notice"))
    where = sheet.to_screen(outer_on_sheet(window, "notice"))
    border_spot = QPointF(where.left() + 2, where.top() + 60).toPoint()
    padding_spot = QPointF(where.left() + 30, where.top() + 60).toPoint()
    image = sheet.grab().toImage()
    assert image.pixelColor(border_spot) == QColor("#B8322A") != plain
    straw = image.pixelColor(padding_spot)
    assert straw.red() > 200 and straw.red() > straw.blue() + 20


def test_widths(qtbot: QtBot, window: Window) -> None:
    """The page's widths, any other, and a sentence for what is none."""
    assert window.session is not None
    bar = bench_of(window).width_bar
    qtbot.mouseClick(bar.buttons.buttons()[2], Qt.MouseButton.LeftButton)
    assert window.session.views.viewport.width == 390
    assert outer_on_sheet(window, "notice").width == 350 * 64
    type_over(bar.field, "700px")
    assert window.session.views.viewport.width == 700
    press(bench_of(window).sheet.viewport(), QPoint(4, 4))
    type_over(bar.field, "broad")
    assert "not a width" in bar.problem.text() and window.session.views.viewport.width == 700


def test_numbers_on_screen_are_the_reports(qtbot: QtBot, window: Window) -> None:
    """Outline widths and budget cells equal the report, for every element."""
    from redcrate.core.report import element_report
    from redcrate.core.units import format_number

    assert window.session is not None
    budget = bench_of(window).budget
    for one in window.session.views.page.elements:
        window.session.views.select(one)
        report = element_report(window.session.views.page, one)
        if window.session.views.page.by_element[one].box is None:
            continue
        shown = budget.cell("across", "content").field.text()
        assert shown == format_number(report["content_box"]["width"])
        for side in ("left", "right"):
            for part in ("margin", "border", "padding"):
                shown = budget.cell("across", part, side).field.text()
                assert shown == format_number(report[part][side]), (one.label, part, side)


def test_what_cannot_be_opened_is_a_sentence(qtbot: QtBot, window: Window, tmp_path: Path) -> None:
    """The page that is open stays."""
    session = window.session
    with qtbot.waitSignal(window.opened, timeout=5000):
        window.open_page(tmp_path / "nowhere.html")
    assert "no such file" in window.sentence.text() and window.session is session
    with qtbot.waitSignal(window.opened, timeout=5000):
        window.open_page(tmp_path / "ploverfield" / "index.html")
    assert window.session is not session


def test_unsaved_work_is_asked_about_before_it_is_dropped(qtbot: QtBot, window: Window) -> None:
    """In place, with three answers; dropping closes."""
    click(qtbot, window, "notice")
    cell = bench_of(window).budget.cell("across", "padding", "left")
    type_over(cell.field, "20")
    assert not window.close()
    assert "unsaved changes" in window.sentence.text()
    assert [b.text() for b in window.sentence.buttons] == ["Save", "Discard changes", "Cancel"]
    qtbot.mouseClick(window.sentence.buttons[1], Qt.MouseButton.LeftButton)
    assert not window.isVisible()


def test_outline_rows_are_painted_where_they_tell_something_else(
    qtbot: QtBot, window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    """A padding at the top leaves all rows as they are; a narrower block is seen in its row."""
    outline = bench_of(window).outline
    click(qtbot, window, "notice")
    type_over(bench_of(window).budget.cell("down", "padding", "top").field, "28")
    painted: list[str] = []
    paints = OutlineRow.paint
    monkeypatch.setattr(
        OutlineRow,
        "paint",
        lambda self, painter, option, index: (
            painted.append(index.internalPointer().label) or paints(self, painter, option, index)
        ),
    )

    def picture() -> QImage:
        QApplication.processEvents()
        return outline.view.viewport().grab().toImage()

    before = picture()
    painted.clear()
    type_over(bench_of(window).budget.cell("down", "padding", "top").field, "30")
    QApplication.processEvents()
    assert painted == [] and picture() == before
    painted.clear()
    type_over(bench_of(window).budget.cell("across", "content").field, "500")
    QApplication.processEvents()
    assert any("notice" in label for label in painted) and picture() != before


def test_a_row_names_a_block_that_wraps_only_where_it_was_to_stand_in_it(
    qtbot: QtBot, window: Window
) -> None:
    """The plots begin the next row of the notice: `1 below`; a notice that becomes too wide for its tides names them."""
    bench = bench_of(window)
    click(qtbot, window, "notice")
    assert "28 free · 1 below" in bench.budget.sum_text("row") and "wraps" not in bench.budget.sum_text(
        "row"
    )
    type_over(bench.budget.cell("across", "margin", "left").field, "80")
    assert "aside#tides.tides<br>wraps: short by 24" in bench.budget.sum_text("row")


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("content gives", "When padding or border changes: Content adapts"),
        ("steps", "Show the history of edits"),
        ("arrange", "Rows and centring: set a row, centre, take width from neighbours"),
        ("outlines only", "Tint: outlines"),
        ("take it off the width", "Subtract padding and border from the width"),
        ("hand over", "Box diagram of the selected block"),
    ],
)
def test_commands_are_found_by_their_old_words(qtbot: QtBot, window: Window, old: str, new: str) -> None:
    """Who knows a command by what it was called finds it under its name."""
    window.actions_by_name["commands"].trigger()
    window.command_list.field.clear()
    qtbot.keyClicks(window.command_list.field, old)
    assert any(words.startswith(new) for words in window.command_list.shown()), (
        window.command_list.shown()
    )
