"""The budget: how the selected box spends its container, term by term, each to be typed into."""

from PyQt6.QtCore import Qt, QTimer, pyqtSignal
from PyQt6.QtWidgets import (
    QButtonGroup,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.bench.budget_strip import AXES, Strip, below_text, sum_words
from redcrate.app.bench.row_strip import RowStrip, row_sum
from redcrate.app.bench.term_cell import TermCell
from redcrate.app.pauses import pause_ms
from redcrate.app.theme.look import colour, dress, text_px
from redcrate.app.theme.plain import Label, plain_tip
from redcrate.core.edit.afterwards import surplus_of, take_off, width_for_outer
from redcrate.core.edit.gives import Gives, Plan
from redcrate.core.edit.patch import Patch
from redcrate.core.edit.range_edits import told_changes
from redcrate.core.edit.range_targets import target_for
from redcrate.core.edit.typed import nudged, typed_px
from redcrate.core.errors import RedCrateError
from redcrate.core.explain import across, down
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.rows import Row, RowKind, row_of, rows_of
from redcrate.core.session import Change, Session
from redcrate.core.units import counted, format_px

_HINT = "type a value · ↑↓ 1 px · Shift 10 · Alt 0.1 · sums such as 620-54"


class Budget(QWidget):
    """The strip under the sheet."""

    wrote = pyqtSignal(object)  # the cell whose value was written

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.message = Label(_HINT)
        self.message.setAccessibleName("Budget message")
        self.message.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        self.message.setWordWrap(
            True
        )  # on two lines, in the room there is: no sentence widens the window
        self.message.setFixedHeight(text_px(32))
        self.message.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self._gives: dict[Gives, QPushButton] = {}
        self.strips = {axis: Strip(axis, self) for axis in AXES}
        self.row = RowStrip(self)
        self.row.chosen.connect(session.views.select)
        self.row.typed.connect(self._outer_typed)
        self.row.gap_typed.connect(self._gap_typed)
        self.afterwards = QPushButton("")
        self.afterwards.clicked.connect(self.take_off)
        self._names: dict[str, tuple[QLabel, QLabel]] = {}
        self._sums: dict[str, QLabel] = {}
        self._empty = Label(
            "Select a block on the sheet or in the outline to see how its width is used."
        )
        self._rows = QWidget()
        self._reaching: Patch | None = None
        self._reach = QTimer(self)  # computed when one pauses in typing
        self._reach.setSingleShot(True)
        self._reach.setInterval(pause_ms(150))
        self._reach.timeout.connect(self._tell_reach)
        self._build()
        for strip in self.strips.values():
            for cell in strip.cells:
                cell.typed.connect(self._typed)
                cell.committed.connect(lambda c, t: self._commit(c, t))
                cell.nudged.connect(self._nudge)
                cell.left.connect(lambda c: None if c.is_wrong else self._say(""))
        session.listen(self._changed)
        self._renew()

    def _build(self) -> None:
        box = QVBoxLayout(self)
        box.setContentsMargins(12, 8, 12, 10)
        box.setSpacing(6)
        top = QHBoxLayout()
        title = Label("Budget")
        title.setStyleSheet(f"font-weight: bold; font-size: {text_px(13)}px;")
        top.addWidget(title)
        question = Label("When padding or border changes")
        question.setStyleSheet(f"color: {colour('second_ink').name()};")
        top.addWidget(question)
        group = QButtonGroup(self)
        for gives in Gives:
            button = QPushButton(gives.label)
            button.setCheckable(True)
            button.setChecked(gives is self._session.editor.gives)
            button.setToolTip(plain_tip(_TEACHES[gives]))
            button.clicked.connect(lambda _=False, g=gives: self._session.editor.set_gives(g))
            group.addButton(button)
            top.addWidget(button)
            self._gives[gives] = button
        top.addWidget(self.afterwards)
        top.addWidget(self.message, 1)
        box.addLayout(top)
        box.addWidget(self._empty)
        rows = QVBoxLayout(self._rows)
        rows.setContentsMargins(0, 0, 0, 0)
        rows.setSpacing(6)
        rows.addLayout(self._row("across", self.strips["across"]))
        rows.addLayout(self._row("row", self.row))
        rows.addLayout(self._row("down", self.strips["down"]))
        box.addWidget(self._rows)

    def _name_row(self, whose: str) -> None:
        """How many stand in which container; a long name is cut with an ellipsis, and whole for readers and the pointer."""
        label = self._names["row"][1]
        label.ensurePolished()
        label.setText(label.fontMetrics().elidedText(whose, Qt.TextElideMode.ElideRight, label.width()))
        label.setToolTip(plain_tip(whose))
        label.setAccessibleName(whose)

    def _row(self, axis: str, strip: QWidget) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(10)
        names = QVBoxLayout()
        names.setSpacing(1)
        names.addStretch()
        head, below = Label(axis.capitalize()), Label("")
        head.setStyleSheet(f"font-weight: bold; font-size: {text_px(13)}px;")
        below.setStyleSheet(f"color: {colour('second_ink').name()}; font-size: {text_px(11)}px;")
        for label in (head, below):
            label.setFixedWidth(text_px(96))
            names.addWidget(label)
        names.addStretch()
        self._names[axis] = (head, below)
        row.addLayout(names)
        row.addWidget(strip, 1)
        total = Label("")
        total.setFixedWidth(text_px(116))
        total.setTextFormat(Qt.TextFormat.RichText)
        total.setAccessibleName(f"{axis} sum")
        self._sums[axis] = total
        row.addWidget(total)
        return row

    def sum_text(self, axis: str) -> str:
        """The sum shown beside an axis."""
        return self._sums[axis].text()

    def cell(self, axis: str, part: str, side: str = "") -> TermCell:
        """The cell of a term."""
        return next(c for c in self.strips[axis].cells if (c.part, c.side) == (part, side))

    # -- showing

    def _changed(self, change: Change) -> None:
        if change is Change.GIVES:
            self._say("")
            for gives, button in self._gives.items():
                button.setChecked(gives is self._session.editor.gives)
            self._mark_givers()
        elif change in (Change.PAGE, Change.SELECTION):
            self._say("")  # what was said of the state before no longer applies
            if change is Change.SELECTION:
                for strip in self.strips.values():
                    for cell in strip.cells:
                        cell.set_wrong(False)
                        cell.field.setText("")
            self._renew()

    def _renew(self) -> None:
        """Show the equations of the selected element."""
        element = self._session.views.selected
        page = self._session.views.page
        wide = across(page, element) if element is not None else None
        high = down(page, element) if element is not None else None
        there = wide is not None and high is not None and bool(wide.terms)
        self._rows.setVisible(there)
        self._empty.setVisible(not there)
        self.afterwards.setVisible(False)
        if not there or wide is None or high is None or element is None:
            if element is not None:
                self._empty.setText(f"{element.label} has no box at this width.")
            return
        editable = page.source.markup.start_tag(element) is not None
        for axis, equation in (("across", wide), ("down", high)):
            self.strips[axis].show_equation(equation, editable=editable)
            self._names[axis][1].setText(below_text(equation))
            self._names[axis][1].setToolTip(plain_tip(f"in {equation.container}"))
            self._sums[axis].setText(sum_words(equation))
        row = row_of(page, element) or _row_inside(page, element)
        self.row.show_row(row, element)
        self._sums["row"].setText(row_sum(page, row))
        self._sums["row"].setToolTip(plain_tip(row.shared if row else ""))
        self._name_row(f"{len(row.items)} in {row.container.label}" if row else "")
        surplus = surplus_of(page, element)
        self.afterwards.setVisible(surplus is not None)
        if surplus is not None:
            self.afterwards.setText(f"Subtract {format_px(surplus.amount)} px from width")
            self.afterwards.setToolTip(plain_tip(surplus.sentence))
        self._mark_givers()

    def _mark_givers(self) -> None:
        """Mark the terms that give way when padding or border changes."""
        part = {Gives.CONTENT: "content", Gives.MARGINS: "margin"}.get(self._session.editor.gives, "")
        for strip in self.strips.values():
            for cell in strip.cells:
                cell.set_gives(cell.part == part)

    def take_off(self) -> None:
        """Give the surplus of padding and border back: the border box becomes the width that was given."""
        session, element = self._session, self._session.views.selected
        if element is None:
            return
        try:
            plan = take_off(
                session.views.page, session.document.texts(), element, writes_to=session.editor.place
            )
            done = session.predict_first.offer(plan.patch, said=plan.asked)
        except RedCrateError as problem:
            self._say(problem.sentence, wrong=True)
            return
        self._wrote(plan, done)

    def _wrote(self, plan: Plan, done: bool, of: str = "") -> None:
        """What was written; or that it waits for a prediction."""
        wrote = f"Changed {'; '.join(plan.lines)}{of}. {plan.note}".strip()
        self._say(wrote if done else "First answer the question above the sheet: what will it do?")

    def _outer_typed(self, element: Element, text: str) -> None:
        """A new outer width of a block of the row: its width takes the difference."""
        session = self._session
        try:
            width = width_for_outer(session.views.page, element, typed_px(text))
            plan = session.editor.plan(element, "width", ("",), f"{width:g}px")
            done = session.predict_first.offer(plan.patch, said=plan.asked)
        except RedCrateError as problem:
            self._say(problem.sentence, wrong=True)
            self._renew()
            return
        self._wrote(plan, done, f" of {element.label}")

    def _gap_typed(self, container: Element, text: str) -> None:
        """A new gap of a flex or grid container, between its columns."""
        session = self._session
        try:
            plan = session.editor.plan(container, "column-gap", ("",), text)
            done = session.predict_first.offer(plan.patch, said=plan.asked)
        except RedCrateError as problem:
            self._say(problem.sentence, wrong=True)
            self._renew()
            return
        self._wrote(plan, done, f" of {container.label}")

    # -- editing

    def _plan(self, cell: TermCell, text: str) -> Plan:
        element = self._session.views.selected
        assert element is not None
        part = cell.part
        if part == "content":
            part = "width" if cell.axis == "across" else "height"
        return self._session.editor.plan(element, part, (cell.side,), text)

    def _typed(self, cell: TermCell, text: str) -> None:
        """While typing: say what Enter will write, or what is wrong."""
        if not text.strip():
            self._say("")
            return
        try:
            plan = self._plan(cell, text)
        except RedCrateError as problem:
            cell.set_wrong(True)
            self._say(problem.sentence, wrong=True)
            return
        cell.set_wrong(False)
        if self._session.predict_first.on:
            self._say(f"Enter first asks what this will do: {plan.asked}.")
            return
        self._say(f"Enter changes {'; '.join(plan.lines)}{self._into(cell)}. {plan.note}".strip())
        self._reaching = plan.patch if self._session.editor.window is not None else None
        if self._reaching is not None:
            self._reach.start()

    def _tell_reach(self) -> None:
        """At which of the page's widths a typed value for a range would change boxes."""
        patch, session = self._reaching, self._session
        if patch is None:
            return
        try:
            told = told_changes(session.editor.changes_at(patch, session.widths))
        except RedCrateError:
            return
        self._say(f"{self.message.text()} {told}")

    def _into(self, cell: TermCell) -> str:
        """Where it is written, and how many elements that touches."""
        element = self._session.views.selected
        if element is None or cell.term is None:
            return ""
        target = target_for(
            self._session.views.page, element, cell.term.longhand, self._session.editor.place
        )
        count = len(target.touches)
        where = f", {target.place}" if self._session.editor.window is not None and target.place else ""
        return f" in {target.label}{where} ({counted(count, '1 element', '{count} elements')})"

    def _commit(self, cell: TermCell, text: str, merges: str = "") -> None:
        """Write what was typed; what is wrong stays in its cell and nothing changes."""
        try:
            plan = self._plan(cell, text)
            cell.set_wrong(False)
            cell.field.setText(cell._shown)
            done = self._session.predict_first.offer(plan.patch, merges=merges, said=plan.asked)
        except RedCrateError as problem:
            cell.set_wrong(True)
            self._say(problem.sentence, wrong=True)
            return
        self._wrote(plan, done)
        self.wrote.emit(cell)

    def _nudge(self, cell: TermCell, step: float) -> None:
        """An arrow key: one step more or less, in the value's own unit."""
        if cell.term is None or cell.field.isReadOnly():
            return
        value = nudged(cell.term.written, cell.term.used / 64, step)
        cell.field.setText(value)
        self._commit(cell, value, f"held {cell.axis} {cell.part} {cell.side}")

    def _say(self, sentence: str, *, wrong: bool = False) -> None:
        """The one line beside the budget."""
        self._reaching = None
        self.message.setText(sentence or _HINT)
        self.message.setToolTip(plain_tip(sentence))
        shade = colour("problem" if wrong else "ink" if sentence else "second_ink").name()
        dress(self.message, f"color: {shade};")


def _row_inside(page: Page, element: Element) -> Row | None:
    """The first row of a flex or grid container that has its own line to itself."""
    inside = (r for r in rows_of(page, element) if r.kind in (RowKind.FLEX, RowKind.GRID))
    return next(inside, None)


_TEACHES = {
    Gives.BOX: "As in CSS: padding and border are added to the width.",
    Gives.CONTENT: "The border box keeps its width; the content absorbs the change.",
    Gives.MARGINS: "The margin box keeps its width; the margins absorb the change.",
}
