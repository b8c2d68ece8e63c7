"""Seeing, dragging and comparing on the sheet: real pointers and keys, then what is drawn and written."""

# mypy: disable-error-code="arg-type"
# Plain numbers stand for layout units.

from pathlib import Path

import pytest
from PyQt6.QtCore import QEvent, QPoint, Qt
from PyQt6.QtGui import QColor, QImage
from PyQt6.QtWidgets import QApplication, QPushButton
from pytestqt.qtbot import QtBot

from redcrate.app.bench.sides import Side
from redcrate.app.painting.tint import Tint
from redcrate.app.screens import bench_of
from redcrate.app.settings import Settings
from redcrate.app.sheet.edge_drag import BoxEdge, edge_place
from redcrate.app.theme.look import choose_palette, style_sheet
from redcrate.app.window import Window
from redcrate.core.diagram.codes import DARK, LIGHT
from redcrate.core.edit.gives import Gives
from redcrate.core.geometry import Edges, Rect
from redcrate.core.report import element_report
from redcrate.core.units import format_number
from tests.app.conftest import click, element, make_window, outer_on_sheet
from tests.app.pointer import NO_KEYS, QTest, choose, look_through, point_at, press, type_over
from tests.app.pointer import drag as move
from tests.conftest import CASES

SHIFT, CTRL = Qt.KeyboardModifier.ShiftModifier, Qt.KeyboardModifier.ControlModifier


def place_of(window: Window, name: str, edge: BoxEdge) -> QPoint:
    """A point on an edge of an element's box, in the sheet's viewport."""
    assert window.session is not None
    box = window.session.views.page.box_of(element(window, name))
    assert box is not None
    rect, at = box.border_box, edge_place(box, edge)
    spot = (
        Rect(at, rect.y + rect.height // 3, 0, 0)
        if edge.is_across
        else Rect(rect.x + rect.width // 3, at, 0, 0)
    )
    return bench_of(window).sheet.to_screen(spot).topLeft().toPoint()


def drag(
    qtbot: QtBot,
    window: Window,
    name: str,
    edge: BoxEdge,
    way: tuple[int, int],
    keys: Qt.KeyboardModifier = NO_KEYS,
    let_go: bool = True,
) -> None:
    """Press on an edge, move by so many screen px, and let go."""
    viewport, start = bench_of(window).sheet.viewport(), place_of(window, name, edge)
    if edge.part == "padding":  # just inside the border, where inside means the inner part
        start += {
            "left": QPoint(2, 0),
            "right": QPoint(-2, 0),
            "top": QPoint(0, 2),
            "bottom": QPoint(0, -2),
        }[edge.side]
    QTest.mouseMove(viewport, start + QPoint(9, 9))
    QTest.mouseMove(viewport, start)
    QApplication.processEvents()
    assert bench_of(window).sheet.edge_tool.near == edge, bench_of(window).sheet.edge_tool.near
    move(viewport, start, start + QPoint(*way), keys, let_go=let_go)


@pytest.fixture
def true_scale(window: Window) -> Window:
    """The window with the notice selected at true scale."""
    assert window.session is not None
    bench_of(window).sheet.set_zoom(1.0)
    window.session.views.select(element(window, "notice"))
    return window


def test_dragging_padding_obeys_gives(qtbot: QtBot, true_scale: Window) -> None:
    """10 px inwards with “Content adapts”: padding 46, width 550, border box as it was; one step; undo."""
    window = true_scale
    assert window.session is not None
    before, first = outer_on_sheet(window, "notice"), window.session.document.texts()
    drag(qtbot, window, "notice", BoxEdge("padding", "left"), (-10, 0), let_go=False)
    assert (
        bench_of(window).sheet.edge_tool.drag is not None
        and bench_of(window).sheet.edge_tool.drag.label == "padding left 46"
    )
    assert (
        window.session.document.texts() == first
        and bench_of(window).sheet.shown_page is not window.session.views.page
    )
    drag_end = place_of(window, "notice", BoxEdge("padding", "left")) + QPoint(-8, 0)
    qtbot.mouseRelease(bench_of(window).sheet.viewport(), Qt.MouseButton.LeftButton, pos=drag_end)
    assert outer_on_sheet(window, "notice") == before
    assert "width: 550px" in window.session.document.texts()["style.css"]
    assert "padding: 24px 36px 24px 46px" in window.session.document.texts()["style.css"]
    assert (
        len(window.session.editor.history.done) == 1 and "Changed padding left" in window.sentence.text()
    )
    window.session.editor.undo()
    assert window.session.document.texts() == first


def padding_of(window: Window) -> Edges:
    """The used paddings of the notice board."""
    assert window.session is not None
    return window.session.views.page.by_element[element(window, "notice")].padding


def test_both_sides_all_four_and_esc(qtbot: QtBot, true_scale: Window) -> None:
    """Shift drags both sides alike, Ctrl all four; Esc gives up; a margin has no compensation."""
    window = true_scale
    assert window.session is not None
    window.session.editor.set_gives(Gives.BOX)
    drag(qtbot, window, "notice", BoxEdge("padding", "left"), (-6, 0), SHIFT)
    padding = padding_of(window)
    assert padding.left == padding.right > 36 * 64 and padding.top == padding.bottom == 24 * 64
    drag(qtbot, window, "notice", BoxEdge("padding", "top"), (0, -4), CTRL)
    padding = padding_of(window)
    assert padding.left == padding.right == padding.top == padding.bottom > 24 * 64
    count = len(window.session.editor.history.done)
    drag(qtbot, window, "notice", BoxEdge("margin", "left"), (5, 0), let_go=False)
    qtbot.keyClick(bench_of(window).sheet, Qt.Key.Key_Escape)
    assert (
        len(window.session.editor.history.done) == count
        and bench_of(window).sheet.shown_page is window.session.views.page
    )


@pytest.mark.parametrize("nearer_first", [False, True])
def test_of_two_edges_the_nearer_one_catches(qtbot: QtBot, tmp_path: Path, nearer_first: bool) -> None:
    """Both are in reach; which of the blocks stands first in the page does not count."""
    page, others = tmp_path / "p.html", ["width: 306px", "width: 308px"]  # the pointer is at 309
    blocks = "".join(f"<p style='{o}'></p>" for o in (others[::-1] if nearer_first else others))
    css = "body { margin: 0 } p { height: 9px; margin: 90px 0 0 } #a { width: 164px; height: 60px; padding: 10px; border: 8px solid; margin: 20px }"
    page.write_text(f"<!doctype html><style>{css}</style><div id=a></div>{blocks}", encoding="utf-8")
    window = make_window(qtbot, page)
    assert window.session is not None
    bench_of(window).sheet.set_zoom(1.0)
    click(qtbot, window, "a")
    drag(qtbot, window, "a", BoxEdge("content", "right"), (107, 0), let_go=False)
    state = bench_of(window).sheet.edge_tool.drag
    assert state is not None and state.snapped == 308 * 64
    bench_of(window).sheet.edge_tool.give_up()


def test_snapping_shows_guides(qtbot: QtBot, true_scale: Window) -> None:
    """The margin's edge catches on the next block's edge although the pointer is 3 px off."""
    window = true_scale
    assert window.session is not None
    drag(qtbot, window, "notice", BoxEdge("content", "bottom"), (0, 2), let_go=False)
    state = bench_of(window).sheet.edge_tool.drag
    assert state is not None
    tides = outer_on_sheet(window, "tides")
    drag_way = (tides.bottom - state.start_place) // 64 - 3
    bench_of(window).sheet.edge_tool.give_up()
    drag(qtbot, window, "notice", BoxEdge("content", "bottom"), (0, drag_way), let_go=False)
    state = bench_of(window).sheet.edge_tool.drag
    assert state is not None and state.snapped == tides.bottom
    image = bench_of(window).sheet.grab().toImage()
    y = round(bench_of(window).sheet.to_screen(Rect(0, tides.bottom, 0, 0)).y())
    colours = [image.pixelColor(x, yy) for x in range(30, 700) for yy in (y - 1, y, y + 1)]
    assert any(c.hsvHue() in range(260, 285) and c.hsvSaturation() > 80 for c in colours)
    bench_of(window).sheet.edge_tool.give_up()


def test_edges_by_keyboard(qtbot: QtBot, true_scale: Window) -> None:
    """E takes the next edge, arrows move it outwards or inwards; a row of nudges is one step."""
    window = true_scale
    assert window.session is not None
    sheet = bench_of(window).sheet
    press(sheet.viewport(), QPoint(4, 4))
    while sheet.edge_tool.focused != BoxEdge("padding", "left"):
        qtbot.keyClick(sheet, Qt.Key.Key_E)
    for _ in range(3):
        qtbot.keyClick(sheet, Qt.Key.Key_Left)
    qtbot.keyClick(sheet, Qt.Key.Key_Right, SHIFT)
    assert "24px 36px 24px 29px" in window.session.document.texts()["style.css"]
    assert len(window.session.editor.history.done) == 1
    qtbot.keyClick(sheet, Qt.Key.Key_Escape)
    assert sheet.edge_tool.focused is None


def test_the_sheets_right_edge_is_the_window_width(qtbot: QtBot, window: Window) -> None:
    """Dragging it changes the width live."""
    assert window.session is not None
    sheet = bench_of(window).sheet
    edge = sheet.to_screen(Rect(1100 * 64, 300 * 64, 0, 0)).topLeft().toPoint()
    qtbot.mousePress(sheet.viewport(), Qt.MouseButton.LeftButton, pos=edge)
    QTest.mouseMove(sheet.viewport(), edge - QPoint(120, 0))
    qtbot.waitUntil(lambda: window.session.views.viewport.width < 1000, timeout=8000)
    qtbot.mouseRelease(sheet.viewport(), Qt.MouseButton.LeftButton, pos=edge - QPoint(120, 0))
    assert bench_of(window).width_bar.field.text() == format_number(window.session.views.viewport.width)


def colours_of(image: QImage) -> set[str]:
    """The colours of a picture, every third pixel."""
    return {
        image.pixelColor(x, y).name()
        for x in range(25, image.width(), 3)
        for y in range(25, image.height(), 3)
    }


def test_tints_are_painted_and_never_written(qtbot: QtBot, window: Window) -> None:
    """Each tint changes the picture; no byte of the files."""
    assert window.session is not None
    first = window.session.document.texts()
    pictures = []
    for tint in Tint:
        window.actions_by_name[f"tint-{tint.name.lower()}"].trigger()
        pictures.append(bench_of(window).sheet.grab().toImage())
    assert len({bytes(p.constBits().asarray(p.sizeInBytes())) for p in pictures}) == len(Tint)
    assert window.session.document.texts() == first and not window.session.document.is_edited


DROP = """<!doctype html><style>body{margin:0}div{width:400px;overflow:hidden}p,i,b{margin:0}
p{float:left;width:50%;border:1px solid;height:30px;background:#cde}
a{padding:8px 4px;border:1px solid}</style><div><p>one<p>two</p></div>
<em style="display:block;margin:-20px 0 0 300px">up</em> text <a href=#>link</a>"""


def test_ghosts_hatches_and_negative_margins(qtbot: QtBot, window: Window, tmp_path: Path) -> None:
    """A dropped float's refused place in violet with its px; what pushes nothing hatched grey."""
    path = tmp_path / "drop.html"
    path.write_text(DROP)
    other = make_window(qtbot, path)
    assert other.session is not None
    sheet = bench_of(other).sheet
    sheet.set_zoom(1.0)
    second = [e for e in other.session.views.page.elements if e.tag == "p"][1]
    plain = colours_of(sheet.grab().toImage())
    assert QColor(LIGHT.problem).name() not in plain
    other.session.views.select(second)
    assert QColor(LIGHT.problem).name() in colours_of(sheet.grab().toImage())
    assert any("short by 4 px: it moves below" in s for s in bench_of(other).selected.sentences())
    assert "short by 4" in bench_of(other).budget.sum_text("row") or "free" in bench_of(
        other
    ).budget.sum_text("row")
    link = next(e for e in other.session.views.page.elements if e.tag == "a")
    other.session.views.select(link)
    image = sheet.grab().toImage()
    box = other.session.views.page.box_of(link)
    assert box is not None
    top = sheet.to_screen(box.border_box)
    strip = {image.pixelColor(int(top.left()) + x, int(top.top()) + 4).name() for x in range(3, 30)}
    assert QColor(LIGHT.second_ink).name() in strip


def test_row_cells_select_and_take_outer_widths(qtbot: QtBot, window: Window) -> None:
    """The row of the plots: three blocks; a new outer width of one; nonsense is a sentence."""
    assert window.session is not None
    session, budget = window.session, bench_of(window).budget
    session.views.select(element(window, "plot"))
    assert (
        budget.row.row is not None
        and [i.element.label for i in budget.row.row.items] == ["article.plot"] * 3
    )
    room = budget.row.row.room / 64
    assert f"of {format_number(room)}" in budget.sum_text("row")
    qtbot.mouseClick(
        budget.row, Qt.MouseButton.LeftButton, pos=QPoint(round(budget.row._spans[1][0]) + 6, 8)
    )
    plots = [e for e in session.views.page.elements if "plot" in e.classes]
    assert session.views.selected is plots[1]
    field = budget.row.fields[1]
    type_over(field, "300")
    box = session.views.page.box_of(plots[1])
    assert box is not None and box.margin_box.width == 300 * 64
    field = budget.row.fields[1]
    press(bench_of(window).sheet.viewport(), QPoint(4, 4))
    type_over(field, "²")
    assert "is not a number of px" in budget.message.text()


def test_taking_it_off_afterwards(qtbot: QtBot, window: Window) -> None:
    """One button gives padding and border back to the width that was given."""
    assert window.session is not None
    window.session.views.select(element(window, "notice"))
    button = bench_of(window).budget.afterwards
    assert (
        button.text() == "Subtract 76 px from width"
        and "76 px wider than its width of 560 px" in button.toolTip()
    )
    qtbot.mouseClick(button, Qt.MouseButton.LeftButton)
    assert outer_on_sheet(window, "notice").width == 560 * 64
    assert "width: 484px" in window.session.document.texts()["style.css"]


def test_a_choice_shows_what_it_would_change(qtbot: QtBot, window: Window) -> None:
    """Looked at: on the sheet and in words, nothing written; taken: one step."""
    assert window.session is not None
    session, choices, sheet = window.session, bench_of(window).selected.choices, bench_of(window).sheet
    session.views.select(element(window, "notice"))
    first = session.document.texts()
    list_of_floats = look_through(choices.choices["float"], "none")
    assert "float none: " in choices.told.text() and "would move" in choices.told.text()
    assert (
        bench_of(window).sheet.shown_page is not session.views.page and session.document.texts() == first
    )
    qtbot.keyClick(list_of_floats, Qt.Key.Key_Escape)
    qtbot.waitUntil(lambda: sheet.shown_page is session.views.page, timeout=8000)
    list_of_displays = look_through(choices.choices["display"], "none")
    assert "it would have no box" in choices.told.text()
    qtbot.keyClick(list_of_displays, Qt.Key.Key_Escape)
    choose(choices.choices["float"], "right")
    assert "float: right" in session.document.texts()["style.css"]
    assert session.editor.history.done[-1].sentence == "float of section.notice left → right"


def test_before_and_after(qtbot: QtBot, window: Window) -> None:
    """While B is held the sheet shows the saved page, and the differences are said in px."""
    assert window.session is not None
    session, sheet = window.session, bench_of(window).sheet
    session.editor.set_gives(Gives.BOX)
    session.editor.apply(
        session.editor.plan(element(window, "notice"), "padding", ("left",), "46").patch
    )
    press(sheet.viewport(), QPoint(4, 4))
    qtbot.keyPress(sheet, Qt.Key.Key_B)
    assert sheet.shown_page is not session.views.page
    assert "section.notice: width 636 → 646" in window.sentence.text()
    qtbot.keyRelease(sheet, Qt.Key.Key_B)
    assert sheet.shown_page is session.views.page


def test_a_step_is_seen_before_one_goes_there(qtbot: QtBot, window: Window) -> None:
    """The pointer over a step shows the page of then; the page and the files stay."""
    assert window.session is not None
    session, sheet, steps = window.session, bench_of(window).sheet, bench_of(window).steps
    for value in ("40", "44"):
        session.editor.apply(
            session.editor.plan(element(window, "notice"), "padding", ("left",), value).patch
        )
    session.editor.undo()
    press(bench_of(window).side_buttons[Side.HISTORY])
    for step, padding in ((0, 36), (1, 40), (2, 44)):
        point_at(steps.list, step)
        shown = sheet.shown_page.by_element[sheet.shown_page.elements[element(window, "notice").index]]
        assert shown.padding.left == padding * 64
    assert len(session.editor.history.done) == 1
    QTest.mouseMove(sheet.viewport(), QPoint(40, 40))
    QApplication.sendEvent(steps, QEvent(QEvent.Type.Leave))  # offscreen no window manager tells it
    assert sheet.shown_page is session.views.page


def test_a_newcomer_is_led_to_the_first_padding(qtbot: QtBot, demo_copy: Path, tmp_path: Path) -> None:
    """Three steps, ticked as they are done; away for good when one knows the way."""
    settings = Settings(tmp_path / "home")
    window = make_window(qtbot, demo_copy, settings)
    assert window.session is not None
    guide = bench_of(window).guide
    assert guide.isVisible() and guide.labels[0].text().startswith("1")
    padding = bench_of(window).budget.cell("across", "padding", "left").field
    click(qtbot, window, "tides")
    bench_of(window).budget.cell("across", "padding", "right")
    assert guide.at == 1
    type_over(bench_of(window).budget.cell("across", "padding", "right").field, "20")
    type_over(bench_of(window).budget.cell("down", "padding", "top").field, "9")
    assert guide.at == 1, "an edit that was not asked for ticks nothing"
    type_over(padding, "30")
    assert guide.at == 3 and guide.labels[2].text().startswith("✓")
    press(guide.findChild(QPushButton))
    assert not bench_of(make_window(qtbot, demo_copy, settings)).guide.isVisible()


def test_the_dark_palette_has_the_same_patterns(qtbot: QtBot, window: Window) -> None:
    """Dark ground, light text, and every text colour at 4.5 to 1 on its ground in both palettes."""

    def luminance(name: str) -> float:
        parts = [c / 255 for c in QColor(name).getRgb()[:3]]
        linear = [c / 12.92 if c <= 0.03928 else ((c + 0.055) / 1.055) ** 2.4 for c in parts]
        return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]

    for palette in (LIGHT, DARK):
        for ink in ("ink", "second_ink", "problem", "margin_ink", "border_ink", "source_string"):
            for ground in ("paper", "field"):
                a, b = sorted((luminance(getattr(palette, ink)), luminance(getattr(palette, ground))))
                assert (b + 0.05) / (a + 0.05) >= 4.5, (ink, ground)
    try:
        choose_palette(DARK)
        window.setStyleSheet(style_sheet())
        assert luminance(window.grab().toImage().pixelColor(300, 12).name()) < 0.1
    finally:
        choose_palette(LIGHT)


@pytest.mark.parametrize("path", sorted(CASES.glob("gen-*.html"))[::27], ids=lambda p: p.stem)
def test_numbers_on_screen_are_the_reports_on_reference_pages(
    qtbot: QtBot, window: Window, path: Path, tmp_path: Path
) -> None:
    """Every budget cell across, and the outline's outer width, for every box of at least ten pages."""
    from redcrate.app.bench.outline_model import outer_width

    target = tmp_path / path.name
    target.write_bytes(path.read_bytes())
    other = make_window(qtbot, target)
    assert other.session is not None
    for one in other.session.views.page.elements:
        box = other.session.views.page.box_of(one)
        if box is None or box.box is None:
            continue
        other.session.views.select(one)
        report = element_report(other.session.views.page, one)
        cells = bench_of(other).budget
        assert cells.cell("across", "content").field.text() == format_number(
            report["content_box"]["width"]
        )
        for side in ("left", "right"):
            for part in ("margin", "border", "padding"):
                assert cells.cell("across", part, side).field.text() == format_number(report[part][side])
        outer = (
            sum(report[p][s] for p in ("margin",) for s in ("left", "right"))
            + report["border_box"]["width"]
        )
        assert outer_width(other.session, one) == format_number(outer)


def test_a_drag_and_a_choice_go_into_the_range(qtbot: QtBot, true_scale: Window) -> None:
    """With a range chosen, an edge that is dragged and a choice that is taken hold there alone."""
    session = true_scale.session
    assert session is not None
    before = session.document.texts()["style.css"]
    bench = bench_of(true_scale)
    choose(bench.selected.windows, "up to 1000 px")
    assert session.views.viewport.width == 1000
    drag(qtbot, true_scale, "notice", BoxEdge("padding", "left"), (12, 0))
    wide, narrow = (session.views.page_at(w) for w in (1100, 1000))
    notice = element(true_scale, "notice")
    here = narrow.by_element[notice].padding.left
    assert wide.by_element[notice].padding.left == 36 * 64 != here
    after = session.document.texts()["style.css"]
    made = f"\n  .notice {{ padding-left: {format_number(here / 64)}px; }}\n}}"
    assert after.replace(made, "\n}") == before and made in after.split("/* A telephone */")[0]
    choose(bench.selected.choices.choices["text-align"], "right")
    styles = [session.views.page_at(w).style_of(notice).text_align for w in (1100, 1000)]
    assert styles == ["start", "right"]
    session.editor.undo()
    session.editor.undo()
    assert session.document.texts()["style.css"] == before
