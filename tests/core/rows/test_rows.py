"""Rows: who shares a line, what the row costs, and who dropped out of it."""

import pytest

from redcrate.core.rows import RowKind, row_of, rows_of
from tests.conftest import CASES, PageOf, by_id, load

THREE = "<div id='r'><i id='a'></i><i id='b'></i>\n<i id='c'></i></div>"


def test_a_row_of_floats_and_the_one_that_dropped(page_of: PageOf) -> None:
    """Two of 50 % with a border: the second lacks 4 px of the 498 that are left."""
    page = page_of(THREE, "i { float: left; width: 50%; border: 1px solid; height: 9px }")
    first, _second, third = rows_of(page, by_id(page, "r"))
    assert first.kind is RowKind.FLOATS and [i.element.id for i in first.items] == ["a"]
    assert (first.room, first.sum, first.left) == (1000 * 64, 502 * 64, 498 * 64)
    assert first.dropped is not None
    assert (first.dropped.element.id, first.dropped.missing) == ("b", 4 * 64)
    assert third.dropped is None
    assert row_of(page, by_id(page, "c")) == third


def test_a_space_of_the_source_is_a_gap(page_of: PageOf) -> None:
    """Inline-blocks in one row: no gap without a space, a gap as wide as the space with one."""
    page = page_of(
        THREE, "i { display: inline-block; width: 300px; margin: 0 2px } div { width: 915px }"
    )
    row, second = rows_of(page, by_id(page, "r"))
    assert [i.element.id for i in row.items] == ["a", "b"]
    assert [(g.after, g.spaces) for g in row.gaps] == []
    dropped = row.dropped  # 304 would fit into the 307 that are left, were there no space
    assert dropped is not None and dropped.element.id == second.items[0].element.id == "c"
    assert 0 < dropped.missing == dropped.spaces - 3 * 64
    page = page_of(THREE, "i { display: inline-block; width: 300px }")
    (row,) = rows_of(page, by_id(page, "r"))
    (gap,) = row.gaps
    assert gap.after == 1 and gap.spaces > 3 * 64 and gap.total == gap.spaces
    assert row.left == 1000 * 64 - 900 * 64 - gap.spaces


@pytest.mark.parametrize("group", ["gen-f", "gen-i", "float", "inline", "flex", "grid", "table"])
def test_rows_add_up_on_every_page(group: str) -> None:
    """Margin boxes, gaps and what is left are the room; items stand in order and in the row."""
    for path in sorted(CASES.glob(f"{group}*.html"))[:60]:
        page = load(path, 1000, 800)
        for container in page.elements:
            for row in rows_of(page, container):
                assert row.sum + row.left == row.room
                assert all(i.margin_box.width >= 0 or i.element for i in row.items) and row.items
                if row.kind is RowKind.INLINE:
                    assert all(g.spaces >= 0 and g.text >= 0 for g in row.gaps)


def test_a_flex_line_is_a_row_with_its_gaps_and_says_who_got_the_room(page_of: PageOf) -> None:
    """Items in their places, the gap between them, what is shared; the next line begins with what did not fit."""
    css = (
        "#r { display: flex; flex-wrap: wrap; gap: 10px; width: 300px } i { height: 9px; width: 100px }"
        " #a { flex-grow: 1; max-width: 120px } #b { flex-grow: 1 }"
    )
    page = page_of(THREE, css)
    first, second = rows_of(page, by_id(page, "r"))
    assert first.kind is RowKind.FLEX and [i.element.id for i in first.items] == ["a", "b"]
    assert [(g.after, g.gap) for g in first.gaps] == [(0, 640)]
    assert (first.room, first.sum, first.left) == (300 * 64, 300 * 64, 0)
    assert first.shared == "90 px free: i#a +20 (stopped), i#b +70"
    assert first.dropped is not None
    assert (first.dropped.element.id, first.dropped.missing) == ("c", 20 * 64)
    assert row_of(page, by_id(page, "c")) == second and second.left == 200 * 64
    assert second.shared == "200 px free: no item grows; 200 px free"
    page = page_of(THREE, css + " #c { margin-left: auto }")
    pushed = row_of(page, by_id(page, "c"))
    assert pushed is not None and (pushed.left, pushed.sum) == (0, 300 * 64)
    assert pushed.shared == "200 px free: no item grows; 200 px go into auto margins"


def test_a_grid_row_is_a_row_of_what_begins_in_it(page_of: PageOf) -> None:
    """Each row's items by place, gaps between neighbours, the columns in words; a column line is no row."""
    css = "#r { display: grid; grid-template-columns: 50px 80px; gap: 4px 6px } i { height: 9px }"
    page = page_of(THREE, css)
    first, second = rows_of(page, by_id(page, "r"))
    assert [(r.kind, [i.element.id for i in r.items]) for r in (first, second)] == [
        (RowKind.GRID, ["a", "b"]),
        (RowKind.GRID, ["c"]),
    ]
    assert [g.gap for g in first.gaps] == [6 * 64] and first.sum == 136 * 64
    assert first.shared == "columns of 50, 80 px"
    page = page_of(THREE, "#r { display: flex; flex-direction: column } i { height: 9px }")
    assert rows_of(page, by_id(page, "r")) == ()


def test_the_cells_of_a_row_share_it(page_of: PageOf) -> None:
    """Cells and the spacing between them make the row's width."""
    css = "table { border-spacing: 6px } td { padding: 0; width: 50px; height: 9px }"
    page = page_of("<table><tr><td id=a><td id=b><tr><td id=c></table>", css)
    row = row_of(page, by_id(page, "b"))
    assert row is not None and row.kind is RowKind.CELLS
    assert [i.element.id for i in row.items] == ["a", "b"] and row.left == 0
    assert [g.total for g in row.gaps] == [6 * 64] and row.room == 106 * 64
    last = row_of(page, by_id(page, "c"))
    assert last is not None and last.left == 56 * 64
