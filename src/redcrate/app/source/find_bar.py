"""Finding words in the text that is shown, and replacing them."""

import re
from collections.abc import Callable

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLineEdit, QPushButton, QWidget

from redcrate.app.source.editor import SourceEditor
from redcrate.app.theme.plain import Label, plain_tip

Place = tuple[int, int]


class FindBar(QWidget):
    """The bar over the text. replaced: the places, what stood there, and what is to stand there."""

    replaced = pyqtSignal(list, str, str)

    def __init__(self, editor: Callable[[], SourceEditor], take_typing: Callable[[], None]) -> None:
        """editor: the one that is shown now. take_typing: makes what was typed a step."""
        super().__init__()
        self._editor = editor
        self._take_typing = take_typing
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(12, 6, 12, 6)
        self.sought = self._field("Find")
        self.sought.returnPressed.connect(lambda: self.find_next())
        self.instead = self._field("Replace with")
        self.count = Label("")
        self._row.addWidget(self.sought)
        for name, tip, what in (
            ("Previous", "Previous match", lambda: self.find_next(backwards=True)),
            ("Next", "Next match", lambda: self.find_next()),
        ):
            self._button(name, what).setToolTip(plain_tip(tip))
        self._row.addWidget(self.instead)
        self.replace_one = self._button("Replace", lambda: self.replace(everywhere=False))
        self.replace_all = self._button("Replace all", lambda: self.replace(everywhere=True))
        self._row.addWidget(self.count, 1)
        self.sought.textChanged.connect(lambda: self.count.setText(self._found_sentence()))

    def _field(self, name: str) -> QLineEdit:
        field = QLineEdit()
        field.setPlaceholderText(name)
        field.setAccessibleName(name)
        return field

    def _button(self, name: str, what: Callable[[], object]) -> QPushButton:
        button = QPushButton(name)
        button.clicked.connect(lambda _: what())
        self._row.addWidget(button)
        return button

    def add_button(self, button: QPushButton) -> None:
        """One more at the end of the bar."""
        self._row.addWidget(button)

    def _places(self) -> list[Place]:
        sought = self.sought.text()
        if not sought:
            return []
        return [m.span() for m in re.finditer(re.escape(sought), self._editor().text(), re.IGNORECASE)]

    def _found_sentence(self) -> str:
        count = len(self._places())
        return f"{count} place{'' if count == 1 else 's'}" if self.sought.text() else ""

    def find_next(self, *, backwards: bool = False) -> bool:
        """Go to the next place of what is sought, round the end; whether there is one."""
        places = self._places()
        self.count.setText(self._found_sentence())
        if not places:
            return False
        editor = self._editor()
        at = editor.caret_offset()
        if backwards:
            before = [p for p in places if p[1] < at]
            start, end = (before or places)[-1]
        else:
            start, end = next((p for p in places if p[0] >= at), places[0])
        editor.go_to(start, end)
        return True

    def replace(self, *, everywhere: bool) -> None:
        """Replace the place that is selected (or the next one), or all of them."""
        self._take_typing()
        places = self._places()
        if not places:
            self.count.setText("no match")
            return
        if not everywhere:
            at = self._editor().caret_offset()
            places = [next((p for p in places if p[1] >= at), places[0])]
        self.replaced.emit(places, self.sought.text(), self.instead.text())
        self.count.setText(f"{len(places)} replaced")
