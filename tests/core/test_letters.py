"""Which face each letter is set in: CSS Fonts 4 §5.3, §4.5; what lines and notices make of it."""

from functools import cache
from io import BytesIO
from pathlib import Path

import pytest
from fontTools.ttLib import TTFont

from redcrate.core.layout.fragments import TextPiece
from redcrate.core.notices import NoticeKind
from redcrate.core.page import Page
from redcrate.core.text import fonts
from tests.conftest import box, by_id, load

FONTS = Path(fonts.__file__).parent / "fonts"
TALL = 3000  # font units: a face whose lines are higher than those of others


@cache
def made(name: str, without: str = "", ascent: int = 0) -> bytes:
    """A bundled font without some letters, and with another ascent."""
    font, out = TTFont(FONTS / f"Liberation{name}-Regular.ttf"), BytesIO()
    for table in font["cmap"].tables:
        for char in without:
            table.cmap.pop(ord(char), None)
    if ascent:
        font["hhea"].ascent = font["OS/2"].sTypoAscender = font["OS/2"].usWinAscent = ascent
    font.save(out)
    return out.getvalue()


def page_with(folder: Path, body: str, css: str = "") -> Page:
    """A page that brings along Few (sans without b and é), Mono, and Tall (Mono, with high lines)."""
    for name, data in (
        ("few", made("Sans", "bé")),
        ("mono", made("Mono")),
        ("tall", made("Mono", "", TALL)),
    ):
        (folder / f"{name}.ttf").write_bytes(data)
    faces = "".join(
        f"@font-face {{ font-family: {n}; src: url({n}.ttf) }}" for n in ("few", "mono", "tall")
    )
    path = folder / "page.html"
    base = "body { margin: 0; font: 20px few, mono }"
    path.write_text(f"<!doctype html><style>{faces} {base} {css}</style>{body}", encoding="utf-8")
    return load(path)


def runs(page: Page) -> list[tuple[str, str]]:
    """The pieces of text of #d with the family of each."""
    found = page.box_of(by_id(page, "d"))
    assert found is not None and found.box is not None
    pieces = [p for line in found.box.fragment.lines for p in line.content if isinstance(p, TextPiece)]
    return [(p.text, p.run.face.family) for p in pieces if p.run is not None]


@pytest.mark.parametrize(
    ("text", "expected"),
    [
        ("aca", [("aca", "few")]), ("abca", [("a", "few"), ("b", "mono"), ("ca", "few")]),
        ("ab ba", [("a", "few"), ("b", "mono"), (" ", "few"), ("b", "mono"), ("a", "few")]),
        ("ab\u0301a", [("a", "few"), ("b\u0301", "mono"), ("a", "few")]),
        ("bé", [("bé", "mono")]), ("b\u200dc", [("b\u200d", "mono"), ("c", "few")]), ("a\ue123", [("a\ue123", "few")]), ("a\u00adc", [("a\u00adc", "few")]),
    ],
)  # fmt: skip
def test_each_letter_comes_from_the_first_family_that_has_it(
    tmp_path: Path, text: str, expected: list[tuple[str, str]]
) -> None:
    """Marks stay with their letter; what is in no font stays with the first one."""
    assert runs(page_with(tmp_path, f"<p id='d'>{text}")) == expected


def test_what_stands_in_for_a_family_has_its_letters_too(tmp_path: Path) -> None:
    """Where none of the families is there."""
    page = page_with(tmp_path, "<p id='d'>a\u00a0é", "p { font-family: Nowhere }")
    assert runs(page) == [("a\u00a0é", "Liberation Serif")]


def test_its_width_is_that_of_the_face(tmp_path: Path) -> None:
    """In the sizes from content and in lines alike."""
    page = page_with(
        tmp_path, "<p><b id='a' style='font-weight: 400'>bb</b><p id='d' style='width: min-content'>b"
    )
    assert box(page, "a")[2] == pytest.approx(24, abs=0.05)
    assert box(page, "d")[2] == pytest.approx(12, abs=0.05)


@pytest.mark.parametrize(("height", "grows"), [("normal", True), ("30px", False), ("1.2", False)])
def test_a_line_of_normal_height_has_room_for_it(tmp_path: Path, height: str, grows: bool) -> None:
    """CSS Inline 3 §5.1: the inline box itself stays as the first family makes it."""
    css = f"p {{ font-family: few, tall; line-height: {height} }}"
    page = page_with(tmp_path, "<p id='a'>a<p id='b'><i id='c' style='font-style: normal'>ab</i>", css)
    assert (box(page, "b")[3] > box(page, "a")[3]) is grows
    assert box(page, "c")[3] == 22


def test_characters_that_a_face_is_meant_for(tmp_path: Path) -> None:
    """CSS Fonts 4 §4.5: the last rule that is for the character counts."""
    css = (
        "@font-face { font-family: both; src: url(few.ttf) }"
        "@font-face { font-family: both; src: url(mono.ttf); unicode-range: U+61-62, U+4?? }"
        "p { font-family: both }"
    )
    page = page_with(tmp_path, "<p id='d'>cab", css)
    assert [text for text, _ in runs(page)] == ["c", "ab"]


def test_letters_that_no_font_has_are_told(tmp_path: Path) -> None:
    """Once for the page, with the letters; not those of another family."""
    page = page_with(tmp_path, "<p>a\ue123b\ue123é\ue124<div style='display: none'><p>\ue125</div>")
    told = [n.sentence for n in page.notices if n.kind is NoticeKind.MISSING_FONT]
    assert told == [
        "no font on this machine has \ue123 \ue124: an empty box is drawn for each, so text widths may differ."
    ]


def test_heights_that_a_font_does_not_tell(tmp_path: Path) -> None:
    """As engines draw them: round letters end at a whole px, and flat ones with them."""
    font, out = TTFont(BytesIO(made("Mono"))), BytesIO()
    font["OS/2"].version = 1
    font.save(out)
    page_with(tmp_path, "")
    (tmp_path / "few.ttf").write_bytes(out.getvalue())
    css = "@font-face { font-family: old; src: url(few.ttf) } p { font-family: old; width: 10ex } #b { width: 10cap }"
    path = tmp_path / "old.html"
    path.write_text(f"<!doctype html><style>{css}</style><p id='a'>x<p id='b'>x", encoding="utf-8")
    page = load(path)
    assert (box(page, "a")[2], box(page, "b")[2]) == (90, 110)
