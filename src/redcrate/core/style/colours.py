"""Colour values: CSS Color 4, and of Color 5 `color-mix()` (§3), relative colours (§4) and `light-dark()` (§5)."""

from functools import lru_cache
from typing import Any

import tinycss2
import tinycss2.color4

from redcrate.core.records import dataclass
from redcrate.core.style.colour_parts import CHANNELS, parts_of, space_of
from redcrate.core.style.colour_spaces import HUES, Triple, converted


@dataclass(frozen=True, slots=True)
class Colour:
    """A colour: red, green, blue 0–255, alpha 0–1."""

    red: int
    green: int
    blue: int
    alpha: float = 1.0


TRANSPARENT = Colour(0, 0, 0, 0.0)
BLACK = Colour(0, 0, 0)
CURRENT = "currentcolor"
_HUE_WAYS = ("shorter", "longer", "increasing", "decreasing")
_DEEPEST = 20  # colours in colours
_BLACK: Triple = (0.0, 0.0, 0.0)


@dataclass(frozen=True, slots=True)
class _Exact:
    """A colour in its own space, with the precision that mixing needs."""

    space: str
    parts: Triple
    alpha: float


@dataclass(frozen=True, slots=True)
class Mixed:
    """A colour made with `currentcolor`, a specified value: Color 5 §3, §4. text: as it is written."""

    text: str

    def computed(self, current: Colour) -> Colour:
        """The colour where text has that colour."""
        return _made_with(self.text, current)


@lru_cache(1000)
def _made_with(text: str, current: Colour) -> Colour:
    found = _read(tinycss2.parse_one_component_value(text), 0, _exactly(current))
    return _whole(found) if isinstance(found, _Exact) else current


def _exactly(colour: Colour) -> _Exact:
    return _Exact("srgb", (colour.red / 255, colour.green / 255, colour.blue / 255), colour.alpha)


def between(one: Colour, other: Colour, share: float, space: str = "srgb") -> Colour:
    """The colour so far from one to the other, mixed in a space; in sRGB where that is not known."""
    found = _between(space, "shorter", (_exactly(one), _exactly(other)), (1 - share, share, 1.0))
    return _whole(found) if found is not None else between(one, other, share)


def parsed_colour(token: Any) -> Colour | Mixed | str | None:
    """The colour of a component value, `currentcolor`, or one made with that; None where it is none."""
    found = _read(token, 0, None)
    if isinstance(found, _Exact):
        return _whole(found)
    if found is None or token.type != "function":
        return found
    return Mixed(token.serialize()) if _read(token, 0, _exactly(BLACK)) else None


def _whole(found: "_Exact") -> Colour:
    """In sRGB and whole steps; what is outside of it is cut."""
    parts = converted(found.space, "srgb", found.parts)
    if parts is None:
        return BLACK
    red, green, blue = (int(min(1.0, max(0.0, c)) * 255 + 0.5) for c in parts)
    return Colour(red, green, blue, found.alpha)


def colour_of(text: str) -> Colour | Mixed | str | None:
    """The colour that a text stands for, as in an attribute of SVG."""
    return parsed_colour(tinycss2.parse_one_component_value(text, skip_comments=True))


def _read(token: Any, depth: int, current: _Exact | None) -> _Exact | str | None:
    """The colour of a token; CURRENT where the text's colour is in it, which only an element tells, and is not known."""
    if token.type == "function" and depth < _DEEPEST:
        if token.lower_name == "color-mix":
            return _mixed(token, depth, current)
        if token.lower_name == "light-dark":  # the sheet is a light one
            halves = _arguments(token)
            return (
                _read(halves[0][0], depth + 1, current) if [len(h) for h in halves] == [1, 1] else None
            )
        found = _calculated(token, depth, current)
        if found is not None:
            return found
    try:
        parsed = tinycss2.color4.parse_color(token)
        if parsed is None or isinstance(parsed, str):
            return parsed and (current or CURRENT)
        a, b, c = (float(n or 0.0) for n in parsed.coordinates)
        return _Exact(parsed.space, (a, b, c), 1.0 if parsed.alpha is None else float(parsed.alpha))
    except (ValueError, OverflowError, ZeroDivisionError):
        return None


def _calculated(token: Any, depth: int, current: _Exact | None) -> _Exact | str | None:
    """Color 5 §4: a colour from another one's parts, and one with math functions in it; None for any other."""
    parts = [t for t in token.arguments if t.type not in ("whitespace", "comment")]
    if not parts or not (token.lower_name in CHANNELS or token.lower_name == "color"):
        return None
    if not (parts[0].type == "ident" and parts[0].lower_value == "from"):
        return (
            _of_parts(token.lower_name, parts, None)
            if any(t.type == "function" for t in parts)
            else None
        )
    origin = _read(parts[1], depth + 1, current) if len(parts) > 1 else None
    return _of_parts(token.lower_name, parts[2:], origin) if isinstance(origin, _Exact) else origin


def _of_parts(name: str, tokens: list[Any], origin: _Exact | None) -> _Exact | None:
    space, channels, tokens = space_of(name, tokens)
    known = converted(origin.space, space, origin.parts) if origin else _BLACK
    if known is None:
        return None
    made = parts_of(channels, tokens, (known, origin.alpha) if origin else None)
    return _Exact(space, *made) if made else None


def _arguments(token: Any) -> list[list[Any]]:
    """What stands between the commas, without white space and comments."""
    parts: list[list[Any]] = [[]]
    for one in token.arguments:
        if one.type == "literal" and one.value == ",":
            parts.append([])
        elif one.type not in ("whitespace", "comment"):
            parts[-1].append(one)
    return parts


def _mixed(token: Any, depth: int, current: _Exact | None) -> _Exact | str | None:
    """Color 5 §3: two colours with their shares, mixed in a space."""
    head, *sides = _arguments(token)
    words = [t.lower_value for t in head if t.type == "ident"]
    if len(words) < 2 or words[0] != "in" or len(words) != len(head) or len(sides) != 2:
        return None
    space, way = words[1], words[2] if len(words) > 2 else "shorter"
    one, other = (_side(side, depth, current) for side in sides)
    if one is None or other is None or way not in _HUE_WAYS:
        return None
    shares = _shares(one[1], other[1])
    if shares is None:
        return None
    first, second = one[0], other[0]
    if isinstance(first, str) or isinstance(second, str):
        return CURRENT
    return _between(space, way, (first, second), shares)


def _side(
    tokens: list[Any], depth: int, current: _Exact | None
) -> tuple[_Exact | str, float | None] | None:
    """A colour and its share, 0–1, in either order; None for the share where none is given."""
    amounts = [t for t in tokens if t.type == "percentage"]
    rest = [t for t in tokens if t.type != "percentage"]
    found = _read(rest[0], depth + 1, current) if len(rest) == 1 and len(amounts) <= 1 else None
    if found is None:
        return None
    share = float(amounts[0].value) / 100 if amounts else None
    return None if share is not None and not 0 <= share <= 1 else (found, share)


def _shares(one: float | None, other: float | None) -> tuple[float, float, float] | None:
    """§3.1: both shares of a whole, and what the alpha is multiplied by; None where both are 0."""
    if one is None and other is None:
        one = other = 0.5
    elif one is None:
        one = 1 - (other or 0.0)
    elif other is None:
        other = 1 - one
    assert one is not None and other is not None
    whole = one + other
    return (one / whole, other / whole, min(1.0, whole)) if whole > 0 else None


def _between(
    space: str, way: str, both: tuple[_Exact, _Exact], shares: tuple[float, float, float]
) -> _Exact | None:
    """Color 4 §12: interpolated with premultiplied alpha; hues are not multiplied."""
    p, q, factor = shares
    found = [converted(c.space, space, c.parts) for c in both]
    one, other = found
    if one is None or other is None:
        return None
    a, b = both[0].alpha, both[1].alpha
    alpha = a * p + b * q
    parts = []
    for number, (x, y) in enumerate(zip(one, other, strict=True)):
        if HUES.get(space) == number:
            parts.append((x * p + _turned(x, y, way) * q) % 360)
        elif alpha:
            parts.append((x * a * p + y * b * q) / alpha)
        else:
            parts.append(x * p + y * q)
    return _Exact(space, (parts[0], parts[1], parts[2]), alpha * factor)


def _turned(x: float, y: float, way: str) -> float:
    """Color 4 §12.4: the second hue, so that the way from the first one to it is the one wanted."""
    apart = y - x
    if way == "shorter":
        return y - 360 if apart > 180 else y + 360 if apart < -180 else y
    if way == "longer":
        return y - 360 if 0 < apart < 180 else y + 360 if -180 < apart <= 0 else y
    if way == "increasing":
        return y + 360 if apart < 0 else y
    return y - 360 if apart > 0 else y
