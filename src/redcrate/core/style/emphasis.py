"""Emphasis marks as values: CSS Text Decoration 3 §3."""

from typing import Any

from redcrate.core.style import property_parsers as pp
from redcrate.core.style.property_parsers import Tokens

# §3.1: the characters of filled and open marks.
_MARKS = {
    "dot": "\u2022\u25e6",
    "circle": "\u25cf\u25cb",
    "double-circle": "\u25c9\u25ce",
    "triangle": "\u25b2\u25b3",
    "sesame": "\ufe45\ufe46",
}
_FILLS = ("filled", "open")


def style(tokens: Tokens) -> Any:
    """The mark as a character, "" for none; a word for the fill alone means dots."""
    if pp.keyword("none")(tokens):
        return ""
    if len(tokens) == 1 and tokens[0].type == "string":
        return tokens[0].value[:1]
    words = [t.lower_value if t.type == "ident" else "" for t in tokens]
    fills = [w for w in words if w in _FILLS]
    shapes = [w for w in words if w in _MARKS]
    if not words or len(fills) > 1 or len(shapes) > 1 or len(fills) + len(shapes) != len(words):
        return None
    return _MARKS[shapes[0] if shapes else "dot"][fills == ["open"]]


def colour(tokens: Tokens) -> Any:
    """A colour; "" for currentcolor, which is that of the text wherever it is inherited (CSS Color 4 §4.4)."""
    found = pp.colour(tokens)
    return "" if found == "currentcolor" else found


def position(tokens: Tokens) -> Any:
    """§3.4: `over` or `under`; the side is that of vertical text."""
    words = [t.lower_value if t.type == "ident" else "" for t in tokens]
    found = [w for w in words if w in ("over", "under")]
    sides = [w for w in words if w in ("left", "right")]
    return found[0] if len(found) == 1 and len(sides) < 2 and len(words) == 1 + len(sides) else None


def text_emphasis(tokens: Tokens) -> dict[str, Any] | None:
    """The longhands of `text-emphasis` (§3.3): a style and a colour in any order."""
    shades = [t for t in tokens if colour([t]) is not None]
    marks = [t for t in tokens if colour([t]) is None]
    if not tokens or len(shades) > 1:
        return None
    found = style(marks) if marks else ""
    if found is None:
        return None
    return {"text-emphasis-style": found, "text-emphasis-color": colour(shades) if shades else ""}
