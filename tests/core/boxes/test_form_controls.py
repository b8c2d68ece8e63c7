"""Sizes of form controls in the default font (13.33 px sans-serif): HTML Standard §15.5, as engines have them."""

import pytest

from redcrate.core.layout.fragments import TextPiece
from tests.conftest import PageOf, box, by_id

CONTROLS = [
    # element, width and height of its border box
    ("<input id='d'>", 185, 21), ("<input id='d' type='search' size='10'>", 105, 21), ("<input id='d' size='0'>", 185, 21),
    ("<input id='d' style='width: 100%; padding: 5px; font: 16px/1.5 serif'>", 1014, 38),
    ("<input id='d' type='search' style='padding: 5px; width: 100px'>", 100, 29),
    ("<input id='d' style='border: 0'>", 181, 17), ("<textarea id='d' style='padding: 0'></textarea>", 177, 32),
    ("<input id='d' style='display: block'>", 185, 21), ("<input id='d' style='width: 50px'>", 58, 21),
    ("<input id='d' style='font-size: 18.4px; padding: 0; border: 0'>", 243, 22), ("<input id='d' type='checkbox'>", 13, 13),
    ("<input id='d' type='radio' style='width: auto; height: auto'>", 13, 13),
    ("<input id='d' type='checkbox' style='width: auto; height: auto'>", 13, 13), ("<input id='d' type='range'>", 129, 16), ("<input id='d' type='file'>", 253, 21), ("<input id='d' type='color'>", 50, 27),
    ("<textarea id='d'></textarea>", 181, 36), ("<textarea id='d' rows='4' cols='30'></textarea>", 261, 66),
    ("<select id='d'><option>x</option></select>", 29, 19), ("<select id='d'></select>", 22, 19),
    ("<select id='d'><option>x<option>xxx</select>", 42, 19),
    ("<input id='d' style='font-size: 16px'>", 215, 24), ("<textarea id='d' style='font-size: 14px'></textarea>", 190, 38),
    ("<select id='d' style='line-height: 40px'><option>x</select>", 29, 19), ("<select id='d' style='height: 40px; padding: 5px'><option>x</select>", 39, 40),
    ("<select id='d' style='appearance: none; line-height: 24px'><option>x</select>", 9, 26),
    ("<progress id='d' style='font-size: 20px'></progress>", 200, 20), ("<meter id='d' style='font-size: 20px'></meter>", 100, 20),
]  # fmt: skip


@pytest.mark.parametrize(("element", "width", "height"), CONTROLS)
def test_size(page_of: PageOf, element: str, width: float, height: float) -> None:
    """Characters of the field's own font, lines of its own height."""
    assert box(page_of(element), "d")[2:] == (width, height)


# What stands alone in a container that is as narrow as it can be, or beside 60 px in a flex line of 100 px, and its width.
SQUEEZED = [
    ("<input id='d' {w}>", 16, 40), ("<select id='d' {w}><option>abcdefghijkl</select>", 2, 40),
    ("<textarea id='d' {w}></textarea>", 12, 40), ("<textarea id='d' {m}></textarea>", 181, 40),
    ("<input id='d' type='submit' value='abcdef' {w}>", 56.03125, 56.03125), ("<input id='d' type='checkbox' {w}>", 20, 33),
    ("<input id='d' {m}>", 185, 108), ("<meter id='d' {w}></meter>", 0, 40),
]  # fmt: skip


@pytest.mark.parametrize(("element", "alone", "beside"), SQUEEZED)
def test_a_width_in_percent_squeezes(page_of: PageOf, element: str, alone: float, beside: float) -> None:
    """CSS Box Sizing 3 §5.2.2, as engines have it: fields and areas down to their edges, buttons and ticks not."""
    own = element.format(w="style='width: 100%'", m="style='max-width: 100%'")
    narrow = page_of(f"<div style='float: left; width: min-content'>{own}</div>")
    row = page_of(f"<div style='display: flex; width: 100px'><b style='flex: 0 0 60px'></b>{own}</div>")
    assert (box(narrow, "d")[2], box(row, "d")[2]) == (alone, beside)


def test_inline_controls_are_inline_blocks(page_of: PageOf) -> None:
    """HTML Standard §15.5.1: a width and a height count; in a row they are items as others are."""
    page = page_of(
        "<p>a <button id='d'>b</button></p>", "#d { display: inline; width: 120px; height: 30px }"
    )
    assert box(page, "d")[2:] == (120, 30) and page.style_of(by_id(page, "d")).display == "inline-block"
    page = page_of("<p style='display: flex'><button id='d'>b</button></p>", "#d { display: inline }")
    assert page.style_of(by_id(page, "d")).display == "block"


def test_a_field_stands_on_the_line(page_of: PageOf) -> None:
    """Its text shares the baseline of the text beside it; a text area stands with its bottom on it."""
    page = page_of("<p style='margin: 0; font: 13.333px/15px Arial' id='p'>a <input id='d'></p>")
    assert box(page, "p")[3] == 21
    page = page_of(
        "<p style='margin: 0; font: 13.333px/15px Arial' id='p'>a <textarea id='d'></textarea></p>"
    )
    assert box(page, "p")[3] == 36 + 3


@pytest.mark.parametrize(
    ("control", "above"),
    [("type='color'", 21), ("type='file'", 15), ("type='range' style='margin: 0'", 16), ("type='checkbox' style='margin: 0'", 13)],
)  # fmt: skip
def test_drawn_controls_have_their_own_baseline(page_of: PageOf, control: str, above: float) -> None:
    """In a line that is large enough: so much of them stands above the baseline of the text beside them."""
    page = page_of(
        f"<p style='margin: 0; font: 40px/60px Arial'><b id='b'>a</b><input id='d' {control}></p>"
    )
    baseline = box(page, "b")[1] + 36  # the font's ascent
    assert baseline - box(page, "d")[1] == above


@pytest.mark.parametrize(
    ("element", "shown"),
    [
        ("<select id='d'><option>one<option>two</select>", "one"), ("<select id='d'><option>one<option selected> t  wo </select>", "t wo"),
        ("<input id='d' value='a b'>", "a b"), ("<input id='d' type='password' value='ab'>", "••"), ("<input id='d' placeholder=a>", "a"), ("<input id='d'>", "\u200b"),
        ("<input id='d' value='mmmmmmmmmmmmmmmmmmmmmm' size='3'>", "mmm"),
    ],
)  # fmt: skip
def test_what_is_shown_in_a_field(page_of: PageOf, element: str, shown: str) -> None:
    """The option that is chosen, or the value as far as there is room."""
    page = page_of(element)
    found = page.box_of(by_id(page, "d"))
    assert found is not None and found.box is not None
    (part,) = found.box.fragment.lines[0].content
    assert isinstance(part, TextPiece) and part.text == shown


@pytest.mark.parametrize(
    ("body", "size"),
    [
        ("<input id=d type=checkbox>", (13, 13)), ("<input id=d type=radio style='appearance: none'>", (0, 0)),
        ("<input id=d type=checkbox style='appearance: none; padding: 4px; border: 1px solid; width: min-content'>", (10, 10)),
        ("<div style='display: flex; height: 40px'><input id=d type=checkbox style='margin: 0'></div>", (13, 40)),
        ("<div style='display: grid; width: 40px'><input id=d type=checkbox style='margin: 0'></div>", (40, 13)),
        ("<select id=d style='appearance: none; font: 16px Liberation Sans; padding: 8px 10px; border: 1px solid'><option>a</select>", (31, 35)),
        ("<select id=d style='appearance: none; font: 16px/30px Liberation Sans; padding: 0; border: 0'><option>a</select>", (9, 30)),
    ],
)  # fmt: skip
def test_controls_that_no_program_draws(page_of: PageOf, body: str, size: tuple[float, float]) -> None:
    """Ticks have no size then, and menus their font's height unless a line height is given; drawn ticks are stretched."""
    assert box(page_of(body, ""), "d")[2:] == size


RANGES = [
    # rules for the track and the thumb, style of the range, its height
    ("track { height: 3px }", "", 3), ("track { height: 3px; margin: 4px }", "", 11), ("track { height: 50% }", "", 16),
    ("track { padding: 5px; border: 1px solid }", "", 28), ("track { height: 30px; padding: 5px; box-sizing: border-box }", "", 30),
    ("thumb { height: 30px }", "", 16), ("thumb { height: 30px; appearance: none; margin-top: -7px }", "", 9),
    ("thumb { height: 30px; appearance: none; margin-top: -7px }", "appearance: none", 23), ("thumb { appearance: none }", "appearance: none", 0),
    ("track:hover { height: 3px }", "", 16), ("track { height: 3px }", "padding: 10px 0", 23), ("track { height: 3px }", "height: 10px", 10),
    (".x track { height: 3px }", "", 16), ("div > track { height: 3px } body track { height: 4px }", "", 4),
]  # fmt: skip


@pytest.mark.parametrize(("rules", "style", "height"), RANGES)
def test_a_range_is_as_high_as_its_track(page_of: PageOf, rules: str, style: str, height: float) -> None:
    """As engines have it, with the names that one maker gave its parts; other such names are those of nothing here."""
    rules = rules.replace("track", "::-webkit-slider-runnable-track").replace(
        "thumb", "::-webkit-slider-thumb"
    )
    page = page_of(
        f"<div><input id=d type=range style='margin: 0; {style}'></div>",
        rules.replace("body ::", "body div input::"),
    )
    assert box(page, "d")[3] == height
    assert not [n for n in page.notices if "slider" in n.sentence and ":hover" not in n.sentence]


@pytest.mark.parametrize(
    ("style", "button", "size"),
    [
        ("", "", (253, 21)), ("font-size: 20px", "", (379, 29)), ("line-height: 40px", "", (253, 40)), ("font-size: 15px; line-height: 1.53", "", (284, 23.9375)),
        ("font: 16px Liberation Serif", "", (272, 24)), ("line-height: 10px", "display: none", (253, 10)), ("", "padding: 10px", (253, 39)),
        ("font-size: 15px; line-height: 22.95px", "padding: 7px; margin: -7px; border: 0", (284, 22.953125)),
    ],
)  # fmt: skip
def test_a_file_field_is_a_line_with_a_button(
    page_of: PageOf, style: str, button: str, size: tuple[float, float]
) -> None:
    """As wide as 34 zeros, as high as its line and the button in it, whose rules count; measured."""
    css = f"input::file-selector-button {{ {button} }}"
    assert box(page_of(f'<input id="d" type="file" style="{style}">', css), "d")[2:] == size
