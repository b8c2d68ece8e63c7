"""Sticky boxes where they stand before the page is scrolled: CSS Positioned Layout 3 §3.4."""

import pytest

from redcrate.core.explain.position import position
from redcrate.core.page import Page
from tests.conftest import PageOf, box, by_id

CSS = "#d { position: sticky; height: 10px } section { height: 60px; overflow: auto; padding: 5px } p { height: 90px; margin: 0 }"

STUCK = [
    # body (D: the sticky box with the style), style, its x and y
    ("<div style='height: 100px'>D</div>", "top: 20px", (0, 20)), ("<p></p><div style='height: 100px'>D</div>", "top: 20px", (0, 90)),
    ("<div style='height: 15px'>D</div>", "top: 20px", (0, 5)), ("<div style='height: 100px'>D</div>", "top: auto", (0, 0)),
    ("<div><p></p>D</div>", "bottom: 750px", (0, 40)), ("<p></p><div><p></p>D</div>", "bottom: 790px", (0, 90)),
    ("<section><p></p>D</section>", "bottom: 3px", (5, 52)), ("<section>D<p></p></section>", "top: 13px", (5, 18)),
    ("<div style='height: 100px'>D</div>", "top: -5px; margin-top: -9px", (0, -5)),
    ("<div style='height: 100px; padding-top: 4px'>D</div>", "top: 10%", (0, 80)),
    ("<div style='display: flex; height: 50px'>D</div>", "left: 20px; width: 10px", (20, 0)),
    ("<div style='height: 300px'>D</div>", "top: 20px; bottom: 770px", (0, 20)),
    ("<div style='height: 100px; overflow: clip'>D</div>", "top: 20px", (0, 20)),
]  # fmt: skip


def page_with(page_of: PageOf, body: str, style: str) -> Page:
    """A page of 1280 by 800 px."""
    return page_of(body.replace("D", f"<div id='d' style='{style}'><b id='b'>x</b></div>"), CSS)


@pytest.mark.parametrize(("body", "style", "place"), STUCK)
def test_places(page_of: PageOf, body: str, style: str, place: tuple[float, float]) -> None:
    """Moved to the edge that it would be beyond, and no further than its containing block reaches."""
    page = page_with(page_of, body, style)
    assert box(page, "d")[:2] == place
    assert box(page, "b")[0] == place[0]  # what stands in it moves along


def test_what_comes_after_stays_and_the_move_is_told(page_of: PageOf) -> None:
    """As with relative positioning; the page is as high as before."""
    page = page_with(page_of, "<div style='height: 100px'>D<i id='i'>x</i></div>", "top: 20px")
    assert box(page, "i")[1] == box(page_with(page_of, "<div>D<i id='i'>x</i></div>", ""), "i")[1]
    told = [r.sentence for r in position(page, by_id(page, "d"))]
    assert any("sticky" in s and "20 px down" in s for s in told)


def test_one_in_another(page_of: PageOf) -> None:
    """The inner one is moved from where the outer one has come to stand."""
    inner = "<div style='height: 50px'><div id='c' style='position: sticky; top: 30px; height: 5px'></div></div>"
    page = page_of(
        f"<div style='height: 200px'><div id='d' style='height: 60px; top: 20px'>{inner}</div></div>",
        CSS,
    )
    assert (box(page, "d")[1], box(page, "c")[1]) == (20, 30)
