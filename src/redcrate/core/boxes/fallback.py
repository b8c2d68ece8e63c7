"""What stands for an image that is not there: HTML Standard §15.4.2."""

from dataclasses import replace
from functools import lru_cache

from redcrate.core.boxes.box import Box, BoxKind
from redcrate.core.boxes.image_size import IntrinsicSize
from redcrate.core.boxes.long_texts import bounded
from redcrate.core.markup.elements import DocumentMode
from redcrate.core.style.anonymous import inherited_style
from redcrate.core.style.computed import ComputedStyle

_ICON = IntrinsicSize(16.0, 16.0, None)  # px, as engines draw it


@lru_cache(maxsize=1000)
def fallback_style(style: ComputedStyle, *, has_text: bool) -> ComputedStyle:
    """The style of the box: an inline image is an inline-block, and its sizes do not count, however they are given.

    They do where it stands for the picture: without a text where both are given, in quirks mode where one is, which then
    is the other one too.
    """
    width, height = style.width, style.height
    given = (width != "auto") + (height != "auto")
    if given == 2 and not has_text:
        pass
    elif given and style.document_mode is DocumentMode.QUIRKS:
        width, height = (height if width == "auto" else width), (width if height == "auto" else height)
    elif style.display == "inline":
        width = height = "auto"
    kept = width == style.width and height == style.height
    return replace(
        style,
        display={"inline": "inline-block", "block": "flow-root"}.get(style.display, style.display),
        overflow_x="visible",  # it stands on the baseline of its text
        overflow_y="visible",
        width=width,
        height=height,
        aspect_ratio=style.aspect_ratio if kept and given else "auto",
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
