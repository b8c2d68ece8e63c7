"""First letters with a style of their own: CSS Pseudo-Elements 4 §2.2, CSS Inline 3 §7."""

from io import BytesIO
from pathlib import Path

import pytest
from fontTools.ttLib import TTFont

from redcrate.core.boxes.first_letters import letter_span
from redcrate.core.page import Page
from redcrate.core.text import fonts
from tests.conftest import PageOf, box, by_id, load

BIG = "body { font: 16px/20px 'Liberation Sans' } p { margin: 0 } p::first-letter { font-size: 40px; line-height: 60px }"


@pytest.mark.parametrize(
    ("text", "letter"),
    [
        ("abc", "a"), ("  abc", "a"), ("“abc", "“a"), ("(“a”)bc", "(“a”)"), ("a, b", "a,"), ("o\u0301x", "o\u0301"),
        ("-abc", "-"), ("“ a", ""), ("...", ""), ("  ", ""), ("«T» x", "«T»"),
    ],
)  # fmt: skip
def test_span(text: str, letter: str) -> None:
    """The letter with the punctuation round it, and what is combined with it; a dash is no punctuation here."""
    span = letter_span(text)
    assert (text[span[0] : span[1]] if span else "") == letter


LINES = [
    # content of p, is the first line 60 px high
    ("word", True), ("<b>word</b>", True), ("<b></b>  <i>word</i>", True), ("<br>word", False), ("", False),
    ("<img src='no.png' width=5 height=5>word", False), ("<span style='float: left'>f</span>word", True),
    ("<span style='position: absolute'>f</span>word", True), ("<span style='display: none'>f</span>word", True),
    ("<span style='display: inline-block'>f</span>word", False),
]  # fmt: skip


@pytest.mark.parametrize(("content", "is_big"), LINES, ids=[c or "empty" for c, _ in LINES])
def test_where_the_first_letter_is(page_of: PageOf, content: str, is_big: bool) -> None:
    """The first letter of the first line, in whichever inline box; not behind a picture or a break."""
    page = page_of(f"<p id='d'>{content}</p>", BIG)
    assert (box(page, "d")[3] >= 60) == is_big


def test_it_is_taken_from_the_block_inside(page_of: PageOf) -> None:
    """Of a block in a block; one that has a first letter of its own keeps it."""
    css = BIG + " div::first-letter { line-height: 90px } div { line-height: 20px }"
    assert box(page_of("<div id='d'><section>word</section></div>", css), "d")[3] == 90
    assert box(page_of("<div id='d'><p>word</p></div>", css), "d")[3] == 60


def test_generated_text_comes_first(page_of: PageOf) -> None:
    """The text of ::before stands before the element's own."""
    css = BIG + " p::before { content: 'x' }"
    assert box(page_of("<p><b id='b'>y</b></p>", css), "b")[0] == pytest.approx(20, abs=0.02)


def test_a_floated_letter_stands_beside_the_lines(page_of: PageOf) -> None:
    """A drop cap: the text goes on beside it."""
    css = BIG + " p::first-letter { float: left; margin-right: 5px }"
    page = page_of("<p id='d'>I<b id='b'>t</b></p>", css)
    assert box(page, "d")[3] == 20
    assert box(page, "b")[0] == pytest.approx(40 * 0.278 + 5, abs=0.05)


def rows(page: Page) -> list[float]:
    """Where the texts a, b, c and d begin."""
    return [round(box(page, i)[0]) for i in "abcd"]


def test_a_letter_of_three_lines(page_of: PageOf) -> None:
    """CSS Inline 3 §7.4: from the top of the first to the baseline of the third line, beside all three."""
    css = (
        BIG.split("p::first")[0]
        + " p::first-letter { initial-letter: 3 } body { font-family: 'Liberation Serif' }"
    )
    page = page_of(
        "<p>I<b id='a'>a</b><br><b id='b'>b</b><br><b id='c'>c</b><br><b id='d'>d</b></p>", css
    )
    # cap height of 16 px serif is 10.48 px: 2 lines of 20 px more are 50.48, a font of 77.1 px; I is a third as wide
    assert rows(page) == [26, 26, 26, 0]


@pytest.mark.parametrize("bad", ["0", "3 0", "drop", "3 4 5", "2.5 deep"])
def test_no_initial_letter(page_of: PageOf, bad: str) -> None:
    """It is dropped with a notice."""
    page = page_of("<p>a", f"p::first-letter {{ initial-letter: {bad} }}")
    assert len(page.source.notices) == 1


def test_an_initial_letter_of_a_font_that_tells_no_heights(tmp_path: Path) -> None:
    """CSS Inline 3 §7.4: its capitals are measured instead."""
    font, out = TTFont(Path(fonts.__file__).parent / "fonts" / "LiberationMono-Regular.ttf"), BytesIO()
    font["OS/2"].version = 1
    font.save(out)
    (tmp_path / "old.ttf").write_bytes(out.getvalue())
    css = "@font-face { font-family: old; src: url(old.ttf) } p { font: 16px/20px old } p::first-letter { initial-letter: 2 }"
    path = tmp_path / "page.html"
    path.write_text(f"<!doctype html><style>{css}</style><p id='a'>Hello", encoding="utf-8")
    page = load(path)
    told = page.box_of(by_id(page, "a"))
    assert told is not None and told.box is not None
    (letter,) = [p.fragment for p in told.box.fragment.children]
    assert 35 < letter.box.style.font_size < 60
