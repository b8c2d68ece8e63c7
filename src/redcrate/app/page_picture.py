"""A small picture of a page, to scale, with the outlines of its blocks."""

from pathlib import Path

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from redcrate.app.painting.page_painter import PagePainter
from redcrate.app.theme.look import colour, page_colour
from redcrate.core.files.resources import Resources
from redcrate.core.files.trial import Trial
from redcrate.core.page import Page
from redcrate.core.style.media import DEFAULT_HEIGHT, Viewport

_DESK = 20  # px around the page


class PagePicture(QWidget):
    """The page as it is, as large as there is room, never larger than it is."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.page: Page | None = None
        self._painter: PagePainter | None = None
        self.setAccessibleName("Page")
        policy = self.sizePolicy()
        policy.setHeightForWidth(True)
        self.setSizePolicy(policy)

    def hasHeightForWidth(self) -> bool:
        """Yes: a page is to scale."""
        return True

    def heightForWidth(self, width: int) -> int:
        """As high as what the page holds is at that width, px."""
        if self.page is None:
            return _DESK * 4
        return round(self._height() * self._scale(width)) + 2 * _DESK

    def _height(self) -> float:
        """From the top to the lower edge of the lowest box, with as much below it as a line needs, px."""
        assert self.page is not None
        boxes = (
            box.border_box
            for element, box in self.page.by_element.items()
            if element.tag not in ("html", "body")
        )
        lowest = max((r.y + r.height for r in boxes), default=0) / 64 + 20
        return max(120.0, min(lowest, self.page.height / 64))

    def _scale(self, width: int) -> float:
        assert self.page is not None
        return min(1.0, (width - 2 * _DESK) / self.page.viewport.width)

    def show_page(self, page: Page, resources: Resources) -> None:
        """Show a page that is laid out."""
        if page is not self.page:
            self.page, self._painter = page, PagePainter(page, resources)
            self.updateGeometry()
        self.update()

    def show_file(self, path: Path, width: float) -> None:
        """Show a page on disk in a window of that width, px. Raises PageNotReadable."""
        self.show_page(Trial.of_file(path).page(Viewport(width, DEFAULT_HEIGHT)), Resources(path))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The page on its desk; its blocks are outlined, since not all of them have colours."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("desk"))
        if self.page is None or self._painter is None:
            return
        width, height = self.page.viewport.width, self.page.height / 64
        scale = self._scale(self.width())
        painter.translate(max(float(_DESK), (self.width() - width * scale) / 2), _DESK)
        painter.scale(scale, scale)
        room = QRectF(0, 0, width, height)
        painter.setClipRect(QRectF(0, 0, width, min(height, (self.height() - 2 * _DESK) / scale)))
        self._painter.paint(painter, room, scale)
        painter.setPen(page_colour("second_ink"))
        for element, box in self.page.by_element.items():
            if element.tag not in ("html", "body", "main") and box.box is not None:
                r = box.border_box
                painter.drawRect(QRectF(r.x / 64, r.y / 64, r.width / 64, r.height / 64))
