"""Quotation marks, counters, attributes and pictures in generated content: CSS Content 3, CSS Lists 3."""

import shutil
from pathlib import Path

import pytest

from redcrate.core.layout.fragments import TextPiece
from redcrate.core.page import Page
from tests.conftest import DEMO, PageOf, box, load

PICTURE = "data:image/svg+xml,<svg xmlns='http://www.w3.org/2000/svg' width='30' height='40'/>"


def text_of(page: Page) -> str:
    """All text that stands in lines, in order."""
    parts = [p for b in page.in_order for line in b.fragment.lines for p in line.content]
    return "".join(p.text for p in parts if isinstance(p, TextPiece))


Q = "q::before { content: open-quote } q::after { content: close-quote } "
WORDS = [
    # body, css, what is read
    ("<q>a<q>b<q>c</q></q></q>", Q, "“a‘b‘c’’”"),
    ("<q>a<q>b</q></q>", Q + "body { quotes: '<' '>' '(' ')' }", "<a(b)>"),
    ("<q>a</q>", Q + "q { quotes: none }", "a"),
    ("<i></i><q>a</q>", Q + "i::before { content: close-quote }", "“a”"),
    ("<p>a<p>b", "p::before { content: no-open-quote 'x' }", "xaxb"),
    ("<b data-k=v></b><b></b>", "b::after { content: attr(data-k, 'none') '.' }", "v.none."),
    ("<h2>a</h2><h2>b</h2>", "h2 { counter-increment: n } h2::before { content: counter(n) ' ' }", "1 a2 b"),
    (
        "<h2>a</h2><h3>x</h3><h3>y</h3><h2>b</h2><h3>z</h3>",
        "h2 { counter-increment: n; counter-reset: m } h3 { counter-increment: m 2 }"
        "h3::before { content: counter(n, upper-roman) '.' counter(m) }",
        "aI.2xI.4ybII.2z",
    ),
    (
        "<ol><li>a<ol><li>b</ol><li>c</ol>",
        "ol { counter-reset: k; list-style: none } li { counter-increment: k }"
        "li::before { content: counters(k, '.') }",
        "1a1.1b2c",
    ),
    ("<p>a<p hidden>b<p>c", "p { counter-increment: n } p::before { content: counter(n) }", "1a2c"),
    ("<h2>a</h2>", "h2::before { content: counter(n) ' ' }", "0 a"),
    ("<h2>a</h2>", "h2 { counter-reset: n 0 } h2::before { content: counter(n, lower-alpha) counters(n, '.', upper-latin) }", "00a"),
    ("<h2>a</h2>", "h2 { counter-reset: n 27 } h2::before { content: counter(n, lower-alpha) counter(n, lower-roman) }", "aaxxviia"),
    ("<h2>a</h2>", "h2 { counter-reset: n 4000 m -3 } h2::before { content: counter(n, upper-roman) counter(m, decimal-leading-zero) }", "4000-03a"),
    ("<h2>a</h2>", "h2 { counter-reset: n 3 } h2::before { content: counter(n, none) counter(n, disc) }", "•a"),
    ("<p>a", "p { counter-set: n 7 } p::before { counter-increment: n; content: counter(n) }", "8a"),
]  # fmt: skip


@pytest.mark.parametrize(("body", "css", "read"), WORDS, ids=[w[2] for w in WORDS])
def test_what_is_read(page_of: PageOf, body: str, css: str, read: str) -> None:
    """The texts of the page with what is generated."""
    assert text_of(page_of(body, css)) == read


@pytest.mark.parametrize(
    "bad",
    ["quotes: 'a'", "counter-reset: 3", "content: counter(n, a, b)", "counter-reset: n 1 2", "content: attr()"],
)  # fmt: skip
def test_what_is_no_value(page_of: PageOf, bad: str) -> None:
    """It is dropped with a notice."""
    page = page_of("<p>a", f"p {{ {bad} }}")
    assert len(page.source.notices) == 1


def test_a_picture_in_generated_content_has_its_own_size(page_of: PageOf) -> None:
    """CSS Content 3 §2: it is inline; a line of 20 px with its baseline 15 px down grows to 40 + 5."""
    css = f'p {{ font-size: 16px; line-height: 20px }} p::before {{ content: url("{PICTURE}") "x" }}'
    page = page_of("<p id='d' style='margin: 0'><b id='b'>y</b></p>", css)
    assert box(page, "b")[0] == 30 + 8
    assert box(page, "d")[3] == 45


@pytest.mark.parametrize(("place", "x"), [("outside", 40), ("inside", 77)])
def test_a_picture_as_a_marker(page_of: PageOf, place: str, x: float) -> None:
    """Outside it takes no room across, inside 7 px beside its own; either way the first line holds it."""
    css = f'li {{ font-size: 16px; line-height: 20px; list-style: {place} url("{PICTURE}") }}'
    page = page_of("<ul style='margin: 0'><li id='d'><b id='b'>y</b><br>z<li id='e'></ul>", css)
    assert box(page, "b")[0] == x
    assert box(page, "d")[3] == 45 + 20
    assert box(page, "e")[3] == 45


SIZES = [
    # attributes of the picture, its size as a marker of 16 px text
    ("width='30' height='40'", (30, 40)), ("height='40' viewBox='0 0 2 1'", (80, 40)), ("height='40'", (16, 40)),
    ("width='40'", (40, 16)), ("width='40' viewBox='0 0 2 1'", (40, 20)), ("viewBox='0 0 1 1'", (16, 16)), ("", (16, 16)),
    ("viewBox='0 0 2 1'", (16, 8)), ("viewBox='0 0 1 4'", (4, 16)),
]  # fmt: skip


@pytest.mark.parametrize(("attributes", "size"), SIZES)
def test_how_large_a_marker_is_drawn(
    page_of: PageOf, attributes: str, size: tuple[float, float]
) -> None:
    """CSS Images 3 §5.3 with 1em by 1em; it is pulled out by its width and the gap, so the text stays."""
    address = f"data:image/svg+xml,<svg xmlns='http://www.w3.org/2000/svg' {attributes}/>"
    css = f'li {{ font-size: 16px; list-style: outside url("{address}") }}'
    page = page_of("<ul style='margin: 0'><li><b id='b'>y</b></ul>", css)
    marker = next(b for b in page.in_order if b.fragment.box.picture)
    across = marker.fragment.across
    assert (marker.rect.width / 64, marker.rect.height / 64) == size
    assert (across.margin_left + across.margin_right) / 64 == -size[0]


def test_a_missing_picture_leaves_the_usual_marker(page_of: PageOf) -> None:
    """CSS Lists 3 §3.1."""
    page = page_of("<ul><li id='d'>y</ul>", "li { list-style-image: url(no.png); line-height: 20px }")
    assert box(page, "d")[3] == 20


def test_a_marker_has_its_own_style_and_text(page_of: PageOf) -> None:
    """CSS Lists 3 §3.2: ::marker."""
    css = "li { list-style: inside } li::marker { font-size: 40px; content: 'x' } #e::marker { content: none }"
    page = page_of("<ul style='padding: 0'><li><b id='b'>y</b><li id='e'><b id='c'>y</b></ul>", css)
    assert box(page, "b")[0] == 20
    assert box(page, "c")[0] == 0


def test_a_picture_that_comes_later_is_seen(tmp_path: Path) -> None:
    """The same page once more, with the picture in its place: its size counts."""
    path = tmp_path / "page.html"
    path.write_text("<!doctype html><style>p::before { content: url(p.jpg) }</style><p id='d'>", encoding="utf-8")  # fmt: skip
    before = box(load(path), "d")[3]
    picture = next(p for p in DEMO.parent.rglob("*") if p.suffix in (".jpg", ".png"))
    shutil.copy(picture, tmp_path / "p.jpg")
    assert box(load(path), "d")[3] > before
