"""What is kept of layouts: right for many widths and threads, and no longer than it is in use."""

import gc
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from redcrate.core.boxes.box import Box
from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.files.loading import assemble, read_page
from redcrate.core.files.resources import Resources
from redcrate.core.page import Page, PageSource, compute_page
from redcrate.core.session import Session
from redcrate.core.style.media import Viewport
from tests.conftest import DEMO, PageOf, by_id
from tests.snapshot import page_snapshot
from tests.trying import full

WIDTHS = (320, 390, 480, 640, 820, 1024, 1280, 1600)


def source_of(path: Path = DEMO) -> PageSource:
    """The demo page, parsed."""
    return assemble(read_page(path).source, Resources(path)).page


def test_eight_widths_of_a_page_keep_their_layouts(boxes_laid_out: Callable[[], int]) -> None:
    """While all eight are shown, none of them is laid out again."""
    source = source_of()
    shown: dict[int, Page] = {}
    latest: Page | None = None
    for width in WIDTHS:
        latest = shown[width] = compute_page(source, Viewport(width, 800), latest)
    assert boxes_laid_out() > 0
    for width in WIDTHS:
        again = compute_page(source, Viewport(width, 800), shown[width])
        assert page_snapshot(again) == page_snapshot(shown[width])
    assert boxes_laid_out() == 0


def test_an_edit_lays_out_the_boxes_above_it_alone(
    tmp_path: Path, boxes_laid_out: Callable[[], int]
) -> None:
    """One of 300 cards gets another padding: itself, what is in it, and what it stands in."""
    path = tmp_path / "page.html"
    card = "<div class='card'><p>one two three</p></div>"
    path.write_text(f"<!doctype html><body><main>{card * 150}<div class='card' style='padding: 3px'>"
                    f"<p>x</p></div>{card * 150}</main>", encoding="utf-8")  # fmt: skip
    session = Session(path, 700)
    boxes_laid_out()
    styles = session.views.page.styled.styles
    at = session.document.text("page.html").text.index("3px")
    session.editor.apply(Patch((TextEdit("page.html", at, at + 1, "9"),), "an edit"))
    assert boxes_laid_out() <= 5  # html, body, main, the card; its paragraph is as wide as before or not
    assert {e.label for e in session.views.page.styled.restyled} == {"div.card"}
    assert sum(session.views.page.styled.styles[e] is not styles[e] for e in styles) == 1


def test_nothing_is_kept_of_pages_that_are_gone(tmp_path: Path) -> None:
    """Thirty widths one after another leave what one width leaves; closing the page leaves nothing."""
    source = source_of()
    page = compute_page(source, Viewport(1000, 800))
    cache = page.layouts
    kept = _fragments_of(page)
    boxes = len(cache)
    for width in range(500, 800, 10):
        page = compute_page(source, Viewport(width, 800), page)
    page = compute_page(source, Viewport(1000, 800), page)
    assert (
        _fragments_of(page) <= 2 * kept
    )  # a fragment that only its margins tell from another keeps that one
    assert len(cache) <= boxes * 1.5
    del page
    gc.collect()
    assert len(cache) == 0


def _fragments_of(page: Page) -> int:
    """How many are kept of a page's boxes."""
    assert page.boxes.root is not None
    return sum(len(page.layouts.of(b).fragments) for b in page.boxes.root.walk())


def test_threads_that_share_what_is_kept_get_the_same_pages() -> None:
    """Eight widths at once, again and again, in one page family and each in its own."""
    source = source_of()
    first = compute_page(source, Viewport(700, 800))
    alone = {w: page_snapshot(compute_page(source, Viewport(w, 800))) for w in WIDTHS}

    def compute(width: int) -> bool:
        shared = compute_page(source, Viewport(width, 800), first)
        own = compute_page(source, Viewport(width, 800))
        return bool(page_snapshot(shared) == alone[width] == page_snapshot(own))

    with ThreadPoolExecutor(4) as threads:
        assert all(threads.map(compute, WIDTHS * 2))


def test_a_deep_page_in_one_thread_leaves_room_while_another_ends(tmp_path: Path) -> None:
    """The limit of nesting is the process's: whoever ends first must not take it from the other."""
    deep, flat = tmp_path / "deep.html", tmp_path / "flat.html"
    deep.write_text("<!doctype html><body>" + "<div>" * 1500 + "x", encoding="utf-8")
    flat.write_text("<!doctype html><body><p>x", encoding="utf-8")
    sources = [source_of(deep), *[source_of(flat)] * 40]
    with ThreadPoolExecutor(4) as threads:
        pages = list(threads.map(lambda s: compute_page(s, Viewport(500, 400)), sources))
    assert len(pages[0].by_element) == 1502 and pages[0].height == 400 * 64


def test_boxes_stay_as_they_are(page_of: PageOf) -> None:
    """What layout finds out is kept beside the tree: at another width each box says what it said."""
    page = page_of("<p>x <b>y</b></p><table><td>z</table><div style='display: flex'><i>a</i></div>")
    assert page.boxes.root is not None
    boxes = list(page.boxes.root.walk())
    before = [_held(box) for box in boxes]
    compute_page(page.source, Viewport(200, 800), page)
    assert [_held(box) for box in boxes] == before


def _held(box: Box) -> list[object]:
    return [getattr(box, name) for name in Box.__slots__ if name != "__weakref__"]


def test_what_comes_to_read_the_height_is_laid_out_at_another_one(tmp_path: Path) -> None:
    """An offset of a child becomes a share of the height; in an old document the block around lets heights through."""
    path = tmp_path / "p.html"
    text = (
        "<style>#o { height: 100px } #b { overflow: hidden } #p { position: relative; top: 3px; margin: 0 }</style>"
        "<div id=o><div id=b><div id=c><p id=p></p></div></div></div>"
    )
    path.write_text(text, encoding="utf-8")
    session = Session(path, 500)
    for old, new in (("top: 3px", "top: 10%"), ("height: 100px", "height: 200px")):
        at = session.document.text("p.html").text.index(old)
        session.editor.apply(Patch((TextEdit("p.html", at, at + len(old), new),), "an edit"))
        assert page_snapshot(session.views.page) == page_snapshot(full(session)), new


def test_the_same_used_width_has_the_same_inside(
    page_of: PageOf, boxes_laid_out: Callable[[], int]
) -> None:
    """A float of 200 px is not laid out again in a wider window; its margin in percent is another."""
    page = page_of(
        "<div id='f'><p>one two three</p></div>",
        "#f { float: left; width: 200px; margin-left: 10% } p { margin: 0 }",
    )
    boxes_laid_out()
    wider = compute_page(page.source, Viewport(2000, 800), page)
    assert boxes_laid_out() == 2  # html and body
    found = wider.box_of(by_id(wider, "f"))
    assert found is not None and found.box is not None
    assert (found.border_box.x, found.margin.left) == (200 * 64, 200 * 64)
    assert found.box.fragment.across.basis == 2000 * 64
