"""Images as values: addresses and gradients (CSS Images 3 §2 and §3; conic ones: CSS Images 4 §3.3).

Lengths in them are specified values until `computing.py` has gone through them.
"""

import math
from typing import Any, TypeAlias

from redcrate.core.records import dataclass
from redcrate.core.style import property_parsers as pp
from redcrate.core.style.calc import parse_length
from redcrate.core.style.colours import Colour
from redcrate.core.style.property_parsers import Tokens, Url
from redcrate.core.style.values import CalcNode, Dimension, LengthValue

# A length before and after computing.
Amount: TypeAlias = Dimension | CalcNode | LengthValue
ZERO, HALF, WHOLE = Dimension(0.0, "%"), Dimension(50.0, "%"), Dimension(100.0, "%")
_DEGREES = {"deg": 1.0, "grad": 0.9, "rad": 180 / math.pi, "turn": 360.0}
_DOTS = {"x": 1.0, "dppx": 1.0, "dpi": 1 / 96, "dpcm": 2.54 / 96}
_OF_TODAY = frozenset(("color", "color-mix", "lab", "lch", "oklab", "oklch"))
_SIDES = {"top": (1, ZERO), "bottom": (1, WHOLE), "left": (0, ZERO), "right": (0, WHOLE)}


@dataclass(frozen=True, slots=True)
class Point:
    """A position in an area: percentages of the free room (CSS Values 4 §9.2)."""

    x: Amount
    y: Amount


@dataclass(frozen=True, slots=True)
class Stop:
    """A colour stop; place: a length, or degrees of a conic gradient; None: between its neighbours.

    A hint, which moves the middle between two colours, has no colour.
    """

    colour: Colour | str | None
    place: Amount | float | None


@dataclass(frozen=True, slots=True)
class Gradient:
    """A gradient image.

    kind: "linear", "radial" or "conic". angle: degrees, 0 upwards, for linear and conic ones. corner: the
    signs of x and y towards a corner, instead of an angle. circle, extent, radii: the shape of a radial
    one. centre: of radial and conic ones. space: in which colours are mixed; "" for sRGB.
    """

    kind: str
    repeating: bool
    stops: tuple[Stop, ...]
    angle: float = 180.0
    corner: tuple[int, int] | None = None
    circle: bool = False
    extent: str = "farthest-corner"
    radii: tuple[Amount, ...] = ()
    centre: Point = Point(HALF, HALF)
    space: str = ""


Image: TypeAlias = Url | Gradient | str  # str: "none", or the text of an image that is not painted


def images(tokens: Tokens) -> Any:
    """Background layers: a tuple of images."""
    layers = [image(layer) for layer in pp.split_commas(tokens)]
    return None if any(found is None for found in layers) else tuple(layers)


def image(tokens: Tokens) -> Any:
    """One image: an address, a gradient, "none", or the text of another image function."""
    if len(tokens) != 1:
        return None
    token = tokens[0]
    if token.type == "url":
        return Url(token.value)
    if token.type != "function":
        return pp.keyword("none")(tokens)
    name = token.lower_name.removeprefix("-webkit-").removeprefix("-moz-")
    if name == "url":
        inner = [t for t in token.arguments if t.type == "string"]
        return Url(inner[0].value) if inner else None
    if token.lower_name.endswith("-gradient") and not token.lower_name.startswith("-"):
        return _gradient(token)
    if name == "image-set":
        return _of_set(token)
    if name.endswith(("gradient", "cross-fade")):
        return pp.as_written([token])
    return None


def _of_set(token: Any) -> Any:
    """CSS Images 4 §2.4: of several resolutions that for a screen with one dot a px, or the nearest one above."""
    found: list[tuple[float, Any]] = []
    inner = [t for t in token.arguments if t.type not in ("whitespace", "comment")]
    for part in pp.split_commas(inner):
        if not part:
            return None
        first = part[0]
        picture = Url(first.value) if first.type == "string" else image([first])
        if picture is None:
            return None
        sizes = [t for t in part[1:] if t.type == "dimension" and t.lower_unit in _DOTS]
        found.append((float(sizes[0].value) * _DOTS[sizes[0].lower_unit] if sizes else 1.0, picture))
    return min(found, key=lambda one: (one[0] < 1, one[0]), default=(0.0, None))[1]


def _gradient(token: Any) -> Gradient | None:
    """§3.1–3.4: the line or shape before the first comma, then the stops."""
    name = token.lower_name
    repeating = name.startswith("repeating-")
    kind = name.removeprefix("repeating-").removesuffix("-gradient")
    inner = [t for t in token.arguments if t.type not in ("whitespace", "comment")]
    parts = pp.split_commas(inner)
    reader = {"linear": _line, "radial": _shape, "conic": _sweep}.get(kind)
    if reader is None:
        return None
    first, space = _space(parts[0])
    head = reader(first) if first else {} if space else None
    stops = _stops(parts[1:] if head is not None else parts, degrees=kind == "conic")
    if stops is None or sum(s.colour is not None for s in stops) < 2:
        return None
    if not space and any(t.type == "function" and t.lower_name in _OF_TODAY for t in inner):
        space = "oklab"  # Color 4 §12.1: as soon as one of the colours is not written as of old
    said = {"angle": 0.0 if kind == "conic" else 180.0, **(head or {})}
    return Gradient(kind, repeating, stops, space=space, **said)


def _space(tokens: Tokens) -> tuple[Tokens, str]:
    """CSS Images 4 §3.1: the rest of a head, and the space that `in` names, before or behind it."""
    words = _words(tokens)
    if "in" not in words[:-1]:
        return tokens, ""
    at = words.index("in")
    end = at + 4 if "hue" in words[at + 2 : at + 4] else at + 2
    return [*tokens[:at], *tokens[end:]], words[at + 1]


def angle_in_degrees(token: Any) -> float | None:
    """An angle in degrees; 0 may stand without a unit (CSS Values 4 §7.1). None for other values."""
    if token.type == "dimension" and token.lower_unit in _DEGREES:
        return float(token.value) * _DEGREES[token.lower_unit]
    return 0.0 if token.type == "number" and token.value == 0 else None


def _words(tokens: Tokens) -> list[str]:
    return [t.lower_value if t.type == "ident" else "" for t in tokens]


def _line(tokens: Tokens) -> dict[str, Any] | None:
    """§3.1.1: an angle, or `to` a side or corner."""
    if len(tokens) == 1:
        angle = angle_in_degrees(tokens[0])
        return None if angle is None else {"angle": angle}
    words = _words(tokens)
    if words[0] != "to" or not 2 <= len(words) <= 3:
        return None
    x = {"left": -1, "right": 1}
    y = {"top": -1, "bottom": 1}
    across, down = [x[w] for w in words[1:] if w in x], [y[w] for w in words[1:] if w in y]
    if len(across) + len(down) != len(words) - 1 or len(across) > 1 or len(down) > 1:
        return None
    if across and down:
        return {"corner": (across[0], down[0])}
    return {"angle": 90.0 * (2 - across[0]) if across else 90.0 * (1 + down[0])}


def _shape(tokens: Tokens) -> dict[str, Any] | None:
    """§3.2.1: the shape, its size, and `at` a position."""
    words = _words(tokens)
    at = words.index("at") if "at" in words else len(tokens)
    out: dict[str, Any] = {}
    radii: list[Amount] = []
    for token, word in zip(tokens[:at], words[:at], strict=True):
        length = parse_length(token, negative=False)
        if word in ("circle", "ellipse"):
            out["circle"] = word == "circle"
        elif word in ("closest-side", "closest-corner", "farthest-side", "farthest-corner"):
            out["extent"] = word
        elif length is not None:
            radii.append(length)
        else:
            return None
    if radii:
        out["radii"] = tuple(radii)
        out["circle"] = len(radii) == 1
    return _centred(out, tokens[at:])


def _centred(out: dict[str, Any], rest: Tokens) -> dict[str, Any] | None:
    """The shape with the centre that `at` gives it; `rest` begins with that word, or is empty."""
    if not rest:
        return out
    centre = position(rest[1:])
    return None if centre is None else out | {"centre": centre}


def _sweep(tokens: Tokens) -> dict[str, Any] | None:
    """CSS Images 4 §3.3.1: `from` an angle, `at` a position."""
    words = _words(tokens)
    out: dict[str, Any] = {"angle": 0.0}
    at = words.index("at") if "at" in words else len(tokens)
    if at >= 2 and words[0] == "from":
        angle = angle_in_degrees(tokens[1])
        if angle is None:
            return None
        out["angle"] = angle
    elif at != 0:
        return None
    return _centred(out, tokens[at:])


def _stops(parts: list[Tokens], *, degrees: bool) -> tuple[Stop, ...] | None:
    """§3.4: colours with up to two places, and hints between them."""
    stops: list[Stop] = []
    for part in parts:
        if not part or len(part) > 3:
            return None
        colours = [c for t in part if (c := pp.colour([t])) is not None]
        places = [p for t in part if (p := _place(t, degrees=degrees)) is not None]
        if len(colours) > 1 or len(colours) + len(places) != len(part):
            return None
        shade = colours[0] if colours else None
        stops += [Stop(shade, p) for p in places] or [Stop(shade, None)]
    return tuple(stops)


def _place(token: Any, *, degrees: bool) -> Amount | float | None:
    if not degrees:
        return parse_length(token)
    if token.type == "percentage":
        return float(token.value) * 3.6
    return angle_in_degrees(token)


def position(tokens: Tokens) -> Point | None:
    """CSS Backgrounds 3 §2.6: one to four words and lengths."""
    if not 1 <= len(tokens) <= 4:
        return None
    groups = _position_groups(tokens)
    if groups is None:
        return None
    found: list[Amount | None] = [None, None]
    free: list[Amount] = []
    for word, amount in groups:
        if word in _SIDES:
            axis, edge = _SIDES[word]
            if found[axis] is not None:
                return None
            found[axis] = _from_edge(edge, amount)
        else:
            free.append(HALF if word == "center" else amount)
    for amount in free:
        axis = 0 if found[0] is None else 1
        if found[axis] is not None:
            return None
        found[axis] = amount
    return Point(found[0] or HALF, found[1] or HALF)


def _position_groups(tokens: Tokens) -> list[tuple[str, Any]] | None:
    """Each word with the length behind it, and lengths of their own."""
    groups: list[tuple[str, Any]] = []
    offsets = len(tokens) > 2  # only then a length belongs to the word before it
    for token in tokens:
        length = parse_length(token)
        word = token.lower_value if token.type == "ident" else ""
        if word in _SIDES or word == "center":
            groups.append((word, None))
        elif length is None:
            return None
        elif offsets and groups and groups[-1][0] in _SIDES and groups[-1][1] is None:
            groups[-1] = (groups[-1][0], length)
        else:
            groups.append(("", length))
    return groups if len(groups) <= 2 else None


def _from_edge(edge: Dimension, amount: Any) -> Amount:
    if amount is None:
        return edge
    if edge is ZERO:
        kept: Amount = amount
        return kept
    return CalcNode("+", (WHOLE, CalcNode("*", (amount, Dimension(-1.0, "")))))
