"""Absolute and fixed boxes keep their box wherever they stand: CSS 2.2 §9.6, §10.1, §10.3.7."""

from collections.abc import Callable

import pytest

from tests.conftest import PageOf, box
from tests.laws import check_laws

AROUND = {
    "inline-block": "display: inline-block",
    "float in a line": "float: left",
    "absolute": "position: absolute",
    "fixed": "position: fixed",
    "relative": "position: relative",
    "inline-block in a span": "display: inline-block; position: relative",
}


@pytest.mark.parametrize("around", AROUND.values(), ids=AROUND)
@pytest.mark.parametrize("position", ["absolute", "fixed"])
def test_a_box_inside_keeps_its_place(page_of: PageOf, around: str, position: str) -> None:
    """With offsets its place is that of its containing block: the window, or the box around."""
    page = page_of(
        f"text <span id='w' style='{around}'>in<b id='b'>x</b></span>",
        f"#w {{ border: 5px solid }} #b {{ position: {position}; top: 7px; left: 9px }}",
    )
    check_laws(page)
    contains = position == "absolute" and "position" in around
    x, y = box(page, "w")[:2] if contains else (0, 0)
    assert box(page, "b")[:2] == ((x + 14, y + 12) if contains else (9, 7))


def test_the_static_place_counts_every_step_on_the_way(page_of: PageOf) -> None:
    """A fixed box in an absolute one in a shifted one stands where it would have stood."""
    page = page_of(
        "<div id='a'><div id='b'><div id='c'></div></div></div>",
        "#a { position: relative; left: 30px; padding: 4px } #b { position: absolute; left: 10px; top: 20px;"
        " padding: 6px } #c { position: fixed; width: 5px; height: 5px }",
    )
    assert box(page, "c") == (46, 26, 5, 5)


@pytest.mark.parametrize(
    ("own", "outer", "expected"),
    [("ltr", "ltr", 10), ("rtl", "ltr", 10), ("ltr", "rtl", 150), ("rtl", "rtl", 150)],
)
def test_the_containing_block_s_direction_decides(
    page_of: PageOf, own: str, outer: str, expected: float
) -> None:
    """§10.3.7 and §9.4.3: over-constrained offsets give on the end side of the containing block."""
    page = page_of(
        "<div id='w'><div id='a'></div></div><section><div id='r'></div></section>",
        f"#w {{ position: relative; width: 200px; height: 50px; direction: {outer} }} section {{ direction: {outer} }}"
        f"#a {{ direction: {own}; position: absolute; left: 10px; right: 30px; width: 20px; height: 5px }}"
        f"#r {{ direction: {own}; position: relative; left: 10px; right: 30px; width: 20px; height: 5px }}",
    )
    assert box(page, "a")[0] == expected
    assert box(page, "r")[0] == (10 if outer == "ltr" else 980 - 30)


@pytest.mark.parametrize(("direction", "x"), [("ltr", 7), ("rtl", 7 + 200 - 30)])
def test_the_static_place_begins_at_the_start_of_the_line(
    page_of: PageOf, direction: str, x: float
) -> None:
    """§10.3.7: without offsets an absolute block stands where it would have begun, on the right in rtl."""
    page = page_of(
        "<div id='w'><div id='a'></div></div>",
        f"#w {{ width: 200px; padding: 7px; direction: {direction} }} #a {{ position: absolute; width: 30px }}",
    )
    assert box(page, "a")[0] == x


def test_an_inline_box_contains_only_what_is_inside_it(page_of: PageOf) -> None:
    """§10.1: behind a relative span the containing block is again the one around."""
    page = page_of(
        "<div id='w'>xxxx <span id='s'>in <b id='a'></b></span> out <b id='b'></b></div>",
        "#w { position: relative; padding: 9px } #s { position: relative }"
        " b { position: absolute; left: 0; top: 0; width: 4px; height: 4px }",
    )
    assert box(page, "a")[:2] == box(page, "s")[:2] != (0, 0)
    assert box(page, "b")[:2] == (0, 0)


@pytest.mark.parametrize(
    ("css", "y", "height"),
    [
        ("height: 20px; margin: auto 0", 40, 20),
        ("height: 140px; margin: auto 0", -20, 140),
        ("height: 20px; margin-top: auto", 80, 20),
        ("margin: 5px 0", 5, 90),
        ("margin: 5px 0; max-height: 30px", 5, 30),
    ],
)
def test_between_top_and_bottom(page_of: PageOf, css: str, y: float, height: float) -> None:
    """§10.6.4: auto margins are equal halves, of less than nothing too; an auto height is stretched."""
    page = page_of(
        "<div id='w'><div id='a'></div></div>",
        f"#w {{ position: relative; height: 100px }} #a {{ position: absolute; top: 0; bottom: 0; {css} }}",
    )
    assert box(page, "a")[1::2] == (y, height)


NESTED = {
    "absolute": "position: absolute; padding: 1px",
    "absolute, stretched": "position: absolute; top: 0; bottom: 0; left: 1px",
    "fixed": "position: fixed",
    "float": "float: left; padding: 1px",
    "inline-block": "display: inline-block; padding: 1px",
    "context beside a float": "overflow: hidden",
    "block": "margin: 1px; padding: 1px",
    "relative": "position: relative; left: 1px",
    "list item": "display: list-item; margin-left: 3px",
}


@pytest.mark.parametrize("css", NESTED.values(), ids=NESTED)
def test_nesting_costs_no_more_than_twice_for_twice_the_depth(
    page_of: PageOf, css: str, boxes_laid_out: Callable[[], int]
) -> None:
    """Fragments made, not seconds: each box is laid out a bounded number of times."""
    counts = []
    for depth in (12, 24):
        boxes_laid_out()
        floats = "<i style='float: left; width: 9px; height: 9px'></i>"
        page_of(f"{floats}<div class='n'>a" * depth, f".n {{ {css} }}", 3000, laws=False)
        counts.append(boxes_laid_out())
    assert counts[1] <= 2.5 * counts[0] + 10, counts


def test_four_thousand_items_are_counted_at_once(page_of: PageOf) -> None:
    """Each item's number is one look-up: the children of the list are gone through once."""
    from redcrate.core.boxes.ordinals import ordinals_in

    page = page_of("<ol>" + "<li>x" * 200 + "</ol>")
    items = [e for e in page.elements if e.tag == "li"]
    numbers = ordinals_in(items[0].parent, page.styled)  # type: ignore[arg-type]
    assert [numbers[i] for i in items] == list(range(1, 201))


@pytest.mark.parametrize(
    ("markup", "numbers"),
    [
        ("<ol><li><li><li>", [1, 2, 3]),
        ("<ol start=5><li><li>", [5, 6]),
        ("<ol start=-1><li><li><li>", [-1, 0, 1]),
        ("<ol reversed><li><li><li>", [3, 2, 1]),
        ("<ol reversed start=9><li><li>", [9, 8]),
        ("<ol><li value=7><li><li value=x><li value=' 3 '>", [7, 8, 9, 3]),
        ("<ul start=5><li><li>", [1, 2]),
    ],
)
def test_numbers_of_list_items(page_of: PageOf, markup: str, numbers: list[int]) -> None:
    """HTML Standard §4.4.8: start, reversed and value."""
    from redcrate.core.boxes.ordinals import ordinals_in

    page = page_of(markup)
    items = [e for e in page.elements if e.tag == "li"]
    assert items[0].parent is not None
    assert list(ordinals_in(items[0].parent, page.styled).values()) == numbers
