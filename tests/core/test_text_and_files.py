"""Text and files below the layout: breaks, shaped widths, fonts, pictures' sizes, addresses, notices."""

import base64
import html
import re
import string
from itertools import product
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image

from redcrate.core.boxes.image_size import data_uri_bytes, intrinsic_size
from redcrate.core.files.loading import assemble, read_page
from redcrate.core.files.resources import Resources
from redcrate.core.markup import Element
from redcrate.core.markup.source_text import SourceText
from redcrate.core.notices import NoticeKind
from redcrate.core.page import compute_page
from redcrate.core.style.media import Viewport
from redcrate.core.text.breaks import break_opportunities
from redcrate.core.text.fonts import choose_font
from redcrate.core.text.shaping import shape
from tests.conftest import PageOf, box, by_id, load

BREAKS = [
    ("one two", "one |two"), ("one  two", "one  |two"), ("one\u00a0two", "one\u00a0two"), ("well-known", "well-|known"),
    ("10-12", "10-|12"), ("-12", "-12"), ("a \u2014 b", "a |\u2014 |b"), ("soft\u00adhyphen", "soft\u00ad|hyphen"), ("zero\u200bwidth", "zero\u200b|width"),
    ("(one) two", "(one) |two"), ("one, two", "one, |two"), ("日本語", "日|本|語"), ("日本。", "日|本。"), ("a/b", "a/b"), ("why?not", "why?|not"), ("end-)", "end-)"), ("- one", "- |one"), (" -one", " |-|one"),
    ("a \xa0b", "a |\xa0b"), ("a\xa0 b", "a\xa0 |b"), ("a \u2060b", "a \u2060b"), ("wait...what", "wait...what"), ("--help", "-|-|help"), ("on -x", "on |-|x"), ("f(g)(x)", "f(g)|(x)"), ("say \"{x}\"", "say |\"|{x}\""),
    ("f(x)", "f(x)"), ("it'[s]", "it'[s]"), ("([a])", "([a])"), ("x\ufffcy", "x|\ufffc|y"), ("-5 px", "-5 |px"),
    ("a[T](b)", "a[T]|(b)"), ("end.(x", "end.|(x"), ("a:[b", "a:|[b"), ("a/(b", "a/(b"), ("a<[b", "a<[b"), ("why?&b", "why?|&b"), ("why?!", "why?!"),
    ("what?(x", "what?|(x"), ("a-%b", "a-|%b"), ("a-$b", "a-$b"), ("a-/b", "a-/b"), ("a -(b", "a |-|(b"), ("a'<b", "a'<b"), ("a;{b", "a;|{b"),
]  # fmt: skip


@pytest.mark.parametrize(("text", "marked"), BREAKS)
def test_where_a_line_may_break(text: str, marked: str) -> None:
    """Bars stand where a new line may begin (UAX #14, tailored as the measured pages have it)."""
    at = break_opportunities(text)
    assert "".join(("|" if i in at else "") + c for i, c in enumerate(text)) == marked


# Of the ASCII marks: behind which a line ends in front of which, in what engines do with all pairs of them between letters.
BETWEEN_MARKS = {
    "-": "\"#%&'(*+-<=>@[\\^_`{|~", "?": "#$%&(*+-<=>@[\\^_`{|~", **dict.fromkeys("!\"#%&)*+,.:;=>\\]|}~", "(<[{"),
}  # fmt: skip


def test_all_pairs_of_marks() -> None:
    """Between two letters; neither is broken from its own letter, but behind a hyphen or a question mark."""
    for one, other in product(string.punctuation, repeat=2):
        wanted = [2] * (other in BETWEEN_MARKS.get(one, "")) + [3] * (other in "-?")
        assert list(break_opportunities(f"a{one}{other}a")) == wanted, one + other


@given(st.text(st.characters(codec="utf-8", exclude_categories=["Cs"]), max_size=40))
def test_breaks_are_inside_and_ascend(text: str) -> None:
    """Of any text; never in front of a space."""
    at = break_opportunities(text)
    assert list(at) == sorted(set(at)) and all(0 < i < len(text) and text[i] != " " for i in at)


@given(st.text(st.characters(min_codepoint=32, max_codepoint=0x17F), max_size=30), st.integers(1, 60))
def test_shaped_widths_add_up(text: str, size: int) -> None:
    """Advances at any cut: the parts are the whole, none is negative, twice the size is twice the width."""
    run = shape(choose_font(("sans-serif",), 400, "normal").face, text)
    assert len(run.sums) == len(text) + 1 and list(run.sums) == sorted(run.sums)
    for cut in range(len(text) + 1):
        parts = run.width(0, cut, size) + run.width(cut, len(text), size)
        assert 0 <= parts - run.width(0, len(text), size) <= 1
    assert abs(run.width(0, len(text), 2.0 * size) - 2 * run.width(0, len(text), size)) <= 2


FAMILIES = [
    (("Arial",), "Liberation Sans", ""), (("Helvetica", "serif"), "Liberation Sans", ""), (("Times New Roman",), "Liberation Serif", ""),
    (("monospace",), "Liberation Mono", ""), (("No Such Face", "sans-serif"), "Liberation Sans", "No Such Face"),
    (("No Such Face",), "Liberation Serif", "No Such Face"),
]  # fmt: skip


@pytest.mark.parametrize(("families", "used", "missing"), FAMILIES)
def test_families_and_what_stands_in(families: tuple[str, ...], used: str, missing: str) -> None:
    """The usual web families have metric-compatible faces; another one is told."""
    choice = choose_font(families, 400, "normal")
    assert choice.face.family == used and (choice.stands_in_for or "") == missing
    assert choose_font(families, 700, "italic").face.path != choice.face.path


@given(st.lists(st.sampled_from(["a", "\n", "\r", "\r\n", "\f", "\u2028", "\v", "é"])).map("".join))
def test_lines_and_offsets(text: str) -> None:
    """Lines end at any of CSS's and HTML's line ends and nowhere else; a place there and back is the same."""
    source = SourceText("page", text)
    ends = re.sub(r"\r\n|\r|\f", lambda m: "\n".rjust(len(m.group())), text).split("\n")
    assert source.line_of(len(text)) == len(ends)
    for line, content in enumerate(ends, 1):
        start = source.offset_of(line, 1)
        assert source.line_of(start) == line and text[start:].startswith(content.removesuffix(" "))
    for offset in range(len(text) + 1):
        line = source.line_of(offset)
        assert source.offset_of(line, offset - source.line_starts[line - 1] + 1) == offset


@pytest.mark.parametrize(
    ("turned", "size"), [(1, (37, 23)), (3, (37, 23)), (6, (23, 37)), (8, (23, 37))]
)
def test_a_picture_that_a_camera_held_on_its_side(
    tmp_path: Path, turned: int, size: tuple[int, int]
) -> None:
    """CSS Images 3 §6.3: its size is that of the right way up."""
    said = Image.Exif()
    said[0x112] = turned
    Image.new("RGB", (37, 23)).save(tmp_path / "x.jpg", exif=said)
    found = intrinsic_size((tmp_path / "x.jpg").read_bytes())
    assert found is not None and (found.width, found.height) == size


@pytest.mark.parametrize("kind", ["PNG", "JPEG", "GIF", "WEBP"])
def test_picture_sizes_from_their_headers(tmp_path: Path, kind: str) -> None:
    """Each format; a cut file is none; a data address is decoded."""
    path = tmp_path / "x"
    Image.new("RGB", (37, 23)).save(path, kind)
    data = path.read_bytes()
    size = intrinsic_size(data)
    assert size is not None and (size.width, size.height) == (37, 23)
    assert intrinsic_size(data[:9]) is None and intrinsic_size(b"") is None
    address = f"data:image/x;base64,{base64.b64encode(data).decode()}"
    assert data_uri_bytes(address) == data and data_uri_bytes("data:,a%20b") == b"a b"


SVGS = [
    ("<svg width='40' height='20'/>", (40, 20)), ("<svg width='40px' height='2em'/>", None), ("<svg viewBox='0 0 30 10'/>", None),
    ("<svg width='60' viewBox='0 0 30 10'/>", (60, None)), ("<?xml version='1.0'?><svg width='5' height='6'/>", (5, 6)),
]  # fmt: skip


@pytest.mark.parametrize(("text", "size"), SVGS)
def test_svg_sizes(text: str, size: tuple[float, float] | None) -> None:
    """From attributes, else the ratio of the view box; entities cannot blow it up."""
    found = intrinsic_size(text.replace("<svg", "<svg xmlns='http://www.w3.org/2000/svg'").encode())
    assert found is not None
    if size is not None:
        assert (found.width, found.height) == size
    if "viewBox" in text:
        assert found.ratio == pytest.approx(3)
    bomb = b"<!DOCTYPE s [<!ENTITY a 'aaaa'><!ENTITY b '&a;&a;'>]><svg xmlns='http://www.w3.org/2000/svg' width='&b;'/>"
    assert intrinsic_size(bomb) is None or intrinsic_size(bomb).ratio is None


def test_sheets_that_stand_in_for_scripts_or_wait_in_a_template_do_not_count(page_of: PageOf) -> None:
    """noscript is not shown, nor do its styles hold; those of a template are none."""
    body = "<noscript><style>#p { width: 9px }</style></noscript><template><style>#p { width: 8px }</style></template><p id=p>"
    assert box(page_of(body, "#p { width: 70px }"), "p")[2] == 70


ADDRESSES = [
    ("a.css", "a.css"), ("./b/a.css", "b/a.css"), ("../a.css", "../a.css"), ("a%20b.css?v=3#x", "a b.css"), ("http://x.org/a.css", None),
    ("//x.org/a.css", None), ("mailto:x", None), ("", None), ("#top", None), ("/a.css", "a.css"), ("javascript:0", None),
]  # fmt: skip


@pytest.mark.parametrize(("address", "name"), ADDRESSES)
def test_addresses_are_local_files_or_nothing(tmp_path: Path, address: str, name: str | None) -> None:
    """Relative to the page; nothing over a network; queries are no part of a name."""
    found = Resources(tmp_path / "p.html").path_of(address, tmp_path)
    expected = None if name is None else (tmp_path / name).resolve()
    assert (found.resolve() if found is not None else None) == expected


NOTED = [
    ("<link rel=stylesheet href=https://x.org/a.css>", NoticeKind.REMOTE_NOT_LOADED), ("<script>1</script>", NoticeKind.SCRIPT_NOT_RUN),
    ("<link rel=stylesheet href=none.css>", NoticeKind.MISSING_FILE), ("<img src=none.png>", NoticeKind.MISSING_IMAGE),
    ("<style>@import 'none.css';</style>", NoticeKind.MISSING_FILE), ("<p style='font-family:No Such'>x", NoticeKind.MISSING_FONT),
    ("<style>p { color: red", NoticeKind.BAD_SYNTAX), ("<style>p:: { top: 0 }</style>", NoticeKind.BAD_SELECTOR),
    ("<div style='display:-webkit-box'>x</div>", NoticeKind.LAID_OUT_AS_BLOCKS),
    ("<style>@font-face { font-family: x; src: url(x) }</style>", NoticeKind.MISSING_FILE), ("<b><p>x</b>y", NoticeKind.MARKUP),
    ("<style>@container (width > 3px) { p { top: 0 } }</style>", NoticeKind.NOT_COMPUTED), ("<p style='width: 3'>x", NoticeKind.MISSING_UNIT),
]  # fmt: skip


@pytest.mark.parametrize(("body", "kind"), NOTED)
def test_what_was_not_done_is_told_with_its_place(tmp_path: Path, body: str, kind: NoticeKind) -> None:
    """File and line of each notice that has one; the page is there all the same."""
    path = tmp_path / "p.html"
    path.write_text(f"<!doctype html>\n<p>before</p>\n{body}")
    page = compute_page(assemble(read_page(path).source, Resources(path)).page, Viewport(800, 600))
    found = [n for n in page.notices if n.kind is kind]
    assert found, page.notices
    assert all(n.file == "p.html" and n.sentence for n in found) and any(n.line in (0, 3) for n in found)
    assert any(e.text_content() == "before" for e in page.elements)


LINES = [
    ("white-space: nowrap; width: 50px", 1), ("width: 50px", 4), ("white-space: pre; width: 50px", 2), ("width: 4000px", 1),
    ("white-space: pre-line; width: 4000px", 2), ("width: 0", 5), ("word-break: break-all; width: 10px", 9),
]  # fmt: skip


@pytest.mark.parametrize(("css", "least"), LINES)
def test_white_space_and_breaking(page_of: PageOf, css: str, least: int) -> None:
    """How many lines five words on two source lines take."""
    page = page_of(
        "<p id='a'>one two three\nfour five</p>", f"#a {{ margin: 0; line-height: 20px; {css} }}"
    )
    lines = box(page, "a")[3] / 20
    assert lines >= least if least > 2 else lines == least
    assert page.box_of(by_id(page, "a")) is not None


PLACED = [
    "<p>text at the end",
    "<style>p { top: 0 }",
    "<p>x</p>\n",
    "<p>x</p><!-- open",
    "<b>bold</b> tail &amp; more",
    "<p a='",
    "x\r\ny",
]


@pytest.mark.parametrize("body", PLACED)
def test_texts_know_their_places_up_to_the_very_end(tmp_path: Path, body: str) -> None:
    """Every text that stands in one piece is found again in the source, also where the file just stops."""
    path = tmp_path / "p.html"
    path.write_bytes(f"<!doctype html>{body}".encode())
    markup = assemble(read_page(path).source, Resources(path)).page.markup
    stack = [markup.root]
    while stack:
        element = stack.pop()
        for child in element.children:
            if isinstance(child, Element):
                stack.append(child)
                continue
            span = markup.places.text(child)
            assert span is not None and 0 <= span.start < span.end <= len(markup.source.text)
            raw = markup.source.text[span.start : span.end]
            assert html.unescape(raw).replace("\r\n", "\n") == child.data


OF_SHEETS = [
    # where the stylesheet lies, how it comes in, the address in it; the picture is img/p.svg, 30 px wide
    ("css/p.css", "<link rel=stylesheet href=css/p.css>", "../img/p.svg"), ("css/p.css", "<style>@import 'css/p.css';</style>", "../img/p.svg"),
    ("p.css", "<link rel=stylesheet href=p.css>", "img/p.svg"), ("a b/p.css", "<link rel=stylesheet href='a%20b/p.css'>", "../img/p.svg"),
    ("img/p.css", "<link rel=stylesheet href=img/p.css>", "p.svg"), ("img/p.css", "<link rel=stylesheet href=img/p.css>", "/img/p.svg"),
]  # fmt: skip


@pytest.mark.parametrize(("sheet", "link", "address"), OF_SHEETS)
@pytest.mark.parametrize("written", ['url("{}")', "url({})", "var(--p)"])
def test_addresses_count_from_their_stylesheet(
    tmp_path: Path, sheet: str, link: str, address: str, written: str
) -> None:
    """CSS Values 4 §4.5: not from the page; in a custom property from where that stands."""
    (tmp_path / "img").mkdir()
    picture = "<svg xmlns='http://www.w3.org/2000/svg' width='30' height='30'/>"
    (tmp_path / "img" / "p.svg").write_text(picture, encoding="utf-8")
    (tmp_path / sheet).parent.mkdir(exist_ok=True)
    css = f"p::before {{ --p: url({address}); content: {written.format(address)} }}"
    (tmp_path / sheet).write_text(css, encoding="utf-8")
    path = tmp_path / "page.html"
    path.write_text(f"<!doctype html>{link}<p>x", encoding="utf-8")
    page = load(path)
    widths = [b.rect.width / 64 for b in page.in_order if b.fragment.box.picture]
    assert widths == [30]
