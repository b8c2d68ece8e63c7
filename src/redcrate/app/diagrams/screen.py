"""The Diagrams screen: which elements are drawn, the contact sheet of them, one large, and what hands them over."""

from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeySequence, QShortcut
from PyQt6.QtPrintSupport import QPrinter
from PyQt6.QtWidgets import (
    QCheckBox,
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.chooser import Chooser, labels_of
from redcrate.app.diagrams.contact_sheet import ContactSheet
from redcrate.app.diagrams.delivery import Delivery, copy_drawing
from redcrate.app.diagrams.drawn import Drawn
from redcrate.app.diagrams.hand_over_panel import HandOverPanel
from redcrate.app.diagrams.handing_over import (
    Goods,
)
from redcrate.app.diagrams.options_panel import OptionsPanel
from redcrate.app.flowing import Flowing
from redcrate.app.painting.big_view import BigView
from redcrate.app.screen import Screen
from redcrate.app.theme.look import palette, text_px
from redcrate.app.theme.plain import Label, plain_tip
from redcrate.core.diagram.choosing import Choice, Entry, Order, Which, choose
from redcrate.core.diagram.codes import LIGHT, PRINT, Palette
from redcrate.core.diagram.series import Kind
from redcrate.core.explain.absence import absence
from redcrate.core.markup.elements import Element
from redcrate.core.session import Change, Session
from redcrate.core.units import counted

_SIDE = 252


class DiagramsScreen(Screen):
    """Drawings of the page that is open; an edit anywhere shows here at once."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.options = OptionsPanel(session)
        self.drawn = Drawn(self.options.series())
        self.sheet = ContactSheet(self.drawn)
        self.big = BigView()
        self.hand_over = HandOverPanel()
        self.which = Chooser("Which elements", labels_of(Which)).fill_column()
        self.class_name = Chooser[str]("Class", {"": ""}).fill_column()
        self.order = Chooser("Order", labels_of(Order)).fill_column()
        self.folds = QCheckBox("identical boxes once")
        self.sought = QLineEdit()
        self.count = Label("")
        self.where = Label("")  # which one is seen large
        self.zoom = QPushButton("100 %")
        self.stack = QStackedWidget()
        self._large: tuple[int, ...] | None = None  # the path of the element that is seen large
        self._stale = True
        self._delivery = Delivery(session, self.hand_over, self._goods, self)
        self._build()
        self._connect()
        session.listen(self._changed)

    # -- parts

    def _build(self) -> None:
        side = QWidget()
        column = QVBoxLayout(side)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.options)
        column.addWidget(self.hand_over)
        column.addStretch(1)
        scroll = QScrollArea()
        scroll.setWidget(side)
        scroll.setWidgetResizable(True)
        scroll.setFixedWidth(text_px(_SIDE))
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.stack.addWidget(self.sheet)
        self.stack.addWidget(self.big)
        right = QWidget()
        rows = QVBoxLayout(right)
        rows.setContentsMargins(0, 0, 0, 0)
        rows.setSpacing(0)
        rows.addWidget(self._choices_bar())
        rows.addWidget(self._large_bar())
        rows.addWidget(self.stack, 1)
        box = QHBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addWidget(scroll)
        box.addWidget(right, 1)

    def _choices_bar(self) -> QWidget:
        self.bar = QWidget()
        row = Flowing(self.bar)
        row.setContentsMargins(12, 6, 12, 6)
        row.setSpacing(6)
        self.sought.setPlaceholderText("Filter: tag, class, text")
        self.sought.setAccessibleName("Filter the drawings")
        self.sought.setClearButtonEnabled(True)
        self.folds.setToolTip("Draw elements with the same name and identical boxes once")
        self.zoom.setToolTip("Back to 100 %; Ctrl+wheel, + and - for other sizes")
        for widget in (self.which, self.class_name, self.order, self.folds):
            widget.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
            row.addWidget(widget)
        self.sought.setFixedWidth(text_px(190))
        row.addWidget(self.sought)
        row.spring()
        row.addWidget(self.count)
        row.addWidget(self.zoom)
        return self.bar

    def _large_bar(self) -> QWidget:
        self.large_bar = QWidget()
        row = QHBoxLayout(self.large_bar)
        row.setContentsMargins(12, 6, 12, 6)
        self.back = QPushButton("All drawings")
        self.back.setToolTip("Back to the contact sheet (Esc)")
        self.back.clicked.connect(self.close_large)
        row.addWidget(self.back)
        for name, tip, steps in (
            ("Previous", "Previous drawing (←)", -1),
            ("Next", "Next drawing (→)", 1),
        ):
            button = QPushButton(name)
            button.setToolTip(plain_tip(tip))
            button.clicked.connect(lambda _=False, s=steps: self._turn(s))
            row.addWidget(button)
        row.addWidget(self.where, 1)
        self.fit = QPushButton("Fit")
        self.fit.setToolTip("Fit the drawing to the screen (0)")
        self.fit.clicked.connect(self.big.fit)
        row.addWidget(self.fit)
        self.large_zoom = QPushButton("100 %")
        self.large_zoom.setToolTip("True size; Ctrl+wheel, + and - for other sizes")
        self.large_zoom.clicked.connect(lambda: self.big.set_scale(1.0))
        row.addWidget(self.large_zoom)
        self.large_bar.hide()
        return self.large_bar

    def _connect(self) -> None:
        self.options.changed.connect(self._take_options)
        self.which.taken.connect(self._take_choice)
        self.class_name.taken.connect(self._take_choice)
        self.order.taken.connect(self._take_choice)
        self.folds.toggled.connect(lambda _: self._take_choice())
        self.sought.textChanged.connect(lambda _: self._take_choice())
        self.zoom.clicked.connect(lambda: self.sheet.set_zoom(1.0))
        self.sheet.zoomed.connect(lambda z: self.zoom.setText(f"{z * 100:.0f} %"))
        self.sheet.opened.connect(self.open_large)
        self.sheet.chosen.connect(self._select)
        self.big.turned.connect(self._turn)
        self.big.closed.connect(self.close_large)
        self.big.zoomed.connect(lambda z: self.large_zoom.setText(f"{z * 100:.0f} %"))
        self.hand_over.said.connect(self.said)
        self.hand_over.wanted.connect(self.write)
        self.hand_over.print_wanted.connect(self._delivery.ask_printer)
        self.hand_over.copy_wanted.connect(self.copy)
        copy = QShortcut(QKeySequence(QKeySequence.StandardKey.Copy), self.stack)
        copy.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
        copy.activated.connect(self.copy)

    # -- what is shown

    @property
    def choice(self) -> Choice:
        """Which elements are asked for."""
        return Choice(
            self.which.chosen,
            self.class_name.chosen,
            self.sought.text(),
            self.order.chosen,
            self.folds.isChecked(),
        )

    @property
    def entries(self) -> list[Entry]:
        """What the contact sheet shows."""
        return self.sheet.entries.entries

    @property
    def colours(self) -> Palette:
        """The palette of what is written: the same on every desk."""
        return PRINT if self.options.is_for_print else LIGHT

    def enter(self) -> None:
        """The sheet is brought up to date, with the keys on it."""
        self.renew()
        (self.big if self._large is not None else self.sheet).setFocus()

    def show_what(self, what: object) -> None:
        """The drawing of an element, large."""
        assert isinstance(what, Element)
        row = self._row_of(what)
        if row is None or self.options.drawn_kind is Kind.PLAN:  # what was asked for last leaves it out
            self.sought.clear()
            self.which.choose(Which.ALL)
            self.options.kind.choose(Kind.BOX)
            row = self._row_of(what)
        if row is not None:
            self.open_large(row)
        else:
            self.said.emit(absence(self._session.views.page, what).sentence, True)

    def _row_of(self, element: Element) -> int | None:
        return next((n for n, e in enumerate(self.entries) if element in e.alike), None)

    def notes_over(self) -> QWidget:
        """The drawings, not the options."""
        return self.stack

    def renew(self) -> None:
        """Draw the page as it is now."""
        self._stale = False
        self.options.renew()
        self._renew_classes()
        self.drawn.renew(self.options.series())
        self._renew_entries()

    def _renew_classes(self) -> None:
        names = sorted({c for e in self._session.views.page.elements for c in e.classes})
        if names != self.class_name.values:
            self.class_name.offer({name: name for name in names} or {"": ""})
        self.class_name.setVisible(self.which.chosen is Which.CLASS)

    def _renew_entries(self) -> None:
        """The entries, what is selected of them, and the drawing that is seen large."""
        views = self._session.views
        if self.options.drawn_kind is Kind.PLAN:
            entries = [Entry(e, (e,)) for e in self._plan_roots()]
        else:
            entries = choose(views.page, self.choice, views.selection, self._with_findings())
        self.sheet.for_print = self.options.is_for_print
        self.sheet.show_entries(entries)
        self.sheet.select_elements(list(views.selection))
        self._count()
        self._show_large()

    def _with_findings(self) -> set[Element]:
        """The elements of which something was found at the width that is worked at."""
        found = self._session.found.get(self._session.views.viewport.width, ())
        return {element for finding in found for element in finding.elements}

    def _plan_roots(self) -> list[Element]:
        """A plan is drawn of the page, or of each selected element."""
        views = self._session.views
        wants_selected = self.which.chosen is Which.SELECTION
        return (
            list(views.selection)
            if wants_selected
            else [views.page.source.markup.body or views.page.elements[0]]
        )

    def _count(self) -> None:
        shown, selected = len(self.entries), len(self.sheet.selected_rows)
        words = counted(shown, "1 drawing", "{count} drawings")
        self.count.setText(f"{words}, {selected} selected" if selected else words)
        self.hand_over.show_counts(shown, selected)

    def _take_options(self) -> None:
        self.drawn.renew(self.options.series())
        self._renew_entries()

    def _take_choice(self) -> None:
        self._renew_classes()
        self._renew_entries()

    def _changed(self, change: Change) -> None:
        if change is Change.PAGE:
            self._stale = True
            if self.isVisible():
                self.renew()
        elif change is Change.FINDINGS and self.isVisible():
            if self.which.chosen is Which.FINDINGS:
                self._renew_entries()
        elif change is Change.SELECTION and self.isVisible() and not self._stale:
            if self.which.chosen is Which.SELECTION:
                return  # what is shown stays until it is asked for anew
            self.sheet.select_elements(list(self._session.views.selection))
            self._count()

    def _select(self, elements: list[Element]) -> None:
        """The selection is one for all screens."""
        self._session.views.select(*elements)
        self._count()

    # -- one drawing large

    def open_large(self, row: int) -> None:
        """Show an entry large."""
        if 0 <= row < len(self.entries):
            self._large = self.entries[row].element.path
            self._show_large()
            self.big.setFocus()

    def close_large(self) -> None:
        """Back to the contact sheet."""
        self._large = None
        self._show_large()
        self.sheet.setFocus()

    def _large_row(self) -> int | None:
        return next((n for n, e in enumerate(self.entries) if e.element.path == self._large), None)

    def _show_large(self) -> None:
        row = self._large_row() if self._large is not None else None
        self._large = self._large if row is not None else None
        self.bar.setVisible(row is None)
        self.large_bar.setVisible(row is not None)
        self.stack.setCurrentWidget(self.sheet if row is None else self.big)
        if row is not None:
            entry = self.entries[row]
            self.where.setText(f"{entry.label} · {row + 1} of {len(self.entries)}")
            colours = PRINT if self.options.is_for_print else palette()
            self.big.show_drawing(self.drawn.drawing(entry.element), colours)

    def _turn(self, steps: int) -> None:
        row = self._large_row()
        if row is None:
            return
        row = min(len(self.entries) - 1, max(0, row + steps))
        self._large = self.entries[row].element.path
        self._select([self.entries[row].element])
        self.sheet.select_elements([self.entries[row].element])
        self._show_large()

    # -- handing over

    def write(self, path: Path, ending: str) -> None:
        """Write files to a path, in the form that was chosen, off the interface thread."""
        self._delivery.write(path, ending)

    def print_on(self, printer: QPrinter) -> None:
        """Print what is handed over, as many on a page as were chosen for paper."""
        self._delivery.print_on(printer)

    def copy(self) -> None:
        """The drawing that is seen large or has the focus, as SVG and as a picture."""
        row = self._large_row() if self._large is not None else self.sheet.currentIndex().row()
        if row is None or not 0 <= row < len(self.entries):
            self.said.emit("Choose a drawing to copy first.", True)
            return
        element = self.entries[row].element
        copy_drawing(self.drawn.drawing(element), self.colours)
        self.said.emit(f"Copied the drawing of {element.label} as SVG and as a picture.", False)

    def _goods(self) -> Goods | None:
        """What is handed over; None (with a sentence) where that is nothing."""
        elements = self._handed_over()
        if not elements:
            self.said.emit("No drawing is selected: select drawings first.", True)
            return None
        force = self.hand_over.force.isChecked()
        return Goods(self.options.series(), elements, self.colours, force)

    def _handed_over(self) -> tuple[Element, ...]:
        """The elements whose drawings are handed over."""
        if self.hand_over.is_of_selected:
            return tuple(self.entries[row].element for row in self.sheet.selected_rows)
        return tuple(e.element for e in self.entries)
