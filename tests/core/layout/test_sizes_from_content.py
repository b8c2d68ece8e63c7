"""Heights and limits from content, stretch, and preferred aspect ratios: CSS Sizing 3 and 4."""

import pytest

from tests.conftest import PageOf, box
from tests.laws import check_laws

CASES = [
    # of the box, of its parent, width and height of the box (200 px of room, content 50 x 30)
    ("height: min-content", "", 200, 30), ("height: max-content; max-height: 10px", "", 200, 10),
    ("height: 10px; min-height: fit-content", "", 200, 30), ("height: 90px; max-height: min-content", "", 200, 30),
    ("min-width: max-content; width: 10px", "", 50, 30), ("max-width: min-content", "", 50, 30),
    ("width: fit-content", "", 50, 30), ("width: stretch; margin: 0 10px", "", 180, 30),
    ("height: stretch; margin: 5px 0", "height: 100px", 200, 90), ("height: stretch", "", 200, 30),
    ("float: left; width: stretch", "", 200, 30),
    ("aspect-ratio: 2 / 1", "", 200, 100), ("aspect-ratio: 2; height: 40px", "", 80, 40),
    ("aspect-ratio: 2; height: 40px; float: left", "", 80, 40), ("aspect-ratio: 100", "", 200, 30),
    ("aspect-ratio: 2; width: 100px; padding: 10px; box-sizing: border-box", "", 100, 50),
    ("aspect-ratio: 2; width: 100px; padding: 10px", "", 120, 70), ("aspect-ratio: auto 4 / 1", "", 200, 50),
    ("aspect-ratio: 2; height: 80px; position: absolute", "", 160, 80),
    ("min-height: calc(40px + 50%)", "", 200, 40), ("min-height: calc(40px + 50%)", "height: 60px", 200, 70),
    ("min-height: calc(50% - 40px)", "", 200, 30), ("height: calc(40px + 50%)", "", 200, 30),
    ("contain: size", "", 200, 0), ("contain: strict; contain-intrinsic-size: 70px 9px", "", 200, 9),
    ("contain: strict; contain-intrinsic-size: auto 70px; float: left", "", 70, 70),
    ("contain: size; contain-intrinsic-size: none 9px; float: left", "", 0, 9),
    ("contain: inline-size; float: left", "", 0, 30), ("contain: content; float: left", "", 50, 30),
    ("contain: size; contain-intrinsic-height: 9px; height: 40px", "", 200, 40),
    ("aspect-ratio: 1; height: 40px", "", 50, 40), ("aspect-ratio: 1; height: 40px; overflow: hidden", "", 40, 40),
    ("aspect-ratio: 1; height: 40px; min-width: 0", "", 40, 40), ("aspect-ratio: 1; height: 40px; max-width: 45px", "", 45, 40),
    ("aspect-ratio: 2; max-height: 60px", "", 120, 60), ("aspect-ratio: 2; max-height: 50%", "height: 80px", 80, 40),
    ("aspect-ratio: 2; max-height: 50%", "", 200, 100), ("aspect-ratio: 2; max-height: 60px; min-width: 150px", "", 150, 60),
    ("aspect-ratio: 2; min-height: 40px; float: left", "", 80, 40), ("aspect-ratio: 2; max-height: 20px", "", 50, 20),
    ("aspect-ratio: 2; height: 40px; width: min-content", "", 80, 40),
    ("aspect-ratio: 2; height: 40px; width: 10px; min-width: max-content", "", 80, 40),
    ("aspect-ratio: 2; width: 100px; overflow-y: clip; height: auto", "", 100, 50),
    ("aspect-ratio: 4; width: 100px; overflow: clip", "", 100, 30), ("aspect-ratio: 4; width: 100px; overflow: hidden", "", 100, 25),
    ("position: absolute; width: stretch; left: 30px; margin-right: 20px", "position: relative", 150, 30),
    ("position: absolute; height: stretch; top: 10px", "position: relative; height: 90px", 50, 80),
    ("aspect-ratio: 2; width: 80px; max-height: 35px", "", 80, 35), ("aspect-ratio: 0 / 1; width: 100px", "", 100, 30),
]  # fmt: skip


@pytest.mark.parametrize(("own", "parent", "width", "height"), CASES, ids=[c[0] for c in CASES])
def test_size(page_of: PageOf, own: str, parent: str, width: float, height: float) -> None:
    """The used size of a box with content of 50 by 30 px in 200 px of room."""
    page = page_of(
        "<div id='p'><div id='d'><u></u></div></div>",
        f"#p {{ width: 200px; {parent} }} #d {{ {own} }} u {{ display: block; width: 50px; height: 30px }}",
    )
    check_laws(page)
    assert box(page, "d")[2:] == (width, height)


@pytest.mark.parametrize(
    ("display", "like"),
    [
        ("block flow-root", "flow-root"),
        ("inline flow-root", "inline-block"),
        ("flow", "block"),
        ("inline flow", "inline"),
        ("flow-root inline", "inline-block"),
        ("block flow list-item", "list-item"),
        ("list-item inline flow", "inline list-item"),
        ("block flow", "block"),
    ],
)
def test_displays_of_two_words(page_of: PageOf, display: str, like: str) -> None:
    """CSS Display 3 §2: the words in any order mean what the short name means."""
    body = "<div id='p'>a<div id='d'><u></u>b</div>c</div>"
    css = "u {{ float: left; width: 5px; height: 50px }} #d {{ padding: 3px; display: {} }}"
    assert box(page_of(body, css.format(display)), "d") == box(page_of(body, css.format(like)), "d")


def test_layout_containment_starts_a_formatting_context(page_of: PageOf) -> None:
    """CSS Containment 2 §3.2: margins stay inside, floats too."""
    inside = "<u style='float: left; width: 9px; height: 30px; margin-top: 5px'></u>"
    for words, height in (("none", 0), ("layout", 35), ("paint", 35), ("style", 0)):
        assert box(page_of(f"<div id='d' style='contain: {words}'>{inside}</div>"), "d")[3] == height


def test_a_contained_picture_has_the_size_that_it_is_given(page_of: PageOf) -> None:
    """CSS Containment 2 §3.1: its file does not count."""
    css = "svg { contain: size; contain-intrinsic-size: 7px 8px }"
    assert box(page_of("<svg id='d' width='30' height='20'></svg>", css), "d")[2:] == (7, 8)
