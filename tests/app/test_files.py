"""Elements, classes, source text and files, driven through the window's real widgets."""

from pathlib import Path
from typing import Any

from PyQt6.QtCore import QMimeData, QModelIndex, Qt, QUrl
from PyQt6.QtGui import QDropEvent
from PyQt6.QtWidgets import QLabel, QWidget
from pytestqt.qtbot import QtBot

from redcrate.app.bench.classes_table import ClassAction, ClassesTable
from redcrate.app.bench.sides import Side
from redcrate.app.screens import bench_of, source_of
from redcrate.app.settings import Settings
from redcrate.app.window import Window
from redcrate.core.session import Session
from tests.app.conftest import click, element, make_window
from tests.app.pointer import choose, look_through, press, row_of, type_over


def test_writes_to_is_chosen_and_obeyed(qtbot: QtBot, window: Window) -> None:
    """A new rule for the class within its ancestor; the elements that it touches light up."""
    assert window.session is not None
    session, panel = window.session, bench_of(window).selected
    session.views.select(element(window, "plot"))
    assert panel.writes.itemText(0).startswith("current rule: .plot · 3 elements")
    press(panel.writes)
    labels = [panel.writes.itemText(i) for i in range(panel.writes.count())]
    own = next(text for text in labels if text.startswith("style attribute · 1 element"))
    qtbot.keyClick(panel.writes.view(), Qt.Key.Key_Escape)
    listed = look_through(panel.writes, labels[1])
    assert len(bench_of(window).sheet._lit) == 3
    qtbot.keyClick(listed, Qt.Key.Key_Escape)
    choose(panel.writes, own)
    assert bench_of(window).sheet._lit == ()
    field = bench_of(window).budget.cell("across", "padding", "left").field
    type_over(field, "3", enter=False)
    assert "in style attribute (1 element)" in bench_of(window).budget.message.text()
    qtbot.keyClick(field, Qt.Key.Key_Return)
    assert 'style="' in session.document.text("index.html").text and session.document.edited_files == (
        "index.html",
    )
    choose(panel.writes, next(text for text in labels if text.endswith("width overridden")))
    type_over(field, "9")
    assert "would be overridden by" in bench_of(window).budget.message.text()


def test_the_element_is_edited_in_place(qtbot: QtBot, window: Window) -> None:
    """Tag, id, classes and text; a new element beside it is selected; refusals are sentences."""
    assert window.session is not None
    session, part = window.session, bench_of(window).selected.structure
    first = session.document.texts()
    session.views.select(element(window, "notice"))
    type_over(part.given.field, "lower wide")
    assert len(session.editor.history.done) == 1, "classes given and taken are one step"
    type_over(part.ident.field, "board")
    type_over(part.tag.field, "article")
    type_over(part.given.field, "notice wide")
    assert (
        session.views.selected is not None
        and session.views.selected.label == "article#board.notice.wide"
    )
    assert '<article class="notice wide" id="board">' in session.document.text(
        "index.html"
    ).text.replace('id="board" class="notice wide"', 'class="notice wide" id="board"')
    part.new_tag.setText("p")
    press(part.buttons["inside"])
    assert (
        session.views.selected.tag == "p"
        and session.views.selected.parent.label == "article#board.notice.wide"
    )
    type_over(part.words.field, "New & short")
    assert session.views.selected.text_content() == "New & short"
    part.new_tag.setText("div")
    press(part.buttons["inside"])
    assert "does not allow div inside p" in part.problem.text()
    press(part.buttons["delete"])
    type_over(part.ident.field, "tides")
    assert session.views.selected is None or "is unique" in part.problem.text()
    while session.editor.undo():
        pass
    assert session.document.texts() == first


def press_row(side: ClassesTable, name: str) -> None:
    """Click the row of a class."""
    row = next(i for i, cells in enumerate(side.rows()) if cells[0] == name)
    press(side.table.viewport(), row_of(side.table, row))


def test_classes_for_several_at_once(qtbot: QtBot, window: Window) -> None:
    """Listed with users and rules; given to all selected; renamed in both files; one step each."""
    assert window.session is not None
    session, side = window.session, bench_of(window).classes
    press(bench_of(window).side_buttons[Side.CLASSES])
    assert [".plot", "3", "5"] in side.rows()
    press_row(side, ".plot")
    assert [e.label for e in bench_of(window).sheet._lit] == ["article.plot"] * 3
    press(side.buttons[ClassAction.SELECT])
    assert [e.label for e in session.views.selection] == ["article.plot"] * 3
    type_over(side.name, "bed")
    press(side.buttons[ClassAction.ADD])
    assert (
        session.document.text("index.html").text.count('class="plot bed"') == 3
        and len(session.editor.history.done) == 1
    )
    assert [".bed", "3", "none"] in side.rows()
    type_over(side.name, "plot")
    press(side.buttons[ClassAction.ADD])
    assert "already" in side.problem.text()
    press_row(side, ".plot")
    type_over(side.name, "patch")
    press(side.buttons[ClassAction.RENAME])
    assert (
        ".plot" not in session.document.text("style.css").text
        and ".patch" in session.document.text("style.css").text
    )
    press(bench_of(window).side_buttons[Side.HISTORY])
    steps = bench_of(window).steps.list
    assert "class plot → patch" in steps.item(2).text()
    press(steps.viewport(), row_of(steps, 0))
    assert not session.document.is_edited


def test_outline_moves_folds_and_filters(qtbot: QtBot, window: Window) -> None:
    """Drag and drop as a step; several at once; alike siblings folded; what does not match hidden."""
    assert window.session is not None
    session, outline = window.session, bench_of(window).outline
    model = outline.model
    plots = [e for e in session.views.page.elements if "plot" in e.classes]
    session.views.select(*plots[1:])
    data = model.mimeData([model.index_of(e) for e in plots[1:]])
    goal = model.index_of(element(window, "seeds"))
    model.dropMimeData(data, Qt.DropAction.MoveAction, -1, 0, goal)
    assert [e.label for e in element(window, "seeds").child_elements][-2:] == ["article.plot"] * 2
    assert session.editor.history.done[-1].sentence.startswith("2 elements moved inside")
    session.editor.undo()
    bad = model.mimeData([model.index_of(element(window, "main"))])
    model.dropMimeData(bad, Qt.DropAction.MoveAction, -1, 0, model.index_of(element(window, "notice")))
    assert "into itself" in window.sentence.text()
    session.views.select(next(e for e in session.views.page.elements if "plot" in e.classes))
    at = outline.view.visualRect(model.index_of(session.views.selected)).center()  # type: ignore[arg-type]
    press(outline.view.viewport(), at)
    qtbot.keyClick(outline.view, Qt.Key.Key_F)
    folded = model.index_of(session.views.selected)  # type: ignore[arg-type]
    assert model.data(folded) == "article.plot ×3"
    qtbot.keyClick(outline.view, Qt.Key.Key_F)
    outline.filter.setText("tide")
    shown = [
        e.label
        for e in session.views.page.elements
        if not outline.view.isRowHidden(model.index_of(e).row(), model.index_of(e).parent())
    ]
    assert "p.tide" in shown and "main#plots" in shown and "article.plot" not in shown
    outline.filter.setText("")
    session.views.select(element(window, "tides"))
    qtbot.keyClick(outline.view, Qt.Key.Key_Up, Qt.KeyboardModifier.AltModifier)
    assert element(window, "tides").sibling_index < element(window, "notice").sibling_index
    assert session.views.selected is element(window, "tides")
    assert isinstance(model.parent(QModelIndex()), QModelIndex)


def test_source_typing_shows_on_the_sheet(qtbot: QtBot, window: Window) -> None:
    """After a pause; the selection stays; a fault is marked and the last good picture stays; one history."""
    assert window.session is not None
    session = window.session
    session.views.select(element(window, "notice"))
    press(window.buttons["source"])
    source_of(window).show_place("style.css", 61)
    editor = source_of(window).editor("style.css")
    assert source_of(window).file == "style.css"
    marks = editor.marked_lines()
    lines = session.document.text("style.css").text.split("\n")
    assert all(
        any(p in lines[line - 1] for p in ("width", "margin", "padding", "border")) for line in marks
    )
    assert {p for parts in marks.values() for p in parts} == {"margin", "border", "padding", "content"}
    start = session.document.text("style.css").text.index("560px")
    editor.go_to(start, start + 5)
    qtbot.keyClicks(editor, "500px")
    qtbot.waitUntil(lambda: session.document.is_edited, timeout=8000)
    box = session.views.page.box_of(element(window, "notice"))
    assert box is not None and box.content_box.width == 500 * 64
    assert session.views.selected is element(window, "notice")
    assert session.editor.history.done[-1].sentence == "typed in style.css, line 61"
    start = session.document.text("style.css").text.index("padding: 24px 36px;")
    editor.go_to(start, start + len("padding: 24px 36px;"))
    qtbot.keyClicks(editor, "pading: 24px, 36px; widht")
    source_of(window).take_typing()
    assert any("no property pading" in text for _, text in editor.faults())
    assert "no property" in source_of(window).problem.text()
    box = session.views.page.box_of(element(window, "notice"))
    assert box is not None and box.padding.left == 0
    qtbot.keyClick(editor, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    qtbot.keyClick(editor, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert not session.document.is_edited and editor.text() == session.document.text("style.css").text
    session.views.select(element(window, "tides"))
    type_over(source_of(window).find_bar.sought, "margin", enter=False)
    count = session.document.text("style.css").text.count("margin")
    assert source_of(window).find_bar.count.text() == f"{count} places"
    type_over(source_of(window).find_bar.instead, "padding", enter=False)
    press(source_of(window).find_bar.replace_all)
    assert "margin" not in session.document.text("style.css").text
    assert len(session.editor.history.done) == 1
    window.undo_action.trigger()
    assert not session.document.is_edited


def test_an_origin_leads_to_its_line(qtbot: QtBot, window: Window) -> None:
    """A click on a source in the panel shows the line on the Source screen."""
    from PyQt6.QtWidgets import QPushButton

    assert window.session is not None
    window.session.views.select(element(window, "notice"))
    origin = next(
        b
        for b in bench_of(window).selected.findChildren(QPushButton)
        if b.text().startswith("width: 560px")
    )
    qtbot.waitUntil(origin.isVisible, timeout=8000)
    press(origin)
    assert source_of(window).isVisible() and source_of(window).file == "style.css"
    assert source_of(window).editor("style.css").getCursorPosition()[0] == 60


def test_a_file_changed_outside(qtbot: QtBot, window: Window, demo_copy: Path) -> None:
    """Noticed by itself; read again where it was not edited here; else a choice with what differs."""
    assert window.session is not None
    session, css = window.session, demo_copy.with_name("style.css")
    css.write_text(css.read_text() + "\n.later { top: 0 }\n")
    qtbot.waitUntil(lambda: ".later" in session.document.text("style.css").text, timeout=5000)
    assert "read it again" in window.sentence.text()
    session.editor.apply(
        session.editor.plan(element(window, "notice"), "padding", ("left",), "30").patch
    )
    css.write_text(css.read_text().replace(".later", ".last"))
    qtbot.waitUntil(lambda: window.sentence.asks, timeout=5000)
    assert [b.text() for b in window.sentence.buttons] == [
        "Keep my version",
        "Use version on disk",
        "Merge both",
    ]
    assert "+.last { top: 0 }" in window.sentence.details.toPlainText()
    press(window.sentence.buttons[2])
    text = session.document.text("style.css").text
    assert ".last" in text and "30px" in text and not window.sentence.asks
    window.save()
    assert css.read_text() == text


def test_unsaved_work_is_offered_again(qtbot: QtBot, demo_copy: Path, tmp_path: Path) -> None:
    """What a killed program left is offered at the next start, and taken back step by step."""
    settings = Settings(tmp_path / "home")
    first = make_window(qtbot, demo_copy, settings)
    assert first.session is not None
    first.session.editor.apply(
        first.session.editor.plan(element(first, "notice"), "padding", ("left",), "30").patch
    )
    qtbot.waitUntil(lambda: list((tmp_path / "home" / "unsaved").glob("*.json")) != [], timeout=5000)
    assert not make_window(qtbot, demo_copy, settings).sentence.asks, "the first one is still there"
    first.session.disk.leave()
    second = make_window(qtbot, demo_copy, settings)
    assert (
        "1 unsaved change of" in second.sentence.text()
        and "36px → 30px" in second.sentence.details.toPlainText()
    )
    press(second.sentence.buttons[0])
    assert (
        second.session is not None and second.session.document.texts() == first.session.document.texts()
    )
    second.save()
    third = make_window(qtbot, demo_copy, settings)
    assert not third.sentence.asks


def test_a_new_page_from_a_frame(qtbot: QtBot, window: Window, tmp_path: Path) -> None:
    """Asked for, seen, made, opened; nonsense and files that are there are sentences."""
    window.actions_by_name["new"].trigger()
    form: Any = window.screen_named("new")
    assert form is not None and form.preview.page is not None
    form.fields["columns"].setText("4")
    assert sum("column" in e.classes for e in form.preview.page.elements) == 4
    form.fields["gap"].setText("wide")
    assert "plain number" in form.problem.text() and not form.make.isEnabled()
    form.fields["gap"].setText("24")
    folder = tmp_path / "fresh"
    folder.mkdir()
    with qtbot.waitSignal(window.opened, timeout=5000):
        form.write(folder)
    assert window.session is not None and window.session.document.path == folder / "index.html"
    assert bench_of(window).isVisible()
    form.write(folder)
    assert "already" in form.problem.text()


def test_save_as_drop_and_commands(
    qtbot: QtBot, window: Window, demo_copy: Path, tmp_path: Path
) -> None:
    """The page with its pictures elsewhere; a dropped page opens; every command is found by its words."""
    window.save_copy(tmp_path / "copy" / "page.html")
    assert "Saved page.html, style.css" in window.sentence.text()
    window.save_copy(demo_copy)
    assert "the page itself" in window.sentence.text()
    window.actions_by_name["commands"].trigger()
    window.command_list.field.setText("bench")
    assert [t.split("  ")[0] for t in window.command_list.shown()] == ["Bench"]
    window.command_list.field.setText("source text")
    qtbot.keyClick(window.command_list.field, Qt.Key.Key_Return)
    assert (
        source_of(window) is not None
        and source_of(window).isVisible()
        and not window.command_list.isVisible()
    )
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(tmp_path / "copy" / "page.html"))])
    drop = QDropEvent(
        window.rect().center().toPointF(), Qt.DropAction.CopyAction, data,
        Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier,
    )  # fmt: skip
    with qtbot.waitSignal(window.opened, timeout=5000):
        window.dropEvent(drop)
    assert window.session is not None and window.session.document.path.name == "page.html"


def shared_sheet(folder: Path) -> Path:
    """A page in a folder beside that of its sheet."""
    (folder / "css").mkdir()
    (folder / "css" / "s.css").write_text("p { width: 120px; padding-left: 5px }")
    page = folder / "site" / "p.html"
    page.parent.mkdir()
    page.write_text("<!doctype html><link rel=stylesheet href=../css/s.css><p>x")
    return page


def pad_first(qtbot: QtBot, window: Window, value: str) -> None:
    """Type into the left padding of the paragraph."""
    click(qtbot, window, "p")
    type_over(bench_of(window).budget.cell("across", "padding", "left").field, value)


def test_a_sheet_outside_the_folder_is_saved_after_a_question(qtbot: QtBot, tmp_path: Path) -> None:
    """Cancel leaves it and asks again; a yes holds, for the next window too."""
    page, settings = shared_sheet(tmp_path), Settings(tmp_path / "home")
    sheet = tmp_path / "css" / "s.css"
    window = make_window(qtbot, page, settings)
    pad_first(qtbot, window, "9")
    press(window.buttons["save"])
    assert "Outside the page's folder: ../css/s.css" in window.sentence.text()
    assert [b.text() for b in window.sentence.buttons] == ["Also save them", "Cancel"]
    press(window.sentence.buttons[1])
    assert "9px" not in sheet.read_text() and window.buttons["save"].isEnabled()
    press(window.buttons["save"])
    press(window.sentence.buttons[0])
    assert "9px" in sheet.read_text() and "Saved" in window.sentence.text()
    second = make_window(qtbot, page, Settings(tmp_path / "home"))
    pad_first(qtbot, second, "11")
    press(second.buttons["save"])
    assert "11px" in sheet.read_text() and not second.sentence.asks


def test_save_as_overwrites_after_a_question(qtbot: QtBot, window: Window, tmp_path: Path) -> None:
    """What is there is named; Cancel writes nothing at all."""
    goal = tmp_path / "there" / "page.html"
    goal.parent.mkdir()
    (goal.parent / "style.css").write_text("theirs")
    for answer, written in ((1, "theirs"), (0, "body")):
        window.save_copy(goal)
        assert window.sentence.text() == "there already has other files of these names: style.css."
        assert [b.text() for b in window.sentence.buttons] == ["Overwrite existing files", "Cancel"]
        press(window.sentence.buttons[answer])
        assert written in (goal.parent / "style.css").read_text() and goal.exists() == (answer == 0)
    assert "Saved page.html" in window.sentence.text()


def test_a_save_over_another_programs_text_asks_first(
    qtbot: QtBot, window: Window, demo_copy: Path
) -> None:
    """Also where the change was not noticed yet."""
    css = demo_copy.with_name("style.css")
    click(qtbot, window, "notice")
    type_over(bench_of(window).budget.cell("across", "padding", "left").field, "31")
    css.write_text("theirs { top: 0 }")
    press(window.buttons["save"])
    assert css.read_text() == "theirs { top: 0 }"
    assert [b.text() for b in window.sentence.buttons[:2]] == ["Keep my version", "Use version on disk"]
    press(window.sentence.buttons[0])
    press(window.buttons["save"])
    assert "31px" in css.read_text()


def test_all_that_was_never_saved_is_offered(qtbot: QtBot, demo_copy: Path, tmp_path: Path) -> None:
    """One after another, the newest first; what is put off is offered again, what is discarded is not."""
    settings = Settings(tmp_path / "home")
    for value in ("30", "31"):
        session = Session(demo_copy, recovery=settings.recovery)
        notice = next(e for e in session.views.page.elements if "notice" in e.classes)
        session.editor.apply(session.editor.plan(notice, "padding", ("left",), value).patch)
        session.disk.keep_unsaved()
        session.disk.leave()
    window = make_window(qtbot, demo_copy, settings)
    assert "1 more question follows" in window.sentence.text()
    assert "36px → 31px" in window.sentence.details.toPlainText()
    press(window.sentence.buttons[2])
    assert (
        "36px → 30px" in window.sentence.details.toPlainText() and "more" not in window.sentence.text()
    )
    press(window.sentence.buttons[1])
    assert not window.sentence.asks
    again = make_window(qtbot, demo_copy, settings)
    assert "36px → 31px" in again.sentence.details.toPlainText()
    press(again.sentence.buttons[0])
    assert again.session is not None and "31px" in again.session.document.text("style.css").text
    again.session.disk.leave()
    assert "36px → 31px" in make_window(qtbot, demo_copy, settings).sentence.details.toPlainText()


def test_what_a_page_holds_is_no_rich_text(qtbot: QtBot, tmp_path: Path) -> None:
    """Classes, ids and texts with tags in them: shown as they are in labels, tips and lists."""
    name = "<img&#32;src=/dev/zero><b>bold</b>"
    page = tmp_path / "p.html"
    page.write_text(
        f"<!doctype html><title>{name}</title><p class='{name}' id='{name}' style='width: 9px'>{name}<b>x</b>"
    )
    window = make_window(qtbot, page)
    click(qtbot, window, "p")
    rich = [w for w in window.findChildren(QLabel) if w.textFormat() != Qt.TextFormat.PlainText]
    assert all("<img" not in label.text() and name not in label.text() for label in rich)
    assert any("<img" in label.text() for label in window.findChildren(QLabel)), "it is shown as it is"
    model = bench_of(window).outline.view.model()
    assert model is not None
    index = model.index(0, 0, model.index(0, 0))
    tip = model.data(
        model.index(0, 0, index) if model.hasChildren(index) else index, Qt.ItemDataRole.ToolTipRole
    )
    tips = [w.toolTip() for w in window.findChildren(QWidget) if "img" in w.toolTip()] + (
        [tip] if "img" in tip else []
    )
    assert all("<img" not in text for text in tips)
