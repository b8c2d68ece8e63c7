"""The outline: the element tree with how each element flows, its outer width and its extent."""

from typing import Any

from PyQt6.QtCore import (
    QAbstractItemModel,
    QItemSelection,
    QItemSelectionModel,
    QMimeData,
    QModelIndex,
    QObject,
    QPoint,
    QRectF,
    QSize,
    Qt,
    QTimer,
    pyqtSignal,
)
from PyQt6.QtGui import QKeyEvent, QPainter, QPen
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QLineEdit,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QTreeView,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.theme.heading import heading
from redcrate.app.theme.look import colour, lettering
from redcrate.app.theme.plain import plain_tip
from redcrate.core.edit import tree_edits
from redcrate.core.edit.tree_edits import Where
from redcrate.core.errors import RedCrateError
from redcrate.core.explain.flow import flow_of
from redcrate.core.markup.elements import Element, mentions
from redcrate.core.session import Change, Session
from redcrate.core.units import format_px

_ROW = 30
_INDENT = 11


class OutlineModel(QAbstractItemModel):
    """The page's element tree as a Qt model; elements are the internal pointers.

    A folded run of alike siblings shows its first element only.
    """

    refused = pyqtSignal(str)

    def __init__(self, session: Session, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self._root = session.views.page.elements[0]
        self._folded: dict[Element, int] = {}  # the first element of a folded run, how many it holds
        self._hidden: set[Element] = set()
        self._shown: dict[Element, list[Element]] = {}  # the rows in each, since the shape last changed
        self._row: dict[Element, int] = {}

    def renew(self) -> None:
        """Read the page again; the shape of the model stays where the tree is the same one."""
        root = self._session.views.page.elements[0]
        if root is not self._root:
            self.beginResetModel()
            self._root = root
            self._folded.clear()
            self._hidden.clear()
            self._forget_rows()
            self.endResetModel()

    def _forget_rows(self) -> None:
        self._shown.clear()
        self._row.clear()

    def fold(self, element: Element) -> bool:
        """Fold the run of alike siblings round an element, or unfold it; whether there is one."""
        run = alike_run(element)
        if len(run) < 2:
            return False
        self.beginResetModel()
        if run[0] in self._folded:
            del self._folded[run[0]]
            self._hidden -= set(run)
        else:
            self._folded[run[0]] = len(run)
            self._hidden |= set(run[1:])
        self._forget_rows()
        self.endResetModel()
        return True

    def label(self, element: Element) -> str:
        """The element's name; of a folded run with its number."""
        count = self._folded.get(element)
        return f"{element.label} ×{count}" if count else element.label

    # -- dragging

    def flags(self, index: QModelIndex) -> Qt.ItemFlag:
        """Rows can be dragged and dropped onto."""
        base = super().flags(index)
        return base | Qt.ItemFlag.ItemIsDragEnabled | Qt.ItemFlag.ItemIsDropEnabled

    def supportedDropActions(self) -> Qt.DropAction:
        """Dragging moves."""
        return Qt.DropAction.MoveAction

    def mimeTypes(self) -> list[str]:
        """What a drag carries: the places of the elements in the page's list."""
        return [_DRAGGED]

    def mimeData(self, indexes: Any) -> QMimeData:
        """The dragged elements."""
        data = QMimeData()
        data.setData(_DRAGGED, ",".join(str(self.element(i).index) for i in indexes).encode())
        return data

    def dropMimeData(
        self, data: QMimeData | None, action: Qt.DropAction, row: int, column: int, parent: QModelIndex
    ) -> bool:
        """Move the dragged elements: between rows, or into the row that they were dropped on."""
        if data is None or not parent.isValid():
            return False
        numbers = data.data(_DRAGGED).data().decode().split(",")
        movers = [self._session.views.page.elements[int(n)] for n in numbers]
        goal, where = self.element(parent), Where.INSIDE
        children = self._children(goal)
        if 0 <= row < len(children):
            goal, where = children[row], Where.BEFORE
        elif row >= len(children) > 0:
            goal, where = children[-1], Where.AFTER
        self.move(movers, goal, where)
        return False  # the edit has moved them; Qt must not take the rows out itself

    def move(self, movers: list[Element], goal: Element, where: Where) -> None:
        """Move elements as one undo step; a refusal is told."""
        try:
            patch, at = tree_edits.move_plan(self._session.views.page.source.markup, movers, goal, where)
            self._session.editor.apply(patch, select_at=at)
        except RedCrateError as problem:
            self.refused.emit(problem.sentence)

    def element(self, index: QModelIndex) -> Element:
        """The element of a row."""
        found = index.internalPointer()
        assert isinstance(found, Element)
        return found

    def index_of(self, element: Element) -> QModelIndex:
        """The row of an element."""
        if element is self._root:
            return self.createIndex(0, 0, element)
        if element in self._hidden:
            element = alike_run(element)[0]
        if element.parent is None:
            return self.createIndex(0, 0, element)
        self._children(element.parent)  # so that its rows have numbers
        return self.createIndex(self._row[element], 0, element)

    def _children(self, element: Element) -> list[Element]:
        """The rows in a row; Qt asks for them again and again."""
        known = self._shown.get(element)
        if known is None:
            inside = element.child_elements
            known = [e for e in inside if e.index >= 0 and e not in self._hidden]
            self._shown[element] = known
            self._row.update((e, number) for number, e in enumerate(known))
        return known

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
            return self.label(element)
        if role in (Qt.ItemDataRole.AccessibleTextRole, Qt.ItemDataRole.ToolTipRole):
            flow = flow_of(self._session.views.page, element)
            words = f"{element.label}, {flow}, outer width {outer_width(self._session, element)} px"
            return plain_tip(words) if role == Qt.ItemDataRole.ToolTipRole else words
        return None


_DRAGGED = "application/x-redcrate-elements"


def alike_run(element: Element) -> list[Element]:
    """The neighbours of the same tag and classes, the element among them."""
    siblings = element.parent.child_elements if element.parent else [element]
    kind = (element.tag, element.classes)
    start = end = siblings.index(element)
    while start > 0 and (siblings[start - 1].tag, siblings[start - 1].classes) == kind:
        start -= 1
    while end + 1 < len(siblings) and (siblings[end + 1].tag, siblings[end + 1].classes) == kind:
        end += 1
    return siblings[start : end + 1]


def outer_width(session: Session, element: Element) -> str:
    """The width of the margin box as text; a dash without a box."""
    box = session.views.page.box_of(element)
    return "–" if box is None else format_px(box.margin_box.width)


class OutlineRow(QStyledItemDelegate):
    """Paints a row: flow glyph, name, outer width, and the bar of its extent across the page."""

    def __init__(self, session: Session, view: QTreeView) -> None:
        super().__init__(view)
        self._session = session
        self._view = view
        self.marked: set[Element] = set()  # elements with a finding

    def told(self) -> list[object]:
        """What the rows that are seen tell; where it is the same after an edit, they need not be painted again."""
        viewport = self._view.viewport()
        assert viewport is not None
        found: list[object] = []
        index = self._view.indexAt(QPoint(0, 0))
        while index.isValid() and self._view.visualRect(index).top() < viewport.height():
            element = index.internalPointer()
            assert isinstance(element, Element)
            box = self._session.views.page.box_of(element)
            place = None if box is None else (box.border_box.x, box.border_box.right)
            flow = flow_of(self._session.views.page, element)
            width = outer_width(self._session, element)
            found.append((element, self._name(element), flow, width, place))
            index = self._view.indexBelow(index)
        return [self._session.views.viewport.width, *found]

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
        flow = flow_of(self._session.views.page, element)
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

    def _name(self, element: Element) -> str:
        model = self._view.model()
        return model.label(element) if isinstance(model, OutlineModel) else element.label

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
        name = metrics.elidedText(self._name(element), Qt.TextElideMode.ElideRight, room)
        painter.drawText(round(x), round(row.y() + 17), name)
        painter.setPen(ink if chosen else colour("second_ink"))  # type: ignore[call-overload]
        painter.drawText(round(row.right() - 12 - number_width), round(row.y() + 17), width)

    def _extent(self, painter: QPainter, element: Element, row: QRectF, chosen: bool) -> None:
        """Where the box stands between the left and the right edge of the page."""
        box = self._session.views.page.box_of(element)
        if element in self.marked:
            painter.setBrush(colour("problem"))
            painter.setPen(Qt.PenStyle.NoPen)
            painter.drawRect(QRectF(row.x(), row.y() + 2, 4, row.height() - 4))
        if box is None:
            return
        left, width = 12.0, row.width() - 24
        page = self._session.views.viewport.width * 64
        start = min(1.0, max(0.0, box.border_box.x / page))
        end = min(1.0, max(0.0, box.border_box.right / page))
        painter.fillRect(
            QRectF(left, row.bottom() - 7, width, 1), colour("second_ink" if chosen else "hairline")
        )
        bar = QRectF(left + width * start, row.bottom() - 8, max(2.0, width * (end - start)), 3)
        painter.fillRect(bar, colour("accent" if chosen else "second_ink"))


class OutlineView(QTreeView):
    """The tree; keys fold runs and move elements."""

    fold_wanted = pyqtSignal()
    delete_wanted = pyqtSignal()
    move_wanted = pyqtSignal(int)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """F folds a run of alike siblings, Delete takes out, Alt with ↑ or ↓ moves among siblings."""
        assert event is not None
        alt = bool(event.modifiers() & Qt.KeyboardModifier.AltModifier)
        if event.key() == Qt.Key.Key_F and not event.modifiers():
            self.fold_wanted.emit()
        elif event.key() == Qt.Key.Key_Delete:
            self.delete_wanted.emit()
        elif alt and event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self.move_wanted.emit(-1 if event.key() == Qt.Key.Key_Up else 1)
        else:
            super().keyPressEvent(event)


class Outline(QWidget):
    """The left panel."""

    said = pyqtSignal(str, bool)

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self._showing = False
        self._told: list[object] = []
        self.model = OutlineModel(session, self)
        self.model.refused.connect(lambda sentence: self.said.emit(sentence, True))
        self.filter = QLineEdit()
        self.filter.setPlaceholderText("Filter: tag, class, text")
        self.filter.setAccessibleName("Filter of the outline")
        self.filter.textChanged.connect(lambda _: self._apply_filter())
        self.view = OutlineView(self)
        self.view.setModel(self.model)
        self._rows = OutlineRow(session, self.view)
        self.view.setItemDelegate(self._rows)
        self.view.setHeaderHidden(True)
        self.view.setUniformRowHeights(True)
        self.view.setIndentation(_INDENT)
        self.view.setRootIsDecorated(False)
        self.view.setAccessibleName("Outline")
        self.view.setToolTip(
            "Drag rows to move elements · F folds alike neighbours · Delete · Alt ↑↓ moves"
        )
        self.view.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.view.setSelectionMode(QAbstractItemView.SelectionMode.ExtendedSelection)
        self.view.setDragDropMode(QAbstractItemView.DragDropMode.InternalMove)
        self.view.fold_wanted.connect(self.fold)
        self.view.delete_wanted.connect(self.delete)
        self.view.move_wanted.connect(self.move_step)
        self.view.expandAll()
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addWidget(heading("Outline", "outer width"))
        inset = QVBoxLayout()
        inset.setContentsMargins(12, 0, 12, 6)
        inset.addWidget(self.filter)
        box.addLayout(inset)
        box.addWidget(self.view)
        selection = self.view.selectionModel()
        assert selection is not None
        selection.selectionChanged.connect(self._chosen)
        session.listen(self._changed)

    def mark(self, elements: set[Element]) -> None:
        """Mark the rows of elements with a finding."""
        if elements == self._rows.marked:
            return
        self._rows.marked = elements
        viewport = self.view.viewport()
        if viewport is not None:
            viewport.update()

    # -- selection

    def _chosen(self, _now: QItemSelection, _before: QItemSelection) -> None:
        if self._showing:
            return
        selection = self.view.selectionModel()
        assert selection is not None
        chosen = [self.model.element(i) for i in selection.selectedRows()]
        current = selection.currentIndex()
        last = self.model.element(current) if current.isValid() else None
        chosen.sort(key=lambda e: (e is last, e.number))
        self._session.views.select(*chosen)

    def _changed(self, change: Change) -> None:
        if change is Change.PAGE:
            self._showing = True
            before = self.model.index(0, 0).internalPointer()
            self.model.renew()
            if before is not self.model.index(0, 0).internalPointer():
                self.view.expandAll()
                self._apply_filter()
            self._showing = False
        if change in (Change.PAGE, Change.SELECTION):
            self._show_selection()
            before, self._told = self._told, self._rows.told() if self.isVisible() else []
            viewport = self.view.viewport()
            if viewport is not None and (change is Change.SELECTION or before != self._told):
                viewport.update()

    def showEvent(self, event: object) -> None:
        """The selected row is seen when the outline is."""
        self._show_selection()

    def resizeEvent(self, event: object) -> None:
        """The selected row stays in view when the budget takes or gives room."""
        QTimer.singleShot(0, self._scroll_to_selection)

    def _scroll_to_selection(self) -> None:
        element = self._session.views.selected
        if element is not None and self.isVisible():
            self.view.scrollTo(self.model.index_of(element))

    def _show_selection(self) -> None:
        selection = self.view.selectionModel()
        assert selection is not None
        chosen = [e for e in self._session.views.selection if e.index >= 0]
        shown = {self.model.element(i) for i in selection.selectedRows()}
        if shown == set(chosen) and chosen:
            return
        self._showing = True
        selection.clear()
        flags = QItemSelectionModel.SelectionFlag
        for element in chosen:
            selection.select(self.model.index_of(element), flags.Select)
        if chosen:
            index = self.model.index_of(chosen[-1])
            selection.setCurrentIndex(index, flags.NoUpdate)
            self.view.scrollTo(index)
        self._showing = False

    # -- filter, folding, moving

    def _apply_filter(self) -> None:
        """Show the rows that match and those that lead to them."""
        sought = self.filter.text().strip().lower()
        kept: set[Element] = set()
        if sought:
            for element in self._session.views.page.elements:
                if mentions(element, sought):
                    kept.update((element, *element.ancestors()))
        for element in self._session.views.page.elements:
            index = self.model.index_of(element)
            self.view.setRowHidden(index.row(), index.parent(), bool(sought) and element not in kept)

    def fold(self) -> None:
        """Fold or unfold the run of alike siblings round the selected element."""
        element = self._session.views.selected
        self._showing = True
        done = element is not None and self.model.fold(element)
        self._showing = False
        if not done:
            self.said.emit("There are no alike neighbours to fold here.", True)
            return
        self.view.expandAll()
        self._apply_filter()
        self._show_selection()

    def delete(self) -> None:
        """Take the selected elements out of the page."""
        try:
            markup = self._session.views.page.source.markup
            self._session.editor.apply(tree_edits.deleted(markup, self._session.views.selection))
        except RedCrateError as problem:
            self.said.emit(problem.sentence, True)

    def move_step(self, step: int) -> None:
        """Move the selected element before the sibling above it, or behind the one below it."""
        element = self._session.views.selected
        if element is None or element.parent is None:
            return
        at = element.sibling_index + step
        if 0 <= at < len(element.parent.child_elements):
            goal = element.parent.child_elements[at]
            self.model.move([element], goal, Where.BEFORE if step < 0 else Where.AFTER)
            moved = element.parent.label
            self.said.emit(f"Moved {element.label} in {moved}.", False)
