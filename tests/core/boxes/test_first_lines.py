"""First lines with a style of their own: CSS Pseudo-Elements 4 §2.1."""

from pathlib import Path

import pytest

from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.page import Page
from tests.conftest import PageOf, box
from tests.core.edit.test_edits import open_text
from tests.laws import check_laws

# Ten letters of 10 px a line; on the first line, at 20 px of font, twice as wide.
CSS = "p { margin: 0; font: 16.6667px/20px 'Liberation Mono'; width: 101px } "
BIG = CSS + "p::first-line { font-size: 33.3333px; line-height: 50px } "


def heights(page: Page) -> float:
    """The height of the paragraph."""
    return box(page, "d")[3]


LINES = [
    # content, height: a first line of 50 px with 5 letters, then lines of 20 px with 10 letters
    ("ab cd ef gh", 70), ("abcd", 50), ("ab cd ef gh ij kl mn", 90), ("<b>ab</b> cd ef", 70), ("<b>ab cd ef</b> gh", 70),
    ("ab<br>cd", 70), ("<i>a <b>b c d</b> e f</i>", 70), ("", 0), ("<img src='n.png' width=3 height=3>", 50),
    ("<b style='float: left'>x</b>ab cd", 70), ("abcdefgh", 50), ("a&shy;b cd ef gh", 70),
]  # fmt: skip


def test_generated_text_on_it(page_of: PageOf) -> None:
    """It inherits from the line too, unless it has a font of its own."""
    css = BIG + "b { font-weight: 400 } p::before { content: 'x' }"
    assert round(box(page_of("<p>a<b id='b'>b</b></p>", css), "b")[0]) == 40
    assert (
        round(
            box(page_of("<p>a<b id='b'>b</b></p>", css + "p::before { font-size: 16.6667px }"), "b")[0]
        )
        == 30
    )


@pytest.mark.parametrize(("content", "height"), LINES, ids=[c or "empty" for c, _ in LINES])
def test_lines(page_of: PageOf, content: str, height: float) -> None:
    """The first line is broken with its own font, the others go on where it ends."""
    page = page_of(
        f"<p id='d'>{content}</p>", BIG + "b, i { font-weight: inherit; font-style: inherit }"
    )
    assert heights(page) == height


def test_an_element_over_two_lines(page_of: PageOf) -> None:
    """Its box on the first line is of the large font, on the second of its own; its own font size stays."""
    page = page_of("<p id='d'>ab <b id='b'>cd ef</b></p>", BIG + "b { font-weight: 400 }")
    x, y, width, height = box(page, "b")
    assert (round(x), round(width)) == (0, 100) and y < 20 and y + height > 60
    page = page_of(
        "<p id='d'>ab <b id='b'>cd</b></p>", BIG + "b { font: 16.6667px/20px 'Liberation Mono' }"
    )
    assert box(page, "b")[2] == pytest.approx(20, abs=0.1)


BLOCKS = "div, p { margin: 0; font: 16px/20px 'Liberation Sans' } "
WHICH = [
    # body, more css, height of the element with the id
    ("<div id='d'><p>ab</p></div>", "div::first-line { line-height: 50px }", 50),
    ("<div id='d'><p>ab</p></div>", "div::first-line { font-size: 40px }", 20),
    ("<div id='d'><p>ab</p></div>", "p { line-height: normal } div::first-line { font-size: 40px }", 45),
    ("<div id='d'>ab<p>ef</p></div>", "div::first-line { line-height: 50px }", 70),
    ("<div id='d'><p>ab</p><p>cd</p></div>", "div::first-line { line-height: 50px }", 70),
    ("<div id='d'><i style='float: left'>x</i><p>ab</p></div>", "div::first-line { line-height: 50px }", 50),
    ("<div id='d'><p>ab</p></div>", "div::first-line { line-height: 50px } p::first-line { line-height: 30px }", 30),
    ("<div id='d'><i style='display: inline-block'>a</i></div>", "div::first-line { line-height: 50px }", 50),
    ("<div id='d'><i>a</i></div>", "i::first-line { line-height: 50px }", 20),
]  # fmt: skip


@pytest.mark.parametrize(("body", "css", "height"), WHICH)
def test_which_line_it_is(page_of: PageOf, body: str, css: str, height: float) -> None:
    """Of the first block inside too, if that has no first line of its own; not of inline elements."""
    assert heights(page_of(body, BLOCKS + css)) == height


def test_small_capitals_and_capitals_on_it(page_of: PageOf) -> None:
    """They change how the text is cut into pieces, not where the second line begins."""
    for css in ("font-variant: small-caps", "text-transform: uppercase"):
        page = page_of(
            "<p id='d'>ab cd ef <b id='b'>gh ij</b></p>",
            CSS + f"p::first-line {{ {css} }} b {{ font-weight: 400 }}",
        )
        assert heights(page) == 40
        assert box(page, "b")[0] == 0


def test_text_that_grows_is_left_alone(page_of: PageOf) -> None:
    """A sharp s becomes two letters as a capital: then the line keeps the style of the others."""
    page = page_of("<p id='d'>aß</p>", BIG + "p::first-line { text-transform: uppercase }")
    assert heights(page) == 20


def test_an_absolute_box_in_an_inline_box_on_it(page_of: PageOf) -> None:
    """Its containing block begins on the first line."""
    page = page_of(
        "<p id='d'>a <b>b c d<i id='i'></i></b></p>",
        BIG + "b { position: relative } i { position: absolute; left: 0; top: 0 }",
    )
    assert box(page, "i")[:2] == pytest.approx((40, 6), abs=0.1)


def test_an_edit_of_it_is_as_a_new_page(tmp_path: Path) -> None:
    """What is laid out again after an edit equals a full pass."""
    css = "p::first-line { font-size: 30px } b { color: red }"
    session = open_text(tmp_path, "<p id=a>ab <b>cd</b> ef</p>", css)
    for old, new in (
        ("30px", "50px"),
        ("color: red", "font-size: 9px"),
        ("::first-line", "::first-letter"),
    ):
        at = session.document.texts()["p.css"].index(old)
        session.editor.apply(Patch((TextEdit("p.css", at, at + len(old), new),), "an edit"))
        check_laws(session.views.page)
