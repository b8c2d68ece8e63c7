"""The comp in the window: loaded, placed, shown in its ways, measured on, given, compared; kept beside the page."""

import json
from pathlib import Path

import pytest
from PyQt6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PyQt6.QtGui import QColor, QDragEnterEvent, QDropEvent, QImage, QPainter
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from redcrate.app.bench.bench import Bench
from redcrate.app.bench.sides import Side
from redcrate.app.screens import bench_of
from redcrate.app.window import Window
from tests.app.conftest import click, element
from tests.app.pointer import QTest, choose, drag, press, type_over

SHIFT, ALT = Qt.KeyboardModifier.ShiftModifier, Qt.KeyboardModifier.AltModifier


@pytest.fixture
def comp_file(tmp_path: Path) -> Path:
    """A picture of 1100 px width: pale, with one dark block from 100, 150 to 284, 400."""
    image = QImage(1100, 600, QImage.Format.Format_RGB32)
    image.fill(QColor("#faf6f0"))
    painter = QPainter(image)
    painter.fillRect(100, 150, 184, 250, QColor("#283c32"))
    painter.end()
    assert image.save(str(tmp_path / "comp.png"))
    return tmp_path / "comp.png"


def drop(bench: Bench, file: Path) -> bool:
    """Drag a file over the sheet and let it go there; whether it was taken."""
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(file))])
    action, buttons = Qt.DropAction.CopyAction, Qt.MouseButton.LeftButton
    none = Qt.KeyboardModifier.NoModifier
    sheet = bench.sheet.viewport()
    assert sheet is not None
    enter = QDragEnterEvent(QPoint(200, 200), action, data, buttons, none)
    QApplication.sendEvent(sheet, enter)
    if enter.isAccepted():
        QApplication.sendEvent(sheet, QDropEvent(QPointF(200, 200), action, data, buttons, none))
    return enter.isAccepted()


@pytest.fixture
def bench(qtbot: QtBot, window: Window, comp_file: Path) -> Bench:
    """The bench with the picture dropped on the sheet, at true scale."""
    made = bench_of(window)
    press(made.width_bar.zoom)
    assert drop(made, comp_file)
    return made


def at(bench: Bench, x: float, y: float) -> QPoint:
    """A place of the page on the sheet's viewport."""
    origin, scale = bench.sheet.origin(), bench.sheet.scale
    return QPoint(round(origin.x() + x * scale), round(origin.y() + y * scale))


def shade(bench: Bench, x: float, y: float) -> QColor:
    """The colour that is seen at a place of the page."""
    viewport = bench.sheet.viewport()
    assert viewport is not None
    return viewport.grab().toImage().pixelColor(at(bench, x, y))


def test_a_picture_is_dropped_shown_and_kept(
    qtbot: QtBot, window: Window, bench: Bench, demo_copy: Path
) -> None:
    """Its panel opens; over, under and difference are other pictures; place and strength are kept."""
    assert bench.side_buttons[Side.COMP].isChecked() and "comp.png, at 1100 px" in bench.comp.name.text()
    press(bench.comp.show_it)
    plain = shade(bench, 200, 300)
    press(bench.comp.show_it)
    over = shade(bench, 200, 300)
    assert over.lightness() < plain.lightness()
    press(bench.comp.strength)
    QTest.keyClick(bench.comp.strength, Qt.Key.Key_End)
    assert shade(bench, 200, 300).name() == "#283c32"
    choose(bench.comp.way, "difference")
    other = shade(bench, 20, 300)
    assert other.name() != plain.name()
    choose(bench.comp.way, "under the page")
    assert shade(bench, 200, 300).lightness() <= over.lightness()
    type_over(bench.comp.fields["x"], "50")
    kept = json.loads((demo_copy.parent / "index.html.redcrate.json").read_text())["comps"]
    assert kept["1100"] | {"file": ""} == {
        "file": "",
        "x": 50,
        "y": 0,
        "scale": 1,
        "strength": 1,
        "way": "under",
    }
    press(bench.width_bar.buttons.buttons()[1])
    assert "No comp at 820 px" in bench.comp.name.text()
    press(bench.width_bar.buttons.buttons()[0])
    type_over(bench.comp.fields["scale"], "none")
    assert "is not a number from 0.05 to 20" in window.sentence.text()
    press(bench.comp.off)
    assert "comps" not in json.loads((demo_copy.parent / "index.html.redcrate.json").read_text())


def test_what_is_no_picture_is_a_sentence(qtbot: QtBot, window: Window, tmp_path: Path) -> None:
    """Text that is called PNG, a file that is gone; other files are not taken by the sheet."""
    bench = bench_of(window)
    (tmp_path / "text.png").write_text("no picture")
    assert drop(bench, tmp_path / "text.png")
    assert "text.png is not a picture that Red Crate reads" in window.sentence.text()
    assert drop(bench, tmp_path / "gone.webp") and "gone.webp cannot be read" in window.sentence.text()
    (tmp_path / "wrong.svg").write_text("<svg")
    assert drop(bench, tmp_path / "wrong.svg") and "wrong.svg is not a picture" in window.sentence.text()
    assert not drop(bench, tmp_path / "notes.txt")


def test_measured_and_given(qtbot: QtBot, window: Window, bench: Bench) -> None:
    """A distance catches on the picture's edges, is told with what giving it writes, and is one step."""
    click(qtbot, window, "notice")
    press(bench.comp.measure)
    sheet = bench.sheet.viewport()
    drag(sheet, at(bench, 103, 300), at(bench, 281, 304))
    assert bench.comp.found.text() == "184 px across"
    assert bench.comp.under.text().endswith("at 284, 304")
    assert "Will change width 560px → 108px of section.notice." in bench.comp.told.text()
    session = window.session
    assert session is not None and session.views.selected is element(window, "notice"), (
        "measuring selects nothing"
    )
    before = session.document.texts()
    press(bench.comp.give)
    assert session.views.page.by_element[element(window, "notice")].border_box.width == 184 * 64
    drag(sheet, at(bench, 102, 152), at(bench, 282, 398), SHIFT)
    assert bench.comp.found.text() == "184 × 250 px"
    choose(bench.comp.give_to, "min-height")
    press(bench.comp.give)
    assert session.views.page.by_element[element(window, "notice")].border_box.height >= 250 * 64
    choose(bench.comp.give_to, "padding top")
    assert "padding top 24px → 250px" in bench.comp.told.text()
    session.editor.undo()
    session.editor.undo()
    assert session.document.texts() == before
    drag(sheet, at(bench, 103, 300), at(bench, 281, 304), ALT)
    assert bench.comp.found.text() == "178 px across", "with Alt nothing is caught"
    choose(bench.comp.give_to, "border box width")
    press(bench.width_bar.predicts)
    press(bench.comp.give)
    assert bench.prediction.isVisible() and session.document.texts() == before, (
        "it is a change like others"
    )
    press(bench.prediction.at_once)
    assert session.document.texts() != before


def test_measured_with_the_keyboard(qtbot: QtBot, window: Window, bench: Bench) -> None:
    """Arrows move the cross, Enter begins and ends, Escape forgets."""
    click(qtbot, window, "notice")
    press(bench.comp.measure)
    sheet = bench.sheet
    press(sheet.viewport(), at(bench, 20, 40))
    QTest.keyClick(sheet, Qt.Key.Key_Right, Qt.KeyboardModifier.ControlModifier)
    QTest.keyClick(sheet, Qt.Key.Key_Return)
    for _ in range(7):
        QTest.keyClick(sheet, Qt.Key.Key_Right)
    QTest.keyClick(sheet, Qt.Key.Key_Return)
    assert bench.comp.found.text() == "7 px across" and bench.comp.under.text().endswith("37, 40")
    QTest.keyClick(sheet, Qt.Key.Key_Escape)
    assert bench.comp.found.text() == "drag on the sheet" and not bench.comp.give.isEnabled()
    press(bench.comp.measure)
    QTest.keyClick(sheet, Qt.Key.Key_Up)
    assert window.session is not None and window.session.views.selected is not element(window, "notice")


def test_the_selected_box_is_held_against_the_picture(
    qtbot: QtBot, window: Window, bench: Bench
) -> None:
    """In px, and again after the picture was moved."""
    assert "Select a block" in bench.comp.comparison.text()
    click(qtbot, window, "notice")
    box = window.session.views.page.by_element[element(window, "notice")].border_box
    assert (box.x, box.y) == (78 * 64, 136 * 64)
    found = bench.comp.comparison
    assert found.text() == "section.notice: 22 px further left. 3 of its sides have no edge near."
    type_over(bench.comp.fields["x"], "-22")
    assert found.text() == "section.notice: as in the comp. 3 of its sides have no edge near."
