"""List boxes, whose options are boxes of their own: HTML Standard §15.5.16. Their sizes are those that engines give them."""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import replace
from functools import lru_cache

from redcrate.core.boxes.box import Box
from redcrate.core.boxes.form_controls import FIELD
from redcrate.core.boxes.replaced_elements import rows_of_list
from redcrate.core.boxes.wrapping import block_container
from redcrate.core.markup.elements import Element
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.values import NO_LENGTH, Length
from redcrate.core.text.inline_fonts import inline_font
from redcrate.core.units import STEPS_PER_PX, ZERO, LayoutUnit


def list_box(element: Element, style: ComputedStyle, inside: Sequence[Box]) -> Box:
    """HTML Standard §15.5.16: a list of options, as wide as the widest and so many rows high as it shows.

    inside: the boxes of its options and groups. Every row is as high as the highest.
    """
    rows = [b for b in inside if b.element is not None and b.element.tag in ("option", "optgroup")]
    highest = max((_row_height(b.style) for b in _options_in(rows)), default=_empty_row(style))
    return block_container(_list_style(style, highest * rows_of_list(element)), element, rows, None)


def _options_in(rows: Iterable[Box]) -> Iterator[Box]:
    for row in rows:
        if row.element is not None and row.element.tag == "optgroup":
            yield from _options_in(row.children)
        elif not row.is_anonymous_block:
            yield row


def _row_height(style: ComputedStyle) -> LayoutUnit:
    """How high the box of an option, or of the label of a group, is with one line in it."""
    edges = _edges(style)
    least = ZERO if isinstance(style.min_height, NO_LENGTH) else style.min_height.resolve(ZERO)
    if style.box_sizing == "border-box":
        least -= edges
    return max(least, _line(style)) + edges


def _edges(style: ComputedStyle) -> LayoutUnit:
    paddings = style.padding_top.resolve(ZERO) + style.padding_bottom.resolve(ZERO)
    return style.border_top_width + style.border_bottom_width + paddings


def _line(style: ComputedStyle) -> LayoutUnit:
    font = inline_font(style)
    return font.leading_ascent + font.leading_descent


def _empty_row(style: ComputedStyle) -> LayoutUnit:
    font = inline_font(style)
    return font.ascent + font.descent + STEPS_PER_PX


@lru_cache(maxsize=1000)
def _list_style(style: ComputedStyle, height: LayoutUnit) -> ComputedStyle:
    if style.box_sizing == "border-box":
        height += _edges(style)
    return replace(
        style,
        width=FIELD if style.width == "auto" else style.width,
        height=Length(height / STEPS_PER_PX) if style.height == "auto" else style.height,
        overflow_x="hidden",
        overflow_y="hidden",
    )
