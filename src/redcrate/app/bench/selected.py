"""The right panel: the selected element, how it flows, a small drawing, and why it is as it is."""

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QLabel,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.bench.heading import heading
from redcrate.app.bench.outline import flow_of
from redcrate.app.painting.drawing_end import DrawingEnd
from redcrate.app.theme.look import colour
from redcrate.core.diagram.drawing import Drawing, paint
from redcrate.core.diagram.small_box import small_box
from redcrate.core.edit.targets import write_target
from redcrate.core.explain import Reason, across, down
from redcrate.core.markup.elements import Element
from redcrate.core.session import Change, Session


class SmallDrawing(QWidget):
    """A little labelled box diagram."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._drawing: Drawing | None = None
        self.setFixedHeight(176)

    def sizeHint(self) -> QSize:
        """The drawing's own size."""
        return QSize(276, 176)

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
            paint(self._drawing, DrawingEnd(painter))


class SelectedPanel(QWidget):
    """What there is to know about the selected element."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.name = QLabel()
        self.name.setWordWrap(True)
        self.name.setStyleSheet("font-weight: bold; font-size: 15px;")
        self.chips = [QLabel(), QLabel()]
        self.writes = QLabel()
        self.writes.setWordWrap(True)
        self.drawing = SmallDrawing()
        self.reasons = QVBoxLayout()
        self.reasons.setSpacing(0)
        self._build()
        session.listen(self._changed)
        self._renew()

    def _build(self) -> None:
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(0)
        outer.addWidget(heading("Selected"))
        inside = QWidget()
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
        box.addWidget(self.writes)
        self.writes.setStyleSheet(f"color: {colour('second_ink').name()};")
        row = QHBoxLayout()
        row.addWidget(self.drawing)
        box.addLayout(row)
        box.addLayout(self.reasons)
        box.addStretch()
        scroll = QScrollArea()
        scroll.setWidget(inside)
        scroll.setWidgetResizable(True)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setAccessibleName("Selected element")
        outer.addWidget(scroll)

    def _changed(self, change: Change) -> None:
        if change in (Change.PAGE, Change.SELECTION):
            self._renew()

    def _renew(self) -> None:
        element = self._session.selected
        _clear(self.reasons)
        if element is None:
            self._nothing_chosen()
            return
        page = self._session.page
        self.name.setText(element.label)
        style = page.style_of(element)
        for chip, word in zip(
            self.chips, (flow_of(self._session, element), style.box_sizing), strict=True
        ):
            chip.setVisible(True)
            chip.setText(word)
        self.writes.setText(self._writes_to(element))
        wide, high = across(page, element), down(page, element)
        shown = wide is not None and high is not None and bool(wide.terms)
        self.drawing.setVisible(shown)
        if not shown or wide is None or high is None:
            self._section("No box", [Reason("It takes no room on this page.", None)])
            return
        self.drawing.show_drawing(small_box(wide, high))
        self._section("Why this wide", list(wide.reasons))
        self._section("Why this tall", list(high.reasons))
        self._notices()

    def _nothing_chosen(self) -> None:
        self.name.setText("Nothing selected")
        for chip in self.chips:
            chip.setVisible(False)
        self.writes.setText("")
        self.drawing.setVisible(False)
        steps = [
            Reason("Click a block on the sheet, or choose it in the outline.", None),
            Reason("Read at the bottom how it spends its container's width.", None),
            Reason("Type a padding there: with “content gives” the box stays as wide.", None),
        ]
        self._section("To begin", steps)
        self._notices()

    def _notices(self) -> None:
        """What the page holds that was not computed as written."""
        notices = self._session.page.notices
        if not notices:
            return
        shown = [Reason(f"{n.sentence} {_place(n.file, n.line)}".strip(), None) for n in notices[:8]]
        if len(notices) > len(shown):
            shown.append(Reason(f"and {len(notices) - len(shown)} more", None))
        self._section(f"Notices · {len(notices)}", shown)

    def _writes_to(self, element: Element) -> str:
        target = write_target(self._session.page, element, "width")
        count = len(target.touches)
        return f"writes to {target.label} · {count} element{'s' if count != 1 else ''}"

    def _section(self, title: str, reasons: list[Reason]) -> None:
        """A heading with sentences, each with its source below it."""
        label = QLabel(title.upper())
        grey = colour("second_ink").name()
        label.setStyleSheet(
            f"color: {grey}; letter-spacing: 1px; font-size: 11px; padding: 12px 0 4px 0;"
        )
        self.reasons.addWidget(label)
        for reason in reasons:
            text = QLabel(reason.sentence)
            text.setWordWrap(True)
            text.setIndent(0)
            text.setStyleSheet("padding: 5px 0 1px 0;")
            self.reasons.addWidget(text)
            if reason.source is not None:
                source = QLabel(reason.source.sentence)
                source.setWordWrap(True)
                source.setIndent(0)
                source.setStyleSheet(f"color: {grey}; font-size: 11px; padding: 0 0 4px 0;")
                self.reasons.addWidget(source)
            line = QFrame()
            line.setFixedHeight(1)
            line.setStyleSheet(f"background: {colour('hairline').name()};")
            self.reasons.addWidget(line)

    def sentences(self) -> list[str]:
        """All sentences shown, for those who test or read aloud."""
        found = (self.reasons.itemAt(i) for i in range(self.reasons.count()))
        widgets = (item.widget() for item in found if item is not None)
        return [w.text() for w in widgets if isinstance(w, QLabel)]


def _place(file: str, line: int) -> str:
    return f"({file} line {line})" if line else ""


def _clear(layout: QVBoxLayout) -> None:
    while layout.count():
        item = layout.takeAt(0)
        widget = item.widget() if item is not None else None
        if widget is not None:
            widget.setParent(None)
            widget.deleteLater()
