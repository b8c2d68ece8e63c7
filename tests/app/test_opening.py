"""Opening takes its time on large pages: it says what is read, can be cancelled, and something is seen at once."""

import subprocess
import sys
from pathlib import Path

import pytest
from PyQt6.QtWidgets import QApplication, QLabel
from pytestqt.qtbot import QtBot

from redcrate.app import start
from redcrate.app.first_frame import FirstFrame
from redcrate.app.settings import Settings
from redcrate.app.start import make_application
from redcrate.app.window import Window
from tests.app.pointer import QTest, press


@pytest.fixture
def large(tmp_path: Path) -> Path:
    """A page with a stylesheet that takes a moment to read, and that no other test has read."""
    rules = f"/* {tmp_path} */" + "".join(
        f".r{n} > a:hover, .s{n} b {{ margin: {n}px auto; color: #123 }}\n" for n in range(4000)
    )
    (tmp_path / "large.css").write_text(rules, encoding="utf-8")
    page = tmp_path / "page.html"
    page.write_text("<!doctype html><link rel=stylesheet href=large.css><p>One", encoding="utf-8")
    return page


@pytest.fixture
def empty(qtbot: QtBot) -> Window:
    """The window without a page."""
    make_application()
    window = Window()
    qtbot.addWidget(window)
    window.show()
    window.activateWindow()
    assert QTest.qWaitForWindowActive(window)
    return window


def test_it_says_what_is_read_and_can_be_cancelled(qtbot: QtBot, empty: Window, large: Path) -> None:
    """The note names the sheet with its size; cancelled, nothing is opened, and what is wanted next is."""
    css = large.with_name("large.css")
    css.write_text(
        css.read_text(encoding="utf-8") * 8, encoding="utf-8"
    )  # so that the note is seen on any machine
    empty.open_page(large)
    note = empty.sentence
    qtbot.waitUntil(lambda: "reading large.css (" in note.text(), timeout=20_000)
    assert note.text().startswith("Opening page.html: ") and note.text().endswith(" kB) …")
    with qtbot.waitSignal(empty.opened, timeout=1000):
        press(note.buttons[0])
    assert not note.isVisible() and empty.session is None
    small = large.with_name("small.html")
    small.write_text("<!doctype html><p>Two", encoding="utf-8")
    with qtbot.waitSignal(empty.opened, timeout=20_000):
        empty.open_page(small)
    assert empty.session is not None and empty.session.document.path == small
    QTest.qWait(300)  # what was cancelled does not come after all
    assert empty.session.document.path == small and not note.isVisible()


def test_something_is_seen_before_the_rest_is_loaded(
    qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    """A frame in the window's place names the page; the window follows, and the frame goes."""
    page = tmp_path / "page.html"
    page.write_text("<!doctype html><p>One", encoding="utf-8")
    monkeypatch.setattr(start, "Settings", lambda: Settings(tmp_path / "kept"))
    seen: list[str] = []

    def run(application: QApplication) -> int:
        frames = [w for w in QApplication.topLevelWidgets() if isinstance(w, FirstFrame)]
        (frame,) = (f for f in frames if f.isVisible())
        seen.extend(label.text() for label in frame.findChildren(QLabel))
        qtbot.waitUntil(lambda: bool(start._kept_windows), timeout=20_000)
        window = start._kept_windows.pop()
        assert isinstance(window, Window) and window.isVisible() and not frame.isVisible()
        assert window.geometry() == frame.geometry()
        qtbot.waitUntil(lambda: window.session is not None, timeout=20_000)
        window.close()
        return 0

    monkeypatch.setattr(QApplication, "exec", run)
    make_application()
    assert start.run_window(page) == 0
    assert seen == ["Opening page.html …"]


def test_the_first_frame_waits_for_no_core(tmp_path: Path) -> None:
    """From the command line to the frame on screen nothing is loaded that reads, lays out or computes pages."""
    script = """
import sys
from redcrate.cli.main import main
from PyQt6.QtCore import QThreadPool
from PyQt6.QtWidgets import QApplication
QThreadPool.start = lambda *_: None  # what is loaded beside the frame
QApplication.exec = lambda *_: 0
try:
    main(["page.html"])
finally:
    (frame,) = (w for w in QApplication.topLevelWidgets() if w.isVisible())
    print(frame.windowTitle(), [m for m in ("html5lib", "click", "redcrate.core.page", "redcrate.core.layout") if m in sys.modules])
"""
    done = subprocess.run(
        [sys.executable, "-c", script],
        cwd=tmp_path,
        capture_output=True,
        text=True,
        timeout=60,
        check=False,
    )
    assert done.returncode == 0 and done.stdout == "Red Crate []\n", done.stderr


def test_the_notices_of_large_sheets_come_later(qtbot: QtBot, empty: Window, large: Path) -> None:
    """The page is there; its rules are read beside it, and then what they told is shown."""
    css = large.with_name("large.css")
    css.write_text(css.read_text(encoding="utf-8") + "p { widht: 3px }", encoding="utf-8")
    with qtbot.waitSignal(empty.opened, timeout=20_000):
        empty.open_page(large)
    assert empty.session is not None
    (sheet,) = empty.session.views.page.source.sheets
    assert not sheet.is_read

    def says(sentence: str) -> bool:
        return any(sentence in label.text() for label in empty.findChildren(QLabel))

    qtbot.waitUntil(lambda: says("The rest of the stylesheets is being read"), timeout=20_000)
    qtbot.waitUntil(lambda: says("there is no property widht"), timeout=20_000)
    assert sheet.is_read and not says("is being read")
