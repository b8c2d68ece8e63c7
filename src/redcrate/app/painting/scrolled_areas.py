"""A quiet hint at a box that can be scrolled: how much of what it holds is seen, along the edges where there is more."""

from weakref import ref

from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor, QPainter

from redcrate.app.painting.colours import to_rect
from redcrate.core.layout.extents import inner_fragments
from redcrate.core.layout.forgetting import forgetting
from redcrate.core.layout.fragments import Fragment
from redcrate.core.page import PlacedBox
from redcrate.core.style.computed import ComputedStyle

_SCROLLED = ("auto", "scroll")
_SLACK = 64  # 1/64 px: less is not worth a hint
_WIDE, _APART, _SHORTEST = 4.0, 2.0, 12.0  # px
_SHADE = QColor(110, 110, 110, 150)

_known: dict[ref[Fragment], tuple[int, int]] = {}
_forget = forgetting(_known)


def can_be_scrolled(style: ComputedStyle) -> bool:
    """Whether a reader can scroll a box, if it holds more than it has room for (CSS Overflow 3 §3.1)."""
    return style.overflow_x in _SCROLLED or style.overflow_y in _SCROLLED


def paint_hint(painter: QPainter, box: PlacedBox) -> None:
    """Bars along the right and the lower edge: as long as the part of the whole that is seen."""
    style, element = box.fragment.box.style, box.fragment.box.element
    if not can_be_scrolled(style) or (element is not None and element.tag in ("html", "body")):
        return
    inner = box.rect.inset(box.fragment.border)
    right, bottom = _reach(box.fragment)
    seen, room = to_rect(inner), box.fragment.border
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(_SHADE)
    whole = (bottom - room.top) / 64
    if style.overflow_y in _SCROLLED and bottom - room.top > inner.height + _SLACK:
        long = _length(seen.height(), whole)
        _bar(painter, QRectF(seen.right() - _APART - _WIDE, seen.top() + _APART, _WIDE, long))
    whole = (right - room.left) / 64
    if style.overflow_x in _SCROLLED and right - room.left > inner.width + _SLACK:
        long = _length(seen.width(), whole)
        _bar(painter, QRectF(seen.left() + _APART, seen.bottom() - _APART - _WIDE, long, _WIDE))


def _length(seen: float, whole: float) -> float:
    return max(min(_SHORTEST, seen - 2 * _APART), seen * seen / whole - 2 * _APART)


def _bar(painter: QPainter, rect: QRectF) -> None:
    if rect.width() > 0 and rect.height() > 0:
        painter.drawRoundedRect(rect, _WIDE / 2, _WIDE / 2)


def _reach(fragment: Fragment) -> tuple[int, int]:
    """How far to the right and down from the border box what a box holds can be scrolled to, 1/64 px.

    §2.2: without what boxes inside clip or scroll themselves.
    """
    key = ref(fragment, _forget)
    if key not in _known:
        right = bottom = 0
        stack = [(fragment, 0, 0)]
        while stack:
            at, x, y = stack.pop()
            for line in at.lines:
                right = max(right, x + line.x + line.used)
                bottom = max(bottom, y + line.y + line.height)
            for placed in inner_fragments(at):
                left, top = x + placed.x + placed.shift_x, y + placed.y + placed.shift_y
                inside = placed.fragment
                right = max(right, left + inside.width)
                bottom = max(bottom, top + inside.height)
                if inside.box.style.overflow_x == "visible":
                    stack.append((inside, left, top))
        _known[key] = (right, bottom)
    return _known[key]
