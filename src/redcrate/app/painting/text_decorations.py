"""Lines under, over and through text: CSS Text Decoration 3 §2, thickness and offset of its level 4."""

from collections.abc import Iterator
from functools import lru_cache
from math import ceil, floor

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPen

from redcrate.app.painting.colours import to_colour
from redcrate.app.painting.glyphs import Spacing, outline_of, placed_glyphs
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.text.fonts import FontFace
from redcrate.core.text.inline_fonts import inline_font
from redcrate.core.text.shaping import ShapedRun

_AUTO = 0.1  # of the font size: a line whose thickness nobody gives
_INK = 1.0  # px beside a letter that a line keeps clear of, at least


class Decorations:
    """Which lines a page's text has: those of the element it stands in, and of the ones around it (§2.1)."""

    def __init__(self, page: Page) -> None:
        self._styles = page.styled.styles
        self._known: dict[Element, tuple[ComputedStyle, ...]] = {}

    def of(self, element: Element | None) -> tuple[ComputedStyle, ...]:
        """The styles whose lines go through the text of an element, its own last."""
        chain: list[Element] = []
        while element is not None and element not in self._known:
            chain.append(element)
            element = element.parent
        found = () if element is None else self._known[element]
        for one in reversed(chain):
            style = self._styles.get(one)
            if style is not None:
                found = () if _stands_apart(style) else found
                found = (*found, style) if style.text_decoration_line else found
            self._known[one] = found
        return found


def _stands_apart(style: ComputedStyle) -> bool:
    """§2.1: lines do not go on into what is out of flow, or an inline box of its own."""
    out = style.float_ != "none" or style.position in ("absolute", "fixed")
    return out or style.display.startswith("inline-")


def paint_lines(
    painter: QPainter,
    style: ComputedStyle,
    place: QRectF,
    run: tuple[ShapedRun, tuple[int, int], float, Spacing] | None,
    *,
    over: bool,
) -> None:
    """The lines of one decorating box along a piece of text.

    place: from the baseline on, as wide as the piece; its height is not read. run: the glyphs, which underlines keep clear
    of. over: those over the text instead of those under it.
    """
    for name in style.text_decoration_line:
        if (name == "line-through") is not over or name not in _TOPS:
            continue
        thick = _thickness(style)
        top = place.y() + _TOPS[name](style, thick)
        spans = [(place.left(), place.right())]
        if name == "underline" and run is not None and style.text_decoration_skip_ink != "none":
            spans = list(_clear_of(run, place, top, thick))
        for start, end in spans:
            _line(painter, style, (start, end, top), thick)


def _thickness(style: ComputedStyle) -> float:
    """Level 4 §2.3: px; what is not given follows the font size."""
    given = style.text_decoration_thickness
    if isinstance(given, str):
        return max(1.0, style.font_size * _AUTO)
    return max(1.0, floor(given.resolve_px(style.font_size) + 0.5))


def _under(style: ComputedStyle, thick: float) -> float:
    given = style.text_underline_offset
    if isinstance(given, str):
        return max(1.0, ceil(thick / 2))
    return given.resolve_px(style.font_size)


def _over(style: ComputedStyle, thick: float) -> float:
    return -inline_font(style).ascent / 64 - thick


def _through(style: ComputedStyle, thick: float) -> float:
    return -inline_font(style).ascent / 192 - thick / 2


# From the baseline to the upper edge of a line, px.
_TOPS = {"underline": _under, "overline": _over, "line-through": _through}


def _line(
    painter: QPainter, style: ComputedStyle, span: tuple[float, float, float], thick: float
) -> None:
    """One stretch of a line in its style."""
    start, end, top = span
    shade, kind = to_colour(style.text_decoration_color), style.text_decoration_style
    if kind in ("solid", "double"):
        high, row = max(1.0, floor(thick)), floor(top + 0.5)
        painter.fillRect(QRectF(start, row, end - start, high), shade)
        if kind == "double":
            painter.fillRect(QRectF(start, row + high + 1, end - start, high), shade)
    elif kind == "wavy":
        _wave(painter, (start, end, top + 1.5 * thick), thick, shade)
    else:
        width = max(1.0, floor(thick + 0.5))
        pen = QPen(shade, width)
        dotted = kind == "dotted"
        pen.setDashPattern([0.01, 2.0] if dotted else [3.0, 2.0])
        pen.setCapStyle(Qt.PenCapStyle.RoundCap if dotted else Qt.PenCapStyle.FlatCap)
        painter.setPen(pen)
        y, inset = floor(top + 0.5) + width / 2, (width / 2 if dotted else 0.0)
        painter.drawLine(QPointF(start + inset, y), QPointF(end - inset, y))


def _wave(painter: QPainter, span: tuple[float, float, float], thick: float, shade: QColor) -> None:
    start, end, middle = span
    step, high = 2.5 * thick, 2.0 * thick
    path, x, way = QPainterPath(QPointF(start, middle)), start, -1.0
    while x < end:
        path.quadTo(QPointF(x + step / 2, middle + way * high), QPointF(x + step, middle))
        x, way = x + step, -way
    painter.save()
    painter.setClipRect(
        QRectF(start, middle - 3 * high, end - start, 6 * high), Qt.ClipOperation.IntersectClip
    )
    painter.strokePath(path, QPen(shade, thick))
    painter.restore()


def _clear_of(
    run: tuple[ShapedRun, tuple[int, int], float, Spacing], place: QRectF, top: float, thick: float
) -> Iterator[tuple[float, float]]:
    """Level 4 §2.6: the stretches of an underline between the letters that reach down into it."""
    shaped, piece, size, spacing = run
    band = round(top - place.y(), 1), round(thick, 1)
    aside, x = max(_INK, thick / 2), place.left()
    for number, at in placed_glyphs(shaped, piece, size, spacing):
        ink = _ink(shaped.face, size, number, *band)
        if ink is not None:
            left, right = place.left() + at.x() + ink[0] - aside, place.left() + at.x() + ink[1] + aside
            if left > x:
                yield x, left
            x = max(x, right)
    if x < place.right():
        yield x, place.right()


@lru_cache(maxsize=4000)
def _ink(
    face: FontFace, size: float, number: int, top: float, thick: float
) -> tuple[float, float] | None:
    """From where to where a glyph's outline is in a band under the baseline, px; None: it is not."""
    outline = outline_of(face, size, number)
    if outline.boundingRect().bottom() <= top:
        return None
    band = QPainterPath()
    band.addRect(QRectF(-1000, top, 2000, thick))
    inside = outline.intersected(band).boundingRect()
    return None if inside.isEmpty() else (inside.left(), inside.right())
