"""Manners: every command runs, everything has a name and can be reached, errors are sentences, layout is kept."""

import os
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtWidgets import (
    QAbstractButton,
    QApplication,
    QComboBox,
    QFileDialog,
    QLineEdit,
    QListWidget,
    QTreeView,
    QWidget,
)
from pytestqt.qtbot import QtBot

from redcrate.app.screens import bench_of
from redcrate.app.settings import Settings
from redcrate.app.start import make_application
from redcrate.app.window import Window
from redcrate.core.edit.patch import Patch, TextEdit
from tests.app.conftest import element, make_window


@pytest.fixture
def no_dialogs(monkeypatch: pytest.MonkeyPatch) -> None:
    """File dialogs answer nothing; no browser is opened, nor is there one to ask."""
    monkeypatch.setattr("redcrate.app.proof.preview.QDesktopServices.openUrl", lambda address: True)
    monkeypatch.setenv("PATH", "")
    for name in ("getOpenFileName", "getSaveFileName"):
        monkeypatch.setattr(QFileDialog, name, lambda *a, **k: ("", ""))
    monkeypatch.setattr(QFileDialog, "getExistingDirectory", lambda *a, **k: "")


def test_every_command_runs_with_and_without_a_page(
    qtbot: QtBot, no_dialogs: None, demo_copy: Path
) -> None:
    """From the register: none raises, whatever is selected; names and keys stand once."""
    make_application()
    empty = Window()
    qtbot.addWidget(empty)
    full = make_window(qtbot, demo_copy)
    assert full.session is not None
    keys = [c.keys for c in full.commands if c.keys]
    assert len(keys) == len(set(keys)) and len({c.name for c in full.commands}) == len(full.commands)
    for window in (empty, full):
        for chosen in ("", "notice", "path"):
            if window.session is not None:
                window.session.views.select(element(window, chosen) if chosen else None)
            for command in window.commands:
                if command.name != "quit":
                    window.actions_by_name[command.name].trigger()
                    QApplication.processEvents()
    while full.session.editor.undo():
        pass
    assert not full.session.document.is_edited


def test_everything_has_a_name(qtbot: QtBot, window: Window) -> None:
    """Fields, lists and choices by accessible name, buttons by text; all can take the focus."""
    assert window.session is not None
    window.actions_by_name["new"].trigger()
    window.session.views.select(element(window, "notice"))
    for name in bench_of(window).side_buttons:
        bench_of(window).show_side(name)
    nameless = []
    for widget in window.findChildren(QWidget):
        if isinstance(widget, (QLineEdit, QListWidget, QTreeView)) and not widget.accessibleName():
            nameless.append((type(widget).__name__, widget.parent()))
        if (
            isinstance(widget, QAbstractButton)
            and type(widget).__module__.startswith("redcrate")
            and not widget.text()
        ):
            nameless.append((type(widget).__name__, widget.parent()))
        if isinstance(widget, (QLineEdit, QComboBox)) and widget.isEnabled():
            assert widget.focusPolicy() != Qt.FocusPolicy.NoFocus
    assert [n for n in nameless if "QSpinBox" not in str(n)] == []


def test_zoom_by_wheel_and_pan_by_space(qtbot: QtBot, window: Window) -> None:
    """Ctrl and wheel between 10 and 800 %; space and drag moves the page."""
    sheet = bench_of(window).sheet
    at = QPointF(300, 200)
    for turn, count in ((120, 40), (-120, 60)):
        for _ in range(count):
            event = QWheelEvent(at, at, QPoint(0, turn), QPoint(0, turn), Qt.MouseButton.NoButton,
                                Qt.KeyboardModifier.ControlModifier, Qt.ScrollPhase.NoScrollPhase, False)  # fmt: skip
            sheet.wheelEvent(event)
        assert sheet.scale == (8.0 if turn > 0 else 0.1)
    sheet.set_zoom(3.0)
    bar = sheet.verticalScrollBar()
    assert bar is not None
    bar.setValue(400)
    qtbot.mouseClick(sheet.viewport(), Qt.MouseButton.LeftButton, pos=QPoint(4, 4))
    qtbot.keyPress(sheet, Qt.Key.Key_Space)
    qtbot.mousePress(sheet.viewport(), Qt.MouseButton.LeftButton, pos=QPoint(300, 300))
    qtbot.mouseMove(sheet.viewport(), QPoint(300, 250))
    qtbot.waitUntil(lambda: bar.value() == 450, timeout=8000)
    qtbot.mouseRelease(sheet.viewport(), Qt.MouseButton.LeftButton, pos=QPoint(300, 250))
    qtbot.keyRelease(sheet, Qt.Key.Key_Space)


def test_a_full_disk_is_a_sentence_and_nothing_is_lost(
    qtbot: QtBot, window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The bar says why; the work is still there; a later save succeeds."""
    assert window.session is not None
    session = window.session
    session.editor.apply(
        session.editor.plan(element(window, "notice"), "padding", ("left",), "30").patch
    )

    def full(*_: object) -> None:
        raise OSError(28, "No space left on device")

    with monkeypatch.context() as patched:
        patched.setattr(os, "replace", full)
        window.save()
    assert "No space left" in window.sentence.text() and session.document.is_edited
    window.save()
    assert "Saved style.css" in window.sentence.text() and not session.document.is_edited


def test_layout_recent_pages_and_the_guide_are_remembered(
    qtbot: QtBot, demo_copy: Path, tmp_path: Path
) -> None:
    """The splitter and the page that was open; a damaged settings file is an empty one."""
    settings = Settings(tmp_path / "home")
    first = make_window(qtbot, demo_copy, settings)
    bench_of(first).splitter.setSizes([300, 600, 380])
    sizes = bench_of(first).splitter.sizes()
    with qtbot.waitSignal(first.opened, timeout=5000):
        first.open_page(demo_copy)
    bench_of(first).splitter.setSizes(sizes)
    first.close()
    again = Settings(tmp_path / "home")
    assert again.recent == [demo_copy]
    second = make_window(qtbot, demo_copy, again)
    assert bench_of(second).splitter.sizes() == sizes
    second.top_bar.fill_recent()
    assert [a.text() for a in second.top_bar.recent_menu.actions()] == ["ploverfield / index.html"]
    (tmp_path / "home" / "settings.json").write_text("{ damaged")
    assert Settings(tmp_path / "home").recent == []


def test_a_page_that_changes_under_ones_hands(qtbot: QtBot, window: Window) -> None:
    """The selected element goes, comes back, is hidden: the panels follow without a fault."""
    assert window.session is not None
    session = window.session
    session.views.select(element(window, "notice"))
    html = session.document.text("index.html").text
    start, end = html.index('<section class="notice">'), html.index("</section>") + len("</section>")
    session.editor.apply(Patch((TextEdit("index.html", start, end, ""),), "gone"))
    QApplication.processEvents()
    assert session.views.selected is None or "notice" not in session.views.selected.classes
    session.editor.undo()
    session.views.select(element(window, "notice"))
    session.editor.apply(
        Patch((TextEdit("style.css", 0, 0, ".notice { display: none !important }\n"),), "hidden")
    )
    qtbot.waitUntil(
        lambda: any("has no box: display: none" in s for s in bench_of(window).selected.sentences()),
        timeout=8000,
    )
    assert "no box" in bench_of(window).budget._empty.text()
    session.editor.apply(Patch((TextEdit("index.html", 0, len(html), ""),), "empty"))
    QApplication.processEvents()
    assert len(session.views.page.elements) == 2
    while session.editor.undo():
        pass
    assert session.document.text("index.html").text == html
