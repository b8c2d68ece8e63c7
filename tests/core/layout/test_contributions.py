"""What a box contributes to a container that is as wide as its content: CSS Box Sizing 3 §5, CSS 2.2 §10.3.5.

The container is a float in a room of 1,000 px (wide) or of 1 px (narrow); all widths are px.
"""

import pytest

from tests.conftest import PageOf, box

# What stands in the container → its min-content and max-content width.
CONTENT = {
    "a block of a width": ("<div style='width: 50px'></div>", 50, 50),
    "with all edges": (
        "<div style='width: 50px; padding: 0 7px 0 9px; border: solid; border-width: 0 3px 0 5px;"
        " margin: 0 11px 0 13px'></div>",
        98, 98,
    ),
    "border-box": ("<div style='width: 50px; padding: 0 7px; box-sizing: border-box'></div>", 50, 50),
    "an auto width between edges": ("<div style='padding: 0 7px; border: 2px solid'>AB</div>", 78, 128),
    "a width in percent": ("<div style='width: 50%'>AB</div>", 60, 110),
    "padding in percent": ("<div style='padding: 0 10%'>AB</div>", 60, 110),
    "margins in percent": ("<div style='margin: 0 10%'>AB</div>", 60, 110),
    "a smallest width": ("<div style='min-width: 90px'>AB</div>", 90, 110),
    "a largest width": ("<div style='max-width: 100px'>AB</div>", 60, 100),
    "a largest width below all": ("<div style='max-width: 20px; padding: 0 2px'>AB</div>", 24, 24),
    "a largest width, border-box": (
        "<div style='max-width: 20px; padding: 0 2px; box-sizing: border-box'>AB</div>", 20, 20,
    ),
    "min-content": ("<div style='width: min-content'>AB</div>", 60, 60),
    "max-content": ("<div style='width: max-content'>AB</div>", 110, 110),
    "at least max-content": ("<div style='min-width: max-content'>AB</div>", 110, 110),
    "at most min-content": ("<div style='max-width: min-content'>AB</div>", 60, 60),
    "at least fit-content": ("<div style='width: 10px; min-width: fit-content'>AB</div>", 60, 110),
    "a negative margin": ("<div style='width: 50px; margin-left: -20px'></div>", 30, 30),
    "margins beyond all": ("<div style='width: 50px; margin-left: -90px'></div>", 0, 0),
    "the wider of two blocks": ("<div style='width: 50px'></div><div>AB</div>", 60, 110),
    "a hidden one": ("AB<div style='width: 900px; position: absolute'></div>", 60, 110),
    "floats side by side": ("<div class='l'>A</div><div class='l'>B</div>", 60, 110),
    "floats on both sides": ("<div class='l'>A</div><div class='r'>B</div>", 60, 110),
    "a float that clears": (
        "<div class='l'>A</div><div class='r' style='clear: left'>B</div><div class='l'>A</div>", 60, 110,
    ),
    "a float that clears both": ("<div class='l'>B</div><div class='l' style='clear: both'>A</div>", 60, 60),
    "a float that clears the other side": (
        "<div class='l'>B</div><div class='l' style='clear: right'>A</div>", 60, 110,
    ),
    "floats beside lines": ("<div class='l'>A</div>AB", 60, 170),
    "a float in the line": ("A<span class='r'>B</span>", 60, 110),
    "floats above a block of its own": ("<div class='l'>A</div><div style='width: 50px'></div>", 60, 60),
    "floats beside a new context": (
        "<div class='l'>A</div><div style='width: 50px; overflow: hidden'></div>", 60, 110,
    ),
    "a forced break": ("AB<br>B", 60, 110),
    "an inline box with edges": (
        "<span style='padding: 0 4px; border: 1px solid; margin: 0 2px'>AB</span>", 67, 124,
    ),
    "an indent": ("<p style='text-indent: 30px'>AB</p>", 90, 140),
    "an indent outwards": ("<p style='text-indent: -30px'>AB</p>", 50, 80),
    "an inline-block": (
        "<span style='display: inline-block; padding: 0 5px; margin: 0 3px'>AB</span>", 76, 126,
    ),
    "no wrapping": ("<p style='white-space: nowrap'>AB</p>", 110, 110),
    "an image": ("<svg width='40' height='20' style='margin: 0 2px; border: 1px solid'></svg>", 46, 46),
    "an image in percent": ("<svg width='40' height='20' style='width: 50%'></svg>", 1, 40),
    "an image at most in percent": ("<svg width='40' height='20' style='max-width: 100%'></svg>", 1, 40),
    "by ratio, lower than its edges": (
        "<div style='height: 10px; padding: 5px 0; border: 1px solid; box-sizing: border-box;"
        " aspect-ratio: 2'></div>", 24, 24,
    ),
    "by ratio, no narrower than what it holds": (
        "<div style='height: 30px; aspect-ratio: 1'><p>A</p></div>", 60, 60,
    ),
    "by ratio of a limit": ("<div style='max-height: 35px; aspect-ratio: 2'>AB</div>", 60, 70),
    "the most that a ratio makes": (
        "<div style='height: 30px; aspect-ratio: 2; max-width: max-content'></div>", 60, 60,
    ),
    "by ratio": ("<div style='height: 30px; aspect-ratio: 2'></div>", 60, 60),
    "a list with an outside marker": ("<ul style='padding: 0 0 0 25px'><li>AB</ul>", 85, 135),
}  # fmt: skip


@pytest.mark.parametrize(("content", "narrow", "wide"), CONTENT.values(), ids=CONTENT)
def test_contributions(page_of: PageOf, content: str, narrow: float, wide: float) -> None:
    """A is 60 px and B 50 px wide; where they stand together a line may break between them."""
    for name, width in (("A", 60), ("B", 50)):
        content = content.replace(name, f"<b style='width: {width}px'></b>")
    content = content.replace("</b><b", "</b>&#8203;<b")
    css = (
        "section { font-size: 0; line-height: 0 } #f { float: left } b { display: inline-block; height: 9px }"
        " p, ul { margin: 0 } .l { float: left } .r { float: right } li { list-style: outside }"
    )
    widths = []
    for room in (1, 1000):
        page = page_of(f"<section style='width: {room}px'><div id='f'>{content}</div></section>", css)
        widths.append(box(page, "f")[2])
    assert widths == [narrow, wide]


@pytest.mark.parametrize(
    ("style", "width"),
    [
        ("width: min-content", 70), ("width: max-content", 130), ("width: fit-content", 100),
        ("width: fit-content(80px)", 80), ("width: fit-content(50px)", 70),
        ("width: fit-content; margin: 0 10px", 80), ("min-width: max-content", 130),
        ("max-width: min-content", 70), ("width: stretch; margin: 0 10px", 80), ("float: left", 100),
        ("width: 10px; min-width: fit-content", 100),
    ],
)  # fmt: skip
def test_widths_from_content(page_of: PageOf, style: str, width: float) -> None:
    """CSS Box Sizing 3 §3.2 in a container of 100 px: 70 at least, 130 at most."""
    page = page_of(
        f"<section><div id='d' style='{style}'><b></b>&#8203;<b class='w'></b></div></section>",
        "section { width: 100px; font-size: 0 } b { display: inline-block; height: 9px; width: 60px }"
        " .w { width: 70px }",
    )
    assert box(page, "d")[2] == width
