"""The parts of a colour where they are calculated, or made of another colour's: Color 5 §4, Values 4 §10.

Parts are numbers as `colour_spaces` has them. A percentage and an angle in a calculation are such numbers too.
"""

from math import isnan, nan, pi
from typing import Any, TypeAlias

from tinycss2.ast import DimensionToken, FunctionBlock, NumberToken, ParenthesesBlock

from redcrate.core.style.calc import parse_length
from redcrate.core.style.colour_spaces import Triple
from redcrate.core.style.values import CalcNode, Dimension, apply_math

# The names of the parts, what each counts for one of the space's own, and which number 100 % is.
_Channel: TypeAlias = tuple[str, float, float]
Channels: TypeAlias = tuple[_Channel, _Channel, _Channel]
CHANNELS: dict[str, Channels] = {
    "rgb": (("r", 255.0, 255.0), ("g", 255.0, 255.0), ("b", 255.0, 255.0)),
    "hsl": (("h", 1.0, 360.0), ("s", 1.0, 100.0), ("l", 1.0, 100.0)),
    "hwb": (("h", 1.0, 360.0), ("w", 1.0, 100.0), ("b", 1.0, 100.0)),
    "lab": (("l", 1.0, 100.0), ("a", 1.0, 125.0), ("b", 1.0, 125.0)),
    "lch": (("l", 1.0, 100.0), ("c", 1.0, 150.0), ("h", 1.0, 360.0)),
    "oklab": (("l", 1.0, 1.0), ("a", 1.0, 0.4), ("b", 1.0, 0.4)),
    "oklch": (("l", 1.0, 1.0), ("c", 1.0, 0.4), ("h", 1.0, 360.0)),
}
CHANNELS["rgba"], CHANNELS["hsla"] = CHANNELS["rgb"], CHANNELS["hsl"]
_OWN = {"rgb": "srgb", "rgba": "srgb", "hsla": "hsl"}  # how the spaces of functions are called
_DEGREES = {"deg": 1.0, "rad": 180 / pi, "turn": 360.0, "grad": 0.9}
_ANGLE = "px"  # degrees are counted as a length is, which is no number either
_DEEPEST = 64
_MOST = 1e9


def space_of(name: str, tokens: list[Any]) -> tuple[str, Channels, list[Any]]:
    """The space of a colour function, its parts, and the tokens that give them: of `color()` the first names the space."""
    if name in CHANNELS:
        return _OWN.get(name, name), CHANNELS[name], tokens
    space = tokens[0].lower_value if tokens and tokens[0].type == "ident" else ""
    a, b, c = "xyz" if space.startswith("xyz") else "rgb"
    return space, ((a, 1.0, 1.0), (b, 1.0, 1.0), (c, 1.0, 1.0)), tokens[1:]


def parts_of(
    channels: Channels, tokens: list[Any], origin: tuple[Triple, float] | None
) -> tuple[Triple, float] | None:
    """Coordinates and alpha (0–1); None where the tokens give none. origin: those whose names may be used."""
    given = [t for t in tokens if t not in ("/", ",")]
    slashes = [at for at, t in enumerate(tokens) if t == "/"]
    if len(given) not in (3, 4) or slashes not in ([], [3]):
        return None
    names = {"none": 0.0}
    if origin is not None:
        names["alpha"] = origin[1]
        names.update((name, part * of) for (name, of, _), part in zip(channels, origin[0], strict=True))
    made = [_number(t, names, whole) for t, (_, _, whole) in zip(given, channels, strict=False)]
    alpha = _number(given[3], names, 1.0) if len(given) == 4 else names.get("alpha", 1.0)
    if alpha is None or None in made:
        return None
    a, b, c = ((part or 0.0) / of for part, (_, of, _) in zip(made, channels, strict=True))
    return (a, b, c), min(1.0, max(0.0, alpha))


def _number(token: Any, names: dict[str, float], whole: float) -> float | None:
    """What a part comes to; None where it is none, as a sum of a number and an angle (Values 4 §10.2)."""
    found = parse_length(_plain(token, names, 0), number=True)
    number = None if found is None else _outcome(found, whole)
    return number if number is None else 0.0 if isnan(number) else min(_MOST, max(-_MOST, number))


def _outcome(value: Dimension | CalcNode | str, whole: float) -> float | None:
    if isinstance(value, CalcNode):
        parts = [_outcome(part, whole) for part in value.args]
        return None if None in parts else apply_math(value.op, [part or 0.0 for part in parts])
    if not isinstance(value, Dimension) or value.unit not in ("", "%", _ANGLE) or isnan(value.value):
        return None
    return value.value / 100 * whole if value.unit == "%" else value.value


def _plain(token: Any, names: dict[str, float], depth: int) -> Any:
    """A token with numbers where names stand, and with every angle in degrees."""
    at = token.source_line, token.source_column
    if token.type == "function" and depth < _DEEPEST:
        return FunctionBlock(*at, token.name, [_plain(t, names, depth + 1) for t in token.arguments])
    if token.type == "() block" and depth < _DEEPEST:
        return ParenthesesBlock(*at, [_plain(t, names, depth + 1) for t in token.content])
    if token.type == "ident" and token.lower_value in names:
        number = names[token.lower_value]
        return NumberToken(*at, number, None, repr(number))
    if token.type == "dimension":
        number = token.value * _DEGREES.get(token.lower_unit, nan)
        return DimensionToken(*at, number, None, repr(number), _ANGLE)
    return token
