"""How much of a page's markup is read: depth, attributes, comments, long texts; each with its notice."""

from pathlib import Path

import pytest

from redcrate.core.boxes.long_texts import MOST_SHOWN
from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.markup import SourceText, parse_html
from redcrate.core.markup.parser import DEEPEST_NESTING
from redcrate.core.notices import NoticeKind
from redcrate.core.session import Session
from redcrate.core.style import sheet_bounds
from tests.conftest import PageOf


def test_what_stands_too_deep_stands_beside_one_another(page_of: PageOf) -> None:
    """All of it is there, no deeper than engines let it, closed by its end tags; the page says so."""
    page = page_of("<div>" * 700 + "<p id=a>x</p>" + "</div>" * 700 + "<p id=b>y</p>", "")
    depth = max(sum(1 for _ in e.ancestors()) for e in page.elements)
    assert depth == DEEPEST_NESTING
    assert sum(e.tag == "div" for e in page.elements) == 700
    after = next(e for e in page.elements if e.id == "b")
    assert after.parent is not None and after.parent.tag == "body"
    assert next(e for e in page.elements if e.id == "a") in page.by_element
    assert any("nested more than 512 deep" in n.sentence for n in page.notices)
    sound = page_of("<div>" * 400 + "x" + "</div>" * 400, "")
    assert not [n for n in sound.notices if "deep" in n.sentence]


def test_formatting_that_is_too_deep_is_not_opened_again() -> None:
    """Else every tag after it would open hundreds of others."""
    text = "".join(f"<b id=b{n}>" for n in range(900)) + "<p>x</p>" * 50
    assert len(list(parse_html(SourceText("p", text)).root.walk())) < 900 + 50 * 2


@pytest.mark.parametrize(
    ("comment", "rest"),
    [("<!-- a -- b --->", "x"), ("<!---->", "x"), ("<!-->", "x"), ("<!--->", "x"), ("<!--a--!>", "x"), ("<!--a--", ""), ("<!--a", ""), ("<!--\n-->", "x")],
)  # fmt: skip
def test_comments_end_where_the_standard_says(comment: str, rest: str) -> None:
    """HTML Standard §13.2.5.43 and following; one that never ends takes the rest."""
    markup = parse_html(SourceText("p", f"<!doctype html><p>{comment}x<b id=t>y</b>"))
    body = markup.root.text_content()
    assert body == (f"{rest}y" if rest else "")
    if rest:
        tag = markup.start_tag(next(e for e in markup.root.walk() if e.id == "t"))
        assert tag is not None and markup.source.text[tag.start : tag.end] == "<b id=t>"


def test_many_attributes_are_all_read_and_the_first_of_a_name_counts() -> None:
    """However many there are."""
    names = " ".join(f"a{n}={n}" for n in range(3000))
    (element,) = (
        e for e in parse_html(SourceText("p", f"<p {names} a5=x a2999=y>z")).root.walk() if e.tag == "p"
    )
    assert (
        len(element.attributes) == 3000
        and element.attributes["a5"] == "5"
        and element.attributes["a2999"] == "2999"
    )


def test_a_text_that_is_too_long_is_laid_out_in_part_and_saved_whole(tmp_path: Path) -> None:
    """It says how much; an edit elsewhere loses none of it."""
    text = "<!doctype html><p>" + "word " * 60_000 + "<p id=a style='width: 9px'>x"
    (tmp_path / "p.html").write_text(text)
    session = Session(tmp_path / "p.html")
    (notice,) = (n for n in session.views.page.notices if n.kind is NoticeKind.TOO_LONG)
    assert f"300000 characters: only the first {MOST_SHOWN}" in notice.sentence
    at = text.index("9px")
    session.editor.apply(Patch((TextEdit("p.html", at, at + 1, "8"),), "an edit"))
    session.disk.save()
    assert (tmp_path / "p.html").read_text() == text.replace("9px", "8px")


def test_generated_texts_are_bounded(page_of: PageOf) -> None:
    """One by one, and all quotes and counters of a page together."""
    long = page_of("<p>x", f"p::before {{ content: '{'y' * 3000}' }}")
    assert any("has 3000 characters: only the first 1000" in n.sentence for n in long.notices)
    many = page_of(
        "<i></i>" * 900, f"i {{ quotes: '{'«' * 400}' '' }} i::before {{ content: open-quote }}"
    )
    assert any("quotes and counters have more" in n.sentence for n in many.notices)
    assert not [n for n in page_of("<q>x</q>", "").notices if n.kind is NoticeKind.TOO_LONG]


def test_a_sheet_that_is_too_long_is_read_in_part(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Up to the end of a block; an edit reads it again."""
    monkeypatch.setattr(sheet_bounds, "_MOST_BLOCKS", 300)
    css = "b{top:0}\n" * 310 + "p{width:9px}"
    (tmp_path / "s.css").write_text(f"p{{height:7px}}{css}")
    (tmp_path / "p.html").write_text("<!doctype html><link rel=stylesheet href=s.css><p>x")
    session = Session(tmp_path / "p.html")
    assert any("the stylesheet is too long" in n.sentence for n in session.views.page.notices)
    paragraph = next(e for e in session.views.page.elements if e.tag == "p")

    def size() -> tuple[float, float]:
        rect = session.views.page.by_element[paragraph].border_box
        return rect.width / 64, rect.height / 64

    assert size()[1] == 7 and size()[0] > 9
    session.editor.apply(Patch((TextEdit("s.css", 9, 10, "8"),), "an edit"))
    paragraph = next(e for e in session.views.page.elements if e.tag == "p")
    assert size()[1] == 8


DEEP = {
    "a selector": "p:not(" + ":not(" * 80 + "b" + ")" * 81 + " { height: 9px }",
    "a value": "p { height: " + "calc(" * 80 + "9px" + ")" * 80 + " }",
    "blocks": "@media all { " * 80 + "p { height: 9px }" + " }" * 80,
    "rules": "p { & { " * 80 + "height: 9px" + " } }" * 80,
    "conditions": "@supports " + "(" * 80 + "top: 0" + ")" * 80 + " { p { height: 9px } }",
    "brackets that close nothing": "p { height: " + "f( ] } " * 900 + "9px" + ")" * 900 + " }",
    "brackets in strings": "/* " + "(" * 90 + " */ p::before { content: '" + "((" * 50 + "' } p { width: 9px } p { height: " + "calc(" * 80 + "9px" + ")" * 80 + " }",
}  # fmt: skip


@pytest.mark.parametrize("case", DEEP)
def test_what_nests_too_deeply_is_one_ignored_rule(page_of: PageOf, case: str) -> None:
    """The rules before and behind it count."""
    page = page_of("<p>x", f"p {{ padding-top: 3px }} {DEEP[case]} p {{ padding-bottom: 4px }}")
    box = page.by_element[next(e for e in page.elements if e.tag == "p")]
    assert (box.padding.top, box.padding.bottom) == (192, 256) and box.content_box.height != 9 * 64
    assert page.notices
