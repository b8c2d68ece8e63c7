"""The elements as the outline has them: what stands in what, runs of alike ones folded, moved by drag and drop."""

from typing import Any

from PyQt6.QtCore import (
    QAbstractItemModel,
    QMimeData,
    QModelIndex,
    QObject,
    Qt,
    pyqtSignal,
)

from redcrate.app.theme.plain import plain_tip
from redcrate.core.edit import tree_edits
from redcrate.core.edit.tree_edits import Where
from redcrate.core.errors import RedCrateError
from redcrate.core.explain.flow import flow_of
from redcrate.core.markup.elements import Element
from redcrate.core.session import Session
from redcrate.core.units import format_px


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
