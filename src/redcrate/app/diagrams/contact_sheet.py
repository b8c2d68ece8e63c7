"""The contact sheet: the drawings of many elements in rows; only those that are seen are made."""

import time
from bisect import bisect_left, bisect_right

from PyQt6.QtCore import (
    QAbstractListModel,
    QModelIndex,
    QRect,
    QRectF,
    QSize,
    Qt,
    QTimer,
    pyqtSignal,
)
from PyQt6.QtGui import QColor, QKeyEvent, QPainter, QPen, QResizeEvent, QWheelEvent
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QListView,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QWidget,
)

from redcrate.app.diagrams.drawn import Drawn
from redcrate.app.theme.look import colour, palette, text_font, text_px
from redcrate.core.diagram.choosing import Entry
from redcrate.core.diagram.codes import PRINT, Palette
from redcrate.core.markup.elements import Element

_CELL = QSize(500, 360)
_PAD, _LABEL = 10, 24
_SPARE = 4  # a list breaks its rows a little early
_BUDGET_S = 0.012  # that drawings may take of one turn of the event loop
ZOOMS = (0.4, 0.7, 1.0, 1.5, 2.0)


class Entries(QAbstractListModel):
    """The entries of the sheet, for the view and for those who hear it."""

    def __init__(self, drawn: Drawn, parent: QWidget) -> None:
        super().__init__(parent)
        self.entries: list[Entry] = []
        self._drawn = drawn

    def take(self, entries: list[Entry]) -> bool:
        """Show other entries; whether they stand for others than before (else only their boxes changed)."""
        names = [(e.label, e.element.path) for e in entries]
        same = names == [(e.label, e.element.path) for e in self.entries]
        if same:
            self.entries = entries
            return False
        self.beginResetModel()
        self.entries = entries
        self.endResetModel()
        return True

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008 - Qt's own signature
        """How many there are."""
        return 0 if parent.isValid() else len(self.entries)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        """The label; for those who cannot see the drawing, its numbers."""
        if not index.isValid() or index.row() >= len(self.entries):
            return None
        entry = self.entries[index.row()]
        if role == Qt.ItemDataRole.DisplayRole:
            return entry.label
        if role == Qt.ItemDataRole.AccessibleTextRole:
            return f"{entry.label}: {self._drawn.drawing(entry.element).description}"
        return None


class ContactSheet(QListView):
    """The sheet. opened: an entry is to be seen large (its row). chosen: the selected elements, the current last."""

    opened = pyqtSignal(int)
    chosen = pyqtSignal(list)
    zoomed = pyqtSignal(float)

    def __init__(self, drawn: Drawn, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.drawn = drawn
        self.entries = Entries(drawn, self)
        self.for_print = False
        self.zoom = 1.0
        self._urgent: frozenset[int] = frozenset()  # rows that are drawn before others
        self.setModel(self.entries)
        self.setItemDelegate(_Cell(self))
        self.setViewMode(QListView.ViewMode.IconMode)
        self.setResizeMode(QListView.ResizeMode.Adjust)
        self.setMovement(QListView.Movement.Static)
        self.setUniformItemSizes(True)
        self.setSelectionMode(QAbstractItemView.SelectionMode.ExtendedSelection)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setAccessibleName("Contact sheet of drawings")
        self.setStyleSheet(f"QListView {{ background: {colour('desk').name()}; border: none; }}")
        self.doubleClicked.connect(lambda index: self.opened.emit(index.row()))
        self._telling = True
        selection = self.selectionModel()
        assert selection is not None
        selection.selectionChanged.connect(lambda *_: self._tell())
        self._making = QTimer(self)
        self._making.setInterval(0)
        self._making.timeout.connect(self._make)
        scroll = self.verticalScrollBar()
        assert scroll is not None
        scroll.valueChanged.connect(lambda _: self._making.start())
        self._lay_cells()

    # -- what is shown

    @property
    def colours(self) -> Palette:
        """The palette of the drawings: the window's, or the one for print."""
        return PRINT if self.for_print else palette()

    @property
    def cell(self) -> QSize:
        """How large an entry is: the columns share the width that there is; a single one has it all."""
        viewport = self.viewport()
        room = viewport.size() - QSize(_SPARE, _SPARE) if viewport is not None else _CELL
        if len(self.entries.entries) == 1:
            return room.expandedTo(_CELL)
        columns = max(1, round(room.width() / (_CELL.width() * self.zoom)))
        return QSize(max(120, room.width() // columns), round(_CELL.height() * self.zoom))

    @property
    def room(self) -> tuple[float, float]:
        """What a drawing has in its cell."""
        cell = self.cell
        return cell.width() - 4.0 * _PAD, cell.height() - 3.0 * _PAD - text_px(_LABEL)

    def show_entries(self, entries: list[Entry]) -> None:
        """Show these; where they are the same ones as before, what is selected and seen stays."""
        self._telling = False
        self.entries.take(entries)
        self._telling = True
        if self.gridSize() != self.cell:
            self._lay_cells()
        self.renew()

    def renew(self) -> None:
        """Make the drawings that are seen anew where they have changed."""
        self._urgent = frozenset(self.selected_rows)
        self._making.start()

    def set_zoom(self, zoom: float) -> None:
        """Larger or smaller cells."""
        self.zoom = min(ZOOMS[-1], max(ZOOMS[0], zoom))
        self._lay_cells()
        self.zoomed.emit(self.zoom)

    def zoom_by(self, steps: int) -> None:
        """The next larger or smaller size."""
        nearest = min(range(len(ZOOMS)), key=lambda n: abs(ZOOMS[n] - self.zoom))
        self.set_zoom(ZOOMS[min(len(ZOOMS) - 1, max(0, nearest + steps))])

    def _lay_cells(self) -> None:
        self.setGridSize(self.cell)
        self._bring_in_view()
        self.renew()

    def _bring_in_view(self) -> None:
        """The current drawing, in the places that all have now."""
        if self.currentIndex().isValid():
            self.executeDelayedItemsLayout()
            self.scrollTo(self.currentIndex(), self.ScrollHint.PositionAtCenter)

    # -- making drawings, those that are seen first

    def _make(self) -> None:
        """Make what is missing of the visible pictures, as many as a turn of the event loop bears.

        Those that are selected come first: they are what is being worked on.
        """
        until = time.perf_counter() + _BUDGET_S
        rows = self._seen()
        for row in sorted(rows, key=lambda r: r not in self._urgent):
            element = self.entries.entries[row].element
            if self.is_current(element):
                continue
            self.drawn.picture(element, self.room, self.devicePixelRatioF(), self.colours)
            self.update(self.entries.index(row))
            if time.perf_counter() > until:
                return
        self._making.stop()

    def is_current(self, element: Element) -> bool:
        """Whether the picture of an element is that of the page as it is now."""
        return self.drawn.is_current(element, self.room, self.devicePixelRatioF(), self.colours)

    def _seen(self) -> range:
        """The rows in view."""
        viewport, rows = self.viewport(), range(len(self.entries.entries))
        if viewport is None or not self.isVisible():
            return range(0)
        first = bisect_left(rows, 0, key=lambda row: self._place(row).bottom())
        end = bisect_right(rows, viewport.height(), key=lambda row: self._place(row).top())
        return range(first, end)

    def _place(self, row: int) -> QRect:
        return self.visualRect(self.entries.index(row))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """More or fewer are seen, and the columns share another width."""
        super().resizeEvent(event)
        if self.gridSize() != self.cell:
            self._lay_cells()
        self._making.start()

    # -- choosing

    @property
    def selected_rows(self) -> list[int]:
        """The rows that are selected, in order."""
        return sorted(index.row() for index in self.selectedIndexes())

    def select_elements(self, elements: list[Element]) -> None:
        """Select the entries that stand for these elements, without telling anybody."""
        selection = self.selectionModel()
        if selection is None:
            return
        wanted = {e.path for e in elements}
        rows = [
            n
            for n, entry in enumerate(self.entries.entries)
            if any(e.path in wanted for e in entry.alike)
        ]
        if rows == self.selected_rows:
            return
        self._telling = False
        selection.clear()
        for row in rows:
            selection.select(self.entries.index(row), selection.SelectionFlag.Select)
        if rows:
            selection.setCurrentIndex(self.entries.index(rows[-1]), selection.SelectionFlag.NoUpdate)
            self._bring_in_view()
        self._telling = True

    def _tell(self) -> None:
        if not self._telling:
            return
        rows = self.selected_rows
        current = self.currentIndex().row()
        if current in rows:  # the one that panels speak of comes last
            rows = [*(r for r in rows if r != current), current]
        self.chosen.emit([self.entries.entries[row].element for row in rows])

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Return opens the drawing large; plus and minus change the size."""
        if event is None:
            return
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.currentIndex().isValid():
            self.opened.emit(self.currentIndex().row())
        elif event.text() in ("+", "-"):
            self.zoom_by(1 if event.text() == "+" else -1)
        else:
            super().keyPressEvent(event)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        """With Ctrl the cells become larger or smaller."""
        if event is not None and event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.zoom_by(1 if event.angleDelta().y() > 0 else -1)
            event.accept()
            return
        super().wheelEvent(event)


class _Cell(QStyledItemDelegate):
    """Paints an entry: the drawing on its paper, the name below, a frame where it is selected or has the focus."""

    def __init__(self, sheet: ContactSheet) -> None:
        super().__init__(sheet)
        self._sheet = sheet

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        """All cells are alike."""
        return self._sheet.cell

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        """The drawing if it is made; its paper alone until then."""
        if painter is None:
            return
        sheet = self._sheet
        entry = sheet.entries.entries[index.row()]
        painter.save()
        card = QRectF(option.rect).adjusted(_PAD / 2, _PAD / 2, -_PAD / 2, -_PAD / 2)
        paper = card.adjusted(0, 0, 0, -text_px(_LABEL))
        painter.fillRect(paper, QColor(sheet.colours.paper))
        image = sheet.drawn.known_picture(entry.element)
        if image is not None:
            size = image.deviceIndependentSize()
            left = paper.x() + (paper.width() - size.width()) / 2
            top = paper.y() + (paper.height() - size.height()) / 2
            painter.drawImage(QRectF(left, top, size.width(), size.height()), image)
        self._frame(painter, paper, option)
        self._label(painter, card, entry, option)
        painter.restore()

    def _frame(self, painter: QPainter, paper: QRectF, option: QStyleOptionViewItem) -> None:
        selected = bool(option.state & QStyle.StateFlag.State_Selected)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(colour("ink" if selected else "hairline"), 3 if selected else 1))
        painter.drawRect(paper)
        if option.state & QStyle.StateFlag.State_HasFocus:
            painter.setPen(QPen(colour("ink"), 1, Qt.PenStyle.DashLine))
            painter.drawRect(paper.adjusted(5, 5, -5, -5))

    def _label(
        self, painter: QPainter, card: QRectF, entry: Entry, option: QStyleOptionViewItem
    ) -> None:
        selected = bool(option.state & QStyle.StateFlag.State_Selected)
        at = QRectF(card.x(), card.bottom() - text_px(_LABEL) + 2, card.width(), text_px(_LABEL) - 2)
        if selected:
            painter.fillRect(at, colour("ink"))
        painter.setFont(text_font(12, bold=selected))
        painter.setPen(colour("paper" if selected else "ink"))
        text = painter.fontMetrics().elidedText(
            entry.label, Qt.TextElideMode.ElideRight, round(at.width() - 12)
        )
        painter.drawText(at.adjusted(6, 0, -6, 0), Qt.AlignmentFlag.AlignVCenter, text)
