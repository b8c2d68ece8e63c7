"""What the window's tests share: the window with a copy of the demo page, and how to point at things."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt
from pytestqt.qtbot import QtBot

from redcrate.app import pauses
from redcrate.app.screens import bench_of
from redcrate.app.settings import Settings
from redcrate.app.start import make_application
from redcrate.app.window import Window
from redcrate.core.geometry import Rect
from redcrate.core.markup.elements import Element
from redcrate.core.session import Session
from tests.app.pointer import QTest
from tests.driving import browser, small_driver

__all__ = ["browser", "small_driver"]


@pytest.fixture(autouse=True)
def _without_waiting() -> Iterator[None]:
    """The pauses that are meant for people are a tenth as long."""
    pauses.hurry(0.1)
    yield
    pauses.hurry(1.0)


@pytest.fixture
def window(qtbot: QtBot, demo_copy: Path) -> Window:
    """The window with a copy of the demo page."""
    make_application()
    return make_window(qtbot, demo_copy)


def _drop_unsaved(window: Window) -> None:
    """A test's window closes without asking."""
    window._warned = True


def make_window(qtbot: QtBot, page: Path, settings: Settings | None = None) -> Window:
    """A window of 1280 by 800 px with `page` open."""
    made = Window(settings)
    qtbot.addWidget(made, before_close_func=_drop_unsaved)
    made.resize(1280, 800)
    made.show_session(Session(page, recovery=settings.recovery if settings else None))
    made.show()
    made.activateWindow()
    assert QTest.qWaitForWindowActive(made), "presses give the focus only in the active window"
    return made


def element(window: Window, name: str) -> Element:
    """The first element with that class, id or tag."""
    assert window.session is not None
    found = (e for e in window.session.views.page.elements if name in (*e.classes, e.id, e.tag))
    return next(found)


def outer_on_sheet(window: Window, name: str) -> Rect:
    """The border box of an element."""
    assert window.session is not None
    return window.session.views.page.by_element[element(window, name)].border_box


def click(qtbot: QtBot, window: Window, name: str, **how: object) -> None:
    """Click into the top left corner of an element's border box on the sheet."""
    sheet = bench_of(window).sheet
    where = sheet.to_screen(outer_on_sheet(window, name))
    point = QPoint(round(where.left()) + 3, round(where.top()) + 3)
    qtbot.mouseClick(sheet.viewport(), Qt.MouseButton.LeftButton, pos=point, **how)
