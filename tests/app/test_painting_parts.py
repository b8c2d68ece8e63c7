"""Parts of painting that a small picture of a page hardly shows: mixing, tiles, marks, and where borders meet."""

import base64

import numpy
import pytest
from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QColor, QImage, QPainter

from redcrate.app.painting import border_images, emphasis_marks
from redcrate.app.painting.blending import NON_SEPARABLE, blended
from redcrate.app.painting.dots import line_on_dots
from redcrate.app.painting.glyphs import Spacing
from redcrate.app.painting.pixels import image_of, pixels_of
from redcrate.core.text.fonts import choose_font
from redcrate.core.text.shaping import shape
from tests.app.test_painting import colour_at, picture
from tests.core.test_variable_fonts import variable


def dot(colour: QColor) -> QImage:
    """A picture of one dot."""
    image = QImage(1, 1, QImage.Format.Format_ARGB32_Premultiplied)
    image.fill(colour)
    return image


def laid_over(
    top: QImage, under: QImage
) -> "numpy.ndarray[tuple[int, ...], numpy.dtype[numpy.float64]]":
    """The dot that is seen: blue, green, red, alpha."""
    above, below = pixels_of(top)[0, 0], pixels_of(under)[0, 0]
    seen: numpy.ndarray[tuple[int, ...], numpy.dtype[numpy.float64]] = above + below * (1 - above[3])
    return seen


@pytest.mark.parametrize("mode", NON_SEPARABLE)
def test_what_is_mixed_hangs_on_how_much_is_behind(mode: str) -> None:
    """Compositing 1 §10: over nothing the colour stays; over a backdrop of half strength half of it does."""
    source = dot(QColor(200, 40, 90))
    nothing, whole = dot(QColor(0, 0, 0, 0)), dot(QColor(30, 160, 60))
    alone = pixels_of(blended(source, nothing, mode))[0, 0]
    assert numpy.abs(alone - pixels_of(source)[0, 0]).max() < 0.01
    mixed = laid_over(blended(source, whole, mode), whole)
    half = laid_over(blended(source, dot(QColor(30, 160, 60, 128)), mode), dot(QColor(30, 160, 60, 128)))
    assert numpy.abs(half - (alone + mixed) / 2).max() < 0.02 and numpy.abs(mixed - alone).max() > 0.05
    grey = numpy.array([0.11, 0.59, 0.3])  # how light blue, green and red are
    lightness = float(mixed[:3] @ grey)
    kept = source if mode == "luminosity" else whole
    assert abs(lightness - float(pixels_of(kept)[0, 0, :3] @ grey)) < 0.02


def test_pictures_come_back_from_their_dots() -> None:
    """Of any width, and with what is more or less than there is cut."""
    image = QImage(3, 2, QImage.Format.Format_ARGB32_Premultiplied)
    image.fill(QColor(10, 20, 30, 40))
    assert image_of(pixels_of(image), image) == image
    assert image_of(pixels_of(image) + 2, image).pixelColor(1, 1) == QColor("white")


@pytest.mark.parametrize(
    ("repeat", "tile", "places", "size"),
    [
        ("stretch", 30, [10], 100), ("space", 30, [12.5, 45, 77.5], 30), ("space", 130, [], 130),
        ("round", 30, [10, 10 + 100 / 3, 10 + 200 / 3], 100 / 3), ("round", 400, [10], 100),
        ("repeat", 40, [0, 40, 80], 40), ("repeat", 0, [10], 100),
    ],
)  # fmt: skip
def test_tiles_along_a_side(repeat: str, tile: float, places: list[float], size: float) -> None:
    """CSS Backgrounds 3 §6.2: in 100 px from 10 on; `space` leaves the same room before, between and behind them."""
    found, long = border_images._places(10, 100, tile, repeat)
    assert found == pytest.approx(places) and long == pytest.approx(size)


def test_marks_stand_over_letters_alone() -> None:
    """CSS Text Decoration 3 §3.1: none at spaces, punctuation, and what belongs to the letter before it; spaced as they are."""
    text = "a, \u0301b."
    run = shape(choose_font(("monospace",), 400, "normal").face, text)
    found = list(emphasis_marks._middles(run, (0, len(text)), 10, Spacing(2, 5)))
    first = run.sums[1] * 10 / run.face.upem / 2
    assert len(found) == 2 and found[0] == pytest.approx(first) and found[1] > 3 * 2 + 5 + 2 * first


def test_a_thin_shared_border_ends_at_a_wide_one() -> None:
    """CSS 2.2 §17.6.2: it does not go through it; one of the same width goes to its far edge."""
    table = "position:absolute;left:10px;top:10px;border-collapse:collapse;"
    image = picture(
        f"<table style='{table}border:8px solid #888'><tr><td style='width:30px;height:20px;padding:0;border:2px solid #000'>"
        "<td style='width:30px;padding:0;border:2px solid #000'></table>"
    )
    row = {colour_at(image, x, 15) for x in range(12, 84)}
    assert row == {"#888888"} and any(colour_at(image, x, 25) == "#000000" for x in range(30, 60))


def test_shared_borders_are_there_on_a_small_sheet() -> None:
    """Thinner than a dot, each of them is one dot wide, wherever it falls."""
    image = QImage(60, 60, QImage.Format.Format_RGB32)
    image.fill(QColor("white"))
    painter = QPainter(image)
    painter.scale(0.4, 0.4)
    seen = set()
    for at in range(20):
        line = line_on_dots(painter, QRectF(at * 5.3, 0, 1, 40))
        seen.add(round(line.width() * 0.4, 6))
    painter.end()
    assert seen == {1.0}


def test_letters_of_a_variable_font_are_painted_as_they_are_measured() -> None:
    """CSS Fonts 4 §7.2: from the outlines at their place on the axes."""
    data = base64.b64encode(variable(("wght", 100, 400, 900))).decode()
    face = f"@font-face {{ font-family: sway; src: url(data:font/ttf;base64,{data}); font-weight: 100 900 }}"
    for weight, colour in ((400, "#ffffff"), (900, "#000000")):
        style = f"margin: 0; font: {weight} 50px/100px sway"
        image = picture(f"<style>{face}</style><p style='{style}'>aa")
        assert colour_at(image, 10, 55) == "#000000"
        assert colour_at(image, 23, 55) == colour


def test_a_list_box_has_no_arrow_and_shows_what_is_chosen() -> None:
    """HTML Standard §15.5.16; a menu has one."""
    style = "margin: 0; border: 0; width: 100px; font: 16px sans-serif"
    inside = "<option>a<option selected>b"
    row = [picture(f"<select {size} style='{style}'>{inside}</select>") for size in ("size=3", "")]
    dark = [sum(colour_at(image, x, 9) != "#ffffff" for x in range(80, 100)) for image in row]
    assert dark[0] == 0 and dark[1] > 0
    assert colour_at(row[0], 60, 30) == "#cecece" and colour_at(row[0], 60, 10) == "#ffffff"
