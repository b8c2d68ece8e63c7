"""The page of cards in the window: rows of items and their gaps, tracks on the sheet, rows that are fitted."""

import shutil
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QColor
from PyQt6.QtWidgets import QPushButton
from pytestqt.qtbot import QtBot

from redcrate.app.screens import bench_of
from redcrate.app.start import make_application
from redcrate.app.window import Window
from redcrate.core.diagram.codes import LIGHT, Fill
from redcrate.core.geometry import Rect
from redcrate.demo_pages import demo_page
from tests.app.conftest import click, element, make_window, outer_on_sheet
from tests.app.pointer import QTest, choose, press, type_over


@pytest.fixture
def cards(qtbot: QtBot, tmp_path: Path) -> Window:
    """The window with a copy of the page of cards."""
    make_application()
    shutil.copytree(demo_page("ploverfield-cards").parent, tmp_path / "cards")
    return make_window(qtbot, tmp_path / "cards" / "index.html")


def css(window: Window) -> str:
    """The sheet of the page as it is now."""
    assert window.session is not None
    return window.session.document.texts()["cards.css"]


def test_the_row_of_an_item_takes_a_gap_and_an_outer_width(qtbot: QtBot, cards: Window) -> None:
    """Click the name: its line has three items; a gap typed between them, then a width; both undone."""
    assert cards.session is not None
    before, budget = css(cards), bench_of(cards).budget
    click(qtbot, cards, "h1")
    row = budget.row.row
    assert row is not None and [i.element.tag for i in row.items] == ["img", "h1", "nav"]
    assert "px free: h1 +" in budget._sums["row"].toolTip()
    assert [f.text() for f in budget.row.gap_fields] == ["20", "20"]
    assert row.left == 0  # so no unspent room is drawn behind the last item
    assert abs(budget.row.fields[-1].geometry().right() - (budget.row.width() - 6)) <= 1
    name = outer_on_sheet(cards, "h1")
    type_over(budget.row.gap_fields[0], "36")
    assert "column-gap: 36px" in css(cards) and "Changed column gap 20px → 36px" in budget.message.text()
    assert outer_on_sheet(cards, "h1").x == name.x + 16 * 64
    assert outer_on_sheet(cards, "h1").width == name.width - 32 * 64
    type_over(budget.row.gap_fields[1], "wide")
    assert "wide" in budget.message.text() and "column-gap: 36px" in css(cards)
    press(bench_of(cards).sheet.viewport(), QPoint(4, 4))
    type_over(budget.row.fields[1], "300")
    assert "flex-basis: 300px" in css(cards) and "flex-grow: 0" in css(cards)
    assert "flex-basis overrides width" in budget.message.text()
    assert outer_on_sheet(cards, "h1").width == 300 * 64
    for _ in range(2):
        QTest.keyClick(cards, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert css(cards) == before


def test_a_container_shows_its_tracks_its_gaps_and_its_first_row(qtbot: QtBot, cards: Window) -> None:
    """The grid of plots: thin lines and gaps in their pattern on the sheet; its first row under it."""
    assert cards.session is not None
    bench = bench_of(cards)
    plots = outer_on_sheet(cards, "plots")
    card = outer_on_sheet(cards, "card")
    plain = bench.sheet.grab().toImage()
    click(qtbot, cards, "plots")
    row = bench.budget.row.row
    assert row is not None and row.container.id == "plots" and len(row.items) == 3
    marked = bench.sheet.grab().toImage()
    gap = bench.sheet.to_screen(Rect(card.right, card.y, plots.x, card.height))
    strip = range(round(gap.left()) + 2, round(gap.left()) + 10)
    y = round(gap.top()) + 60
    there = {marked.pixelColor(x, y + dy).name() for x in strip for dy in range(8)}
    assert QColor(LIGHT.parts[Fill.MARGIN].ground).name() in there
    assert QColor(LIGHT.parts[Fill.MARGIN].ground).name() not in {
        plain.pixelColor(x, y + dy).name() for x in strip for dy in range(8)
    }


@pytest.mark.parametrize(
    ("way", "written"),
    [
        ("grid", "grid-template-columns: repeat(2, minmax(0, 1fr))"),
        ("flex line", "display: flex; flex-wrap: wrap"),
    ],
)
def test_a_row_is_fitted_as_a_grid_or_a_flex_line(
    qtbot: QtBot, cards: Window, way: str, written: str
) -> None:
    """Select the footer, choose what the row is made of, and fit two in a row."""
    assert cards.session is not None
    before, tool = css(cards), bench_of(cards).arranging
    cards.session.views.select(element(cards, "footer"))
    press(
        next(
            b
            for b in cards.findChildren(QPushButton)
            if b.text() == "Rows and centring" and b.isVisible()
        )
    )
    type_over(tool.fields["count"], "2", enter=False)
    choose(tool.way, way)
    press(tool.take_row)
    assert written in " ".join(css(cards).split()) and "2 in a row" in css(cards)
    one, two, three = (
        cards.session.views.page.box_of(e) for e in element(cards, "footer").child_elements
    )
    assert one is not None and two is not None and three is not None
    assert one.border_box.y == two.border_box.y < three.border_box.y
    assert one.border_box.width == two.border_box.width
    QTest.keyClick(cards, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert css(cards) == before
