"""Pages with no doctype or an old one: HTML Standard §13.2.6.4.1 and the Quirks Mode Standard."""

from pathlib import Path

import pytest

from redcrate.core.explain.down import down
from redcrate.core.markup.elements import DocumentMode
from redcrate.core.notices import NoticeKind
from redcrate.core.page import Page
from tests.conftest import box, by_id, load
from tests.laws import check_laws

NEW, NONE = "<!doctype html>", ""
OLD = '<!DOCTYPE html PUBLIC "-//W3C//DTD HTML 3.2 Final//EN">'
HALF = '<!DOCTYPE html PUBLIC "-//W3C//DTD XHTML 1.0 Transitional//EN" "http://www.w3.org/TR/xhtml1/DTD/xhtml1-transitional.dtd">'


def page_with(folder: Path, doctype: str, body: str, css: str = "") -> Page:
    """A page that begins with that doctype, in a window of 800 by 600 px."""
    path = folder / "page.html"
    sheet = f"<style>body {{ margin: 0; font: 16px/20px 'Liberation Sans' }} {css}</style>"
    path.write_text(f"{doctype}<html><head>{sheet}</head><body id='body'>{body}</body></html>", "utf-8")
    page = load(path, 800, 600)
    check_laws(page)
    return page


@pytest.mark.parametrize(
    ("doctype", "mode"),
    [
        (NEW, DocumentMode.NO_QUIRKS),
        (NONE, DocumentMode.QUIRKS),
        (OLD, DocumentMode.QUIRKS),
        (HALF, DocumentMode.LIMITED_QUIRKS),
        ("<!DOCTYPE HTML PUBLIC '-//W3C//DTD HTML 4.01//EN' 'http://www.w3.org/TR/html4/strict.dtd'>", DocumentMode.NO_QUIRKS),
    ],
)  # fmt: skip
def test_the_doctype_decides_and_it_is_told(tmp_path: Path, doctype: str, mode: DocumentMode) -> None:
    """The mode of the page, with a notice where it is not the usual one."""
    page = page_with(tmp_path, doctype, "<p id='p'>x")
    assert page.style_of(by_id(page, "p")).document_mode is mode
    told = [n for n in page.notices if n.kind is NoticeKind.QUIRKS]
    assert bool(told) is (mode is not DocumentMode.NO_QUIRKS)


@pytest.mark.parametrize(
    ("body", "css", "ident", "side", "new", "half", "old"),
    [
        # §3.6, §3.7: html and body fill the window
        ("", "", "body", 3, 0, 0, 600),
        # §3.5: percentage heights look through boxes of automatic height
        ("<div><p id='p'></p></div>", "p { height: 50%; margin: 0 }", "p", 3, 0, 0, 300),
        # §3.3: a line counts only what has text of its own
        ("<div id='d'><u></u></div>", "u { display: inline-block; width: 5px; height: 5px }", "d", 3, 20, 5, 5),
        # §3.2: lengths without a unit
        ("<p id='p'></p>", "p { width: 70; margin: 0 }", "p", 2, 800, 800, 70),
        # HTML Standard §15.3.10: the margin of what comes first in the body is dropped when the style sheet gives none
        ("<p id='p'>x</p>", "", "p", 1, 16, 16, 0),
        ("<table><td id='t'><p>x</p></table>", "td { padding: 0 } p { line-height: 20px }", "t", 3, 52, 52, 20),
        ("<table><tr><td id='t'>x</table>", "body { font-size: 30px; line-height: normal } td { padding: 0 }", "t", 3, 34, 34, 18),
    ],
)  # fmt: skip
def test_what_the_modes_change(
    tmp_path: Path, body: str, css: str, ident: str, side: int, new: float, half: float, old: float
) -> None:
    """x, y, width or height of a box in the three modes."""
    found = [box(page_with(tmp_path, d, body, css), ident)[side] for d in (NEW, HALF, NONE)]
    assert found == [new, half, old]


def test_colours_without_a_sign(tmp_path: Path) -> None:
    """§3.1: three or six digits are a colour in quirks mode, of named properties only."""
    css = "p { background-color: ff8800; border: 1px solid 00f }"
    for doctype, colour in ((NEW, None), (NONE, (255, 136, 0))):
        page = page_with(tmp_path, doctype, "<p id='p'></p>", css)
        value = page.style_of(by_id(page, "p")).background_color
        found = (
            (value.red, value.green, value.blue) if not isinstance(value, str) and value.alpha else None
        )
        assert found == colour


@pytest.mark.parametrize(
    ("body", "height"),
    [
        ("<h1>a</h1>", 30.71875), ("<!-- c --> <style></style><h1>a</h1>", 30.71875), ("x<h1>a</h1>", 61.4375), ("<i></i><h1>a</h1>", 30.71875),
        ("<div><h1>a</h1></div>", 30.71875), ("<section>a</section>", 52), ("<p>a<p>", 20), ("<ul>a</ul>", 36),
        ("a<ul></ul>", 20), ("a<ul style='margin-top: 7px'></ul>", 36), ("a<p style='margin-bottom: 9px'>b", 65),
        ("<pre>a</pre>", 20), ("<div style='padding-top: 1px'><p>a</div>", 37), ("<div style='float: left'></div><p>a", 20),
        ("<div style='margin-top: 4px'><p>a</div>", 24), ("<blockquote>a</blockquote>", 36),
    ],
)  # fmt: skip
def test_default_margins_at_the_edges_of_a_cell(tmp_path: Path, body: str, height: float) -> None:
    """HTML Standard §15.3.10, as engines do it: they do not count there; the lower ones of headings and lists do."""
    css = "td { padding: 0; line-height: 20px } section { margin: 16px 0 } h1 { font-size: 16px }"
    page = page_with(tmp_path, NONE, f"<table cellspacing=0><td id='t'>{body}</table>", css)
    assert box(page, "t")[3] == height


def test_a_default_margin_that_does_not_count_says_so(tmp_path: Path) -> None:
    """In the sum of the heights, and not where a rule gives the margin."""
    page = page_with(tmp_path, NONE, "<p id='a'>a</p><p id='b'>b</p>")
    first, second = (down(page, by_id(page, i)).reasons for i in "ab")
    assert any("in quirks mode" in r.sentence for r in first)
    assert not any("in quirks mode" in r.sentence for r in second)


@pytest.mark.parametrize(
    ("body", "height"),
    [
        ("<p><s>a</s><br>b", 30), ("<p><s>a</s><br><s>b</s>", 20), ("<p><br>b", 40), ("<p><s>a<br></s>", 10),
        ("<li><s>a</s><br><s>b</s>", 40), ("<li><s>a<br>b</s>", 30), ("<li><img>", 20), ("<li><u><s>a</s><br><s>b</s></u>", 40),
    ],
)  # fmt: skip
def test_the_lines_that_count(tmp_path: Path, body: str, height: float) -> None:
    """Quirks Mode Standard §3.3: a forced break counts where nothing stands before it; in list items more does."""
    css = "p, li { margin: 0 } s { font: 8px/10px 'Liberation Sans' } img { width: 2px; height: 2px }"
    page = page_with(tmp_path, NONE, f"<div id='d'>{body}</div>", css)
    assert box(page, "d")[3] == height
