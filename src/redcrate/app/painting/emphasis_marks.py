"""Marks over or under the letters of a text: CSS Text Decoration 3 §3."""

import unicodedata
from collections.abc import Iterator

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QPainter

from redcrate.app.painting.colours import to_colour
from redcrate.app.painting.glyphs import Spacing, draw_run
from redcrate.core.style.colours import Colour
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.text.inline_fonts import inline_font
from redcrate.core.text.shaping import ShapedRun, shape

_SHARE = 0.5  # of the font size: §3.2
_WITHOUT = ("Z", "P", "Cc", "Cf", "Cn", "M")


def paint_marks(
    painter: QPainter,
    style: ComputedStyle,
    run: ShapedRun,
    piece: tuple[int, int],
    setting: tuple[float, Spacing],
    at: QPointF,
) -> None:
    """One for each letter of a piece of a run, whose baseline begins `at`, px. setting: size and spacing of the letters."""
    font = inline_font(style)
    size = style.font_size * _SHARE
    mark = shape(font.face, style.text_emphasis_style)
    metrics = font.face.metrics(size)
    if style.text_emphasis_position == "under":
        baseline = at.y() + (font.descent + metrics.ascent) / 64
    else:
        baseline = at.y() - (font.ascent + metrics.descent) / 64
    half = mark.sums[-1] * size / mark.face.upem / 2
    shade = style.text_emphasis_color
    painter.setPen(to_colour(shade if isinstance(shade, Colour) else style.color))
    for middle in _middles(run, piece, *setting):
        draw_run(painter, mark, at.x() + middle - half, baseline, size)


def _middles(run: ShapedRun, piece: tuple[int, int], size: float, spacing: Spacing) -> Iterator[float]:
    """The middles of the letters of a piece, px from its beginning.

    §3.1: spaces, punctuation, and what is not seen or is part of the letter before it have no mark.
    """
    factor, place = size / run.face.upem, 0.0
    for at in range(*piece):
        wide = (run.sums[at + 1] - run.sums[at]) * factor
        if not unicodedata.category(run.text[at]).startswith(_WITHOUT):
            yield place + wide / 2
        place += wide + spacing.letter + (spacing.space if run.text[at] == " " else 0.0)
