"""What quirks mode changes in styles: Quirks Mode Standard §3."""

from collections.abc import Iterable
from typing import Any

from redcrate.core.geometry import SIDES
from redcrate.core.style.css_syntax import css_text

# §3.2: the properties whose lengths need no unit, with the shorthands of which that is true too.
_PLAIN_NUMBERS = frozenset(
    (
        "bottom", "font-size", "height", "left", "letter-spacing", "max-height", "max-width", "min-height",
        "min-width", "right", "text-indent", "top", "vertical-align", "width", "word-spacing", "margin", "padding",
        *(f"{part}-{side}" for part in ("margin", "padding") for side in SIDES),
        *(f"border-{side}-width" for side in SIDES), "border-width",
    )
)  # fmt: skip
# §3.1: those that take a colour without its #.
_PLAIN_COLOURS = frozenset(
    ("background-color", "border-color", "color",
     *(f"border-{side}-color" for side in SIDES))
)  # fmt: skip


def takes_plain_numbers(name: str) -> bool:
    """Whether a property is read more kindly in quirks mode."""
    return name in _PLAIN_NUMBERS or name in _PLAIN_COLOURS


def with_units(name: str, tokens: Iterable[Any]) -> str:
    """The value of a property with px behind plain numbers, or # in front of plain colours."""
    out = []
    for token in tokens:
        text = css_text([token])
        if name in _PLAIN_COLOURS and token.type in ("number", "dimension", "ident"):
            digits = text.replace("\\", "").zfill(6) if token.type == "number" else text
            text = f"#{digits}" if _is_hexadecimal(digits) else text
        elif token.type == "number":
            text = f"{text}px"
        out.append(text)
    return "".join(out)


def _is_hexadecimal(text: str) -> bool:
    return len(text) in (3, 6) and all(c in "0123456789abcdefABCDEF" for c in text)
