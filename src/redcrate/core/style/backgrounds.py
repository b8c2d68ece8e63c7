"""Background layers and shadows as values: CSS Backgrounds 3 §2 and §6."""

from collections.abc import Callable
from typing import Any

from redcrate.core.records import dataclass
from redcrate.core.style import property_parsers as pp
from redcrate.core.style.calc import parse_length
from redcrate.core.style.colours import Colour
from redcrate.core.style.images import ZERO, Amount, Point, image, position
from redcrate.core.style.property_parsers import Tokens
from redcrate.core.style.values import Dimension

_REPEATS = ("repeat", "no-repeat", "space", "round")
_NOTHING = Dimension(0.0, "px")
BOXES = ("border-box", "padding-box", "content-box")
AT_START = Point(ZERO, ZERO)


@dataclass(frozen=True, slots=True)
class TileSize:
    """How large a picture is: "cover", "contain", or two lengths, None for auto (§2.9)."""

    word: str = ""
    width: Amount | None = None
    height: Amount | None = None


@dataclass(frozen=True, slots=True)
class Shadow:
    """One shadow (§6.1); no room is taken by it."""

    x: Amount
    y: Amount
    blur: Amount
    spread: Amount
    colour: Colour | str
    inset: bool


def layered(one: Callable[[Tokens], Any]) -> pp.Parser:
    """A parser of layers between commas: a tuple of what `one` makes of each."""

    def parse(tokens: Tokens) -> Any:
        layers = [one(part) for part in pp.split_commas(tokens)]
        return None if any(layer is None for layer in layers) else tuple(layers)

    return parse


def tile_size(tokens: Tokens) -> Any:
    """§2.9: cover, contain, or one or two lengths or `auto`."""
    word = pp.keyword("cover", "contain")(tokens)
    if word is not None:
        return TileSize(word)
    if not 1 <= len(tokens) <= 2:
        return None
    found: list[Any] = []
    for token in tokens:
        if pp.keyword("auto")([token]):
            found.append(None)
            continue
        length = parse_length(token, negative=False)
        if length is None:
            return None
        found.append(length)
    return TileSize("", found[0], found[1] if len(found) > 1 else None)


def repeat(tokens: Tokens) -> Any:
    """§2.4: how a picture repeats across and down."""
    words = [pp.keyword("repeat-x", "repeat-y", *_REPEATS)([t]) for t in tokens]
    if words == ["repeat-x"]:
        return ("repeat", "no-repeat")
    if words == ["repeat-y"]:
        return ("no-repeat", "repeat")
    if not 1 <= len(words) <= 2 or any(w is None or w[-2:] in ("-x", "-y") for w in words):
        return None
    return (words[0], words[-1])


def shadows(tokens: Tokens) -> Any:
    """§6.1: `none`, or shadows between commas."""
    if pp.keyword("none")(tokens):
        return ()
    return layered(_shadow)(tokens)


def text_shadows(tokens: Tokens) -> Any:
    """CSS Text Decoration 3 §4: like those of boxes, but none is inset or spread."""
    found = shadows(tokens)
    plain = found is not None and all(not s.inset and s.spread is _NOTHING for s in found)
    return found if plain else None


def _shadow(tokens: Tokens) -> Any:
    lengths: list[Any] = []
    shade: Any = None
    inset = False
    for token in tokens:
        length = parse_length(token, percent=False)
        if length is not None:
            lengths.append(length)
        elif pp.keyword("inset")([token]) and not inset:
            inset = True
        elif shade is None and (found := pp.colour([token])) is not None:
            shade = found
        else:
            return None
    if not 2 <= len(lengths) <= 4:
        return None
    x, y, blur, spread = (*lengths, _NOTHING, _NOTHING)[:4]
    return Shadow(x, y, blur, spread, shade or "currentcolor", inset)


@dataclass(frozen=True, slots=True)
class Layer:
    """One layer of the shorthand (§2.10); None: not given."""

    image: Any = None
    position: Point | None = None
    size: TileSize | None = None
    repeat: Any = None
    attachment: str | None = None
    boxes: tuple[str, ...] = ()
    colour: Any = None


def layer(tokens: Tokens) -> Layer | None:  # noqa: C901 parts in any order
    """One layer of `background`; its parts in any order, the size behind a slash."""
    if not tokens:
        return None
    given: dict[str, Any] = {}
    boxes: list[str] = []
    runs: dict[str, Tokens] = {"position": [], "size": [], "repeat": []}
    target = "position"
    for token in tokens:
        if token.type == "literal" and token.value == "/":
            target = "size"
            continue
        kind, value = _kind(token)
        if kind == "boxes":
            boxes.append(value)
        elif kind == "repeat":
            runs["repeat"].append(token)
        elif kind == "place":
            runs[target].append(token)
        elif kind and kind not in given:
            given[kind] = value
        else:
            return None
    readers: dict[str, Callable[[Tokens], Any]] = {
        "position": position,
        "size": tile_size,
        "repeat": repeat,
    }
    for name, reader in readers.items():
        if runs[name]:
            given[name] = reader(runs[name])
            if given[name] is None:
                return None
    return None if len(boxes) > 2 else Layer(boxes=tuple(boxes), **given)


def _kind(token: Any) -> tuple[str, Any]:
    """Which part of a layer a token belongs to."""
    found = image([token])
    if found is not None:
        return "image", found
    for name, words in (("attachment", ("scroll", "fixed", "local")), ("boxes", BOXES)):
        word = pp.keyword(*words)([token])
        if word is not None:
            return name, word
    if pp.keyword("repeat-x", "repeat-y", *_REPEATS)([token]):
        return "repeat", None
    places = ("left", "right", "top", "bottom", "center", "auto", "cover", "contain")
    if pp.length(*places)([token]) is not None:
        return "place", None
    shade = pp.colour([token])
    return ("colour", shade) if shade is not None else ("", None)
