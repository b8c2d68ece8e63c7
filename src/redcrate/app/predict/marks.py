"""What is drawn of a prediction on the sheet: the ghost that is moved, and what was said beside what it became."""

from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt
from PyQt6.QtGui import QPen

from redcrate.app.sheet.marks import SheetMarks
from redcrate.app.theme.look import page_colour
from redcrate.core.diagram.label_places import Place
from redcrate.core.geometry import Rect
from redcrate.core.predictions.answering import Told
from redcrate.core.predictions.question import NumberQuestion, PlaceQuestion, Span
from redcrate.core.units import ZERO, LayoutUnit, format_px

_OFF = 13.0  # screen px from one dimension to the next
_FURTHEST = 160  # px from the edge
_TICK = 5.0
_HALO = 5.0  # px of paper behind a line: the page stays visible beside it
_DASHED, _SOLID = Qt.PenStyle.DashLine, Qt.PenStyle.SolidLine


def paint_ghost(marks: SheetMarks, ghost: Rect, words: str) -> None:
    """The ghost while it is moved, and by how much it has been."""
    rect = marks.to_screen(ghost)
    wash = page_colour("accent")
    wash.setAlpha(70)
    marks.painter.fillRect(rect, wash)
    marks.painter.setBrush(Qt.BrushStyle.NoBrush)
    marks.painter.setPen(QPen(page_colour("ink"), 2, _DASHED))
    marks.painter.drawRect(rect)
    places = [rect.center() + QPointF(0, 18 * n) for n in range(3)]
    marks.number(places, words, "ink")


def paint_told(marks: SheetMarks, told: Told) -> None:
    """What was said (dashed) and what it became (solid), with the difference dimensioned."""
    question, answer = told.question, told.answer
    if isinstance(question, NumberQuestion) and isinstance(answer, int):
        _paint_number(marks, question.after, answer, is_right=told.is_right)
    elif isinstance(question, PlaceQuestion) and isinstance(answer, Rect):
        _paint_place(marks, question.after, answer, is_right=told.is_right)


def _paint_number(marks: SheetMarks, span: Span, said: LayoutUnit, *, is_right: bool) -> None:
    start = _point(marks, span.start, span)
    end, wanted = _point(marks, span.end, span), _point(marks, LayoutUnit(span.start + said), span)
    away = QPointF(0, -1) if span.is_across else QPointF(-1, 0)
    away *= _free(marks, QRectF(start, end).united(QRectF(start, wanted)), away, deep=not is_right)
    step = away * (_OFF / abs(away.x() + away.y()))
    _dimension(marks, start + away, end + away, f"is {format_px(span.amount)}", "ink", _SOLID)
    if is_right:
        return
    further = away + 1.4 * step
    _dimension(
        marks, start + further, wanted + further, f"said {format_px(said)}", "second_ink", _DASHED
    )
    off = format_px(abs(said - span.amount))
    further += 1.4 * step
    _dimension(marks, end + further, wanted + further, off, "problem", _SOLID)


def _free(marks: SheetMarks, line: QRectF, away: QPointF, *, deep: bool) -> float:
    """How far from the edge the lines go, px: outside, else inside the box, so that they cover no text; where they would
    everywhere, as near as can be. deep: there are three of them.
    """
    room = _OFF * (3.6 if deep else 1.2)
    for far in range(int(_OFF), _FURTHEST, 8):
        for side in (far, -far):
            near, end = away * side, away * (side + (room if side > 0 else -room))
            swept = line.translated(near).united(line.translated(end)).adjusted(-6, -8, 8, 8)
            place = Place(swept.x(), swept.y(), swept.width(), swept.height())
            if marks.covers_nothing(place) and marks.holds(swept):
                return float(side)
    return _OFF


def _point(marks: SheetMarks, along: LayoutUnit, span: Span) -> QPointF:
    x, y = (along, span.at) if span.is_across else (span.at, along)
    return marks.to_screen(Rect(x, y, ZERO, ZERO)).topLeft()


def _paint_place(marks: SheetMarks, became: Rect, ghost: Rect, *, is_right: bool) -> None:
    said, now = marks.to_screen(ghost), marks.to_screen(became)
    marks.painter.setBrush(Qt.BrushStyle.NoBrush)
    for rect, shade, line in ((said, "second_ink", _DASHED), (now, "ink", _SOLID)):
        marks.painter.setPen(QPen(page_colour(shade), 2, line))
        marks.painter.drawRect(rect)
    marks.number(_inside(said), "said", "second_ink", over=True)
    if is_right:
        return
    across, down = became.x - ghost.x, became.y - ghost.y
    corner = QPointF(now.left(), said.top())
    if across:
        _dimension(marks, said.topLeft(), corner, format_px(abs(across)), "problem", _SOLID)
    if down:
        _dimension(marks, corner, now.topLeft(), format_px(abs(down)), "problem", _SOLID)


def _inside(rect: QRectF) -> list[QPointF]:
    return [rect.bottomRight() - QPointF(24, 12 + 16 * n) for n in range(3)]


def _dimension(
    marks: SheetMarks, start: QPointF, end: QPointF, words: str, shade: str, line: Qt.PenStyle
) -> None:
    """A dimension line with strokes across its ends, and words on it."""
    painter = marks.painter
    painter.setPen(QPen(page_colour("paper"), _HALO))
    painter.drawLine(start, end)
    painter.setPen(QPen(page_colour(shade), 1.6, line))
    painter.drawLine(start, end)
    painter.setPen(QPen(page_colour(shade), 1.6))
    along = QLineF(start, end)
    lies = abs(along.dx()) >= abs(along.dy())
    tick = QPointF(0, _TICK) if lies else QPointF(_TICK, 0)
    for at in (start, end):
        painter.drawLine(at - tick, at + tick)
    beyond = QPointF(34, 0) if lies else QPointF(0, 12)
    middle = (start + end) / 2
    places = (
        [middle, end + beyond, start - beyond] if along.length() > 60 else [end + beyond, start - beyond]
    )
    marks.number(places, words, shade, over=True)
