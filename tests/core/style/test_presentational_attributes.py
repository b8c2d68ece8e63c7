"""Presentational attributes of the HTML Standard §15.3 and §15.4: what they do to boxes and text."""

from pathlib import Path

import pytest

from redcrate.core.page import Page
from redcrate.core.units import ZERO
from tests.conftest import PageOf, box, by_id, load
from tests.laws import check_laws

U = "<u id='d'></u>"
BASE = "u { display: block; width: 100px; height: 10px } p { margin: 0 } table { border-spacing: 0 }"
BOXES = [
    # body, x, y, width, height of #d; the room is 400 px
    (f"<center>{U}</center>", 150, 0, 100, 10),
    (f"<div align=center>{U}</div>", 150, 0, 100, 10), (f"<div align=right>{U}</div>", 300, 0, 100, 10),
    (f"<div align=justify>{U}</div>", 0, 0, 100, 10), (f"<center><div>{U}</div></center>", 150, 0, 100, 10),
    ("<hr id=d size=20 width=200 align=left>", 0, 8, 202, 20), ("<hr id=d width=50%>", 99, 8, 202, 2),
    ("<hr id=d width=200 align=right>", 198, 8, 202, 2), ("<hr id=d size=1>", 0, 8, 400, 1),
    ("<hr id=d size=6 noshade>", 0, 8, 400, 6), ("<hr id=d size=0>", 0, 8, 400, 2),
    ("<iframe id=d width=50 height=20 frameborder=0></iframe>", 0, 0, 50, 20),
    ("<iframe id=d width=50 height=20 frameborder=1></iframe>", 0, 0, 54, 24),
    ("<img id=d width=50 height=20 border=3>", 0, 0, 56, 26), ("<img id=d width=50 height=20 align=right>", 350, 0, 50, 20),
    ("<img id=d width=50 height=20 align=left hspace=4 vspace=5>", 4, 5, 50, 20),
    ("<img id=d width=50% height=20 align=left>", 0, 0, 200, 20), ("<img id=d width=-5 height=20 align=left>", 0, 0, 0, 20),
    ("<img align=left width=9 height=30><br clear=left><img id=d align=left width=5 height=5>", 0, 30, 5, 5),
    ("<img align=left width=9 height=30><br clear=none><img id=d align=left width=5 height=5>", 9, 20, 5, 5),
]  # fmt: skip


def made(page_of: PageOf, body: str, css: str = "") -> Page:
    """The page in a window of 400 px with lines of 20 px, lawful."""
    page = page_of(body, f"body {{ font: 16px/20px 'Liberation Sans' }} {BASE} {css}", 400)
    check_laws(page)
    return page


@pytest.mark.parametrize(("body", "x", "y", "width", "height"), BOXES, ids=[b[0] for b in BOXES])
def test_box(page_of: PageOf, body: str, x: float, y: float, width: float, height: float) -> None:
    """Place and size; a rule has borders of 1 px outside its width."""
    assert box(made(page_of, body), "d") == (x, y, width, height)


@pytest.mark.parametrize(
    ("align", "side", "margins"),
    [("left", "left", 0), ("RIGHT", "right", 0), ("center", "none", "auto")],
)
def test_where_a_table_stands(page_of: PageOf, align: str, side: str, margins: str | int) -> None:
    """§15.3.8: left and right float, center is auto margins."""
    page = page_of(f"<table id=d align={align}></table>")
    style = page.style_of(by_id(page, "d"))
    assert style.float_ == side
    assert style.margin_left == style.margin_right
    assert (style.margin_left == "auto") is (margins == "auto")


def test_a_rule_of_the_author_beats_an_attribute(page_of: PageOf) -> None:
    """HTML Standard §15.2: hints stand before the author's sheet, with no specificity."""
    page = made(page_of, "<hr id=d size=20 width=200>", "* { width: 90px }")
    assert box(page, "d")[2] == 92  # with its borders


@pytest.mark.parametrize(
    ("attributes", "size"),
    [("size=1", 10), ("size=7", 48), ("size=+1", 18), ("size=-9", 10), ("size=9", 48), ("size=x", 16), ("size='4px'", 18)],
)  # fmt: skip
def test_the_size_of_a_font_element(page_of: PageOf, attributes: str, size: float) -> None:
    """§15.3.4: 1 to 7, or steps from 3."""
    page = page_of(f"<font id='d' {attributes}>x</font>")
    assert page.style_of(by_id(page, "d")).font_size == size


def test_face_and_colour_of_a_font_element(page_of: PageOf) -> None:
    """§15.3.4."""
    style = (page := page_of("<font id='d' face='Arial, serif' color='#102030'>x</font>")).style_of(
        by_id(page, "d")
    )
    assert style.font_family == ("Arial", "serif")
    assert (style.color.red, style.color.green, style.color.blue) == (16, 32, 48)


@pytest.mark.parametrize(
    ("kind", "css"), [("A", "upper-alpha"), ("i", "lower-roman"), ("SQUARE", "square"), ("x", "decimal")]
)
def test_kinds_of_markers(page_of: PageOf, kind: str, css: str) -> None:
    """§15.3.7: letters count with their case, words do not."""
    page = page_of(f"<ol type='{kind}'><li id='d'>x</ol>")
    assert page.style_of(by_id(page, "d")).list_style_type == css


def test_tables_and_cells(page_of: PageOf) -> None:
    """§15.3.8: what a table's attributes give to it and to its cells."""
    page = page_of(
        "<table id='t' align=right cellpadding=7 border><tr><td id='c' nowrap valign=top bgcolor=red>x</table>"
    )
    table, cell = page.style_of(by_id(page, "t")), page.style_of(by_id(page, "c"))
    assert table.float_ == "right" and table.border_left_width == 64 and cell.border_left_width == 64
    assert (cell.padding_left.resolve(ZERO), cell.white_space, cell.vertical_align) == (
        7 * 64,
        "nowrap",
        "top",
    )
    assert cell.background_color != table.background_color


def test_a_zero_width_of_a_cell_is_none(page_of: PageOf) -> None:
    """§2.3.4.5, non-zero dimension values: 0 is ignored on tables, not on images."""
    page = page_of("<table><tr><td id='c' width=0>x</table><img id='i' width=0 height=5>")
    assert page.style_of(by_id(page, "c")).width == "auto" and box(page, "i")[2] == 0


def test_body_attributes(tmp_path: Path) -> None:
    """§15.3.2: margins and colours of the page."""
    path = tmp_path / "old.html"
    path.write_text("<!doctype html><body id=b topmargin=3 marginwidth=5 text=#010203>x", "utf-8")
    page = load(path, 400)
    assert box(page, "b")[:3] == (5, 3, 390)
    assert page.style_of(by_id(page, "b")).color.blue == 3
