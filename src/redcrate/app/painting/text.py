"""Paints text at the very places that layout measured: shadows, lines, letters, and an ellipsis where lines are cut."""

import math
from collections.abc import Sequence
from math import prod

from PyQt6.QtCore import QPointF, QRectF
from PyQt6.QtGui import QColor, QPainter

from redcrate.app.painting.colours import to_colour
from redcrate.app.painting.emphasis_marks import paint_marks
from redcrate.app.painting.glyphs import Spacing, draw_piece, draw_run, setting_of
from redcrate.app.painting.gradients import px
from redcrate.app.painting.set_lines import SMALLEST_TEXT, set_lines
from redcrate.app.painting.text_decorations import Decorations, paint_lines
from redcrate.core.boxes.box import Box, BoxKind
from redcrate.core.layout.fragments import Line, TextPiece
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page, PlacedBox
from redcrate.core.records import dataclass
from redcrate.core.style.colours import Colour
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.text.inline_fonts import hyphen_width, inline_font
from redcrate.core.text.shaping import shape

_BEYOND = 200  # px: how far letters may reach out of their line
_ELLIPSIS = "…"
# A soft shadow is that many see-through ones: their places, in blur radii, and their shares.
_SOFT = tuple(
    (x / 2.6, y / 2.6, share_x * share_y / 256)
    for x, share_x in enumerate((1, 4, 6, 4, 1), -2)
    for y, share_y in enumerate((1, 4, 6, 4, 1), -2)
)


@dataclass(frozen=True, slots=True)
class _Around:
    """What the text of a box stands in. blocks: those outside whose lines go through it. is_cut: by an ellipsis."""

    blocks: tuple[ComputedStyle, ...]
    inlines: dict[Box, tuple[Box, ...]]
    is_cut: bool

    def lines(self, piece: TextPiece) -> tuple[ComputedStyle, ...]:
        """The styles whose lines a piece of text has, the innermost last."""
        inner = (b.style for b in self.inlines.get(piece.box, ()) if b.style.text_decoration_line)
        return (*self.blocks, *inner)

    def opacity(self, piece: TextPiece) -> float:
        """That of all inline boxes around a piece of text."""
        return min(1.0, max(0.0, prod(b.style.opacity for b in self.inlines.get(piece.box, ()))))


def inline_boxes_around(whole: Box) -> dict[Box, tuple[Box, ...]]:
    """The inline boxes that the boxes of the lines of a block stand in, outermost first."""
    found: dict[Box, tuple[Box, ...]] = {}
    stack: list[tuple[Box, tuple[Box, ...]]] = [(c, ()) for c in whole.children]
    if whole.first_line is not None:
        stack += [(c, ()) for c in whole.first_line.children]
    while stack:
        at, around = stack.pop()
        found[at] = around
        if at.kind is BoxKind.INLINE:
            stack += [(child, (*around, at)) for child in at.children]
    return found


def paint_mask(painter: QPainter, box: PlacedBox, element: Element | None) -> None:
    """The letters of a box, or of one inline element in it, black: a background that is clipped to text shows there."""
    inlines = inline_boxes_around(box.fragment.box)
    for line in box.fragment.lines:
        for piece in line.content:
            if isinstance(piece, TextPiece):
                around = inlines.get(piece.box, ())
                if element is None or any(b.element is element for b in around):
                    _letters(painter, piece, _origin(box, piece), QColor("black"))


def _element_of(box: PlacedBox) -> Element | None:
    """The element that a box belongs to; of an anonymous one, that around it."""
    at: PlacedBox | None = box
    while at is not None and at.fragment.box.element is None:
        at = at.container
    return None if at is None else at.fragment.box.element


class TextPainter:
    """Paints the lines of the boxes of one page."""

    def __init__(self, page: Page) -> None:
        self._decorations = Decorations(page)
        self._inlines: dict[Box, dict[Box, tuple[Box, ...]]] = {}  # by the box of the block

    def paint(self, painter: QPainter, box: PlacedBox, span: tuple[float, float], scale: float) -> None:
        """The text of a box. span: the heights of the page between which lines are painted, px."""
        above, below = span[0] - _BEYOND, span[1] + _BEYOND
        is_cut = _is_cut(box)
        around = self._decorations.of(_element_of(box))
        if not is_cut and not around:
            plain = set_lines(box.fragment)
            if plain is not None and plain.fits(painter, scale):
                plain.draw(painter, box.rect.x / 64, box.rect.y / 64, above, below)
                return
        whole = box.fragment.box
        inlines = self._inlines.get(whole)
        if inlines is None:
            inlines = self._inlines[whole] = inline_boxes_around(whole)
        for line in box.fragment.lines:
            top = (box.rect.y + line.y) / 64
            if above <= top + line.height / 64 and top <= below:
                self._line(painter, box, line, _Around(around, inlines, is_cut), scale)

    def _line(
        self, painter: QPainter, box: PlacedBox, line: Line, around: "_Around", scale: float
    ) -> None:
        pieces = [p for p in line.content if isinstance(p, TextPiece)]
        end = _room_for_ellipsis(box, pieces) if around.is_cut else math.inf
        for piece in pieces:
            shown = _shortened(piece, end, box)
            if shown is None:
                continue
            before = painter.opacity()
            painter.setOpacity(before * around.opacity(piece))
            self._piece(painter, shown, _origin(box, shown), around.lines(piece), scale)
            painter.setOpacity(before)
        if end < math.inf:
            _ellipsis(painter, box, pieces, end)

    def _piece(
        self,
        painter: QPainter,
        piece: TextPiece,
        at: QPointF,
        decorating: Sequence[ComputedStyle],
        scale: float,
    ) -> None:
        """A run of text with its shadows and lines. at: where its baseline begins, px."""
        style = piece.box.style
        if style.visibility != "visible" or piece.run is None or not piece.text:
            return
        if style.font_size * scale < SMALLEST_TEXT:
            _grey_bar(painter, piece, at)
            return
        for shadow in reversed(style.text_shadow):
            shade = (
                to_colour(shadow.colour) if isinstance(shadow.colour, Colour) else to_colour(style.color)
            )
            _shadow(
                painter, piece, at + QPointF(px(shadow.x, 0), px(shadow.y, 0)), px(shadow.blur, 0), shade
            )
        size, spacing = setting_of(piece)
        run = (piece.run, (piece.start, piece.end), size, spacing)
        place = QRectF(at.x(), at.y(), piece.width / 64, 0)
        for one in decorating:
            paint_lines(painter, one, place, run, over=False)
        _letters(painter, piece, at, to_colour(style.color))
        if style.text_emphasis_style:
            paint_marks(painter, style, piece.run, (piece.start, piece.end), (size, spacing), at)
        for one in decorating:
            paint_lines(painter, one, place, None, over=True)


def _origin(box: PlacedBox, piece: TextPiece) -> QPointF:
    return QPointF((box.rect.x + piece.x) / 64, (box.rect.y + piece.baseline) / 64)


def _letters(painter: QPainter, piece: TextPiece, at: QPointF, shade: QColor) -> None:
    """The letters alone, with the hyphen of a word that is broken."""
    if piece.run is None:
        return
    size, spacing = setting_of(piece)
    painter.setPen(shade)
    draw_piece(painter, piece.run, (piece.start, piece.end), size, spacing, at)
    if piece.hyphen:
        end = at.x() + (piece.width - hyphen_width(piece.box.style)) / 64
        draw_run(painter, shape(piece.run.face, piece.hyphen), end, at.y(), size)


def _grey_bar(painter: QPainter, piece: TextPiece, at: QPointF) -> None:
    """Text that is too small to be read."""
    shade = to_colour(piece.box.style.color)
    shade.setAlphaF(shade.alphaF() * 0.45)
    height = piece.box.style.font_size * 0.5
    painter.fillRect(QRectF(at.x(), at.y() - height, piece.width / 64, height * 0.8), shade)


def _shadow(painter: QPainter, piece: TextPiece, at: QPointF, blur: float, shade: QColor) -> None:
    """CSS Text Decoration 3 §4: the letters once more, soft where the shadow is blurred."""
    if blur < 0.5:
        _letters(painter, piece, at, shade)
        return
    for x, y, share in _SOFT:
        thin = QColor(shade)
        thin.setAlphaF(shade.alphaF() * share)
        _letters(painter, piece, at + QPointF(x * blur, y * blur), thin)


# -- lines that are cut: CSS Overflow 3 §5.1


def _is_cut(box: PlacedBox) -> bool:
    style: ComputedStyle = box.fragment.box.style
    return style.text_overflow == "ellipsis" and style.overflow_x != "visible"


def _room_for_ellipsis(box: PlacedBox, pieces: list[TextPiece]) -> float:
    """Where the ellipsis begins, px of the page; infinite where the line fits."""
    edge = box.content_rect.right
    if not any(box.rect.x + p.x + p.width > edge for p in pieces):
        return math.inf
    return max(box.content_rect.x / 64, edge / 64 - _ellipsis_width(box.fragment.box.style))


def _ellipsis_width(style: ComputedStyle) -> float:
    font = inline_font(style)
    return shape(font.face, _ELLIPSIS).sums[-1] * style.font_size / font.face.upem


def _shortened(piece: TextPiece, end: float, box: PlacedBox) -> TextPiece | None:
    """The characters of a piece that end in front of a place; None where none do."""
    left = (box.rect.x + piece.x) / 64
    if left + piece.width / 64 <= end or piece.run is None:
        return piece
    size, spacing = setting_of(piece)
    last = piece.start
    while last < piece.end and left + _advance(piece, last + 1, size, spacing) <= end:
        last += 1
    if last == piece.start:
        return None
    kept = piece.text[: last - piece.start]
    width = _advance(piece, last, size, spacing)
    return TextPiece(
        piece.box, piece.x, piece.y, type(piece.width)(width * 64), piece.height, piece.baseline, kept,
        piece.run, piece.start, last, piece.expansion, piece.scale,
    )  # fmt: skip


def _advance(piece: TextPiece, last: int, size: float, spacing: Spacing) -> float:
    """How wide the characters up to one are, px."""
    run = piece.run
    assert run is not None
    wide = (run.sums[last] - run.sums[piece.start]) * size / run.face.upem
    return (
        wide
        + spacing.letter * (last - piece.start)
        + spacing.space * run.text.count(" ", piece.start, last)
    )


def _ellipsis(painter: QPainter, box: PlacedBox, pieces: list[TextPiece], end: float) -> None:
    """Behind the last character that is left."""
    style = box.fragment.box.style
    shown = [s for p in pieces if (s := _shortened(p, end, box)) is not None]
    x = max(((box.rect.x + s.x + s.width) / 64 for s in shown), default=box.content_rect.x / 64)
    baseline = (box.rect.y + pieces[0].baseline) / 64
    painter.setPen(to_colour(style.color))
    draw_run(painter, shape(inline_font(style).face, _ELLIPSIS), x, baseline, style.font_size)
