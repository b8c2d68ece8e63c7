"""The Widths screen: the page at all its widths side by side, one selection in all, the sum across at each."""

from collections.abc import Sequence

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from redcrate.app.screen import Screen
from redcrate.app.theme.look import colour
from redcrate.app.value_field import ValueField
from redcrate.app.widths.sums_table import SumsTable
from redcrate.app.widths.width_sheet import WidthSheet
from redcrate.core.errors import RedCrateError
from redcrate.core.findings.at_widths import counts_of
from redcrate.core.findings.finding import Finding, Severity
from redcrate.core.markup.elements import Element
from redcrate.core.session import Change, Session
from redcrate.core.session.page_view import ViewAt
from redcrate.core.units import format_number

_MOST = 8  # sheets
_NARROWEST, _WIDEST = 100.0, 6000.0
_BESIDE, _NARROW, _LEAST = 92, 170, 0.1  # px beside a page in its column, of a column; a scale


class Column(QWidget):
    """One width: its name, what was found there, a way out, and its sheet."""

    def __init__(self, session: Session, width: float) -> None:
        super().__init__()
        self.px = width
        self.view = ViewAt(session.views, width)
        self.sheet = WidthSheet(session, self.view)
        self.sheet.setAccessibleName(f"Sheet at {format_number(width)} px")
        self.name = QPushButton(format_number(width))
        self.name.setToolTip("Work at this width on the bench")
        self.found = QLabel("")
        self.found.setStyleSheet(f"color: {colour('second_ink').name()};")
        self.out = QPushButton("Take out")
        self.out.setToolTip(f"No longer show the page at {format_number(width)} px")
        head = QHBoxLayout()
        head.setContentsMargins(8, 4, 8, 4)
        head.setSpacing(6)
        head.addWidget(self.name)
        head.addWidget(self.found, 1)
        head.addWidget(self.out)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addLayout(head)
        box.addWidget(self.sheet, 1)

    def show_found(self, found: Sequence[Finding]) -> None:
        """How many findings of each severity there are, with their shapes."""
        counts = {severity: n for severity, n in counts_of(found).items() if n}
        words = " ".join(f"{severity.shape} {n}" for severity, n in counts.items())
        self.found.setText(words or "nothing found")
        shade = "problem" if Severity.BREAKS in counts else "second_ink"
        self.found.setStyleSheet(f"color: {colour(shade).name()};")


class WidthsScreen(Screen):
    """Sheets beside one another, widest first."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.columns: list[Column] = []
        self.table = SumsTable()
        self.new = ValueField()
        self.new.setFixedWidth(80)
        self.new.setAccessibleName("A window width to add, in px")
        self.new.setPlaceholderText("px")
        self.new.returnPressed.connect(self._add)
        self.one_scale = QPushButton("One scale")
        self.one_scale.setCheckable(True)
        self.one_scale.setChecked(True)
        self.one_scale.setToolTip("All sheets at one scale; else each as large as its column")
        self.one_scale.toggled.connect(lambda _: self._fit())
        self.words = QLabel("")
        self._row = QHBoxLayout()
        self._stale = True
        self._build()
        session.listen(self._changed)

    # -- parts

    def _build(self) -> None:
        bar = QHBoxLayout()
        bar.setContentsMargins(12, 6, 12, 6)
        bar.setSpacing(6)
        add = QPushButton("Add")
        add.setToolTip("Show the page at one more width")
        add.clicked.connect(self._add)
        for widget in (QLabel("Add a width"), self.new, add, self.one_scale):
            bar.addWidget(widget)
        self.words.setStyleSheet(f"color: {colour('second_ink').name()};")
        self.words.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        bar.addWidget(self.words, 1)
        self._row.setSpacing(6)
        self._row.setContentsMargins(0, 0, 0, 0)
        self._row.setAlignment(Qt.AlignmentFlag.AlignLeft)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addLayout(bar)
        box.addLayout(self._row, 1)
        box.addWidget(self.table)

    def _lay_columns(self) -> None:
        """A column for each width, widest first."""
        widths = sorted(self._session.widths, reverse=True)[:_MOST]
        if [c.px for c in self.columns] == widths:
            return
        for column in self.columns:
            column.view.close()
            self._session.unlisten(column.sheet._changed)
            self._row.removeWidget(column)
            column.setParent(None)
            column.deleteLater()
        self.columns = [Column(self._session, width) for width in widths]
        for column in self.columns:
            self._row.addWidget(column)
            column.name.clicked.connect(lambda _=False, w=column.px: self._work_at(w))
            column.out.clicked.connect(lambda _=False, w=column.px: self._take_out(w))
            column.out.setEnabled(len(widths) > 1)
            column.sheet.hovered.connect(lambda e, c=column: self._hover(c, e))
            column.sheet.scrolled.connect(lambda e, below, c=column: self._scroll(c, e, below))

    # -- showing

    def enter(self) -> None:
        """All sheets are brought up to date."""
        if self._stale:
            self._stale = False
            self._lay_columns()
            for column in self.columns:
                column.sheet.show_anew()
        self._renew()
        self._show_found()
        QTimer.singleShot(0, self._fit)
        if self.columns:
            self.columns[0].sheet.setFocus()

    def forget_pictures(self) -> None:
        """Read the page's pictures again."""
        for column in self.columns:
            column.sheet.forget_pictures()

    def resizeEvent(self, event: object) -> None:
        """The sheets keep their scale to one another."""
        QTimer.singleShot(0, self._fit)

    def _fit(self) -> None:
        """All sheets at the scale at which their pages share the room, or each as large as an equal column."""
        if not self.columns:
            return
        room = self.width() - self._row.spacing() * (len(self.columns) - 1)
        shared = (room - _BESIDE * len(self.columns)) / sum(c.px for c in self.columns)
        scale = min(1.0, max(_LEAST, shared)) if self.one_scale.isChecked() else None
        for column in self.columns:
            wanted = room // len(self.columns) if scale is None else round(column.px * scale) + _BESIDE
            column.setFixedWidth(max(_NARROW, wanted))
            column.sheet.set_zoom(scale)

    def _changed(self, change: Change) -> None:
        if change is Change.PAGE:
            self._stale = not self.isVisible()
        if change is Change.FINDINGS:
            self._show_found()
        if self.isVisible() and change in (Change.PAGE, Change.SELECTION):
            QTimer.singleShot(0, self._renew)

    def _renew(self) -> None:
        """The sums of the selected element, and where it is on each sheet."""
        element = self._session.views.selected
        self.table.setVisible(element is not None)
        if element is None:
            self.words.setText("Click a block on any sheet: it is selected at all widths.")
            return
        self.words.setText(f"{element.label}, selected at all widths")
        self.table.show_element({c.px: (c.view.page, element) for c in self.columns})

    def _hover(self, source: Column, element: Element | None) -> None:
        """What is under the pointer on one sheet is shown on the others."""
        for column in self.columns:
            if column is not source:
                column.sheet.hover(element)

    def _scroll(self, source: Column, element: Element, below: float) -> None:
        """The sheets scroll together, by what stands at the upper edge."""
        for column in self.columns:
            if column is not source:
                column.sheet.follow(element, below)

    # -- which widths there are

    def _add(self) -> None:
        try:
            width = float(self.new.text().strip().removesuffix("px").replace(",", "."))
        except ValueError:
            self.said.emit("A window width is a number of px, such as 600.", True)
            return
        widths = self._session.widths
        if not _NARROWEST <= width <= _WIDEST:
            self.said.emit(f"A window width is from {_NARROWEST:g} to {_WIDEST:g} px.", True)
        elif width in widths:
            self.said.emit(f"{format_number(width)} px is there already.", True)
        elif len(widths) >= _MOST:
            self.said.emit(f"There are {_MOST} widths: take one out first.", True)
        else:
            self._keep((*widths, width))
            self.new.clear()

    def _take_out(self, width: float) -> None:
        self._keep(tuple(w for w in self._session.widths if w != width))

    def _keep(self, widths: tuple[float, ...]) -> None:
        """Other widths, kept beside the page."""
        try:
            self._session.keep_widths(widths)
        except RedCrateError as problem:
            self.said.emit(problem.sentence, True)
        self._stale = True
        self.enter()

    def _work_at(self, width: float) -> None:
        self._session.views.set_width(width)
        self.wanted.emit("bench", None)

    def _show_found(self) -> None:
        """How many findings of each severity there are at each width, as they were last looked for."""
        for column in self.columns:
            if column.px in self._session.found:
                column.show_found(self._session.found[column.px])
