"""Subgrids: CSS Grid 2 §9; the boxes are those that a browser gives."""

import pytest

from redcrate.core.explain.tracks import area_reasons, area_sums
from redcrate.core.page import compute_page
from redcrate.core.style.media import Viewport
from tests.conftest import PageOf, box, by_id

# What is in body, its rules, and the boxes of some elements: x, y, width, height.
PAGES = {
    "rows of cards": (
        "<div id=g><div class=c><p id=a style='height:30px'></p><p style='height:50px'></p></div><div class=c><p style='height:10px'></p><p id=b style='height:80px'></p></div></div>",
        '#g { display: grid; width: 400px; grid-template: auto auto / 1fr 1fr; gap: 10px } .c { display: grid; grid-row: span 2; grid-template-rows: subgrid; padding: 5px; border: 1px solid } p { margin: 0 }',
        {'a': (6, 6, 183, 30), 'b': (211, 46, 183, 80)},
    ),
    "another gap, edges": (
        "<div id=g><i></i><i style='width:70px'></i><i></i><div id=s><b id=a style='width:100px'></b><b id=b></b><b id=c style='width:20px'></b></div></div>",
        '#g { display: inline-grid; grid-template-columns: repeat(3, auto); column-gap: 10px } i, b { height: 10px } #s { display: grid; grid-column: 1 / -1; grid-template-columns: subgrid; column-gap: 30px; margin: 0 4px; padding: 0 12px 0 6px }',
        {'g': (0, 4, 256, 20), 's': (4, 14, 248, 10), 'a': (10, 14, 100, 10), 'b': (140, 14, 50, 10), 'c': (220, 14, 20, 10)},
    ),
    "smaller gap, wide edge": (
        "<div id=g><div id=s><b id=a style='width:50px'></b><b id=b style='width:40px'></b></div><i style='width:20px'></i></div>",
        '#g { display: inline-grid; grid-template-columns: auto auto auto; column-gap: 10px } i, b { height: 10px } #s { display: grid; grid-column: 1 / 4; grid-template-columns: subgrid; column-gap: 0; padding: 0 40px }',
        {'g': (0, 4, 175, 20), 's': (0, 4, 175, 10), 'a': (40, 4, 50, 10), 'b': (90, 4, 40, 10)},
    ),
    "names and areas": (
        '<div id=g><div id=s><b id=a></b><b id=b></b><b id=c></b></div></div>',
        "#g { display: grid; width: 400px; grid-template: 'x y y' 20px / 50px [m] 100px [n] 1fr } b { height: 10px } #s { display: grid; grid-column: 2 / 4; grid-row: 1; grid-template-columns: subgrid [p] [q] } #a { grid-column: n } #b { grid-column: p; grid-row: 2 } #c { grid-area: 3 / y }",
        {'a': (150, 0, 250, 10), 'b': (50, 10, 100, 10), 'c': (50, 20, 350, 10)},
    ),
    "in another": (
        "<div id=g><div class=s><b id=a style='width:30px'></b><div class=s style='padding-left:9px'><b id=b style='width:60px'></b><b id=c style='width:90px'></b></div></div></div>",
        '#g { display: inline-grid; grid-template-columns: repeat(3, auto) } b { height: 10px } .s { display: grid; grid-column: span 3; grid-template-columns: subgrid } .s .s { grid-column: span 2 }',
        {'g': (0, 4, 189, 10), 'a': (0, 4, 30, 10), 'b': (39, 4, 60, 10), 'c': (99, 4, 90, 10)},
    ),
    "no implicit tracks": (
        '<div id=g><div id=s><b id=a></b><b id=b></b><b id=c></b></div></div>',
        '#g { display: grid; width: 300px; grid-template: 20px 40px / 100px 200px } #s { display: grid; grid-area: 1 / 1 / 3 / 3; grid-template: subgrid / subgrid } #a { grid-column: 7 } #b { grid-area: 5 / -9 } #c { grid-row: 2 }',
        {'a': (100, 0, 200, 20), 'b': (0, 20, 100, 40), 'c': (0, 20, 100, 40)},
    ),
    "around is no grid": (
        '<div id=s><b id=a></b><b id=b></b></div>',
        '#s { display: grid; width: 200px; grid-template-columns: subgrid } b { height: 10px }',
        {'a': (0, 0, 200, 10), 'b': (0, 10, 200, 10)},
    ),
    "rows of a height": (
        "<div id=g><div id=s><b id=a></b><b id=b></b><b id=c style='height:80px'></b></div></div>",
        '#g { display: grid; width: 100px; height: 300px; grid-template-rows: 50px 1fr auto } #s { display: grid; grid-row: 1 / 4; grid-template-rows: subgrid; row-gap: 10px; margin: 10px 0 }',
        {'a': (0, 10, 100, 35), 'b': (0, 55, 100, 145), 'c': (0, 210, 100, 80)},
    ),
    "its own width counts not": (
        '<div id=g><div id=s><b id=a></b></div></div>',
        '#g { display: grid; width: 300px; grid-template-columns: 100px 1fr } #s { display: grid; grid-column: span 2; grid-template-columns: subgrid; width: 50px; justify-self: end } b { height: 10px }',
        {'s': (0, 0, 300, 10), 'a': (0, 0, 100, 10)},
    ),
    "content of one column": (
        "<div id=g><div id=s><b id=a style='width:30px'></b><b id=b style='width:50px'></b></div><i style='height:5px'></i></div>",
        '#g { display: inline-grid; grid-template: auto auto / auto 40px } #s { display: grid; grid-row: 1 / span 2; grid-template-rows: subgrid } b { height: 10px }',
        {'g': (0, 4, 90, 20), 's': (0, 4, 50, 20), 'a': (0, 4, 30, 10), 'b': (0, 14, 50, 10)},
    ),
    "right to left": (
        '<div id=g><div id=s><b id=a></b><b id=b></b></div></div>',
        '#g { display: grid; direction: rtl; width: 300px; grid-template-columns: 100px 1fr } #s { display: grid; grid-column: span 2; grid-template-columns: subgrid; padding-right: 20px; border-left: 5px solid } b { height: 10px }',
        {'s': (0, 0, 300, 10), 'a': (200, 0, 80, 10), 'b': (5, 0, 195, 10)},
    ),
    "edges set no growth limit": (
        "<div id=g><div id=s><b id=a style='width:50px'></b><b id=b style='width:8px'></b><u id=c><i></i> <i></i></u></div></div>",
        '#g { display: inline-grid; grid-template-columns: repeat(3, auto); font-size: 0 } b { height: 10px } i { display: inline-block; width: 60px; height: 10px } #s { display: grid; grid-column: span 3; grid-template-columns: subgrid; padding-right: 7px } #b { justify-self: stretch; width: auto !important; min-width: 8px } #c { grid-column: 2 / 4 }',
        {'g': (0, 4, 177, 20), 's': (0, 4, 177, 20), 'a': (0, 4, 50, 10), 'b': (50, 4, 8, 10), 'c': (50, 14, 120, 10)},
    ),
    "its own areas": (
        '<div id=g><div id=s><b id=a></b><b id=b></b></div></div>',
        "#g { display: grid; width: 300px; grid-template: 20px 30px / 100px 50px 1fr } #s { display: grid; grid-area: 1 / 2 / 3 / 4; grid-template: subgrid / subgrid; grid-template-areas: 'u v' '. v' } #a { grid-area: v } #b { grid-area: u }",
        {'a': (150, 0, 150, 50), 'b': (100, 0, 50, 20)},
    ),
}  # fmt: skip


@pytest.mark.parametrize("name", PAGES)
def test_boxes(page_of: PageOf, name: str) -> None:
    """What is in a subgrid stands in the tracks around it, and these are as large as it asks."""
    body, css, boxes = PAGES[name]
    page = page_of(body, css)
    assert {ident: box(page, ident) for ident in boxes} == boxes


def test_the_tracks_say_whose_they_are(page_of: PageOf) -> None:
    """An item's area is a sum of tracks of the grid around, by the numbers that these have there."""
    body, css, _ = PAGES["names and areas"]
    page = page_of(body, css)
    found = page.box_of(by_id(page, "c"))
    sums = area_sums(found) if found is not None else None
    assert sums is not None
    assert [reason.sentence for reason in area_reasons(sums[0])] == [
        "Its area is columns 1 to 2: 100 + 250 = 350 px.",
        "Column 1 is column 2 of the grid around: 100 px.",
        "Column 2 is column 3 of the grid around: 250 px.",
    ]


def test_other_tracks_in_a_subgrid_of_the_same_width(page_of: PageOf) -> None:
    """What was laid out with other tracks is not given out again, though the subgrid is as wide as before."""
    css = """#g { display: grid; width: 300px; grid-template-columns: 100px 200px } b { height: 10px }
        #s { display: grid; grid-column: span 2; grid-template-columns: subgrid }
        @media (max-width: 900px) { #g { grid-template-columns: 150px 150px } }"""
    page = page_of("<div id=g><div id=s><b></b><b id=b></b></div></div>", css)
    narrow = compute_page(page.source, Viewport(800, 800), page)
    assert (box(page, "b")[0], box(narrow, "b")[0]) == (100, 150)
