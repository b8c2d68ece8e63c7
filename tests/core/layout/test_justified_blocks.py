"""Blocks and absolute boxes that say where they stand across: CSS Align 3 §6.1; the boxes are those that a browser gives."""

import pytest

from redcrate.core.explain import across
from redcrate.core.explain.position import position
from tests.conftest import PageOf, box, by_id

# Rules of the block, of the 400 px around it, and its x and width; its content is 30 to 90 px wide.
BLOCKS = [
    ("", "", 0, 400), ("justify-self: end", "", 310, 90), ("justify-self: center", "", 155, 90),
    ("justify-self: stretch", "justify-items: end", 0, 400), ("", "justify-items: end", 310, 90), ("", "justify-items: legacy", 0, 400),
    ("width: 50px; margin: 0 3px", "justify-items: center", 175, 50), ("justify-self: end; padding: 0 5px", "", 300, 100),
    ("margin-left: auto; justify-self: center", "", 310, 90), ("max-width: 60px; justify-self: center", "", 170, 60),
    ("width: 500px; justify-self: end", "", -100, 500), ("width: 500px; justify-self: safe end", "", 0, 500),
    ("justify-self: right", "direction: rtl", 310, 90), ("justify-self: end", "direction: rtl", 0, 90),
    ("justify-self: self-end; direction: rtl", "", 0, 90), ("justify-self: baseline", "", 0, 90),
    ("float: left; justify-self: end", "", 0, 90), ("overflow: hidden; justify-self: end", "", 310, 90),
]  # fmt: skip
WORDS = "<i></i> <i></i> <i></i>"
CSS = "#c {{ width: 400px; {} }} #b {{ font-size: 0; {} }} i {{ display: inline-block; width: 30px; height: 5px }}"


@pytest.mark.parametrize(("own", "around", "x", "width"), BLOCKS)
def test_blocks(page_of: PageOf, own: str, around: str, x: float, width: float) -> None:
    """As wide as its content, where no width is given; auto margins come first."""
    page = page_of(f"<div id=c><div id=b>{WORDS}</div></div>", CSS.format(around, own))
    assert (box(page, "b")[0], box(page, "b")[2]) == (x, width)


def test_the_reason_names_who_says_it(page_of: PageOf) -> None:
    """Its own words, with their place, or those around it; the margins add up with what is free."""
    for own, around, said in (
        ("justify-self: end", "", "justify-self: end"),
        ("", "justify-items: end", "justify-items around it"),
    ):
        page = page_of(f"<div id=c><div id=b>{WORDS}</div></div>", CSS.format(around, own))
        told = [r for r in position(page, by_id(page, "b")) if said in r.sentence]
        assert told and "310 px on its left, 0 px on its right" in told[0].sentence
        assert (told[0].source is not None) == bool(own)
        sums = across(page, by_id(page, "b"))
        assert "with justify-self a block is as wide as its content: 90 px" in sums.reasons[1].sentence
        assert sums.spent == sums.available


@pytest.mark.parametrize(
    ("own", "around", "x", "y"),
    [
        ("", "", 0, 7), ("justify-self: end", "", 380, 7), ("justify-self: center; align-self: end", "", 190, -3), ("align-self: center", "", 0, 2),
        ("", "justify-items: center; align-items: center", 190, 7), ("justify-self: left", "direction: rtl", 0, 7),
    ],
)  # fmt: skip
def test_absolute_boxes_without_offsets(
    page_of: PageOf, own: str, around: str, x: float, y: float
) -> None:
    """In their static place: the width of the block around them, and no height (CSS Positioned Layout 3 §3.5.1)."""
    css = f"#c {{ width: 400px; {around} }} p {{ margin: 0; height: 7px }} #b {{ position: absolute; width: 20px; height: 10px; {own} }}"
    assert box(page_of("<div id=c><p></p><div id=b></div></div>", css), "b")[:2] == (x, y)
