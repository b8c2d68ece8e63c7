"""Starting the window: the application object, fonts, style, and the page to show first."""

import sys
from pathlib import Path

from PyQt6.QtWidgets import QApplication

from redcrate.app.exception_hook import ExceptionHook
from redcrate.app.idle_collector import IdleCollector
from redcrate.app.settings import Settings
from redcrate.app.theme.look import choose_palette, follow_desktop, lettering, load_fonts, style_sheet
from redcrate.app.window import Window
from redcrate.core.diagram.codes import Palette
from redcrate.demo_pages import demo_page

# Fonts and pictures that Qt keeps must not outlive the application object.
_kept: list[QApplication] = []


def make_application(wanted: Palette | None = None) -> QApplication:
    """The one application object, dressed in a palette; None: the one that the desktop asks for."""
    known = QApplication.instance()
    application = known if isinstance(known, QApplication) else QApplication(sys.argv[:1])
    if application not in _kept:
        _kept.append(application)
        application.setStyle("Fusion")
        IdleCollector(application)
    application.setApplicationName("Red Crate")
    load_fonts()
    if wanted is None:
        follow_desktop()
    else:
        choose_palette(wanted)
    sheet = style_sheet()
    if application.styleSheet() != sheet:  # Qt polishes every widget anew for it
        application.setFont(lettering(12))
        application.setStyleSheet(sheet)
    return application


def run_window(page: Path | None) -> int:
    """Show the window with `page`, or with the demo page; returns the exit status."""
    application = make_application()
    window = Window(Settings())
    ExceptionHook(window).install()
    window.show()
    window.open_page(page or demo_page())
    return application.exec()
