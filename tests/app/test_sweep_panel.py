"""The sweep in the window: swept off the interface thread, read, stepped through, saved; what breaks on the bench."""

from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt, QThreadPool
from pytestqt.qtbot import QtBot

from redcrate.app.bench.sides import Side
from redcrate.app.screens import bench_of, widths_of
from redcrate.app.widths.screen import WidthsScreen
from redcrate.app.window import Window
from tests.app.conftest import click, make_window
from tests.app.pointer import QTest, choose, move_over, press, row_of, settled, type_over


@pytest.fixture
def screen(qtbot: QtBot, window: Window) -> WidthsScreen:
    """The Widths screen with the sweep of a plot, done."""
    click(qtbot, window, "plot")
    press(window.buttons["widths"])
    made = widths_of(window)
    press(made.below["Sweep"])
    settled()
    type_over(made.sweep.last, "1110")
    done(qtbot, made)
    return made


def done(qtbot: QtBot, screen: WidthsScreen) -> None:
    """Wait for the sweep."""
    sweep = screen.sweep
    qtbot.waitUntil(lambda: sweep.task is None and "laid out at" in sweep.words.text(), timeout=20_000)


def rows(screen: WidthsScreen) -> list[str]:
    """The events as they are read."""
    items = (screen.sweep.events.item(n) for n in range(screen.sweep.events.count()))
    return [i.text() for i in items if i is not None]


def test_events_are_listed_and_both_sides_are_seen(
    qtbot: QtBot, window: Window, screen: WidthsScreen
) -> None:
    """A click on one and the arrows show the page on both sides of the px; the way back gives the page's widths."""
    told = rows(screen)
    assert "From 634 px: article.plot, 2 per row (1 below)" in told and len(told) == 4
    events = screen.sweep.events
    press(events.viewport(), row_of(events, 1))
    assert [c.px for c in screen.columns] == [634, 633] and screen.back.isVisible()
    plots = [
        c.view.page.by_element[e].border_box.y
        for c in screen.columns
        for e in c.view.page.elements
        if "plot" in e.classes
    ]
    assert plots[0] == plots[1] and plots[3] < plots[4], "two in a row, and one"
    QTest.keyClick(events, Qt.Key.Key_Up)
    assert [c.px for c in screen.columns] == [521, 520]
    press(screen.back)
    assert [c.px for c in screen.columns] == [1100, 820, 390] and not screen.back.isVisible()


def test_the_plot_reads_values(qtbot: QtBot, window: Window, screen: WidthsScreen) -> None:
    """The pointer reads; a click elsewhere looks at that window; another quantity is drawn by the list."""
    plot = screen.sweep.plot
    assert plot is not None
    box = plot.canvas.getPlotItem().getViewBox()

    def at(width: float) -> QPoint:
        from PyQt6.QtCore import QPointF

        scene = box.mapViewToScene(QPointF(width, 200.0))
        found: QPoint = plot.canvas.mapFromScene(scene)
        return found

    settled()
    move_over(plot.canvas.viewport(), at(420))
    qtbot.waitUntil(lambda: "(the viewport, less 40)" in screen.sweep.words.text(), timeout=2000)
    width, value = screen.sweep.words.text().split(" px: ")
    assert int(width) - 40 == float(value.split(" px")[0])
    press(plot.canvas.viewport(), at(900))
    qtbot.waitUntil(lambda: len(screen.columns) == 1, timeout=3000)
    assert abs(screen.columns[0].px - 900) <= 3
    choose(screen.sweep.quantity, "blocks per row")
    assert (
        plot.value_words(700) == "700 px: 2 in a row" and plot.value_words(1100) == "1100 px: 3 in a row"
    )


def test_it_is_swept_anew_for_another_block_and_after_an_edit(
    qtbot: QtBot, window: Window, screen: WidthsScreen
) -> None:
    """The numbers follow; ends that are none are told."""
    session = window.session
    assert session is not None
    notice = next(e for e in session.views.page.elements if "notice" in e.classes)
    screen.sweep.words.setText("")
    session.views.select(notice)
    done(qtbot, screen)
    assert screen.sweep._drawn is not None and screen.sweep._drawn.label == "section.notice"
    before = rows(screen)
    screen.sweep.words.setText("")
    plan = session.editor.plan(notice, "width", ("",), "2000px")
    session.editor.apply(plan.patch)
    done(qtbot, screen)
    assert rows(screen) != before
    session.editor.undo()
    type_over(screen.sweep.last, "200")
    assert "Type a smaller and a larger width in px" in window.sentence.text()
    QTest.keyClick(screen.sweep.last, Qt.Key.Key_A, Qt.KeyboardModifier.ControlModifier)
    QTest.keyClicks(screen.sweep.last, "400")
    screen.sweep.words.setText("")
    QTest.keyClick(screen.sweep.last, Qt.Key.Key_Return)
    done(qtbot, screen)
    assert screen.sweep._drawn.last == 400
    screen.sweep.words.setText("")
    press(screen.sweep.every)
    done(qtbot, screen)
    assert "at 81 widths" in screen.sweep.words.text()


def test_a_sweep_can_be_given_up(qtbot: QtBot, window: Window, screen: WidthsScreen) -> None:
    """It ends, and another can begin."""
    screen.sweep.words.setText("")
    press(screen.sweep.every)
    assert screen.sweep.give_up.isVisible() and not screen.sweep.every.isVisible()
    press(screen.sweep.give_up)
    assert not screen.sweep.give_up.isVisible()
    assert QThreadPool.globalInstance().waitForDone(8000)
    settled()
    assert screen.sweep.words.text() == ""
    press(screen.sweep.lines)
    done(qtbot, screen)
    assert screen.sweep.quantity.findText("height") >= 0


def test_the_plot_is_saved(qtbot: QtBot, window: Window, screen: WidthsScreen, tmp_path: Path) -> None:
    """SVG, PNG and CSV; what cannot be written is a sentence."""
    for name in ("s.svg", "s.png", "s.csv"):
        screen.sweep.save_as(tmp_path / name)
        assert window.sentence.text() == f"Exported {name}." and (tmp_path / name).stat().st_size > 500
    assert "44 % of the viewport, plus 18" in (tmp_path / "s.csv").read_text()
    screen.sweep.save_as(tmp_path / "no" / "s.svg")
    assert not (tmp_path / "no").exists() and window.sentence.text() != "Exported s.svg."


def test_what_breaks_between_widths_is_told_on_the_bench(qtbot: QtBot, demo_copy: Path) -> None:
    """After a sweep it is a finding; chosen, the bench goes there, and it is chosen as what it is."""
    window = make_window(qtbot, demo_copy)
    bench = bench_of(window)
    qtbot.waitUntil(lambda: bench.findings.search.knows_all, timeout=20_000)
    assert not any("Breaks" in f.sentence for f in bench.findings.findings)
    press(window.buttons["widths"])
    screen = widths_of(window)
    press(screen.below["Sweep"])
    done(qtbot, screen)
    assert any(r.startswith("▲ 326 – 338 px: a.path wraps") for r in rows(screen))
    press(window.buttons["bench"])
    press(bench.side_buttons[Side.FINDINGS])
    found = bench.findings
    (number,) = (
        n for n, f in enumerate(found.findings) if f.sentence.startswith("Breaks between 326 and 338 px")
    )
    press(found.list.viewport(), row_of(found.list, number))
    assert window.session is not None and window.session.views.viewport.width == 326
    qtbot.waitUntil(lambda: found.search.knows_all, timeout=20_000)
    assert found.current is not None and found.current.family == "source-space-gap"
