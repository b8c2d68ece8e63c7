"""Draws glyphs from the very outlines that layout measured."""

import math
from functools import lru_cache

from PyQt6.QtCore import QByteArray, QPointF, Qt
from PyQt6.QtGui import QFont, QGlyphRun, QPainter, QPainterPath, QRawFont

from redcrate.core.text.fonts import FontFace
from redcrate.core.text.shaping import ShapedRun

_LARGEST_GLYPHS = 60.0  # device px: Qt paints no glyph runs above 64


def draw_glyphs(
    painter: QPainter, run: ShapedRun, numbers: list[int], places: list[QPointF], size: float
) -> None:
    """Glyphs of a run at their places on the baseline, with the pen of the painter; size in px."""
    device = math.sqrt(abs(painter.combinedTransform().determinant()))
    if size * device > _LARGEST_GLYPHS:
        outlines = QPainterPath()
        outlines.setFillRule(Qt.FillRule.WindingFill)
        for number, place in zip(numbers, places, strict=True):
            outlines.addPath(_outline(run.face, size, number).translated(place))
        painter.fillPath(outlines, painter.pen().color())
        return
    glyphs = QGlyphRun()
    glyphs.setRawFont(_raw_font(run.face, size))
    glyphs.setGlyphIndexes(numbers)
    glyphs.setPositions(places)
    painter.drawGlyphRun(QPointF(0, 0), glyphs)


@lru_cache(maxsize=2000)
def _outline(face: FontFace, size: float, number: int) -> QPainterPath:
    """The outline of a glyph."""
    return _raw_font(face, size).pathForGlyph(number)


def draw_run(painter: QPainter, run: ShapedRun, x: float, baseline: float, size: float) -> None:
    """A whole run that begins at x."""
    factor = size / run.face.upem
    numbers = [g.number for g in run.glyphs]
    places = [QPointF(x + g.x * factor, baseline - g.y * factor) for g in run.glyphs]
    draw_glyphs(painter, run, numbers, places, size)


@lru_cache(maxsize=256)
def _raw_font(face: FontFace, size: float) -> QRawFont:
    hinting = QFont.HintingPreference.PreferNoHinting
    if face.data is not None:
        return QRawFont(QByteArray(face.data), size, hinting)
    return QRawFont(str(face.path), size, hinting)
