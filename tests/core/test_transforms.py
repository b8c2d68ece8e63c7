"""Transforms move pictures, no boxes: CSS Transforms 1 and 2."""

import pytest

from redcrate.core.explain.position import position
from redcrate.core.report import element_report
from tests.conftest import PageOf, box, by_id

PAINTED = [
    # style of a box of 100 by 50 px at 20, 10, and where it is painted
    ("transform: translate(30px, -10%)", (50, 5, 100, 50)), ("transform: translateX(50%)", (70, 10, 100, 50)),
    ("transform: translateY(-5px)", (20, 5, 100, 50)), ("transform: scale(2)", (-30, -15, 200, 100)),
    ("transform: scale(2, 1)", (-30, 10, 200, 50)), ("transform: scaleX(0.5)", (45, 10, 50, 50)), ("transform: scaleY(50%)", (20, 22.5, 100, 25)),
    ("transform: skewY(45deg)", (20, -40, 100, 150)), ("transform: scale3d(1, 2, 3)", (20, -15, 100, 100)), ("transform: rotateZ(100grad)", (45, -15, 50, 100)),
    ("transform: rotate(90deg)", (45, -15, 50, 100)), ("transform: rotate(0.5turn)", (20, 10, 100, 50)),
    ("transform: rotate(90deg); transform-origin: 0 0", (-30, 10, 50, 100)),
    ("transform: rotate(90deg); transform-origin: left top 7px", (-30, 10, 50, 100)),
    ("transform: skewX(45deg)", (-5, 10, 150, 50)), ("transform: skew(0, 45deg)", (20, -40, 100, 150)),
    ("transform: matrix(1, 0, 0, 1, 7, 8)", (27, 18, 100, 50)), ("transform: translate(10px) scale(2)", (-20, -15, 200, 100)),
    ("transform: scale(2) translate(10px)", (-10, -15, 200, 100)), ("transform: translate3d(5px, 6px, 7px)", (25, 16, 100, 50)),
    ("translate: 5px 6px", (25, 16, 100, 50)), ("scale: 50%", (45, 22.5, 50, 25)), ("rotate: z 90deg", (45, -15, 50, 100)),
    ("translate: 10px; scale: 2; transform: translate(10px)", (0, -15, 200, 100)), ("transform: translateZ(9px)", (20, 10, 100, 50)),
    ("transform: none", None), ("transform: rotateX(45deg)", None), ("transform: translate()", None), ("rotate: 3px", None),
    ("transform: scale(1, 2, 3, 4)", None), ("transform: rotate(45deg) foo(1)", None), ("transform: translateX(1px, 2px)", None),
]  # fmt: skip


@pytest.mark.parametrize(("style", "painted"), PAINTED)
def test_where_it_is_painted(page_of: PageOf, style: str, painted: tuple[float, ...] | None) -> None:
    """The report tells it beside the box, which stays where it is."""
    css = f"#d {{ position: absolute; left: 20px; top: 10px; width: 100px; height: 50px; {style} }}"
    page = page_of("<div id='d'></div>", css)
    report = element_report(page, by_id(page, "d"))
    assert box(page, "d") == (20, 10, 100, 50)
    found = report.get("painted_box")
    assert painted == (tuple(found.values()) if found else None)


def test_transforms_around_count_too(page_of: PageOf) -> None:
    """The outer one after the inner one; text in a transformed box goes with it."""
    css = "div { margin: 0; width: 100px; transform: scale(2); transform-origin: 0 0 } p { margin: 0; height: 10px; translate: 5px }"
    page = page_of("<div id='o'><p id='d'><b id='b'>x</b></p></div>", css)
    assert element_report(page, by_id(page, "d"))["painted_box"] == {
        "x": 10,
        "y": 0,
        "width": 200,
        "height": 20,
    }
    assert element_report(page, by_id(page, "b"))["painted_box"]["x"] == 10


HELD = ["transform: scale(1)", "translate: 0", "contain: paint", "contain: layout"]


@pytest.mark.parametrize("style", [*HELD, "transform: none", "contain: style"])
def test_what_a_transformed_box_contains(page_of: PageOf, style: str) -> None:
    """CSS Transforms 1 §3: it is the containing block of absolute and fixed boxes inside."""
    body = f"<div style='margin: 30px; height: 50px; {style}'><i id='a'></i><i id='f'></i></div>"
    page = page_of(body, "i { left: 0; top: 0 } #a { position: absolute } #f { position: fixed }")
    place = (30, 30) if style in HELD else (0, 0)
    assert box(page, "a")[:2] == box(page, "f")[:2] == place


@pytest.mark.parametrize(
    ("style", "sentence"),
    [
        ("transform: translate(-5px, 3px)", "transform paints it 5 px left and 3 px down of its place; no box moves."),
        ("rotate: 45deg", "rotate paints it in its place, turned or sized; no box moves."),
    ],
)  # fmt: skip
def test_it_is_explained(page_of: PageOf, style: str, sentence: str) -> None:
    """Why the picture is elsewhere."""
    page = page_of(f"<p id='d' style='{style}'>x</p>")
    assert sentence in [r.sentence for r in position(page, by_id(page, "d"))]


def test_a_page_that_was_not_walked_yet_tells_it_too(page_of: PageOf) -> None:
    """The report of one element asks for its box before all boxes are looked at."""
    page = page_of("<p id='d' style='translate: 5px'>x</p>", "p { margin: 0 }", laws=False)
    assert element_report(page, by_id(page, "d"))["painted_box"]["x"] == 5


@pytest.mark.parametrize(
    ("style", "left"), [("filter: grayscale(1)", 60), ("filter: none", 10), ("opacity: .5", 10)]
)
def test_a_filter_contains_fixed_boxes(page_of: PageOf, style: str, left: float) -> None:
    """Filter Effects 1 §5: absolute and fixed ones, unlike opacity."""
    page = page_of(
        f"<div style='margin-left: 50px; {style}'><p id='p' style='position: fixed; left: 10px; margin: 0'>x</p></div>"
    )
    assert box(page, "p")[0] == left
