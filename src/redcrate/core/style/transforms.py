"""Parsers of transforms in the plane: CSS Transforms 1 §4 and §5, CSS Transforms 2 §5.

A transform list is a tuple of functions: ("translate", x, y) with lengths, ("scale", x, y),
("rotate", degrees), ("skew", degrees, degrees), ("matrix", a, b, c, d, e, f). What turns a box out of the
plane is no value here, so that a page is told that it is not computed.
"""

from collections.abc import Callable
from typing import Any

from redcrate.core.style import images
from redcrate.core.style import property_parsers as pp
from redcrate.core.style.calc import parse_length, significant
from redcrate.core.style.property_parsers import Tokens
from redcrate.core.style.values import Dimension

_NOTHING = Dimension(0.0, "px")
_UNMOVED = ("scale", 1.0, 1.0)


def transform(tokens: Tokens) -> Any:
    """`none` (an empty tuple), or functions in order."""
    if pp.keyword("none")(tokens):
        return ()
    found = [_function(token) for token in tokens]
    return None if not found or None in found else tuple(found)


def _function(token: Any) -> tuple[Any, ...] | None:
    if token.type != "function":
        return None
    parts = pp.split_commas(significant(token.arguments))
    if any(len(part) != 1 for part in parts):
        return None
    reader = _FUNCTIONS.get(token.lower_name)
    return None if reader is None else reader([part[0] for part in parts])


def _lengths(arguments: list[Any]) -> list[Any] | None:
    found = [parse_length(a) for a in arguments]
    return None if None in found else found


def _translate(most: int) -> Callable[[list[Any]], Any]:
    def read(arguments: list[Any]) -> Any:
        found = _lengths(arguments)
        if found is None or not 1 <= len(found) <= most:
            return None
        return ("translate", found[0], found[1] if len(found) > 1 else _NOTHING)

    return read


def _one_way(*, across: bool) -> Callable[[list[Any]], Any]:
    def read(arguments: list[Any]) -> Any:
        found = _lengths(arguments)
        if found is None or len(found) != 1:
            return None
        return ("translate", found[0], _NOTHING) if across else ("translate", _NOTHING, found[0])

    return read


def _numbers(arguments: list[Any], least: int, most: int) -> list[float] | None:
    found = [pp.number([a]) for a in arguments]
    return None if None in found or not least <= len(found) <= most else found


def _scale(most: int) -> Callable[[list[Any]], Any]:
    def read(arguments: list[Any]) -> Any:
        found = _numbers(arguments, 1, most)
        return None if found is None else ("scale", found[0], found[1] if len(found) > 1 else found[0])

    return read


def _scale_one_way(*, across: bool) -> Callable[[list[Any]], Any]:
    def read(arguments: list[Any]) -> Any:
        found = _numbers(arguments, 1, 1)
        if found is None:
            return None
        return ("scale", found[0], 1.0) if across else ("scale", 1.0, found[0])

    return read


def _rotate(arguments: list[Any]) -> Any:
    angle = images.angle_in_degrees(arguments[0]) if len(arguments) == 1 else None
    return None if angle is None else ("rotate", angle)


def _skew(*, across: bool, down: bool) -> Callable[[list[Any]], Any]:
    def read(arguments: list[Any]) -> Any:
        angles = [images.angle_in_degrees(a) for a in arguments]
        if None in angles or not 1 <= len(angles) <= (2 if across and down else 1):
            return None
        if across and down:
            return ("skew", angles[0], angles[1] if len(angles) > 1 else 0.0)
        return ("skew", angles[0], 0.0) if across else ("skew", 0.0, angles[0])

    return read


def _matrix(arguments: list[Any]) -> Any:
    found = _numbers(arguments, 6, 6)
    return None if found is None else ("matrix", *found)


_FUNCTIONS: dict[str, Callable[[list[Any]], Any]] = {
    "translate": _translate(2),
    "translatex": _one_way(across=True),
    "translatey": _one_way(across=False),
    "translate3d": _translate(3),
    "translatez": lambda arguments: None if _lengths(arguments) is None else _UNMOVED,
    "scale": _scale(2),
    "scalex": _scale_one_way(across=True),
    "scaley": _scale_one_way(across=False),
    "scale3d": _scale(3),
    "rotate": _rotate,
    "rotatez": _rotate,
    "skew": _skew(across=True, down=True),
    "skewx": _skew(across=True, down=False),
    "skewy": _skew(across=False, down=True),
    "matrix": _matrix,
}


def translate(tokens: Tokens) -> Any:
    """CSS Transforms 2 §5.1: `none`, or one to three lengths."""
    return () if pp.keyword("none")(tokens) else _listed(_translate(3)(list(tokens)))


def scale(tokens: Tokens) -> Any:
    """CSS Transforms 2 §5.3: `none`, or one to three numbers."""
    return () if pp.keyword("none")(tokens) else _listed(_scale(3)(list(tokens)))


def rotate(tokens: Tokens) -> Any:
    """CSS Transforms 2 §5.2: `none`, or an angle, round the z axis."""
    words = [t for t in tokens if not (t.type == "ident" and t.lower_value == "z")]
    return () if pp.keyword("none")(tokens) else _listed(_rotate(words))


def _listed(function: Any) -> Any:
    return None if function is None else (function,)


def origin(tokens: Tokens) -> Any:
    """CSS Transforms 1 §6: a place in the box; how far in front of it does not matter in the plane."""
    if len(tokens) == 3 and parse_length(tokens[2], percent=False) is not None:
        tokens = tokens[:2]
    return images.position(tokens) if len(tokens) <= 2 else None
