"""Driving real widgets as a person does: the pointer presses, moves and lets go; keys are struck."""

from typing import Any

from PyQt6.QtCore import QEvent, QPoint, QPointF, Qt
from PyQt6.QtGui import QEnterEvent, QMouseEvent
from PyQt6.QtTest import QTest as _QTest
from PyQt6.QtWidgets import QApplication, QComboBox, QLineEdit, QListView, QTableWidget, QWidget

QTest: Any = _QTest  # its own type says that each of its functions takes a QTest first
LEFT = Qt.MouseButton.LeftButton
NO_KEYS = Qt.KeyboardModifier.NoModifier


def press(widget: QWidget | None, at: QPoint | None = None, keys: Qt.KeyboardModifier = NO_KEYS) -> None:
    """A click with the left button, in the middle or at a point."""
    assert widget is not None and widget.isVisible()
    QTest.mouseClick(widget, LEFT, keys, at if at is not None else widget.rect().center())


def type_over(field: QLineEdit, text: str, *, enter: bool = True) -> None:
    """Click into a field that does not have the focus and type: all of its value is replaced."""
    press(field)
    QTest.keyClicks(field, text)
    if enter:
        QTest.keyClick(field, Qt.Key.Key_Return)


def drag(
    widget: QWidget | None,
    start: QPoint,
    end: QPoint,
    keys: Qt.KeyboardModifier = NO_KEYS,
    *,
    let_go: bool = True,
) -> None:
    """Press, move in a few steps, and let go."""
    assert widget is not None
    QTest.mousePress(widget, LEFT, keys, start)
    for step in range(1, 5):
        _move_held(widget, start + (end - start) * step / 4, keys)
    if let_go:
        QTest.mouseRelease(widget, LEFT, keys, end)


def _move_held(widget: QWidget, at: QPoint, keys: Qt.KeyboardModifier) -> None:
    """The pointer moves with the button and keys held; QTest's own move knows no keys."""
    _move(widget, at, LEFT, keys)
    QApplication.processEvents()


def _move(widget: QWidget, at: QPoint, buttons: Qt.MouseButton, keys: Qt.KeyboardModifier) -> None:
    where = QPointF(at)
    none = Qt.MouseButton.NoButton
    event = QMouseEvent(QEvent.Type.MouseMove, where, widget.mapToGlobal(where), none, buttons, keys)
    QApplication.sendEvent(widget, event)


def move_over(widget: QWidget | None, at: QPoint) -> None:
    """The pointer comes to a place with no button held, also where another window had it before."""
    assert widget is not None
    _move(widget, at, Qt.MouseButton.NoButton, NO_KEYS)


def look_through(combo: QComboBox, text: str) -> QWidget:
    """Open a list of choices and walk it with the arrows to `text`; returns what the keys go to."""
    press(combo)
    view = combo.view()
    assert view is not None
    QTest.keyClick(view, Qt.Key.Key_Home)
    for _ in range(combo.count()):
        if view.currentIndex().data() == text:
            break
        QTest.keyClick(view, Qt.Key.Key_Down)
    assert view.currentIndex().data() == text
    QApplication.processEvents()
    return view


def choose(combo: QComboBox, text: str) -> None:
    """Choose an entry of a list of choices."""
    QTest.keyClick(look_through(combo, text), Qt.Key.Key_Return)


def row_of(view: QListView | QTableWidget, row: int, column: int = 0) -> QPoint:
    """The middle of a row, scrolled into view, in the view's viewport."""
    model = view.model()
    assert model is not None
    index = model.index(row, column)
    view.scrollTo(index)
    return view.visualRect(index).center()


def point_at(view: QListView, row: int) -> None:
    """Let the pointer rest on a row of a list."""
    viewport = view.viewport()
    assert viewport is not None
    at = row_of(view, row)
    QTest.mouseMove(viewport, at + QPoint(1, 1))
    QTest.mouseMove(viewport, at)
    QApplication.processEvents()


def hover(button: QWidget, *, over: bool) -> None:
    """Let the pointer come over a button, or go."""
    at = QPointF(3, 3)
    event = QEnterEvent(at, at, at) if over else QEvent(QEvent.Type.Leave)
    QApplication.sendEvent(button, event)


def settled() -> None:
    """All that was put off to the next turns of the event loop is done."""
    for _ in range(10):
        QApplication.processEvents()
