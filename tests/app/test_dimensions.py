"""The dimensions of the selected box: the page stays readable under them, and they step aside."""

from pathlib import Path

from PyQt6.QtCore import QPoint, QPointF, QRectF, Qt
from PyQt6.QtGui import QImage
from pytestqt.qtbot import QtBot

from redcrate.app.screens import bench_of
from redcrate.app.window import Window
from redcrate.core.findings.look import Look
from redcrate.core.markup.elements import Element
from tests.app.conftest import click, make_window
from tests.app.pointer import settled

STRANGE = (
    "section.notice",
    "h1",
    "a.path",
    "article.plot",
    "img.gauge",
    "p.tide",
    "footer#visit",
    "ul",
    "div.third",
)


def shot(window: Window) -> QImage:
    """The sheet as it is seen."""
    viewport = bench_of(window).sheet.viewport()
    assert viewport is not None
    return viewport.grab().toImage()


def same(one: QImage, other: QImage, place: QRectF) -> bool:
    """Whether two pictures show the same at a place."""
    rect = place.toAlignedRect()
    return bool(one.copy(rect) == other.copy(rect))


def selected(window: Window, label: str) -> Element:
    """The first element of that name, selected and in view."""
    session = window.session
    assert session is not None
    element = next(e for e in session.views.page.elements if e.label == label)
    session.views.select(element)
    bench_of(window).sheet.show_element(element)
    settled()
    return element


def test_text_and_pictures_stay_readable_under_them(qtbot: QtBot, window: Window) -> None:
    """Every text and picture outside of the box is painted as without dimensions, whatever is selected."""
    sheet = bench_of(window).sheet
    click(qtbot, window, "notice")  # the keys are the sheet's
    shown = 0
    for label in STRANGE:
        element = selected(window, label)
        found = sheet.dimensions()
        assert found is not None
        shown += bool(found.chains or found.notes)
        with_them = shot(window)
        qtbot.keyPress(sheet, Qt.Key.Key_D)
        assert sheet.dimensions() is None
        without = shot(window)
        qtbot.keyRelease(sheet, Qt.Key.Key_D)
        assert with_them != without and shot(window) == with_them, label
        box = sheet.shown_page.box_of(element)
        assert box is not None
        own = sheet.to_screen(box.margin_box).adjusted(-1, -1, 1, 1)
        for place in texts(window):
            if not place.intersects(own):
                assert same(with_them, without, place), (label, place)
        labels = [*(p for c in found.chains for p in c.labels), *(n.place for n in found.notes)]
        for p in labels:  # no panel lies under the lettering
            corners = [(p.x, p.y), (p.x + p.width - 1, p.y), (p.x + p.width - 1, p.y + p.height - 1)]
            spots = [QPoint(round(x), round(y)) for x, y in corners]
            assert any(with_them.pixel(spot) == without.pixel(spot) for spot in spots), (label, p)
    assert shown == len(STRANGE)


def texts(window: Window) -> list[QRectF]:
    """Where the sheet shows text."""
    session, sheet = window.session, bench_of(window).sheet
    assert session is not None
    look = Look(session.views.page, session.document.texts())
    return [sheet.to_screen(text.rect) for text in look.texts_seen]


def test_they_step_aside_for_the_pointer(qtbot: QtBot, window: Window) -> None:
    """Over their lettering the page beneath is seen; elsewhere they come back."""
    sheet, viewport = bench_of(window).sheet, bench_of(window).sheet.viewport()
    assert viewport is not None
    selected(window, "article.plot")
    found = sheet.dimensions()
    assert found is not None and found.chains
    label = found.chains[-1].labels[0]
    at = QPoint(round(label.x + label.width / 2), round(label.y + label.height / 2))
    assert found.is_over(QPointF(at))
    qtbot.mouseMove(viewport, at)
    assert sheet.dimensions() is None
    qtbot.mouseMove(viewport, QPoint(60, 60))
    assert sheet.dimensions() == found


def test_numbers_are_said_where_there_is_no_place_for_a_chain(window: Window) -> None:
    """A short form with every term, or the sums, in one label that covers nothing."""
    selected(window, "section.notice")
    found = bench_of(window).sheet.dimensions()
    assert found is not None
    texts = [note.text for note in found.notes]
    assert texts[0] == "height: m 24 · b 2 · p 24 · 129.17 · p 24 · b 2 · m 24"
    assert texts[1] in (
        "width: m 28 · b 2 · p 36 · 560 · p 36 · b 2 · m 16",
        "width: content 560 · border box 636",
    )


def test_a_distance_crosses_no_text(qtbot: QtBot, tmp_path: Path) -> None:
    """Its line goes where nothing is read, or is not drawn: here text is painted over the way to the right edge."""
    page = tmp_path / "p.html"
    page.write_text(
        "<!doctype html><style>body{margin:0;font:16px sans-serif;line-height:20px}</style>"
        "<div style='position:relative;height:60px'><p id=a style='float:left;width:80px;height:60px;margin:0'></p></div>"
        "<p style='position:absolute;left:200px;top:0;margin:0'>over the way<br>over the way<br>over the way</p>"
    )
    window = make_window(qtbot, page)
    selected(window, "p#a")
    sheet = bench_of(window).sheet
    with_them = shot(window)
    click(qtbot, window, "a")
    qtbot.keyPress(sheet, Qt.Key.Key_D)
    without = shot(window)
    for place in texts(window):
        assert same(with_them, without, place), place
