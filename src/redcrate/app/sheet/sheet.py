"""The sheet: the page at one width, to scale, with rulers; the selected box in its part codes."""

from PyQt6.QtCore import QEvent, QPoint, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import (
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPixmap,
    QResizeEvent,
    QWheelEvent,
)
from PyQt6.QtWidgets import QAbstractScrollArea, QWidget

from redcrate.app.painting.page_painter import PagePainter, to_rect
from redcrate.app.painting.tint import Tint, paint_tint
from redcrate.app.sheet import edge_drag
from redcrate.app.sheet.edge_drag import EDGES, BoxEdge, DragState
from redcrate.app.sheet.marks import SheetMarks
from redcrate.app.sheet.rulers import RULER, RulerView, paint_rulers
from redcrate.app.theme.look import colour
from redcrate.core.errors import RedCrateError
from redcrate.core.geometry import Rect
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.session import Change, Session
from redcrate.core.units import format_px

_DESK = 28  # px of desk beside the sheet
_REACH = 5  # screen px within which an edge is taken hold of
_SNAP = 5  # screen px within which it catches on other blocks' edges


class Sheet(QAbstractScrollArea):
    """The page as it will look; a click selects, a second one the parent, with Alt the deepest."""

    zoom_changed = pyqtSignal(float)
    said = pyqtSignal(str, bool)
    picked = pyqtSignal()  # a block was clicked

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self._painter = PagePainter(session.views.page, session.document.resources)
        self._stale = False  # the painter is of an earlier page
        self._hovered: Element | None = None
        self._scale = 1.0
        self._fitted = True
        self._cursor: QPointF | None = None
        self._pan_from: QPoint | None = None
        self._picture: tuple[tuple[object, ...], QPixmap] | None = None
        self.shows_chains = True
        self.tint = Tint.OFF
        self._lit: tuple[Element, ...] = ()
        self._drag: DragState | None = None
        self._drag_from: QPointF | None = None
        self._near: BoxEdge | None = None  # the edge under the pointer
        self.focused_edge: BoxEdge | None = None  # the edge that arrow keys nudge
        self._width_drag = False
        self._space = False
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
            self._new_painter()
            self._hovered = None
            self._fit()
        elif change is Change.PREVIEW:
            self._new_painter()
        elif change is Change.SELECTION:
            self._drag = self._near = self.focused_edge = None
        self._update()

    @property
    def shown_page(self) -> Page:
        """The page that is shown: the session's, or a preview of what it would become."""
        return self._session.views.shown_page

    def forget_pictures(self) -> None:
        """Read the page's pictures again when they are next painted."""
        self._painter.pictures.forget()

    def set_tint(self, tint: Tint) -> None:
        """Choose the tint that is painted over the page."""
        self.tint = tint
        self._picture = None
        self._update()

    def _new_painter(self) -> None:
        """Another page is shown; its painter is made when it is seen."""
        self._stale = True
        self._picture = None

    @property
    def _page_painter(self) -> PagePainter:
        if self._stale:
            pictures = self._painter.pictures
            self._painter = PagePainter(self.shown_page, self._session.document.resources, pictures)
            self._stale = False
        return self._painter

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
            room = viewport.width() - RULER - 2 * _DESK
            self._scale = min(1.0, max(0.1, room / self._session.views.viewport.width))
        self._picture = None
        self._bars()
        self.zoom_changed.emit(self._scale)
        self._update()

    def _page_size(self) -> tuple[float, float]:
        return self._session.views.viewport.width, self.shown_page.height / 64

    def _bars(self) -> None:
        """Scroll bars for the page with its desk."""
        viewport = self.viewport()
        assert viewport is not None
        width, height = (n * self._scale for n in self._page_size())
        across_bar, down_bar = self.horizontalScrollBar(), self.verticalScrollBar()
        assert across_bar is not None and down_bar is not None
        across_bar.setRange(0, max(0, round(width + 2 * _DESK + RULER - viewport.width())))
        across_bar.setPageStep(viewport.width())
        down_bar.setRange(0, max(0, round(height + 160 + RULER - viewport.height())))
        down_bar.setPageStep(viewport.height())
        down_bar.setSingleStep(40)

    def origin(self) -> QPointF:
        """Where the page's top left stands in the viewport."""
        across_bar, down_bar = self.horizontalScrollBar(), self.verticalScrollBar()
        assert across_bar is not None and down_bar is not None
        viewport = self.viewport()
        assert viewport is not None
        room = viewport.width() - RULER - self._session.views.viewport.width * self._scale
        left = max(float(_DESK), room / 2) if across_bar.maximum() == 0 else float(_DESK)
        return QPointF(RULER + left - across_bar.value(), RULER - down_bar.value())

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
        self._paint_marks(painter, self._marks(painter))
        self._paint_rulers(painter)

    def _paint_page(self, painter: QPainter) -> None:
        """The page itself, kept as a picture until it changes."""
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
            self._page_painter.paint(inner, exposed, self._scale)
            paint_tint(inner, self.shown_page, self.tint, exposed, self._scale)
            inner.end()
            self._picture = (key, picture)
        painter.drawPixmap(0, 0, self._picture[1])

    def _marks(self, painter: QPainter) -> SheetMarks:
        viewport = self.viewport()
        assert viewport is not None
        ratio = viewport.devicePixelRatioF()
        return SheetMarks(
            painter, self.shown_page, self.to_screen, self._scale, viewport.size(), RULER, ratio
        )

    def _twin(self, element: Element) -> Element:
        """The element on the page that is shown, which may be of another parse."""
        elements = self.shown_page.elements
        return elements[element.index] if 0 <= element.index < len(elements) else element

    def _paint_marks(self, painter: QPainter, marks: SheetMarks) -> None:
        """Everything over the page."""
        selected = self._session.views.selected
        marks.lit([self._twin(e) for e in self._lit])
        for element in self._session.views.selection[:-1]:
            marks.outline(self._twin(element), Qt.PenStyle.SolidLine)
        if self._hovered is not None and self._hovered is not selected and self._drag is None:
            marks.hover(self._twin(self._hovered))
        if selected is not None:
            twin = self._twin(selected)
            marks.selected(twin, chains=self.shows_chains and self._drag is None)
            self._paint_edges(marks, twin)
        if self._drag is not None and self._cursor is not None:
            snapped = self._drag.snapped
            if snapped is not None:
                xs, ys = ((snapped,), ()) if self._drag.edge.is_across else ((), (snapped,))
                marks.guides(xs, ys)
            marks.tag(self._cursor + QPointF(12, -6), self._drag.label, wrong=bool(self._drag.problem))
        if self._width_drag and self._cursor is not None:
            marks.tag(
                self._cursor + QPointF(12, -6),
                f"window {format_px(round(self._session.views.viewport.width * 64))}",
            )

    def _paint_edges(self, marks: SheetMarks, element: Element) -> None:
        """The edge that would be taken hold of, or that arrow keys nudge."""
        box = marks.page.box_of(element)
        edge = self._drag.edge if self._drag is not None else self.focused_edge or self._near
        if box is not None and box.box is not None and edge is not None:
            marks.edge(edge_drag.part_rect(box, edge.part), edge.side)

    def _paint_rulers(self, painter: QPainter) -> None:
        viewport = self.viewport()
        assert viewport is not None
        view = RulerView(
            viewport.width(), viewport.height(), self.origin(), self._scale, self._page_size()
        )
        paint_rulers(painter, view, self._cursor)

    # -- pointer and keys

    def element_at(self, position: QPointF) -> Element | None:
        """The innermost element under a place of the viewport."""
        return self._session.views.page.at_point(*self._page_point(position))

    def _page_point(self, position: QPointF) -> tuple[int, int]:
        """The place on the page, 1/64 px, that a place of the viewport shows."""
        origin = self.origin()
        return (
            int((position.x() - origin.x()) / self._scale * 64),
            int((position.y() - origin.y()) / self._scale * 64),
        )

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Hover, drag an edge or the window's width, or pan."""
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
        elif self._width_drag:
            self._session.views.set_width(
                round((event.position().x() - self.origin().x()) / self._scale)
            )
        elif self._drag is not None and self._drag_from is not None:
            self._drag_to(event)
        else:
            self._hovered = self.element_at(event.position())
            self._near = self._edge_under(event.position())
            self._show_cursor(event.position())
        self._update()

    def _edge_under(self, position: QPointF) -> BoxEdge | None:
        selected = self._session.views.selected
        box = self._session.views.page.box_of(selected) if selected is not None else None
        if box is None:
            return None
        return edge_drag.edge_at(
            box, *self._page_point(position), reach=round(_REACH / self._scale * 64)
        )

    def _on_right_edge(self, position: QPointF) -> bool:
        right = self.origin().x() + self._session.views.viewport.width * self._scale
        return abs(position.x() - right) <= _REACH and position.y() > RULER

    def _show_cursor(self, position: QPointF) -> None:
        viewport = self.viewport()
        assert viewport is not None
        shape = Qt.CursorShape.ArrowCursor
        if self._near is not None:
            shape = (
                Qt.CursorShape.SizeHorCursor if self._near.is_across else Qt.CursorShape.SizeVerCursor
            )
        elif self._on_right_edge(position):
            shape = Qt.CursorShape.SplitHCursor
        viewport.setCursor(shape)

    def _drag_to(self, event: QMouseEvent) -> None:
        assert self._drag is not None and self._drag_from is not None
        way = event.position() - self._drag_from
        along = way.x() if self._drag.edge.is_across else way.y()
        keys = event.modifiers()
        self._drag = edge_drag.dragged_by(
            self._session,
            self._drag,
            round(along / self._scale * 64),
            both=bool(keys & Qt.KeyboardModifier.ShiftModifier),
            all_four=bool(keys & Qt.KeyboardModifier.ControlModifier),
            snap=round(_SNAP / self._scale * 64),
        )
        self._session.views.preview(self, self._drag.preview)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Take hold of an edge, or select: again: the parent; with Alt: the deepest one."""
        assert event is not None
        pans = event.button() is Qt.MouseButton.MiddleButton
        if pans or (self._space and event.button() is Qt.MouseButton.LeftButton):
            self._pan_from = event.position().toPoint()
            return
        on_page = event.position().x() >= RULER and event.position().y() >= RULER
        if event.button() is not Qt.MouseButton.LeftButton or not on_page:
            return
        edge = self._edge_under(event.position())
        plain = not event.modifiers() & Qt.KeyboardModifier.AltModifier
        if edge is not None and plain:
            self._drag = edge_drag.begin(self._session, edge)
            self._drag_from = event.position()
            self._pressed_at = event.position()
            return
        if self._on_right_edge(event.position()):
            self._width_drag = True
            return
        self._select_at(
            event.position(),
            deepest=not plain,
            more=event.modifiers() & Qt.KeyboardModifier.ControlModifier,
        )

    def _select_at(self, position: QPointF, *, deepest: bool, more: object = False) -> None:
        found = self.element_at(position)
        selected = self._session.views.selected
        if more and found is not None:
            others = [e for e in self._session.views.selection if e is not found]
            self._session.views.select(*others, found)
            return
        if found is not None and selected is not None and not deepest:
            inside = found is selected or selected in found.ancestors()
            if inside and selected.parent is not None:
                found = selected.parent
        self._session.views.select(found)
        if found is not None:
            self.picked.emit()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """The end of panning or dragging; a drag is one step."""
        assert event is not None
        self._pan_from = None
        self._width_drag = False
        drag, start, self._drag, self._drag_from = self._drag, self._drag_from, None, None
        if drag is None or start is None:
            return
        self._session.views.preview(self, None)
        if (event.position() - start).manhattanLength() < 3:
            self._select_at(event.position(), deepest=False)  # it was a click after all
        elif drag.plan is None:
            self.said.emit(drag.problem, True)
        elif drag.plan.patch.edits:
            self._do(drag)

    def _do(self, drag: DragState, merges: str = "") -> None:
        assert drag.plan is not None
        try:
            self._session.editor.apply(drag.plan.patch, merges=merges)
        except RedCrateError as problem:
            self.said.emit(problem.sentence, True)
            return
        stopped = f"It stops there: {drag.problem}" if drag.problem else drag.plan.note
        self.said.emit(f"Wrote {'; '.join(drag.plan.lines)}. {stopped}".strip(), False)

    def give_up_drag(self) -> bool:
        """Let go of an edge without a change; whether one was held."""
        held = self._drag is not None
        self._drag = self._drag_from = None
        self._session.views.preview(self, None)
        return held

    # -- edges by keyboard

    def focus_next_edge(self, step: int = 1) -> None:
        """Give the focus to the next edge of the selected box, round all of them, then none."""
        selected = self._session.views.selected
        box = self._session.views.page.box_of(selected) if selected is not None else None
        if box is None or box.box is None:
            return
        order = (None, *EDGES)
        self.focused_edge = order[(order.index(self.focused_edge) + step) % len(order)]
        if self.focused_edge is not None:
            self.said.emit(
                f"Edge: {self.focused_edge.label}. Arrows move it, Shift 10 px, Esc lets go.", False
            )
        self._update()

    def nudge_edge(self, step: float) -> None:
        """Move the focused edge outwards by `step` px; a row of nudges is one step."""
        edge = self.focused_edge
        state = edge_drag.begin(self._session, edge) if edge is not None else None
        if state is None or edge is None:
            return
        way = round(step * 64) * (-1 if edge.side in ("left", "top") else 1)
        state = edge_drag.dragged_by(self._session, state, way)
        if state.plan is None:
            self.said.emit(state.problem, True)
            return
        self._do(state, merges=f"nudge {edge.label}")
        self.focused_edge = edge
        self._update()

    def leaveEvent(self, event: QEvent | None) -> None:
        """Nothing is hovered outside."""
        self._hovered = self._cursor = self._near = None
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
        if event.key() == Qt.Key.Key_Space:
            self._space = True
            return
        if event.key() == Qt.Key.Key_B and not event.modifiers():
            if not event.isAutoRepeat():
                self.held.emit(True)
            return
        if self._edge_key(event):
            return
        target = self._step(event.key())
        if target is not None:
            self._session.views.select(target)
            return
        super().keyPressEvent(event)

    held = pyqtSignal(bool)  # the key that shows the page as it was saved

    def keyReleaseEvent(self, event: QKeyEvent | None) -> None:
        """Space pans, and B shows the page as it was saved, only while it is held."""
        if event is not None and event.key() == Qt.Key.Key_B and not event.isAutoRepeat():
            self.held.emit(False)
        if event is not None and event.key() == Qt.Key.Key_Space and not event.isAutoRepeat():
            self._space = False
        super().keyReleaseEvent(event)

    def _edge_key(self, event: QKeyEvent) -> bool:
        """Keys that are about edges; whether this was one."""
        shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        if event.key() == Qt.Key.Key_E:
            self.focus_next_edge(-1 if shift else 1)
            return True
        if event.key() == Qt.Key.Key_Escape:
            if not self.give_up_drag():
                self.focused_edge = None
                self._update()
            return True
        if self.focused_edge is None:
            return False
        outwards = {
            "left": Qt.Key.Key_Left, "right": Qt.Key.Key_Right, "top": Qt.Key.Key_Up, "bottom": Qt.Key.Key_Down,
        }[self.focused_edge.side]  # fmt: skip
        arrows = (
            (Qt.Key.Key_Left, Qt.Key.Key_Right)
            if self.focused_edge.is_across
            else (Qt.Key.Key_Up, Qt.Key.Key_Down)
        )
        if event.key() not in arrows:
            return False
        step = 0.1 if event.modifiers() & Qt.KeyboardModifier.AltModifier else 10.0 if shift else 1.0
        self.nudge_edge(step if event.key() == outwards else -step)
        return True

    def _step(self, key: int) -> Element | None:
        selected = self._session.views.selected
        if selected is None:
            return self._session.views.page.elements[0] if key == Qt.Key.Key_Down else None
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
        box = self._session.views.page.box_of(element)
        viewport, bar = self.viewport(), self.verticalScrollBar()
        if box is None or viewport is None or bar is None:
            return
        where = self.to_screen(box.border_box)
        if where.top() < RULER or where.top() > viewport.height() - 60:
            bar.setValue(round(bar.value() + where.top() - viewport.height() / 4))
