"""Drawings become files, paper or a copy: which work each form takes, begun off the interface thread."""

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QByteArray, QMimeData
from PyQt6.QtGui import QGuiApplication
from PyQt6.QtPrintSupport import QPrintDialog, QPrinter
from PyQt6.QtWidgets import QWidget

from redcrate.app.background_task import Step
from redcrate.app.diagrams.hand_over_panel import HandOverPanel
from redcrate.app.diagrams.handing_over import (
    Checking,
    Goods,
    print_pages,
    write_boxes,
    write_folder,
    write_pdf_file,
    write_report,
)
from redcrate.app.painting.drawing_files import drawing_image
from redcrate.core.diagram.codes import Palette
from redcrate.core.diagram.drawing import Drawing
from redcrate.core.diagram.paper import PAPERS
from redcrate.core.diagram.svg_end import drawing_svg
from redcrate.core.session import Session


class Delivery:
    """Hands over what `goods` gives, as the panel says. window: over which a printer is asked for."""

    def __init__(
        self,
        session: Session,
        panel: HandOverPanel,
        goods: Callable[[], Goods | None],
        window: QWidget,
    ) -> None:
        self._session = session
        self._panel = panel
        self._goods = goods
        self._window = window

    def write(self, path: Path, ending: str) -> None:
        """Write files to a path, in the form of that ending."""
        goods = self._goods()
        if goods is not None:
            self._panel.begin(self._work(goods, path, ending))

    def _work(self, goods: Goods, path: Path, ending: str) -> Callable[[Step], str]:
        panel = self._panel
        if ending in (".csv", ".json"):
            return lambda step: write_boxes(goods, path, step)
        if ending == ".pdf":
            paper, each = PAPERS.get(panel.paper_name), panel.on_a_page
            return lambda step: write_pdf_file(goods, path, paper, each, step)
        if ending == ".html":
            document = self._session.document
            checking = Checking(document.trial(), self._session.widths, document.settings)
            return lambda step: write_report(goods, path, checking, step)
        scale = panel.scale
        return lambda step: write_folder(goods, path, ending, scale, step)

    def ask_printer(self) -> None:
        """Print on the printer that is chosen in the system's dialog."""
        printer = QPrinter(QPrinter.PrinterMode.HighResolution)
        if QPrintDialog(printer, self._window).exec():
            self.print_on(printer)

    def print_on(self, printer: QPrinter) -> None:
        """Print, as many on a page as were chosen for paper."""
        goods = self._goods()
        if goods is not None:
            each = self._panel.on_a_page
            self._panel.begin(lambda step: print_pages(goods, printer, each, step))


def copy_drawing(drawing: Drawing, colours: Palette) -> None:
    """A drawing on the clipboard, as SVG and as a picture."""
    data = QMimeData()
    data.setData("image/svg+xml", QByteArray(drawing_svg(drawing, colours).encode()))
    data.setImageData(drawing_image(drawing, colours, 2.0))
    clipboard = QGuiApplication.clipboard()
    if clipboard is not None:
        clipboard.setMimeData(data)
