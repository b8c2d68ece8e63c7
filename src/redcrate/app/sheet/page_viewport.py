"""The page at one width, to scale, with rulers: zoom, pan and places; it shows a view, whoever edits."""

from PyQt6.QtCore import QPoint, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPixmap, QResizeEvent, QWheelEvent
from PyQt6.QtWidgets import QAbstractScrollArea, QWidget

from redcrate.app.painting.colours import to_rect
from redcrate.app.painting.page_painter import PagePainter
from redcrate.app.painting.tint import Tint, paint_tint
from redcrate.app.sheet.rulers import RULER, RulerView
from redcrate.app.sheet.rulers import paint_rulers as draw_rulers
from redcrate.app.theme.look import colour
from redcrate.core.files.resources import Resources
from redcrate.core.geometry import Rect
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.session.page_view import PageView
from redcrate.core.units import LayoutUnit

_FURTHEST = 2.0**30  # px that are scrolled
_DESK = 28  # px of desk beside the sheet


class PageViewport(QAbstractScrollArea):
    """A page on its desk.

    cursor_at: where the pointer is, in the viewport; the rulers show it.
    """

    zoom_changed = pyqtSignal(float)

    def __init__(self, view: PageView, resources: Resources, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._view = view
        self._resources = resources
        self._painter = PagePainter(view.page, resources)
        self._stale = False  # the painter is of an earlier page
        self._scale = 1.0
        self._fitted = True
        self.cursor_at: QPointF | None = None
        self._pan_from: QPoint | None = None
        self._picture = QPixmap()
        self._painted: tuple[object, ...] | None = None  # what the picture shows; None: paint it anew
        self.tint = Tint.OFF
        viewport = self.viewport()
        assert viewport is not None
        viewport.setMouseTracking(True)
        viewport.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)

    # -- what is shown

    @property
    def shown_page(self) -> Page:
        """The page that is shown: the document's, or a preview of what it would become."""
        return self._view.shown_page

    def forget_pictures(self) -> None:
        """Read the page's pictures again when they are next painted."""
        self._painter.pictures.forget()

    def set_tint(self, tint: Tint) -> None:
        """Choose the tint that is painted over the page."""
        self.tint = tint
        self._painted = None
        self.renew_picture()

    def show_anew(self) -> None:
        """The page is another one, perhaps of another size."""
        self.show_other()
        self._fit()

    def show_other(self) -> None:
        """Another page is shown; its painter is made when it is seen."""
        self._stale = True
        self._painted = None

    @property
    def _page_painter(self) -> PagePainter:
        if self._stale:
            pictures = self._painter.pictures
            self._painter = PagePainter(self.shown_page, self._resources, pictures)
            self._stale = False
        return self._painter

    def renew_picture(self) -> None:
        """Paint anew what is seen."""
        viewport = self.viewport()
        if viewport is not None:
            viewport.update()

    def sizeHint(self) -> QSize:
        """Room for a page at two thirds."""
        return QSize(740, 500)

    @property
    def scale(self) -> float:
        """Screen px for one px of the page."""
        return self._scale

    def set_zoom(self, scale: float | None) -> None:
        """A fixed scale, or None to fit the page's width."""
        self._fitted = scale is None
        if scale is not None:
            self._scale = min(8.0, max(0.1, scale))
        self._fit()

    def _fit(self) -> None:
        viewport = self.viewport()
        assert viewport is not None
        if self._fitted:
            room = viewport.width() - RULER - 2 * _DESK
            self._scale = min(1.0, max(0.1, room / self._view.viewport.width))
        self._painted = None
        self._bars()
        self.zoom_changed.emit(self._scale)
        self.renew_picture()

    def _page_size(self) -> tuple[float, float]:
        """With what lies left of the window on a page that is read from right to left."""
        return self._view.viewport.width - self._left, self.shown_page.height / 64

    @property
    def _left(self) -> float:
        """Where the page begins, px: 0, or left of it."""
        return self.shown_page.left / 64

    def _bars(self) -> None:
        """Scroll bars for the page with its desk."""
        viewport = self.viewport()
        assert viewport is not None
        width, height = (n * self._scale for n in self._page_size())
        across_bar, down_bar = self.horizontalScrollBar(), self.verticalScrollBar()
        assert across_bar is not None and down_bar is not None
        was_whole = across_bar.maximum() == 0
        across_bar.setRange(0, _reach(width + 2 * _DESK + RULER - viewport.width()))
        if was_whole and self._left:
            across_bar.setValue(across_bar.maximum())  # such a page begins at its right edge
        across_bar.setPageStep(viewport.width())
        down_bar.setRange(0, _reach(height + 160 + RULER - viewport.height()))
        down_bar.setPageStep(viewport.height())
        down_bar.setSingleStep(40)

    def origin(self) -> QPointF:
        """Where the page's top left stands in the viewport."""
        across_bar, down_bar = self.horizontalScrollBar(), self.verticalScrollBar()
        assert across_bar is not None and down_bar is not None
        viewport = self.viewport()
        assert viewport is not None
        room = viewport.width() - RULER - self._page_size()[0] * self._scale
        left = max(float(_DESK), room / 2) if across_bar.maximum() == 0 else float(_DESK)
        begins = RULER + left - self._left * self._scale
        return QPointF(begins - across_bar.value(), RULER - down_bar.value())

    def to_screen(self, rect: Rect) -> QRectF:
        """A rectangle of the page (1/64 px) in the viewport."""
        origin = self.origin()
        page = to_rect(rect)
        return QRectF(
            origin.x() + page.x() * self._scale,
            origin.y() + page.y() * self._scale,
            page.width() * self._scale,
            page.height() * self._scale,
        )

    def page_point(self, position: QPointF) -> tuple[LayoutUnit, LayoutUnit]:
        """The place on the page, 1/64 px, that a place of the viewport shows."""
        origin = self.origin()
        return (
            LayoutUnit((position.x() - origin.x()) / self._scale * 64),
            LayoutUnit((position.y() - origin.y()) / self._scale * 64),
        )

    def exposed(self) -> QRectF:
        """The part of the page that is in view, page px."""
        origin, viewport = self.origin(), self.viewport()
        assert viewport is not None
        k = self._scale
        return QRectF(-origin.x() / k, -origin.y() / k, viewport.width() / k, viewport.height() / k)

    def paint_page(self, painter: QPainter) -> None:
        """The desk with the page, kept as a picture until that changes."""
        viewport = self.viewport()
        assert viewport is not None
        ratio = viewport.devicePixelRatioF()
        origin = self.origin()
        key = (
            id(self.shown_page),
            self.tint,
            self._scale,
            ratio,
            origin.x(),
            origin.y(),
            viewport.size(),
        )
        if self._painted != key:
            picture = self._picture
            if picture.size() != viewport.size() * ratio:
                picture = self._picture = QPixmap(viewport.size() * ratio)
            picture.setDevicePixelRatio(ratio)
            picture.fill(colour("desk"))
            inner = QPainter(picture)
            width, height = self._page_size()
            inner.translate(origin)
            inner.scale(self._scale, self._scale)
            inner.setClipRect(QRectF(self._left, 0, width, height))
            exposed = self.exposed()
            self._page_painter.paint(inner, exposed, self._scale)
            paint_tint(inner, self.shown_page, self.tint, exposed, self._scale)
            inner.end()
            self._painted = key
        painter.drawPixmap(0, 0, self._picture)

    def paint_rulers(self, painter: QPainter) -> None:
        """The rulers along the top and the left."""
        viewport = self.viewport()
        assert viewport is not None
        view = RulerView(
            viewport.width(), viewport.height(), self.origin(), self._scale, self._page_size()
        )
        draw_rulers(painter, view, self.cursor_at)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """Ctrl and wheel zooms; the wheel alone scrolls."""
        assert event is not None
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.set_zoom(self._scale * (1.15 if event.angleDelta().y() > 0 else 1 / 1.15))
            event.accept()
            return
        super().wheelEvent(event)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Keep the page fitted."""
        self._fit()

    def scrollContentsBy(self, dx: int, dy: int) -> None:
        """Paint anew instead of moving pixels: the rulers stand still."""
        self.renew_picture()

    def show_element(self, element: Element) -> None:
        """Scroll so that the element's box can be seen."""
        box = self._view.page.box_of(element)
        viewport, bar = self.viewport(), self.verticalScrollBar()
        if box is None or viewport is None or bar is None:
            return
        where = self.to_screen(box.border_box)
        if where.top() < RULER or where.top() > viewport.height() - 60:
            bar.setValue(round(bar.value() + where.top() - viewport.height() / 4))

    # -- panning

    def begin_pan(self, event: QMouseEvent) -> None:
        """The page is taken hold of."""
        self._pan_from = event.position().toPoint()

    def pan(self, event: QMouseEvent) -> bool:
        """Move the page with the pointer; whether it is held."""
        if self._pan_from is None:
            return False
        now = event.position().toPoint()
        moved = now - self._pan_from
        self._pan_from = now
        for bar, amount in (
            (self.horizontalScrollBar(), moved.x()),
            (self.verticalScrollBar(), moved.y()),
        ):
            if bar is not None:
                bar.setValue(bar.value() - amount)
        return True

    def end_pan(self) -> None:
        """The page is let go."""
        self._pan_from = None


def _reach(beyond: float) -> int:
    """How far a bar scrolls, px; Qt counts in 32 bits."""
    return round(min(max(0.0, beyond), _FURTHEST))
