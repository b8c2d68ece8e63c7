"""Equations add up to the geometry, exactly, for every element of every reference page."""

import json

import pytest

from redcrate.core.explain import across, down
from redcrate.core.layout.fragments import MarginReason, SizeReason
from tests.conftest import CASES, PageOf, by_id, load
from tests.laws import explanations_add_up

NAMES = sorted(p.stem for p in CASES.glob("*.json"))


@pytest.mark.parametrize("part", range(8))
def test_terms_add_up_exactly(part: int) -> None:
    """Border, padding and content make the border box; with margins and the rest, the container."""
    for name in NAMES[part::8]:
        size = json.loads((CASES / f"{name}.json").read_text(encoding="utf-8"))["viewport"]
        page = load(CASES / f"{name}.html", size["width"], size["height"])
        explanations_add_up(page)
        for element, box in page.by_element.items():
            wide = across(page, element)
            if wide is None or not wide.terms:
                continue
            in_flow = page.style_of(element).position not in ("absolute", "fixed")
            if box.box is not None and in_flow and element.parent is not None:
                assert wide.left == box.box.fragment.across.rest, (name, element.label)


@pytest.mark.parametrize(
    ("css", "reason", "margins", "says"),
    [
        ("width: 300px; margin: 0 auto", SizeReason.SPECIFIED, MarginReason.AUTO_SPLIT, "centred"),
        (
            "width: 30%; margin-left: auto",
            SizeReason.PERCENT,
            MarginReason.AUTO_LEFT,
            "all of the free width",
        ),
        ("width: 300px", SizeReason.SPECIFIED, MarginReason.OVER_CONSTRAINED_RIGHT, "700 px free"),
        (
            "width: 1200px",
            SizeReason.SPECIFIED,
            MarginReason.OVER_CONSTRAINED_RIGHT,
            "overflows by 200 px",
        ),
        ("float: left", SizeReason.SHRINK_TO_FIT, MarginReason.SPECIFIED, "shrink-to-fit"),
        (
            "max-width: 400px",
            SizeReason.FILL,
            MarginReason.OVER_CONSTRAINED_RIGHT,
            "max-width limits it",
        ),
        ("margin: 0 20px", SizeReason.FILL, MarginReason.SPECIFIED, "none free"),
    ],
)
def test_reasons(
    page_of: PageOf, css: str, reason: SizeReason, margins: MarginReason, says: str
) -> None:
    """The enum that layout returned, and the sentence that is made of it."""
    page = page_of("<div id='a'>text</div>", f"#a {{ {css} }}")
    element = by_id(page, "a")
    box = page.by_element[element].box
    assert box is not None
    assert (box.fragment.across.reason, box.fragment.across.margin_reason) == (reason, margins)
    equation = across(page, element)
    assert equation is not None
    assert any(says in r.sentence for r in equation.reasons), equation.reasons


def test_every_term_names_its_source(page_of: PageOf) -> None:
    """A side of a shorthand is told as written, with selector and line; what is inherited is not."""
    page = page_of("<div id='a'></div>", "\n#a { padding: 10px 5%;\n border: 2px solid; width: 50% }")
    equation = across(page, by_id(page, "a"))
    assert equation is not None
    padding = equation.term("padding", "left")
    assert (padding.written, padding.used) == ("5%", 50 * 64)
    assert padding.source is not None
    assert (padding.source.selector, padding.source.line) == ("#a", 2)
    width = equation.term("content", "")
    assert width.source is not None and width.source.line == 3
    assert equation.term("margin", "left").source is None


def test_collapsed_margins_name_the_winner(page_of: PageOf) -> None:
    """Of two margins that meet the smaller one is struck, and the sentence says which won."""
    page = page_of(
        "<div id='a'></div><div id='b'></div>",
        "div { height: 10px } #a { margin-bottom: 30px } #b { margin-top: 20px }",
    )
    lower, upper = down(page, by_id(page, "b")), down(page, by_id(page, "a"))
    assert lower is not None and upper is not None
    lost = lower.term("margin", "top")
    assert lost.struck and "30 px counts" in lost.why
    assert not upper.term("margin", "bottom").struck


@pytest.mark.parametrize(
    ("body", "css", "why"),
    [
        ("one line", "", "from 1 line"),
        ("one<br>two", "overflow: hidden", "from 2 lines"),
        ("<p>x</p>", "", "from the blocks inside"),
        ("<i></i>", "overflow: hidden", "from the floats inside"),
        ("<i></i>", "", "its content has no height"),
    ],
)
def test_auto_heights_say_what_they_come_from(page_of: PageOf, body: str, css: str, why: str) -> None:
    """An auto height knows its lines, blocks or floats."""
    rules = f"#a {{ {css} }} i {{ float: left; width: 9px; height: 9px }}"
    page = page_of(f"<div id='a'>{body}</div>", rules)
    equation = down(page, by_id(page, "a"))
    assert equation is not None
    assert equation.term("content", "").why == why


def test_a_percentage_of_nothing_is_told(page_of: PageOf) -> None:
    """A percentage height under an auto height counts as auto, and the sentence says so."""
    page = page_of("<div><div id='a'>x</div></div>", "#a { height: 50% }")
    equation = down(page, by_id(page, "a"))
    assert equation is not None
    assert (
        "has no effect, because the height of its containing block is auto"
        in equation.reasons[0].sentence
    )
