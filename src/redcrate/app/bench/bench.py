"""The bench: outline on the left, sheet in the middle, selected box on the right, budget below."""

from pathlib import Path

from PyQt6.QtCore import Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import (
    QButtonGroup,
    QHBoxLayout,
    QPushButton,
    QSplitter,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.bench.arranging import Arranging
from redcrate.app.bench.budget import Budget
from redcrate.app.bench.classes_table import ClassesTable
from redcrate.app.bench.findings_list import FindingsList
from redcrate.app.bench.outline import Outline
from redcrate.app.bench.selected import SelectedPanel
from redcrate.app.bench.sides import Side
from redcrate.app.bench.start_guide import StartGuide
from redcrate.app.bench.steps_list import StepsList
from redcrate.app.chooser import Chooser, labels_of
from redcrate.app.comp.panel import CompPanel
from redcrate.app.findings.search import FindingsSearch
from redcrate.app.flowing import Flowing
from redcrate.app.painting.tint import Tint
from redcrate.app.predict.bar import PredictionBar
from redcrate.app.screen import Screen
from redcrate.app.settings import Settings
from redcrate.app.sheet.sheet import Sheet
from redcrate.app.theme.look import colour, text_px
from redcrate.app.theme.plain import Label, plain_tip
from redcrate.app.value_field import ValueField
from redcrate.core.edit.typed import typed_px
from redcrate.core.errors import RedCrateError, ValueNotUnderstood
from redcrate.core.predictions.question import PlaceQuestion
from redcrate.core.session import Change, Session
from redcrate.core.units import format_number
from redcrate.demo_pages import is_demo_text

_FOLDS = 1120  # px at the usual text size: a bench that is narrower has the panel of the selected element among its lists


class WidthBar(QWidget):
    """The widths that the page is seen at, a field for any other, chains and zoom."""

    said = pyqtSignal(str, bool)

    def __init__(self, session: Session, sheet: Sheet, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self._sheet = sheet
        row = Flowing(self)
        row.setContentsMargins(12, 6, 12, 6)
        row.setSpacing(6)
        row.addWidget(Label("Width"))
        self.buttons = QButtonGroup(self)
        widths = QWidget()
        self._widths = QHBoxLayout(widths)
        self._widths.setContentsMargins(0, 0, 0, 0)
        self._widths.setSpacing(6)
        row.addWidget(widths)
        self.field = ValueField()
        self.field.setFixedWidth(text_px(66))
        self.field.setFixedHeight(text_px(26))
        self.field.setAccessibleName("Viewport width in px")
        self.field.setToolTip("Another viewport width, in px")
        self.field.returnPressed.connect(self._typed)
        row.addWidget(self.field)
        row.addWidget(Label("px"))
        self.problem = Label("")
        self.problem.setStyleSheet(f"color: {colour('problem').name()};")
        row.addWidget(self.problem)
        row.spring()
        self._add_switches(row)
        self.tint = Chooser("Tint", labels_of(Tint))
        self.tint.setSizeAdjustPolicy(Chooser.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.tint.setMinimumContentsLength(8)
        self.tint.setToolTip("Tint: colours that show blocks; the files do not change")
        self.tint.taken.connect(lambda: sheet.set_tint(self.tint.chosen))
        row.addWidget(self.tint)
        self.fit = QPushButton("Fit")
        self.fit.setToolTip("Scale the page to the sheet's width")
        self.fit.clicked.connect(lambda: sheet.set_zoom(None))
        row.addWidget(self.fit)
        self.zoom = QPushButton("100 %")
        self.zoom.setToolTip("True scale; Ctrl+wheel for other scales")
        self.zoom.clicked.connect(lambda: sheet.set_zoom(1.0))
        row.addWidget(self.zoom)
        sheet.zoom_changed.connect(lambda s: self.zoom.setText(f"{s * 100:.0f} %"))
        session.listen(self._changed)
        self._lay_buttons()
        self._renew()

    def _add_switches(self, row: Flowing) -> None:
        """What is asked before, and what is drawn beside, the selected box."""
        self.predicts = QPushButton("Predict first")
        self.predicts.setCheckable(True)
        self.predicts.setToolTip("Answer what a change will do before it is shown; Esc shows it at once")
        self.predicts.toggled.connect(self._switch)
        row.addWidget(self.predicts)
        self.chains = QPushButton("Dimensions")
        self.chains.setCheckable(True)
        self.chains.setChecked(True)
        self.chains.setToolTip("Dimensions: the measured lines beside the selected box")
        self.chains.toggled.connect(self._show_chains)
        row.addWidget(self.chains)

    def _lay_buttons(self) -> None:
        """A button for each width that the page is looked at."""
        for button in self.buttons.buttons():
            self.buttons.removeButton(button)
            button.setParent(None)
            button.deleteLater()
        for width in self._session.widths:
            button = QPushButton(format_number(width))
            button.setCheckable(True)
            button.setToolTip(plain_tip(f"Show the page at {format_number(width)} px"))
            button.clicked.connect(lambda _=False, w=width: self._see(w))
            self.buttons.addButton(button)
            self._widths.addWidget(button)

    def _switch(self, on: bool) -> None:
        try:
            self._session.predict_first.switch(on)
        except RedCrateError as problem:
            self.said.emit(problem.sentence, True)

    def _show_chains(self, shown: bool) -> None:
        self._sheet.shows_chains = shown
        viewport = self._sheet.viewport()
        if viewport is not None:
            viewport.update()

    def _typed(self) -> None:
        """A width was typed: px, between 1 and 20000."""
        try:
            width = typed_px(self.field.text())
        except ValueNotUnderstood:
            width = 0.0
        if not 1 <= width <= 20_000:
            self.problem.setText(f"“{self.field.text()}” is not a width. Type px from 1 to 20000.")
            return
        self._see(width)
        self._renew()

    def _see(self, width: float) -> None:
        try:
            self._session.views.set_width(width)
        except RedCrateError as problem:
            self.said.emit(problem.sentence, True)

    def _changed(self, change: Change) -> None:
        if change is Change.WIDTHS:
            self._lay_buttons()
        if change in (Change.PAGE, Change.WIDTHS):
            self._renew()

    def _renew(self) -> None:
        width = self._session.views.viewport.width
        self.problem.setText("")
        self.field.setText(format_number(width))
        self.buttons.setExclusive(False)
        for button, known in zip(self.buttons.buttons(), self._session.widths, strict=True):
            button.setChecked(known == width)
        self.buttons.setExclusive(any(w == width for w in self._session.widths))


class Bench(Screen):
    """The main screen over one session."""

    def __init__(self, session: Session, search: FindingsSearch, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.session = session
        # From the outside in: a widget that gets another parent is dressed anew, with all that is in it.
        self.splitter = QSplitter(Qt.Orientation.Horizontal, self)
        left, middle = QWidget(self.splitter), QWidget(self.splitter)
        self.sides = QStackedWidget(left)
        self.sheet = Sheet(session, middle)
        self.outline = Outline(session, self.sides)
        self.classes = ClassesTable(session, self.sides)
        self.steps = StepsList(session, self.sides)
        self.findings = FindingsList(session, search, self.sides)
        self.arranging = Arranging(session, self.sides)
        self.comp = CompPanel(session, self.sheet.comp, self.sheet.measure_tool, self.sides)
        self.prediction = PredictionBar(session, lambda: self.sheet.ghost_tool.ghost, middle)
        self.selected = SelectedPanel(session, self.splitter)
        self.budget = Budget(session, self)
        self.guide = StartGuide(self)
        self.guide.hide()
        self.width_bar = WidthBar(session, self.sheet, middle)
        self._connect()
        self._fill_left(left)
        column = QVBoxLayout(middle)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.width_bar)
        column.addWidget(self.prediction)
        column.addWidget(self.sheet, 1)
        self.splitter.setHandleWidth(1)
        for widget, stretch in ((left, 0), (middle, 1), (self.selected, 0)):
            self.splitter.addWidget(widget)
            self.splitter.setStretchFactor(self.splitter.indexOf(widget), stretch)
        self.splitter.setSizes([text_px(248), 732, text_px(300)])
        left.setMinimumWidth(180)
        self.selected.setMinimumWidth(text_px(300))
        self._folded = False
        self._stack_up()
        session.listen(self._changed)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """In a narrow window the panel of the selected element is one of the lists at the left."""
        folded = self.width() < text_px(_FOLDS)
        if folded == self._folded:
            return
        self._folded = folded
        self.side_buttons[Side.SELECTED].setVisible(folded)
        if folded:
            self.sides.addWidget(self.selected)
        else:
            self.splitter.insertWidget(2, self.selected)
            self.selected.show()
            if self.side_buttons[Side.SELECTED].isChecked():
                self.show_side(Side.OUTLINE)

    def _connect(self) -> None:
        """What one part says, another one does."""
        for part in (
            self.findings,
            self.arranging,
            self.comp,
            self.outline,
            self.sheet,
            self.prediction,
            self.width_bar,
        ):
            part.said.connect(self.said)
        self.comp.repainted.connect(self.sheet.renew_picture)
        self.sheet.comp_dropped.connect(self._comp_dropped)
        self.sheet.held.connect(self.held)
        self.sheet.placed.connect(self.prediction.say_place)
        self.prediction.asked.connect(self._asked)
        self.findings.lit.connect(self.sheet.light_up)
        self.classes.lit.connect(self.sheet.light_up)
        self.findings.place_wanted.connect(self._show_place)
        self.findings.renewed.connect(self._findings_renewed)
        self.findings.all_wanted.connect(lambda: self.wanted.emit("findings", None))
        self.selected.light_up = self.sheet.light_up
        self.selected.place_wanted.connect(self._show_place)
        self.selected.range_wanted.connect(lambda: self.wanted.emit("widths", "new range"))
        self._guide_the_way()

    def _stack_up(self) -> None:
        """Panels above, the budget below a thick rule."""
        rule = QWidget(self)
        rule.setFixedHeight(2)
        rule.setStyleSheet(f"background: {colour('ink').name()};")
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addWidget(self.splitter, 1)
        box.addWidget(rule)
        box.addWidget(self.guide)
        box.addWidget(self.budget)

    def _guide_the_way(self) -> None:
        """The guide's steps: a block clicked on the sheet, its left padding entered, 30 written there."""
        padding = self.budget.cell("across", "padding", "left")
        self.sheet.picked.connect(lambda: self.guide.did(1))
        padding.entered.connect(lambda _: self.guide.did(2))
        self.budget.wrote.connect(lambda cell: self.guide.did(3) if cell is padding else None)

    def _fill_left(self, left: QWidget) -> None:
        """Outline, classes and steps, one at a time."""
        column = QVBoxLayout(left)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        row = Flowing()
        row.setContentsMargins(12, 8, 12, 0)
        row.setSpacing(4)
        group = QButtonGroup(self)
        self.side_buttons: dict[Side, QPushButton] = {}
        for side in Side:
            button = QPushButton(side.label, left)
            button.setCheckable(True)
            button.setStyleSheet("padding: 3px 6px;")
            button.clicked.connect(lambda _=False, s=side: self.show_side(s))
            group.addButton(button)
            row.addWidget(button)
            self.side_buttons[side] = button
        for widget in self._lists():
            self.sides.addWidget(widget)
        self.side_buttons[Side.SELECTED].hide()
        column.addLayout(row)
        column.addWidget(self.sides)
        self.show_side(Side.OUTLINE)

    def _lists(self) -> tuple[QWidget, ...]:
        """In the order of their buttons; the panel of the selected element comes last, where it is one of them."""
        return (self.outline, self.findings, self.classes, self.arranging, self.steps, self.comp)

    def _show_place(self, file: str, line: int) -> None:
        """Show where something was written."""
        self.wanted.emit("source", (file, line))

    def _comp_dropped(self, path: Path) -> None:
        self.show_side(Side.COMP)
        self.comp.take(path)

    def enter(self) -> None:
        """Keys go to the sheet."""
        self.sheet.setFocus()

    def leave(self) -> None:
        """A change that waits for a prediction is shown."""
        try:
            self.session.predict_first.show_at_once()
        except RedCrateError as problem:
            self.said.emit(problem.sentence, True)

    def _asked(self, question: object) -> None:
        """What is asked about comes into sight; a ghost is moved on the sheet."""
        if isinstance(question, PlaceQuestion):
            self.sheet.show_element(self.session.views.page.elements[question.element.index])
            self.sheet.setFocus()

    def notes_over(self) -> QWidget:
        """The sheet: nothing is moved by a note."""
        return self.sheet

    def forget_pictures(self) -> None:
        """Read the page's pictures again."""
        self.sheet.forget_pictures()

    def _findings_renewed(self) -> None:
        """The number on the button, and the marks in the outline."""
        count = len(self.findings.findings)
        button, label = self.side_buttons[Side.FINDINGS], Side.FINDINGS.label
        button.setText(f"{label} {count}" if count else label)
        button.setToolTip(plain_tip(self.findings.counts() or "No findings at this width"))
        self.outline.mark(self.findings.elements)

    def show_side(self, side: Side) -> None:
        """Show one of the lists of the left column."""
        self.side_buttons[side].setChecked(True)
        self.sides.setCurrentIndex(list(self.side_buttons).index(side))

    def go_to_finding(self, step: int) -> None:
        """Choose the next finding (1) or the previous one (-1) in the list."""
        self.show_side(Side.FINDINGS)
        self.findings.go(step)

    def keep(self, settings: Settings) -> None:
        """Remember how the panels are laid out."""
        settings.keep_bytes("bench", self.splitter.saveState().data())

    def restore(self, settings: Settings) -> None:
        """Lay the panels out as they were."""
        asks = not settings.kept.knows_the_way  # its steps speak of the demo page
        self.guide.setVisible(asks and is_demo_text(self.session.views.page.source.markup.source.text))
        self.guide.done.connect(lambda: settings.keep(knows_the_way=True))
        predicts = self.width_bar.predicts  # for the pages of this session, not silently in the next one
        predicts.setChecked(settings.predicts_first)
        predicts.toggled.connect(lambda on: setattr(settings, "predicts_first", on))
        state = settings.bytes_of("bench")
        if state:
            self.splitter.restoreState(state)

    def _changed(self, change: Change) -> None:
        if change is Change.SELECTION and self.session.views.selected is not None:
            self.sheet.show_element(self.session.views.selected)
            QTimer.singleShot(0, self._keep_in_view)  # the budget may have taken room from the sheet

    def _keep_in_view(self) -> None:
        if self.session.views.selected is not None:
            self.sheet.show_element(self.session.views.selected)
