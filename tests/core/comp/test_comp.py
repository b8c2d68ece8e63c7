"""The comp: edges found in made pictures, measures, what a box lacks to the picture, what a measure is as a value."""

import msgspec
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from redcrate.core.comp.against import caught, compared
from redcrate.core.comp.edges import Picture, nearest_edge
from redcrate.core.comp.giving import TAKERS
from redcrate.core.comp.measuring import distance, marquee
from redcrate.core.comp.placing import CompPlace, CompWay, KeptComp, likely_scale
from redcrate.core.geometry import Rect
from redcrate.core.units import from_px
from tests.conftest import PageOf, by_id

PALE, DARK, RED = (250, 246, 240), (40, 60, 50), (184, 50, 42)


def made(width: int = 300, height: int = 200) -> Picture:
    """A pale picture."""
    return np.full((height, width, 3), PALE, np.uint8)


@given(
    left=st.integers(20, 120), size=st.integers(30, 120), off=st.integers(-8, 8), noise=st.integers(0, 4), soft=st.booleans()
)  # fmt: skip
def test_edges_are_found_within_a_px(left: int, size: int, off: int, noise: int, soft: bool) -> None:
    """Hard and soft edges of a box, on a ground that is a little uneven, along rows and columns."""
    picture = made()
    picture[:, left : left + size] = DARK
    if soft:  # an edge that stands in the middle of a px
        picture[:, left] = (np.array(PALE, int) + np.array(DARK, int)) // 2
    grain = np.random.default_rng(size).integers(0, noise + 1, picture.shape, np.uint8)
    picture = picture - np.minimum(picture, grain)
    wanted = left + (0.5 if soft else 0)
    for shown, across in ((picture, True), (picture.swapaxes(0, 1), False)):
        at = (left + off, 100) if across else (100, left + off)
        found = nearest_edge(shown, *at, across=across, reach=12)
        assert found is not None and abs(found - wanted) <= 1, (found, wanted)
        right = (left + size, 100) if across else (100, left + size)
        assert nearest_edge(shown, *right, across=across, reach=6) == pytest.approx(left + size, abs=0.5)


def test_where_nothing_changes_there_is_no_edge() -> None:
    """Plain ground, places outside, a picture of one px, an edge out of reach."""
    picture = made()
    assert nearest_edge(picture, 100, 100, across=True, reach=50) is None
    assert nearest_edge(picture, -5, 10, across=True, reach=50) is None
    assert nearest_edge(picture, 100, 900, across=False, reach=50) is None
    assert nearest_edge(picture[:1, :1], 0, 0, across=True, reach=9) is None
    picture[:, 200:] = DARK
    assert nearest_edge(picture, 100, 100, across=True, reach=50) is None
    assert nearest_edge(picture, 300, 200, across=True, reach=150) == 200


def test_both_sides_of_a_line_are_edges() -> None:
    """The nearer one is taken."""
    picture = made()
    picture[:, 100:101] = RED
    assert nearest_edge(picture, 98, 50, across=True, reach=9) == 100
    assert nearest_edge(picture, 104, 50, across=True, reach=9) == 101


def test_a_place_is_caught_at_any_scale() -> None:
    """On a picture at 2 ×, moved on the page, each axis by itself."""
    picture = made(600, 400)
    picture[:, 200:] = DARK
    place = CompPlace("c.png", x=10, y=20, scale=2.0)
    assert caught(picture, place, 108, 60, 4) == (110, 60)
    assert caught(picture, place, 100, 60, 4) == (100, 60)
    assert place.to_page(*place.to_picture(33, 44)) == (33, 44)


def test_measures() -> None:
    """A distance keeps to the longer axis; a marquee is a rectangle, whichever way it is drawn."""
    assert distance((10, 5), (194, 9)).words == "184 px across"
    assert distance((10, 50), (12, 8)).words == "42 px down" and distance((10, 50), (12, 8)).length == 42
    box = marquee((30, 40), (10, 5))
    assert (box.left, box.top, box.words, box.length) == (10, 5, "20 × 35 px", 20)


def test_a_box_is_held_against_the_picture() -> None:
    """Narrower and further up than what is drawn there; a border's outer edge counts."""
    picture = made()
    picture[50:150, 40:240] = RED
    picture[52:148, 42:238] = DARK
    place = CompPlace("c.png")

    def told(x: float, y: float, width: float, height: float) -> str:
        return compared(
            picture, place, Rect(from_px(x), from_px(y), from_px(width), from_px(height))
        ).sentence

    assert told(40, 50, 200, 100) == "as in the comp."
    assert told(40, 47, 188, 100) == "12 px narrower, 3 px further up."
    assert told(46, 50, 200, 108) == "8 px higher, 6 px further right."
    assert told(120, 95, 20, 10) == "The comp has no edge within 40 px of this box."
    assert "2 of its sides have no edge near" in told(40, 50, 100, 50)


def test_giving_heeds_the_sizing_mode(page_of: PageOf) -> None:
    """A measured border box becomes a width without padding and border, or with them where they are in it."""
    body = "<p id=a>x</p><p id=b style='box-sizing:border-box'>y</p>"
    page = page_of(body, "p { width: 200px; padding: 10px; border: 2px solid; margin: 0 }")
    by_words = {t.words: t for t in TAKERS}

    def typed(words: str, name: str) -> str:
        element = by_id(page, name)
        box = page.box_of(element)
        assert box is not None
        return by_words[words].typed(184, box, page.style_of(element))

    assert typed("border box width", "a") == "160px" and typed("border box width", "b") == "184px"
    assert typed("content width", "a") == "184px" and typed("content width", "b") == "208px"
    assert typed("min-height", "a") == "160px" and typed("padding left", "a") == "184px"
    assert by_words["margin top"].is_down and not by_words["margin left"].is_down


def test_where_a_comp_lies_is_kept_as_json() -> None:
    """And read again; what is no place is refused."""
    place = CompPlace("comp/a.png", 3, -4, 2.0, 0.25, CompWay.DIFFERENCE)
    kept = msgspec.to_builtins(KeptComp.of(place))
    assert msgspec.convert(kept, KeptComp).placed() == place
    for wrong in (
        {"file": "a", "scale": 0},
        {"file": "a", "x": 1e9},
        {"file": "a", "way": "beside"},
        {"x": 3},
    ):
        with pytest.raises(msgspec.ValidationError):
            msgspec.convert(wrong, KeptComp)
    assert likely_scale("front@2x.png", 500, 1100) == 2 and likely_scale("front.png", 2200, 1100) == 2
    assert likely_scale("front.png", 1100, 1100) == 1 and likely_scale("f.png", 3300, 1100) == 3
