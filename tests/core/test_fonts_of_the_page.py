"""Fonts that a page brings along: CSS Fonts 4 §4 and §5.2."""

import base64
from functools import cache
from io import BytesIO
from pathlib import Path

import pytest
from fontTools.ttLib import TTFont

from redcrate.core.files.resources import Resources
from redcrate.core.page import Page
from redcrate.core.style.font_faces import WebFace, WebFamily
from redcrate.core.text import fonts
from tests.conftest import box, load

FONTS = Path(fonts.__file__).parent / "fonts"
MONO = FONTS / "LiberationMono-Regular.ttf"
WIDE = 10 * 20 * 0.6 + 0.05  # ten characters of 20 px; those of the serif font are half as wide


@cache
def packed(flavor: str, source: Path = MONO) -> bytes:
    """A font in a format of the web."""
    font, out = TTFont(source), BytesIO()
    font.flavor = flavor
    font.save(out)
    return out.getvalue()


def page_with(folder: Path, css: str, family: str = "Own, serif") -> Page:
    """Ten letters in the family, in a page whose stylesheet is in a folder of its own."""
    (folder / "css").mkdir(exist_ok=True)
    (folder / "css" / "p.css").write_text(css, encoding="utf-8")
    path = folder / "page.html"
    text = f"<span id='d' style='font: 20px {family}'>iiiiiiiiii</span>"
    path.write_text(f"<!doctype html><link rel=stylesheet href=css/p.css>{text}", encoding="utf-8")
    return load(path)


def is_mono(page: Page) -> bool:
    """Whether the letters are as wide as those of the font that is brought along."""
    return box(page, "d")[2] == pytest.approx(WIDE, abs=0.1)


SOURCES = [
    # file, src, is it found
    ("a.ttf", "url(a.ttf)", True), ("a.woff", "url('a.woff') format('woff')", True),
    ("a.woff2", "url(a.woff2?v=3#x) format(woff2)", True), ("a.ttf", "url(no.woff2), url(a.ttf)", True),
    ("a.ttf", "url(a.eot) format('embedded-opentype'), url(a.ttf) format('truetype')", True),
    ("a.ttf", "local('Some Font'), url(a.ttf)", True), ("a.ttf", "url(a.ttf) format('svg')", False),
    ("a.ttf", "url(no.ttf)", False), ("a.woff2", "url(https://x.test/a.woff2)", False), ("bad.woff2", "url(bad.woff2)", False),
    ("bad.ttf", "url(bad.ttf)", False),
]  # fmt: skip


@pytest.mark.parametrize(("name", "src", "found"), SOURCES, ids=[s[1] for s in SOURCES])
def test_sources(tmp_path: Path, name: str, src: str, found: bool) -> None:
    """The first source that is there and can be read; addresses count from the stylesheet."""
    (tmp_path / "css").mkdir()
    ending = name.rpartition(".")[2]
    data = MONO.read_bytes() if ending == "ttf" else packed(ending)
    if name.startswith("bad"):
        data = data[:200] + b"no font at all"
    (tmp_path / "css" / name).write_bytes(data)
    page = page_with(tmp_path, f"@font-face {{ font-family: Own; src: {src} }}")
    assert is_mono(page) == found
    told = [n for n in page.notices if "could not be loaded" in n.sentence]
    assert bool(told) != found and all(n.file == "css/p.css" and n.line == 1 for n in told)


def test_a_font_in_the_stylesheet_itself(tmp_path: Path) -> None:
    """A data address; the last src counts, names of families have no case."""
    data = base64.b64encode(packed("woff2")).decode()
    css = (
        f"@font-face {{ font-family: 'oWn'; src: url(x.eot); src: url(data:font/woff2;base64,{data}) }}"
    )
    assert is_mono(page_with(tmp_path, css))
    assert not is_mono(page_with(tmp_path, css, "Other, serif"))


def test_descriptors_choose_the_face(tmp_path: Path) -> None:
    """Of faces for other characters that with Latin letters counts; a rule without a family is none."""
    (tmp_path / "css").mkdir()
    (tmp_path / "css" / "m.ttf").write_bytes(MONO.read_bytes())
    (tmp_path / "css" / "s.ttf").write_bytes((FONTS / "LiberationSans-Regular.ttf").read_bytes())
    faces = ("@font-face { font-family: Own; src: url(m.ttf); unicode-range: U+0-FF, U+2000 }"
             "@font-face { font-family: Own; src: url(s.ttf); unicode-range: U+4?? }")  # fmt: skip
    assert is_mono(page_with(tmp_path, faces))
    assert not is_mono(page_with(tmp_path, "@font-face { src: url(m.ttf) }"))


def face(low: int, high: int, *, italic: bool = False) -> WebFace:
    """A face of those weights."""
    return WebFace(f"{low}{italic}", b"", (low, high), italic)


NEAREST = [
    # weights there are, weight asked for, weight that is taken
    ((400, 700), 400, 400), ((400, 700), 600, 700), ((300, 700), 400, 300), ((300, 500, 700), 400, 500),
    ((300, 600), 450, 300), ((600, 900), 450, 600), ((100, 300), 200, 100), ((300, 500), 200, 300),
    ((400, 800), 700, 800), ((300, 500), 400, 500), ((500, 600), 400, 500), ((600, 300), 450, 300), ((500, 800), 600, 800),
    ((300, 200), 350, 300), ((100, 900), 350, 100), ((900, 501), 500, 501), ((400, 500), 700, 500), ((500,), 100, 500),
]  # fmt: skip


@pytest.mark.parametrize(("there", "wanted", "taken"), NEAREST)
def test_the_nearest_weight(there: tuple[int, ...], wanted: int, taken: int) -> None:
    """CSS Fonts 4 §5.2: in 400 to 500 first up to 500, then lighter; else in the direction asked for."""
    found = WebFamily("x", [face(w, w) for w in there]).face(wanted, italic=False)
    assert found is not None and found.weights[0] == taken


def test_slant_comes_before_weight_and_ranges_hold_weights() -> None:
    """An upright face of the right weight is no substitute for a slanted one."""
    family = WebFamily("x", [face(700, 700), face(300, 300, italic=True), face(100, 600)])
    slanted, upright = family.face(700, italic=True), family.face(550, italic=False)
    assert slanted is not None and slanted.italic
    assert upright is not None and upright.weights == (100, 600)
    assert family != "x" and family == WebFamily("x", family.faces) and len({family, "x"}) == 2


def test_a_font_file_that_changes_is_read_again(tmp_path: Path) -> None:
    """And only then: what was unpacked is kept with how the file was."""
    path = tmp_path / "a.woff2"
    resources = Resources(tmp_path / "page.html")
    assert resources.font("a.woff2") is None
    path.write_bytes(packed("woff2"))
    first = resources.font("a.woff2")
    assert first is not None and resources.font("a.woff2") is first
    path.write_bytes(packed("woff2", FONTS / "LiberationSans-Regular.ttf"))
    second = resources.font("a.woff2")
    assert second is not None and second.name != first.name
