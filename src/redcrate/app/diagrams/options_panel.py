"""What is drawn and how: beside the contact sheet, on which every change shows at once."""

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QCheckBox, QFormLayout, QVBoxLayout, QWidget

from redcrate.app.chooser import Chooser, labels_of
from redcrate.app.theme.heading import heading
from redcrate.app.theme.look import colour, text_px
from redcrate.app.theme.plain import Label, plain_tip
from redcrate.core.diagram.box_diagram import DiagramOptions
from redcrate.core.diagram.series import Before, Kind, Series
from redcrate.core.diagram.worksheet import Blank
from redcrate.core.session import Session
from redcrate.core.units import counted, format_number

_SCALES = {False: "schematic", True: "to scale"}  # whether to scale
_COLOURS = {False: "for the screen", True: "for print"}  # whether for print
_AS_SAVED = "as saved"
_BLANKS: dict[Blank | None, str] = {None: "all numbers", Blank.SUMS: "no sums", Blank.ALL: "no numbers"}
_LABELS = {
    "names": ("part names", "Leaders with the written value beside each part"),
    "written": ("written values", "“50% → 400” where the used value differs"),
    "sums": ("sums", "Padding box, border box and margin box"),
    "standing": (
        "position",
        "Where the box is in its containing block, places where a float did not fit, offsets of an absolute box",
    ),
}


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
        label.setStyleSheet(f"color: {colour('second_ink').name()}; font-size: {text_px(11)}px;")
        label.setFixedWidth(text_px(50))
        label.setMinimumHeight(widget.sizeHint().height())
        label.setBuddy(widget)
        self.addRow(label, widget)


class OptionsPanel(QWidget):
    """The choices. changed: something is to be drawn otherwise."""

    changed = pyqtSignal()

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.kind = Chooser("Kind of drawing", labels_of(Kind)).fill_column()
        self.against = Chooser[float | None]("Before", {None: _AS_SAVED}).fill_column()
        self.scale = Chooser("Scale", _SCALES).fill_column()
        self.palette_choice = Chooser("Colours", _COLOURS).fill_column()
        self.numbers = Chooser("Numbers", _BLANKS).fill_column()
        self.numbers.setToolTip(
            "A worksheet has blanks for numbers; the same drawing with all numbers is its key"
        )
        levels: dict[int | None, str] = {None: "all levels"}
        levels |= {n: counted(n, "1 level inside", "{count} levels inside") for n in range(7)}
        self.levels = Chooser("Levels", levels).fill_column()
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
            widget.taken.connect(self._take)
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
        return self.palette_choice.chosen

    @property
    def drawn_kind(self) -> Kind:
        """What is drawn of each element."""
        return self.kind.chosen

    def series(self) -> Series:
        """What is drawn of the document as it is now."""
        session = self._session
        path = session.document.path
        wanted = {name: check.isChecked() for name, check in self.labels.items()}
        options = DiagramOptions(
            to_scale=self.scale.chosen,
            page_name=f"{path.resolve().parent.name} / {path.name}",
            **wanted,
        )
        before = self._before() if self.drawn_kind is Kind.COMPARE else None
        trial = session.document.trial() if self.drawn_kind is Kind.STEPS else None
        return Series(
            session.views.page,
            self.drawn_kind,
            options,
            self.levels.chosen,
            before,
            trial,
            self.numbers.chosen,
        )

    def _before(self) -> Before:
        views, wanted = self._session.views, self.against.chosen
        now = f"at {format_number(views.viewport.width)} px"
        if wanted is None:
            return Before(self._session.editor.page_as_saved(), _AS_SAVED, "now")
        return Before(views.page_at(wanted), f"at {format_number(wanted)} px", now)

    # -- showing

    def renew(self) -> None:
        """The widths that a comparison can be made with have changed."""
        here = self._session.views.viewport.width
        widths = [w for w in self._session.widths if w != here]
        if self.against.values != [None, *widths]:
            self.against.offer({None: _AS_SAVED, **{w: f"at {format_number(w)} px" for w in widths}})

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
