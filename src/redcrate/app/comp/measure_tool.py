"""Measuring on the sheet: a drag is a distance along one axis, with Shift a marquee; it catches on the comp's edges."""

from collections.abc import Callable

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPen

from redcrate.app.comp.layer import CompLayer
from redcrate.app.sheet.arrows import ARROWS
from redcrate.app.sheet.marks import SheetMarks
from redcrate.app.sheet.page_viewport import PageViewport
from redcrate.app.theme.look import page_colour
from redcrate.core.comp.measuring import Measure, distance, marquee

_REACH = 6.0  # screen px within which it catches on an edge


class MeasureTool:
    """on: whether the sheet measures instead of selecting. at: the cross, px of the page. measure: what was measured."""

    def __init__(self, viewport: PageViewport, comp: CompLayer) -> None:
        self._viewport = viewport
        self._comp = comp
        self.on = False
        self.at: tuple[float, float] | None = None
        self.measure: Measure | None = None
        self._from: tuple[float, float] | None = None
        self.told: Callable[[], object] = lambda: None

    def set_on(self, on: bool) -> None:
        """Measure, or select again."""
        self.on = on
        self._from = None
        if not on:
            self.at = self.measure = None
        self.told()

    def _point(self, position: QPointF, keys: Qt.KeyboardModifier) -> tuple[float, float]:
        """A place of the viewport on the page, px: caught on an edge unless Alt is held."""
        x, y = (value / 64 for value in self._viewport.page_point(position))
        picture, place = self._comp.picture, self._comp.place
        if picture is None or place is None or keys & Qt.KeyboardModifier.AltModifier:
            return round(x), round(y)
        from redcrate.core.comp.against import caught

        reach = _REACH / self._viewport.scale
        found = caught(picture, place, x, y, reach)
        return found[0] if found[0] != x else round(x), found[1] if found[1] != y else round(y)

    def press(self, position: QPointF, keys: Qt.KeyboardModifier) -> bool:
        """Begin to measure."""
        if not self.on:
            return False
        self._from = self.at = self._point(position, keys)
        self.measure = None
        self.told()
        return True

    def move(self, event: QMouseEvent) -> bool:
        """The other end follows the pointer."""
        if not self.on:
            return False
        self.at = self._point(event.position(), event.modifiers())
        if self._from is not None:
            self.measure = self._measured(event.modifiers())
        self.told()
        return True

    def release(self) -> bool:
        """The measure stands."""
        held, self._from = self._from is not None, None
        return held

    def _measured(self, keys: Qt.KeyboardModifier) -> Measure | None:
        if self._from is None or self.at is None or self._from == self.at:
            return None
        kind = marquee if keys & Qt.KeyboardModifier.ShiftModifier else distance
        return kind(self._from, self.at)

    def key(self, event: QKeyEvent) -> bool:
        """Arrows move the cross by 1 px, with Ctrl by 10; Enter begins and ends; Escape forgets."""
        if not self.on:
            return False
        key = Qt.Key(event.key())
        keys = event.modifiers()
        if key in ARROWS:
            by = 10 if keys & Qt.KeyboardModifier.ControlModifier else 1
            x, y = self.at or (0.0, 0.0)
            self.at = max(0.0, x + ARROWS[key][0] * by), max(0.0, y + ARROWS[key][1] * by)
            if self._from is not None:
                self.measure = self._measured(keys)
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._from = None if self._from is not None else self.at
        elif key is Qt.Key.Key_Escape:
            self._from = self.measure = None
        else:
            return False
        self.told()
        return True

    def paint(self, painter: QPainter, marks: SheetMarks) -> None:
        """The cross, and the measure with its px."""
        if not self.on:
            return
        origin, scale = self._viewport.origin(), self._viewport.scale

        def screen(x: float, y: float) -> QPointF:
            return QPointF(origin.x() + x * scale, origin.y() + y * scale)

        painter.setRenderHint(QPainter.RenderHint.Antialiasing, False)
        if self.at is not None:
            painter.setPen(QPen(page_colour("problem"), 1))
            cross = screen(*self.at)
            painter.drawLine(cross - QPointF(9, 0), cross + QPointF(9, 0))
            painter.drawLine(cross - QPointF(0, 9), cross + QPointF(0, 9))
        if self.measure is not None:
            painter.setPen(QPen(page_colour("problem"), 2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            m = self.measure
            start, end = screen(m.left, m.top), screen(m.right, m.bottom)
            if m.width and m.height:
                painter.drawRect(QRectF(start, end))
            else:
                painter.drawLine(start, end)
                tick = QPointF(0, 5) if m.width else QPointF(5, 0)
                for place in (start, end):
                    painter.drawLine(place - tick, place + tick)
            marks.tag(end + QPointF(8, -6), m.words)
