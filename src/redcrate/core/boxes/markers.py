"""Markers of list items: CSS Lists 3 §3, CSS Counter Styles 3 §6.

An outside marker takes no room. An inside one is the first thing on the item's first line: text, or a
symbol that is as wide as engines draw it (the standard leaves it to the program).
"""

from dataclasses import replace
from functools import lru_cache

from redcrate.core.boxes.box import Box, BoxKind
from redcrate.core.boxes.image_size import IntrinsicSize
from redcrate.core.records import dataclass
from redcrate.core.style.anonymous import inherited_style
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.values import Length
from redcrate.core.text.fonts import choose_font

SYMBOL_MARKERS = {
    "disc": "•",
    "circle": "◦",
    "square": "▪",
    "disclosure-closed": "▸",
    "disclosure-open": "▾",
}
_SYMBOLS = frozenset(SYMBOL_MARKERS.values())


@dataclass(frozen=True, slots=True)
class Marker:
    """A list item's marker: a text or symbol, or a picture; style: its own, or that of the item.

    size: of the picture, none of its sides left open.
    """

    text: str
    style: ComputedStyle
    picture: str = ""
    size: IntrinsicSize | None = None

    def inside(self) -> Box:
        """The inline-level box of a marker that stands inside."""
        own = _marker_style(self.style)
        if self.size is not None:
            return self._picture(_with_gap(own, 0.0))
        if self.text in _SYMBOLS:
            size = IntrinsicSize(_symbol_width(self.style, self.text), 0.0, None)
            return Box(BoxKind.REPLACED, own, intrinsic=size, marker=self.text)
        return Box(BoxKind.TEXT, own, text=self.text)

    def picture_outside(self) -> Box:
        """The box of a picture in front of the first line: no room across, but the line holds its height."""
        assert self.size is not None
        return self._picture(
            _with_gap(_marker_style(self.style), -(self.size.width or 0.0) - _PICTURE_GAP)
        )

    def _picture(self, style: ComputedStyle) -> Box:
        return Box(BoxKind.REPLACED, style, intrinsic=self.size, picture=self.picture)


_PICTURE_GAP = 7.0  # px, as engines have it: the standard leaves it to the program


@lru_cache(maxsize=2000)
def _with_gap(style: ComputedStyle, left: float) -> ComputedStyle:
    """The style of a picture with its gap to the text and that left margin, px."""
    return replace(style, margin_left=Length(left), margin_right=Length(_PICTURE_GAP))


def concrete_size(size: IntrinsicSize, em: float) -> IntrinsicSize:
    """The size of a picture as a marker, where it has none of its own 1em by 1em (CSS Images 3 §5.3)."""
    width, height, ratio = size.width, size.height, size.ratio
    if width is None and height is None:
        ratio = ratio or 1.0
        width, height = min(em, em * ratio), min(em, em / ratio)
    elif width is None:
        width = (height or 0.0) * ratio if ratio else em
    elif height is None:
        height = width / ratio if ratio else em
    return IntrinsicSize(width, height, ratio)


@lru_cache(maxsize=2000)
def _marker_style(style: ComputedStyle) -> ComputedStyle:
    inherited = inherited_style(style, display="inline")
    return replace(inherited, white_space="pre", text_transform="none")


def _symbol_width(style: ComputedStyle, marker: str) -> float:
    """The room of a drawn symbol with its margins, px."""
    size = style.font_size
    if marker in "▸▾":
        return size * 0.66 + size * 0.4
    face = choose_font(style.font_family, style.font_weight, style.font_style).face
    ascent = face.metrics(size).ascent // 64
    return -1 + (ascent * 2 // 3 + 1) // 2 + 2 + size


def marker_text(kind: str, number: int) -> str:
    """The marker of a list style type."""
    if kind in SYMBOL_MARKERS or kind[:1] in "\"'":
        return counter_text(kind, number)
    return counter_text(kind, number) + ". "


def counter_text(kind: str, number: int) -> str:
    """A number in a counter style: CSS Counter Styles 3 §6."""
    if kind in SYMBOL_MARKERS:
        return SYMBOL_MARKERS[kind]
    if kind == "none":
        return ""
    if kind[:1] in "\"'":
        return kind[1:-1]
    if kind in ("lower-alpha", "lower-latin", "upper-alpha", "upper-latin") and number > 0:
        letters = ""
        while number:
            number, rest = divmod(number - 1, 26)
            letters = chr(ord("a") + rest) + letters
        return letters.upper() if kind.startswith("upper") else letters
    if kind in ("lower-roman", "upper-roman") and 0 < number < 4000:
        text = _roman(number)
        return text if kind == "upper-roman" else text.lower()
    if kind == "decimal-leading-zero":
        return f"{'-' if number < 0 else ''}{abs(number):02d}"
    return str(number)


_ROMAN = (
    (1000, "M"), (900, "CM"), (500, "D"), (400, "CD"), (100, "C"), (90, "XC"), (50, "L"), (40, "XL"), (10, "X"),
    (9, "IX"), (5, "V"), (4, "IV"), (1, "I"),
)  # fmt: skip


def _roman(number: int) -> str:
    out = ""
    for value, letters in _ROMAN:
        while number >= value:
            out += letters
            number -= value
    return out
