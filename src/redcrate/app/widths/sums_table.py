"""The selected element's sum across at each width; what changes from width to width is set off."""

from collections.abc import Mapping

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QAbstractItemView, QHeaderView, QTableWidget, QTableWidgetItem, QWidget

from redcrate.app.theme.look import text_px
from redcrate.core.explain.across_widths import NAMES, across_at_widths
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.units import format_number

_HEAD = ("viewport", *NAMES, "border box", "available", "free")
_ROW = 24


class SumsTable(QTableWidget):
    """A row for each width."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(0, len(_HEAD), parent)
        self.setHorizontalHeaderLabels(_HEAD)
        self.setAccessibleName("The sum across at each width")
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.setShowGrid(False)
        head, side = self.horizontalHeader(), self.verticalHeader()
        assert head is not None and side is not None
        head.setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        head.setDefaultAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        side.hide()
        side.setDefaultSectionSize(text_px(_ROW))

    def show_element(self, pages: Mapping[float, tuple[Page, Element]]) -> None:
        """Show the sums of an element on the pages of all widths."""
        rows = across_at_widths(pages)
        self.setRowCount(len(rows))
        for number, row in enumerate(rows):
            for column, text in enumerate((format_number(row.width), *row.cells)):
                item = QTableWidgetItem(text)
                item.setTextAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
                differs = column - 1 in row.changed
                font = item.font()
                font.setBold(differs or column == 0)
                item.setFont(font)
                if differs:
                    item.setText(f"• {text}")
                    item.setToolTip("differs from the previous width")
                self.setItem(number, column, item)
        head = self.horizontalHeader()
        assert head is not None
        self.setFixedHeight(head.sizeHint().height() + text_px(_ROW) * max(1, len(rows)) + 4)
