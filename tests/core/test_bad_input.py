"""Anything that a text file can hold is opened: a sentence, no traceback, nothing lost."""

import time
from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from redcrate.core.errors import PageNotReadable
from redcrate.core.notices import NoticeKind
from redcrate.core.page import Page
from redcrate.core.session import Session
from tests.conftest import CASES, PageOf, box, load


@pytest.mark.parametrize(
    ("make", "says"),
    [
        (lambda p: None, "no such file"),
        (lambda p: p.mkdir(), "a folder"),
        (lambda p: p.write_bytes(b"\x89PNG\r\n\x1a\n\0\0\0\rIHDR\0\0"), "not text"),
    ],
)
def test_what_cannot_be_opened_is_a_sentence(tmp_path: Path, make: object, says: str) -> None:
    """Where, what, and what to do."""
    path = tmp_path / "page.html"
    make(path)  # type: ignore[operator]
    with pytest.raises(PageNotReadable, match=says) as caught:
        Session(path)
    assert caught.value.where and caught.value.remedy


def test_an_empty_file_is_a_page(tmp_path: Path) -> None:
    """html and body, and a notice about the doctype."""
    path = tmp_path / "page.html"
    path.write_bytes(b"")
    page = load(path)
    assert [e.tag for e in page.elements] == ["html", "body"]
    assert page.notices[0].kind is NoticeKind.QUIRKS


def test_an_unclosed_brace_is_told_with_its_line(page_of: PageOf) -> None:
    """The rules before it still hold."""
    page = page_of("<div id='a'></div>", "#a { width: 70px }\n.b { color: red;\n.c { width: 1px }")
    assert box(page, "a")[2] == 70
    told = [n for n in page.notices if n.kind is NoticeKind.BAD_SYNTAX]
    assert any("not closed" in n.sentence and n.line == 2 for n in told), page.notices


@pytest.mark.parametrize(
    ("declaration", "kind"),
    [
        ("widht: 3px", NoticeKind.UNKNOWN_PROPERTY),
        ("margin: 1px, 2px", NoticeKind.COMMA_IN_SHORTHAND),
        ("width: 300", NoticeKind.MISSING_UNIT),
        ("width: wide", NoticeKind.INVALID_VALUE),
        ("zoom: 2", NoticeKind.NOT_COMPUTED),
        ("width 3px", NoticeKind.BAD_SYNTAX),
    ],
)
def test_css_mistakes_are_notices(page_of: PageOf, declaration: str, kind: NoticeKind) -> None:
    """Each kind of mistake, with file and line; the good neighbour still counts."""
    page = page_of("<div id='a'></div>", f"\n#a {{ {declaration}; height: 7px }}")
    assert box(page, "a")[3] == 7
    found = [n for n in page.notices if n.kind is kind]
    assert found and found[0].line == 2 and found[0].file == "page.html", page.notices


@pytest.mark.parametrize("body", ["<div>" * 5000 + "x", "<span>" * 3000 + "x", "<b><p>" * 300])
def test_deep_nesting(page_of: PageOf, body: str) -> None:
    """Thousands of levels are laid out, in seconds and not in minutes."""
    start = time.monotonic()
    page = page_of(body, laws=False)
    assert len(page.by_element) > 300
    assert time.monotonic() - start < 60


@pytest.mark.parametrize(
    "css",
    [
        ":root { --a: var(--b); --b: var(--a) } #a { width: var(--a) }",
        ":root { --a: 1; "
        + "".join(f"--x{i}: var(--x{i + 1}) var(--x{i + 1});" for i in range(40))
        + "}"
        "#a { width: var(--x0) }",
        "#a { width: 1e40px; margin: -1e40px; padding: 1e30% }",
        "#a { width: calc(1px / 0); height: calc(0 / 0 * 1px) }",
        "#a { width: calc(" + "(" * 400 + "1px" + ")" * 400 + ") }",
        "@import 'page.html'; @import url(nowhere.css);",
        "#a" + " > b" * 3000 + " { width: 1px }",
        "@media (min-width: ((((((1px { #a { width: 3px } }",
        "#a { font-size: 1e9px; line-height: 1e9 } html { font-size: 0 }",
    ],
)
def test_hostile_styles(page_of: PageOf, css: str) -> None:
    """Cycles, explosions, huge numbers and NaN end in a page."""
    page = page_of("<div id='a'>some <b>text</b></div>", css)
    assert abs(box(page, "a")[2]) < 2**31


@pytest.mark.parametrize("size", [(0, 0), (1, 1), (100_000, 1)])
def test_windows_of_any_size(page_of: PageOf, size: tuple[int, int]) -> None:
    """A window of no width is a page too."""
    page = page_of("<div id='a' style='width: 50vw; float: left'>text here</div>", "", *size)
    assert box(page, "a")[2] == size[0] / 2


_SOURCES = [p.read_text(encoding="utf-8") for p in sorted(CASES.glob("gen-*.html"))[::12]]


@st.composite
def mangled(draw: st.DrawFn) -> str:
    """A reference page cut, spliced, and sprinkled with rubbish."""
    text = draw(st.sampled_from(_SOURCES))
    for _ in range(draw(st.integers(1, 5))):
        at = draw(st.integers(0, len(text)))
        until = min(len(text), at + draw(st.integers(0, 120)))
        other = draw(st.sampled_from(_SOURCES))
        start = draw(st.integers(0, len(other)))
        filling = draw(st.one_of(st.text(max_size=12), st.just(other[start : start + 80])))
        text = text[:at] + filling + text[until:]
    return text


def _check_laws(page: Page) -> None:
    for placed in page.in_order:
        fragment = placed.fragment
        assert (
            fragment.width == fragment.across.content + fragment.border.across + fragment.padding.across
        )
        assert fragment.height == fragment.down.content + fragment.border.down + fragment.padding.down
        assert fragment.across.content >= 0 and fragment.down.content >= 0


@settings(max_examples=60, deadline=None, suppress_health_check=list(HealthCheck))
@given(st.one_of(mangled(), st.text(max_size=200)))
def test_any_text_opens(tmp_path: Path, text: str) -> None:
    """No exception but the documented ones; the sums of every box hold."""
    path = tmp_path / "page.html"
    path.write_bytes(text.encode("utf-8", "surrogatepass"))
    try:
        page = load(path, 800)
    except PageNotReadable:
        return
    _check_laws(page)
