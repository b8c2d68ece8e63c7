"""Speed of the window, offscreen: typed or dragged → new picture, panning and zooming many boxes."""

import os
from collections.abc import Callable
from itertools import count
from pathlib import Path
from typing import Any

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from make_page import page as page_text
from PyQt6.QtWidgets import QApplication

from redcrate.app.screens import bench_of, diagrams_of
from redcrate.app.start import make_application
from redcrate.app.window import Window
from redcrate.core.session import Session

Benchmark = Callable[..., Any]


def open_window(folder: Path, elements: int) -> tuple[Window, QApplication]:
    """The window of 1280 by 800 px with a benchmark page; the first card is selected."""
    path = folder / "page.html"
    path.write_text(page_text(elements), encoding="utf-8")
    application = make_application()
    window = Window()
    window.resize(1280, 800)
    session = Session(path)
    window.show_session(session)
    window.show()
    session.views.select(next(e for e in session.views.page.elements if e.id == "c2"))
    for _ in range(3):
        application.processEvents()
    return window, application


def test_typed_to_picture(benchmark: Benchmark, tmp_path: Path) -> None:
    """A padding of the 1,000-element page, layout and painting together."""
    window, application = open_window(tmp_path, 1000)
    session, values = window.session, count(10)
    assert session is not None

    def edit() -> None:
        assert session.views.selected is not None
        session.editor.apply(
            session.editor.plan(
                session.views.selected, "padding", ("top",), str(next(values) % 30)
            ).patch
        )
        application.processEvents()

    benchmark.pedantic(edit, rounds=10, warmup_rounds=2)  # type: ignore[attr-defined]
    window.deleteLater()


def test_painting_alone(benchmark: Benchmark, tmp_path: Path) -> None:
    """The sheet of the 1,000-element page painted anew, with nothing kept."""
    window, _application = open_window(tmp_path, 1000)
    sheet = bench_of(window).sheet

    def paint() -> None:
        sheet._painted = None
        viewport = sheet.viewport()
        assert viewport is not None
        viewport.repaint()

    benchmark.pedantic(paint, rounds=10, warmup_rounds=2)  # type: ignore[attr-defined]
    window.deleteLater()


def test_pan_5000_boxes(benchmark: Benchmark, tmp_path: Path) -> None:
    """One frame of panning over a page of 5,000 boxes."""
    window, application = open_window(tmp_path, 5000)
    bench_of(window).sheet.set_zoom(1.0)
    bar = bench_of(window).sheet.verticalScrollBar()
    places = count(0, 37)
    assert bar is not None

    def pan() -> None:
        bar.setValue(next(places))
        application.processEvents()

    benchmark.pedantic(pan, rounds=20, warmup_rounds=3)  # type: ignore[attr-defined]
    window.deleteLater()


def test_zoom_5000_boxes(benchmark: Benchmark, tmp_path: Path) -> None:
    """One step of zooming a page of 5,000 boxes."""
    window, application = open_window(tmp_path, 5000)
    sheet = bench_of(window).sheet
    scales = count(1)

    def zoom() -> None:
        sheet.set_zoom(0.2 + next(scales) % 20 / 10)
        application.processEvents()

    benchmark.pedantic(zoom, rounds=12, warmup_rounds=2)  # type: ignore[attr-defined]
    window.deleteLater()


def test_contact_sheet_first_picture(benchmark: Benchmark, tmp_path: Path) -> None:
    """From asking for the Diagrams screen of 1,000 elements to its first picture, all visible drawings made."""
    window, application = open_window(tmp_path, 1000)

    def fresh() -> tuple[tuple[()], dict[str, object]]:
        window.show_screen("bench")
        made = window._screens.pop("diagrams", None)
        if made is not None:
            window._stack.removeWidget(made)
            made.deleteLater()
        application.processEvents()
        return (), {}

    def show() -> None:
        window.show_screen("diagrams")
        sheet = diagrams_of(window).sheet
        while not all(sheet.is_current(sheet.entries.entries[row].element) for row in sheet._seen()):
            application.processEvents()

    benchmark.pedantic(show, setup=fresh, rounds=5)  # type: ignore[attr-defined]
    window.deleteLater()


def test_diagram_after_an_edit(benchmark: Benchmark, tmp_path: Path) -> None:
    """After an edit of one of 1,000 elements: its drawing on the contact sheet, the edit itself apart."""
    window, application = open_window(tmp_path, 1000)
    session, values = window.session, count(10)
    assert session is not None
    window.show_screen("diagrams")
    sheet = diagrams_of(window).sheet
    application.processEvents()

    def edit() -> tuple[tuple[()], dict[str, object]]:
        assert session.views.selected is not None
        plan = session.editor.plan(session.views.selected, "padding", ("top",), str(next(values) % 30))
        session.editor.apply(plan.patch)
        return (), {}

    def show() -> None:
        assert session.views.selected is not None
        while not sheet.is_current(session.views.selected):
            application.processEvents()

    benchmark.pedantic(show, setup=edit, rounds=8)  # type: ignore[attr-defined]
    window.deleteLater()
