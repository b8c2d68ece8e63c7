"""Border images as values: CSS Backgrounds 3 §6.

A number in a slice is so many px of the picture; in a width or an outset it is ("times", so many border widths).
"""

from typing import Any

from redcrate.core.style import property_parsers as pp
from redcrate.core.style.calc import parse_length
from redcrate.core.style.images import image
from redcrate.core.style.property_parsers import Tokens
from redcrate.core.style.values import Dimension

WHOLE = Dimension(100.0, "%")
ONCE = ("times", 1.0)
NOTHING = ("times", 0.0)
_REPEATS = pp.keyword("stretch", "repeat", "round", "space")


def _four(found: list[Any]) -> Any:
    if not 1 <= len(found) <= 4 or None in found:
        return None
    return tuple(found[at] for at in pp.ONE_TO_FOUR[len(found) - 1])


def _size(token: Any, *, percent: bool) -> Any:
    if token.type == "number":
        return ("times", float(token.value)) if token.value >= 0 else None
    return parse_length(token, percent=percent, negative=False)


def slices(tokens: Tokens) -> Any:
    """§6.2: how far in the picture is cut, clockwise from the top, and whether its middle is painted."""
    rest = [t for t in tokens if not pp.keyword("fill")([t])]
    if len(tokens) - len(rest) > 1 or any(t.type not in ("number", "percentage") for t in rest):
        return None
    four = _four([parse_length(t, number=True, negative=False) for t in rest])
    return None if four is None else (*four, len(rest) < len(tokens))


def widths(tokens: Tokens) -> Any:
    """§6.3: how wide the image's border is; auto: as wide as its slice."""
    auto = pp.keyword("auto")
    return _four([auto([t]) or _size(t, percent=True) for t in tokens])


def outsets(tokens: Tokens) -> Any:
    """§6.4: how far out of the border box it begins."""
    return _four([_size(t, percent=False) for t in tokens])


def repeats(tokens: Tokens) -> Any:
    """§6.5: how the parts of the sides fill them, across and down."""
    words = [_REPEATS([t]) for t in tokens]
    return (words[0], words[-1]) if 1 <= len(words) <= 2 and None not in words else None


def border_image(tokens: Tokens) -> dict[str, Any] | None:
    """The longhands of `border-image` (§6.6): a source, slices / widths / outsets, and repeats."""
    source: Any = None
    runs: list[Tokens] = [[]]
    words: Tokens = []
    for token in tokens:
        found = image([token])
        if found is not None and source is None:
            source = found
        elif _REPEATS([token]):
            words.append(token)
        elif token.type == "literal" and token.value == "/":
            runs.append([])
        else:
            runs[-1].append(token)
    if not tokens or len(runs) > 3:
        return None
    parsed = {
        "border-image-source": source or "none",
        "border-image-slice": slices(runs[0]) if runs[0] else _default(runs, (*[WHOLE] * 4, False)),
        "border-image-width": widths(runs[1]) if runs[1:] and runs[1] else (ONCE,) * 4,
        "border-image-outset": outsets(runs[2]) if runs[2:] else (NOTHING,) * 4,
        "border-image-repeat": repeats(words) if words else ("stretch", "stretch"),
    }
    return None if None in parsed.values() else parsed


def _default(runs: list[Tokens], initial: Any) -> Any:
    """Without slices there is nothing behind a slash either."""
    return initial if len(runs) == 1 else None
