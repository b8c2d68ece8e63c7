"""Fonts with axes: CSS Fonts 4 §2.3, §2.4, §4.3, §7.1 and §7.2."""

from functools import cache
from io import BytesIO
from pathlib import Path

import pytest
from fontTools.fontBuilder import FontBuilder
from fontTools.pens.ttGlyphPen import TTGlyphPen
from fontTools.ttLib.tables.TupleVariation import TupleVariation

from redcrate.core.page import Page
from tests.conftest import box, load


def _square(width: int) -> object:
    pen = TTGlyphPen(None)
    pen.moveTo((0, 0))
    for at in ((0, 700), (width, 700), (width, 0)):
        pen.lineTo(at)
    pen.closePath()
    return pen.glyph()


@cache
def variable(*axes: tuple[str, float, float, float]) -> bytes:
    """A font whose letters are half an em wide, and one tenth wider at the far end of each of its axes."""
    builder = FontBuilder(1000, isTTF=True)
    names = [".notdef", "space", "a"]
    builder.setupGlyphOrder(names)
    builder.setupCharacterMap({32: "space", 97: "a"})
    builder.setupGlyf({name: _square(400) for name in names})
    builder.setupHorizontalMetrics(dict.fromkeys(names, (500, 0)))
    builder.setupHorizontalHeader(ascent=800, descent=-200)
    builder.setupNameTable({"familyName": "Sway", "styleName": "Regular"})
    builder.setupFvar([(tag, low, default, high, tag) for tag, low, default, high in axes], [])
    wider = [(0, 0), (0, 0), (100, 0), (100, 0), (0, 0), (100, 0), (0, 0), (0, 0)]
    builder.setupGvar(
        {
            name: [
                TupleVariation({tag: (0.0, -1.0, -1.0) if high == default else (0.0, 1.0, 1.0)}, wider)
                for tag, _, default, high in axes
            ]
            for name in names
        }
    )
    builder.setupOS2()
    builder.setupPost()
    out = BytesIO()
    builder.font.save(out)
    return out.getvalue()


AXES = (("wght", 100, 400, 900), ("opsz", 10, 10, 30), ("slnt", -14, 0, 0), ("SWAY", 0, 0, 1))
BOLD, LARGE, SLANTED = (
    "font-weight: 900; font-size: 10px",
    "font-size: 30px",
    "font-style: italic; font-size: 10px",
)

PLACES = [
    # rule, style of the text, width of a letter in em
    ("font-weight: 100 900", "font-size: 10px", 0.5), ("font-weight: 100 900", BOLD, 0.6), ("font-weight: 100 650", BOLD, 0.55),
    ("", BOLD, 0.5), ("font-weight: 100 900", "font-size: 10px; font-weight: 650", 0.55), ("", LARGE, 0.6),
    ("", "font-size: 20px", 0.55), ("", f"{LARGE}; font-optical-sizing: none", 0.5), ("", SLANTED, 0.6),
    ("", "font-size: 10px; font-variation-settings: 'SWAY' 0.5", 0.55), ("", "font-size: 10px; font-variation-settings: 'SWAY' 9", 0.6),
    ("", "font-size: 10px; font-variation-settings: 'nope' 1", 0.5), ("", f"{LARGE}; font-variation-settings: 'opsz' 20", 0.55),
    ("", "font-variation-settings: 'SWAY' 1; font: 10px sway", 0.5), ("", "font-size: 10px; font-variation-settings: 'SWAY'", 0.5),
    ("font-weight: 100 900; src: url(sway.ttf) format('truetype-variations')", BOLD, 0.6),
]  # fmt: skip


def page_with(folder: Path, rule: str, style: str) -> Page:
    """Ten letters in the font."""
    (folder / "sway.ttf").write_bytes(variable(*AXES))
    face = f"@font-face {{ font-family: sway; src: url(sway.ttf); {rule} }}"
    path = folder / "page.html"
    text = f"<span id='d' style='font-family: sway; {style.replace(chr(39), '&#39;')}'>aaaaaaaaaa</span>"
    path.write_text(f"<!doctype html><style>{face} .h {{ }}</style>{text}", encoding="utf-8")
    return load(path)


@pytest.mark.parametrize(("rule", "style", "wide"), PLACES)
def test_places_on_axes(tmp_path: Path, rule: str, style: str, wide: float) -> None:
    """Weight within the rule's range, size and slant by themselves, and what the page asks for by tag."""
    page = page_with(tmp_path, rule, style)
    size = 30 if "30px" in style else 20 if "20px" in style else 10
    assert box(page, "d")[2] == pytest.approx(10 * wide * size, abs=0.2)
