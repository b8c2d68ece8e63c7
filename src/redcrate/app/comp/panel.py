"""The comp's panel on the bench: load a picture, place it, measure on it, give the measure, compare."""

import os
from dataclasses import replace
from pathlib import Path

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QComboBox,
    QFileDialog,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QScrollArea,
    QSlider,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.chooser import Chooser, labels_of
from redcrate.app.comp.layer import CompLayer
from redcrate.app.comp.measure_tool import MeasureTool
from redcrate.app.comp.picture import ENDINGS, read_comp
from redcrate.app.theme.heading import heading
from redcrate.app.theme.look import colour, text_px
from redcrate.app.theme.plain import Label
from redcrate.app.value_field import ValueField
from redcrate.core.comp.giving import TAKERS
from redcrate.core.comp.placing import (
    FURTHEST,
    LEAST_SCALE,
    MOST_SCALE,
    CompPlace,
    CompWay,
    likely_scale,
)
from redcrate.core.edit.gives import Plan
from redcrate.core.edit.typed import typed_px
from redcrate.core.errors import EditRefused, RedCrateError, ValueNotUnderstood
from redcrate.core.session import Change, Session
from redcrate.core.units import format_number

_LIMITS = {"x": (-FURTHEST, FURTHEST), "y": (-FURTHEST, FURTHEST), "scale": (LEAST_SCALE, MOST_SCALE)}


class CompPanel(QWidget):
    """One column beside the sheet.

    said: a sentence, and whether it tells of something wrong. repainted: the sheet is to be.
    """

    said = pyqtSignal(str, bool)
    repainted = pyqtSignal()

    def __init__(
        self, session: Session, layer: CompLayer, tool: MeasureTool, parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self._session = session
        self._layer = layer
        self._tool = tool
        self.load = QPushButton("Load a picture…")
        self.load.setToolTip("PNG, JPEG, WebP or SVG; you can also drop a file on the sheet")
        self.load.clicked.connect(self._ask)
        self.off = QPushButton("Remove picture")
        self.off.clicked.connect(lambda: self._keep(None))
        self.show_it = QPushButton("Show picture")
        self.show_it.setCheckable(True)
        self.show_it.setChecked(True)
        self.show_it.toggled.connect(self._show)
        self.name = Label("")
        self.name.setWordWrap(True)
        self.fields = {name: ValueField() for name in _LIMITS}
        for name, field in self.fields.items():
            field.setAccessibleName(
                {"x": "Left edge, px", "y": "Top edge, px", "scale": "Scale, × the page"}[name]
            )
            field.returnPressed.connect(self._placed)
        self.way = Chooser("Position of the picture: over or under the page", labels_of(CompWay))
        self.way.activated.connect(lambda _: self._change(way=self.way.chosen))
        self.strength = QSlider(Qt.Orientation.Horizontal)
        self.strength.setRange(0, 100)
        self.strength.setAccessibleName("Opacity, %")
        self.strength.valueChanged.connect(lambda v: self._change(strength=v / 100))
        self.measure = QPushButton("Measure")
        self.measure.setCheckable(True)
        self.measure.setToolTip(
            "Drag on the sheet to measure a distance; Shift: a rectangle; Alt: no snapping"
        )
        self.measure.toggled.connect(self._measure)
        self.found = Label("")
        self.under = Label("")
        self.give_to = QComboBox()
        self.give_to.addItems([t.words for t in TAKERS])
        self.give_to.setAccessibleName("Property that gets the measure")
        self.give_to.currentIndexChanged.connect(lambda _: self._preview())
        self.give = QPushButton("Set value")
        self.give.clicked.connect(self._give)
        self.told = Label("")
        self.told.setWordWrap(True)
        self.comparison = Label("")
        self.comparison.setWordWrap(True)
        self._rows = QWidget()
        self._build()
        tool.told = self._measured
        session.listen(self._changed)
        self._renew()

    def _build(self) -> None:
        ink = f"color: {colour('second_ink').name()};"
        for label in (self.under, self.told):
            label.setStyleSheet(ink)
        form = QFormLayout(self._rows)
        form.setContentsMargins(0, 0, 0, 0)
        form.setVerticalSpacing(5)
        place = QHBoxLayout()
        place.setSpacing(4)
        for name in ("x", "y"):
            place.addWidget(self.fields[name])
        form.addRow("left, top", place)
        form.addRow("scale ×", self.fields["scale"])
        form.addRow("position", self.way)
        form.addRow("opacity", self.strength)
        form.addRow(self.show_it, self.off)
        form.addRow(_small("Measure"))
        form.addRow(self.measure, self.found)
        form.addRow(self.under)
        form.addRow("set", self.give_to)
        form.addRow("", self.give)
        form.addRow(self.told)
        form.addRow(_small("Compare"))
        form.addRow(self.comparison)
        inside = QWidget()
        column = QVBoxLayout(inside)
        column.setContentsMargins(12, 2, 12, 8)
        column.addWidget(self.load)
        column.addWidget(self.name)
        column.addWidget(self._rows)
        column.addStretch()
        scroll = QScrollArea()
        scroll.setWidget(inside)
        scroll.setWidgetResizable(True)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setAccessibleName("Comp")
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addWidget(heading("Comp"))
        box.addWidget(scroll, 1)

    # -- the picture

    def _ask(self) -> None:
        endings = " ".join(f"*{e}" for e in ENDINGS)
        folder = str(self._session.document.path.parent)
        name, _ = QFileDialog.getOpenFileName(self, "Load a picture", folder, f"Pictures ({endings})")
        if name:
            self.take(Path(name))

    def take(self, path: Path) -> None:
        """Lay the picture in a file over the page, in windows of the width that is seen."""
        try:
            image = read_comp(path)
            file = os.path.relpath(path, self._session.document.path.parent)
        except RedCrateError as problem:
            self.said.emit(problem.sentence, True)
            return
        except ValueError:  # on another drive
            file = str(path)
        self._layer.forget()
        width = self._session.views.viewport.width
        scale = likely_scale(path.name, image.width(), width)
        self._keep(CompPlace(Path(file).as_posix(), scale=scale))
        times = f" at {format_number(scale)} ×" if scale != 1 else ""
        self.said.emit(f"{path.name} is over the page at {format_number(width)} px{times}.", False)

    def _keep(self, place: CompPlace | None) -> None:
        try:
            self._session.keep_comp(self._session.views.viewport.width, place)
        except RedCrateError as problem:
            self.said.emit(problem.sentence, True)

    def _change(self, *, way: CompWay | None = None, strength: float | None = None) -> None:
        place = self._layer.place
        if place is not None:
            self._keep(
                replace(
                    place,
                    way=place.way if way is None else way,
                    strength=place.strength if strength is None else strength,
                )
            )

    def _placed(self) -> None:
        """The fields say another place or scale."""
        place = self._layer.place
        if place is None:
            return
        values = {}
        for name, field in self.fields.items():
            least, most = _LIMITS[name]
            try:
                values[name] = typed_px(field.text().rstrip("× "))
            except ValueNotUnderstood:
                values[name] = most + 1
            if not least <= values[name] <= most:
                self.said.emit(
                    f"“{field.text()}” is not a number from {format_number(least)} to {format_number(most)}.",
                    True,
                )
                return
        self._keep(replace(place, x=values["x"], y=values["y"], scale=values["scale"]))

    def _show(self, shown: bool) -> None:
        self._layer.shown = shown
        self.repainted.emit()

    # -- showing

    def _changed(self, change: Change) -> None:
        if change in (Change.COMP, Change.PAGE, Change.SELECTION):
            self._renew()
        if change is Change.COMP:
            self.repainted.emit()
        if change is Change.GIVES:
            self._preview()

    def _renew(self) -> None:
        place = self._layer.place
        width = format_number(self._session.views.viewport.width)
        self._rows.setVisible(place is not None)
        self.load.setText("Load another picture…" if place is not None else "Load a picture…")
        if place is None:
            self.name.setText(
                f"No comp at {width} px: a comp is a picture of the intended page. Load one, then measure on it."
            )
            if self.measure.isChecked():
                self.measure.setChecked(False)
            return
        problem = self._layer.problem if self._layer.image is None else ""
        self.name.setText(problem or f"{Path(place.file).name}, at {width} px")
        for name, field in self.fields.items():
            field.setText(format_number(getattr(place, name)))
        self.way.choose(place.way)
        self.strength.blockSignals(True)
        self.strength.setValue(round(place.strength * 100))
        self.strength.blockSignals(False)
        self._compare()
        self._measured()

    def _compare(self) -> None:
        """The selected box beside the nearest edges of the picture."""
        element, picture, place = self._session.views.selected, self._layer.picture, self._layer.place
        box = self._session.views.page.box_of(element) if element is not None else None
        if element is None or box is None or picture is None or place is None:
            self.comparison.setText("Select a block to compare its box with the picture.")
            return
        from redcrate.core.comp.against import compared

        found = compared(picture, place, box.border_box)
        self.comparison.setText(f"{element.label}: {found.sentence}")

    # -- measuring and giving

    def _measure(self, on: bool) -> None:
        self._tool.set_on(on)
        self.repainted.emit()

    def _measured(self) -> None:
        """What was measured, and what is under the cross."""
        measure, at = self._tool.measure, self._tool.at
        self.found.setText(
            measure.words if measure is not None else "drag on the sheet" if self._tool.on else ""
        )
        shade = self._layer.colour_at(*at) if at is not None else ""
        here = f"{format_number(at[0])}, {format_number(at[1])}" if at is not None else ""
        self.under.setText(f"{shade} at {here}".strip() if shade else here)
        self._preview()

    @property
    def px(self) -> float | None:
        """What would be given: of a marquee the side that is asked for."""
        measure = self._tool.measure
        if measure is None:
            return None
        taker = TAKERS[self.give_to.currentIndex()]
        return (measure.height if taker.is_down else measure.width) or measure.length

    def _plan(self) -> Plan:
        """What giving the measure would write. Raises EditRefused where nothing is measured or selected."""
        element, px, views = self._session.views.selected, self.px, self._session.views
        box = views.page.box_of(element) if element is not None else None
        if element is None or px is None or box is None:
            raise EditRefused("Select a block first: switch Measure off and click it.")
        taker = TAKERS[self.give_to.currentIndex()]
        value = taker.typed(px, box, views.page.style_of(element))
        return self._session.editor.plan(element, taker.part, taker.sides, value)

    def _preview(self) -> None:
        """What giving it would write."""
        self.give.setEnabled(False)
        if self.px is None:
            self.told.setText("")
            return
        try:
            plan = self._plan()
        except RedCrateError as problem:
            self.told.setText(problem.sentence[:1].upper() + problem.sentence[1:])
            return
        self.give.setEnabled(bool(plan.patch.edits))
        element = self._session.views.selected
        name = element.label if element is not None else ""
        self.told.setText(f"Will change {'; '.join(plan.lines)} of {name}. {plan.note}".strip())

    def _give(self) -> None:
        try:
            plan = self._plan()
            done = self._session.predict_first.offer(plan.patch, said=plan.asked)
        except RedCrateError as problem:
            self.said.emit(problem.sentence, True)
            return
        if done:
            self.said.emit(f"Changed {'; '.join(plan.lines)}. {plan.note}".strip(), False)


def _small(text: str) -> QLabel:
    label = Label(text.upper())
    label.setStyleSheet(
        f"color: {colour('second_ink').name()}; font-size: {text_px(11)}px; letter-spacing: 1px;"
    )
    return label
