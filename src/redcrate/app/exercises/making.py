"""Make your own: the open page becomes an exercise, whose conditions are picked by pointing at boxes."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import (
    QComboBox,
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPlainTextEdit,
    QPushButton,
    QSplitter,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.screen import Screen
from redcrate.app.sentence_list import SentenceList
from redcrate.app.sheet.looking_sheet import LookingSheet
from redcrate.app.theme.heading import heading
from redcrate.app.theme.look import colour, text_px
from redcrate.app.theme.plain import Label, plain_tip
from redcrate.app.value_field import ValueField
from redcrate.core.edit.typed import typed_px
from redcrate.core.errors import RedCrateError
from redcrate.core.exercises.conditions import Centred, Condition, Inside, ShareLine
from redcrate.core.exercises.exercise import ENDING, Exercise, Hint
from redcrate.core.exercises.making import Material, what_begins, what_is_missing, write_exercise
from redcrate.core.exercises.offering import offered
from redcrate.core.exercises.shelf import SETS
from redcrate.core.exercises.wording import in_words
from redcrate.core.markup.elements import Element
from redcrate.core.session import Change, Session
from redcrate.core.units import format_number

_POINT = "Click a box on the page; Ctrl+click adds a box."
_STATED = Qt.ItemDataRole.UserRole


class MakeExercise(Screen):
    """What it is at the left, the page in the middle, and at the right what can be asked of the boxes pointed at."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.title = QLineEdit()
        self.group = QComboBox()
        self.task = QPlainTextEdit()
        self.asked = QListWidget()
        self.hints = QListWidget()
        self.begins = Label("")
        self.save = QPushButton("Save the exercise…")
        self.back = QPushButton("Back")
        self.sheet = LookingSheet(session, session.views)
        self.pointed = Label("")
        self.offers = SentenceList("Possible conditions")
        self.amount = ValueField()
        self.unit = Label("px")
        self.ask = QPushButton("Add to the task")
        self.say = QLineEdit()
        self.give = QPushButton("Add hint")
        split = QSplitter(Qt.Orientation.Horizontal)
        split.setChildrenCollapsible(False)
        for part, stretch in ((self._left(), 0), (self.sheet, 1), (self._right(), 0)):
            split.addWidget(part)
            split.setStretchFactor(split.count() - 1, stretch)
        split.setSizes([330, 620, 330])
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.addWidget(split)
        session.listen(self._changed)

    # -- parts

    def _left(self) -> QWidget:
        self.title.setAccessibleName("Title")
        self.title.setPlaceholderText("The notice, 636 px wide")
        self.group.addItems(SETS)
        self.group.setEditable(True)
        self.group.setAccessibleName("Set")
        self.task.setAccessibleName("Task")
        self.task.setPlaceholderText("What to do, in one or two sentences")
        self.task.setTabChangesFocus(True)
        self.task.setFixedHeight(text_px(84))
        self.task.setStyleSheet("QPlainTextEdit { font-family: 'Liberation Sans'; }")
        self.asked.setAccessibleName("Conditions of the task")
        self.hints.setAccessibleName("Hints")
        self.begins.setWordWrap(True)
        self.title.textChanged.connect(lambda _: self._renew_state())
        self.task.textChanged.connect(self._renew_state)
        self.group.editTextChanged.connect(lambda _: self._renew_state())
        self.save.clicked.connect(self._choose_place)
        self.back.clicked.connect(self.given_up)
        column = _column()
        for words, field in (("Title", self.title), ("Set", self.group), ("Task", self.task)):
            column.addWidget(_small(words))
            column.addWidget(field)
        for words, items in (("Conditions", self.asked), ("Hints", self.hints)):
            out = QPushButton("Remove")
            out.setToolTip(plain_tip(f"Remove the chosen line from “{words}”"))
            out.setStyleSheet("padding: 2px 6px;")
            out.clicked.connect(lambda _=False, i=items: self._take_out(i))
            row = QHBoxLayout()
            row.addWidget(_small(words))
            row.addStretch()
            row.addWidget(out)
            column.addLayout(row)
            items.setWordWrap(True)
            items.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)  # its lines wrap
            column.addWidget(items, 1)
        column.addWidget(self.begins)
        buttons = QHBoxLayout()
        buttons.addWidget(self.save)
        buttons.addWidget(self.back)
        buttons.addStretch()
        column.addLayout(buttons)
        return _side(heading("Create an exercise", "from this page"), column)

    def _right(self) -> QWidget:
        self.pointed.setWordWrap(True)
        self.pointed.setStyleSheet(f"font-weight: bold; font-size: {text_px(13)}px;")
        self.offers.currentItemChanged.connect(lambda *_: self._offer_chosen())
        self.offers.itemActivated.connect(lambda _: self._ask())
        self.amount.setFixedWidth(text_px(90))
        self.amount.setAccessibleName("Required value")
        self.amount.returnPressed.connect(self._ask)
        self.ask.clicked.connect(self._ask)
        self.say.setAccessibleName("The hint")
        self.say.setPlaceholderText("Text for learners whose page has this mistake")
        self.say.returnPressed.connect(self._give)
        self.give.clicked.connect(self._give)
        column = _column()
        column.addWidget(self.pointed)
        column.addWidget(_small("On the page now:"))
        column.addWidget(self.offers, 1)
        row = QHBoxLayout()
        for part in (self.amount, self.unit, self.ask):
            row.addWidget(part)
        row.addStretch()
        column.addLayout(row)
        column.addWidget(_small("Or the sign of a mistake:"))
        column.addWidget(self.say)
        column.addWidget(self.give)
        return _side(heading("Point at boxes"), column)

    # -- what can be asked

    def _changed(self, change: Change) -> None:
        if change in (Change.PAGE, Change.SELECTION) and self.isVisible():
            self._renew_offers()
            if change is Change.PAGE:
                self._renew_state()

    def _renew_offers(self) -> None:
        views = self._session.views
        chosen = views.selection
        self.pointed.setText(_names(chosen) or _POINT)
        self.offers.clear()
        for stated in offered(views.page, chosen):
            words = in_words(stated)
            self.offers.addItem(_item(stated, f"{words[0].upper()}{words[1:]}"))
        self.offers.fit_rows()
        self.offers.setCurrentRow(0)
        self._offer_chosen()

    def _offer_chosen(self) -> None:
        """Its value can be made another one."""
        stated = _stated(self.offers.currentItem())
        for part in (self.ask, self.give, self.say):
            part.setEnabled(stated is not None)
        value = None if stated is None else _value(stated)
        for field in (self.amount, self.unit):
            field.setVisible(value is not None)
        self.unit.setText("in a row" if isinstance(stated, ShareLine) else "px")
        self.amount.setText("" if value is None else format_number(value))

    def _wanted(self) -> Condition | None:
        """The chosen condition with the value that was typed; None where that is none, which is said."""
        stated = _stated(self.offers.currentItem())
        if stated is None or _value(stated) is None:
            return stated
        try:
            return _with(stated, typed_px(self.amount.text()))
        except RedCrateError as problem:
            self.said.emit(problem.sentence, True)
            return None

    def _ask(self) -> None:
        wanted = self._wanted()
        if wanted is not None and wanted not in self.exercise().conditions:
            self.asked.addItem(_item(wanted, in_words(wanted)))
            self._renew_state()

    def _give(self) -> None:
        """A hint for pages on which the chosen condition holds."""
        wanted, words = self._wanted(), self.say.text().strip()
        if wanted is None:
            return
        if not words:
            self.said.emit("Type the text of the hint first.", True)
            return
        hint = Hint((wanted,), words)
        self.hints.addItem(_item(hint, f"If {in_words(wanted)}: {words}"))
        self.say.clear()

    def _take_out(self, items: QListWidget) -> None:
        items.takeItem(items.currentRow())
        self._renew_state()

    # -- what it is

    def exercise(self) -> Exercise:
        """The exercise as it stands."""
        views = self._session.views
        return Exercise(
            self.title.text().strip(),
            self.group.currentText().strip(),
            " ".join(self.task.toPlainText().split()),
            self._session.document.path,
            views.viewport.width,
            tuple(i.data(_STATED) for i in _items(self.asked)),
            tuple(i.data(_STATED) for i in _items(self.hints)),
        )

    def _material(self) -> Material:
        session = self._session
        document, page = session.document, session.views.page
        start = session.editor.page_as_saved() if document.is_edited else page
        saved = {name: file.source for name, file in document.files.items()}
        now = {name: document.text(name) for name in saved}
        return Material(document.path, document.resources, saved, now, start, page)

    def _renew_state(self) -> None:
        """What is missing yet, or what the learner begins with."""
        try:
            exercise, material = self.exercise(), self._material()
            missing = what_is_missing(exercise, material)
            self.begins.setText(missing or what_begins(exercise, material))
        except RedCrateError as problem:
            missing = problem.sentence
            self.begins.setText(missing)
        self.save.setEnabled(not missing)
        shade = colour("second_ink" if missing else "ink").name()
        self.begins.setStyleSheet(f"color: {shade};")

    def _choose_place(self) -> None:
        name, _ = QFileDialog.getSaveFileName(
            self,
            "Save the exercise in its own folder",
            f"exercise{ENDING}",
            f"Exercises (*{ENDING})",
        )
        if name:
            self.write(Path(name))

    def write(self, file: Path) -> None:
        """Write it, with the page that it begins with; the sentence tells where."""
        try:
            written = write_exercise(file, self.exercise(), self._material())
        except RedCrateError as problem:
            self.said.emit(problem.sentence, True)
            return
        self.said.emit(
            f"Saved {written.name} and its page in {written.parent.name}. Give learners that folder; "
            "they open it on the Exercises screen.",
            False,
        )

    def enter(self) -> None:
        """The page may be another one by now."""
        self._renew_offers()
        self._renew_state()
        self.title.setFocus()


def _value(stated: Condition) -> float | None:
    """What can be made another value; None where nothing can."""
    if isinstance(stated, Inside):
        return None
    if isinstance(stated, ShareLine):
        return float(stated.count)
    return stated.tolerance if isinstance(stated, Centred) else stated.px


def _with(stated: Condition, value: float) -> Condition:
    if isinstance(stated, ShareLine):
        return replace(stated, count=int(value))
    if isinstance(stated, Centred):
        return replace(stated, tolerance=value)
    return stated if isinstance(stated, Inside) else replace(stated, px=value)


def _item(data: object, words: str) -> QListWidgetItem:
    made = QListWidgetItem(words)
    made.setData(_STATED, data)
    return made


def _items(items: QListWidget) -> list[QListWidgetItem]:
    found = (items.item(n) for n in range(items.count()))
    return [i for i in found if i is not None]


def _stated(item: QListWidgetItem | None) -> Condition | None:
    found: Condition | None = None if item is None else item.data(_STATED)
    return found


def _names(elements: Sequence[Element]) -> str:
    """Who is pointed at: those of one name are counted."""
    counts = Counter(e.label for e in elements)
    return ", ".join(name if count == 1 else f"{count} {name}" for name, count in counts.items())


def _small(words: str) -> QLabel:
    label = Label(words)
    label.setStyleSheet(f"color: {colour('second_ink').name()}; font-size: {text_px(11)}px;")
    return label


def _column() -> QVBoxLayout:
    column = QVBoxLayout()
    column.setContentsMargins(12, 0, 12, 12)
    column.setSpacing(5)
    return column


def _side(head: QWidget, column: QVBoxLayout) -> QWidget:
    side = QWidget()
    side.setMinimumWidth(280)
    box = QVBoxLayout(side)
    box.setContentsMargins(0, 0, 0, 0)
    box.setSpacing(0)
    box.addWidget(head)
    box.addLayout(column)
    return side
