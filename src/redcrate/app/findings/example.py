"""A little page that shows a family of findings, laid out and painted by the real engine."""

from pathlib import Path

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QColor, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from redcrate.app.painting.page_painter import PagePainter
from redcrate.app.theme.look import colour
from redcrate.core.files.loading import assemble
from redcrate.core.files.resources import Resources
from redcrate.core.findings import FAMILIES
from redcrate.core.markup import SourceText
from redcrate.core.page import Page, compute_page
from redcrate.core.style.media import Viewport

_EXAMPLE_WIDTH = 240


class Example(QWidget):
    """A little page that shows a family, laid out and painted by the real engine."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._page: Page | None = None
        self._painter: PagePainter | None = None
        self.setFixedHeight(86)
        self.setAccessibleName("Example")

    def show_family(self, name: str) -> None:
        """Show the example of a family."""
        resources = Resources(Path("example.html"))
        text = f"<!doctype html><style>html{{font:12px 'Liberation Sans'}}body{{margin:8px}}</style>{FAMILIES[name].example}"
        source = SourceText("example", text)
        self._page = compute_page(assemble(source, resources).page, Viewport(_EXAMPLE_WIDTH, 80))
        self._painter = PagePainter(self._page, resources)
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the example."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), QColor("#ffffff"))
        if self._painter is not None:
            self._painter.paint(painter, QRectF(0, 0, self.width(), self.height()), 1.0)
        painter.setPen(colour("hairline"))
        painter.drawRect(self.rect().adjusted(0, 0, -1, -1))
