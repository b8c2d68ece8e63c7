"""The outline: the element tree with how each element flows, its outer width and its extent."""

from PyQt6.QtCore import (
    QItemSelection,
    QItemSelectionModel,
    Qt,
    QTimer,
    pyqtSignal,
)
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QLineEdit,
    QTreeView,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.bench.outline_model import OutlineModel
from redcrate.app.bench.outline_row import OutlineRow
from redcrate.app.theme.heading import heading
from redcrate.core.edit import tree_edits
from redcrate.core.edit.tree_edits import Where
from redcrate.core.errors import RedCrateError
from redcrate.core.markup.elements import Element, mentions
from redcrate.core.session import Change, Session

_INDENT = 11


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
            "Drag a row to move its element · Alt+↑↓: move · F: fold alike siblings · Delete: remove"
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
            self.said.emit("There are no alike siblings to fold here.", True)
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
