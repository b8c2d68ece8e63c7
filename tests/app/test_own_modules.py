"""Code in a page's folder is never run by the window: not by the processes that look for findings and sweep."""

from pathlib import Path

import pytest
from pytestqt.qtbot import QtBot

from redcrate.app.screens import bench_of
from redcrate.app.start import make_application
from tests.app.conftest import make_window
from tests.planted import plant


def test_a_window_that_was_started_in_the_folder(
    qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """A page that is large enough for a process of its own; its findings come, and nothing else was loaded."""
    page = tmp_path / "p.html"
    page.write_text("<!doctype html>" + "<p style='hieght: 5px'>x</p>" * 450)
    mark = plant(tmp_path)
    monkeypatch.chdir(tmp_path)
    monkeypatch.delenv("PYTHONPATH", raising=False)
    make_application()
    window = make_window(qtbot, page)
    qtbot.waitUntil(lambda: len(bench_of(window).findings.findings) > 0, timeout=20_000)
    assert window.session is not None and window.session.found
    assert not mark.exists()
