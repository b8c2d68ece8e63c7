"""Lines as even as can be: CSS Text 4 §6.4.2."""

import pytest

from redcrate.core.explain.down import down
from tests.conftest import PageOf, by_id
from tests.core.layout.test_ends_of_lines import lines

# Liberation Mono: 12 px a character at 20 px.
CSS = "div { font: 20px/20px 'Liberation Mono'; text-wrap: balance } "

EVENED = [
    # text, style, width in characters, lines
    ("aa bb cc dd", "", 8, ["aa bb", "cc dd"]), ("aa bb cc dd", "text-wrap: wrap", 8, ["aa bb cc", "dd"]),
    ("aa bb cc", "", 8, ["aa bb cc"]), ("aa bb cc dd ee", "", 8, ["aa bb cc", "dd ee"]),
    ("aa bb cc dd", "text-wrap-style: stable", 8, ["aa bb cc", "dd"]), ("a b c", "text-wrap: nowrap balance", 1, ["a b c"]),
    ("aa bb cc dd<br>ee ff gg hh", "", 8, ["aa bb", "cc dd", "ee ff gg", "hh"]),  # engines: only to the first break
    ("aa bb cc dd<br>eeeeeeee", "", 8, ["aa bb", "cc dd", "eeeeeeee"]),
    ("aa bb cc dd", "text-indent: 12px", 9, ["aa bb", "cc dd"]), ("aa bb <b>cc</b> dd", "", 8, ["aa bb", "cc dd"]),
    ("aaaaaaaaaa bb cc dd", "", 8, ["aaaaaaaaaa", "bb cc dd"]), ("a b c d e f g", "", 1, ["a", "b", "c", "d", "e", "f", "g"]),
    ("aa bb cc dd <u>ee</u>", "", 8, ["aa bb cc", "dd ee"]), ("aa <i></i>bb cc dd", "", 8, ["aa bb cc", "dd"]),
]  # fmt: skip


@pytest.mark.parametrize(("text", "style", "wide", "expected"), EVENED)
def test_no_more_lines_than_there_would_be(
    page_of: PageOf, text: str, style: str, wide: int, expected: list[str]
) -> None:
    """And each as long as the others, where nothing else decides: a float, a word that is too long."""
    css = CSS + "i { float: left; width: 1px; height: 1px } b { font-weight: 400 }"
    page = page_of(f"<div id='d' style='width: {wide * 12 + 2}px; {style}'>{text}</div>", css)
    assert [line.rstrip() for line in lines(page)] == expected


def test_they_stand_in_the_room_that_there_is(page_of: PageOf) -> None:
    """Set to the right they end at its edge; the sum of the height says what evened them out."""
    page = page_of("<div id='d' style='width: 98px; text-align: right'>aa bb cc dd</div>", CSS)
    found = page.box_of(by_id(page, "d"))
    assert found is not None and found.box is not None
    assert {line.width for line in found.box.fragment.lines} == {98 * 64}
    equation = down(page, by_id(page, "d"))
    assert equation is not None and any("text-wrap" in term.why for term in equation.terms)


@pytest.mark.parametrize("text", ["a " * 61, "aa <i></i>bb cc dd ee", "aa"])
def test_lines_that_nothing_evens_out_do_not_say_so(page_of: PageOf, text: str) -> None:
    """Too many of them, a float among them, or one alone."""
    page = page_of(f"<div id='d' style='width: 240px'>{text}</div>", CSS + "i { float: left }")
    equation = down(page, by_id(page, "d"))
    assert equation is not None and not any("text-wrap" in term.why for term in equation.terms)


@pytest.mark.parametrize(("words", "in_first"), [(51, 9), (61, 10)])
def test_long_texts_stay_as_they_are(page_of: PageOf, words: int, in_first: int) -> None:
    """Six lines are evened out, seven are not."""
    page = page_of(f"<div id='d' style='width: 240px'>{'a ' * words}</div>", CSS)
    assert len(lines(page)[0].split()) == in_first
