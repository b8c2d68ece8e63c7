"""Buttons: as wide as their content, with it in the middle, on the baseline of it (HTML Standard §15.5.2)."""

import pytest

from redcrate.core.explain.across import across
from redcrate.core.explain.down import down as explain_down
from tests.conftest import PageOf, box, by_id

CSS = """body { font: 20px/20px 'Liberation Mono' } #d { font: inherit; padding: 3px 5px; border: 2px solid; margin: 0 }
b { font-weight: inherit } i { font-style: normal } section { width: 200px }"""
LABEL = "<button id='d' style='STYLE'><b id='b'>ab</b></button>"  # 24 + 14 px wide, 20 + 10 px high

PLACES = [
    # body (B: the button with the style), style, x and width of the button, y of its text in it (its box begins 2 px above)
    ("B", "", 38, 5), ("B", "height: 60px", 38, 20), ("B", "height: 61px", 38, 20.5), ("B", "min-height: 60px", 38, 20),
    ("B", "height: 10px", 38, 5), ("B", "display: block", 38, 5), ("B", "display: block; width: 90px", 90, 5),
    ("B", "display: flex; height: 60px", 38, 7), ("B", "display: block; float: left; height: 60px", 38, 20),
    ("<section style='display: flex; height: 60px'>B</section>", "", 38, 20),
    ("<section style='display: grid; height: 60px'>B</section>", "", 200, 20),
    ("<section style='display: flex; flex-direction: column'>B</section>", "", 200, 5),
    ("<section style='position: relative; height: 60px'>B</section>", "position: absolute; inset: 0", 38, 20),
    ("B", "display: block; height: 60px; overflow: hidden", 38, 20),
]  # fmt: skip


@pytest.mark.parametrize(("body", "style", "width", "down"), PLACES)
def test_width_and_place_of_the_label(
    page_of: PageOf, body: str, style: str, width: float, down: float
) -> None:
    """A block is no wider than its content; content that is lower stands in the middle of it."""
    page = page_of(body.replace("B", LABEL.replace("STYLE", style)), CSS)
    button, label = box(page, "d"), box(page, "b")
    assert button[2] == pytest.approx(width, abs=0.1)
    assert label[1] - button[1] == pytest.approx(down - 2.0, abs=0.01)
    equation = explain_down(page, by_id(page, "d"))
    said = equation is not None and any("centres its content" in r.sentence for r in equation.reasons)
    assert said == (down in (20, 20.5))


@pytest.mark.parametrize(
    ("button", "down"),
    [
        ("<button id='d' style='height: 60px'>ab</button>", 20), ("<button id='d' style='height: 60px; overflow: hidden'>a</button>", 20),
        ("<button id='d'></button>", 0), ("<input type='button' id='d'>", 5), ("<input type='submit' value='' id='d'>", 5),
        ("<input type='reset' value='a b' id='d' style='width: 20px'>", 5),
    ],
)  # fmt: skip
def test_what_stands_beside_it(page_of: PageOf, button: str, down: float) -> None:
    """Shares the baseline of its label; one without a label stands on its content box, an input has a line at least."""
    page = page_of(f"<p style='margin: 0'>{button}<i id='i'>x</i></p>", CSS)
    text = box(page, "i")[1] - box(page, "d")[1] + 2
    empty = "</button>" in button and "></button" in button
    assert text == (5 - 15 if empty else down)


def test_the_sum_says_why_it_is_not_wider(page_of: PageOf) -> None:
    """Where it is a block and nobody gave it a width."""
    page = page_of(LABEL.replace("STYLE", "display: block"), CSS)
    equation = across(page, by_id(page, "d"))
    assert equation is not None and any("a button is no wider" in r.sentence for r in equation.reasons)
