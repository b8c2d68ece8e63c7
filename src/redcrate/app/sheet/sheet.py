"""The sheet that is worked on: the page at the working width, with the tools that edit it."""

from pathlib import Path

from PyQt6.QtCore import QEvent, QMimeData, QPointF, Qt, pyqtSignal
from PyQt6.QtGui import QDragEnterEvent, QDragMoveEvent, QDropEvent, QKeyEvent, QMouseEvent, QPainter
from PyQt6.QtWidgets import QWidget

from redcrate.app.comp.layer import CompLayer
from redcrate.app.comp.measure_tool import MeasureTool
from redcrate.app.comp.picture import ENDINGS
from redcrate.app.predict.ghost_tool import GhostTool
from redcrate.app.sheet import edge_drag
from redcrate.app.sheet.dimensions import Dimensions
from redcrate.app.sheet.looking_sheet import LookingSheet
from redcrate.app.sheet.marks import SheetMarks
from redcrate.app.sheet.tools import EdgeTool, WidthTool
from redcrate.core.markup.elements import Element
from redcrate.core.session import Change, Session
from redcrate.core.units import format_px, nearest_from_px


class Sheet(LookingSheet):
    """Edges of the selected box are dragged or moved with the arrows, the page's right edge is the window's."""

    said = pyqtSignal(str, bool)
    comp_dropped = pyqtSignal(Path)
    placed = pyqtSignal()  # the ghost is where the box will be
    held = pyqtSignal(bool)  # the key that shows the page as it was saved

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        self.width_tool = WidthTool(self, session.views)
        self.edge_tool = EdgeTool(self, session, lambda sentence, wrong: self.said.emit(sentence, wrong))
        self.comp = CompLayer(session)
        self.measure_tool = MeasureTool(self, self.comp)
        self.ghost_tool = GhostTool(self, session)
        self._session = session
        super().__init__(session, session.views, parent)
        self.setAcceptDrops(True)

    def _changed(self, change: Change) -> None:
        if change is Change.SELECTION:
            self.edge_tool.forget()
        elif change is Change.PREDICTION:
            self.ghost_tool.follow()
        super()._changed(change)

    @property
    def is_busy(self) -> bool:
        """Whether an edge is being dragged, something is measured, or a ghost is there."""
        return self.edge_tool.drag is not None or self.measure_tool.on or self.ghost_tool.is_seen

    def dimensions(self) -> Dimensions | None:
        """None while it is drawn what was predicted and what it became."""
        return None if self._session.predict_first.told is not None else super().dimensions()

    # -- painting

    def paint_over(self, painter: QPainter) -> None:
        """The comp."""
        self.comp.paint(painter, self.origin(), self.scale)

    def _paint_marks(self, marks: SheetMarks) -> None:
        """The edge that is worked at, and the words beside the pointer, over the other marks."""
        super()._paint_marks(marks)
        selected = self._view.selected
        if selected is not None:
            self._paint_edge(marks, self._same_element(selected))
        self.ghost_tool.paint(marks)
        self.measure_tool.paint(marks.painter, marks)
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
            if drag.snapped is not None or self._session.predict_first.on:
                at = drag.place if drag.snapped is None else drag.snapped
                xs, ys = ((at,), ()) if drag.edge.is_across else ((), (at,))
                marks.guides(xs, ys)
            marks.tag(beside, drag.label, wrong=bool(drag.problem))
        if self.width_tool.held:
            marks.tag(beside, f"window {format_px(nearest_from_px(self._view.viewport.width))}")

    # -- pointer

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Drag an edge or the window's width; else hover, or pan."""
        assert event is not None
        position = event.position()
        self.cursor_at = position
        if not (
            self.pan(event)
            or self.ghost_tool.move(event)
            or self.measure_tool.move(event)
            or self.width_tool.move(position)
            or self.edge_tool.move(event)
        ):
            self._over(position)
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
        """Measuring comes before selecting and dragging."""
        assert event is not None
        left = event.button() is Qt.MouseButton.LeftButton and not self._space
        if left and self.measure_tool.press(event.position(), event.modifiers()):
            self.renew_picture()
        else:
            super().mousePressEvent(event)

    def takes_hold(self, position: QPointF, *, deepest: bool) -> bool:
        """A press on the ghost, on an edge of the selected box, or on the page's right edge."""
        return (
            self.ghost_tool.press(position)
            or (not deepest and self.edge_tool.press(position))
            or self.width_tool.press(position)
        )

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """The end of panning or dragging; a drag is one step."""
        assert event is not None
        self.end_pan()
        if self.ghost_tool.release() or self.measure_tool.release():
            return
        self.width_tool.release()
        if not self.edge_tool.release(event.position()):
            self._pick(event.position())  # it was a click after all

    def leaveEvent(self, event: QEvent | None) -> None:
        """Nothing is hovered outside."""
        self.edge_tool.near = None
        super().leaveEvent(event)

    # -- pictures that are dropped on it

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        """A picture may be dropped; other files are for the window."""
        assert event is not None
        event.setAccepted(_picture_in(event.mimeData()) is not None)

    def dragMoveEvent(self, event: QDragMoveEvent | None) -> None:
        """Anywhere on the sheet."""

    def dropEvent(self, event: QDropEvent | None) -> None:
        """The picture is the comp of the width that is seen."""
        path = _picture_in(event.mimeData()) if event is not None else None
        if path is not None:
            self.comp_dropped.emit(path)

    # -- keys

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """B shows what was saved; edges are moved before the tree is walked."""
        assert event is not None
        if event.key() == Qt.Key.Key_B and not event.modifiers():
            if not event.isAutoRepeat():
                self.held.emit(True)
        elif self.ghost_tool.ghost is not None and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.placed.emit()
        elif (
            self.ghost_tool.key(event)
            or self.measure_tool.key(event)
            or (event.key() != Qt.Key.Key_Space and self.edge_tool.key(event))
        ):
            self.renew_picture()
        else:
            super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent | None) -> None:
        """B shows the page as it was saved only while it is held."""
        if event is not None and event.key() == Qt.Key.Key_B and not event.isAutoRepeat():
            self.held.emit(False)
        super().keyReleaseEvent(event)


def _picture_in(data: QMimeData | None) -> Path | None:
    """The first picture among files that are dragged."""
    urls = data.urls() if data is not None else []
    paths = (Path(url.toLocalFile()) for url in urls if url.isLocalFile())
    return next((p for p in paths if p.suffix.lower() in ENDINGS), None)
