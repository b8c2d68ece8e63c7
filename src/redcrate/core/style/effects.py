"""What is done to the picture of a box: `clip-path` (Masking 1 §5.1, Shapes 1 §4) and `filter` (Filter Effects 1 §5).

A shape is ("inset", top, right, bottom, left, radius), ("circle", radius, centre), ("ellipse", across, down, centre) or
("polygon", points): a radius is a length or the name of a side. A filter is a tuple of (name, amount), (name, length) or
(name, shadow). Lengths in them are specified values until `computing.py` has gone through them.
"""

from typing import Any

from redcrate.core.style import backgrounds, images
from redcrate.core.style import property_parsers as pp
from redcrate.core.style.calc import parse_length, significant
from redcrate.core.style.images import HALF, Point, angle_in_degrees
from redcrate.core.style.property_parsers import Tokens
from redcrate.core.style.values import Dimension

_NONE = pp.keyword("none")
_BOXES = pp.keyword(
    "border-box", "padding-box", "content-box", "margin-box", "fill-box", "stroke-box", "view-box"
)
_RADII = pp.keyword("closest-side", "farthest-side")
_ZERO = Dimension(0.0, "px")
_AMOUNTS = frozenset("grayscale sepia saturate invert opacity brightness contrast".split())


def clip_path(tokens: Tokens) -> Any:
    """`none` (an empty tuple), or a basic shape; a box beside it is taken for the border box, as it is by default."""
    if _NONE(tokens):
        return ()
    shapes = [t for t in tokens if t.type == "function"]
    boxes = [t for t in tokens if _BOXES([t])]
    if len(shapes) + len(boxes) != len(tokens) or len(shapes) > 1 or len(boxes) > 1:
        return None
    if not shapes:
        return ()
    reader = {"inset": _inset, "circle": _circle, "ellipse": _ellipse, "polygon": _polygon}.get(
        shapes[0].lower_name
    )
    return None if reader is None else reader(significant(shapes[0].arguments))


def _words(tokens: Tokens) -> list[str]:
    return [t.lower_value if t.type == "ident" else "" for t in tokens]


def _inset(tokens: Tokens) -> Any:
    words = _words(tokens)
    at = words.index("round") if "round" in words else len(tokens)
    edges = [parse_length(t) for t in tokens[:at]]
    radius = [parse_length(t, negative=False) for t in tokens[at + 1 :][:1]]
    if not 1 <= len(edges) <= 4 or None in edges or None in radius:
        return None
    top = edges[0]
    right = edges[1] if len(edges) > 1 else top
    bottom = edges[2] if len(edges) > 2 else top
    left = edges[3] if len(edges) > 3 else right
    return ("inset", top, right, bottom, left, radius[0] if radius else _ZERO)


def _centre(tokens: Tokens) -> tuple[Tokens, Point | None]:
    words = _words(tokens)
    if "at" not in words:
        return tokens, Point(HALF, HALF)
    at = words.index("at")
    return tokens[:at], images.position(tokens[at + 1 :])


def _radius(token: Any) -> Any:
    found = parse_length(token, negative=False)
    return _RADII([token]) if found is None else found


def _circle(tokens: Tokens) -> Any:
    radii, centre = _centre(tokens)
    radius = "closest-side" if not radii else _radius(radii[0])
    return None if len(radii) > 1 or radius is None or centre is None else ("circle", radius, centre)


def _ellipse(tokens: Tokens) -> Any:
    radii, centre = _centre(tokens)
    found = [_radius(t) for t in radii] or ["closest-side", "closest-side"]
    if len(found) != 2 or None in found or centre is None:
        return None
    return ("ellipse", *found, centre)


def _polygon(tokens: Tokens) -> Any:
    parts = pp.split_commas(tokens)
    if parts and _words(parts[0]) in (["nonzero"], ["evenodd"]):
        parts = parts[1:]
    points = []
    for part in parts:
        lengths = [parse_length(t) for t in part]
        if len(lengths) != 2 or None in lengths:
            return None
        points.append(Point(*lengths))  # type: ignore[arg-type]  # none of them is None
    return ("polygon", tuple(points)) if len(points) > 2 else None


def filters(tokens: Tokens) -> Any:
    """`none` (an empty tuple), or functions in order; what an address names is not read."""
    if _NONE(tokens):
        return ()
    found = [_filter(t) for t in tokens]
    return None if not found or None in found else tuple(found)


def _filter(token: Any) -> Any:
    if token.type != "function":
        return None
    name, inner = token.lower_name, significant(token.arguments)
    if name in _AMOUNTS:
        amount = pp.number(inner) if inner else 1.0
        return None if amount is None or amount < 0 else (name, float(amount))
    if name == "blur":
        length = parse_length(inner[0], percent=False, negative=False) if len(inner) == 1 else _ZERO
        return None if length is None else (name, length)
    if name == "hue-rotate":
        angle = angle_in_degrees(inner[0]) if len(inner) == 1 else 0.0
        return None if angle is None else (name, angle)
    if name == "drop-shadow":
        shadow = backgrounds.text_shadows(inner)
        return None if not shadow else (name, shadow[0])
    return None
