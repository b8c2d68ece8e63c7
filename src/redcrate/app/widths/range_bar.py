"""Where edits go on the Widths screen: to all widths, or to a range that the page has rules for, or to a new one."""

from PyQt6.QtWidgets import QButtonGroup, QHBoxLayout, QPushButton, QWidget

from redcrate.app.theme.look import text_px
from redcrate.app.theme.plain import Label, plain_tip
from redcrate.app.value_field import ValueField
from redcrate.core.edit.range_rules import windows_offered
from redcrate.core.edit.typed import typed_px
from redcrate.core.errors import ValueNotUnderstood
from redcrate.core.session import Change, Session
from redcrate.core.style.window_ranges import WindowRange, range_between


class RangeBar(QWidget):
    """A row of buttons, one of them down; and two fields for a range that there is no rule for yet."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self._group = QButtonGroup(self)
        self._offered: list[WindowRange | None] = []
        self.buttons: dict[WindowRange | None, QPushButton] = {}
        self._row = QHBoxLayout()
        self._row.setSpacing(4)
        self.least, self.most = ValueField(), ValueField()
        for field, what in ((self.least, "from"), (self.most, "up to")):
            field.setFixedWidth(text_px(64))
            field.setPlaceholderText("px")
            field.setAccessibleName(f"New range {what}, px; empty: no limit")
            field.returnPressed.connect(self._take)
        self.new = QPushButton("New range…")
        self.new.setCheckable(True)
        self.new.setToolTip("Edits go to a range of viewport widths")
        self.new.toggled.connect(self._open)
        self.take = QPushButton("Use range")
        self.take.clicked.connect(self._take)
        self.wrong = Label("")
        self._fields = (Label("from"), self.least, Label("up to"), self.most, self.take, self.wrong)
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 2, 12, 4)
        row.setSpacing(6)
        row.addWidget(Label("Edits go to"))
        row.addLayout(self._row)
        row.addWidget(self.new)
        for widget in self._fields:
            row.addWidget(widget)
            widget.setVisible(False)
        row.addStretch()
        session.listen(self._changed)
        self._renew()

    def _changed(self, change: Change) -> None:
        if change in (Change.PAGE, Change.GIVES):
            self._renew()

    def _renew(self) -> None:
        wanted = [None, *windows_offered(self._session.views.page, self._session.editor.window)]
        if wanted != self._offered:
            self._offered = wanted
            for button in self.buttons.values():
                self._group.removeButton(button)
                button.setParent(None)
                button.deleteLater()
            self.buttons = {window: self._button(window) for window in wanted}
        self.buttons[self._session.editor.window].setChecked(True)

    def _button(self, window: WindowRange | None) -> QPushButton:
        button = QPushButton("all widths" if window is None else window.words)
        button.setCheckable(True)
        told = "all widths" if window is None else f"widths {window.words} px"
        button.setToolTip(plain_tip(f"Edits apply to {told}"))
        button.clicked.connect(lambda _=False, w=window: self._session.editor.set_window(w))
        self._group.addButton(button)
        self._row.addWidget(button)
        return button

    def _open(self, wanted: bool) -> None:
        for widget in self._fields:
            widget.setVisible(wanted)
        if wanted:
            self.least.setFocus()

    def _take(self) -> None:
        """The range that the fields say."""
        try:
            fields = (self.least, self.most)
            ends = [typed_px(f.text()) if f.text().strip() else None for f in fields]
        except ValueNotUnderstood:
            self.wrong.setText("Type a width in px, such as 600.")
            return
        try:
            window = range_between(*ends)
        except ValueError as problem:
            self.wrong.setText(str(problem))
            return
        if window.is_all:
            self.wrong.setText("Type at least one limit, in px.")
            return
        self.wrong.setText("")
        self.new.setChecked(False)
        self._session.editor.set_window(window)
