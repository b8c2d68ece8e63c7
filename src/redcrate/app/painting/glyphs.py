"""Draws glyphs from the very outlines that layout measured."""

import math
from bisect import bisect_left
from functools import lru_cache
from operator import le
from typing import NamedTuple

from PyQt6.QtCore import QByteArray, QPointF, Qt
from PyQt6.QtGui import QFont, QGlyphRun, QPainter, QPainterPath, QRawFont

from redcrate.app.painting.dots import on_a_row
from redcrate.core.layout.fragments import TextPiece
from redcrate.core.text.fonts import FontFace
from redcrate.core.text.shaping import Glyph, ShapedRun

LARGEST_GLYPHS = 60.0  # device px: Qt paints no glyph runs above 64


class Spacing(NamedTuple):
    """What is added to advances, px: behind each character, and at each space."""

    letter: float = 0.0
    space: float = 0.0


def setting_of(piece: TextPiece) -> tuple[float, Spacing]:
    """The size of a piece's glyphs, px, and what is added to their advances."""
    style = piece.box.style
    spacing = Spacing(style.letter_spacing, style.word_spacing + piece.expansion / 64)
    return style.font_size * piece.scale, spacing


def draw_piece(
    painter: QPainter,
    run: ShapedRun,
    piece: tuple[int, int],
    size: float,
    spacing: Spacing,
    origin: QPointF,
) -> None:
    """The characters of a piece of a run, with the pen of the painter; size in px. origin: where the baseline begins."""
    device = math.sqrt(abs(painter.combinedTransform().determinant()))
    if size * device <= LARGEST_GLYPHS and not run.face.variations:
        painter.drawGlyphRun(on_a_row(painter, origin), glyph_run(run, piece, size, spacing))
        return
    outlines = QPainterPath()
    outlines.setFillRule(Qt.FillRule.WindingFill)
    for number, place in placed_glyphs(run, piece, size, spacing):
        outlines.addPath(outline_of(run.face, size, number).translated(origin + place))
    painter.fillPath(outlines, painter.pen().color())


def draw_run(painter: QPainter, run: ShapedRun, x: float, baseline: float, size: float) -> None:
    """A whole run that begins at x."""
    draw_piece(painter, run, (0, len(run.text)), size, Spacing(), QPointF(x, baseline))


@lru_cache(maxsize=5000)
def glyph_run(run: ShapedRun, piece: tuple[int, int], size: float, spacing: Spacing) -> QGlyphRun:
    """The glyphs of a piece; the same lines are painted again and again."""
    placed = placed_glyphs(run, piece, size, spacing)
    glyphs = QGlyphRun()
    glyphs.setRawFont(_raw_font(run.face, size))
    glyphs.setGlyphIndexes([number for number, _ in placed])
    glyphs.setPositions([place for _, place in placed])
    return glyphs


def placed_glyphs(
    run: ShapedRun, piece: tuple[int, int], size: float, spacing: Spacing
) -> list[tuple[int, QPointF]]:
    """The glyphs of a piece with their places from its beginning."""
    start, end = piece
    factor, origin = size / run.face.upem, run.sums[start]
    placed: list[tuple[int, QPointF]] = []
    for glyph in _glyphs_of(run, start, end):
        if start <= glyph.cluster < end:
            x = (glyph.x - origin) * factor + spacing.letter * (glyph.cluster - start)
            if spacing.space:
                x += spacing.space * run.text.count(" ", start, glyph.cluster)
            placed.append((glyph.number, QPointF(x, -glyph.y * factor)))
    return placed


def _glyphs_of(run: ShapedRun, start: int, end: int) -> tuple[Glyph, ...]:
    """The glyphs among which those of some characters are: not all of a long text for each of its lines."""
    clusters = _clusters(run)
    if clusters is None:
        return run.glyphs
    return run.glyphs[bisect_left(clusters, start) : bisect_left(clusters, end)]


@lru_cache(maxsize=500)
def _clusters(run: ShapedRun) -> list[int] | None:
    """The characters that the glyphs of a run belong to, if they stand in their order; None for other runs."""
    clusters = [glyph.cluster for glyph in run.glyphs]
    return clusters if all(map(le, clusters, clusters[1:])) else None


@lru_cache(maxsize=2000)
def outline_of(face: FontFace, size: float, number: int) -> QPainterPath:
    """The outline of a glyph."""
    if face.variations:
        pen = _Pen(size / face.upem)
        face.hb_font.draw_glyph_with_pen(number, pen)
        return pen.path
    return _raw_font(face, size).pathForGlyph(number)


class _Pen:
    """Takes the outline that the shaper has of a glyph, with y upwards in font units, as a path in px."""

    def __init__(self, scale: float) -> None:
        self.path = QPainterPath()
        self.path.setFillRule(Qt.FillRule.WindingFill)
        self.scale = scale

    def _place(self, at: tuple[float, float]) -> QPointF:
        return QPointF(at[0] * self.scale, -at[1] * self.scale)

    def moveTo(self, at: tuple[float, float]) -> None:
        """Begin an outline."""
        self.path.moveTo(self._place(at))

    def lineTo(self, at: tuple[float, float]) -> None:
        """A straight line."""
        self.path.lineTo(self._place(at))

    def qCurveTo(self, bend: tuple[float, float], at: tuple[float, float]) -> None:
        """A curve with one handle."""
        self.path.quadTo(self._place(bend), self._place(at))

    def curveTo(self, a: tuple[float, float], b: tuple[float, float], at: tuple[float, float]) -> None:
        """A curve with two handles."""
        self.path.cubicTo(self._place(a), self._place(b), self._place(at))

    def closePath(self) -> None:
        """The end of an outline."""
        self.path.closeSubpath()


@lru_cache(maxsize=256)
def _raw_font(face: FontFace, size: float) -> QRawFont:
    hinting = QFont.HintingPreference.PreferVerticalHinting
    if face.data is not None:
        return QRawFont(QByteArray(face.data), size, hinting)
    return QRawFont(str(face.path), size, hinting)
