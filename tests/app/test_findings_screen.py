"""The Findings screen: grouped, filtered, seen where they hold, fixed and ignored; one search for it and the bench."""

import shutil
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLabel
from pytestqt.qtbot import QtBot

from redcrate.app.findings import search
from redcrate.app.findings_screen.screen import FindingsScreen
from redcrate.app.fix_button import FixButton
from redcrate.app.screens import bench_of, findings_of
from redcrate.app.window import Window
from redcrate.core.findings import Severity
from redcrate.core.findings.register import finding_steps
from tests.app.conftest import element, make_window
from tests.app.pointer import QTest, choose, hover, press, settled
from tests.conftest import ROOT


@pytest.fixture
def draft(qtbot: QtBot, tmp_path: Path) -> Window:
    """The window with a copy of the draft page."""
    folder = tmp_path / "draft"
    shutil.copytree(ROOT / "demo" / "ploverfield-draft", folder)
    return make_window(qtbot, folder / "index.html")


def _opened(qtbot: QtBot, window: Window) -> FindingsScreen:
    press(window.buttons["findings"])
    screen = findings_of(window)
    qtbot.waitUntil(lambda: screen.search.knows_all, timeout=20_000)
    settled()
    return screen


def _titles(screen: FindingsScreen) -> list[str]:
    return [i.text() for i in screen.list.rows() if screen.list.key_of(i) is None]


def _press_row(screen: FindingsScreen, family: str) -> None:
    key = next(h.finding.key for h in screen.listed if h.finding.family == family)
    item = screen.list.item_of(key)
    assert item is not None
    screen.list.scrollToItem(item)
    press(screen.list.viewport(), screen.list.visualItemRect(item).center())
    settled()


def _labels(screen: FindingsScreen) -> str:
    return "\n".join(w.text() for w in screen.details.findChildren(QLabel) if w.isVisible())


def test_a_finding_is_seen_where_it_holds_fixed_and_undone(qtbot: QtBot, draft: Window) -> None:
    """Chosen with the pointer: page, place and fixes; a fix is previewed on this sheet, taken, and undone."""
    assert draft.session is not None
    session, screen = draft.session, _opened(qtbot, draft)
    assert _titles(screen) == ["▲ Breaks the layout", "◆ Suspicious", "○ Advice"]
    _press_row(screen, "wider-than-viewport")
    assert session.views.viewport.width == 820 and session.views.selected is element(draft, "wrapper")
    qtbot.waitUntil(lambda: screen.search.knows_all and bool(screen.search.fixes), timeout=20_000)
    assert [b.text() for b in screen.widths.values()] == ["820 px", "390 px"]
    assert "▸ 154    #wrapper { width: 100%; }" in _labels(screen)
    assert "Block wider than the viewport" in _labels(screen)
    press(screen.widths[390])
    qtbot.waitUntil(lambda: screen.search.knows_all and bool(screen.search.fixes), timeout=20_000)
    assert session.views.viewport.width == 390 and screen.current is not None
    before, key = session.document.texts(), screen.current.key
    fix = screen.details.findChildren(FixButton)[0]
    hover(fix, over=True)
    assert screen.sheet.shown_page is not session.views.page and session.document.texts() == before
    hover(fix, over=False)
    assert screen.sheet.shown_page is session.views.page
    press(fix)
    assert session.document.texts() != before and screen.list.hasFocus()
    qtbot.waitUntil(lambda: screen.search.knows_all, timeout=20_000)
    assert key not in {h.finding.key for h in screen.listed}
    QTest.keyClick(draft, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert session.document.texts() == before
    qtbot.waitUntil(lambda: key in {h.finding.key for h in screen.listed}, timeout=20_000)


def test_groups_filters_and_what_is_ignored(qtbot: QtBot, draft: Window) -> None:
    """By cause an effect stands under its cause; severities are hidden; what is ignored can be reported again."""
    screen = _opened(qtbot, draft)
    choose(screen.by, "Cause")
    assert ".notice p, style.css line 77" in _titles(screen)
    rows = [i.text() for i in screen.list.rows()]
    effect = next(n for n, text in enumerate(rows) if text.startswith("↳"))
    assert "have the class “plot”" in rows[effect - 1]
    choose(screen.by, "Element")
    assert "img.drawing" in _titles(screen) and not any(
        i.text().startswith("↳") and n == 0 for n, i in enumerate(screen.list.rows())
    )
    press(screen.shown[Severity.SUSPICIOUS])
    press(screen.shown[Severity.ADVICE])
    assert {h.finding.severity for h in screen.listed} == {Severity.BREAKS}
    press(screen.shown[Severity.BREAKS])
    assert not screen.list.count() and "Select a severity" in _labels(screen)
    press(screen.shown[Severity.BREAKS])
    _press_row(screen, "share-rounding")
    assert screen.details.ignore is not None
    press(screen.details.ignore)
    assert "share-rounding" not in {h.finding.family for h in screen.listed}
    assert screen.ignored.text() == "Ignored (1)" and screen.shown[Severity.BREAKS].text() == "▲ 2"
    press(screen.ignored)
    assert _titles(screen)[-1] == "Ignored"
    _press_row(screen, "share-rounding")
    assert screen.details.ignore.text() == "Report again"
    press(screen.details.ignore)
    assert "Ignored" not in _titles(screen) and screen.shown[Severity.BREAKS].text() == "▲ 3"


def test_the_keyboard_goes_from_one_to_the_next(qtbot: QtBot, draft: Window) -> None:
    """The list has the focus; arrows pass titles; Alt+N stays on the screen, on another one it shows the bench."""
    screen = _opened(qtbot, draft)
    assert screen.list.hasFocus() and screen.current is None
    QTest.keyClick(screen.list, Qt.Key.Key_Down)
    first = screen.listed[0].finding
    assert screen.current is first
    for _ in screen.listed[1:4]:
        QTest.keyClick(screen.list, Qt.Key.Key_Down)
    assert screen.current is screen.listed[3].finding  # past the title of the next group
    QTest.keyClick(screen.list, Qt.Key.Key_N, Qt.KeyboardModifier.AltModifier)
    assert screen.current is not None and screen.current.key == screen.listed[4].finding.key
    assert screen.isVisible()
    press(draft.buttons["source"])
    QTest.keyClick(draft, Qt.Key.Key_N, Qt.KeyboardModifier.AltModifier)
    assert bench_of(draft).findings.isVisible()


def test_one_search_and_one_finding_that_is_read(
    qtbot: QtBot, draft: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    """What was read on the bench is read here, and the other way round; nothing is searched for twice."""
    looked: list[float] = []
    monkeypatch.setattr(
        search,
        "finding_steps",
        lambda page, texts: looked.append(page.viewport.width) or finding_steps(page, texts),
    )
    QTest.keyClick(draft, Qt.Key.Key_N, Qt.KeyboardModifier.AltModifier)
    found = bench_of(draft).findings
    qtbot.waitUntil(lambda: found.search.knows_all and found.search.knows_fixes, timeout=20_000)
    assert found.current is not None and found.opened is not None
    screen = _opened(qtbot, draft)
    qtbot.waitUntil(lambda: screen.search.knows_fixes, timeout=20_000)
    assert screen.current is not None and screen.current.key == found.current.key
    assert len(screen.details.findChildren(FixButton)) == len(screen.search.fixes) > 0
    assert len(found.opened.findChildren(FixButton)) == len(screen.search.fixes)
    screen.go_to_finding(1)
    press(draft.buttons["bench"])
    assert found.current is not None and found.current.key == screen.search.read
    assert sorted(looked) == [390, 820, 1100]
