"""The cycle collector waits until nobody does anything."""

from collections.abc import Callable
from functools import partial

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtWidgets import QApplication, QWidget
from pytestqt.qtbot import QtBot

from redcrate.app import idle_collector
from redcrate.app.idle_collector import IdleCollector
from tests.app.pointer import QTest


@pytest.mark.parametrize("act", ["keys", "pointer"])
def test_collecting_waits_for_rest(qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, act: str) -> None:
    """Never while keys are pressed or the pointer moves, soon afterwards, and all of it now and then; but some day."""
    for name, value in (("_EVERY_MS", 10), ("_AGAIN_MS", 10), ("_WHOLE_EVERY", 2), ("_PUT_OFF", 120)):
        monkeypatch.setattr(idle_collector, name, value)
    application = QApplication.instance()
    assert isinstance(application, QApplication)
    widget = QWidget()
    qtbot.addWidget(widget)
    collected: list[int] = []
    now = [100.0]
    keeper = IdleCollector(application, collected.append, lambda: now[0])
    with qtbot.waitActive(widget):
        widget.show()
    qtbot.waitUntil(lambda: 2 in collected, timeout=3000)
    assert collected[:2] == [1, 2]
    window = widget.windowHandle()
    assert window is not None
    gestures: dict[str, Callable[[int], None]] = {
        "keys": lambda n: QTest.keyClick(window, Qt.Key.Key_A),
        "pointer": lambda n: QTest.mouseMove(window, QPoint(5 + n, 5)),
    }
    gestures[act](0)
    collected.clear()
    for number in range(1, 9):
        now[0] += 1.4  # of 1.5 seconds
        gestures[act](number)
        wanted = keeper._put_off + 1
        qtbot.waitUntil(partial(_has_put_off, keeper, wanted), timeout=3000)
    assert not collected
    now[0] += 1.6
    qtbot.waitUntil(lambda: bool(collected), timeout=3000)
    monkeypatch.setattr(idle_collector, "_PUT_OFF", 3)
    gestures[act](10)
    collected.clear()
    qtbot.waitUntil(lambda: len(collected) > 2, timeout=3000)
    assert set(collected) == {1}, (
        "what is dropped does not pile up, though somebody is at work all the time"
    )
    keeper.deleteLater()


def _has_put_off(keeper: IdleCollector, times: int) -> bool:
    return keeper._put_off >= times
