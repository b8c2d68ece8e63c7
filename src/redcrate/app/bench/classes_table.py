"""The classes of the page as a table: who has each, which rules name it, and what can be done with it."""

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QColor
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QHBoxLayout,
    QHeaderView,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.theme.heading import heading
from redcrate.app.theme.look import colour
from redcrate.app.theme.plain import Label, plain_tip
from redcrate.app.value_field import ValueField
from redcrate.core.edit import classes
from redcrate.core.edit.classes import ClassUse
from redcrate.core.errors import RedCrateError
from redcrate.core.labelled import Labelled
from redcrate.core.session import Change, Session
from redcrate.core.units import counted

_COLUMNS = ("class", "elements", "rules")


class ClassAction(Labelled):
    """What a button does with a class."""

    ADD = "add", "Add"
    REMOVE = "remove", "Remove"
    RENAME = "rename", "Rename"
    SELECT = "select", "Select all"


_TIPS = {
    ClassAction.ADD: "Add the class to all selected elements",
    ClassAction.REMOVE: "Remove the class from all selected elements",
    ClassAction.RENAME: "Rename the class chosen in the table, in HTML and CSS",
    ClassAction.SELECT: "Select all elements with the class chosen in the table",
}


class _Number(QTableWidgetItem):
    """A count, sorted as a number; none is said as such."""

    def __init__(self, count: int) -> None:
        super().__init__(str(count) if count else "none")
        self.count = count
        self.setTextAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)

    def __lt__(self, other: QTableWidgetItem) -> bool:
        return self.count < other.count if isinstance(other, _Number) else super().__lt__(other)


class ClassesTable(QWidget):
    """A row a class; a click on a column's head sorts by it, and the chosen class is lit on the sheet."""

    lit = pyqtSignal(object)

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self._uses: dict[str, ClassUse] = {}
        self.table = QTableWidget(0, len(_COLUMNS))
        self.table.setHorizontalHeaderLabels(list(_COLUMNS))
        self.table.setAccessibleName("Classes of the page")
        self.table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.table.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.table.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.table.setShowGrid(False)
        self.table.setSortingEnabled(True)
        self.table.sortByColumn(0, Qt.SortOrder.AscendingOrder)
        self.table.currentItemChanged.connect(lambda *_: self._chosen())
        self.table.itemDoubleClicked.connect(lambda _: self.select_users())
        self.name = ValueField()
        self.name.setAccessibleName("Class name")
        self.name.setPlaceholderText("class name")
        self.problem = Label("")
        self.problem.setWordWrap(True)
        self.problem.setAccessibleName("What is wrong with the class")
        self.buttons: dict[ClassAction, QPushButton] = {}
        self.problem.hide()
        self._build()
        session.listen(self._changed)
        self._renew()

    def _build(self) -> None:
        down, across = self.table.verticalHeader(), self.table.horizontalHeader()
        assert down is not None and across is not None
        down.hide()
        down.setDefaultSectionSize(24)
        across.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        across.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
        across.setHighlightSections(False)
        actions = QHBoxLayout()
        actions.setContentsMargins(12, 0, 12, 0)
        actions.setSpacing(4)
        actions.addWidget(self.name, 1)
        lower = QHBoxLayout()
        lower.setContentsMargins(12, 0, 12, 0)
        lower.setSpacing(4)
        for action, tip in _TIPS.items():
            button = QPushButton(action.label)
            button.setToolTip(plain_tip(tip))
            button.setStyleSheet("padding: 3px 5px;")
            button.clicked.connect(lambda _=False, a=action: self.do(a))
            is_upper = action in (ClassAction.ADD, ClassAction.REMOVE)
            (actions if is_upper else lower).addWidget(button)
            self.buttons[action] = button
        lower.addStretch()
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 8)
        box.setSpacing(6)
        box.addWidget(heading("Classes", "double click: select its elements"))
        box.addLayout(actions)
        box.addLayout(lower)
        self.problem.setContentsMargins(12, 0, 12, 0)
        box.addWidget(self.problem)
        box.addWidget(self.table, 1)

    def _changed(self, change: Change) -> None:
        if change in (Change.PAGE, Change.SELECTION) and self.isVisible():
            self._renew()

    def showEvent(self, event: object) -> None:
        """The table is kept up only while it is seen."""
        self._renew()

    def hideEvent(self, event: object) -> None:
        """What it lit on the sheet goes with it."""
        self.lit.emit(())

    def _renew(self) -> None:
        self._uses = {u.name: u for u in classes.class_list(self._session.views.page)}
        chosen = self._current()
        mine = set(self._session.views.selected.classes) if self._session.views.selected else set()
        self.table.blockSignals(True)
        self.table.setSortingEnabled(False)
        self.table.setRowCount(len(self._uses))
        for row, use in enumerate(self._uses.values()):
            items = (QTableWidgetItem(f".{use.name}"), _Number(len(use.users)), _Number(len(use.rules)))
            for column, item in enumerate(items):
                font = item.font()
                font.setBold(use.name in mine)
                item.setFont(font)
                item.setToolTip(plain_tip(_says(use)))
                if not use.rules or not use.users:
                    item.setForeground(QColor(colour("problem")))
                self.table.setItem(row, column, item)
        self.table.setSortingEnabled(True)
        self._choose(chosen)
        self.table.blockSignals(False)

    def _choose(self, name: str) -> None:
        for row in range(self.table.rowCount()):
            item = self.table.item(row, 0)
            if item is not None and item.text() == f".{name}":
                self.table.setCurrentItem(item)

    def rows(self) -> list[list[str]]:
        """What the table shows, row by row."""
        columns = range(len(_COLUMNS))
        cells = [[self.table.item(r, c) for c in columns] for r in range(self.table.rowCount())]
        return [[c.text() if c is not None else "" for c in row] for row in cells]

    def _current(self) -> str:
        item = self.table.item(self.table.currentRow(), 0)
        return item.text()[1:] if item is not None else ""

    def _chosen(self) -> None:
        self.name.setText(self._current())
        self._say("")
        use = self._uses.get(self._current())
        self.lit.emit(tuple(u for u in use.users if u.index >= 0) if use is not None else ())

    def _say(self, sentence: str) -> None:
        self.problem.setText(sentence)
        self.problem.setStyleSheet(f"color: {colour('problem').name()};")
        self.problem.setVisible(bool(sentence))

    def do(self, what: ClassAction) -> None:
        """Add the named class to the selected elements, remove it, rename the chosen one, or select its elements."""
        session, name = self._session, self.name.text().strip().removeprefix(".")
        markup = session.views.page.source.markup
        if what is ClassAction.SELECT:
            self.select_users()
            return
        if what is not ClassAction.RENAME and not session.views.selection:
            self._say("Select elements first.")
            return
        try:
            if what is ClassAction.ADD:
                patch = classes.with_class(markup, session.views.selection, name)
            elif what is ClassAction.REMOVE:
                patch = classes.without_class(markup, session.views.selection, name)
            else:
                patch = classes.class_renamed(
                    session.views.page, session.document.texts(), self._current(), name
                )
            session.editor.apply(patch)
            self._say("")
        except RedCrateError as problem:
            self._say(problem.sentence)

    def select_users(self) -> None:
        """Select all elements that have the chosen class."""
        use = self._uses.get(self._current())
        if use is not None and use.users:
            self._session.views.select(*(u for u in use.users if u.index >= 0))


def _says(use: ClassUse) -> str:
    users, rules = len(use.users), len(use.rules)
    has = counted(users, "1 element", "{count} elements") if users else "no element"
    named = counted(rules, "1 rule", "{count} rules") if rules else "no rule"
    return f".{use.name}: {has}, {named}"
