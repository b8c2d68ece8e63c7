"""Arranging: rows that fit, centring, and neighbours that give; each is looked at before it is taken."""

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import (
    QCheckBox,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.chooser import Chooser, labels_of
from redcrate.app.fix_button import FixButton
from redcrate.app.theme.heading import heading
from redcrate.app.theme.plain import Label
from redcrate.app.value_field import ValueField
from redcrate.core.edit.centring import centring
from redcrate.core.edit.extents import VOID
from redcrate.core.edit.patch import Patch
from redcrate.core.edit.row_edits import fit_row, neighbours_give, row_room
from redcrate.core.edit.typed import typed_count, typed_px
from redcrate.core.errors import EditRefused, RedCrateError, ValueNotUnderstood
from redcrate.core.markup.elements import Element
from redcrate.core.rows import row_of
from redcrate.core.rows.fitting import FitUnit, FitWay, RowWish, how_many
from redcrate.core.session import Change, Session
from redcrate.core.units import format_number, format_px, nearest_from_px


class Arranging(QWidget):
    """Three small tools for the selected element."""

    said = pyqtSignal(str, bool)

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.fields: dict[str, ValueField] = {}
        self.unit = Chooser("Unit of the widths", labels_of(FitUnit))
        self.way = Chooser("Method", labels_of(FitWay))
        self.sizing = QCheckBox("box-sizing: border-box")
        self.sizing.setChecked(True)
        self.found = self._label("")
        self.fits = self._label("")
        self.middle = self._label("")
        self.givers = self._label("")
        self.take_row = FixButton("Set the row")
        self.take_row.looked_at.connect(lambda looked: self._show(self.row_patch() if looked else None))
        self.take_row.clicked.connect(self.fit)
        self.ways = QVBoxLayout()
        self.give_buttons: dict[str, FixButton] = {}
        self._build()
        session.listen(self._changed)

    @staticmethod
    def _label(text: str) -> QLabel:
        label = Label(text)
        label.setWordWrap(True)
        label.setIndent(0)
        return label

    def _build(self) -> None:
        inside = QWidget()
        box = QVBoxLayout(inside)
        box.setContentsMargins(12, 0, 12, 12)
        box.setSpacing(7)
        box.addWidget(self._title("Row"))
        form = QFormLayout()
        form.setVerticalSpacing(4)
        for key, name, value in (
            ("count", "Blocks per row", "3"),
            ("gap", "Gap, px", "20"),
            ("padding", "Padding, px", "0"),
            ("border", "Border, px", "0"),
            ("first", "Width of the first", ""),
        ):
            field = ValueField(value)
            field.setAccessibleName(name)
            field.textChanged.connect(lambda _: self._renew_row())
            self.fields[key] = field
            form.addRow(name, field)
        self.fields["first"].setPlaceholderText("equal; or 35 %, 200 px")
        form.addRow("Unit of the widths", self.unit)
        form.addRow("Method", self.way)
        self.unit.taken.connect(self._renew_row)
        self.way.taken.connect(self._renew_row)
        self.sizing.toggled.connect(lambda _: self._renew_row())
        box.addLayout(form)
        box.addWidget(self.sizing)
        box.addWidget(self.found)
        box.addWidget(self.take_row)
        self._build_lower(box)
        scroll = QScrollArea()
        scroll.setWidget(inside)
        scroll.setWidgetResizable(True)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(0)
        outer.addWidget(heading("Rows and centring", ""))
        outer.addWidget(scroll)

    def _build_lower(self, box: QVBoxLayout) -> None:
        """How many fit, centring, and neighbours that give."""
        box.addWidget(self._title("Count the blocks that fit"))
        row = QHBoxLayout()
        self.fields["width"] = ValueField("220")
        self.fields["width"].setAccessibleName("Width of a block, px")
        self.fields["width"].textChanged.connect(lambda _: self._renew_row())
        row.addWidget(Label("px wide each"))
        row.addWidget(self.fields["width"])
        box.addLayout(row)
        box.addWidget(self.fits)
        box.addWidget(self._title("Centring"))
        box.addWidget(self.middle)
        box.addLayout(self.ways)
        box.addWidget(self._title("Width from neighbours"))
        box.addWidget(self.givers)
        self.fields["amount"] = ValueField("10")
        self.fields["amount"].setAccessibleName("Width taken from the neighbours, px")
        box.addWidget(self.fields["amount"])
        both = QHBoxLayout()
        for name, in_proportion in (("Equal parts", False), ("In proportion to their widths", True)):
            button = FixButton(name)
            button.looked_at.connect(
                lambda looked, p=in_proportion: self._show(self.give_patch(p) if looked else None)
            )
            button.clicked.connect(lambda _=False, p=in_proportion: self._take(self.give_patch(p)))
            both.addWidget(button)
            self.give_buttons[name] = button
        box.addLayout(both)
        box.addStretch()

    def _title(self, text: str) -> QLabel:
        label = Label(text)
        label.setIndent(0)
        label.setStyleSheet("font-weight: bold; padding-top: 8px;")
        return label

    def _changed(self, change: Change) -> None:
        if change in (Change.PAGE, Change.SELECTION) and self.isVisible():
            self.renew()

    def showEvent(self, event: object) -> None:
        """Kept up only while it is seen."""
        self.renew()

    # -- rows

    def container(self) -> Element | None:
        """The selected element if it has children or nothing at all in it, else its parent."""
        element = self._session.views.selected
        if element is None or element.parent is None:
            return element
        holds_text = not element.child_elements and bool(element.text_content().strip())
        plain = element.tag in VOID or holds_text
        return element.parent if plain else element

    def wish(self) -> RowWish:
        """What the fields say; raises ValueNotUnderstood for what is no number."""
        first = self.fields["first"].text().strip()
        share = typed_px(first.removesuffix("%")) if first.endswith("%") else 0.0
        px = typed_px(first) if first and not share else 0.0
        return RowWish(
            typed_count(self.fields["count"].text()),
            self._px("gap"),
            self._px("padding"),
            self._px("border"),
            self.sizing.isChecked(),
            self.unit.chosen,
            share,
            px,
        )

    def _px(self, name: str) -> float:
        """A field's px; 0 where nothing is typed. Raises ValueNotUnderstood."""
        return typed_px(self.fields[name].text() or "0")

    def row_patch(self) -> Patch | None:
        """The patch that fits the row; None (with a sentence) where it cannot be."""
        container = self.container()
        if container is None:
            self.found.setText("Select a block first.")
            return None
        try:
            way = self.way.chosen
            session = self._session
            page, texts, window = session.views.page, session.document.texts(), session.editor.window
            patch, found = fit_row(page, texts, container, self.wish(), way=way, window=window)
        except ValueNotUnderstood:
            self.found.setText(
                "Type a plain number for count, gap, padding and border, such as 3 or 20."
            )
            return None
        except RedCrateError as problem:
            self.found.setText(problem.sentence)
            return None
        self.found.setText(f"In {container.label}: width {found.widths[-1]}. {found.sentence}.")
        return patch

    def fit(self) -> None:
        """Fit the row; a container that is empty gets its blocks first, in the same step."""
        container = self.container()
        makes_blocks = container is not None and not container.child_elements
        self._take(self.row_patch(), merges="set a row")
        if makes_blocks:
            self._take(self.row_patch(), merges="set a row")

    def _renew_row(self) -> None:
        self.take_row.setEnabled(self.row_patch() is not None)
        container = self.container()
        try:
            if container is None:
                raise EditRefused("No block is selected.")
            room = row_room(self._session.views.page, container)
            width, gap = typed_px(self.fields["width"].text()), self._px("gap")
            count, filled = how_many(room, width, gap)
            self.fits.setText(
                f"{count} of {format_number(width)} px fit into {format_px(room)} px"
                + (f"; gaps of {format_number(filled)} px fill the row." if count > 1 else ".")
            )
        except RedCrateError:
            self.fits.setText("Select a block and type a width in px.")

    # -- centring and giving

    def renew(self) -> None:
        """Show the selected element."""
        self._renew_row()
        session, element = self._session, self._session.views.selected
        while self.ways.count():
            item = self.ways.takeAt(0)
            widget = item.widget() if item is not None else None
            if widget is not None:
                widget.setParent(None)
                widget.deleteLater()
        found = (
            centring(session.views.page, session.document.texts(), element, session.editor.place)
            if element is not None
            else None
        )
        self.middle.setText(found.sentence if found is not None else "Select a block first.")
        for way in found.ways if found is not None and not found.is_centred else ():
            button = FixButton(way.sentence)
            button.looked_at.connect(lambda looked, p=way.patch: self._show(p if looked else None))
            button.clicked.connect(lambda _=False, p=way.patch: self._take(p))
            self.ways.addWidget(button)
        row = row_of(session.views.page, element) if element is not None else None
        self._neighbours = (
            [i.element for i in row.items if i.element is not element] if row is not None else []
        )
        names = ", ".join(n.label for n in self._neighbours)
        self.givers.setText(f"In its row: {names}." if names else "It is on its own line.")
        for give in self.give_buttons.values():
            give.setEnabled(bool(names))

    def give_patch(self, in_proportion: bool) -> Patch | None:
        """The patch that takes the px off the neighbours."""
        try:
            amount = nearest_from_px(float(self.fields["amount"].text()))
            session = self._session
            return neighbours_give(
                session.views.page,
                session.document.texts(),
                self._neighbours,
                amount,
                in_proportion=in_proportion,
                window=session.editor.window,
            )
        except ValueError:
            self.givers.setText("Type px, such as 10.")
        except RedCrateError as problem:
            self.givers.setText(problem.sentence)
        return None

    def _show(self, patch: Patch | None) -> None:
        self._session.predict_first.preview(self, patch)

    def _take(self, patch: Patch | None, merges: str = "") -> None:
        self._session.views.preview(self, None)
        if patch is None:
            return
        try:
            done = self._session.predict_first.offer(patch, merges=merges)
        except RedCrateError as problem:
            self.said.emit(problem.sentence, True)
            return
        if done:
            self.said.emit(f"Changed: {patch.sentence}.", False)


def button_texts(layout: QVBoxLayout) -> list[str]:
    """The words of the buttons in a layout, for those who test."""
    found = (layout.itemAt(i) for i in range(layout.count()))
    widgets = (item.widget() for item in found if item is not None)
    return [w.text() for w in widgets if isinstance(w, QPushButton)]
