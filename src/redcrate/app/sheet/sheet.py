"""The sheet: the page in its viewport, the marks over it, and the tools that work on it."""

from PyQt6.QtCore import QEvent, QPointF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QWidget

from redcrate.app.sheet import edge_drag
from redcrate.app.sheet.marks import SheetMarks
from redcrate.app.sheet.page_viewport import PageViewport
from redcrate.app.sheet.rulers import RULER
from redcrate.app.sheet.tools import EdgeTool, SelectTool, WidthTool
from redcrate.app.theme.look import colour
from redcrate.core.markup.elements import Element
from redcrate.core.session import Change, Session
from redcrate.core.units import format_px, nearest_from_px


class Sheet(PageViewport):
    """The page as it will look; a click selects, a second one the parent, with Alt the deepest."""

    said = pyqtSignal(str, bool)
    picked = pyqtSignal()  # a block was clicked
    held = pyqtSignal(bool)  # the key that shows the page as it was saved

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(session.views, session.document.resources, parent)
        self.select_tool = SelectTool(self, session.views)
        self.width_tool = WidthTool(self, session.views)
        self.edge_tool = EdgeTool(self, session, self.said.emit)
        self._hovered: Element | None = None
        self.shows_chains = True
        self._lit: tuple[Element, ...] = ()
        self._space = False
        self.setAccessibleName("Sheet")
        self.setAccessibleDescription("The page to scale. Click a block to select it.")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        session.listen(self._changed)

    # -- what is shown

    def _changed(self, change: Change) -> None:
        if change is Change.PAGE:
            self.show_anew()
            self._hovered = None
        elif change is Change.PREVIEW:
            self.show_other()
        elif change is Change.SELECTION:
            self.edge_tool.forget()
        self.renew_picture()

    def light_up(self, elements: tuple[Element, ...]) -> None:
        """Show which elements an edit would touch; none: no longer."""
        self._lit = elements
        self.renew_picture()

    # -- painting

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Desk, page, hovered and selected box, rulers."""
        viewport = self.viewport()
        assert viewport is not None
        painter = QPainter(viewport)
        painter.fillRect(viewport.rect(), colour("desk"))
        self.paint_page(painter)
        self._paint_marks(self._marks(painter))
        self.paint_rulers(painter)

    def _marks(self, painter: QPainter) -> SheetMarks:
        viewport = self.viewport()
        assert viewport is not None
        ratio = viewport.devicePixelRatioF()
        return SheetMarks(
            painter, self.shown_page, self.to_screen, self.scale, viewport.size(), RULER, ratio
        )

    def _twin(self, element: Element) -> Element:
        """The element on the page that is shown, which may be of another parse."""
        elements = self.shown_page.elements
        return elements[element.index] if 0 <= element.index < len(elements) else element

    def _paint_marks(self, marks: SheetMarks) -> None:
        """Everything over the page."""
        selected, drag = self._views.selected, self.edge_tool.drag
        marks.lit([self._twin(e) for e in self._lit])
        for element in self._views.selection[:-1]:
            marks.outline(self._twin(element), Qt.PenStyle.SolidLine)
        if self._hovered is not None and self._hovered is not selected and drag is None:
            marks.hover(self._twin(self._hovered))
        if selected is not None:
            twin = self._twin(selected)
            marks.selected(twin, chains=self.shows_chains and drag is None)
            self._paint_edge(marks, twin)
        if self.cursor_at is not None:
            self._paint_tags(marks, self.cursor_at + QPointF(12, -6))

    def _paint_edge(self, marks: SheetMarks, element: Element) -> None:
        """The edge that would be taken hold of, or that arrow keys nudge."""
        box, edge = marks.page.box_of(element), self.edge_tool.shown
        if box is not None and box.box is not None and edge is not None:
            marks.edge(edge_drag.part_rect(box, edge.part), edge.side)

    def _paint_tags(self, marks: SheetMarks, beside: QPointF) -> None:
        """What is being dragged, in words beside the pointer; what it has caught on."""
        drag = self.edge_tool.drag
        if drag is not None:
            if drag.snapped is not None:
                xs, ys = ((drag.snapped,), ()) if drag.edge.is_across else ((), (drag.snapped,))
                marks.guides(xs, ys)
            marks.tag(beside, drag.label, wrong=bool(drag.problem))
        if self.width_tool.held:
            marks.tag(beside, f"window {format_px(nearest_from_px(self._views.viewport.width))}")

    # -- pointer

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Hover, drag an edge or the window's width, or pan."""
        assert event is not None
        position = event.position()
        self.cursor_at = position
        if not (self.pan(event) or self.width_tool.move(position) or self.edge_tool.move(event)):
            self._hovered = self.select_tool.element_at(position)
            self.edge_tool.near = self.edge_tool.edge_under(position)
            self._show_cursor(position)
        self.renew_picture()

    def _show_cursor(self, position: QPointF) -> None:
        viewport, near = self.viewport(), self.edge_tool.near
        assert viewport is not None
        shape = Qt.CursorShape.ArrowCursor
        if near is not None:
            across = near.is_across
            shape = Qt.CursorShape.SizeHorCursor if across else Qt.CursorShape.SizeVerCursor
        elif self.width_tool.is_at(position):
            shape = Qt.CursorShape.SplitHCursor
        viewport.setCursor(shape)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Take hold of an edge, or select: again: the parent; with Alt: the deepest one."""
        assert event is not None
        left = event.button() is Qt.MouseButton.LeftButton
        if event.button() is Qt.MouseButton.MiddleButton or (self._space and left):
            self.begin_pan(event)
            return
        position = event.position()
        if not left or position.x() < RULER or position.y() < RULER:
            return
        deepest = bool(event.modifiers() & Qt.KeyboardModifier.AltModifier)
        if (not deepest and self.edge_tool.press(position)) or self.width_tool.press(position):
            return
        more = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
        self._pick(position, deepest=deepest, more=more)

    def _pick(self, position: QPointF, *, deepest: bool = False, more: bool = False) -> None:
        if self.select_tool.select_at(position, deepest=deepest, more=more) is not None:
            self.picked.emit()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """The end of panning or dragging; a drag is one step."""
        assert event is not None
        self.end_pan()
        self.width_tool.release()
        if not self.edge_tool.release(event.position()):
            self._pick(event.position())  # it was a click after all

    def leaveEvent(self, event: QEvent | None) -> None:
        """Nothing is hovered outside."""
        self._hovered = self.cursor_at = self.edge_tool.near = None
        self.renew_picture()

    # -- keys

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Space pans, B shows what was saved; the rest is for the tools."""
        assert event is not None
        if event.key() == Qt.Key.Key_Space:
            self._space = True
        elif event.key() == Qt.Key.Key_B and not event.modifiers():
            if not event.isAutoRepeat():
                self.held.emit(True)
        elif self.edge_tool.key(event) or self.select_tool.key(event):
            self.renew_picture()
        else:
            super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent | None) -> None:
        """Space pans, and B shows the page as it was saved, only while it is held."""
        if event is not None and event.key() == Qt.Key.Key_B and not event.isAutoRepeat():
            self.held.emit(False)
        if event is not None and event.key() == Qt.Key.Key_Space and not event.isAutoRepeat():
            self._space = False
        super().keyReleaseEvent(event)
