"""Inline boxes round blocks, on lines that are not there, and spaces at the ends of lines."""

import pytest

from redcrate.core.page import Page
from tests.conftest import PageOf, box
from tests.laws import check_laws

BLOCK = "#b { height: 20px } "


def made(page_of: PageOf, body: str, css: str = "") -> Page:
    """The page, lawful."""
    page = page_of(body, f"body {{ font: 16px/20px 'Liberation Sans' }} i {{ display: inline-block; width: 10px; height: 10px }} {css}", 800)  # fmt: skip
    check_laws(page)
    return page


def test_an_inline_box_spans_the_block_in_it(page_of: PageOf) -> None:
    """CSS 2.2 §9.2.1.1: pieces before and after, and the block between them, full width."""
    page = made(page_of, "<span id='s'>x<div id='b'></div>y</span>", BLOCK)
    assert box(page, "b") == (0, 20, 800, 20)
    x, y, width, height = box(page, "s")
    assert (x, width) == (0, 800) and y == 1 and height == 57  # 17 px of glyphs in lines of 20 px


def test_parts_with_nothing_in_them_do_not_count(page_of: PageOf) -> None:
    """An empty piece before the block does not widen the box's outline upwards."""
    page = made(page_of, "<span id='s'><div id='b'></div></span>", BLOCK)
    assert box(page, "s") == (0, 0, 800, 20)


def test_a_relative_inline_box_takes_its_block_along(page_of: PageOf) -> None:
    """§9.4.3 with §9.2.1.1: all that it breaks into moves; nothing after it does."""
    css = BLOCK + "#s { position: relative; left: 7px; top: 3px }"
    page = made(page_of, "<span id='s'>x<div id='b'></div></span><div id='after'>z</div>", css)
    assert box(page, "b") == (7, 23, 800, 20)
    assert box(page, "after")[:2] == (0, 40)


def test_a_float_in_a_relative_inline_box_moves_with_it(page_of: PageOf) -> None:
    """§9.4.3: also through two of them."""
    css = "em { position: relative; top: 5px; left: 1px } #f { float: left; width: 10px; height: 10px }"
    page = made(page_of, "<em><em><b id='f'></b></em></em>text", css)
    assert box(page, "f") == (2, 10, 10, 10)


def test_a_line_that_is_not_there_gives_its_inline_boxes_no_height(page_of: PageOf) -> None:
    """§9.4.2: without text, atomic boxes or edges the line is treated as not there."""
    page = made(page_of, "<div id='d'><span id='s'> </span></div><p id='p'>x</p>", "p { margin: 0 }")
    assert box(page, "d")[3] == 0 and box(page, "s")[1:] == (0, 0, 0) and box(page, "p")[1] == 0
    page = made(page_of, "<div id='d'><span id='s'> </span></div>", "#s { padding-left: 2px }")
    assert box(page, "d")[3] == 20


def widths(page_of: PageOf, body: str, css: str = "") -> list[float]:
    """Widths of the shrink-to-fit boxes a, b and so on."""
    page = made(page_of, body, "#a, #b, #c { float: left; clear: left } " + css)
    return [box(page, i)[2] for i in "abc" if any(e.id == i for e in page.elements)]


def test_a_space_at_the_end_has_no_preferred_width(page_of: PageOf) -> None:
    """CSS Text 3 §4.1.2: it hangs or is removed; kept in pre, where it counts."""
    plain, spaced, kept = widths(
        page_of,
        "<div id='a'>abc</div><div id='b'>abc </div><div id='c'>abc </div>",
        "#c { white-space: pre }",
    )
    assert plain == spaced and kept == pytest.approx(plain + 4.4531, abs=0.02)


def test_a_space_after_an_inline_box_at_the_end_neither(page_of: PageOf) -> None:
    """It stands after the close of a box, or inside one that closes behind it."""
    three = (
        "<div id='a'>abc</div><div id='b'><span>abc</span> </div><div id='c'><span>abc </span> </div>"
    )
    plain, after, inside = widths(page_of, three)
    assert plain == after == inside


def test_a_tab_reaches_the_next_stop_in_preferred_widths(page_of: PageOf) -> None:
    """CSS Text 3 §4.2: stops stand a multiple of tab-size apart."""
    body = "<div id='a'>\t<i></i></div><div id='b'>a\t<i></i></div><div id='c'>\t\t<i></i></div>"
    assert widths(page_of, body, "div { white-space: pre; tab-size: 30px }") == [40, 40, 70]


def test_a_line_breaks_anywhere_where_it_may(page_of: PageOf) -> None:
    """CSS Text 3 §5.3 line-break: anywhere; §5.2 break-all, but not at the edge to a normal text."""
    css = "div { width: 0 } #a, #c { line-break: anywhere } #b b { word-break: break-all }"
    page = made(
        page_of, "<div id='a'>a.b</div><div id='b'>ab<b>cd</b></div><div id='c'>ab cd</div>", css
    )
    assert [box(page, i)[3] for i in "abc"] == [60, 40, 80]


def test_text_wrap_and_white_space_both_hold_a_line_together(page_of: PageOf) -> None:
    """CSS Text 4 §6.1, §6.4."""
    css = (
        "div { width: 0 } #a { text-wrap: nowrap } #b { white-space: nowrap } #c { text-wrap: balance }"
    )
    page = made(page_of, "".join(f"<div id='{i}'>a b</div>" for i in "abc"), css)
    assert [box(page, i)[3] for i in "abc"] == [20, 20, 40]


@pytest.mark.parametrize(
    ("before", "x", "y"), [("", 0, 0), ("<i></i>", 0, 20), (" ", 0, 0), ("<b></b>", 0, 0)]
)
def test_the_static_place_of_a_block_is_below_what_stands_on_the_line(
    page_of: PageOf, before: str, x: float, y: float
) -> None:
    """CSS Positioned Layout 3 §3.5.1: where it would have been had it not been taken out."""
    page = made(
        page_of, f"<div>{before}<u id='u'></u></div>", "#u { position: absolute; display: block }"
    )
    assert box(page, "u")[:2] == (x, y)


def test_an_inline_s_static_place_is_in_the_line(page_of: PageOf) -> None:
    """After what stands before it."""
    page = made(page_of, "<div><i></i><u id='u'></u></div>", "#u { position: absolute }")
    assert box(page, "u")[:2] == (10, 0)


@pytest.mark.parametrize(
    ("style", "expected"),
    [
        (
            "position: absolute; right: 10px; bottom: 20px; width: 100px; height: 50px",
            (690, 530, 100, 50),
        ),
        ("float: right; width: 100px; height: 50px", (700, 0, 100, 50)),
        ("position: relative; left: 5px; top: 6px; width: 100px; height: 50px", (5, 6, 100, 50)),
    ],
)
def test_the_root_is_placed_too(page_of: PageOf, style: str, expected: tuple[float, ...]) -> None:
    """CSS 2.2 §9.3.1, §9.5: in the initial containing block."""
    page = page_of("", f"html {{ {style} }}", 800, 600)
    root = page.box_of(page.elements[0])
    assert root is not None
    rect = root.border_box
    assert (rect.x / 64, rect.y / 64, rect.width / 64, rect.height / 64) == expected


def test_the_static_place_of_a_block_in_rtl_is_the_right_edge(page_of: PageOf) -> None:
    """CSS 2.2 §10.3.7: its right edge stands where the line would have ended at the start side."""
    css = "div { direction: rtl; width: 300px } #u { position: absolute; display: block; width: 40px }"
    page = made(page_of, "<div><i></i><u id='u'></u></div>", css)
    assert box(page, "u")[:3] == (260, 20, 40)


def test_percentages_look_through_anonymous_blocks(page_of: PageOf) -> None:
    """§9.2.1.1: heights in per cent refer to the closest box that an element made."""
    css = "div { height: 200px } #x { height: 50%; line-height: 0 } p { margin: 0 }"
    page = made(page_of, "<div>text <i id='x'></i><p>block</p></div>", css)
    assert box(page, "x")[3] == 100


def test_a_text_as_wide_as_its_room_fits(page_of: PageOf) -> None:
    """The width is rounded up and the room is cut to 1/64 px; 15 letters still fit into 15ch."""
    css = "div { font: 20px/20px 'Liberation Mono'; width: 15ch } #b { width: calc(15ch - 1px) }"
    page = made(page_of, "<div id='a'>six seven eight</div><div id='b'>six seven eight</div>", css)
    assert [box(page, i)[3] for i in "ab"] == [20, 40]


def test_tab_stops_are_those_of_the_block(page_of: PageOf) -> None:
    """CSS Text 3 §4.2: of the block container, whatever an inline box round the tab says."""
    css = "div { white-space: pre; tab-size: 30px } span { tab-size: 70px; font-size: 5px }"
    page = made(page_of, "<div><span>\t</span><i id='x'></i></div>", css)
    assert box(page, "x")[0] == 30


@pytest.mark.parametrize(
    ("height", "lines", "all_of_them"),
    [("1.2", 4, 69.125), ("1.65", 3, 71.296875), ("17.28px", 4, 69.125)],
)
def test_heights_of_lines_go_to_steps(
    page_of: PageOf, height: str, lines: int, all_of_them: float
) -> None:
    """A number multiplies the font size as it is in steps of 1/64 px, and is cut; a length goes to the nearest step."""
    text = "<br>".join("x" * lines)
    page = page_of(f"<p id=d>{text}</p>", f"p {{ margin: 0; font-size: 14.4px; line-height: {height} }}")
    assert box(page, "d")[3] == all_of_them


def test_a_colour_field_has_its_padding_inside(page_of: PageOf) -> None:
    """HTML Standard §15.5.7: `box-sizing: border-box`."""
    page = page_of(
        "<input id=d type=color>",
        "input { display: block; width: 90px; height: 40px; padding: 6px 12px }",
    )
    assert box(page, "d")[2:] == (90, 40)
