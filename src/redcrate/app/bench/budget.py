"""The budget: how the selected box spends its container, term by term, each to be typed into."""

from PyQt6.QtCore import QSize, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import (
    QButtonGroup,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.bench.row_strip import RowStrip, row_sum
from redcrate.app.bench.term_cell import TermCell
from redcrate.app.pauses import pause_ms
from redcrate.app.theme.look import colour, dress, part_brush
from redcrate.app.theme.plain import Label, plain_tip
from redcrate.core.diagram.codes import Fill
from redcrate.core.edit.afterwards import surplus_of, take_off, width_for_outer
from redcrate.core.edit.gives import Gives, Plan
from redcrate.core.edit.patch import Patch
from redcrate.core.edit.range_edits import told_changes
from redcrate.core.edit.range_targets import target_for
from redcrate.core.edit.typed import nudged, typed_px
from redcrate.core.errors import RedCrateError
from redcrate.core.explain import Equation, across, down
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.rows import Row, RowKind, row_of, rows_of
from redcrate.core.session import Change, Session
from redcrate.core.units import ZERO, format_px

_HINT = "type a value · ↑↓ 1 px · Shift 10 · Alt 0.1 · 620-54 is worked out"
_AXES = {
    "across": (
        ("margin", "left"),
        ("border", "left"),
        ("padding", "left"),
        ("content", ""),
        ("padding", "right"),
        ("border", "right"),
        ("margin", "right"),
    ),
    "down": (
        ("margin", "top"),
        ("border", "top"),
        ("padding", "top"),
        ("content", ""),
        ("padding", "bottom"),
        ("border", "bottom"),
        ("margin", "bottom"),
    ),
}


class Rest(QWidget):
    """What is left of the container (grey diagonals), or what is over (violet cross-hatch)."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.over = ZERO
        self.unknown = False

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """The pattern, and the number where it is over."""
        painter = QPainter(self)
        if self.unknown:
            painter.fillRect(self.rect(), colour("paper"))
            return
        fill = Fill.OVERSPENT if self.over else Fill.UNSPENT
        painter.fillRect(self.rect(), part_brush(fill, self.devicePixelRatioF()))
        if self.over:
            text = f" {format_px(self.over)} over "
            rect = painter.fontMetrics().boundingRect(text)
            rect.moveCenter(self.rect().center())
            painter.fillRect(rect.adjusted(-3, -2, 3, 2), colour("field"))
            painter.setPen(colour("problem"))
            painter.drawText(rect, Qt.AlignmentFlag.AlignCenter, text)


class Strip(QWidget):
    """The cells of one axis in a row, with the rest behind them."""

    def __init__(self, axis: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.axis = axis
        self.cells = [TermCell(part, side, axis, self) for part, side in _AXES[axis]]
        self.rest = Rest(self)
        self._shares: list[float] = []
        self._left = ZERO
        self.setFixedHeight(44)

    def sizeHint(self) -> QSize:
        """As wide as there is room."""
        return QSize(700, 44)

    def show_equation(self, equation: Equation, *, editable: bool) -> None:
        """Show an equation; terms that it lacks are hidden."""
        by_key = {(t.part, t.side): t for t in equation.terms}
        for cell in self.cells:
            term = by_key.get((cell.part, cell.side))
            cell.setVisible(term is not None)
            if term is not None:
                cell.show_term(term, editable=editable)
        self._left = equation.left if equation.available is not None else ZERO
        over = self.axis == "across" and not equation.is_shared
        self.rest.over = max(ZERO, -self._left) if over else ZERO
        self.rest.unknown = self.axis == "down" or equation.is_shared
        self._arrange(equation)

    def _arrange(self, equation: Equation | None = None) -> None:
        """Widths: each edge as much as its label needs, content and rest in proportion."""
        shown = [c for c in self.cells if c.isVisibleTo(self)]
        edges = {c: 64 if c.part != "content" else 0 for c in shown}
        room = self.width() - sum(edges.values())
        content = next((c for c in shown if c.part == "content"), None)
        used = content.term.used if content is not None and content.term is not None else 1
        left = max(0, self._left)
        over = self.rest.over
        share = used / max(1, used + left)
        rest_width = 0
        if over:
            rest_width = 76
        elif self.axis == "across" or left:
            rest_width = max(0, min(room - 130, round(room * (1 - share))))
        if self.axis == "down" and content is not None:
            rest_width = max(0, room - 200)
        x = 1
        for cell in shown:
            width = edges[cell] or max(80, room - rest_width)
            cell.setGeometry(x, 1, width, self.height() - 2)
            x += width
        self.rest.setGeometry(x, 1, max(0, self.width() - 1 - x), self.height() - 2)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Arrange the cells anew."""
        self._arrange()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """A thin frame."""
        painter = QPainter(self)
        painter.setPen(QPen(colour("second_ink"), 1))
        painter.drawRect(self.rect().adjusted(0, 0, -1, -1))


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
        self.message.setFixedHeight(32)
        self.message.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self._gives: dict[Gives, QPushButton] = {}
        self.strips = {axis: Strip(axis, self) for axis in _AXES}
        self.row = RowStrip(self)
        self.row.chosen.connect(session.views.select)
        self.row.typed.connect(self._outer_typed)
        self.row.gap_typed.connect(self._gap_typed)
        self.afterwards = QPushButton("")
        self.afterwards.clicked.connect(self.take_off)
        self._names: dict[str, tuple[QLabel, QLabel]] = {}
        self._sums: dict[str, QLabel] = {}
        self._empty = Label("Choose a block on the sheet or in the outline to see what it spends.")
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
        title.setStyleSheet("font-weight: bold; font-size: 13px;")
        top.addWidget(title)
        question = Label("When padding or border changes")
        question.setStyleSheet(f"color: {colour('second_ink').name()};")
        top.addWidget(question)
        group = QButtonGroup(self)
        for gives in Gives:
            button = QPushButton(gives.value)
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
        head.setStyleSheet("font-weight: bold; font-size: 13px;")
        below.setStyleSheet(f"color: {colour('second_ink').name()}; font-size: 11px;")
        for label in (head, below):
            label.setFixedWidth(96)
            names.addWidget(label)
        names.addStretch()
        self._names[axis] = (head, below)
        row.addLayout(names)
        row.addWidget(strip, 1)
        total = Label("")
        total.setFixedWidth(116)
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
                self._empty.setText(f"{element.label} has no box here: it takes no room.")
            return
        editable = page.source.markup.start_tag(element) is not None
        for axis, equation in (("across", wide), ("down", high)):
            self.strips[axis].show_equation(equation, editable=editable)
            self._names[axis][1].setText(_below(equation))
            self._names[axis][1].setToolTip(plain_tip(f"in {equation.container}"))
            self._sums[axis].setText(_sum(equation))
        row = row_of(page, element) or _row_inside(page, element)
        self.row.show_row(row, element)
        self._sums["row"].setText(row_sum(row))
        self._sums["row"].setToolTip(plain_tip(row.shared if row else ""))
        self._name_row(f"{len(row.items)} in {row.container.label}" if row else "")
        surplus = surplus_of(page, element)
        self.afterwards.setVisible(surplus is not None)
        if surplus is not None:
            self.afterwards.setText(f"take {format_px(surplus.amount)} off the width")
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
        wrote = f"Wrote {'; '.join(plan.lines)}{of}. {plan.note}".strip()
        self._say(wrote if done else "Say first what it will do: you are asked above the sheet.")

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
            self._say(f"Enter asks first what this will do: {plan.asked}.")
            return
        self._say(f"Enter writes {'; '.join(plan.lines)}{self._into(cell)}. {plan.note}".strip())
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
        return f" into {target.label}{where} ({count} element{'s' if count != 1 else ''})"

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
    Gives.BOX: "As CSS does it: padding and border come on top of the width.",
    Gives.CONTENT: "The border box keeps its width: what padding and border take, the content gives.",
    Gives.MARGINS: "The margin box keeps its width: what padding and border take, the margins give.",
}


def _below(equation: Equation) -> str:
    """The small line under an axis' name."""
    if equation.axis == "across":
        return f"{format_px(equation.available or ZERO)} to spend"
    content = next(t for t in equation.terms if t.part == "content")
    return f"height {content.written}" if content.written else "height auto"


def _sum(equation: Equation) -> str:
    """What is spent, and what is left or over."""
    grey, violet = colour("second_ink").name(), colour("problem").name()
    if equation.axis == "down":
        inner = sum((t.used for t in equation.terms if t.part != "margin"), ZERO)
        return (
            f"<b>{format_px(equation.spent)}</b> spent<br>"
            f"<span style='color:{grey}'>border box {format_px(inner)}</span>"
        )
    if equation.is_shared:
        return f"<b>{format_px(equation.spent)}</b> spent<br><span style='color:{grey}'>the rest is shared</span>"
    if equation.left < 0:
        return (
            f"<b style='color:{violet}'>{format_px(equation.spent)}</b> spent<br>"
            f"<span style='color:{violet}'>{format_px(-equation.left)} over</span>"
        )
    return (
        f"<b>{format_px(equation.spent)}</b> spent<br>"
        f"<span style='color:{grey}'>{format_px(equation.left)} left</span>"
    )
