"""Starting the window: the application object, fonts, style, and the page to show first."""

import sys
from pathlib import Path

from PyQt6.QtWidgets import QApplication, QWidget

from redcrate.app.first_frame import FirstFrame
from redcrate.app.idle_collector import IdleCollector
from redcrate.app.settings import Settings
from redcrate.app.theme.look import (
    choose_palette,
    follow_desktop,
    follow_text_size,
    load_fonts,
    style_sheet,
    text_font,
)
from redcrate.core.diagram.codes import Palette
from redcrate.demo_pages import demo_page

# Fonts and pictures that Qt keeps must not outlive the application object.
_kept: list[QApplication] = []
_kept_windows: list[QWidget] = []


def make_application(wanted: Palette | None = None) -> QApplication:
    """The one application object, dressed in a palette; None: the one that the desktop asks for."""
    known = QApplication.instance()
    application = known if isinstance(known, QApplication) else QApplication(sys.argv[:1])
    if application not in _kept:
        _kept.append(application)
        application.setStyle("Fusion")
        follow_text_size()
        IdleCollector(application)
    application.setApplicationName("Red Crate")
    load_fonts()
    if wanted is None:
        follow_desktop()
    else:
        choose_palette(wanted)
    sheet = style_sheet()
    if application.styleSheet() != sheet:  # Qt polishes every widget anew for it
        application.setFont(text_font(12))
        application.setStyleSheet(sheet)
    return application


def run_window(page: Path | None) -> int:
    """Show the window with `page`, or with the demo page; returns the exit status."""
    application = make_application()
    goal, settings = page or demo_page(), Settings()
    frame = FirstFrame(goal.name, settings)
    frame.show()

    def go_on() -> None:
        if frame.isVisible():  # who has closed it wants no window
            _kept_windows.append(show_window(goal, settings))
            frame.close()

    frame.load("redcrate.app.window", go_on)
    return application.exec()


def show_window(page: Path, settings: Settings) -> QWidget:
    """The window, with a page that is being opened."""
    from redcrate.app.exception_hook import ExceptionHook  # the rest of the program
    from redcrate.app.window import Window

    window = Window(settings)
    ExceptionHook(window).install()
    window.show()
    window.open_page(page)
    return window
