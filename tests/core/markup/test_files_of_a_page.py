"""What a page's files hold and how they are written again: addresses, imports, encodings."""

from pathlib import Path

import pytest

from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.markup.addresses import is_remote, local_path
from redcrate.core.markup.numbers import parse_dimension, parse_integer
from redcrate.core.notices import NoticeKind
from redcrate.core.session import Session
from tests.conftest import PageOf, box, load


@pytest.mark.parametrize(
    ("address", "path", "remote"),
    [
        ("a/b.css", "a/b.css", False),
        (" a%20b.png?x#y ", "a b.png", False),
        ("file:///x.css", "/x.css", False),
        ("http://h/x.css", None, True),
        ("//h/x.css", None, True),
        ("data:text/css,a", None, False),
        ("http://[x/", None, True),
        ("a%00b", None, False),
        ("", None, False),
        ("#top", None, False),
    ],
)
def test_addresses(address: str, path: str | None, remote: bool) -> None:
    """URL Standard §4.3: what does not parse is no address, and no error."""
    assert local_path(address) == path
    assert is_remote(address) is remote


def test_numbers_in_attributes() -> None:
    """HTML Standard §2.3.4: leading digits count, other scripts' digits do not."""
    assert [parse_integer(t) for t in ("7", " -3x", "+2", "x", "²", "٣", "9" * 5000)] == [
        7, -3, 2, None, None, None, 999999999,
    ]  # fmt: skip
    assert [parse_dimension(t) for t in ("50%", "3.5", ".5px", "-1", "")] == [
        (50.0, True), (3.5, False), (0.5, False), None, None,
    ]  # fmt: skip


def site(folder: Path, **sheets: str) -> Path:
    """A page that links a.css, with these stylesheets beside it."""
    for name, css in sheets.items():
        (folder / f"{name}.css").write_text(css, encoding="utf-8")
    page = folder / "index.html"
    body = "<body style='margin:0'><div id=a>x</div>"
    page.write_text(f"<!doctype html><link rel=stylesheet href=a.css>{body}", encoding="utf-8")
    return page


def test_one_file_may_be_imported_twice(tmp_path: Path) -> None:
    """CSS Cascade 4 §2: the second import counts again, behind what stands between."""
    page = load(
        site(
            tmp_path,
            a="@import 'w.css'; @import 'v.css'; @import 'w.css';",
            w="#a { width: 100px }",
            v="#a { width: 200px }",
        )
    )
    assert box(page, "a")[2] == 100
    assert not [n for n in page.notices if n.kind is NoticeKind.MISSING_FILE]


def test_files_that_import_each_other_end(tmp_path: Path) -> None:
    """A cycle is told once and left; two imports a file do not grow without end."""
    page = load(site(tmp_path, a="@import 'b.css';", b="@import 'a.css'; #a { width: 30px }"))
    assert box(page, "a")[2] == 30
    assert any("imports itself" in n.sentence for n in page.notices)
    page = load(site(tmp_path, a="@import 'a.css'; #a { width: 31px }"))
    assert box(page, "a")[2] == 31
    assert [
        n.sentence for n in page.notices if "imports itself" in n.sentence or "deep" in n.sentence
    ] == ["Ignored: “a.css” imports itself."]
    sheets = {f"s{i}": f"@import 's{i + 1}.css'; @import 's{i + 1}.css';" for i in range(14)}
    page = load(
        site(tmp_path, a="@import 's0.css'; @import 's0.css';", **sheets, s14="#a { width: 9px }")
    )
    assert box(page, "a")[2] == 9
    assert any("too many imports" in n.sentence for n in page.notices)


def test_a_legacy_stylesheet_gets_css_escapes_and_html_its_references(tmp_path: Path) -> None:
    """What the encoding lacks is written in the language that stands around it; all else stays."""
    page = tmp_path / "index.html"
    head = '<meta charset="windows-1252"><link rel=stylesheet href=a.css><style>b::before { content: "é" }</style>'
    page.write_bytes(f"<!doctype html>{head}<p>é</p>".encode("cp1252"))
    (tmp_path / "a.css").write_bytes('p::before { content: "é" }'.encode("cp1252"))
    session = Session(page)
    for name in ("index.html", "a.css"):
        text = session.document.text(name).text
        places = [i for i, c in enumerate(text) if c == "é"]
        edits = tuple(TextEdit(name, i + 1, i + 1, "→") for i in places)
        session.editor.apply(Patch(edits, "arrows"))
    session.disk.save()
    assert (tmp_path / "a.css").read_bytes() == 'p::before { content: "é\\2192 " }'.encode("cp1252")
    saved = page.read_bytes().decode("cp1252")
    assert 'content: "é\\2192 "' in saved and "<p>é&#8594;</p>" in saved
    again = Session(page)
    told = again.views.page.styled.pseudo[
        next(k for k in again.views.page.styled.pseudo if k[0].tag == "p")
    ].content
    assert told == (("string", "é→"),)


@pytest.mark.parametrize(
    ("html", "body", "top"),
    [
        ("", "overflow: hidden", 30),
        ("", "overflow: auto", 30),
        ("overflow: hidden", "overflow: hidden", 20),
        ("overflow: auto", "overflow: auto", 20),
        ("", "overflow: visible", 30),
        ("", "display: flow-root", 20),
    ],
)
def test_body_s_overflow_is_the_window_s(page_of: PageOf, html: str, body: str, top: float) -> None:
    """CSS Overflow 3 §3.3: unless the root has one of its own, body starts no formatting context by it."""
    page = page_of(
        "<p id='p'>x</p>",
        f"html {{ {html} }} body {{ margin-top: 20px; {body} }} p {{ margin: 30px 0 }}",
    )
    found = page.box_of(page.elements[1])
    assert found is not None and found.border_box.y / 64 == top
