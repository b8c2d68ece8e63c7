"""The compact row of choices: display, float, clear and so on; each shows what it would change first."""

from PyQt6.QtCore import QEvent, QObject, pyqtSignal
from PyQt6.QtWidgets import QComboBox, QGridLayout, QVBoxLayout, QWidget

from redcrate.app.theme.look import colour, text_px
from redcrate.app.theme.plain import Label
from redcrate.core.edit.choices import CHOICES, choice_patch, current_choice, moved_sentence, what_moves
from redcrate.core.edit.patch import Patch
from redcrate.core.errors import RedCrateError
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.session import Session


class Choice(QComboBox):
    """One choice; its list tells which value is looked at, and when the list goes away."""

    looked_at = pyqtSignal(str)
    left = pyqtSignal()

    def __init__(self, name: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.name = name
        self.setAccessibleName(name)
        self.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.setMinimumContentsLength(8)
        self.textHighlighted.connect(self.looked_at)
        choices = self.view()
        if choices is not None:
            choices.installEventFilter(self)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """The list goes away, by whatever key or click: nothing is looked at any more."""
        if event is not None and event.type() is QEvent.Type.Hide:
            self.left.emit()
        return super().eventFilter(watched, event)


class ChoicesRow(QWidget):
    """All choices of the selected element."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.choices: dict[str, Choice] = {}
        self.told = Label("")
        self.told.setWordWrap(True)
        self.told.setAccessibleName("What the choice would change")
        grid = QGridLayout()
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setHorizontalSpacing(6)
        grid.setVerticalSpacing(3)
        for number, name in enumerate(CHOICES):
            choice = Choice(name)
            choice.looked_at.connect(lambda value, n=name: self.look_at(n, value))
            choice.left.connect(lambda: self._tell("", None))
            choice.textActivated.connect(lambda value, n=name: self.take(n, value))
            label = Label(name)
            label.setStyleSheet(f"color: {colour('second_ink').name()}; font-size: {text_px(11)}px;")
            row, column = divmod(number, 2)
            grid.addWidget(label, 2 * row, column)
            grid.addWidget(choice, 2 * row + 1, column)
            self.choices[name] = choice
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.addLayout(grid)
        box.addWidget(self.told)

    def renew(self) -> None:
        """Show the values of the selected element."""
        element = self._session.views.selected
        if element is None:
            return
        for name, choice in self.choices.items():
            now = current_choice(self._session.views.page, element, name)
            values = list(dict.fromkeys((*CHOICES[name], now)))
            choice.blockSignals(True)
            if [choice.itemText(i) for i in range(choice.count())] != values:
                choice.clear()
                choice.addItems(values)
            choice.setCurrentText(now)
            choice.blockSignals(False)
        self._tell("", None)

    def look_at(self, name: str, value: str) -> None:
        """Show on the sheet what a value would change, and say it."""
        session, element = self._session, self._session.views.selected
        if element is None or value == current_choice(session.views.page, element, name):
            self._tell("", None)
            return
        if session.predict_first.on:
            self._tell(f"Set {name} to {value}: first answer what it will do.", None)
            return
        try:
            patch = self._patch(element, name, value)
            page = session.editor.page_after(patch)
        except RedCrateError as problem:
            self._tell(problem.sentence, None)
            return
        self._tell(
            f"{name} {value}: {moved_sentence(what_moves(session.views.page, page), element)}.", page
        )

    def _patch(self, element: Element, name: str, value: str) -> Patch:
        session = self._session
        page, texts = session.views.page, session.document.texts()
        return choice_patch(page, texts, element, name, value, session.editor.place)

    def take(self, name: str, value: str) -> None:
        """Write a value, as one step."""
        session, element = self._session, self._session.views.selected
        self._tell("", None)
        if element is None or value == current_choice(session.views.page, element, name):
            return
        try:
            session.predict_first.offer(self._patch(element, name, value))
        except RedCrateError as problem:
            self._tell(problem.sentence, None)

    def _tell(self, sentence: str, page: Page | None) -> None:
        self.told.setText(sentence)
        self.told.setVisible(bool(sentence))
        self._session.views.preview(self, page)
