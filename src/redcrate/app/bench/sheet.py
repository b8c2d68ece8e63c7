"""The sheet: the page at one width, to scale, with rulers; the selected box in its part codes."""

from PyQt6.QtCore import QEvent, QPoint, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QFontMetricsF,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QPixmap,
    QResizeEvent,
    QWheelEvent,
)
from PyQt6.QtWidgets import QAbstractScrollArea, QWidget

from redcrate.app.painting.drawing_end import DrawingEnd
from redcrate.app.painting.page_painter import PagePainter, to_rect
from redcrate.app.theme.look import colour, lettering, part_brush
from redcrate.core.diagram.chain import chain_across, chain_down
from redcrate.core.diagram.codes import Fill
from redcrate.core.diagram.drawing import Drawing, paint
from redcrate.core.explain import across, down
from redcrate.core.geometry import Edges, Rect
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox
from redcrate.core.session import Change, Session
from redcrate.core.units import format_px

_RULER = 22
_DESK = 28  # px of desk beside the sheet
ZOOM_STEPS = (0.1, 0.25, 0.33, 0.5, 0.67, 0.75, 1.0, 1.25, 1.5, 2.0, 3.0, 4.0, 8.0)


class Sheet(QAbstractScrollArea):
    """The page as it will look; a click selects, a second one the parent, with Alt the deepest."""

    zoom_changed = pyqtSignal(float)

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self._painter = PagePainter(session.page, session.resources)
        self._hovered: Element | None = None
        self._scale = 1.0
        self._fitted = True
        self._cursor: QPointF | None = None
        self._pan_from: QPoint | None = None
        self._picture: tuple[tuple[object, ...], QPixmap] | None = None
        self.shows_chains = True
        self._lit: tuple[Element, ...] = ()
        self.setAccessibleName("Sheet")
        self.setAccessibleDescription("The page to scale. Click a block to select it.")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        viewport = self.viewport()
        assert viewport is not None
        viewport.setMouseTracking(True)
        viewport.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        session.listen(self._changed)

    # -- what is shown

    def _changed(self, change: Change) -> None:
        if change is Change.PAGE:
            self._painter = PagePainter(self._session.page, self._session.resources)
            self._picture = None
            self._hovered = None
            self._fit()
        self._update()

    def _update(self) -> None:
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
            room = viewport.width() - _RULER - 2 * _DESK
            self._scale = min(1.0, max(0.1, room / self._session.viewport.width))
        self._picture = None
        self._bars()
        self.zoom_changed.emit(self._scale)
        self._update()

    def _page_size(self) -> tuple[float, float]:
        return self._session.viewport.width, self._session.page.height / 64

    def _bars(self) -> None:
        """Scroll bars for the page with its desk."""
        viewport = self.viewport()
        assert viewport is not None
        width, height = (n * self._scale for n in self._page_size())
        across_bar, down_bar = self.horizontalScrollBar(), self.verticalScrollBar()
        assert across_bar is not None and down_bar is not None
        across_bar.setRange(0, max(0, round(width + 2 * _DESK + _RULER - viewport.width())))
        across_bar.setPageStep(viewport.width())
        down_bar.setRange(0, max(0, round(height + 160 + _RULER - viewport.height())))
        down_bar.setPageStep(viewport.height())
        down_bar.setSingleStep(40)

    def origin(self) -> QPointF:
        """Where the page's top left stands in the viewport."""
        across_bar, down_bar = self.horizontalScrollBar(), self.verticalScrollBar()
        assert across_bar is not None and down_bar is not None
        viewport = self.viewport()
        assert viewport is not None
        room = viewport.width() - _RULER - self._session.viewport.width * self._scale
        left = max(float(_DESK), room / 2) if across_bar.maximum() == 0 else float(_DESK)
        return QPointF(_RULER + left - across_bar.value(), _RULER - down_bar.value())

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

    def light_up(self, elements: tuple[Element, ...]) -> None:
        """Show which elements an edit would touch; none: no longer."""
        self._lit = elements
        self._update()

    # -- painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Desk, page, hovered and selected box, rulers."""
        viewport = self.viewport()
        assert viewport is not None
        painter = QPainter(viewport)
        painter.fillRect(viewport.rect(), colour("desk"))
        self._paint_page(painter)
        selected = self._session.selected
        self._paint_lit(painter)
        for element in self._session.selection[:-1]:
            self._paint_outline(painter, element, Qt.PenStyle.SolidLine)
        if self._hovered is not None and self._hovered is not selected:
            self._paint_hover(painter, self._hovered)
        if selected is not None:
            self._paint_selected(painter, selected)
        self._paint_rulers(painter)

    def _paint_page(self, painter: QPainter) -> None:
        """The page itself, kept as a picture until it changes."""
        viewport = self.viewport()
        assert viewport is not None
        ratio = viewport.devicePixelRatioF()
        origin = self.origin()
        key = (id(self._session.page), self._scale, ratio, origin.x(), origin.y(), viewport.size())
        if self._picture is None or self._picture[0] != key:
            picture = QPixmap(viewport.size() * ratio)
            picture.setDevicePixelRatio(ratio)
            picture.fill(colour("desk"))
            inner = QPainter(picture)
            width, height = self._page_size()
            inner.translate(origin)
            inner.scale(self._scale, self._scale)
            inner.setClipRect(QRectF(0, 0, width, height))
            exposed = QRectF(
                -origin.x() / self._scale,
                -origin.y() / self._scale,
                viewport.width() / self._scale,
                viewport.height() / self._scale,
            )
            self._painter.paint(inner, exposed, self._scale)
            inner.end()
            self._picture = (key, picture)
        painter.drawPixmap(0, 0, self._picture[1])

    def _paint_hover(self, painter: QPainter, element: Element) -> None:
        """The hovered box: its outline and outer size."""
        box = self._session.page.box_of(element)
        if box is None:
            return
        self._paint_outline(painter, element, Qt.PenStyle.DotLine)
        outer = box.margin_box
        text = f"{element.label}  {format_px(outer.width)} × {format_px(outer.height)}"
        where = self.to_screen(box.border_box)
        self._tag(painter, QPointF(where.left(), where.top() - 6), text)

    def _paint_outline(self, painter: QPainter, element: Element, line: Qt.PenStyle) -> None:
        box = self._session.page.box_of(element)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(colour("ink"), 1.4, line))
        for rect in box.fragments if box is not None else ():
            painter.drawRect(self.to_screen(rect))

    def _paint_lit(self, painter: QPainter) -> None:
        """The elements that an edit would touch, in a wash."""
        wash = colour("accent")
        wash.setAlpha(90)
        for element in self._lit:
            box = self._session.page.box_of(element)
            for rect in box.fragments if box is not None else ():
                painter.fillRect(self.to_screen(rect), wash)
                painter.setPen(QPen(colour("accent"), 2))
                painter.drawRect(self.to_screen(rect))

    def _tag(self, painter: QPainter, at: QPointF, text: str) -> None:
        """A small dark label, kept inside the viewport."""
        viewport = self.viewport()
        assert viewport is not None
        font = lettering(11)
        metrics = QFontMetricsF(font)
        width, height = metrics.horizontalAdvance(text) + 12, metrics.height() + 4
        x = min(max(at.x(), _RULER + 2.0), viewport.width() - width - 2)
        y = min(max(at.y() - height, _RULER + 2.0), viewport.height() - height - 2)
        painter.fillRect(QRectF(x, y, width, height), colour("ink"))
        painter.setFont(font)
        painter.setPen(colour("paper"))
        painter.drawText(QPointF(x + 6, y + 2 + metrics.ascent()), text)

    def _paint_selected(self, painter: QPainter, element: Element) -> None:
        """The parts in their codes, the container's outline, and the chains."""
        box = self._session.page.box_of(element)
        if box is None:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if box.container is not None:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(colour("second_ink"), 1, Qt.PenStyle.DashLine))
            painter.drawRect(self.to_screen(box.container.content_rect))
        if box.box is None:
            self._paint_inline_parts(painter, box)
        else:
            self._paint_parts(painter, box.border_box, box.margin, box.border, box.padding)
        if self.shows_chains:
            self._paint_chains(painter, box)

    def _paint_inline_parts(self, painter: QPainter, box: ElementBox) -> None:
        """Each line's part of an inline element; vertical margins do nothing and are not drawn."""
        for piece, rect in zip(box.pieces, box.fragments, strict=False):
            left, right = piece.has_left, piece.has_right
            margin = Edges(0, piece.margin.right * right, 0, piece.margin.left * left)
            border = Edges(
                piece.border.top,
                piece.border.right * right,
                piece.border.bottom,
                piece.border.left * left,
            )
            padding = Edges(
                piece.padding.top,
                piece.padding.right * right,
                piece.padding.bottom,
                piece.padding.left * left,
            )
            self._paint_parts(painter, rect, margin, border, padding)

    def _paint_parts(
        self, painter: QPainter, border_box: Rect, margin: Edges, border: Edges, padding: Edges
    ) -> None:
        """Margin, border and padding as frames in their patterns."""
        shown_margin = Edges(*(max(0, margin.side(s)) for s in ("top", "right", "bottom", "left")))
        outer = self.to_screen(border_box.outset(shown_margin))
        middle = self.to_screen(border_box)
        inner = self.to_screen(border_box.inset(border))
        content = self.to_screen(border_box.inset(border).inset(padding))
        viewport = self.viewport()
        assert viewport is not None
        ratio = viewport.devicePixelRatioF()
        painter.setPen(Qt.PenStyle.NoPen)
        for fill, big, small in (
            (Fill.MARGIN, outer, middle),
            (Fill.BORDER, middle, inner),
            (Fill.PADDING, inner, content),
        ):
            frame = QPainterPath()
            frame.addRect(big)
            hole = QPainterPath()
            hole.addRect(small)
            painter.fillPath(frame.subtracted(hole), part_brush(fill, ratio))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(colour("margin_ink"), 1, Qt.PenStyle.DashLine))
        painter.drawRect(outer)
        painter.setPen(QPen(colour("border_ink"), 1.2))
        painter.drawRect(middle)
        painter.setPen(QPen(colour("ink"), 0.8))
        painter.drawRect(content)

    def _paint_chains(self, painter: QPainter, box: ElementBox) -> None:
        """The dimensions below and to the right of the selected box."""
        page = self._session.page
        wide, high = across(page, box.element), down(page, box.element)
        if wide is None or high is None or not wide.terms:
            return
        first = self.to_screen(box.fragments[0])
        margin = box.margin
        left = first.left() - (margin.left / 64 * self._scale if box.box else 0)
        bottom = first.bottom() + (max(0, margin.bottom) / 64 * self._scale if box.box else 0)
        right = first.right() + (max(0, margin.right) / 64 * self._scale if box.box else 0)
        top = first.top() - (margin.top / 64 * self._scale if box.box else 0)
        shapes = [
            *chain_across(wide, left, bottom, self._scale),
            *chain_down(high, top, right, self._scale),
        ]
        paint(Drawing(0, 0, tuple(shapes), "chain"), DrawingEnd(painter))

    def _paint_rulers(self, painter: QPainter) -> None:
        """Rulers in page px along the top and the left, with marks at the pointer."""
        viewport = self.viewport()
        assert viewport is not None
        width, height = viewport.width(), viewport.height()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
        painter.fillRect(QRectF(0, 0, width, _RULER), colour("paper"))
        painter.fillRect(QRectF(0, 0, _RULER, height), colour("paper"))
        painter.setFont(lettering(10))
        origin = self.origin()
        page_width, page_height = self._page_size()
        step = next(s for s in (10, 20, 50, 100, 200, 500, 1000, 2000, 5000) if s * self._scale >= 52)
        painter.setPen(colour("second_ink"))
        for value in range(0, int(page_width) + 1, step):
            x = round(origin.x() + value * self._scale)
            if x >= _RULER:
                painter.drawLine(x, _RULER - 5, x, _RULER)
                painter.drawText(x + 3, _RULER - 7, str(value))
        for value in range(0, int(page_height) + 1, step):
            y = round(origin.y() + value * self._scale)
            if y >= _RULER:
                painter.drawLine(_RULER - 5, y, _RULER, y)
                painter.save()
                painter.translate(_RULER - 8, y + 3)
                painter.rotate(90)
                painter.drawText(0, 0, str(value))
                painter.restore()
        painter.fillRect(QRectF(0, 0, _RULER, _RULER), colour("paper"))
        painter.setPen(colour("hairline"))
        painter.drawLine(0, _RULER, width, _RULER)
        painter.drawLine(_RULER, 0, _RULER, height)
        if self._cursor is not None:
            painter.setPen(colour("ink"))
            painter.drawLine(round(self._cursor.x()), 0, round(self._cursor.x()), _RULER)
            painter.drawLine(0, round(self._cursor.y()), _RULER, round(self._cursor.y()))

    # -- pointer and keys

    def element_at(self, position: QPointF) -> Element | None:
        """The innermost element under a place of the viewport."""
        origin = self.origin()
        x = int((position.x() - origin.x()) / self._scale * 64)
        y = int((position.y() - origin.y()) / self._scale * 64)
        return self._session.page.at_point(x, y)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Hover, or pan with the middle button."""
        assert event is not None
        self._cursor = event.position()
        if self._pan_from is not None:
            now = event.position().toPoint()
            moved = now - self._pan_from
            self._pan_from = now
            for bar, amount in (
                (self.horizontalScrollBar(), moved.x()),
                (self.verticalScrollBar(), moved.y()),
            ):
                if bar is not None:
                    bar.setValue(bar.value() - amount)
        else:
            self._hovered = self.element_at(event.position())
        self._update()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Select the block under the pointer; again: its parent; with Alt: the deepest one."""
        assert event is not None
        if event.button() is Qt.MouseButton.MiddleButton:
            self._pan_from = event.position().toPoint()
            return
        if event.button() is not Qt.MouseButton.LeftButton:
            return
        found = self.element_at(event.position())
        selected = self._session.selected
        deepest = bool(event.modifiers() & Qt.KeyboardModifier.AltModifier)
        if found is not None and selected is not None and not deepest:
            inside = found is selected or selected in found.ancestors()
            if inside and selected.parent is not None:
                found = selected.parent
        self._session.select(found)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """The end of panning."""
        self._pan_from = None

    def leaveEvent(self, event: QEvent | None) -> None:
        """Nothing is hovered outside."""
        self._hovered = self._cursor = None
        self._update()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """Ctrl and wheel zooms; the wheel alone scrolls."""
        assert event is not None
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.set_zoom(self._scale * (1.15 if event.angleDelta().y() > 0 else 1 / 1.15))
            event.accept()
            return
        super().wheelEvent(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Arrows walk the tree: up to the parent, down to the first child, sideways to siblings."""
        assert event is not None
        target = self._step(event.key())
        if target is not None:
            self._session.select(target)
            return
        super().keyPressEvent(event)

    def _step(self, key: int) -> Element | None:
        selected = self._session.selected
        if selected is None:
            return self._session.page.elements[0] if key == Qt.Key.Key_Down else None
        if key == Qt.Key.Key_Up:
            return selected.parent
        if key == Qt.Key.Key_Down:
            shown = [e for e in selected.child_elements if e.index >= 0]
            return shown[0] if shown else None
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right) and selected.parent is not None:
            siblings = [e for e in selected.parent.child_elements if e.index >= 0]
            if selected not in siblings:
                return None
            at = siblings.index(selected) + (1 if key == Qt.Key.Key_Right else -1)
            return siblings[at] if 0 <= at < len(siblings) else None
        return None

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Keep the page fitted."""
        self._fit()

    def scrollContentsBy(self, dx: int, dy: int) -> None:
        """Paint anew instead of moving pixels: the rulers stand still."""
        self._update()

    def show_element(self, element: Element) -> None:
        """Scroll so that the element's box can be seen."""
        box = self._session.page.box_of(element)
        viewport, bar = self.viewport(), self.verticalScrollBar()
        if box is None or viewport is None or bar is None:
            return
        where = self.to_screen(box.border_box)
        if where.top() < _RULER or where.top() > viewport.height() - 60:
            bar.setValue(round(bar.value() + where.top() - viewport.height() / 4))
