"""All commands in one list: type some words, Enter does the first one."""

from collections.abc import Sequence

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent
from PyQt6.QtWidgets import QFrame, QLineEdit, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from redcrate.app.commands.command import Command
from redcrate.app.commands.old_words import OLD_WORDS
from redcrate.app.theme.look import colour
from redcrate.app.theme.plain import plain_tip


class CommandList(QFrame):
    """A sheet of paper over the window with all commands."""

    chosen = pyqtSignal(object)

    def __init__(self, commands: Sequence[Command], parent: QWidget) -> None:
        super().__init__(parent)
        self._commands = list(commands)
        self.field = QLineEdit()
        self.field.setPlaceholderText("Find a command")
        self.field.setAccessibleName("Search the commands")
        self.list = QListWidget()
        self.list.setAccessibleName("Commands")
        self.field.textChanged.connect(lambda _: self._renew())
        self.field.returnPressed.connect(self._run_current)
        self.list.itemClicked.connect(lambda _: self._run_current())
        self.list.itemActivated.connect(lambda _: self._run_current())
        box = QVBoxLayout(self)
        box.setContentsMargins(10, 10, 10, 10)
        box.addWidget(self.field)
        box.addWidget(self.list)
        self.setStyleSheet(
            f"CommandList {{ background: {colour('paper').name()}; border: 2px solid {colour('ink').name()}; }}"
        )
        self._before: QWidget | None = None
        self.hide()

    def open(self) -> None:
        """Show the list over the upper middle of the window."""
        parent = self.parentWidget()
        assert parent is not None
        window = self.window()
        self._before = window.focusWidget() if window is not None else None
        width = min(560, parent.width() - 40)
        self.setGeometry((parent.width() - width) // 2, 60, width, min(440, parent.height() - 100))
        self.field.clear()
        self._renew()
        self.show()
        self.raise_()
        self.field.setFocus()

    def shown(self) -> list[str]:
        """The words of the commands that are listed."""
        return [item.text() for i in range(self.list.count()) if (item := self.list.item(i)) is not None]

    def _renew(self) -> None:
        sought = self.field.text().lower().split()
        self.list.clear()
        for number, command in enumerate(self._commands):
            once = OLD_WORDS.get(command.name, "")
            words = f"{command.words} {command.teaches} {once}".lower()
            if not all(s in words for s in sought):
                continue
            keys = f"    {command.keys}" if command.keys else ""
            item = QListWidgetItem(f"{command.words}{keys}")
            item.setData(Qt.ItemDataRole.UserRole, number)
            item.setToolTip(plain_tip(command.teaches))
            if not command.enabled():
                item.setForeground(QColor(colour("second_ink")))
                item.setFlags(item.flags() & ~Qt.ItemFlag.ItemIsSelectable)
            self.list.addItem(item)
        self.list.setCurrentRow(0)

    def _run_current(self) -> None:
        item = self.list.currentItem()
        if item is None:
            return
        command = self._commands[int(item.data(Qt.ItemDataRole.UserRole))]
        if command.enabled():
            self.close_list()
            self.chosen.emit(command)

    def close_list(self) -> None:
        """Away with it; the focus goes back to where it was."""
        self.hide()
        if self._before is not None:
            self._before.setFocus()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Esc closes; arrows walk the list while one types."""
        assert event is not None
        if event.key() == Qt.Key.Key_Escape:
            self.close_list()
        elif event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            step = -1 if event.key() == Qt.Key.Key_Up else 1
            row = self.list.currentRow() + step
            self.list.setCurrentRow(max(0, min(self.list.count() - 1, row)))
        else:
            super().keyPressEvent(event)
