"""The outline: the element tree with how each element flows, its outer width and its extent."""

from typing import Any

from PyQt6.QtCore import (
    QAbstractItemModel,
    QItemSelectionModel,
    QModelIndex,
    QObject,
    QRectF,
    QSize,
    Qt,
)
from PyQt6.QtGui import QPainter, QPen
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QTreeView,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.bench.heading import heading
from redcrate.app.theme.look import colour, lettering
from redcrate.core.markup.elements import Element
from redcrate.core.session import Change, Session
from redcrate.core.units import format_px

_ROW = 30
_INDENT = 11


class OutlineModel(QAbstractItemModel):
    """The page's element tree as a Qt model; elements are the internal pointers."""

    def __init__(self, session: Session, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self._root = session.page.elements[0]

    def renew(self) -> None:
        """Read the page again; the shape of the model stays where the tree is the same one."""
        root = self._session.page.elements[0]
        if root is not self._root:
            self.beginResetModel()
            self._root = root
            self.endResetModel()
        else:
            self.layoutChanged.emit()

    def element(self, index: QModelIndex) -> Element:
        """The element of a row."""
        found = index.internalPointer()
        assert isinstance(found, Element)
        return found

    def index_of(self, element: Element) -> QModelIndex:
        """The row of an element."""
        if element is self._root:
            return self.createIndex(0, 0, element)
        return self.createIndex(self._shown_siblings(element).index(element), 0, element)

    @staticmethod
    def _children(element: Element) -> list[Element]:
        return [e for e in element.child_elements if e.index >= 0]

    def _shown_siblings(self, element: Element) -> list[Element]:
        return self._children(element.parent) if element.parent else [element]

    def index(self, row: int, column: int, parent: QModelIndex = QModelIndex()) -> QModelIndex:  # noqa: B008
        """Qt's model protocol."""
        if not parent.isValid():
            return self.createIndex(0, 0, self._root) if row == 0 else QModelIndex()
        children = self._children(self.element(parent))
        return self.createIndex(row, column, children[row]) if row < len(children) else QModelIndex()

    def parent(self, child: QModelIndex = QModelIndex()) -> QModelIndex:  # type: ignore[override]  # noqa: B008
        """Qt's model protocol."""
        if not child.isValid():
            return QModelIndex()
        above = self.element(child).parent
        return QModelIndex() if above is None else self.index_of(above)

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008
        """Qt's model protocol."""
        return 1 if not parent.isValid() else len(self._children(self.element(parent)))

    def columnCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008
        """Qt's model protocol."""
        return 1

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        """Name, and a sentence for those who hear it."""
        if not index.isValid():
            return None
        element = self.element(index)
        if role == Qt.ItemDataRole.DisplayRole:
            return element.label
        if role in (Qt.ItemDataRole.AccessibleTextRole, Qt.ItemDataRole.ToolTipRole):
            flow = flow_of(self._session, element)
            return f"{element.label}, {flow}, outer width {outer_width(self._session, element)} px"
        return None


def outer_width(session: Session, element: Element) -> str:
    """The width of the margin box as text; a dash without a box."""
    box = session.page.box_of(element)
    return "–" if box is None else format_px(box.margin_box.width)


def flow_of(session: Session, element: Element) -> str:
    """How an element flows, in CSS's words."""
    style = session.page.style_of(element)
    if session.page.box_of(element) is None:
        return "none"
    if style.float_ != "none":
        return f"float {style.float_}"
    return style.display


class OutlineRow(QStyledItemDelegate):
    """Paints a row: flow glyph, name, outer width, and the bar of its extent across the page."""

    def __init__(self, session: Session, view: QTreeView) -> None:
        super().__init__(view)
        self._session = session
        self._view = view

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        """All rows are alike."""
        return QSize(200, _ROW)

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        """Paint one row over the whole width of the view."""
        assert painter is not None
        element = index.internalPointer()
        viewport = self._view.viewport()
        assert isinstance(element, Element) and viewport is not None
        row = QRectF(0, option.rect.y(), viewport.width(), option.rect.height())
        chosen = bool(option.state & QStyle.StateFlag.State_Selected)
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(row, colour("ink" if chosen else "paper"))
        ink = colour("paper" if chosen else "ink")
        x = float(option.rect.x()) + 2
        self._glyph(painter, element, x, row.y() + 6, ink)
        self._texts(painter, element, x + 24, row, ink, chosen)
        self._extent(painter, element, row, chosen)
        if option.state & QStyle.StateFlag.State_HasFocus and not chosen:
            painter.setPen(QPen(colour("ink"), 1.5))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(row.adjusted(1, 1, -1, -1))
        painter.restore()

    def _glyph(self, painter: QPainter, element: Element, x: float, y: float, ink: object) -> None:
        """Full bar: block; dashed underline: inline; narrow box: inline-block; pushed: float."""
        flow = flow_of(self._session, element)
        pen = QPen(ink, 1.2)  # type: ignore[call-overload]
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if flow == "none":
            pen = QPen(colour("second_ink"), 1, Qt.PenStyle.DotLine)
        painter.setPen(pen)
        if flow == "inline":
            pen.setDashPattern([3, 2])
            painter.setPen(pen)
            painter.drawLine(round(x), round(y + 10), round(x + 15), round(y + 10))
        elif flow.startswith("inline"):
            painter.drawRect(QRectF(x + 4, y + 1, 7, 10))
        elif flow.startswith("float"):
            painter.drawRect(QRectF(x if flow.endswith("left") else x + 8, y + 1, 7, 10))
        else:
            painter.drawRect(QRectF(x, y + 1, 15, 10))

    def _texts(
        self,
        painter: QPainter,
        element: Element,
        x: float,
        row: QRectF,
        ink: object,
        chosen: bool,
    ) -> None:
        width = outer_width(self._session, element)
        font = lettering(12, bold=chosen)
        painter.setFont(font)
        metrics = painter.fontMetrics()
        number_width = metrics.horizontalAdvance(width)
        painter.setPen(ink)  # type: ignore[call-overload]
        room = int(row.right() - 12 - number_width - 8 - x)
        name = metrics.elidedText(element.label, Qt.TextElideMode.ElideRight, room)
        painter.drawText(round(x), round(row.y() + 17), name)
        painter.setPen(ink if chosen else colour("second_ink"))  # type: ignore[call-overload]
        painter.drawText(round(row.right() - 12 - number_width), round(row.y() + 17), width)

    def _extent(self, painter: QPainter, element: Element, row: QRectF, chosen: bool) -> None:
        """Where the box stands between the left and the right edge of the page."""
        box = self._session.page.box_of(element)
        if box is None:
            return
        left, width = 12.0, row.width() - 24
        page = self._session.viewport.width * 64
        start = min(1.0, max(0.0, box.border_box.x / page))
        end = min(1.0, max(0.0, box.border_box.right / page))
        painter.fillRect(
            QRectF(left, row.bottom() - 7, width, 1), colour("second_ink" if chosen else "hairline")
        )
        bar = QRectF(left + width * start, row.bottom() - 8, max(2.0, width * (end - start)), 3)
        painter.fillRect(bar, colour("accent" if chosen else "second_ink"))


class Outline(QWidget):
    """The left panel."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.model = OutlineModel(session, self)
        self.view = QTreeView(self)
        self.view.setModel(self.model)
        self.view.setItemDelegate(OutlineRow(session, self.view))
        self.view.setHeaderHidden(True)
        self.view.setUniformRowHeights(True)
        self.view.setIndentation(_INDENT)
        self.view.setRootIsDecorated(False)
        self.view.setAccessibleName("Outline")
        self.view.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.view.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.view.expandAll()
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addWidget(heading("Outline", "outer width"))
        box.addWidget(self.view)
        selection = self.view.selectionModel()
        assert selection is not None
        selection.currentChanged.connect(self._chosen)
        session.listen(self._changed)

    def _chosen(self, current: QModelIndex, _previous: QModelIndex) -> None:
        if current.isValid():
            self._session.select(self.model.element(current))

    def _changed(self, change: Change) -> None:
        if change is Change.PAGE:
            before = self.model.index(0, 0).internalPointer()
            self.model.renew()
            if before is not self.model.index(0, 0).internalPointer():
                self.view.expandAll()
        if change in (Change.PAGE, Change.SELECTION):
            self._show_selection()
            viewport = self.view.viewport()
            if viewport is not None:
                viewport.update()

    def _show_selection(self) -> None:
        selection = self.view.selectionModel()
        assert selection is not None
        element = self._session.selected
        if element is None or element.index < 0:
            selection.clear()
            return
        index = self.model.index_of(element)
        if selection.currentIndex() != index:
            flags = QItemSelectionModel.SelectionFlag.ClearAndSelect
            selection.setCurrentIndex(index, flags)
        self.view.scrollTo(index)
