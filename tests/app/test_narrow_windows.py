"""Everything works in half a screen: the side panel is a list among the others, bars go on in the next line."""

from pathlib import Path

import pytest
from PyQt6.QtWidgets import QLabel, QPushButton
from pytestqt.qtbot import QtBot

from redcrate.app.bench.sides import Side
from redcrate.app.flowing import Flowing
from redcrate.app.screen import ScreenEntry
from redcrate.app.screens import SCREENS, bench_of
from redcrate.app.settings import Settings
from redcrate.app.start import make_application
from redcrate.app.theme.look import choose_text_scale, style_sheet
from redcrate.app.window import Window
from redcrate.demo_pages import demo_page
from tests.app.conftest import click, make_window
from tests.app.pointer import press, settled, type_over


@pytest.mark.parametrize("entry", SCREENS, ids=lambda e: e.name)
def test_every_screen_fits_into_half_a_screen(window: Window, entry: object) -> None:
    """900 × 600: nothing asks for more, and no button is outside of the window."""
    window.resize(900, 600)
    window.show_screen(entry.name)  # type: ignore[attr-defined]
    settled()
    assert (window.width(), window.height()) == (900, 600)
    for button in window.findChildren(QPushButton):
        if button.isVisible() and not button.visibleRegion().isEmpty():
            right = button.mapTo(window, button.rect().topRight()).x()
            assert right < 900, button.text()


def test_the_selected_panel_is_a_list_where_there_is_little_width(qtbot: QtBot, window: Window) -> None:
    """Its button comes with it; what is edited is edited there; in a wide window it stands at the right again."""
    bench = bench_of(window)
    button = bench.side_buttons[Side.SELECTED]
    assert not button.isVisible() and bench.selected.isVisible()
    window.resize(900, 600)
    settled()
    assert button.isVisible() and not bench.selected.isVisible()
    click(qtbot, window, "notice")
    press(button)
    assert bench.selected.isVisible() and any("560 px content" in s for s in bench.selected.sentences())
    type_over(bench.budget.cell("across", "padding", "left").field, "30")
    assert window.session is not None and len(window.session.editor.history.done) == 1
    window.resize(1280, 800)
    settled()
    assert not button.isVisible() and bench.selected.isVisible() and bench.outline.isVisible()


def test_parts_flow_into_lines(qtbot: QtBot) -> None:
    """A line holds what fits; what follows the spring is at the right of its line."""
    from PyQt6.QtWidgets import QWidget

    bar = QWidget()
    qtbot.addWidget(bar)
    row = Flowing(bar)
    row.setContentsMargins(0, 0, 0, 0)
    row.setSpacing(10)
    parts = [QPushButton(str(n)) for n in range(3)]
    for number, part in enumerate(parts):
        if number == 2:
            row.spring()
        part.setFixedSize(100, 20)
        row.addWidget(part)
    bar.resize(400, 60)
    bar.show()
    settled()
    assert [(p.x(), p.y()) for p in parts] == [(0, 0), (110, 0), (300, 0)]
    bar.resize(230, 60)
    settled()
    assert [(p.x(), p.y()) for p in parts] == [(0, 0), (110, 0), (130, 30)]
    assert row.heightForWidth(230) == 50 and row.heightForWidth(100) == 80
    parts[1].hide()
    settled()
    assert [(p.x(), p.y()) for p in (parts[0], parts[2])] == [(0, 0), (130, 0)]


def test_the_guide_is_for_the_demo_page_alone(qtbot: QtBot, tmp_path: Path) -> None:
    """Its steps speak of the notice board; on another page it would lead nowhere."""
    other = tmp_path / "p.html"
    other.write_text("<p>x")
    for page, seen in ((demo_page(), True), (other, False)):
        window = Window(Settings(tmp_path / "settings"))
        qtbot.addWidget(window)
        window.show()
        window.open_page(page)
        qtbot.waitUntil(lambda w=window: w.session is not None)  # type: ignore[misc]
        assert bench_of(window).guide.isVisible() is seen
        window.close()


def test_predict_first_is_off_again_in_the_next_session(qtbot: QtBot, tmp_path: Path) -> None:
    """It goes from page to page, and ends with the program."""
    settings = Settings(tmp_path)
    window = Window(settings)
    qtbot.addWidget(window)
    window.show()
    window.open_page(demo_page())
    qtbot.waitUntil(lambda: window.session is not None)
    press(bench_of(window).width_bar.predicts)
    first = window.session
    window.open_page(demo_page("ploverfield-draft"))
    qtbot.waitUntil(lambda: window.session is not first)
    assert bench_of(window).width_bar.predicts.isChecked()
    assert not Settings(tmp_path).predicts_first
    window.close()


def _cut(window: Window) -> list[str]:
    """The labels and buttons in view whose words do not fit into them."""
    found = []
    parts: list[QLabel | QPushButton] = [*window.findChildren(QLabel), *window.findChildren(QPushButton)]
    for part in parts:
        if not part.text() or not part.isVisible() or part.visibleRegion().isEmpty():
            continue
        if isinstance(part, QLabel) and part.wordWrap():
            fits = part.heightForWidth(part.width()) <= part.height() + 1
        else:
            fits = (
                part.sizeHint().width() <= part.width() + 1
                and part.sizeHint().height() <= part.height() + 2
            )
        if not fits:
            found.append(f"{type(part).__name__} {part.text()!r}")
    return found


@pytest.mark.parametrize("entry", SCREENS, ids=lambda e: e.name)
def test_no_word_is_cut_where_text_is_half_as_large_again(
    qtbot: QtBot, demo_copy: Path, entry: ScreenEntry
) -> None:
    """The desktop asks for 150 % text: all fonts follow, and what holds text grows with it."""
    application = make_application()
    choose_text_scale(1.5)
    application.setStyleSheet(style_sheet())
    try:
        window = make_window(qtbot, demo_copy)
        click(qtbot, window, "notice")
        window.show_screen(entry.name)
        settled()
        assert window.buttons["bench"].fontMetrics().height() > 18
        assert _cut(window) == []
    finally:
        choose_text_scale(1.0)
        application.setStyleSheet(style_sheet())


def test_a_page_that_is_read_from_right_to_left(qtbot: QtBot, tmp_path: Path) -> None:
    """The sheet begins at its right edge, and what reaches out of the window at the left can be scrolled to."""
    page = tmp_path / "p.html"
    wide = "<div style='width:1500px;height:60px;background:#aa0000'></div>"
    page.write_text(f"<!doctype html><html dir=rtl><body style='margin:0'>{wide}", encoding="utf-8")
    window = make_window(qtbot, page)
    settled()
    sheet = bench_of(window).sheet
    bar, viewport = sheet.horizontalScrollBar(), sheet.viewport()
    assert bar is not None and viewport is not None and bar.value() == bar.maximum() > 100
    right = round(sheet.origin().x() + 1100 * sheet.scale)
    assert right < viewport.width()
    bar.setValue(0)
    settled()
    left = round(sheet.origin().x() - 400 * sheet.scale)
    image = viewport.grab().toImage()
    row = round(sheet.origin().y() + 30 * sheet.scale)
    assert image.pixelColor(left + 4, row).name() == "#aa0000" != image.pixelColor(left - 6, row).name()
