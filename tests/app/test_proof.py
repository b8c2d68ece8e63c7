"""The Proof screen with a small browser: asking, causes, numbers on the sheet, its picture, failures, the preview."""

import http.client
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QColor
from pytestqt.qtbot import QtBot

from redcrate.app.proof.screen import ProofScreen
from redcrate.app.screens import bench_of, proof_of
from redcrate.app.settings import Settings
from redcrate.app.theme.look import page_colour
from redcrate.app.window import Window
from redcrate.core.geometry import Rect
from redcrate.core.units import from_px
from tests.app.conftest import click, element, make_window
from tests.app.pointer import QTest, press, type_over
from tests.conftest import load
from tests.driving import Rows, SmallDriver, answer_of, nothing_left, started_in

WIDTHS = (1100, 820, 390)


def narrower(rows: Rows) -> None:
    """The tides are 12 px narrower there."""
    notice = next(n for n, r in enumerate(rows) if r[0] == "aside")
    rows[notice][4] -= 12


@pytest.fixture
def window(qtbot: QtBot, demo_copy: Path, small_driver: SmallDriver) -> Window:
    """The window with a copy of the demo; the browser differs at 390 px alone."""
    change = {390: narrower}
    small_driver(
        "", {f"{w}": answer_of(load(demo_copy, w), change.get(w, lambda rows: None)) for w in WIDTHS}
    )
    made = make_window(qtbot, demo_copy)
    press(made.buttons["proof"])
    return made


def asked(qtbot: QtBot, window: Window) -> ProofScreen:
    """Press the button, and wait for the answer."""
    screen = proof_of(window)
    press(screen.ask)
    assert screen.ask.text() == "Cancel"
    qtbot.waitUntil(lambda: not screen.asking.is_asking, timeout=20_000)
    return screen


def colour_at(screen: ProofScreen, x: float, y: float) -> QColor:
    """The colour of the sheet at a place of the page, px."""
    where = screen.sheet.to_screen(Rect(from_px(x), from_px(y), from_px(0), from_px(0)))
    viewport = screen.sheet.viewport()
    assert viewport is not None
    return viewport.grab().toImage().pixelColor(QPoint(round(where.x()), round(where.y())))


def test_what_differs_is_listed_and_drawn_with_both_numbers(
    qtbot: QtBot, window: Window, tmp_path: Path
) -> None:
    """Widths say how much; a cause that is chosen is selected, outlined where the browser has it, and explained."""
    screen = proof_of(window)
    assert "cut off from the network" in screen.why.text() and screen.causes.count() == 0
    asked(qtbot, window)
    assert [b.text() for b in screen.widths.values()] == [
        "1100 px: same",
        "820 px: same",
        "390 px: 1 of 44 differ",
    ]
    assert screen.words.text().startswith(
        "Compared with Chromium 7 at "
    ) and screen.words.text().endswith(": 1 cause of differences.")
    assert screen.causes.count() == 0 and "all 44 boxes are equal" in screen.why.text()
    assert screen.why.text().endswith("Click a box to read its numbers.")
    aside = screen.sheet.shown_page.box_of(element(window, "aside"))
    assert aside is not None
    corner = screen.sheet.to_screen(aside.border_box).topLeft().toPoint()
    press(screen.sheet.viewport(), corner + QPoint(4, 4))
    assert screen.why.text().endswith(
        "aside#tides.tides: 292 × 230.78 px at x 730, y 136; the same in the browser."
    )
    press(screen.widths[390])
    (item,) = (screen.causes.item(n) for n in range(screen.causes.count()))
    assert item is not None
    notice = screen.sheet.shown_page.box_of(element(window, "aside"))
    assert notice is not None
    width = notice.border_box.width / 64
    assert item.text() == f"aside#tides.tides: width {width:g} here, {width - 12:g} there (−12)"
    assert "Choose a cause" in screen.why.text()
    press(screen.causes.viewport(), screen.causes.visualItemRect(item).center())
    assert window.session is not None and window.session.views.selected is element(window, "aside")
    assert (
        screen.why.text().startswith("In Red Crate, aside#tides.tides:\n")
        and f"{width:g}" in screen.why.text()
    )
    right = notice.border_box.right / 64 - 12
    middle = (notice.border_box.y + notice.border_box.bottom) / 128
    assert colour_at(screen, right, middle) == page_colour("problem")
    assert started_in(tmp_path)  # it is kept warm


def test_its_picture_lies_over_the_sheet_as_strongly_as_wanted(qtbot: QtBot, window: Window) -> None:
    """The slider takes keys; the small browser's picture is a grey square at the top left."""
    screen = proof_of(window)
    assert not screen.strength.isEnabled()
    asked(qtbot, window)
    before = colour_at(screen, 30, 30)
    press(screen.strength)
    QTest.keyClick(screen.strength, Qt.Key.Key_End)
    assert screen.strength.value() == 100 and screen.sheet.strength == 1.0
    assert colour_at(screen, 30, 30) == QColor(90, 90, 90) != before
    QTest.keyClick(screen.strength, Qt.Key.Key_Home)
    assert colour_at(screen, 30, 30) == before


def test_an_edit_makes_it_stale_until_it_is_asked_again(qtbot: QtBot, window: Window) -> None:
    """Nothing that the browser said of an earlier state is drawn or listed any more."""
    screen = asked(qtbot, window)
    press(screen.widths[390])
    press(window.buttons["bench"])
    click(qtbot, window, "notice")
    type_over(bench_of(window).budget.cell("across", "padding", "left").field, "30")
    press(window.buttons["proof"])
    assert screen.is_stale and screen.words.text().endswith(
        "the page has changed since then: check again."
    )
    assert screen.causes.count() == 0 and screen.widths[390].text() == "390 px"
    assert screen.ask.text() == "Check again"
    press(window.buttons["undo"])
    assert not screen.is_stale or screen.causes.count() == 0


def test_a_browser_that_hangs_is_given_up_with_a_press(
    qtbot: QtBot, window: Window, small_driver: SmallDriver, tmp_path: Path
) -> None:
    """It ends, and with it all that it started; then another one can be asked."""
    small_driver("hangs")
    screen = proof_of(window)
    press(screen.ask)
    qtbot.waitUntil(lambda: len(started_in(tmp_path)) >= 3, timeout=10_000)
    press(screen.ask)
    assert screen.words.text() == "Cancelled." and screen.ask.text() == "Compare with browser"
    qtbot.waitUntil(lambda: not started_in(tmp_path), timeout=10_000)


@pytest.mark.parametrize(
    ("manner", "said"), [("dies", "stopped during the check"), ("mismatch", "another version")]
)
def test_a_failure_is_a_sentence_beside_the_sheet(
    qtbot: QtBot, window: Window, small_driver: SmallDriver, tmp_path: Path, manner: str, said: str
) -> None:
    """No dialog; what can be done about it is in it, and the next press asks anew."""
    answers = {f"{w}": answer_of(load(tmp_path / "nothing", w)) for w in list[int]()}
    small_driver(manner, answers)
    screen = asked(qtbot, window)
    assert said in screen.why.text() and screen.ask.text() == "Compare with browser"
    assert nothing_left(tmp_path)


def test_without_a_browser_the_command_for_one_is_shown(
    qtbot: QtBot, window: Window, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    """It can be copied from there."""
    monkeypatch.setenv("PATH", str(tmp_path))
    screen = asked(qtbot, window)
    assert "sudo apt-get install chromium chromium-driver" in screen.why.text()
    assert screen.why.textInteractionFlags() & Qt.TextInteractionFlag.TextSelectableByMouse


def test_the_command_asks_from_anywhere_and_the_window_takes_the_browser_along(
    qtbot: QtBot, window: Window, tmp_path: Path
) -> None:
    """From the bench; when the window closes nothing stays."""
    press(window.buttons["bench"])
    window.actions_by_name["prove"].trigger()
    screen = proof_of(window)
    assert screen.isVisible()
    qtbot.waitUntil(lambda: screen.proof is not None, timeout=20_000)
    assert started_in(tmp_path)
    window._warned = True
    window.close()
    assert nothing_left(tmp_path)


def test_the_page_is_seen_in_the_browser_as_it_is_now(qtbot: QtBot, window: Window) -> None:
    """The address holds the page with unsaved edits; when the window closes nobody answers there."""
    screen, opened = proof_of(window), []
    screen.preview.opener = lambda address: opened.append(address) is None
    press(screen.see)
    server = screen.preview.server
    assert server is not None and opened == [server.preview]
    host, _, path = server.page.removeprefix("http://").partition("/")

    def served(name: str) -> str:
        connection = http.client.HTTPConnection(host, timeout=5)
        connection.request("GET", f"/{path.removesuffix('index.html')}{name}")
        return connection.getresponse().read().decode()

    assert window.session is not None
    before = window.session.document.text("style.css").text
    assert served("style.css") == before
    press(window.buttons["bench"])
    click(qtbot, window, "notice")
    type_over(bench_of(window).budget.cell("across", "padding", "left").field, "31")
    after = window.session.document.text("style.css").text
    assert after != before and served("style.css") == after
    screen.preview.opener = lambda address: False
    press(window.buttons["proof"])
    press(screen.see)
    assert "No default browser" in window.sentence.text()
    window._warned = True
    window.close()
    with pytest.raises(OSError):
        served("style.css")


def test_files_outside_the_folder_are_shown_to_the_browser_after_a_question(
    qtbot: QtBot, tmp_path: Path, small_driver: SmallDriver
) -> None:
    """The first time; a no shows the page's folder alone, a yes is remembered for the page."""
    small_driver()
    (tmp_path / "site").mkdir()
    (tmp_path / "dot.svg").write_text("<svg xmlns='http://www.w3.org/2000/svg' width='9' height='9'/>")
    page = tmp_path / "site" / "p.html"
    page.write_text("<!doctype html><img src=../dot.svg><p>x")
    window = make_window(qtbot, page, Settings(tmp_path / "home"))
    press(window.buttons["proof"])
    screen, opened = proof_of(window), []
    screen.preview.opener = lambda address: opened.append(address) is None
    press(screen.see)
    assert not opened and "outside its folder: ../dot.svg" in window.sentence.text()
    assert [b.text() for b in window.sentence.buttons] == [
        "Allow",
        "Only the folder of the page",
        "Cancel",
    ]
    press(window.sentence.buttons[1])
    server = screen.preview.server
    assert server is not None and len(opened) == 1 and server._shown.outside == ()
    screen.preview.shows_outside = None
    press(screen.see)
    press(window.sentence.buttons[0])
    assert len(opened) == 2 and server._shown.outside == ("../dot.svg",)
    again = make_window(qtbot, page, Settings(tmp_path / "home"))
    press(again.buttons["proof"])
    assert proof_of(again).preview.shows_outside is True
