"""The page's ranges as bars on a scale of window widths: where they overlap, where there is a gap, where widths stand."""

from PyQt6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QHelpEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QToolTip, QWidget

from redcrate.app.theme.look import colour, text_font, text_px
from redcrate.app.theme.plain import plain_tip
from redcrate.core.edit.range_rules import windows_of
from redcrate.core.session import Change, Session
from redcrate.core.style.window_ranges import LEAST, MOST, WindowRange
from redcrate.core.units import format_number

_FIRST, _LAST = 240.0, 1920.0  # px of window width at the ends of the scale
_EDGE, _BAR, _FOOT = 12, 14, 18  # px; a bar and the scale have text


class RangeStrip(QWidget):
    """A bar for each range; a click lets edits go there. picked: the range that was clicked."""

    picked = pyqtSignal(object)

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.windows: tuple[WindowRange, ...] = ()
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName("Ranges of viewport widths in the page's media queries")
        session.listen(self._changed)
        self._renew()

    def _changed(self, change: Change) -> None:
        if change in (Change.PAGE, Change.WIDTHS, Change.GIVES):
            self._renew()

    def _renew(self) -> None:
        self.windows = windows_of(self._session.views.page)
        words = "; ".join(f"{w.words} px" for w in self.windows)
        faults = "; ".join(fault for _, fault in self.faults)
        self.setAccessibleDescription(" · ".join(t for t in (words, faults) if t) or "none")
        self.setFixedHeight(self.sizeHint().height())
        self.setVisible(bool(self.windows))
        self.update()

    def sizeHint(self) -> QSize:
        """A bar for each range, and the scale."""
        return QSize(400, text_px(_BAR) * max(1, len(self.windows)) + text_px(_FOOT) + 4)

    @property
    def faults(self) -> list[tuple[int, str]]:
        """The px at which neighbouring ranges overlap or leave a gap, with words."""
        found = []
        for one in self.windows:
            for other in self.windows:
                apart = other.least - one.most
                if apart in (0, 2) and one < other:
                    at = one.most + (1 if apart else 0)
                    both = f"{one.words} and {other.words}"
                    what = f"neither {both} applies" if apart else f"both {both} apply"
                    found.append((at, f"at {at} px {what}"))
        return found

    def place_of(self, width: float) -> float:
        """Where a window width stands."""
        inside = min(max(width, _FIRST), _LAST)
        return _EDGE + (inside - _FIRST) / (_LAST - _FIRST) * (self.width() - 2 * _EDGE)

    def bar(self, number: int) -> QRectF:
        """The place of a range's bar."""
        window = self.windows[number]
        left = 0.0 if window.least <= LEAST else self.place_of(window.least)
        right = float(self.width()) if window.most >= MOST else self.place_of(window.most)
        return QRectF(left, 2.0 + number * text_px(_BAR), max(2.0, right - left), text_px(_BAR) - 3.0)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Bars, faults, the scale with the page's widths."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(text_font(10))
        base = self.height() - text_px(_FOOT) + 2
        painter.setPen(QPen(colour("hairline"), 1))
        painter.drawLine(0, base, self.width(), base)
        for number, window in enumerate(self.windows):
            self._paint_bar(painter, number, window)
        for at, _ in self.faults:
            x = self.place_of(at)
            painter.setPen(QPen(colour("problem"), 2))
            painter.drawLine(QPointF(x, 0), QPointF(x, base))
            painter.drawText(QPointF(x + 3, base + text_px(12)), f"▲ {at}")
        painter.setPen(QPen(colour("ink"), 1))
        for width in self._session.widths:
            x = self.place_of(width)
            painter.drawLine(QPointF(x, base - 3), QPointF(x, base + 3))
            place = QRectF(min(max(0.0, x - 30), self.width() - 60.0), base + 3, 60, text_px(12))
            painter.drawText(place, int(Qt.AlignmentFlag.AlignHCenter), format_number(width))

    def _paint_bar(self, painter: QPainter, number: int, window: WindowRange) -> None:
        chosen = window == self._session.editor.window
        place = self.bar(number)
        painter.setPen(QPen(colour("second_ink"), 1))
        painter.setBrush(colour("ink" if chosen else "desk"))
        painter.drawRect(place)
        painter.setPen(colour("paper" if chosen else "ink"))
        flags = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft
        painter.drawText(place.adjusted(6, 0, 0, 0), int(flags), window.words)

    def _at(self, position: QPointF) -> WindowRange | None:
        hit = (n for n in range(len(self.windows)) if self.bar(n).contains(position))
        number = next(hit, None)
        return self.windows[number] if number is not None else None

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """A bar is chosen."""
        assert event is not None
        window = self._at(event.position())
        if window is not None and event.button() is Qt.MouseButton.LeftButton:
            self.picked.emit(window)

    def event(self, event: QEvent | None) -> bool:
        """What is under the pointer, in words."""
        if isinstance(event, QHelpEvent):
            at = QPointF(event.pos())
            fault = next((words for px, words in self.faults if abs(self.place_of(px) - at.x()) < 4), "")
            window = self._at(at)
            text = fault or (
                f"Rules for widths {window.words} px; click: edits go there" if window else ""
            )
            QToolTip.showText(event.globalPos(), plain_tip(text), self)
            return True
        return super().event(event)
