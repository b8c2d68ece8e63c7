"""Gradients as Qt brushes: CSS Images 3 §3, conic ones CSS Images 4 §3.3."""

from collections.abc import Iterator
from math import cos, hypot, log, radians, sin

from PyQt6.QtCore import QPointF, QRectF
from PyQt6.QtGui import (
    QBrush,
    QColor,
    QConicalGradient,
    QGradient,
    QLinearGradient,
    QRadialGradient,
    QTransform,
)

from redcrate.app.painting.colours import to_colour
from redcrate.core.style.colours import Colour, between
from redcrate.core.style.images import Amount, Gradient, Point
from redcrate.core.style.values import CalcNode, Dimension

_Stops = list[tuple[float, QColor]]
_THIN = 0.001
_SAMPLES = 12  # stops from one colour to the next, where they do not change evenly


def px(amount: Amount | None, base: float) -> float:
    """A computed length in px."""
    if amount is None or isinstance(amount, (Dimension, CalcNode)):
        return 0.0
    return amount.resolve_px(base)


def place_in(point: Point, area: QRectF) -> QPointF:
    """A position in an area, from its corner."""
    return QPointF(area.x() + px(point.x, area.width()), area.y() + px(point.y, area.height()))


def gradient_brush(gradient: Gradient, tile: QRectF) -> QBrush:
    """The brush that fills a tile with a gradient."""
    if gradient.kind == "linear":
        return _linear(gradient, tile)
    if gradient.kind == "radial":
        return _radial(gradient, tile)
    return _conic(gradient, tile)


def _linear(gradient: Gradient, tile: QRectF) -> QBrush:
    """§3.1: the gradient line through the middle, as long as its corners need."""
    angle = gradient.angle
    if gradient.corner is not None:  # the line across it runs through the two other corners
        x, y = gradient.corner
        way = QPointF(x * tile.height(), y * tile.width())
    else:
        way = QPointF(sin(radians(angle)), -cos(radians(angle)))
    length = hypot(way.x(), way.y()) or 1.0
    way /= length
    whole = abs(tile.width() * way.x()) + abs(tile.height() * way.y())
    start = tile.center() - way * (whole / 2)
    stops, low, high = _resolved(gradient, whole)
    fill = QLinearGradient(start + way * (whole * low), start + way * (whole * high))
    return QBrush(_filled(fill, stops, gradient))


def _radial(gradient: Gradient, tile: QRectF) -> QBrush:
    """§3.2: a circle or an ellipse round its centre."""
    centre = place_in(gradient.centre, tile)
    rx, ry = _radii(gradient, tile, centre)
    rx, ry = max(rx, _THIN), max(ry, _THIN)
    stops, low, high = _resolved(gradient, rx)
    low = max(0.0, low)
    fill = QRadialGradient(QPointF(0, 0), rx * high)
    if low > 0:
        fill.setFocalRadius(rx * low)
    brush = QBrush(_filled(fill, stops, gradient))
    brush.setTransform(QTransform().translate(centre.x(), centre.y()).scale(1, ry / rx))
    return brush


def _radii(gradient: Gradient, tile: QRectF, centre: QPointF) -> tuple[float, float]:
    """§3.2.2: how far the ending shape reaches."""
    if gradient.radii:
        across = px(gradient.radii[0], tile.width())
        down = px(gradient.radii[-1], tile.height()) if len(gradient.radii) > 1 else across
        return across, down
    left, right = abs(centre.x() - tile.left()), abs(tile.right() - centre.x())
    top, bottom = abs(centre.y() - tile.top()), abs(tile.bottom() - centre.y())
    pick = min if gradient.extent.startswith("closest") else max
    x, y = pick(left, right), pick(top, bottom)
    if gradient.extent.endswith("side"):
        return (pick(x, y),) * 2 if gradient.circle else (x, y)
    if gradient.circle:
        corner = hypot(x, y)
        return corner, corner
    return x * 2**0.5, y * 2**0.5  # the corner's ellipse has the ratio of the side's


def _conic(gradient: Gradient, tile: QRectF) -> QBrush:
    """CSS Images 4 §3.3: clockwise from the top; Qt turns the other way from the right."""
    stops, low, high = _resolved(gradient, 360.0)
    span = high - low
    turns: _Stops = []
    if gradient.repeating and span > 0:
        count = min(200, int(1 / span) + 1)
        turns = [
            (low + (k + t) * span, c)
            for k in range(count + 1)
            for t, c in stops
            if low + (k + t) * span <= 1
        ]
    else:
        turns = [(low + t * span, c) for t, c in stops]
    fill = QConicalGradient(place_in(gradient.centre, tile), 90.0 - gradient.angle)
    last = 2.0
    for turn, shade in turns:
        at = min(1.0, max(0.0, 1 - turn))
        at = max(0.0, at if at < last else last - 1e-5)  # two stops in one place make a hard edge
        fill.setColorAt(at, shade)
        last = at
    return QBrush(fill)


def _filled(fill: QGradient, stops: _Stops, gradient: Gradient) -> QGradient:
    spread = QGradient.Spread.RepeatSpread if gradient.repeating else QGradient.Spread.PadSpread
    fill.setSpread(spread)
    last = -1.0
    for place, shade in stops:
        at = min(1.0, max(0.0, place))
        at = min(1.0, at if at > last else last + 1e-5)  # two stops in one place make a hard edge
        fill.setColorAt(at, shade)
        last = at
    return fill


def _resolved(gradient: Gradient, length: float) -> tuple[_Stops, float, float]:
    """§3.4.3: all stops as shares of [low, high], which are shares of the gradient line."""
    places: list[float | None] = []
    for stop in gradient.stops:
        place = stop.place
        if place is None:
            places.append(None)
        elif isinstance(place, (int, float)):
            places.append(place / 360)
        else:
            places.append(px(place, length) / length if length else 0.0)
    if places[0] is None:
        places[0] = 0.0
    if places[-1] is None:
        places[-1] = 1.0
    known = _ascending(places)
    shades = [s.colour if isinstance(s.colour, Colour) else None for s in gradient.stops]
    stops = [(at, to_colour(c)) for at, c in _sampled(known, shades, gradient.space)]
    first, last = stops[0][0], stops[-1][0]
    low, high = (first, last) if gradient.repeating else (min(0.0, first), max(1.0, last))
    span = max(high - low, _THIN)
    return [((at - low) / span, c) for at, c in stops], low, low + span


def _sampled(places: list[float], shades: list[Colour | None], space: str) -> list[tuple[float, Colour]]:
    """§3.4.2 (hints) and CSS Images 4 §3.1 (spaces): more stops where colours do not change evenly in sRGB."""
    out: list[tuple[float, Colour]] = []
    hint: float | None = None
    for at, shade in zip(places, shades, strict=True):
        if shade is None:
            hint = at
            continue
        if out and (space or hint is not None) and at > out[-1][0]:
            out += list(_steps_to(out[-1], (at, shade), hint, space or "srgb"))
        out.append((at, shade))
        hint = None
    return out


def _steps_to(
    one: tuple[float, Colour], other: tuple[float, Colour], hint: float | None, space: str
) -> Iterator[tuple[float, Colour]]:
    (start, first), (end, second) = one, other
    middle = 0.5 if hint is None else (hint - start) / (end - start)
    power = log(0.5) / log(min(0.999, max(0.001, middle)))
    for number in range(1, _SAMPLES):
        share = number / _SAMPLES
        yield start + share * (end - start), between(first, second, share**power, space)


def _ascending(places: list[float | None]) -> list[float]:
    """No stop lies before the one in front; those without a place share the room evenly."""
    known: list[float | None] = []
    most = -1e9
    for place in places:
        if place is not None:
            most = max(most, place)
            known.append(most)
        else:
            known.append(None)
    out: list[float] = []
    for number, place in enumerate(known):
        if place is not None:
            out.append(place)
            continue
        after = next(i for i in range(number, len(known)) if known[i] is not None)
        end = known[after]
        assert end is not None
        out.append(out[-1] + (end - out[-1]) / (after - number + 1))
    return out
