"""Small pages of all that is painted: beside pictures of how they should be, and beside a browser where one is installed.

`REDCRATE_GOLDEN=write pytest tests/app/test_painted_pages.py` writes the pictures anew: look at them, and at a browser, first.
"""

import os
from pathlib import Path

import numpy
import pytest
from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QImage, QPainter
from pytestqt.qtbot import QtBot

from redcrate.app.painting.page_painter import PagePainter
from redcrate.app.start import make_application
from redcrate.core.files.resources import Resources
from redcrate.core.files.trial import Trial
from redcrate.core.proof.proving import Wish
from redcrate.core.proof.warm import WarmBrowser
from redcrate.core.style.media import Viewport

PAGES = sorted((Path(__file__).parent / "painted").glob("*.html"))
WIDTH, HEIGHT = 400, 240
SEEN = 40  # of 255: a dot that is so much lighter or darker is another one
OTHERS = {
    "golden": 0.002,
    "browser": 0.02,
}  # of all dots may be: letters and edges are smoothed in other ways


def painted(path: Path) -> QImage:
    """The page as it is painted here."""
    make_application()
    page = Trial.of_file(path).page(Viewport(WIDTH, HEIGHT))
    image = QImage(WIDTH, HEIGHT, QImage.Format.Format_RGB32)
    image.fill(QColor("white"))
    painter = QPainter(image)
    PagePainter(page, Resources(path)).paint(painter, QRectF(0, 0, WIDTH, HEIGHT), 1.0)
    painter.end()
    return image


def dots(image: QImage) -> "numpy.ndarray[tuple[int, ...], numpy.dtype[numpy.float64]]":
    """The picture at half its size, so that the smoothing of edges counts little."""
    half = image.scaled(
        WIDTH // 2,
        HEIGHT // 2,
        Qt.AspectRatioMode.IgnoreAspectRatio,
        Qt.TransformationMode.SmoothTransformation,
    ).convertToFormat(QImage.Format.Format_RGB888)
    bits = half.constBits()
    assert bits is not None
    flat = numpy.frombuffer(bits.asstring(half.sizeInBytes()), numpy.uint8)
    rows = flat.reshape(half.height(), half.bytesPerLine())[:, : 3 * half.width()]
    return rows.reshape(half.height(), half.width(), 3).astype(float)


def others(one: QImage, two: QImage) -> float:
    """The share of dots that are other ones."""
    apart = numpy.abs(dots(one) - dots(two)).max(axis=2)
    return float((apart > SEEN).mean())


@pytest.mark.parametrize("path", PAGES, ids=lambda p: p.stem)
def test_they_look_as_they_should(qtbot: QtBot, path: Path) -> None:
    """Grounds, borders, text and vectors, each feature of them large enough to be missed."""
    now, kept = painted(path), path.with_suffix(".png")
    if os.environ.get("REDCRATE_GOLDEN") == "write":
        now.save(str(kept))
    assert others(now, QImage(str(kept))) <= OTHERS["golden"]


@pytest.mark.parametrize("path", PAGES, ids=lambda p: p.stem)
def test_a_browser_paints_the_same(qtbot: QtBot, browser: WarmBrowser, path: Path) -> None:
    """Up to the smoothing of letters and edges."""
    proof = browser.prove(Trial.of_file(path), Wish((WIDTH,), HEIGHT, pictures=True))
    there = QImage.fromData(proof.pictures[0]).copy(0, 0, WIDTH, HEIGHT)
    assert others(painted(path), there) <= OTHERS["browser"]
