"""What stands for an image that is not there: HTML Standard §15.4.2."""

from dataclasses import replace
from functools import lru_cache

from redcrate.core.boxes.box import Box, BoxKind
from redcrate.core.boxes.image_size import IntrinsicSize
from redcrate.core.boxes.long_texts import bounded
from redcrate.core.style.anonymous import inherited_style
from redcrate.core.style.computed import ComputedStyle

_ICON = IntrinsicSize(16.0, 16.0, None)  # px, as engines draw it


@lru_cache(maxsize=1000)
def fallback_style(style: ComputedStyle, without: frozenset[str]) -> ComputedStyle:
    """The style of the box: an inline image is an inline-block; `without`: sizes that do not count."""
    display = "inline-block" if style.display == "inline" else style.display
    return replace(
        style,
        display=display,
        overflow_x="visible",  # it stands on the baseline of its text
        overflow_y="visible",
        width="auto" if "width" in without else style.width,
        height="auto" if "height" in without else style.height,
    )


@lru_cache(maxsize=1000)
def _icon_style(style: ComputedStyle) -> ComputedStyle:
    return replace(inherited_style(style, display="block"), float_="left")


@lru_cache(maxsize=1000)
def _text_style(style: ComputedStyle) -> ComputedStyle:
    return inherited_style(style, display="inline")


def fallback_content(style: ComputedStyle, alt: str) -> list[Box]:
    """The icon, which floats, and the alternative text."""
    icon = Box(BoxKind.REPLACED, _icon_style(style), intrinsic=_ICON)
    return [icon, Box(BoxKind.TEXT, _text_style(style), text=bounded(alt))] if alt else [icon]
