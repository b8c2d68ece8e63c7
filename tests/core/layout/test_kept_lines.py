"""Lines serve again in a container of about the same width, and only where they break alike."""

from collections.abc import Callable

import pytest

from redcrate.core.layout import inline
from redcrate.core.layout.line_breaking import LineBreaker
from redcrate.core.page import Page, compute_page, text_pieces
from redcrate.core.style.media import Viewport
from tests.conftest import DEMO, PageOf, by_id
from tests.snapshot import page_snapshot

TEXT = (
    "one long bed behind the windbreak, and two water butts that are never quite full in the summer " * 2
)


def texts(page: Page) -> list[tuple[int, int, int, str, int]]:
    """Where every piece of text stands in its box, how wide it is, and the room of its line."""
    lines = [(line, at) for at in page.in_order for line in at.fragment.lines]
    return [(t.x, t.y, t.width, t.text, line.width) for line, _ in lines for t in text_pieces((line,))]


@pytest.mark.parametrize(
    "css",
    [
        "",
        "p { text-align: center }",
        "p { text-align: justify; text-align-last: left }",
        "p { text-align-last: justify }",
        "p { direction: rtl }",
        "p { text-indent: 10% }",
        "p::first-line { letter-spacing: 3px }",
        "b { padding: 0 5% }",
        "b { position: relative; left: 10% }",
        "b { padding: 3% 0; border: 1px solid }",
        "b { display: inline-block; width: 20% }",
        "b { display: inline-block }",
        "b { display: inline-block; margin: 0 3% }",
        "b { display: inline-block; max-width: 60%; vertical-align: 20% }",
        "b { display: inline-block; padding: 1% 0 }",
        "b { display: inline-block; position: relative; left: 10% }",
        "p { overflow-wrap: anywhere; width: 20% }",
        "p { white-space: pre-wrap }",
        "p { padding-left: 7% }",
        "p { text-indent: 30px hanging }",
    ],
)
def test_every_width_is_as_from_scratch(page_of: PageOf, css: str) -> None:
    """A page that goes from width to width, held against fresh ones, beside a float that reaches in here and there."""
    body = f"<div style='float:right;width:20%;height:50px'></div><p id=p>{TEXT[:90]}<b>{TEXT[90:150]}</b>{TEXT}</p><p>{TEXT}</p>"
    page = page_of(body, css, 700)
    for width in (*range(700, 640, -7), *range(641, 652), 300, 655):
        viewport = Viewport(width, 800)
        page = compute_page(page.source, viewport, page)
        fresh = compute_page(page.source, viewport)
        assert page_snapshot(page) == page_snapshot(fresh), width


def test_most_lines_of_a_page_are_not_broken_again(monkeypatch: pytest.MonkeyPatch) -> None:
    """One px more or less breaks few paragraphs anew."""
    from redcrate.core.files.trial import Trial

    counted = []
    for name in ("plain_content", "_Lines"):
        works = getattr(inline, name)

        def counting(*given: object, works: Callable[..., object] = works) -> object:
            counted.append(1)
            return works(*given)

        monkeypatch.setattr(inline, name, counting)
    trial = Trial.of_file(DEMO)
    page = trial.page(Viewport(900, 800))
    first = len(counted)
    trial.page(Viewport(901, 800), page)
    assert first > 20 and len(counted) - first < first / 3


def test_a_line_knows_its_room(page_of: PageOf) -> None:
    """What is taken again has the width of its container now."""
    page = page_of(f"<p id=p>{TEXT}</p>", "p { margin: 0 }", 600)
    wider = compute_page(page.source, Viewport(601, 800), page)
    box = wider.box_of(by_id(wider, "p"))
    assert box is not None and box.box is not None
    assert {line.width for line in box.box.fragment.lines} == {601 * 64}


def test_the_room_in_which_lines_serve_is_exact(page_of: PageOf) -> None:
    """At its ends, and 1/64 px beyond them, they are as from scratch; inside they are not broken again."""
    page = page_of(f"<p id=p>{TEXT}</p>", "p { margin: 0 }", 600, laws=False)
    box = page.box_of(by_id(page, "p"))
    assert box is not None and box.box is not None
    kept = page.layouts.of(box.box.fragment.box).lines
    assert kept is not None and kept.least < 600 * 64 < kept.below
    for width in (kept.least - 1, kept.least, kept.below - 1, kept.below):
        viewport = Viewport(width / 64, 800)
        fresh = compute_page(page.source, viewport)
        assert texts(compute_page(page.source, viewport, page)) == texts(fresh), width - kept.least
        same = [t[2] for t in texts(fresh)] == [t[2] for t in texts(page)]
        assert same == (kept.least <= width < kept.below)


def test_lines_that_a_float_pushed_down_serve_nowhere_else(page_of: PageOf) -> None:
    """A paragraph that found no room beside a float stands at its own top where there is no such float."""
    css = (
        "i { float: left; width: 290px; height: 50px } p { width: 100px; margin: 0 }"
        " @media (min-width: 400px) { i { display: none } }"
    )
    page = page_of("<i></i><p>" + "supercalifragilistic " * 4, css, 320)
    wide = compute_page(page.source, Viewport(500, 800), page)
    assert texts(wide) == texts(compute_page(page.source, Viewport(500, 800)))


@pytest.mark.parametrize(
    ("css", "serves"),
    [
        ("", True),
        ("b { padding: 4px; margin: 0 3px; vertical-align: 4px }", True),
        ("b { position: relative; left: 10% }", False),
        ("b { margin-left: 2% }", False),
        ("b { padding-top: 4% }", False),
        ("b { min-height: 10px; width: 8% }", False),
        ("b { height: 50%; overflow: hidden } p { height: 10% } html, body { height: 100% }", True),
        ("b u { position: absolute; right: 0 } b { width: 3em }", False),
    ],
)
def test_boxes_on_lines(
    page_of: PageOf, css: str, serves: bool, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Lines with inline-blocks serve again where these take the same room, and each is as it is in its new room."""
    row = "".join(f"<b>{word}<u></u></b> " for word in TEXT.split()[:9])
    page = page_of(f"<p>{row}</p>", f"b {{ display: inline-block }} {css}", 700, laws=False)
    broken = 0
    for width in range(701, 706):
        viewport = Viewport(width, 800)
        with monkeypatch.context() as patch:
            breaks, before = LineBreaker.next_line, broken

            def counting(*given: object, **named: object) -> object:
                nonlocal broken
                broken += 1
                return breaks(*given, **named)  # type: ignore[arg-type]

            patch.setattr(LineBreaker, "next_line", counting)
            page = compute_page(page.source, viewport, page)
        assert serves == (broken == before), width
        fresh = compute_page(page.source, viewport)
        assert page_snapshot(page) == page_snapshot(fresh), width
        basis = {b.fragment.across.basis for b in page.in_order if b.fragment.box.element is not None}
        assert width * 64 in basis
