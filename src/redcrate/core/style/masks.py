"""Mask layers as values: CSS Masking 1 §7. Their images, places and sizes are written as those of backgrounds."""

from typing import Any

from redcrate.core.style import backgrounds
from redcrate.core.style import property_parsers as pp
from redcrate.core.style.property_parsers import Tokens

# How the standard names boxes of SVG, and what CSS boxes they are (§7.5).
_SVG_BOXES = ("fill-box", "stroke-box", "view-box", "margin-box")
ORIGINS = (*backgrounds.BOXES, *_SVG_BOXES)
CLIPS = (*ORIGINS, "no-clip", "text")
MODES = ("match-source", "alpha", "luminance")
COMPOSITES = ("add", "subtract", "intersect", "exclude")
_INITIAL = {"mode": "match-source", "composite": "add"}


def mask(tokens: Tokens) -> dict[str, Any] | None:
    """The longhands of `mask` (§7.9): layers of an image, its place, and what is done with it."""
    layers = [_layer(part) for part in pp.split_commas(tokens)]
    valid = [layer for layer in layers if layer is not None]
    if not valid or len(valid) != len(layers):
        return None
    return {f"mask-{part}": tuple(layer[part] for layer in valid) for part in valid[0]}


def _layer(tokens: Tokens) -> dict[str, Any] | None:
    found, rest, clip = dict(_INITIAL), [], ""
    for token in tokens:
        for part, words in (("mode", MODES), ("composite", COMPOSITES)):
            word = pp.keyword(*words)([token])
            if word:
                found[part] = word
                break
        else:
            if pp.keyword("no-clip")([token]):
                clip = "no-clip"
            elif not pp.keyword(*_SVG_BOXES)([token]):
                rest.append(token)
    layer = backgrounds.layer(rest) if rest else backgrounds.Layer()
    if layer is None or layer.colour is not None or layer.attachment is not None or not tokens:
        return None
    boxes = layer.boxes or ("border-box",)
    return {
        "image": layer.image or "none",
        "position": layer.position or backgrounds.AT_START,
        "size": layer.size or backgrounds.TileSize(),
        "repeat": layer.repeat or ("repeat", "repeat"),
        "origin": boxes[0],
        "clip": clip or boxes[-1],
        **found,
    }
