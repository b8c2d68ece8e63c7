"""The Row line of the budget: the blocks that share the selected one's line, gaps, what is left or over."""

from collections.abc import Callable
from html import escape

from PyQt6.QtCore import QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import QWidget

from redcrate.app.theme.look import colour, part_brush, text_font, text_px
from redcrate.app.theme.plain import plain_tip
from redcrate.app.value_field import ValueField
from redcrate.core.diagram.codes import Fill
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.rows import Gap, Row, wraps_unexpectedly
from redcrate.core.units import format_px

_LEAST = 54  # px that a block's cell needs for its number
_GAP_LEAST = 26
_HEIGHT, _HEIGHT_OF_NONE = 44, 18  # px; the budget makes room where there is no row


def _gap_least() -> int:
    return text_px(_GAP_LEAST)


class OuterField(ValueField):
    """The outer width of one block of the row."""

    given_up = pyqtSignal()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Esc gives up."""
        assert event is not None
        if event.key() == Qt.Key.Key_Escape:
            self.given_up.emit()
        else:
            super().keyPressEvent(event)


class RowStrip(QWidget):
    """Cells in proportion; each takes a new outer width, a click on its name selects the block."""

    chosen = pyqtSignal(object)
    typed = pyqtSignal(object, str)
    gap_typed = pyqtSignal(object, str)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.row: Row | None = None
        self.fields: list[OuterField] = []
        self.gap_fields: list[
            OuterField
        ] = []  # of a flex line or a grid row, whose gaps are one property
        self._selected: Element | None = None
        self._spans: list[tuple[float, float]] = []
        self._painted: object = None  # all that is painted beside the fields
        self.setFixedHeight(text_px(_HEIGHT))
        self.setAccessibleName("Row: the blocks that share the line")

    def show_row(self, row: Row | None, selected: Element | None) -> None:
        """Show a row; None: nothing shares the line."""
        self._selected = selected
        self.row = row
        self.fields = self._renewed(self.fields, len(row.items) if row else 0, self._finished)
        gaps = _gaps_of_container(row)
        self.gap_fields = self._renewed(self.gap_fields, len(gaps), self._gap_finished)
        for field, gap in zip(self.gap_fields, gaps, strict=True):
            _put(field, format_px(gap.gap))
            field.setAccessibleName(f"gap of {row.container.label}" if row else "")
            field.setToolTip(plain_tip(f"gap {format_px(gap.gap)}; type a new value"))
        for field, item in zip(self.fields, row.items if row else (), strict=True):
            _put(field, format_px(item.margin_box.width))
            field.setAccessibleName(f"outer width of {item.element.label}")
            words = f"{item.element.label}: outer width {format_px(item.margin_box.width)}"
            field.setToolTip(plain_tip(f"{words}; type a new value"))
        self.setFixedHeight(text_px(_HEIGHT if row is not None else _HEIGHT_OF_NONE))
        self._arrange()
        items = row.items if row is not None else ()
        names = [(item.element.label, item.element is selected) for item in items]
        painted = (self._spans, names, row.gaps if row is not None else ())
        if painted != self._painted:
            self._painted = painted
            self.update()

    def _renewed(
        self, fields: list[OuterField], count: int, finished: Callable[[int], None]
    ) -> list[OuterField]:
        """As many fields as are wanted; the same ones where their number is the same."""
        if len(fields) == count:
            return fields
        for field in fields:
            field.setParent(None)
            field.deleteLater()
        return [self._field(n, finished) for n in range(count)]

    def _field(self, number: int, finished: Callable[[int], None]) -> OuterField:
        field = OuterField(self)
        field.setAlignment(Qt.AlignmentFlag.AlignCenter)
        field.setStyleSheet(
            "QLineEdit { padding: 0; font-weight: bold; border: 1px solid transparent; }"
        )
        field.editingFinished.connect(lambda: finished(number))
        field.given_up.connect(lambda: self.show_row(self.row, self._selected))
        field.show()
        return field

    def _finished(self, number: int) -> None:
        field = self.fields[number]
        if self.row is not None and field.isModified():
            field.setModified(False)
            self.typed.emit(self.row.items[number].element, field.text())

    def _gap_finished(self, number: int) -> None:
        field = self.gap_fields[number]
        if self.row is not None and field.isModified():
            field.setModified(False)
            self.gap_typed.emit(self.row.container, field.text())

    def _arrange(self) -> None:
        """Blocks in proportion to their widths, at least wide enough for a number."""
        self._spans = []
        row = self.row
        if row is None:
            return
        gaps = {g.after: g.total for g in row.gaps}
        typed = dict(zip((g.after for g in _gaps_of_container(row)), self.gap_fields, strict=True))
        gap_room = sum(_gap_least() for _ in gaps)
        for_items = max(
            1, max(row.room, row.sum) - sum(gaps.values())
        )  # a gap has a width of its own here
        room = self.width() - 2 - gap_room
        x = 1.0 + (_gap_least() if -1 in gaps else 0)
        for number, item in enumerate(row.items):
            width = max(float(text_px(_LEAST)), room * item.margin_box.width / for_items)
            self._spans.append((x, width))
            self.fields[number].setGeometry(round(x + 4), text_px(21), round(width - 8), text_px(18))
            x += width
            if number in typed:
                typed[number].setGeometry(round(x + 1), text_px(21), _gap_least() - 2, text_px(18))
            x += _gap_least() if number in gaps else 0

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Arrange the cells anew."""
        self._arrange()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """A click on a block selects it."""
        assert event is not None
        for (x, width), item in zip(self._spans, self.row.items if self.row else (), strict=True):
            if x <= event.position().x() < x + width:
                self.chosen.emit(item.element)
                return

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Names, gaps with their amounts, and the rest: unspent, or over with the block that dropped."""
        painter = QPainter(self)
        painter.setFont(text_font(11))
        row = self.row
        if row is None:
            painter.setPen(colour("second_ink"))
            painter.drawText(self.rect(), Qt.AlignmentFlag.AlignVCenter, "on its own line")
            return
        painter.fillRect(self.rect(), part_brush(Fill.UNSPENT, self.devicePixelRatioF()))
        gaps = {g.after: g for g in row.gaps}
        for number, ((x, width), item) in enumerate(zip(self._spans, row.items, strict=True)):
            cell = QRectF(x, 1, width, self.height() - 2)
            mine = item.element is self._selected
            painter.fillRect(cell, colour("field"))
            painter.setPen(QPen(colour("ink" if mine else "second_ink"), 2 if mine else 1))
            painter.drawRect(cell)
            painter.setPen(colour("ink"))
            name = painter.fontMetrics().elidedText(
                item.element.label, Qt.TextElideMode.ElideRight, int(width - 8)
            )
            painter.drawText(
                QRectF(x + 4, 3, width - 8, text_px(16)), Qt.AlignmentFlag.AlignCenter, name
            )
            if number in gaps:
                self._gap(painter, x + width, gaps[number])
        painter.setPen(QPen(colour("second_ink"), 1))
        painter.drawRect(self.rect().adjusted(0, 0, -1, -1))

    def _gap(self, painter: QPainter, x: float, gap: Gap) -> None:
        field = QRectF(x, 1, _gap_least(), self.height() - 2)
        painter.fillRect(field, part_brush(Fill.MARGIN, self.devicePixelRatioF()))
        painter.setPen(colour("margin_ink"))
        painter.setFont(text_font(9))
        if gap.gap:  # its number stands in a field
            name = field.adjusted(1, 2, -1, -text_px(24))
            painter.fillRect(name, colour("field"))
            painter.drawText(name, Qt.AlignmentFlag.AlignCenter, "gap")
        else:
            word = "space" if gap.spaces else ""
            text = f"{format_px(gap.total)}\n{word}".strip()
            painter.drawText(field, Qt.AlignmentFlag.AlignCenter, text)
        painter.setFont(text_font(11))


def _put(field: OuterField, text: str) -> None:
    """A number that nobody has typed; a field that has it already is not painted anew."""
    if field.text() != text:
        field.setText(text)
    field.setModified(False)


def _gaps_of_container(row: Row | None) -> list[Gap]:
    """The gaps that are a property of the container, and can be typed."""
    return [g for g in row.gaps if g.gap] if row is not None else []


def row_sum(page: Page, row: Row | None) -> str:
    """The sum beside the strip, as rich text; a block that wraps is named where it was to stand in the row."""
    if row is None:
        return ""
    grey, violet = colour("second_ink").name(), colour("problem").name()
    if row.dropped is not None and wraps_unexpectedly(page, row.dropped):
        short = (
            f"{escape(row.dropped.element.label)}<br>wraps: short by {format_px(row.dropped.missing)}"
        )
        return (
            f"<b>{format_px(row.sum)}</b> of {format_px(row.room)}<br>"
            f"<span style='color:{violet}'>{short}</span>"
        )
    if row.left < 0:
        return (
            f"<b style='color:{violet}'>{format_px(row.sum)}</b> of {format_px(row.room)}<br>"
            f"<span style='color:{violet}'>{format_px(-row.left)} too wide</span>"
        )
    return (
        f"<b>{format_px(row.sum)}</b> of {format_px(row.room)}<br>"
        f"<span style='color:{grey}'>{format_px(row.left)} free{' · 1 below' if row.dropped else ''}</span>"
    )
