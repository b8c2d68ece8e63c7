"""The Diagrams screen: what is shown, chosen, seen large, redrawn after an edit and handed over."""

import json
import time
import xml.etree.ElementTree as ET
from pathlib import Path

import pytest
from pypdf import PdfReader
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QGuiApplication, QImage
from PyQt6.QtPrintSupport import QPrinter
from PyQt6.QtWidgets import QFileDialog, QPushButton
from pytestqt.qtbot import QtBot

from redcrate.app.diagrams.screen import DiagramsScreen
from redcrate.app.screens import bench_of, diagrams_of
from redcrate.app.window import Window
from redcrate.core.diagram.drawing import Drawing, Label
from redcrate.core.edit.patch import Patch, TextEdit
from tests.app.conftest import click, element, make_window
from tests.app.pointer import QTest, choose, press, type_over

CTRL = Qt.KeyboardModifier.ControlModifier


@pytest.fixture
def screen(qtbot: QtBot, window: Window) -> DiagramsScreen:
    """The screen, reached by its button, with its first pictures made."""
    press(window.buttons["diagrams"])
    made = diagrams_of(window)
    drawn(qtbot, made)
    return made


def drawn(qtbot: QtBot, screen: DiagramsScreen) -> None:
    """All visible pictures are those of the page as it is."""
    seen = lambda: [screen.entries[row].element for row in screen.sheet._seen()]  # noqa: E731
    qtbot.waitUntil(
        lambda: bool(seen()) and all(screen.sheet.is_current(e) for e in seen()), timeout=8000
    )


def labels(screen: DiagramsScreen) -> list[str]:
    """What stands under the drawings."""
    return [entry.label for entry in screen.entries]


def texts(drawing: Drawing | None) -> list[str]:
    """What is written on a drawing."""
    assert drawing is not None
    return [s.text for s in drawing.shapes if isinstance(s, Label)]


def at(screen: DiagramsScreen, row: int) -> QPoint:
    """A point on the drawing in that row."""
    return screen.sheet.visualRect(screen.sheet.entries.index(row)).center()


def button(screen: DiagramsScreen, words: str) -> QPushButton:
    """The button with those words."""
    return next(b for b in screen.findChildren(QPushButton) if b.text() == words)


def test_only_what_is_seen_is_drawn(qtbot: QtBot, screen: DiagramsScreen) -> None:
    """Every element with a box is there; pictures are made for the visible ones, and others when they are reached."""
    assert screen.count.text() == "44 drawings" and labels(screen)[:3] == ["html", "body", "div#wrapper"]
    first = screen.drawn.painted
    assert 0 < first < 20 and not screen.sheet.is_current(screen.entries[40].element)
    press(screen.sheet.viewport(), at(screen, 0))
    QTest.keyClick(screen.sheet, Qt.Key.Key_End)
    drawn(qtbot, screen)
    assert screen.sheet.is_current(screen.entries[43].element) and screen.drawn.painted > first
    image = screen.drawn.known_picture(screen.entries[43].element)
    assert image is not None and image.width() <= screen.sheet.cell.width()


def test_choosing_which_and_in_which_order(qtbot: QtBot, window: Window, screen: DiagramsScreen) -> None:
    """Filter, class, containers, folded ones, order; the selected ones of the bench and what is inside."""
    type_over(screen.sought, ".PLOT")
    assert labels(screen) == ["article.plot", "article.plot", "article.plot"]
    press(screen.folds, QPoint(8, screen.folds.height() // 2))
    assert labels(screen) == ["article.plot  ×3, alike"]
    QTest.keyClick(screen.sought, Qt.Key.Key_A, CTRL)
    QTest.keyClick(screen.sought, Qt.Key.Key_Delete)
    assert len(labels(screen)) == 31
    choose(screen.which, "of a class")
    choose(screen.class_name, "third")
    assert labels(screen) == ["div.third  ×3, alike"]
    choose(screen.which, "containers")
    assert "section.notice" in labels(screen) and "h1" not in labels(screen)
    choose(screen.order, "largest first")
    areas = [e.element for e in screen.entries]
    page = window.session.views.page
    sizes = [page.by_element[e].border_box for e in areas]
    assert [r.width * r.height for r in sizes] == sorted(
        (r.width * r.height for r in sizes), reverse=True
    )
    press(window.buttons["bench"])
    click(qtbot, window, "notice")
    press(window.buttons["diagrams"])
    choose(screen.which, "selected, with content")
    choose(screen.order, "page order")
    assert labels(screen)[0] == "section.notice" and set(labels(screen)) <= {"section.notice", "h2", "p", "p  ×2, alike", "em", "strong", "a"}  # fmt: skip


def test_those_with_findings(qtbot: QtBot, demo_copy: Path) -> None:
    """Looked for while nothing else happens; an edit that makes one adds its element."""
    draft = demo_copy.parent.parent / "draft"
    draft.mkdir()
    page = draft / "p.html"
    page.write_text(
        "<!doctype html><div id=w style='width: 300px'><p id=p style='width: 400px; padding: 5px'>x</p></div><i>y</i>"
    )
    window = make_window(qtbot, page)
    press(window.buttons["diagrams"])
    screen = diagrams_of(window)
    choose(screen.which, "with findings")
    qtbot.waitUntil(lambda: "p#p" in labels(screen), timeout=5000)
    assert "i" not in labels(screen)


def test_the_selection_is_one_for_all_screens(
    qtbot: QtBot, window: Window, screen: DiagramsScreen
) -> None:
    """A click selects for the bench, with Ctrl several; what is selected there is selected here."""
    session = window.session
    assert session is not None
    press(screen.sheet.viewport(), at(screen, 1))
    assert [e.label for e in session.views.selection] == ["body"]
    press(screen.sheet.viewport(), at(screen, 2), CTRL)
    assert [e.label for e in session.views.selection] == ["body", "div#wrapper"]
    assert screen.count.text() == "44 drawings, 2 selected"
    press(window.buttons["bench"])
    click(qtbot, window, "notice")
    press(window.buttons["diagrams"])
    rows = screen.sheet.selected_rows
    assert [labels(screen)[r] for r in rows] == ["section.notice"]
    place = screen.sheet.visualRect(screen.sheet.entries.index(rows[0]))
    assert screen.sheet.viewport().rect().intersects(place)


def test_one_large_and_the_next_with_the_arrow_keys(
    qtbot: QtBot, window: Window, screen: DiagramsScreen
) -> None:
    """Return opens, arrows turn and select, plus scales, Esc goes back to where it was; Ctrl+D from the bench."""
    press(screen.sheet.viewport(), at(screen, 0))
    QTest.keyClick(screen.sheet, Qt.Key.Key_Right)
    QTest.keyClick(screen.sheet, Qt.Key.Key_Return)
    assert screen.big.isVisible() and screen.where.text() == "body · 2 of 44"
    assert screen.big.drawing is not None and screen.big.drawing.title == "Box diagram of body"
    QTest.keyClick(screen.big, Qt.Key.Key_Right)
    assert screen.where.text() == "div#wrapper · 3 of 44"
    assert [e.label for e in window.session.views.selection] == ["div#wrapper"]
    scale = screen.big.scale
    QTest.keyClicks(screen.big, "+")
    assert screen.big.scale > scale and screen.large_zoom.text() == f"{screen.big.scale * 100:.0f} %"
    QTest.keyClicks(screen.big, "0")
    assert screen.big.scale == pytest.approx(scale, rel=0.05)
    QTest.keyClick(screen.big, Qt.Key.Key_Escape)
    assert screen.sheet.isVisible() and screen.sheet.hasFocus() and screen.sheet.selected_rows == [2]
    press(screen.sheet.viewport(), at(screen, 2))  # the first of the two
    QTest.mouseDClick(screen.sheet.viewport(), Qt.MouseButton.LeftButton, pos=at(screen, 2))
    assert screen.big.isVisible() and screen.where.text() == "div#wrapper · 3 of 44"
    press(button(screen, "All drawings"))
    assert screen.sheet.isVisible()
    press(window.buttons["bench"])
    QTest.keyClick(window, Qt.Key.Key_D, CTRL)
    click(qtbot, window, "notice")
    QTest.keyClick(window, Qt.Key.Key_D, CTRL)
    assert screen.big.isVisible() and screen.where.text().startswith("section.notice · ")
    choose(screen.options.kind, "page plan")
    assert screen.sheet.isVisible()
    QTest.keyClick(window, Qt.Key.Key_D, CTRL)
    assert screen.big.drawing is not None and screen.big.drawing.title == "Box diagram of section.notice"
    session = window.session
    assert session is not None
    hidden = Patch((TextEdit("style.css", 0, 0, ".notice { display: none !important }\n"),), "hidden")
    session.editor.apply(hidden)
    QTest.keyClick(window, Qt.Key.Key_D, CTRL)
    assert "section.notice has no box: display: none." in window.sentence.text()


def test_an_edit_draws_anew_what_it_changed(
    qtbot: QtBot, window: Window, screen: DiagramsScreen
) -> None:
    """Undone and done again from here: of the visible pictures only those whose numbers changed are painted."""
    session = window.session
    assert session is not None
    press(window.buttons["bench"])
    click(qtbot, window, "h2")
    cell = bench_of(window).budget.cell("across", "padding", "left")
    type_over(cell.field, "20")
    press(window.buttons["diagrams"])
    heading = element(window, "h2")
    drawn(qtbot, screen)
    assert "20" in texts(screen.drawn.drawing(heading)) and screen.sheet.is_current(heading)
    painted, seen = screen.drawn.painted, len(screen.sheet._seen())
    QTest.keyClick(window, Qt.Key.Key_Z, CTRL)
    drawn(qtbot, screen)
    assert "20" not in texts(screen.drawn.drawing(element(window, "h2")))
    assert 1 <= screen.drawn.painted - painted < seen


def test_what_is_selected_is_drawn_first(
    qtbot: QtBot, window: Window, screen: DiagramsScreen, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Where a turn bears one drawing only, the selected one does not wait for those before it."""
    session = window.session
    assert session is not None
    last = list(screen.sheet._seen())[-2]
    press(screen.sheet.viewport(), at(screen, last))
    monkeypatch.setattr("redcrate.app.diagrams.contact_sheet._BUDGET_S", 0.0)
    session.views.set_width(900)
    qtbot.waitUntil(
        lambda: any(screen.sheet.is_current(screen.entries[r].element) for r in screen.sheet._seen())
    )
    assert screen.sheet.is_current(screen.entries[last].element)


def test_what_is_drawn_and_how(qtbot: QtBot, window: Window, screen: DiagramsScreen) -> None:
    """Scale, labels, print, steps, before and after by width, the plan and its levels: each shows at once."""
    press(window.buttons["bench"])
    click(qtbot, window, "notice")
    QTest.keyClick(window, Qt.Key.Key_D, CTRL)
    assert "schematic: thin parts widened" in texts(screen.big.drawing)
    choose(screen.options.scale, "to scale")
    assert "to scale" in texts(screen.big.drawing)
    for name, gone in (
        ("names", "border 2"),
        ("sums", "border box 636"),
        ("standing", "Position in"),
    ):
        assert any(gone in t for t in texts(screen.big.drawing)), name
        press(screen.options.labels[name], QPoint(8, screen.options.labels[name].height() // 2))
        assert not any(gone in t for t in texts(screen.big.drawing)), name
    press(screen.options.labels["sums"], QPoint(8, screen.options.labels["sums"].height() // 2))
    for numbers, shown in (
        ("no sums", {"560 = width", "border box ___"}),
        ("no numbers", {"___ = width", "border box ___"}),
        ("all numbers", {"560 = width", "border box 636"}),
    ):
        choose(screen.options.numbers, numbers)
        assert shown <= set(texts(screen.big.drawing)), numbers
    choose(screen.options.kind, "step by step")
    assert any("the same values with border-box" in t for t in texts(screen.big.drawing))
    choose(screen.options.kind, "before and after")
    choose(screen.options.against, "at 390 px")
    assert {"at 390 px", "Differences"} <= set(texts(screen.big.drawing))
    choose(screen.options.palette_choice, "for print")
    shot = screen.big.grab().toImage()
    greys = [shot.pixelColor(x, shot.height() // 2) for x in range(40, shot.width() - 40, 3)]
    assert sum(c.lightness() == 255 for c in greys) > len(greys) / 3
    choose(screen.options.kind, "page plan")
    assert labels(screen) == ["body"] and screen.sheet.isVisible()
    choose(screen.options.levels, "1 level inside")
    assert any("1 level inside" in t for t in texts(screen.drawn.drawing(screen.entries[0].element)))
    assert not screen.options.scale.isVisible() and not screen.options.labels["sums"].isVisible()


def hand_over(
    qtbot: QtBot, screen: DiagramsScreen, form: str, path: Path, patch: pytest.MonkeyPatch
) -> str:
    """Choose a form, press Write and answer the system's dialog; the sentence that ends the work."""
    patch.setattr(QFileDialog, "getExistingDirectory", lambda *_: str(path))
    patch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(path), ""))
    choose(screen.hand_over.form, form)
    with qtbot.waitSignal(screen.said, timeout=20000) as told:
        press(screen.hand_over.write)
    assert not screen.hand_over.progress.isVisible() and screen.hand_over.write.isEnabled()
    return str(told.args[0])


def test_files_of_every_form(
    qtbot: QtBot, window: Window, screen: DiagramsScreen, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """What is shown or selected; names that are taken are not written over unless that is wished for."""
    type_over(screen.sought, ".plot")
    folder = tmp_path / "out"
    folder.mkdir()
    assert hand_over(qtbot, screen, "SVG files", folder, monkeypatch) == "Exported 3 drawings to out."
    names = ["article.plot-2.svg", "article.plot-3.svg", "article.plot.svg"]
    assert sorted(p.name for p in folder.iterdir()) == names
    assert ET.parse(folder / names[0]).getroot().tag.endswith("svg")
    said = hand_over(qtbot, screen, "SVG files", folder, monkeypatch)
    assert "already exists in out: nothing was exported" in said
    press(screen.hand_over.force, QPoint(8, screen.hand_over.force.height() // 2))
    assert hand_over(qtbot, screen, "SVG files", folder, monkeypatch) == "Exported 3 drawings to out."
    press(screen.sheet.viewport(), at(screen, 2))
    choose(screen.hand_over.what, "selected (1)")
    choose(screen.hand_over.form, "PNG files")
    choose(screen.hand_over.fine, "2 ×")
    assert hand_over(qtbot, screen, "PNG files", folder, monkeypatch) == "Exported 1 drawing to out."
    image = QImage(str(folder / "article.plot.png"))
    assert image.width() == round(screen.drawn.drawing(screen.entries[2].element).width * 2)
    choose(screen.hand_over.what, "all shown (3)")
    choose(screen.hand_over.form, "one PDF")
    choose(screen.hand_over.paper, "A4")
    choose(screen.hand_over.each, "4")
    assert (
        hand_over(qtbot, screen, "one PDF", tmp_path / "a", monkeypatch)
        == "Exported 3 drawings to a.pdf."
    )
    reader = PdfReader(tmp_path / "a.pdf")
    assert len(reader.pages) == 1 and len(reader.outline) == 3
    assert "Exported the report of 3 elements" in hand_over(
        qtbot, screen, "one HTML report", tmp_path / "r.html", monkeypatch
    )
    assert (tmp_path / "r.html").read_text().count("<section") == 3
    choose(screen.options.numbers, "no sums")
    hand_over(qtbot, screen, "one HTML report", tmp_path / "sheet.html", monkeypatch)
    assert "A worksheet: numbers are left out" in (tmp_path / "sheet.html").read_text()
    assert "44" in hand_over(qtbot, screen, "boxes as JSON", tmp_path / "b.json", monkeypatch)
    assert len(json.loads((tmp_path / "b.json").read_text())["elements"]) >= 44
    hand_over(qtbot, screen, "boxes as CSV", tmp_path / "b.csv", monkeypatch)
    assert (tmp_path / "b.csv").read_text().startswith("index,tag,id")
    said = hand_over(qtbot, screen, "boxes as CSV", tmp_path / "no" / "b.csv", monkeypatch)
    assert "cannot be written" in said


def test_work_can_be_given_up(
    qtbot: QtBot, screen: DiagramsScreen, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The button ends it at the next drawing; the window goes on meanwhile."""

    def slowly(*_: object) -> str:
        step = _[-1]
        for number in range(10_000):
            time.sleep(0.002)
            step(number, 10_000)  # type: ignore[operator]
        return "done"

    monkeypatch.setattr("redcrate.app.diagrams.delivery.write_folder", slowly)
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *_: str(tmp_path))
    press(screen.hand_over.write)
    qtbot.waitUntil(lambda: screen.hand_over.progress.value() > 3, timeout=5000)
    assert not screen.hand_over.write.isEnabled()
    with qtbot.waitSignal(screen.said, timeout=5000) as told:
        press(screen.hand_over.give_up)
    assert told.args == ["Cancelled; finished parts are kept.", False]
    assert screen.hand_over.write.isEnabled() and not screen.hand_over.give_up.isVisible()


def test_print_and_clipboard(qtbot: QtBot, screen: DiagramsScreen, tmp_path: Path) -> None:
    """On the printer's own paper, several a page; the drawing with the focus as SVG and as a picture."""
    type_over(screen.sought, ".plot")
    choose(screen.hand_over.form, "one PDF")
    choose(screen.hand_over.paper, "A4")
    choose(screen.hand_over.each, "2")
    printer = QPrinter()
    printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
    printer.setOutputFileName(str(tmp_path / "printed.pdf"))
    with qtbot.waitSignal(screen.said, timeout=10000) as told:
        screen.print_on(printer)
    assert told.args[0] == "Sent 2 pages to the printer."
    pages = PdfReader(tmp_path / "printed.pdf").pages
    assert len(pages) == 2 and "239.97" in pages[1].extract_text()
    press(screen.sheet.viewport(), at(screen, 1))
    QTest.keyClick(screen.sheet, Qt.Key.Key_C, CTRL)
    clipboard = QGuiApplication.clipboard()
    assert clipboard is not None
    data = clipboard.mimeData()
    assert data is not None and data.hasImage()
    root = ET.fromstring(bytes(data.data("image/svg+xml").data()))
    assert "article.plot" in [t.text for t in root.iter("{http://www.w3.org/2000/svg}text")]
    clipboard.clear()
    press(button(screen, "Copy"))
    data = clipboard.mimeData()
    assert data is not None and data.hasFormat("image/svg+xml")


def test_what_is_on_a_card_can_be_read(screen: DiagramsScreen) -> None:
    """At 100 % no lettering is smaller than 9 px; what a card has no room for is in the large drawing."""

    assert screen.sheet.zoom == 1.0
    left_out = 0
    for entry in screen.entries:
        made = screen.drawn._of(entry.element, screen.sheet.room).drawing
        scale = screen.drawn.scale_of(made, screen.sheet.room)
        sizes = [s.size * scale for p in made.parts for s in p.shapes if isinstance(s, Label)]
        assert min(sizes) >= 9, (entry.label, min(sizes))
        left_out += len(texts(made)) < len(texts(screen.drawn.drawing(entry.element))) - 8
    assert left_out
