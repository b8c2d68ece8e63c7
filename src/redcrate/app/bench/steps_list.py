"""The steps that were done, in words."""

from PyQt6.QtCore import QEvent, Qt
from PyQt6.QtGui import QColor
from PyQt6.QtWidgets import QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from redcrate.app.theme.heading import heading
from redcrate.app.theme.look import colour
from redcrate.core.session import Change, Session


class StepsList(QWidget):
    """What was done, in words; a click goes there, and the pointer over a step shows the page of then."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.list = QListWidget()
        self.list.setWordWrap(True)
        self.list.setTextElideMode(Qt.TextElideMode.ElideNone)
        self.list.setResizeMode(QListWidget.ResizeMode.Adjust)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.setAccessibleName("History")
        self.list.setMouseTracking(True)
        self.list.itemEntered.connect(self._look_at)
        self.list.itemActivated.connect(lambda item: self._go(item))
        self.list.itemClicked.connect(lambda item: self._go(item))
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addWidget(heading("History", "click to go to a state"))
        box.addWidget(self.list)
        session.listen(self._changed)
        self._renew()

    def _changed(self, change: Change) -> None:
        if change is Change.HISTORY:
            self._renew()

    def _renew(self) -> None:
        history = self._session.editor.history
        self.list.clear()
        steps = ["As opened", *(s.sentence for s in (*history.done, *history.undone))]
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
        now = step == len(self._session.editor.history.done)
        self._session.views.preview(self, None if now else self._session.editor.page_as_of(step))

    def leaveEvent(self, event: QEvent | None) -> None:
        """The page as it is, again."""
        self._session.views.preview(self, None)

    def _go(self, item: QListWidgetItem) -> None:
        self._session.views.preview(self, None)
        self._session.editor.go_to(int(item.data(Qt.ItemDataRole.UserRole)))
