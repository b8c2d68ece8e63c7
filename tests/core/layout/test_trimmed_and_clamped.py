"""Margins at the edges of a container that trims them (CSS Box 4 §3.2), and lines that are not shown any more."""

import pytest

from tests.conftest import PageOf, box

CSS = "body { font: 16px/20px serif } p { margin: 30px 0; height: 10px } #c { margin: 5px 0 } "
TRIMMED = [
    # style of the container, its content, y and height of the container, y of what follows
    ("margin-trim: none", "<p></p>", 30, 10, 70),
    ("margin-trim: block", "<p></p>", 5, 10, 20),
    ("margin-trim: block-start", "<p></p>", 5, 10, 45),
    ("margin-trim: block-end", "<p></p>", 30, 10, 45),
    ("margin-trim: block-end block-start", "<p></p>", 5, 10, 20),
    ("margin-trim: block", "<p></p><p></p>", 5, 50, 60),
    ("margin-trim: block; overflow: hidden", "<p></p>", 5, 10, 20),
    ("margin-trim: block; border: 1px solid", "<p></p>", 5, 12, 22),
    ("margin-trim: block", "<p style='height: 0'></p><p></p>", 5, 10, 20),
    ("margin-trim: block", "<p></p><p style='height: 0'></p>", 5, 10, 20),
    ("margin-trim: block", "<section><p></p></section>", 5, 10, 20),
    ("margin-trim: block", "text<p></p>", 5, 60, 70),
]  # fmt: skip


@pytest.mark.parametrize(("style", "content", "y", "height", "after"), TRIMMED)
def test_trimmed(
    page_of: PageOf, style: str, content: str, y: float, height: float, after: float
) -> None:
    """Margins of children at the edge go, those between children stay; the container keeps its own."""
    page = page_of(
        f"<div id='c' style='{style}'>{content}</div><b id='d' style='display: block'></b>", CSS
    )
    assert box(page, "c")[1::2] == (y, height)
    assert box(page, "d")[1] == after


def test_what_collapses_through_stands_at_the_trimmed_edge(page_of: PageOf) -> None:
    """Not below the margin of the block before it."""
    page = page_of("<div style='margin-trim: block'><p></p><p id='d' style='height: 0'></p></div>", CSS)
    assert box(page, "d")[1] == 10


BOX = "display: -webkit-box; -webkit-box-orient: vertical; -webkit-line-clamp:"
LINES = "a<br>b<br>c<br>d"
CLAMPED = [
    # style of the box, its content, its height
    (f"{BOX} 3", LINES, 60), (f"{BOX} 4", LINES, 80), (f"{BOX} 9", LINES, 80), (f"{BOX} none", LINES, 80),
    ("-webkit-box-orient: vertical; -webkit-line-clamp: 2", LINES, 80),
    ("display: -webkit-box; -webkit-line-clamp: 2", LINES, 80), (f"{BOX} 0", LINES, 80),
    (f"{BOX} 2; padding: 7px 0", LINES, 54), (f"{BOX} 2; height: 30px", LINES, 30),
    (f"{BOX} 3", f"<div>a<br>b</div><div id='i'>{LINES}</div>", 60), (f"{BOX} 2", f"<div>a<br>b</div><div>{LINES}</div>", 40),
    (f"{BOX} 3", f"<div>a</div><div style='overflow: hidden'>{LINES}</div><div>{LINES}</div>", 140),
]  # fmt: skip


@pytest.mark.parametrize(("style", "content", "height"), CLAMPED)
def test_clamped(page_of: PageOf, style: str, content: str, height: float) -> None:
    """CSS Overflow 4 §5.1.4: as high as the lines that are shown; blocks inside count theirs together."""
    page = page_of(f"<div id='c' style='{style}'>{content}</div>", CSS)
    assert box(page, "c")[3] == height
    if "'i'" in content:
        assert box(page, "i")[3] == 20


@pytest.mark.parametrize(
    ("style", "y"),
    [
        ("max-height: 0; height: 20px", 30), ("max-height: 0px; height: 20px; min-height: 5px", 65),
        ("max-height: 0%; height: 20px", 80), ("height: auto; min-height: calc(7px + 3%)", 67),
    ],
)  # fmt: skip
def test_margins_collapse_through_a_box_that_may_not_be_high(
    page_of: PageOf, style: str, y: float
) -> None:
    """CSS 2.2 §8.3.1: its used height is 0."""
    page = page_of(f"<p style='{style}'></p><b id='d' style='display: block'></b>", CSS)
    assert box(page, "d")[1] == y
