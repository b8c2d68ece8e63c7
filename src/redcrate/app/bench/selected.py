"""The right panel: the selected element, how it flows, a small drawing, and why it is as it is."""

from collections.abc import Callable

from PyQt6.QtCore import QRectF, QSize, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.bench.choices_row import ChoicesRow
from redcrate.app.bench.reasons import Reasons, Section, small_heading
from redcrate.app.bench.structure import Structure
from redcrate.app.painting.drawing_end import DrawingEnd
from redcrate.app.pauses import pause_ms
from redcrate.app.rest_of_sheets import RestOfSheets
from redcrate.app.theme.heading import heading
from redcrate.app.theme.look import colour, text_px
from redcrate.app.theme.plain import Label, plain_tip
from redcrate.core.diagram.drawing import Drawing, paint
from redcrate.core.diagram.small_box import small_box
from redcrate.core.edit.range_rules import windows_offered
from redcrate.core.edit.range_targets import target_for
from redcrate.core.edit.targets import WritesTo, WriteTarget
from redcrate.core.errors import EditRefused
from redcrate.core.explain import Reason, across, down
from redcrate.core.explain.absence import absence
from redcrate.core.explain.flow import flow_of
from redcrate.core.explain.position import position
from redcrate.core.markup.elements import Element
from redcrate.core.notices import told
from redcrate.core.session import Change, Session
from redcrate.core.style.window_ranges import WindowRange
from redcrate.core.units import counted

_NEW_RANGE = "New range…"


class SmallDrawing(QWidget):
    """A little labelled box diagram."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._drawing: Drawing | None = None
        self.setFixedHeight(text_px(176))

    def sizeHint(self) -> QSize:
        """The drawing's own size."""
        return QSize(text_px(276), text_px(176))

    def show_drawing(self, drawing: Drawing | None) -> None:
        """Show a drawing, or nothing."""
        self._drawing = drawing
        self.setAccessibleName(drawing.title if drawing else "")
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the drawing."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(QRectF(self.rect()), colour("paper"))
        if self._drawing is not None:
            scale = self.height() / self._drawing.height
            painter.scale(scale, scale)
            paint(self._drawing, DrawingEnd(painter))


class TargetChooser(QComboBox):
    """Where the next edit is written; the other places are looked for when the list is opened."""

    opening = pyqtSignal()

    def showPopup(self) -> None:
        """Fill the list, then show it."""
        self.opening.emit()
        super().showPopup()


class SelectedPanel(QWidget):
    """What there is to know about the selected element."""

    place_wanted = pyqtSignal(str, int)  # a file and a line, from 1
    range_wanted = pyqtSignal()  # a range that there is no rule for yet

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self._scroll = QScrollArea(self)
        inside = QWidget(self._scroll)
        self._scroll.setWidget(inside)
        self.name = Label("", inside)
        self.name.setWordWrap(True)
        self.name.setStyleSheet(f"font-weight: bold; font-size: {text_px(15)}px;")
        self.chips = [Label("", inside), Label("", inside)]
        self.writes = TargetChooser(inside)
        self.writes.opening.connect(self.list_targets)
        self.writes.setAccessibleName("Edits go to")
        self.writes.setToolTip(
            "Edits go to this rule or style attribute; the number of elements that it matches"
        )
        self.writes.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.writes.setMinimumContentsLength(20)
        self.writes.activated.connect(self._target_chosen)
        self.writes.highlighted.connect(
            lambda i: self.light_up(self._targets[i].touches if i < len(self._targets) else ())
        )
        self.windows = QComboBox(inside)
        self.windows.setAccessibleName("At which widths")
        self.windows.setToolTip("The viewport widths at which the next edit applies")
        self.windows.activated.connect(self._window_chosen)
        self._targets: list[WriteTarget] = []
        self._windows: list[WindowRange] = []
        self.light_up: Callable[[tuple[Element, ...]], None] = lambda touched: None
        self.structure = Structure(session, inside)
        self.choices = ChoicesRow(session, inside)
        self.drawing = SmallDrawing(inside)
        self.reasons = Reasons(inside)
        self.reasons.place_wanted.connect(self.place_wanted)
        self._build(inside)
        self._later = QTimer(self)  # the sheet comes first, the sentences after it
        self._later.setSingleShot(True)
        self._later.setInterval(pause_ms(30))
        self._later.timeout.connect(self._renew)
        self._rest = RestOfSheets(self)
        self._rest.known.connect(self._renew)
        session.listen(self._changed)
        self._renew()

    def _build(self, inside: QWidget) -> None:
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(0)
        outer.addWidget(heading("Selected"))
        box = QVBoxLayout(inside)
        box.setContentsMargins(12, 2, 12, 12)
        box.setSpacing(6)
        chips = QHBoxLayout()
        edge, ground = colour("hairline").name(), colour("field").name()
        for chip in self.chips:
            chip.setStyleSheet(
                f"background: {ground}; border: 1px solid {edge}; border-radius: 8px; padding: 1px 8px;"
            )
            chips.addWidget(chip)
        chips.addStretch()
        box.addWidget(self.name)
        box.addLayout(chips)
        writing = QHBoxLayout()
        self._writes_label = Label("Edits go to", inside)
        self._writes_label.setStyleSheet(f"color: {colour('second_ink').name()};")
        writing.addWidget(self._writes_label)
        writing.addWidget(self.writes, 1)
        box.addLayout(writing)
        holding = QHBoxLayout()
        self._windows_label = Label("at", inside)
        self._windows_label.setStyleSheet(f"color: {colour('second_ink').name()};")
        holding.addWidget(self._windows_label)
        holding.addWidget(self.windows, 1)
        box.addLayout(holding)
        row = QHBoxLayout()
        row.addWidget(self.drawing)
        box.addLayout(row)
        box.addWidget(self.reasons)
        self._choices_label = small_heading("Layout")
        box.addWidget(self._choices_label)
        box.addWidget(self.choices)
        self._element_label = small_heading("Element")
        box.addWidget(self._element_label)
        box.addWidget(self.structure)
        box.addStretch()
        scroll = self._scroll
        scroll.setWidgetResizable(True)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setAccessibleName("Selected element")
        outer.addWidget(scroll)

    def _changed(self, change: Change) -> None:
        if change is Change.SELECTION:
            self._later.stop()
            self._renew()
        elif change is Change.PAGE:
            self.structure.renew()
            self._later.start()
        elif change is Change.GIVES:
            self._renew_targets()

    def _renew(self) -> None:
        element = self._session.views.selected
        if element is None:
            self._nothing_chosen()
            return
        page = self._session.views.page
        others = len(self._session.views.selection) - 1
        self.name.setText(f"{element.label}  and {others} more" if others else element.label)
        for part in self._parts():
            part.setVisible(True)
        style = page.style_of(element)
        for chip, word in zip(self.chips, (flow_of(page, element), style.box_sizing), strict=True):
            chip.setVisible(True)
            chip.setText(word)
        self._renew_targets()
        self.structure.renew()
        self.choices.renew()
        wide, high = across(page, element), down(page, element)
        shown = wide is not None and high is not None and bool(wide.terms)
        self.drawing.setVisible(shown)
        if not shown or wide is None or high is None:
            self.reasons.show_sections([("No box", [absence(page, element)])])
            return
        self.drawing.show_drawing(small_box(wide, high))
        here = position(page, element)
        sections: list[Section] = [("Why this wide", wide.reasons), ("Why this tall", high.reasons)]
        self.reasons.show_sections(
            [*sections, *([("Why here", here)] if here else []), *self._notices()]
        )

    def _parts(self) -> tuple[QWidget, ...]:
        return (
            self.writes,
            self._writes_label,
            self.windows,
            self._windows_label,
            self.structure,
            self._element_label,
            self.choices,
            self._choices_label,
        )

    def _nothing_chosen(self) -> None:
        self.name.setText("Nothing selected")
        for part in self._parts():
            part.setVisible(False)
        for chip in self.chips:
            chip.setVisible(False)
        self.drawing.setVisible(False)
        steps = [
            Reason("Click a block on the sheet or in the outline.", None),
            Reason("Below, the budget shows how the width of its containing block is used.", None),
            Reason("Type a padding there: with “Content adapts” the box keeps its width.", None),
        ]
        self.reasons.show_sections([("To begin", steps), *self._notices()])

    def _notices(self) -> list[Section]:
        """What the page holds that was not computed as written."""
        found = self._rest.notices(self._session.views.page)
        if found is None:
            return [("Notices", [Reason("The rest of the stylesheets is being read …", None)])]
        notices = told(found)
        if not notices:
            return []
        shown = [Reason(f"{n.sentence} {_place(n.file, n.line)}".strip(), None) for n in notices[:8]]
        if len(notices) > len(shown):
            shown.append(Reason(f"and {len(notices) - len(shown)} more", None))
        return [(f"Notices · {len(notices)}", shown)]

    def _renew_targets(self) -> None:
        """The default place for a width, and all others with what they touch."""
        element, view = self._session.views.selected, self.writes.view()
        if element is None or (view is not None and view.isVisible()):  # not under one's hands
            return
        editor, page = self._session.editor, self._session.views.page
        known = editor.writes_to
        self._show_windows()
        try:
            self._targets = [target_for(page, element, "width", WritesTo(window=editor.window))]
        except EditRefused as problem:
            self._targets = []
            self.writes.clear()
            self.writes.addItem("no rule possible")
            self.writes.setItemData(0, plain_tip(problem.sentence), Qt.ItemDataRole.ToolTipRole)
            self.writes.setToolTip(plain_tip(problem.sentence))
            return
        if known:
            self._targets += self._session.editor.write_targets("width")
        self._show_targets()

    def list_targets(self) -> None:
        """Look for all places, and list them."""
        if self._targets:
            self._targets = [self._targets[0], *self._session.editor.write_targets("width")]
            self._show_targets()

    def _show_targets(self) -> None:
        self.writes.blockSignals(True)
        self.writes.clear()
        for number, target in enumerate(self._targets):
            count = len(target.touches)
            text = f"{target.label} · {counted(count, '1 element', '{count} elements')}"
            tip = f"overridden by {target.loses_to}" if target.loses_to else target.place
            if number == 0:
                text, tip = f"current rule: {text}", "Each value goes to the rule that sets it now"
            elif target.loses_to:
                text += " · width overridden"
            self.writes.addItem(text)
            self.writes.setItemData(number, plain_tip(tip), Qt.ItemDataRole.ToolTipRole)
        keys = ["", *(t.key for t in self._targets[1:])]
        known = self._session.editor.writes_to
        self.writes.setCurrentIndex(keys.index(known) if known in keys else 0)
        self.writes.blockSignals(False)

    def _show_windows(self) -> None:
        """All widths, the ranges that the page has rules for, and the way to a new one."""
        self._windows = windows_offered(self._session.views.page, self._session.editor.window)
        words = ["all widths", *(f"{w.words} px" for w in self._windows), _NEW_RANGE]
        self.windows.blockSignals(True)
        self.windows.clear()
        self.windows.addItems(words)
        chosen = self._session.editor.window
        self.windows.setCurrentIndex(1 + self._windows.index(chosen) if chosen is not None else 0)
        self.windows.blockSignals(False)

    def _window_chosen(self, number: int) -> None:
        if number > len(self._windows):
            self._show_windows()
            self.range_wanted.emit()
        else:
            self._session.editor.set_window(self._windows[number - 1] if number else None)

    def _target_chosen(self, number: int) -> None:
        self.light_up(())
        if number >= len(self._targets):
            return
        self._session.editor.set_writes_to("" if number == 0 else self._targets[number].key)

    def sentences(self) -> list[str]:
        """All sentences shown, for those who test or read aloud."""
        return self.reasons.sentences()


def _place(file: str, line: int) -> str:
    return f"({file} line {line})" if line else ""
