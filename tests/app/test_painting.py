"""What is painted, pixel by pixel: surfaces, pictures, text and tints of little pages."""

import base64
from pathlib import Path

import pytest
from PyQt6.QtCore import QBuffer, QByteArray, QIODevice, QRectF
from PyQt6.QtGui import QColor, QImage, QPainter
from pytestqt.qtbot import QtBot

from redcrate.app.painting import set_lines, text
from redcrate.app.painting.page_painter import PagePainter
from redcrate.app.painting.tint import Tint, paint_tint
from redcrate.app.start import make_application
from redcrate.core.files.loading import assemble
from redcrate.core.files.resources import Resources
from redcrate.core.markup import SourceText
from redcrate.core.page import compute_page
from redcrate.core.style.media import Viewport
from redcrate.core.text import fonts


def picture(body: str, tint: Tint = Tint.OFF, scale: float = 1.0) -> QImage:
    """The page of 200 by 100 px as painted."""
    make_application()
    resources = Resources(Path("nowhere/p.html"))
    source = SourceText("p.html", f"<!doctype html><style>body{{margin:0}}</style>{body}")
    page = compute_page(assemble(source, resources).page, Viewport(200, 100))
    image = QImage(round(200 * scale), round(100 * scale), QImage.Format.Format_RGB32)
    painter = QPainter(image)
    painter.scale(scale, scale)
    PagePainter(page, resources).paint(painter, QRectF(0, 0, 200, 100), scale)
    paint_tint(painter, page, tint, QRectF(0, 0, 200, 100), scale)
    painter.end()
    return image


def data_address(colours: list[list[str]]) -> str:
    """A PNG of these pixels as a data address."""
    image = QImage(len(colours[0]), len(colours), QImage.Format.Format_RGB32)
    for y, row in enumerate(colours):
        for x, name in enumerate(row):
            image.setPixelColor(x, y, QColor(name))
    data = QByteArray()
    buffer = QBuffer(data)
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    image.save(buffer, "PNG")
    return f"data:image/png;base64,{data.toBase64().data().decode()}"


def colour_at(image: QImage, x: int, y: int) -> str:
    """The colour of a pixel."""
    return image.pixelColor(x, y).name()


def test_borders_and_backgrounds_stand_where_the_boxes_are(qtbot: QtBot) -> None:
    """Margin shows what is behind, then border, then background under padding and content."""
    css = "margin:10px;border:4px solid #aa0000;padding:6px;width:50px;height:20px;background:#00aa00"
    image = picture(f"<div style='{css}'></div>")
    row = [colour_at(image, x, 30) for x in range(100)]
    assert row[:10] == ["#ffffff"] * 10 and row[10:14] == ["#aa0000"] * 4
    assert row[14:76] == ["#00aa00"] * 62 and row[76:80] == ["#aa0000"] * 4 and row[80] == "#ffffff"


STYLES = {
    "dashed": lambda row: 0 < row.count("#aa0000") < len(row),
    "dotted": lambda row: row.count("#aa0000") < len(row) * 0.8,
    "double": lambda row: row.count("#aa0000") == len(row),
    "groove": lambda row: "#aa0000" not in row and len(set(row)) == 1,
    "inset": lambda row: "#aa0000" not in row and len(set(row)) == 1,
    "none": lambda row: set(row) == {"#ffffff"},
}


@pytest.mark.parametrize("style", STYLES)
def test_border_styles_differ(qtbot: QtBot, style: str) -> None:
    """The top border of 9 px, one row of pixels along it; double leaves its middle free."""
    image = picture(f"<div style='height:40px;border:9px {style} #aa0000'></div>")
    assert STYLES[style]([colour_at(image, x, 1) for x in range(20, 180)])
    if style == "double":
        assert colour_at(image, 100, 4) == "#ffffff" and colour_at(image, 100, 7) == "#aa0000"


def test_corners_shadows_outlines_and_opacity(qtbot: QtBot) -> None:
    """Round corners are free, a shadow lies outside, an outline takes no room, opacity lets through."""
    round_one = picture(
        "<div style='width:60px;height:60px;border-radius:30px;background:#0000aa'></div>"
    )
    assert colour_at(round_one, 1, 1) == "#ffffff" and colour_at(round_one, 30, 30) == "#0000aa"
    shadow = picture(
        "<div style='width:40px;height:40px;background:#0000aa;box-shadow:20px 5px 0 #aa0000'></div>"
    )
    assert colour_at(shadow, 50, 30) == "#aa0000" and colour_at(shadow, 20, 20) == "#0000aa"
    outline = picture(
        "<div style='margin:10px;width:40px;height:40px;outline:3px solid #aa0000;outline-offset:2px'></div>"
    )
    assert colour_at(outline, 6, 30) == "#aa0000" and colour_at(outline, 9, 30) == "#ffffff"
    faint = picture("<div style='width:40px;height:40px;background:#000000;opacity:0.5'></div>")
    assert 100 < faint.pixelColor(20, 20).red() < 155


BACKGROUNDS = [
    ("repeat", {(0, 0): 1, (12, 0): 1, (0, 12): 1, (30, 45): 1}),
    ("no-repeat", {(0, 0): 1, (12, 0): 0, (0, 12): 0}),
    ("repeat-x", {(12, 0): 1, (0, 12): 0}),
    ("no-repeat right bottom", {(0, 0): 0, (59, 49): 1, (49, 49): 0}),
    ("no-repeat 20px 50%", {(20, 20): 1, (29, 29): 1, (19, 25): 0, (25, 31): 0}),
    ("no-repeat 0 0 / 100% auto", {(59, 49): 1}),
    ("no-repeat 0 0 / contain", {(49, 49): 1, (55, 10): 0}),
    ("no-repeat 0 0 / 30px 20px", {(29, 19): 1, (31, 10): 0, (10, 21): 0}),
]


@pytest.mark.parametrize(("value", "spots"), BACKGROUNDS)
def test_background_pictures(qtbot: QtBot, value: str, spots: dict[tuple[int, int], int]) -> None:
    """A red tile of 10 px in a box of 60 by 50: repeated, placed, sized (CSS Backgrounds 3 §3.4–3.9)."""
    address = data_address([["#aa0000"] * 10] * 10)
    image = picture(f"<div style='width:60px;height:50px;background:url({address}) {value}'></div>")
    for (x, y), red in spots.items():
        assert (colour_at(image, x, y) == "#aa0000") is bool(red), (x, y)


def test_gradients_and_clips(qtbot: QtBot) -> None:
    """From left to right; and a background that stops at the content box."""
    image = picture(
        "<div style='width:100px;height:20px;background:linear-gradient(90deg, #000000, #ffffff)'></div>"
    )
    greys = [image.pixelColor(x, 10).red() for x in (5, 30, 60, 95)]
    assert greys == sorted(greys) and greys[0] < 40 and greys[-1] > 215
    clipped = picture(
        "<div style='width:20px;height:20px;padding:10px;background:#aa0000;background-clip:content-box'></div>"
    )
    assert colour_at(clipped, 20, 20) == "#aa0000" or colour_at(clipped, 5, 5) == "#ffffff"


def test_text_stands_where_it_was_measured(qtbot: QtBot) -> None:
    """Ink between the baseline and the ascent, inside the measured width; hidden text leaves none."""
    image = picture("<p style='margin:0;font:40px \"Liberation Sans\"'>HH</p>")
    ink = [(x, y) for x in range(200) for y in range(100) if image.pixelColor(x, y).red() < 90]
    assert (
        ink
        and max(x for x, _ in ink) < 58
        and min(y for _, y in ink) >= 8
        and max(y for _, y in ink) <= 38
    )
    hidden = picture("<p style='margin:0;visibility:hidden;font:40px \"Liberation Sans\"'>HH</p>")
    assert all(
        hidden.pixelColor(x, y) == QColor("#ffffff") for x in range(0, 200, 3) for y in range(0, 60, 3)
    )
    under = picture("<p style='margin:0;font:40px \"Liberation Sans\";text-decoration:underline'>HH</p>")
    assert any(under.pixelColor(28, y).red() < 90 for y in range(39, 46))


def test_pictures_fill_their_content_box(qtbot: QtBot) -> None:
    """An image at its used size; a missing one as a dashed frame."""
    address = data_address([["#aa0000", "#0000aa"]])
    image = picture(f"<img alt='' src='{address}' style='display:block;width:80px;height:40px'>")
    assert (
        colour_at(image, 10, 20) == "#aa0000"
        and colour_at(image, 70, 20) == "#0000aa"
        and colour_at(image, 85, 20) == "#ffffff"
    )
    missing = picture("<img src='none.png' style='display:block;width:80px;height:40px'>")
    assert any(colour_at(missing, x, 8) != "#ffffff" for x in range(80))


@pytest.mark.parametrize("tint", [t for t in Tint if t is not Tint.OFF])
def test_tints_follow_the_boxes(qtbot: QtBot, tint: Tint) -> None:
    """Something on every box's edge, nothing far from all boxes."""
    body = "<div style='margin:20px;width:60px;height:40px;padding:8px'><p style='margin:0;height:10px'></p></div>"
    plain, tinted = picture(body), picture(body, tint)
    assert any(
        colour_at(tinted, x, y) != colour_at(plain, x, y) for x in range(18, 24) for y in range(30, 50)
    )
    assert colour_at(tinted, 190, 95) == colour_at(plain, 190, 95)


@pytest.mark.parametrize("scale", [0.1, 0.5, 1.5, 2.0, 8.0])
def test_any_scale_paints(qtbot: QtBot, scale: float) -> None:
    """The box's corner lies at its place times the scale; text too small becomes bars."""
    image = picture("<div style='width:100px;height:50px;background:#00aa00'>text</div>", scale=scale)
    assert colour_at(image, round(99 * scale) - 1, round(45 * scale)) == "#00aa00"
    assert (
        colour_at(image, min(image.width() - 1, round(101 * scale) + 1), round(45 * scale)) == "#ffffff"
    )


def test_transformed_boxes_are_painted_where_they_go(qtbot: QtBot) -> None:
    """Turned, moved and sized, with what is inside; even from outside of what is looked at."""
    box = "<div style='width:40px;height:20px;background:#f00;{}'>{}</div>"
    image = picture(box.format("transform:translate(100px,50px)", ""))
    assert colour_at(image, 10, 10) == "#ffffff" and colour_at(image, 110, 60) == "#ff0000"
    inner = "<p style='margin:0;width:10px;height:10px;background:#00f'></p>"
    image = picture(box.format("transform-origin:0 0;translate:60px;rotate:90deg", inner))
    assert colour_at(image, 55, 5) == "#0000ff" and colour_at(image, 45, 35) == "#ff0000"
    assert colour_at(image, 65, 5) == "#ffffff"
    image = picture(box.format("margin-left:-900px;transform:translate(950px,0)", ""))
    assert colour_at(image, 60, 10) == "#ff0000"


def inked(image: QImage, left: int, top: int, right: int, bottom: int) -> int:
    """How many pixels in a rectangle are not white."""
    spots = ((x, y) for x in range(left, right) for y in range(top, bottom))
    return sum(colour_at(image, x, y) != "#ffffff" for x, y in spots)


def test_hyphens_capitals_and_pictures_that_styles_bring(qtbot: QtBot) -> None:
    """What layout makes room for is also painted there."""
    text = "<div style='font:20px/20px monospace,x;width:50px;hyphens:{}'>abc&shy;def</div>"
    hyphen = picture(text.format("manual"))
    assert inked(hyphen, 37, 0, 48, 8) == 0 and inked(hyphen, 37, 8, 48, 16) > 0
    assert inked(picture(text.format("none")), 37, 0, 48, 8) > 0  # the word goes on there: a d
    small = picture("<div style='font:40px/40px sans-serif;font-variant:small-caps'>x</div>")
    large = picture("<div style='font:40px/40px sans-serif'>X</div>")
    assert 0 < inked(small, 0, 0, 40, 40) < inked(large, 0, 0, 40, 40)
    address = data_address([["#00f"] * 8] * 8)
    image = picture(f"<style>p{{margin:0}}p::before{{content:url({address})}}</style><p>")
    assert "#0000ff" in {colour_at(image, 3, y) for y in range(20)}
    image = picture(f"<ul style='margin:0;list-style:url({address})'><li>x</ul>")
    assert "#0000ff" in {colour_at(image, 40 - 15 + 3, y) for y in range(20)}


def test_a_font_of_the_page_is_painted(qtbot: QtBot) -> None:
    """A font from the page's own data is handed to Qt as it is."""
    file = next((Path(fonts.__file__).parent / "fonts").glob("LiberationMono-Bold.ttf"))
    data = base64.b64encode(file.read_bytes()).decode()
    face = f"<style>@font-face{{font-family:Own;src:url(data:font/ttf;base64,{data})}}</style>"
    own = picture(f"{face}<div style='font:40px/40px Own'>m</div>")
    same = picture("<div style='font:bold 40px/40px Liberation Mono'>m</div>")
    assert inked(own, 0, 0, 40, 40) == inked(same, 0, 0, 40, 40) > 0


@pytest.mark.parametrize(
    ("size", "scale"), [(40, 1.0), (64, 1.0), (66, 1.0), (95, 1.0), (20, 4.0), (40, 2.0)]
)
def test_letters_of_any_size_are_painted(qtbot: QtBot, size: int, scale: float) -> None:
    """Large ones too, and those that a closer look makes large; a stem of the letter is solid."""
    image = picture(f"<p style='margin:0;font:{size}px/{size}px \"Liberation Sans\"'>I", scale=scale)
    stem = round(size * 0.14 * scale)
    assert colour_at(image, stem, round(size * 0.5 * scale)) == "#000000"


def test_what_overflows_is_clipped_where_the_style_says_so(qtbot: QtBot) -> None:
    """At the padding edge, boxes and text inside; not what another box contains, nor the shadow of the box."""
    inner = "<div style='width:90px;height:60px;background:#00f'></div>"
    box = "<div style='width:40px;height:20px;border:5px solid #f00;overflow:{}'>{}</div>"
    shown = picture(box.format("visible", inner))
    assert colour_at(shown, 80, 40) == "#0000ff"
    for value in ("hidden", "auto", "clip"):
        image = picture(box.format(value, inner))
        assert colour_at(image, 80, 40) == "#ffffff" and colour_at(image, 20, 10) == "#0000ff"
        assert colour_at(image, 47, 10) == "#ff0000"
    letters = "<span style='font:20px/20px monospace,x'>MMMMMMMM</span>"
    assert inked(picture(box.format("hidden", letters)), 50, 0, 120, 30) == 0
    out = "<b style='position:absolute;left:100px;top:50px;width:9px;height:9px;background:#00f'></b>"
    assert colour_at(picture(box.format("hidden", out)), 105, 55) == "#0000ff"
    held = box.format("hidden;position:relative", out)
    assert colour_at(picture(held), 105, 55) == "#ffffff"


def test_tables_are_painted_as_their_borders_fell_out(qtbot: QtBot) -> None:
    """The winner in the middle of the edge, no ground behind a caption, none in an empty cell that hides."""
    collapsed = picture(
        "<table style='border-collapse:collapse;border:8px solid #00f'><tr><td style='width:30px;height:20px;padding:0;"
        "border:2px solid #f00'><td style='width:30px;padding:0;border:6px solid #0a0'></table>"
    )
    assert collapsed.pixelColor(4, 20) == QColor("#00f") and collapsed.pixelColor(40, 20) == QColor(
        "#0a0"
    )
    assert collapsed.pixelColor(20, 15) == QColor("#fff")
    apart = picture(
        "<table style='border-spacing:0;background:#cde'><caption style='height:20px'></caption><tr><td style='width:30px;height:20px;"
        "background:#f00'>x<td style='width:30px;background:#f00;empty-cells:hide'></table>"
    )
    assert apart.pixelColor(5, 5) == QColor("#fff") and apart.pixelColor(3, 38) == QColor("#f00")
    assert apart.pixelColor(50, 30) == QColor("#cde")


def test_a_border_stops_where_its_legend_stands(qtbot: QtBot) -> None:
    """The frame begins in the middle of the legend; its background goes on behind it."""
    css = "margin:0;padding:0;border:4px solid #aa0000;background:#00aa00"
    legend = "<legend style='padding:0;margin-left:40px;width:60px;height:20px'></legend>"
    image = picture(f"<fieldset style='{css}'>{legend}<p style='margin:0;height:30px'></p></fieldset>")
    assert [colour_at(image, 20, y) for y in (7, 8, 11, 12)] == [
        "#ffffff",
        "#aa0000",
        "#aa0000",
        "#00aa00",
    ]
    row = [colour_at(image, x, 9) for x in range(200)]
    assert row[:44] == ["#aa0000"] * 44 and row[44:104] == ["#00aa00"] * 60 and row[104] == "#aa0000"
    assert colour_at(image, 60, 7) == "#ffffff" and colour_at(image, 60, 52) == "#aa0000"


def ink(control: str) -> int:
    """How many pixels of a control are dark."""
    image = picture(f"<div style='font:10px/1 sans-serif'>{control}</div>")
    return sum(image.pixelColor(x, y).lightness() < 140 for x in range(200) for y in range(60))


@pytest.mark.parametrize(
    ("less", "more"),
    [
        ("<input type=checkbox>", "<input type=checkbox checked>"),
        ("<input type=radio>", "<input type=radio checked>"),
        ("<progress value=1 max=4></progress>", "<progress value=3 max=4></progress>"),
        ("<meter min=2 max=4 value=2.5></meter>", "<meter min=2 max=4 value=3.5></meter>"),
        ("<textarea></textarea>", "<textarea>some words</textarea>"),
        ("<textarea>some words</textarea>", "<textarea>some words\nand a line</textarea>"),
        ("<select multiple><option>One</select>", "<select multiple><option>One<option>Two</select>"),
        ("<input>", "<input placeholder=words>"),
        ("<input type=password>", "<input type=password value=abc>"),
        ("<input type=color value=#ffffff>", "<input type=color>"),
        ("", "<input type=range>"),
        ("", "<input type=file>"),
        ("<textarea>\n\n\n\n\nbelow the field</textarea>", "<textarea>\n\nin the field</textarea>"),
    ],
)
def test_controls_show_what_they_hold(qtbot: QtBot, less: str, more: str) -> None:
    """What is ticked, filled in or further along is darker."""
    assert ink(more) > ink(less)


def test_the_knob_stands_at_the_value(qtbot: QtBot) -> None:
    """A range without a value stands in the middle; values past its ends stand at them."""

    def knob(value: str) -> int:
        image = picture(f"<input type=range {value} style='margin:0'>")
        tall = [x for x in range(200) if colour_at(image, x, 1) != "#ffffff"]
        return (tall[0] + tall[-1]) // 2

    assert 60 <= knob("") <= 70
    assert knob("value=-5") < 10 and knob("min=10 max=20 value=99") > 118


def test_details_show_whether_they_are_open(qtbot: QtBot) -> None:
    """A triangle to the right, or one that points down: the widest row of ink is at its top."""

    def triangle(open_: str) -> list[int]:
        image = picture(f"<details {open_} style='font:40px/1 sans-serif'><summary></summary></details>")
        rows = [sum(colour_at(image, x, y) == "#000000" for x in range(24)) for y in range(40)]
        return [r for r in rows if r]

    shut, opened = triangle(""), triangle("open")
    assert max(shut) > shut[0] + 5 and max(shut) > shut[-1] + 5
    assert opened[0] >= max(opened) - 2 and opened[-1] < 4


SET = {
    "plain": ("<p>kale and <b>leek</b> and <i style='color:#a00'>chard</i> in rows</p>", True),
    "justified": ("<p style='text-align:justify'>kale and leek and chard and more of all in long rows</p>", True),
    "spaced": ("<p style='letter-spacing:2px;word-spacing:5px'>kale and leek</p>", True),
    "small capitals": ("<p style='font-variant:small-caps'>Kale and Leek</p>", True),
    "right to left": ("<p dir=rtl>kale and leek</p>", True),
    "hidden": ("<p>kale <b style='visibility:hidden'>and</b> leek</p>", True),
    "turned": ("<p style='transform:rotate(20deg);width:80px'>kale and leek</p>", True),
    "further down": ("<div style='margin-top:-900px'>" + "<p>kale and leek</p>" * 40 + "</div>", True),
    "one long block": ("<div style='margin-top:-900px'>" + "kale and leek and chard in rows " * 90 + "</div>", True),
    "small and large": ("<p style='font-size:6px'>kale <b style='font-size:19px'>leek</b></p>", True),
    "underlined": ("<p>kale and <u>leek</u></p>", False),
    "hyphenated": ("<p style='width:40px'>kale&shy;and&shy;leek&shy;chard</p>", False),
}  # fmt: skip


@pytest.mark.parametrize("scale", [0.3, 1.0, 3.0, 9.0])
@pytest.mark.parametrize("case", SET)
def test_text_that_was_set_once(
    qtbot: QtBot, case: str, scale: float, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Plain text is painted from glyphs that were placed once, to the dot as piece by piece; small and large alike."""
    body, plain = SET[case]
    drawn: list[int] = []
    draw = set_lines.SetLines.draw
    monkeypatch.setattr(
        set_lines.SetLines, "draw", lambda self, *a: drawn.append(len(self.lines)) or draw(self, *a)
    )
    shown = picture(body, scale=scale)
    assert bool(drawn) == (plain and scale in (1.0, 3.0))
    monkeypatch.setattr(text, "set_lines", lambda fragment: None)
    assert shown == picture(body, scale=scale)
    assert shown != picture("", scale=scale)


def test_a_line_that_is_taller_than_the_sheet(qtbot: QtBot) -> None:
    """It begins far above and ends far below, and is seen."""
    line = "<p style='font:520px/1 Liberation Sans;margin:-205px 0 0;color:{}'>kale</p>"
    seen = picture(line.format("#000"), scale=0.1)
    assert seen != picture(line.format("transparent"), scale=0.1)
