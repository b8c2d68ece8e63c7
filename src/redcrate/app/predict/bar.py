"""The bar over the sheet: what is asked about a change that waits, and then what the answer was worth."""

from collections.abc import Callable

from PyQt6.QtCore import Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QKeySequence, QShortcut
from PyQt6.QtWidgets import QApplication, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from redcrate.app.progress import progress
from redcrate.app.theme.look import colour, text_px
from redcrate.app.theme.plain import Label
from redcrate.app.value_field import ValueField
from redcrate.core.edit.typed import typed_px
from redcrate.core.errors import RedCrateError
from redcrate.core.predictions.answering import Answer, Told
from redcrate.core.predictions.question import NumberQuestion, OutcomeQuestion, Question
from redcrate.core.session import Change, Session
from redcrate.core.units import format_px, nearest_from_px


class PredictionBar(QWidget):
    """Nothing is seen of it unless a change waits, or one was just predicted.

    ghost: tells where the ghost is, None where there is none. said: a sentence for the note. asked: a question begins
    to wait.
    """

    said = pyqtSignal(str, bool)
    asked = pyqtSignal(object)

    def __init__(
        self, session: Session, ghost: Callable[[], Answer | None], parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self._session = session
        self._ghost = ghost
        self._shown: object = None  # the question or the outcome that is shown
        self._back: QWidget | None = None  # what had the focus before
        self.change = Label("")
        self.words = Label("")
        self.field = ValueField()
        self.unit = Label("px")
        self.say = QPushButton("Submit")
        self.outcomes = QWidget()
        self.at_once = QPushButton("Show at once")
        self.close_it = QPushButton("Continue")
        self.problem = Label("")
        self.problem.setStyleSheet(f"color: {colour('problem').name()};")
        self.record = Label("")
        self._build()
        self._escape = QShortcut(QKeySequence(Qt.Key.Key_Escape), self)
        self._escape.setContext(Qt.ShortcutContext.WindowShortcut)
        self._escape.activated.connect(self._leave_it)
        self._escape.setEnabled(False)
        session.listen(self._changed)
        self.hide()

    def _build(self) -> None:
        self.words.setAccessibleName("Question")
        for quiet in (self.change, self.record):
            quiet.setStyleSheet(f"color: {colour('second_ink').name()};")
        for label in (self.change, self.words):
            label.setWordWrap(True)
        self.field.setFixedWidth(text_px(80))
        self.field.setAccessibleName("Your prediction in px")
        self.field.setToolTip("A number, or a sum such as 620-54")
        self.field.returnPressed.connect(self._say_number)
        self.say.clicked.connect(self._say)
        self.at_once.setToolTip("Show the page without an answer; it is not counted (Esc)")
        self.at_once.clicked.connect(self._leave_it)
        self.close_it.clicked.connect(self._leave_it)
        self._choices = QHBoxLayout(self.outcomes)
        self._choices.setContentsMargins(0, 0, 0, 0)
        self._choices.setSpacing(6)
        row = QHBoxLayout()
        row.setSpacing(8)
        for part in (self.field, self.unit, self.outcomes, self.say, self.at_once, self.close_it):
            row.addWidget(part)
        row.addWidget(self.problem)
        row.addStretch()
        row.addWidget(self.record)
        box = QVBoxLayout(self)
        box.setContentsMargins(12, 6, 12, 8)
        box.setSpacing(5)
        for label in (self.change, self.words):
            box.addWidget(label)
        box.addLayout(row)

    # -- what is shown

    def _changed(self, change: Change) -> None:
        if change is Change.PREDICTION:
            self._renew()

    def _renew(self) -> None:
        predicting = self._session.predict_first
        now = predicting.waiting or predicting.told
        if now is self._shown:
            return
        self._shown = now
        self.setVisible(now is not None)
        self._escape.setEnabled(predicting.waiting is not None)
        if now is None and predicting.dropped:
            sentence = f"Not applied, because the page changed first: {predicting.dropped}."
            QTimer.singleShot(0, lambda: self.said.emit(sentence, True))  # after all have seen the page
        if predicting.waiting is not None:
            self._back = self._back or QApplication.focusWidget()
            self._ask(predicting.waiting.question, predicting.waiting.said)
            return
        if predicting.told is not None:
            self._tell(predicting.told)
        self._give_back()

    def _ask(self, question: Question, said: str) -> None:
        self.change.setText(f"Not shown yet: {said}")
        self._put(question.words, "ink")
        for label in (self.problem, self.record):
            label.setText("")
        self.field.setText("")
        is_number, has_choices = (isinstance(question, k) for k in (NumberQuestion, OutcomeQuestion))
        self._show_parts(field=is_number, outcomes=has_choices, waits=True)
        self.say.setText("Submit" if is_number else "Submit place")
        if isinstance(question, NumberQuestion):
            self._put(f"{question.words}  Now it is {format_px(question.before.amount)} px.", "ink")
            self.field.setFocus()
        elif isinstance(question, OutcomeQuestion):
            self._offer(question)
        self.asked.emit(question)

    def _put(self, words: str, shade: str) -> None:
        self.words.setText(words)
        self.words.setStyleSheet(
            f"font-weight: bold; font-size: {text_px(14)}px; color: {colour(shade).name()};"
        )

    def _show_parts(self, *, field: bool, outcomes: bool, waits: bool) -> None:
        for part in (self.field, self.unit):
            part.setVisible(field)
        self.outcomes.setVisible(outcomes)
        self.say.setVisible(waits and not outcomes)
        self.at_once.setVisible(waits)
        self.close_it.setVisible(not waits)

    def _offer(self, question: OutcomeQuestion) -> None:
        while (item := self._choices.takeAt(0)) is not None:
            old = item.widget()
            if old is not None:
                old.deleteLater()
        for number, outcome in enumerate(question.choices):
            button = QPushButton(outcome.label)
            button.clicked.connect(lambda _=False, o=outcome: self._answer(o))
            self._choices.addWidget(button)
            button.show()  # before it can have the focus
            if number == 0:
                button.setFocus()

    def _tell(self, told: Told) -> None:
        shade = "ink" if told.is_right else "problem"
        self.change.setText(told.question.why)
        self._put(f"{'✓' if told.is_right else '→'}  {told.sentence}", shade)
        self._show_parts(field=False, outcomes=False, waits=False)
        self.record.setText(progress().predictions().sentence)

    def _give_back(self) -> None:
        """The keyboard goes on where it was."""
        back, self._back = self._back, None
        if back is not None and back.isVisible():
            back.setFocus()

    # -- what is said

    def _say(self) -> None:
        if self.field.isVisible():
            self._say_number()
            return
        place = self._ghost()
        if place is not None:
            self._answer(place)

    def _say_number(self) -> None:
        try:
            number = typed_px(self.field.text().replace("−", "-"))
        except RedCrateError as problem:
            self.problem.setText(problem.sentence)
            self.field.selectAll()
            return
        self._answer(nearest_from_px(number))

    def say_place(self) -> None:
        """The ghost is where the box will be."""
        if self._session.predict_first.waiting is not None and self.say.isVisible():
            self._say()

    def _answer(self, answer: Answer) -> None:
        predicting = self._session.predict_first
        if predicting.waiting is None:
            return
        topic = predicting.waiting.question.topic
        try:
            told = predicting.answer(answer)
        except RedCrateError as problem:
            self.said.emit(problem.sentence, True)
            self._renew()
            return
        try:
            progress().keep_prediction(topic, is_right=told.is_right)
        except RedCrateError as problem:
            self.said.emit(problem.sentence, True)
        self.record.setText(progress().predictions().sentence)

    def _leave_it(self) -> None:
        """Show at once what waits; or let go of what was told."""
        predicting = self._session.predict_first
        try:
            predicting.let_go()
        except RedCrateError as problem:
            self.said.emit(problem.sentence, True)
            self._renew()
