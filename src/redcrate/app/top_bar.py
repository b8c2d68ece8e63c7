"""The bar over all screens: which page is open, the way to each screen, and the commands that are wanted most."""

from collections.abc import Callable, Sequence
from pathlib import Path

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QMenu, QPushButton, QWidget

from redcrate.app.commands.command import Command
from redcrate.app.flowing import Flowing
from redcrate.app.screens import SCREENS
from redcrate.app.theme.look import colour, text_px
from redcrate.app.theme.mark import Mark
from redcrate.app.theme.plain import Label, plain_tip
from redcrate.core.session import Session

_SHORT = {"commands": "Commands", "new": "New page", "open": "Open…", "save": "Save"}
_WANTED = ("commands", "new", "open", "undo", "redo", "save")


class TopBar(QWidget):
    """Its buttons by the names of commands. pressed: such a name. page_wanted: a page that was opened before."""

    pressed = pyqtSignal(str)
    page_wanted = pyqtSignal(object)

    def __init__(self, commands: Sequence[Command], recent: Callable[[], list[Path]]) -> None:
        """recent: the pages that were opened before, the last one first."""
        super().__init__()
        self._commands = {c.name: c for c in commands}
        self._recent = recent
        self.buttons: dict[str, QPushButton] = {}
        self._row = Flowing(self)
        self._row.setContentsMargins(12, 6, 12, 6)
        self._row.setSpacing(6)
        self._row.addWidget(Mark())
        name = Label("Red Crate")
        name.setStyleSheet(f"font-weight: bold; font-size: {text_px(13)}px;")
        self._row.addWidget(name)
        self._file = Label("")
        self._file.setStyleSheet(f"color: {colour('second_ink').name()};")
        self._row.addWidget(self._file)
        self._file.setContentsMargins(0, 0, 12, 0)
        for entry in SCREENS:
            if entry.in_bar:
                self._button(entry.name).setCheckable(True)
        self._row.spring()
        for key in _WANTED:
            self._button(key)
        self.recent_menu = QMenu(self)
        self.recent_menu.aboutToShow.connect(self.fill_recent)

    def _button(self, key: str) -> QPushButton:
        command = self._commands[key]
        button = QPushButton(_SHORT.get(key, command.words))
        button.setObjectName(key)
        tip = f"{command.teaches or command.words}  ({command.keys})" if command.keys else command.words
        button.setToolTip(plain_tip(tip))
        button.clicked.connect(lambda _=False: self.pressed.emit(key))
        if key == "open":
            button.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
            button.customContextMenuRequested.connect(lambda _: self.show_recent())
        self._row.addWidget(button)
        self.buttons[key] = button
        return button

    def show_recent(self) -> None:
        """The pages that were opened last, below the button."""
        button = self.buttons["open"]
        self.recent_menu.popup(button.mapToGlobal(button.rect().bottomLeft()))

    def fill_recent(self) -> None:
        """List them as they are now."""
        self.recent_menu.clear()
        for path in self._recent():
            action = self.recent_menu.addAction(f"{path.parent.name} / {path.name}")
            if action is not None:
                action.triggered.connect(lambda _=False, p=path: self.page_wanted.emit(p))
        if self.recent_menu.isEmpty():
            self.recent_menu.addAction("No recent pages")

    def renew(self, session: Session | None) -> None:
        """Which commands make sense now, what undo and redo would do, and which page is open."""
        for name, button in self.buttons.items():
            button.setEnabled(self._commands[name].enabled())
        if session is None:
            return
        history = session.editor.history
        for key, steps in (("undo", history.done[-1:]), ("redo", history.undone[:1])):
            command = self._commands[key]
            what = f": {steps[0].sentence}" if steps else ""
            self.buttons[key].setToolTip(plain_tip(f"{command.words}{what}  ({command.keys})"))
        edited = " · edited" if session.document.is_edited else ""
        path = session.document.path
        self._file.setText(f"{path.resolve().parent.name} / {path.name}{edited}")
