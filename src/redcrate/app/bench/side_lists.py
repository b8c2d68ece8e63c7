"""The other lists of the left column: the classes of the page, and the steps that were done."""

from PyQt6.QtCore import QEvent, Qt, pyqtSignal
from PyQt6.QtGui import QColor
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.bench.heading import heading
from redcrate.app.theme.look import colour
from redcrate.core.edit import classes
from redcrate.core.edit.classes import ClassUse
from redcrate.core.errors import RedCrateError
from redcrate.core.session import Change, Session


class ClassesList(QWidget):
    """All classes with how many elements have each and whether a rule names it."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self._uses: dict[str, ClassUse] = {}
        self.list = QListWidget()
        self.list.setAccessibleName("Classes of the page")
        self.list.currentItemChanged.connect(lambda *_: self._chosen())
        self.list.itemDoubleClicked.connect(lambda _: self.select_users())
        self.name = QLineEdit()
        self.name.setAccessibleName("Class name")
        self.name.setPlaceholderText("class name")
        self.problem = QLabel("")
        self.problem.setWordWrap(True)
        self.problem.setAccessibleName("What is wrong with the class")
        self.buttons: dict[str, QPushButton] = {}
        self._build()
        session.listen(self._changed)
        self._renew()

    def _build(self) -> None:
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 8)
        box.setSpacing(6)
        box.addWidget(heading("Classes", "elements · rules"))
        box.addWidget(self.list, 1)
        inner = QVBoxLayout()
        inner.setContentsMargins(12, 0, 12, 0)
        inner.addWidget(self.name)
        for names in (("Give", "Take off"), ("Rename", "Select all")):
            row = QHBoxLayout()
            for name in names:
                button = QPushButton(name)
                button.setToolTip(_TIPS[name])
                button.clicked.connect(lambda _=False, n=name: self.do(n))
                row.addWidget(button)
                self.buttons[name] = button
            inner.addLayout(row)
        inner.addWidget(self.problem)
        box.addLayout(inner)

    def _changed(self, change: Change) -> None:
        if change in (Change.PAGE, Change.SELECTION) and self.isVisible():
            self._renew()

    def showEvent(self, event: object) -> None:
        """The list is kept up only while it is seen."""
        self._renew()

    def _renew(self) -> None:
        self._uses = {u.name: u for u in classes.class_list(self._session.page)}
        chosen = self._current()
        mine = set(self._session.selected.classes) if self._session.selected else set()
        self.list.blockSignals(True)
        self.list.clear()
        for use in self._uses.values():
            rules = f"{len(use.rules)}" if use.rules else "no rule"
            users = f"{len(use.users)}" if use.users else "no element"
            item = QListWidgetItem(f".{use.name}    {users} · {rules}")
            item.setData(Qt.ItemDataRole.UserRole, use.name)
            if not use.rules or not use.users:
                item.setForeground(QColor(colour("problem")))
            font = item.font()
            font.setBold(use.name in mine)
            item.setFont(font)
            self.list.addItem(item)
            if use.name == chosen:
                self.list.setCurrentItem(item)
        self.list.blockSignals(False)

    def _current(self) -> str:
        item = self.list.currentItem()
        return str(item.data(Qt.ItemDataRole.UserRole)) if item is not None else ""

    def _chosen(self) -> None:
        self.name.setText(self._current())
        self._say("")

    def _say(self, sentence: str) -> None:
        self.problem.setText(sentence)
        self.problem.setStyleSheet(f"color: {colour('problem').name()};")

    def do(self, what: str) -> None:
        """Give the named class to the selected elements, take it off, rename the chosen one."""
        session, name = self._session, self.name.text().strip().removeprefix(".")
        markup = session.page.source.markup
        if what == "Select all":
            self.select_users()
            return
        if what != "Rename" and not session.selection:
            self._say("Select elements first.")
            return
        try:
            if what == "Give":
                patch = classes.with_class(markup, session.selection, name)
            elif what == "Take off":
                patch = classes.without_class(markup, session.selection, name)
            else:
                patch = classes.class_renamed(session.page, session.texts(), self._current(), name)
            session.apply(patch)
            self._say("")
        except RedCrateError as problem:
            self._say(problem.sentence)

    def select_users(self) -> None:
        """Select all elements that have the chosen class."""
        use = self._uses.get(self._current())
        if use is not None and use.users:
            self._session.select(*(u for u in use.users if u.index >= 0))


_TIPS = {
    "Give": "Give the class to all selected elements",
    "Take off": "Take the class off all selected elements",
    "Rename": "Rename the class chosen above, in HTML and CSS",
    "Select all": "Select all elements that have the class chosen above",
}


class StepsList(QWidget):
    """What was done, in words; a click goes there, and the pointer over a step shows the page of then."""

    previewed = pyqtSignal(object)

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.list = QListWidget()
        self.list.setWordWrap(True)
        self.list.setTextElideMode(Qt.TextElideMode.ElideNone)
        self.list.setResizeMode(QListWidget.ResizeMode.Adjust)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.setAccessibleName("Steps")
        self.list.setMouseTracking(True)
        self.list.itemEntered.connect(self._look_at)
        self.list.itemActivated.connect(lambda item: self._go(item))
        self.list.itemClicked.connect(lambda item: self._go(item))
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addWidget(heading("Steps", "click to go there"))
        box.addWidget(self.list)
        session.listen(self._changed)
        self._renew()

    def _changed(self, change: Change) -> None:
        if change is Change.HISTORY:
            self._renew()

    def _renew(self) -> None:
        history = self._session.history
        self.list.clear()
        steps = ["As it was opened", *(s.sentence for s in (*history.done, *history.undone))]
        for number, sentence in enumerate(steps):
            saved = "  · saved" if number == history.saved_at and number else ""
            item = QListWidgetItem(f"{sentence}{saved}")
            item.setData(Qt.ItemDataRole.UserRole, number)
            if number > len(history.done):
                item.setForeground(QColor(colour("second_ink")))
            self.list.addItem(item)
        self.list.setCurrentRow(len(history.done))

    def _look_at(self, item: QListWidgetItem) -> None:
        step = int(item.data(Qt.ItemDataRole.UserRole))
        now = step == len(self._session.history.done)
        self.previewed.emit(None if now else self._session.page_as_of(step))

    def leaveEvent(self, event: QEvent | None) -> None:
        """The page as it is, again."""
        self.previewed.emit(None)

    def _go(self, item: QListWidgetItem) -> None:
        self.previewed.emit(None)
        self._session.go_to(int(item.data(Qt.ItemDataRole.UserRole)))
