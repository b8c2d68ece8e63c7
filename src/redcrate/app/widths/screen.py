"""The Widths screen: the page at all its widths side by side, edits for a range, and the sweep between them."""

from collections.abc import Callable, Sequence

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtWidgets import (
    QButtonGroup,
    QHBoxLayout,
    QPushButton,
    QScrollArea,
    QSplitter,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.flowing import Flowing
from redcrate.app.screen import Screen
from redcrate.app.theme.look import colour, text_px
from redcrate.app.theme.plain import Label
from redcrate.app.value_field import ValueField
from redcrate.app.widths.column import Column
from redcrate.app.widths.range_bar import RangeBar
from redcrate.app.widths.range_strip import RangeStrip
from redcrate.app.widths.selection_bar import SelectionBar
from redcrate.app.widths.sums_table import SumsTable
from redcrate.app.widths.sweep_panel import SweepPanel
from redcrate.core.edit.typed import typed_px
from redcrate.core.errors import RedCrateError, ValueNotUnderstood
from redcrate.core.markup.elements import Element
from redcrate.core.session import Change, Session
from redcrate.core.units import format_number

_MOST = 8  # sheets
_NARROWEST, _WIDEST = 100.0, 6000.0
_BESIDE, _NARROW, _LEAST = 92, 170, 0.1  # px beside a page in its column, of a column; a scale


class WidthsScreen(Screen):
    """Sheets beside one another, widest first."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.columns: list[Column] = []
        self._looked_at: tuple[float, ...] = ()  # instead of the page's widths, for a while
        self.ranges = RangeBar(session, self)
        self.strip = RangeStrip(session, self)
        self.block = SelectionBar(session, self)
        self.table = SumsTable(self)
        self.sweep = SweepPanel(session, self)
        self.new = ValueField()
        self.new.setFixedWidth(text_px(80))
        self.new.setAccessibleName("A viewport width to add, in px")
        self.new.setPlaceholderText("px")
        self.new.returnPressed.connect(self._add)
        self.one_scale = QPushButton("Same scale")
        self.one_scale.setCheckable(True)
        self.one_scale.setChecked(True)
        self.one_scale.setToolTip("All sheets at the same scale; off: each as large as its column")
        self.one_scale.toggled.connect(lambda _: self._fit())
        self.back = QPushButton("Back to the sheets", self)
        self.back.clicked.connect(lambda: self.look_at(()))
        self.below = {name: QPushButton(name) for name in ("Sums", "Sweep")}
        self.words = Label("")
        self._row = QHBoxLayout()
        self._stale = True
        self._build()
        session.listen(self._changed)

    # -- parts

    def _build(self) -> None:
        bar = Flowing()
        bar.setContentsMargins(12, 6, 12, 2)
        bar.setSpacing(6)
        add = QPushButton("Add")
        add.setToolTip("Add a viewport width")
        add.clicked.connect(self._add)
        for widget in (Label("Add a width"), self.new, add, self.one_scale, self.back):
            bar.addWidget(widget)
        self.back.setVisible(False)
        self.words.setStyleSheet(f"color: {colour('second_ink').name()};")
        self.words.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        bar.spring()
        bar.addWidget(self.words)
        group = QButtonGroup(self)
        for name, button in self.below.items():
            button.setCheckable(True)
            group.addButton(button)
            bar.addWidget(button)
            button.toggled.connect(lambda _: self._show_below())
            button.setToolTip(
                "The sum across at each width"
                if name == "Sums"
                else "Sweep: the page computed at every viewport width of a range"
            )
        self._row.setSpacing(6)
        self._row.setContentsMargins(0, 0, 0, 0)
        self._row.setAlignment(Qt.AlignmentFlag.AlignLeft)
        sheets = QWidget()
        sheets.setLayout(self._row)
        self._split = QSplitter(Qt.Orientation.Vertical)
        self._split.setChildrenCollapsible(False)
        beside = QScrollArea()
        beside.setWidget(sheets)
        beside.setWidgetResizable(True)
        beside.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        for part in (beside, self.table, self.sweep):
            self._split.addWidget(part)
        self._split.setStretchFactor(0, 1)
        self._split.setSizes([440, 100, 260])
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addLayout(bar)
        where = Flowing()
        where.setContentsMargins(0, 0, 12, 0)
        where.addWidget(self.ranges)
        where.spring()
        where.addWidget(self.block)
        box.addLayout(where)
        box.addWidget(self.strip)
        box.addWidget(self._split, 1)
        self.strip.picked.connect(self._session.editor.set_window)
        self.block.said.connect(self.said)
        self.sweep.said.connect(self.said)
        self.sweep.wanted.connect(self.look_at)
        self.below["Sums"].setChecked(True)

    def _show_below(self) -> None:
        """Sums or the sweep under the sheets."""
        swept = self.below["Sweep"].isChecked()
        self.sweep.setVisible(swept)
        self.table.setVisible(not swept and self._session.views.selected is not None)
        if not swept:
            self.look_at(())
        QTimer.singleShot(0, self._fit)

    def look_at(self, widths: Sequence[float]) -> None:
        """Look at the page in other windows for a while; none: in those of the page again."""
        self._looked_at = tuple(float(w) for w in widths)
        self.back.setVisible(bool(self._looked_at))
        self._lay_columns()
        self._renew()
        self._show_found()
        QTimer.singleShot(0, self._fit)
        QTimer.singleShot(0, self._show_selected)

    def _show_selected(self) -> None:
        """The selected block is in view on each sheet that is looked at for a while."""
        element = self._session.views.selected
        for column in self.columns if self._looked_at else ():
            if element is not None:
                column.sheet.show_element(element)

    def _lay_columns(self) -> None:
        """A column for each width, widest first."""
        shown = self._looked_at or self._session.widths
        widths = sorted(shown, reverse=True)[:_MOST]
        if [(c.px, c.fixed) for c in self.columns] == [(w, bool(self._looked_at)) for w in widths]:
            return
        for column in self.columns:
            column.view.close()
            self._session.unlisten(column.sheet._changed)
            self._row.removeWidget(column)
            column.setParent(None)
            column.deleteLater()
        self.columns = [Column(self._session, width, fixed=bool(self._looked_at)) for width in widths]
        for column in self.columns:
            self._row.addWidget(column)
            column.number.clicked.connect(lambda _=False, w=column.px: self._work_at(w))
            column.out.clicked.connect(lambda _=False, w=column.px: self._take_out(w))
            column.out.setEnabled(len(widths) > 1)
            column.moved.connect(lambda to, w=column.px: self._move(w, to))
            column.named.connect(lambda name, w=column.px: self._name(w, name))
            column.chosen.connect(self._session.views.select)
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

    def show_what(self, what: object) -> None:
        """The fields for a new range."""
        if what == "new range":
            self.ranges.new.setChecked(True)

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
            column.grip.scale = column.sheet.scale

    def _changed(self, change: Change) -> None:
        if change is Change.PAGE:
            self._stale = not self.isVisible()
        if change is Change.FINDINGS:
            self._show_found()
        if self.isVisible() and change in (Change.PAGE, Change.SELECTION):
            QTimer.singleShot(0, self._renew)

    def _renew(self) -> None:
        """The sums of the selected element, and where it is on each sheet."""
        self.block.renew()
        element = self._session.views.selected
        self.table.setVisible(element is not None and self.below["Sums"].isChecked())
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
            width = typed_px(self.new.text())
        except ValueNotUnderstood:
            self.said.emit("Type a viewport width in px, such as 600.", True)
            return
        widths = self._session.widths
        if not _NARROWEST <= width <= _WIDEST:
            self.said.emit(f"A viewport width is from {_NARROWEST:g} to {_WIDEST:g} px.", True)
        elif width in widths:
            self.said.emit(f"{format_number(width)} px is already shown.", True)
        elif len(widths) >= _MOST:
            self.said.emit(f"There are {_MOST} widths: remove one first.", True)
        else:
            self._keep((*widths, width))
            self.new.clear()

    def _take_out(self, width: float) -> None:
        self._keep(tuple(w for w in self._session.widths if w != width))

    def _keep(self, widths: tuple[float, ...]) -> None:
        """Other widths, kept beside the page."""
        self._kept(lambda: self._session.keep_widths(widths))

    def _move(self, width: float, to: float) -> None:
        """One width becomes another one."""
        to = min(max(_NARROWEST, to), _WIDEST)
        if to in self._session.widths:
            if to != width:
                self.said.emit(f"{format_number(to)} px is already shown.", True)
            self._number_again()
            return
        held = any(c.grip.hasFocus() for c in self.columns)
        self._kept(lambda: self._session.move_width(width, to))
        moved = next((c for c in self.columns if c.px == to), None)
        if held and moved is not None:
            moved.grip.setFocus()

    def _number_again(self) -> None:
        for column in self.columns:
            column.number.setText(format_number(column.px))

    def _name(self, width: float, name: str) -> None:
        """A width gets a name; nothing else changes."""
        try:
            self._session.name_width(width, name)
        except RedCrateError as problem:
            self.said.emit(problem.sentence, True)

    def _kept(self, keep: Callable[[], None]) -> None:
        try:
            keep()
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
