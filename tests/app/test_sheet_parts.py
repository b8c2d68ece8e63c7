"""The parts of the sheet by themselves: a viewport beside another one, and the tools."""

from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from pytestqt.qtbot import QtBot

from redcrate.app.sheet.looking_sheet import LookingSheet
from redcrate.app.sheet.page_viewport import PageViewport
from redcrate.app.sheet.rulers import RULER, _numbers
from redcrate.app.sheet.sheet import Sheet
from redcrate.app.sheet.tools import SelectTool, WidthTool
from redcrate.core.session import Session
from redcrate.core.session.page_view import ViewAt
from tests.app.pointer import QTest, move_over


class Plain(PageViewport):
    """A viewport with nothing over the page."""

    def paintEvent(self, event: object) -> None:
        """The page and the rulers."""
        from PyQt6.QtGui import QPainter

        painter = QPainter(self.viewport())
        self.paint_page(painter)
        self.paint_rulers(painter)


@pytest.fixture
def session(demo_copy: Path) -> Session:
    """The demo page, open."""
    return Session(demo_copy)


def test_a_viewport_shows_views_without_an_editor(qtbot: QtBot, session: Session) -> None:
    """It paints, zooms round a scale, fits the width, and knows the places of the page."""
    shown = Plain(session.views, session.document.resources)
    qtbot.addWidget(shown)
    shown.resize(700, 500)
    shown.show()
    assert shown.scale < 0.6
    shown.set_zoom(2.0)
    box = session.views.page.box_of(session.views.page.elements[2])
    assert box is not None
    where = shown.to_screen(box.border_box)
    assert where.width() == pytest.approx(box.border_box.width / 64 * 2)
    x, y = shown.page_point(where.topLeft())
    assert abs(x - box.border_box.x) <= 32 and abs(y - box.border_box.y) <= 32
    shown.set_zoom(50.0)
    assert shown.scale == 8.0
    shown.set_zoom(None)
    picture = shown.grab().toImage()
    colours = {picture.pixel(x, 250) for x in range(60, 640, 4)}
    assert len(colours) > 2, "nothing is painted"


@pytest.mark.parametrize(("origin", "scale"), [(22, 1.0), (-3000, 1.0), (150, 0.37), (-1e9, 8.0)])
def test_rulers_are_numbered_as_far_as_they_are_seen(origin: float, scale: float) -> None:
    """Each number that can be seen, however long the page is, and none beyond it."""
    step, seen, page = 50, 900, 1e12
    numbers = _numbers(origin, seen, page, scale, step)
    wanted = [n for n in range(0, 30_000, step) if RULER <= origin + n * scale <= seen]
    assert (
        set(wanted) <= set(numbers)
        and len(numbers) <= len(range(0, round(seen / scale) + 2 * step, step)) + 1
    )
    assert list(_numbers(22, 900, 120, 1.0, 50)) == [0, 50, 100]


def test_two_sheets_of_one_document_stand_side_by_side(qtbot: QtBot, session: Session) -> None:
    """What is selected on one is selected on both; each has its own zoom."""
    sheets = [Sheet(session) for _ in range(2)]
    for sheet in sheets:
        qtbot.addWidget(sheet)
        sheet.resize(600, 400)
        sheet.show()
    sheets[1].set_zoom(1.0)
    notice = next(e for e in session.views.page.elements if "notice" in e.classes)
    box = session.views.page.by_element[notice].border_box
    corner = sheets[0].to_screen(box).topLeft().toPoint() + QPoint(3, 3)
    QTest.mouseClick(sheets[0].viewport(), Qt.MouseButton.LeftButton, pos=corner)
    assert session.views.selected is notice
    assert sheets[0].scale != sheets[1].scale
    edge = sheets[1].to_screen(box).topLeft() + QPointF(1, 60)
    move_over(sheets[1].viewport(), edge.toPoint())
    assert sheets[1].edge_tool.near is not None
    assert sheets[0].edge_tool.near is None


def test_sheets_of_unlike_widths_stand_side_by_side(qtbot: QtBot, session: Session) -> None:
    """Each lays the page out for its own window; selecting and hovering are of the document; edits reach both."""
    narrow = ViewAt(session.views, 390)
    sheets = [LookingSheet(session, narrow), Sheet(session)]
    for sheet in sheets:
        qtbot.addWidget(sheet)
        sheet.resize(600, 400)
        sheet.show()
    notice = next(e for e in session.views.page.elements if "notice" in e.classes)
    boxes = [s.shown_page.by_element[notice].border_box for s in sheets]
    assert boxes[0].width != boxes[1].width and narrow.viewport.width == 390
    small = sheets[0]
    corner = small.to_screen(boxes[0]).topLeft().toPoint() + QPoint(3, 3)
    with qtbot.waitSignal(small.hovered) as over:
        move_over(small.viewport(), corner)
    assert over.args == [notice]
    sheets[1].hover(over.args[0])
    QTest.mouseClick(small.viewport(), Qt.MouseButton.LeftButton, pos=corner)
    assert session.views.selected is notice is narrow.selected
    QTest.keyClick(small, Qt.Key.Key_Up)
    assert session.views.selected is notice.parent
    session.views.select(notice)
    before = [s.grab().toImage() for s in sheets]
    patch = session.editor.plan(notice, "padding", ("top",), "70").patch
    session.editor.apply(patch)
    after = [s.grab().toImage() for s in sheets]
    assert all(one != other for one, other in zip(before, after, strict=True))
    assert narrow.page.by_element[notice].padding.top == 70 * 64
    narrow.set_width(500)
    small.show_anew()
    assert small.shown_page.viewport.width == 500
    assert session.views.viewport.width == 1100, "the one that is worked at stays"
    narrow.close()
    assert 500 not in session.views._others


def test_the_tools_know_what_is_for_them(qtbot: QtBot, session: Session) -> None:
    """A press beside the right edge is none of the width's; a second click selects the parent."""
    shown = Plain(session.views, session.document.resources)
    qtbot.addWidget(shown)
    shown.resize(700, 500)
    shown.set_zoom(0.5)
    width, select = WidthTool(shown, session.views), SelectTool(shown, session.views)
    right = shown.origin() + QPointF(1100 * 0.5, 200)
    assert not width.press(right - QPointF(9, 0)) and not width.move(right)
    assert width.press(right) and width.move(right - QPointF(100, 0))
    assert session.views.viewport.width == 900
    width.release()
    assert not width.move(right) and session.views.viewport.width == 900
    notice = next(e for e in session.views.page.elements if "notice" in e.classes)
    place = shown.to_screen(session.views.page.by_element[notice].border_box).topLeft() + QPointF(2, 2)
    assert select.select_at(place) is notice
    assert select.select_at(place) is notice.parent
    assert select.select_at(place, deepest=True) is notice
    assert select.select_at(place, more=True) is None and session.views.selection == (notice,)
