"""One width on the Widths screen: its number and name, what holds and what is left out there, and its sheet."""

from collections.abc import Sequence

from PyQt6.QtCore import QRect, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QLineEdit, QMenu, QPushButton, QVBoxLayout, QWidget

from redcrate.app.flowing import Flowing
from redcrate.app.theme.look import colour
from redcrate.app.theme.plain import Label, plain_tip
from redcrate.app.widths.width_sheet import WidthSheet
from redcrate.core.edit.range_edits import left_out
from redcrate.core.findings.at_widths import counts_of
from redcrate.core.findings.finding import Finding, Severity
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.session import Session
from redcrate.core.session.page_view import ViewAt
from redcrate.core.style.window_ranges import ranges_of
from redcrate.core.units import format_number


class WidthGrip(QWidget):
    """The right edge of a sheet, which is drawn to another width; with the keyboard by arrows.

    moving: the px that it stands at while it is drawn. moved: where it was left.
    """

    moving = pyqtSignal(float)
    moved = pyqtSignal(float)

    def __init__(self, width: float, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._px = width
        self.scale = 1.0
        self._from: float | None = None
        self._now = width
        self.setFixedWidth(9)
        self.setCursor(Qt.CursorShape.SizeHorCursor)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setToolTip("Drag to change the viewport width; arrow keys: 1 px, Shift: 10 px")
        self.setAccessibleName(f"Right edge of the viewport, {format_number(width)} px")

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """A narrow bar with a ridge."""
        painter = QPainter(self)
        active = self.hasFocus() or self._from is not None or self.underMouse()
        painter.fillRect(self.rect(), colour("second_ink" if active else "hairline"))
        middle = self.height() // 2
        for dy in (-6, 0, 6):
            painter.fillRect(QRect(3, middle + dy, 3, 2), colour("paper" if active else "second_ink"))

    def enterEvent(self, event: object) -> None:
        """It can be taken."""
        self.update()

    def leaveEvent(self, event: object) -> None:
        """The pointer is gone."""
        self.update()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        """Take it."""
        assert event is not None
        if event.button() is Qt.MouseButton.LeftButton:
            self._from, self._now = event.globalPosition().x(), self._px

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        """Draw it: in whole px of the window."""
        assert event is not None
        if self._from is not None:
            by = (event.globalPosition().x() - self._from) / max(0.01, self.scale)
            self._now = max(1.0, round(self._px + by))
            self.moving.emit(self._now)

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        """Leave it there."""
        if self._from is not None:
            self._from = None
            if self._now != self._px:
                self.moved.emit(self._now)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Arrows; Escape gives a drag up."""
        assert event is not None
        steps = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}
        key = Qt.Key(event.key())
        if key in steps:
            by = steps[key] * (10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1)
            self.moved.emit(max(1.0, self._px + by))
        elif key is Qt.Key.Key_Escape and self._from is not None:
            self._from, self._now = None, self._px
            self.moving.emit(self._px)
        else:
            super().keyPressEvent(event)

    def sizeHint(self) -> QSize:
        """As high as there is room."""
        return QSize(9, 60)


class Column(QWidget):
    """One width. moved: to another width, px. named: by the designer. chosen: an element that is left out there."""

    moved = pyqtSignal(float)
    named = pyqtSignal(str)
    chosen = pyqtSignal(object)

    def __init__(self, session: Session, width: float, *, fixed: bool = False) -> None:
        """fixed: it is looked at for a while only, so it has neither a name nor an end."""
        super().__init__()
        self.px = width
        self.fixed = fixed
        self.view = ViewAt(session.views, width)
        self.sheet = WidthSheet(session, self.view)
        self.sheet.setAccessibleName(f"Sheet at {format_number(width)} px")
        self.number = QPushButton(format_number(width))
        self.number.setToolTip("Show this width on the bench")
        self.name = QLineEdit(session.name_of(width))
        self.name.setPlaceholderText("name")
        self.name.setFrame(False)
        self.name.setMinimumWidth(40)
        self.name.setMaximumWidth(110)
        self.name.setAccessibleName(f"Name of the width of {format_number(width)} px")
        self.name.editingFinished.connect(self._named)
        self._known_name = self.name.text()
        self.found = Label("")
        self.out = QPushButton("Remove")
        self.out.setToolTip(plain_tip(f"Remove the width {format_number(width)} px"))
        self.holds = Label("")
        self.holds.setMinimumWidth(20)
        self.holds.setWordWrap(True)
        self.left = QPushButton("")
        self.left.setToolTip("Blocks hidden at this width (display: none): choose one to select it")
        self.left.clicked.connect(self._list_left_out)
        self.grip = WidthGrip(width)
        self.grip.moving.connect(lambda px: self.number.setText(format_number(px)))
        self.grip.moved.connect(self.moved)
        self._left_out: tuple[Element, ...] = ()
        self._build()
        self.sheet.renewed.connect(self._show_page)
        self._show_page()

    def _build(self) -> None:
        ink = f"color: {colour('second_ink').name()};"
        for label in (self.found, self.holds):
            label.setStyleSheet(ink)
        head, second = Flowing(), QHBoxLayout()
        for row in (head, second):
            row.setContentsMargins(8, 2, 8, 2)
            row.setSpacing(6)
        head.addWidget(self.number)
        head.addWidget(self.name)
        head.addWidget(self.found)
        head.spring()
        head.addWidget(self.out)
        second.addWidget(self.holds, 1)
        second.addWidget(self.left)
        body = QHBoxLayout()
        body.setContentsMargins(0, 0, 0, 0)
        body.setSpacing(0)
        body.addWidget(self.sheet, 1)
        body.addWidget(self.grip)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 2, 0, 0)
        box.setSpacing(0)
        box.addLayout(head)
        box.addLayout(second)
        box.addLayout(body, 1)
        for part in (self.name, self.out, self.grip):
            part.setHidden(self.fixed)

    def _named(self) -> None:
        if self.name.text().strip() != self._known_name:
            self._known_name = self.name.text().strip()
            self.named.emit(self._known_name)

    def show_found(self, found: Sequence[Finding]) -> None:
        """How many findings of each severity there are, with their shapes."""
        counts = {severity: n for severity, n in counts_of(found).items() if n}
        words = " ".join(f"{severity.shape} {n}" for severity, n in counts.items())
        self.found.setText(words or "no findings")
        shade = "problem" if Severity.BREAKS in counts else "second_ink"
        self.found.setStyleSheet(f"color: {colour(shade).name()};")

    def _show_page(self) -> None:
        """Which media rules hold in this window, and what is left out there."""
        page = self.sheet.shown_page
        holding = _holding(page)
        words = ", ".join(holding) if holding else "no media query applies"
        self.holds.setText(words)
        self.holds.setToolTip(plain_tip(words))
        self._left_out = left_out(page)
        count = len(self._left_out)
        self.left.setHidden(not count)
        self.left.setText(f"{count} hidden")

    def _list_left_out(self) -> None:
        menu = QMenu(self)
        for element in self._left_out:
            action = menu.addAction(element.label)
            assert action is not None
            action.triggered.connect(lambda _=False, e=element: self.chosen.emit(e))
        menu.popup(self.left.mapToGlobal(self.left.rect().bottomLeft()))


def _holding(page: Page) -> list[str]:
    """The queries of the page's media rules that hold in its window, each once, as they are written."""
    found = []
    for sheet in page.source.sheets:
        for block in sheet.media_rules:
            holds = all(m.matches(page.viewport) for m in block.media)
            everywhere = any(w.is_all for w in ranges_of(block.media, page.viewport.height))
            if holds and not everywhere:
                found.append(" and ".join(m.text for m in block.media))
    return list(dict.fromkeys(found))
