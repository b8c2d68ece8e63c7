"""The text of a box as it is set: its glyphs, placed once and painted from there as long as the box is the same.

Most text is plain; what is underlined, hyphenated, or too small or too large for glyphs is painted piece by piece.
"""

import math
from weakref import ref

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QColor, QGlyphRun, QPainter

from redcrate.app.painting.colours import to_colour
from redcrate.app.painting.dots import on_a_row
from redcrate.app.painting.glyphs import LARGEST_GLYPHS, glyph_run, setting_of
from redcrate.core.layout.forgetting import forgetting
from redcrate.core.layout.fragments import Fragment, InlinePiece, Line, TextPiece
from redcrate.core.records import dataclass
from redcrate.core.style.computed import ComputedStyle

SMALLEST_TEXT = 5.0  # px on the screen; below it text is a grey bar


@dataclass(frozen=True, slots=True)
class _SetLine:
    """One line: how far down it stands in its box, px, and its glyphs with their places and colours."""

    top: float
    bottom: float
    pieces: tuple[tuple[QGlyphRun, float, float, QColor], ...]


@dataclass(frozen=True, slots=True)
class SetLines:
    """All lines of a box. smallest, largest: font sizes in them, px."""

    smallest: float
    largest: float
    lines: tuple[_SetLine, ...]

    def draw(self, painter: QPainter, x: float, y: float, above: float, below: float) -> None:
        """Draw the lines between two heights of the page; x, y: of the box, all in px."""
        shade: QColor | None = None
        for line in self.lines:
            if y + line.bottom < above or y + line.top > below:
                continue
            for run, right, down, colour in line.pieces:
                if colour is not shade:
                    painter.setPen(colour)
                    shade = colour
                painter.drawGlyphRun(on_a_row(painter, QPointF(x + right, y + down)), run)

    def fits(self, painter: QPainter, scale: float) -> bool:
        """Whether glyphs can show it at this scale, and under the painter's transform."""
        if self.smallest * scale < SMALLEST_TEXT:
            return False
        device = math.sqrt(abs(painter.combinedTransform().determinant()))
        return self.largest * device <= LARGEST_GLYPHS


_known: dict[ref[Fragment], SetLines | None] = {}
_forget = forgetting(_known)


def set_lines(fragment: Fragment) -> SetLines | None:
    """The text of a box, set; None where some of it is not plain, or there is none."""
    key = ref(fragment, _forget)
    if key not in _known:
        _known[key] = _set(fragment.lines)
    return _known[key]


def _is_plain(style: ComputedStyle) -> bool:
    return not style.text_decoration_line and style.opacity >= 1


def _set(lines: tuple[Line, ...]) -> SetLines | None:
    sizes: list[float] = []
    found: list[_SetLine] = []
    shades: dict[object, QColor] = {}
    for line in lines:
        if any(isinstance(p, InlinePiece) and not _is_plain(p.box.style) for p in line.content):
            return None
        texts = [piece for piece in line.content if isinstance(piece, TextPiece)]
        pieces: list[tuple[QGlyphRun, float, float, QColor]] = []
        for piece in texts:
            style = piece.box.style
            if piece.hyphen or style.text_shadow or style.text_emphasis_style or not _is_plain(style):
                return None
            if style.visibility != "visible" or piece.run is None or not piece.text:
                continue
            if piece.run.face.variations:
                return None
            size, spacing = setting_of(piece)
            run = glyph_run(piece.run, (piece.start, piece.end), size, spacing)
            shade = shades.setdefault(style.color, to_colour(style.color))
            pieces.append((run, piece.x / 64, piece.baseline / 64, shade))
            sizes.append(style.font_size)
        found.append(_SetLine(line.y / 64, (line.y + line.height) / 64, tuple(pieces)))
    return SetLines(min(sizes), max(sizes), tuple(found)) if sizes else None
