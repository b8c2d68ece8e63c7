"""Floats, clearance and boxes beside floats, place by place: CSS 2.2 §9.5, §9.5.1, §9.5.2."""

import pytest

from tests.conftest import PageOf, box

CSS = (
    "section { width: 300px; overflow: hidden; font-size: 0; line-height: 20px } .l { float: left }"
    " .r { float: right } .n { overflow: hidden } b { display: inline-block; width: 50px; height: 20px;"
    " vertical-align: top } p { margin: 0 }"
)
# What stands in a section of 300 px → x and y of the box with the id.
PLACES = {
    "as high as the flow stands": ("<p style='height: 30px'></p><i id='b' class='l w50 h20'></i>", (0, 30)),
    "beside the one before": ("<i class='l w100 h20'></i><i id='b' class='l w50 h20'></i>", (100, 0)),
    "below one that leaves no room": ("<i class='l w270 h20'></i><i id='b' class='l w50 h20'></i>", (0, 20)),
    "just fitting": ("<i class='l w250 h20'></i><i id='b' class='l w50 h20'></i>", (250, 0)),
    "right, outermost first": ("<i class='r w100 h20'></i><i id='b' class='r w50 h20'></i>", (150, 0)),
    "right, below what it does not fit beside": (
        "<i class='l w100 h20'></i><i class='l w150 h40'></i><i id='b' class='r w100 h20'></i>", (200, 40),
    ),
    "into the step that the lower float leaves": (
        "<i class='l w100 h40'></i><i class='l w150 h20'></i><i id='b' class='l w150 h20'></i>", (100, 20),
    ),
    "no higher than an earlier one": (
        "<i class='l w270 h20'></i><i class='l w50 h20'></i><i id='b' class='r w10 h20'></i>", (290, 20),
    ),
    "clear moves a float": ("<i class='l w50 h30'></i><i id='b' class='l w50 h20' style='clear: left'></i>", (0, 30)),
    "clear of the other side does not": (
        "<i class='l w50 h30'></i><i id='b' class='l w50 h20' style='clear: right'></i>", (50, 0),
    ),
    "a block clears": ("<i class='l w50 h30'></i><p id='b' style='clear: left; height: 9px'></p>", (0, 30)),
    "a block clears the lower side": (
        "<i class='l w50 h30'></i><i class='r w50 h40'></i><p id='b' style='clear: both; height: 9px'></p>", (0, 40),
    ),
    "a margin that reaches below is enough": (
        "<i class='l w50 h30'></i><p id='b' style='clear: left; margin-top: 45px; height: 9px'></p>", (0, 45),
    ),
    "a margin that does not is swallowed": (
        "<i class='l w50 h30'></i><p id='b' style='clear: left; margin-top: 20px; height: 9px'></p>", (0, 30),
    ),
    "an empty box with clearance is passed": (
        "<i class='l w50 h30'></i><p style='clear: left; margin-bottom: 15px'></p><p id='b' style='height: 9px'></p>",
        (0, 45),
    ),
    "a margin above a cleared box stays apart": (
        "<p style='height: 10px; margin-bottom: 40px'></p><i class='l w50 h30'></i>"
        "<p id='b' style='clear: left; margin-top: 5px; height: 9px'></p>", (0, 80),
    ),
    "a br that clears": ("<i class='l w50 h50'></i><b></b><br style='clear: left'><b id='b'></b>", (0, 50)),
    "a br that clears the other side": (
        "<i class='l w50 h50'></i><b></b><br style='clear: right'><b id='b'></b>", (50, 20),
    ),
    "a br that clears nothing": ("<i class='l w50 h50'></i><b></b><br><b id='b'></b>", (50, 20)),
    "a new context beside a float": ("<i class='l w100 h40'></i><div class='n w150 h20' id='b'></div>", (100, 0)),
    "a new context that does not fit": ("<i class='l w100 h40'></i><div class='n w250 h20' id='b'></div>", (0, 40)),
    "a new context, low enough for the gap": (
        "<i class='l w200 h30'></i><i class='r w150 h50'></i><div class='n w90 h20' id='b'></div>", (200, 0),
    ),
    "a new context too tall for the gap": (
        "<i class='l w200 h30'></i><i class='r w150 h50'></i><div class='n w90 h50' id='b'></div>", (0, 30),
    ),
    "a new context with a margin that lies under the float": (
        "<i class='l w100 h40'></i><div class='n h20 w50' style='margin-left: 60px' id='b'></div>", (100, 0),
    ),
    "a new context with a wider margin": (
        "<i class='l w100 h40'></i><div class='n h20 w50' style='margin-left: 160px' id='b'></div>", (160, 0),
    ),
    "a new context in the middle of the gap": (
        "<i class='l w100 h40'></i><div class='n h20 w50' style='margin: 0 auto' id='b'></div>", (175, 0),
    ),
    "a new context at the far end of the gap": (
        "<i class='l w100 h40'></i><div class='n h20 w50' style='margin-left: auto' id='b'></div>", (250, 0),
    ),
    "a new context pulled up into a float": (
        "<i class='l w50 h40'></i><div class='n h40 w50' style='margin-top: -20px' id='b'></div>", (50, -20),
    ),
    "a new context pulled up that finds no room": (
        "<i class='l w250 h40'></i><div class='n h40 w100' style='margin-top: -20px' id='b'></div>", (0, 40),
    ),
    "a new context that ends above the float": (
        "<i class='l w250 h40'></i><div class='n h40 w100' style='margin-top: -50px' id='b'></div>", (0, -50),
    ),
    "a new context that must pass a float of its block: the margin moves nothing": (
        "<div id='b'><div><i class='l w250 h40'></i></div><div class='n h40 w100' style='margin-top: 70px'></div></div>",
        (0, 0),
    ),
    "a new context with room beside a float of its block: the margin moves both": (
        "<div id='b'><div><i class='l w50 h40'></i></div><div class='n h40 w100' style='margin-top: 70px'></div></div>",
        (0, 70),
    ),
    "a new context where floats under one another leave the room": (
        "<div id='b'><i class='l w200 h20'></i><i class='l w200 h20'></i>"
        "<div class='n h10 w100' style='margin-top: 70px'></div></div>", (0, 70),
    ),
    "margins further in save a box from clearance": (
        "<i class='l w50 h50'></i><p class='h10'></p><div><div style='clear: left'>"
        "<p id='b' style='margin-top: 60px'></p></div></div>", (0, 70),
    ),
    "margins further in are too small for that": (
        "<i class='l w50 h50'></i><p class='h10'></p><div><div style='clear: left'>"
        "<p id='b' style='margin-top: 30px' class='h10'></p></div></div>", (0, 50),
    ),
    "a line beside floats": ("<i class='l w100 h40'></i><b id='b'></b>", (100, 0)),
    "a line that goes below": ("<i class='l w270 h40'></i><b id='b'></b>", (0, 40)),
    "a tall box goes below a lower float": (
        "<i class='l w200 h10'></i><i class='r w270 h30'></i><b id='b' style='height: 40px; width: 80px'></b>", (0, 40),
    ),
    "a float met in a line that is full": (
        "<b></b><b></b><b></b><b></b><b></b><i id='b' class='l w100 h20'></i><b></b>", (0, 20),
    ),
    "a float met in a line with room": ("<b></b><i id='b' class='l w100 h20'></i><b></b>", (0, 0)),
    "a float of no height": ("<i class='l w100'></i><b id='b'></b>", (0, 0)),
    "a float above the flow": ("<i class='l w100 h20' style='margin-top: -30px'></i><b id='b'></b>", (0, 0)),
}  # fmt: skip


@pytest.mark.parametrize(("content", "place"), PLACES.values(), ids=PLACES)
def test_places(page_of: PageOf, content: str, place: tuple[float, float]) -> None:
    """Classes w50 and h20 are a width and a height in px."""
    sizes = "".join(
        f".w{n} {{ width: {n}px }} .h{n} {{ height: {n}px }}"
        for n in (10, 20, 30, 40, 50, 90, 100, 150, 200, 250, 270)
    )
    page = page_of(f"<section>{content}</section>", CSS + sizes)
    assert box(page, "b")[:2] == place


def test_clearance_is_inside_the_row_of_a_block_in_an_inline_box(page_of: PageOf) -> None:
    """CSS 2.2 §9.2.1.1 with §9.5.2: the row begins where the block would stand without clearance."""
    content = "<i class='l' style='width: 9px; height: 30px'></i><span id='s'><p style='clear: left; height: 20px'></p></span>"
    page = page_of(f"<section>{content}</section>", CSS)
    assert box(page, "s") == (0, 0, 300, 50)


@pytest.mark.parametrize(
    ("content", "height"),
    [
        ("<i class='l' style='height: 40px; width: 9px'></i><p style='height: 20px'></p>", 40),
        ("<p style='height: 20px; margin-bottom: 15px'></p>", 35),
        ("<p style='height: 20px; margin-bottom: -15px'></p>", 5),
        ("<p style='height: 20px; margin-bottom: -35px'></p>", 0),
        ("<p><i class='l' style='height: 40px; width: 9px; margin-bottom: 3px'></i></p>", 43),
        ("<b></b>", 20),
    ],
)
def test_a_context_reaches_down_to_its_floats(page_of: PageOf, content: str, height: float) -> None:
    """§10.6.7: floats, and margins that would hang out."""
    page = page_of(f"<section id='s'>{content}</section>", CSS)
    assert box(page, "s")[3] == height


# What stands in 200 px beside a float of 140 × 50 px, and the top of the element x and the height of all, px.
STARVED = {
    "padded": ("<a id=x>AAAAAAAA</a>", 50, 70),
    "padded, after another": ("<a>A</a> <a id=x>AAAAAAAA</a>", 50, 70),
    "glued to text": ("A<b id=x>AAAAAAAA</b>", 50, 70),
    "glued to an edge": ("<a><b id=x>AAAAAAAA</b></a>", 50, 70),
    "a picture after a no-break space": ("A&nbsp;<svg id=x width=90 height=10></svg>", 50, 70),
    "a word that may break": ("<b id=x style='overflow-wrap: anywhere'>AAAAAAAA</b>", 0, 40),
}  # fmt: skip


@pytest.mark.parametrize(("inside", "top", "height"), STARVED.values(), ids=STARVED)
def test_what_does_not_fit_beside_a_float_goes_below(
    page_of: PageOf, inside: str, top: float, height: float
) -> None:
    """CSS 2.2 §9.5: all that may not be parted from it goes with it, edges of inline boxes too."""
    css = "i { float: right; width: 140px; height: 50px } a { padding: 0 8px } #d { width: 200px; font: 16px/20px 'Liberation Sans' }"
    page = page_of(f"<div id=d><i></i>{inside}</div>", f"body {{ margin: 0 }} {css}")
    assert (box(page, "x")[1] // 10 * 10, box(page, "d")[3]) == (top, height)
