"""What is drawn and how: beside the contact sheet, on which every change shows at once."""

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QCheckBox, QComboBox, QFormLayout, QSizePolicy, QVBoxLayout, QWidget

from redcrate.app.theme.heading import heading
from redcrate.app.theme.look import colour
from redcrate.app.theme.plain import Label, plain_tip
from redcrate.core.diagram.box_diagram import DiagramOptions
from redcrate.core.diagram.series import Before, Kind, Series
from redcrate.core.diagram.worksheet import Blank
from redcrate.core.session import Session
from redcrate.core.units import format_number

_SCHEMATIC, _TRUE = "schematic", "to scale"
_SCREEN, _PRINT = "for the screen", "for print"
_AS_SAVED = "as it was saved"
_BLANK = {"all numbers": None, "sums left out": Blank.SUMS, "all left out": Blank.ALL}
_LABELS = {
    "names": ("names of the parts", "Leaders with what was written beside each part"),
    "written": ("written values", "“50% → 400” where the used value is another one"),
    "sums": ("sums", "Padding box, border box and margin box"),
    "standing": ("where it stands", "The places a float was refused, offsets of an absolute box"),
}


def choice(name: str, values: list[str]) -> QComboBox:
    """A choice with its accessible name, as wide as its column."""
    made = QComboBox()
    made.addItems(values)
    made.setAccessibleName(name)
    made.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
    made.setMinimumContentsLength(12)
    made.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
    made.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
    return made


class Rows(QFormLayout):
    """Rows of choices with small labels, which can be hidden one by one."""

    def __init__(self) -> None:
        super().__init__()
        self.setContentsMargins(12, 0, 12, 8)
        self.setHorizontalSpacing(8)
        self.setVerticalSpacing(5)
        self.setFieldGrowthPolicy(QFormLayout.FieldGrowthPolicy.ExpandingFieldsGrow)

    def put(self, name: str, widget: QWidget) -> None:
        """A row with its label."""
        label = Label(name)
        label.setStyleSheet(f"color: {colour('second_ink').name()}; font-size: 11px;")
        label.setFixedWidth(50)
        label.setMinimumHeight(widget.sizeHint().height())
        label.setBuddy(widget)
        self.addRow(label, widget)


class OptionsPanel(QWidget):
    """The choices. changed: something is to be drawn otherwise."""

    changed = pyqtSignal()

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.kind = choice("What is drawn", [k.value for k in Kind])
        self.against = choice("Before", [_AS_SAVED])
        self.scale = choice("Scale", [_SCHEMATIC, _TRUE])
        self.palette_choice = choice("Colours", [_SCREEN, _PRINT])
        self.numbers = choice("Numbers", list(_BLANK))
        self.numbers.setToolTip(
            "A worksheet leaves numbers out; the same drawing with all of them is its key"
        )
        self.levels = choice("Levels", ["all levels", *(f"{n} inside" for n in range(7))])
        self.labels = {name: QCheckBox(words) for name, (words, _) in _LABELS.items()}
        self._rows = Rows()
        for name, widget in (
            ("draw", self.kind),
            ("before", self.against),
            ("scale", self.scale),
            ("levels", self.levels),
            ("colours", self.palette_choice),
            ("numbers", self.numbers),
        ):
            self._rows.put(name, widget)
            widget.currentTextChanged.connect(lambda _: self._take())
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addWidget(heading("Drawings"))
        box.addLayout(self._rows)
        checks = QVBoxLayout()
        checks.setContentsMargins(12, 0, 12, 8)
        checks.setSpacing(3)
        for name, check in self.labels.items():
            check.setChecked(True)
            check.setToolTip(plain_tip(_LABELS[name][1]))
            check.toggled.connect(lambda _: self._take())
            checks.addWidget(check)
        box.addLayout(checks)
        self._fit_rows()

    # -- what was chosen

    @property
    def is_for_print(self) -> bool:
        """Black ink on white, no grounds."""
        return self.palette_choice.currentText() == _PRINT

    @property
    def drawn_kind(self) -> Kind:
        """What is drawn of each element."""
        return Kind(self.kind.currentText())

    def series(self) -> Series:
        """What is drawn of the document as it is now."""
        session = self._session
        path = session.document.path
        wanted = {name: check.isChecked() for name, check in self.labels.items()}
        options = DiagramOptions(
            to_scale=self.scale.currentText() == _TRUE,
            page_name=f"{path.resolve().parent.name} / {path.name}",
            **wanted,
        )
        depth = self.levels.currentIndex() - 1
        before = self._before() if self.drawn_kind is Kind.COMPARE else None
        trial = session.document.trial() if self.drawn_kind is Kind.STEPS else None
        return Series(
            session.views.page,
            self.drawn_kind,
            options,
            depth if depth >= 0 else None,
            before,
            trial,
            _BLANK[self.numbers.currentText()],
        )

    def _before(self) -> Before:
        views, wanted = self._session.views, self.against.currentData()
        now = f"at width {format_number(views.viewport.width)} px"
        if wanted is None:
            return Before(self._session.editor.page_as_saved(), _AS_SAVED, "now")
        return Before(views.page_at(wanted), f"at width {format_number(wanted)} px", now)

    # -- showing

    def renew(self) -> None:
        """The widths that a comparison can be made with have changed."""
        here = self._session.views.viewport.width
        widths = [w for w in self._session.widths if w != here]
        known = [self.against.itemData(n) for n in range(1, self.against.count())]
        if known == widths:
            return
        chosen = self.against.currentData()
        self.against.blockSignals(True)
        self.against.clear()
        self.against.addItem(_AS_SAVED, None)
        for width in widths:
            self.against.addItem(f"at width {format_number(width)} px", width)
        self.against.setCurrentIndex(max(0, self.against.findData(chosen)) if chosen is not None else 0)
        self.against.blockSignals(False)

    def _take(self) -> None:
        self._fit_rows()
        self.changed.emit()

    def _fit_rows(self) -> None:
        """Only what has a say about this kind of drawing is shown."""
        kind = self.drawn_kind
        self._rows.setRowVisible(self.against, kind is Kind.COMPARE)
        self._rows.setRowVisible(self.levels, kind is Kind.PLAN)
        self._rows.setRowVisible(self.scale, kind is not Kind.PLAN)
        for name, check in self.labels.items():
            boxes = kind in (Kind.BOX, Kind.COMPARE)
            check.setVisible(boxes and (name != "standing" or kind is Kind.BOX))
