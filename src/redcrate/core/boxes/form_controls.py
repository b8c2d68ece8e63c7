"""Text fields, text areas and menus: HTML Standard §15.5. Their sizes are those that engines give them.

A field of one line is an inline-block with a line in it, so that it stands on the line's baseline; its
width is counted in characters of its font.
"""

from dataclasses import replace
from functools import lru_cache
from math import ceil
from typing import TypeAlias

from redcrate.core.boxes.box import Box, BoxKind
from redcrate.core.boxes.image_size import IntrinsicSize
from redcrate.core.boxes.long_texts import bounded
from redcrate.core.boxes.wrapping import block_container
from redcrate.core.markup.elements import Element
from redcrate.core.markup.numbers import parse_integer
from redcrate.core.style.colours import Colour
from redcrate.core.style.computed import ComputedStyle, LineHeight
from redcrate.core.style.property_parsers import TextIndent
from redcrate.core.style.values import NO_LENGTH, Length, SizeValue
from redcrate.core.text.inline_fonts import inline_font
from redcrate.core.text.shaping import shape
from redcrate.core.units import STEPS_PER_PX, ZERO, LayoutUnit, from_px

_DRAWN = {
    "checkbox": IntrinsicSize(13, 13, None),
    "radio": IntrinsicSize(13, 13, None),
    "range": IntrinsicSize(129, 16, None),
    "color": IntrinsicSize(50, 27, None),
    "file": IntrinsicSize(253, 21, None),
}
# What is inside colours and files has paddings of its own.
_BELOW = {
    k: from_px(b) for k, b in (("checkbox", 0), ("radio", 0), ("range", 0), ("color", 6), ("file", 6))
}
_THUMB = 16  # px, of a range
_ZEROS = 34  # as wide as these is a file field
_NOTHING = IntrinsicSize(0, 0, None)
_FIELD, _ROWS, _COLUMNS = 20, 2, 20  # characters, lines and characters where nothing is said
FIELD = "field"  # a width that no author can write: as wide as its characters say
_SCROLLBAR, _ARROW, _INDENT = 15, 20, 4  # px
_HINT = Colour(117, 117, 117)


# The styles of the track and the thumb of a range, where rules speak of them.
_Parts: TypeAlias = tuple[ComputedStyle | None, ComputedStyle | None]


def control_box(
    element: Element,
    style: ComputedStyle,
    hint: ComputedStyle | None = None,
    parts: _Parts = (None, None),
    button: ComputedStyle | None = None,
) -> Box | None:
    """The box of an input, textarea or select element; None for others.

    hint, button: the styles of its placeholder and of the button of a file field.
    """
    if element.tag == "textarea":
        return Box(BoxKind.REPLACED, style, element, intrinsic=_area_size(element, style))
    if element.tag == "select":
        return _menu(element, style)
    if element.tag != "input":
        return None
    drawn = _DRAWN.get(element.attributes.get("type", "").lower())
    if drawn is not None:
        if is_tick(element) and style.appearance != "none":
            style = _bare(style)
        elif drawn is _DRAWN["range"]:
            drawn = IntrinsicSize(drawn.width, _height_of_range(style, *parts), None)
        elif drawn is _DRAWN["file"]:
            drawn = _size_of_files(style, button)
        elif is_tick(element):
            drawn = _NOTHING  # what no program draws has no size of its own
        return Box(BoxKind.REPLACED, style, element, intrinsic=drawn)
    width = _field_width(_count(element, "size", _FIELD), style)
    return _one_line(element, style, width, *_shown(element), hint)


def _height_of_range(
    style: ComputedStyle, track: ComputedStyle | None, thumb: ComputedStyle | None
) -> float:
    """As high as its track, px: that is as high as the thumb where no length is given, which a program may draw."""
    height: float = _THUMB
    if thumb is not None:
        if style.appearance == "none" and thumb.appearance == "none":
            height = _around(thumb) + (_px(thumb.height) or 0.0)
        height += (_px(thumb.margin_top) or 0.0) + (_px(thumb.margin_bottom) or 0.0)
    if track is None:
        return height
    given, edges = _px(track.height), _around(track)
    if given is not None:
        height = max(given, edges) - edges if track.box_sizing == "border-box" else given
    return height + edges + (_px(track.margin_top) or 0.0) + (_px(track.margin_bottom) or 0.0)


def _size_of_files(style: ComputedStyle, button: ComputedStyle | None) -> IntrinsicSize:
    """A line with a button in it, and room for so many zeros: HTML Standard §15.5.14, as engines make it; px."""
    font = inline_font(style)
    above, below = font.leading_ascent / STEPS_PER_PX, font.leading_descent / STEPS_PER_PX
    if button is not None and button.display != "none":
        own = inline_font(replace(button, line_height=LineHeight("normal")))
        top = button.border_top_width / STEPS_PER_PX + (_px(button.padding_top) or 0.0)
        bottom = button.border_bottom_width / STEPS_PER_PX + (_px(button.padding_bottom) or 0.0)
        above = max(above, own.leading_ascent / STEPS_PER_PX + top + (_px(button.margin_top) or 0.0))
        below = max(
            below, own.leading_descent / STEPS_PER_PX + bottom + (_px(button.margin_bottom) or 0.0)
        )
    return IntrinsicSize(ceil(_ZEROS * _text_width("0", style)), above + below, None)


def _around(style: ComputedStyle) -> float:
    borders = style.border_top_width + style.border_bottom_width
    return borders / STEPS_PER_PX + (_px(style.padding_top) or 0.0) + (_px(style.padding_bottom) or 0.0)


def _px(value: SizeValue) -> float | None:
    """A length in px; None for keywords and what hangs on a percentage."""
    if isinstance(value, NO_LENGTH) or value.has_percent:
        return None
    return value.resolve_px(0.0)


def is_control(element: Element | None) -> bool:
    """Whether an element is a control of a form that a program draws, with a size of its own that it may give up."""
    if element is None or element.tag != "input":
        return element is not None and element.tag == "textarea"
    return element.attributes.get("type", "").lower() != "image"


def is_tick(element: Element) -> bool:
    """Whether an element is a check box or a radio button."""
    kind = element.attributes.get("type", "").lower()
    return element.tag == "input" and kind in ("checkbox", "radio")


def drawn_below(box: Box) -> LayoutUnit | None:
    """How much of a control that a program draws stands below its line's baseline; None where its margin stands on it."""
    element = box.element
    if element is None or element.tag != "input":
        return None
    if is_tick(element) and box.style.appearance == "none":
        return None
    return _BELOW.get(element.attributes.get("type", "").lower())


@lru_cache(maxsize=1000)
def _bare(style: ComputedStyle) -> ComputedStyle:
    """CSS UI 4 §7.2: what a program draws by itself may do without borders and paddings; engines do here."""
    none = Length(0.0)
    return replace(
        style,
        padding_top=none,
        padding_right=none,
        padding_bottom=none,
        padding_left=none,
        border_top_width=ZERO,
        border_right_width=ZERO,
        border_bottom_width=ZERO,
        border_left_width=ZERO,
    )


def _shown(element: Element) -> tuple[str, bool]:
    """What stands in a field of one line, and whether that only says what belongs there."""
    value = element.attributes.get("value", "")
    if element.attributes.get("type", "").lower() == "password":
        value = "•" * min(len(value), 100)
    return (value, False) if value else (element.attributes.get("placeholder", ""), True)


def _menu(element: Element, style: ComputedStyle) -> Box:
    """HTML Standard §15.5.16: a line with what is chosen."""
    options = options_of(element)
    widest = ceil(max((_width_by_words(t, style) for _, t in options), default=0.0))
    chosen = next((t for o, t in options if "selected" in o.attributes), "")
    shown = chosen or "".join(t for _, t in options[:1])
    if style.appearance == "none":
        own = style if style.line_height.kind != "normal" else _line_of_menu(style, 0)
        return _one_line(element, own, widest, shown, False)
    return _one_line(element, _line_of_menu(style, 1), widest + _ARROW, shown, False)


@lru_cache(maxsize=1000)
def _line_of_menu(style: ComputedStyle, apart: int) -> ComputedStyle:
    """A menu has its font's own height, and where it is drawn as one, room around it; px."""
    font = inline_font(style)
    height = (font.ascent + font.descent) / 64 + 2 * apart
    indent = TextIndent(Length(_INDENT * apart))
    return replace(style, line_height=LineHeight("length", height), text_indent=indent)


def options_of(select: Element) -> list[tuple[Element, str]]:
    """The options of a select element and what they say."""
    options = (o for o in select.walk() if o.tag == "option")
    return [(o, " ".join(o.text_content().split())) for o in options]


def _one_line(
    element: Element,
    style: ComputedStyle,
    width: float,
    text: str,
    is_hint: bool,
    hint: ComputedStyle | None = None,
) -> Box:
    """A field with its content width, px, where none is written, and the text in it as far as there is room."""
    own = _field_style(style, width)
    while text and _text_width(text, style) > width:
        text = text[:-1] if len(text) < 200 else text[:199]
    shown = _hint_style(own, hint_colour(style, hint)) if is_hint else own
    return block_container(
        own, element, [Box(BoxKind.TEXT, shown, None, text=bounded(text) or "\u200b")], None
    )


@lru_cache(maxsize=1000)
def _hint_style(style: ComputedStyle, colour: Colour) -> ComputedStyle:
    return replace(style, color=colour)


def hint_colour(style: ComputedStyle, hint: ComputedStyle | None) -> Colour:
    """HTML Standard §15.5.20: a placeholder is grey, unless a rule for it says otherwise."""
    if hint is None:
        return _HINT
    colour = _HINT if hint.color == style.color else hint.color
    return replace(colour, alpha=colour.alpha * min(1.0, max(0.0, hint.opacity)))


@lru_cache(maxsize=1000)
def _field_style(style: ComputedStyle, width: float) -> ComputedStyle:
    return replace(
        style,
        width=FIELD if style.width == "auto" else style.width,
        white_space="pre",
        contain=(*style.contain, "inline-size"),
        contain_intrinsic_width=Length(width),
    )


def _field_width(characters: int, style: ComputedStyle) -> float:
    """So many of the font's average characters, and room for its widest one instead of the last."""
    font, average = inline_font(style), _average(style)
    widest = _rounded(font.face.widest * font.shaping_size / font.face.upem)
    return ceil(average * characters + max(0.0, widest - average))


def _average(style: ComputedStyle) -> float:
    """The width of an average character; rounded up where rounding goes up."""
    font = inline_font(style)
    average = font.face.average_width * font.shaping_size / font.face.upem
    return max(average, _rounded(average))


def _area_size(element: Element, style: ComputedStyle) -> IntrinsicSize:
    width = ceil(_average(style) * _count(element, "cols", _COLUMNS)) + _SCROLLBAR
    return IntrinsicSize(width, _line(style) * _count(element, "rows", _ROWS), None)


def _line(style: ComputedStyle) -> float:
    font = inline_font(style)
    return (font.leading_ascent + font.leading_descent) / 64


def _count(element: Element, name: str, fallback: int) -> int:
    number = parse_integer(element.attributes.get(name, ""))
    return number if number is not None and number > 0 else fallback


def _text_width(text: str, style: ComputedStyle) -> float:
    font = inline_font(style)
    return shape(font.face, text).sums[-1] * font.size / font.face.upem


def _width_by_words(text: str, style: ComputedStyle) -> float:
    """The width of a text whose words are not kerned with the spaces between them: engines measure options so."""
    words = text.split(" ")
    return sum(_text_width(word, style) for word in words) + _text_width(" ", style) * (len(words) - 1)


def _rounded(px: float) -> int:
    return int(px + 0.5)
