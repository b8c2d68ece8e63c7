"""Laws of the layout: widths that fit or do not, equal results, and moved containers."""

import json
import random

import pytest

from redcrate.core.notices import NoticeKind
from redcrate.core.page import compute_page
from redcrate.core.style.media import Viewport
from tests.conftest import CASES, PageOf, box, by_id, load

FITS = [
    ("33.34%", 3, False), ("33.3334%", 3, True), ("33.33%", 3, True), ("16.67%", 6, False),
    ("50%", 2, True), ("calc(100% / 7)", 7, True), ("14.29%", 7, False), ("500.01px", 2, True),
    ("500.02px", 2, False),
]  # fmt: skip


@pytest.mark.parametrize(("width", "count", "fits"), FITS)
def test_does_it_fit_is_decided_at_a_64th(page_of: PageOf, width: str, count: int, fits: bool) -> None:
    """Shares are cut to 1/64 px before they are added up."""
    divs = "".join(f"<div id='d{i}'></div>" for i in range(count))
    page = page_of(divs, f"div {{ float: left; width: {width}; height: 10px }}")
    assert (box(page, f"d{count - 1}")[1] == 0) is fits


def test_a_dropped_float_keeps_the_place_it_was_refused(page_of: PageOf) -> None:
    """Two halves with borders: the second lacks 4 px."""
    page = page_of(
        "<div id='a'></div><div id='b'></div>",
        "div { float: left; width: 50%; border: 1px solid; height: 20px }",
    )
    placed = page.by_element[by_id(page, "b")].box
    assert placed is not None
    refusal = placed.placed.refusals[0]
    assert (refusal.x / 64, refusal.y / 64, refusal.missing / 64) == (502, 0, 4)
    assert box(page, "b")[1] == 22


@pytest.mark.parametrize("part", range(4))
def test_relayout_equals_layout(part: int) -> None:
    """A page at width after width, with results used again, is the page laid out from nothing."""
    rng = random.Random(part)
    for path in sorted(CASES.glob("gen-*.html"))[part::20]:
        size = json.loads(path.with_suffix(".json").read_text(encoding="utf-8"))["viewport"]
        page = load(path, size["width"], size["height"])
        for _ in range(3):
            viewport = Viewport(rng.choice([390, 511.5, 800, 1000, 1280]), rng.choice([300, 800]))
            page = compute_page(page.source, viewport, page)
            fresh = load(path, viewport.width, viewport.height)
            again = [b.border_box for b in page.by_element.values()]
            assert again == [b.border_box for b in fresh.by_element.values()], (path.name, viewport)


def test_moving_a_container_moves_its_contents_by_as_much(page_of: PageOf) -> None:
    """Everything inside keeps its place from the container's corner."""
    body = "<div id='w'><p id='p'>some text <b id='b'>bold</b></p><i id='i'>float</i></div>"
    css = "#w { width: 300px; padding: 5px } i { float: right }"
    before = page_of(body, css)
    after = page_of(body, css + "#w { margin: 11px 0 0 17px }")
    for ident in ("w", "p", "b", "i"):
        old, new = box(before, ident), box(after, ident)
        assert (new[0] - old[0], new[1] - old[1]) == (17, 11)
        assert old[2:] == new[2:]


def test_what_is_laid_out_as_blocks_is_told(page_of: PageOf) -> None:
    """An old box that lies flat stands as blocks, with a notice that names it; a flex container is one."""
    page = page_of(
        "<div id='a'><p>1</p></div><div id='b'></div>",
        "#a { display: -webkit-box } #b { display: flex }",
    )
    told = [n.sentence for n in page.notices if n.kind is NoticeKind.LAID_OUT_AS_BLOCKS]
    assert len(told) == 1 and "div#a has display: -webkit-box" in told[0]
