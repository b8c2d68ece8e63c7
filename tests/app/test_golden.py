"""Whole screens beside small pictures of how they should be, so that one that falls apart is noticed.

A picture is 160 by 100 grey squares, each the mean of 8 by 8 px: letters may be drawn a little otherwise, rows may not be
cut, empty or elsewhere. `REDCRATE_GOLDEN=write pytest tests/app/test_golden.py` writes them anew: look at the screens first.
"""

import os
from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QImage
from pytestqt.qtbot import QtBot

from redcrate.app.bench.sides import Side
from redcrate.app.screens import bench_of
from redcrate.app.window import Window
from tests.app.conftest import click
from tests.app.pointer import press, row_of, settled

GOLDEN = Path(__file__).with_name("golden")
ACROSS, DOWN = 160, 100
SEEN = 20  # of 255: a square that is so much lighter or darker is another one
OTHERS = 0.01  # of all squares may be


def bench(qtbot: QtBot, window: Window) -> None:
    """A block is selected: its budget, its reasons, the outline."""
    click(qtbot, window, "notice")
    panel = bench_of(window).selected  # it is filled a moment later
    qtbot.waitUntil(lambda: any("560 px content" in s for s in panel.sentences()), timeout=20_000)


def findings_list(qtbot: QtBot, window: Window) -> None:
    """The list with one finding open, when its fixes are known."""
    found = bench_of(window).findings
    press(bench_of(window).side_buttons[Side.FINDINGS])
    qtbot.waitUntil(lambda: found.search.knows_all, timeout=20_000)
    press(found.list.viewport(), row_of(found.list, 0))
    qtbot.waitUntil(lambda: found.search.knows_fixes, timeout=20_000)


SCREENS = ("bench", "findings-list", "findings", "source", "widths", "diagrams")


def squares(window: Window) -> QImage:
    """The window as grey squares."""
    picture = window.grab().toImage().convertToFormat(QImage.Format.Format_Grayscale8)
    return picture.scaled(
        ACROSS, DOWN, Qt.AspectRatioMode.IgnoreAspectRatio, Qt.TransformationMode.SmoothTransformation
    )


def shades(image: QImage) -> list[int]:
    """How light each square is."""
    grey = image.convertToFormat(QImage.Format.Format_Grayscale8)
    return [grey.pixelColor(x, y).red() for y in range(grey.height()) for x in range(grey.width())]


def test_screens_look_as_they_should(qtbot: QtBot, window: Window) -> None:
    """At most one square of a hundred is another one."""
    for name in SCREENS:
        if name == "bench":
            bench(qtbot, window)
        elif name == "findings-list":
            findings_list(qtbot, window)
        else:
            press(window.buttons[name])
        settled()
        qtbot.waitUntil(lambda: bench_of(window).findings.search.knows_all, timeout=20_000)
        settled()
        now, kept = squares(window), GOLDEN / f"{name}.png"
        if os.environ.get("REDCRATE_GOLDEN") == "write":
            now.save(str(kept))
        known = shades(QImage(str(kept)))
        pairs = zip(shades(now), known, strict=True)
        others = [n for n, (a, b) in enumerate(pairs) if abs(a - b) > SEEN]
        places = sorted({(n % ACROSS * 8 // 80 * 80, n // ACROSS * 8 // 80 * 80) for n in others})
        assert len(others) <= OTHERS * len(known), f"{name} is another one near {places} (px)"
