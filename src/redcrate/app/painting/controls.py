"""Paints form controls plainly: what is ticked, filled in or chosen, in the ink of their text (HTML Standard §15.5)."""

from collections.abc import Callable, Iterable, Iterator, Mapping
from typing import TypeAlias

from PyQt6.QtCore import QPointF, QRectF, QSizeF, Qt
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPen, QPolygonF

from redcrate.app.painting.colours import to_colour
from redcrate.app.painting.glyphs import draw_run
from redcrate.core.boxes.form_controls import hint_colour, is_tick
from redcrate.core.markup.elements import Element
from redcrate.core.markup.numbers import parse_number
from redcrate.core.page import PlacedBox
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.text.inline_fonts import inline_font
from redcrate.core.text.shaping import shape

_MOST_TEXT = 5000  # letters: more are never seen in a field, and each painting shapes them
_PLAYER, _PLAYED = QColor(241, 243, 244), QColor(90, 90, 90)
_Draw: TypeAlias = Callable[[QPainter, QRectF, Element, ComputedStyle], None]


def paint_control(painter: QPainter, box: PlacedBox, room: QRectF) -> bool:
    """Paint what a control shows in its content box, in px; False where the element is no control."""
    element = box.fragment.box.element
    if element is None:
        return False
    kind = element.attributes.get("type", "").lower() if element.tag == "input" else element.tag
    draw = _DRAWN.get(kind)
    if draw is None:
        return False
    style = box.fragment.box.style
    if is_tick(element) and style.appearance == "none":
        return True  # its author draws it
    painter.save()
    ink = to_colour(style.color)
    painter.setPen(QPen(ink, 1))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    draw(painter, room, element, style)
    painter.restore()
    return True


def _tick_box(painter: QPainter, room: QRectF, element: Element, style: ComputedStyle) -> None:
    painter.drawRect(room.adjusted(0.5, 0.5, -0.5, -0.5))
    if "checked" in element.attributes:
        painter.setPen(QPen(painter.pen().color(), max(1.5, room.width() / 8)))
        at = [_in(room, x, y) for x, y in ((0.2, 0.5), (0.42, 0.75), (0.8, 0.22))]
        painter.drawPolyline(QPolygonF(at))


def _one_of_several(painter: QPainter, room: QRectF, element: Element, style: ComputedStyle) -> None:
    painter.drawEllipse(room.adjusted(0.5, 0.5, -0.5, -0.5))
    if "checked" in element.attributes:
        painter.setBrush(painter.pen().color())
        painter.drawEllipse(room.center(), room.width() / 4, room.height() / 4)


def _slide(painter: QPainter, room: QRectF, element: Element, style: ComputedStyle) -> None:
    knob = min(room.height(), room.width()) / 2
    share = _share(element, 0, 100, 0.5)
    track = QRectF(room.left(), room.center().y() - 2, room.width(), 4)
    _filled_bar(painter, track, share)
    x = room.left() + knob + share * (room.width() - 2 * knob)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(to_colour(style.color))
    painter.drawEllipse(QPointF(x, room.center().y()), knob, knob)


def _filled_bar(painter: QPainter, bar: QRectF, share: float) -> None:
    """A round bar, so much of it filled."""
    ink, round_by = painter.pen().color(), bar.height() / 2
    pale = QColor(ink)
    pale.setAlphaF(0.15)
    for width, shade in ((bar.width(), pale), (bar.width() * share, ink)):
        path = QPainterPath()
        path.addRoundedRect(QRectF(bar.topLeft(), QSizeF(width, bar.height())), round_by, round_by)
        painter.fillPath(path, shade)


def _swatch(painter: QPainter, room: QRectF, element: Element, style: ComputedStyle) -> None:
    shade = QColor(element.attributes.get("value", ""))
    painter.setBrush(shade if shade.isValid() else QColor("black"))
    painter.drawRect(room.adjusted(2.5, 2.5, -2.5, -2.5))


def _file(painter: QPainter, room: QRectF, element: Element, style: ComputedStyle) -> None:
    painter.drawRect(room.adjusted(0.5, 0.5, -0.5, -0.5))
    _write(painter, room.adjusted(4, 2, -2, 0), ["a file…"], style)


def _bar(painter: QPainter, room: QRectF, element: Element, style: ComputedStyle) -> None:
    if element.tag == "progress" and "value" not in element.attributes:
        painter.fillRect(room, Qt.BrushStyle.BDiagPattern)  # nobody knows how far it is
        return
    high = min(8.0, room.height())
    bar = QRectF(room.left(), room.center().y() - high / 2, room.width(), high)
    _filled_bar(painter, bar, _share(element, 0, 1, 0))


def _lines(painter: QPainter, room: QRectF, element: Element, style: ComputedStyle) -> None:
    text = element.text_content()
    if not text:
        text = element.attributes.get("placeholder", "")
        painter.setPen(to_colour(hint_colour(style, None)))
    _write(painter, room, _wrapped(text[:_MOST_TEXT], room.width(), style), style)


def _wrapped(text: str, width: float, style: ComputedStyle) -> Iterator[str]:
    """The lines of a text that is `width` px wide at most, broken between words."""
    font = inline_font(style)
    most = width * font.face.upem / font.size if font.size else 0.0
    for paragraph in text.split("\n"):
        line = ""
        for word in paragraph.split(" "):
            longer = f"{line} {word}" if line else word
            if line and shape(font.face, longer).sums[-1] > most:
                yield line
                line = word
            else:
                line = longer
        yield line


def _player(painter: QPainter, room: QRectF, element: Element, style: ComputedStyle) -> None:
    """Sound and films: the mark of what can be played, where its page offers to play it (HTML Standard §15.4.3)."""
    if "controls" not in element.attributes:
        return
    painter.setPen(Qt.PenStyle.NoPen)
    if element.tag == "audio":
        painter.setBrush(_PLAYER)
        painter.drawRoundedRect(room, room.height() / 2, room.height() / 2)
    size = min(14.0, room.height() / 3)
    x = room.left() + room.height() / 2 if element.tag == "audio" else room.center().x()
    y = room.center().y()
    painter.setBrush(_PLAYED)
    corners = [
        QPointF(x - size / 2, y - size / 2),
        QPointF(x + size / 2, y),
        QPointF(x - size / 2, y + size / 2),
    ]
    painter.drawPolygon(QPolygonF(corners))


def _nothing(painter: QPainter, room: QRectF, element: Element, style: ComputedStyle) -> None:
    """What a script draws, or another page, is not there."""


_DRAWN: Mapping[str, _Draw] = {
    "audio": _player,
    "video": _player,
    **dict.fromkeys(("canvas", "iframe", "embed"), _nothing),
    "checkbox": _tick_box,
    "radio": _one_of_several,
    "range": _slide,
    "color": _swatch,
    "file": _file,
    "progress": _bar,
    "meter": _bar,
    "textarea": _lines,
}


def _write(painter: QPainter, room: QRectF, lines: Iterable[str], style: ComputedStyle) -> None:
    """Lines one under another, as far as there is room for them."""
    font = inline_font(style)
    painter.setClipRect(room, Qt.ClipOperation.IntersectClip)
    height = (font.leading_ascent + font.leading_descent) / 64
    for number, line in enumerate(lines):
        top = room.top() + number * height
        if top > room.bottom():
            return
        draw_run(
            painter,
            shape(font.face, line[:_MOST_TEXT]),
            room.left(),
            top + font.leading_ascent / 64,
            font.size,
        )


def _in(room: QRectF, x: float, y: float) -> QPointF:
    return QPointF(room.left() + x * room.width(), room.top() + y * room.height())


def _share(element: Element, least: float, most: float, fallback: float) -> float:
    """Where a value stands between its bounds, from 0 to 1; fallback: where none is written."""
    low, high = _number(element, "min", least), _number(element, "max", most)
    value = parse_number(element.attributes.get("value", ""))
    if value is None:
        return fallback
    return min(1.0, max(0.0, (value - low) / (high - low))) if high > low else 0.0


def _number(element: Element, name: str, fallback: float) -> float:
    found = parse_number(element.attributes.get(name, ""))
    return fallback if found is None else found
