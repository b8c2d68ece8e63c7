"""What people type into a term: `40`, `2.5em`, `5%`, `auto`, `calc(100% - 40px)`, `620-54`."""

import re

from redcrate.core.errors import ValueNotUnderstood
from redcrate.core.style.css_syntax import component_values
from redcrate.core.style.declarations import parse_declaration
from redcrate.core.style.values import LENGTH_UNITS
from redcrate.core.units import format_number

_NUMBER = r"[+-]?(?:\d+\.?\d*|\.\d+)"
_SINGLE = re.compile(rf"({_NUMBER})\s*([a-z%]*)\Z", re.IGNORECASE)
_SUM = re.compile(rf"({_NUMBER})\s*([a-z%]*)((?:\s*[-+*/]\s*(?:\d+\.?\d*|\.\d+)\s*[a-z%]*)+)\Z", re.I)
_SIGN = re.compile(r"(?<=[0-9a-z%])\s*([-+])\s*", re.I)
_COMMA = re.compile(r"(?<=[0-9]),(?=[0-9]{1,2}(?![0-9]))")  # of three digits it may part thousands
_COUNT = re.compile(r"[0-9]{1,6}")
_MOST = 10_000_000.0  # px: further than any page reaches
_STEP = re.compile(r"\s*([-+*/])\s*(\d+\.?\d*|\.\d+)\s*([a-z%]*)", re.I)


def typed_value(text: str, longhand: str) -> str:
    """The CSS value that typed text means for a longhand.

    A number without a unit is px; a sum of numbers of one unit is worked out.
    Raises ValueNotUnderstood with what is wrong and what would do.
    """
    text = text.strip().lstrip("=").strip()
    if not text:
        raise ValueNotUnderstood("the field is empty.", remedy="Type a number such as 40, or auto.")
    value = _worked_out(text) or text
    single = _SINGLE.match(value)
    if single is not None:
        unit = single.group(2).lower() or "px"
        if unit not in LENGTH_UNITS and unit != "%":
            raise ValueNotUnderstood(
                f"“{unit}” is not a unit.", remedy="Use px, %, em or rem, or no unit for px."
            )
        value = f"{single.group(1).lstrip('+')}{unit}"
    tokens = component_values(value)
    if parse_declaration(longhand, tokens) is None or ";" in value or "}" in value:
        raise _refusal(text, value, longhand)
    return value


def typed_px(text: str) -> float:
    """The px that typed text means: a number, or a sum that is worked out; a comma may stand for the point.

    The one place for what is typed into fields of the window. Raises ValueNotUnderstood.
    """
    try:
        value = _SINGLE.match(typed_value(_COMMA.sub(".", text), "margin-left"))  # which may be negative
    except ValueNotUnderstood:
        value = None
    px = float(value.group(1)) if value is not None and value.group(2) == "px" else _MOST + 1
    if abs(px) > _MOST:
        raise ValueNotUnderstood(
            f"“{text.strip()}” is not a number of px.", remedy="Type px, such as 300 or 620-54."
        )
    return px


def typed_count(text: str) -> int:
    """A whole number of things. Raises ValueNotUnderstood."""
    if not _COUNT.fullmatch(text.strip()):
        raise ValueNotUnderstood(
            f"“{text.strip()}” is not a whole number.", remedy="Type a whole number, such as 3."
        )
    return int(text)


def _worked_out(text: str) -> str | None:
    """`620-54` as one number with its unit; None if it is no such sum."""
    match = _SUM.match(text)
    if match is None:
        return None
    total, unit = float(match.group(1)), match.group(2).lower()
    for sign, number, step_unit in _STEP.findall(match.group(3)):
        amount, step_unit = float(number), step_unit.lower()
        if sign in "*/":
            if step_unit or (sign == "/" and amount == 0):
                raise ValueNotUnderstood(
                    f"“{text}” cannot be computed.", remedy="Multiply or divide by a plain number."
                )
            total = total * amount if sign == "*" else total / amount
            continue
        if step_unit and unit and step_unit != unit:
            spaced = _SIGN.sub(r" \1 ", text)
            return f"calc({spaced})"
        unit = unit or step_unit
        total += amount if sign == "+" else -amount
    return f"{format_length(total)}{unit or 'px'}"


def format_length(value: float) -> str:
    """A number for CSS: at most 4 decimals, no trailing zeros."""
    text = f"{value:.4f}".rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text


def _refusal(text: str, value: str, longhand: str) -> ValueNotUnderstood:
    name = longhand.replace("-", " ")
    if "," in text and "(" not in text:
        return ValueNotUnderstood(
            f"“{text}” has a comma.", remedy="Use a point for decimals; type one value per term."
        )
    if value.startswith("-") and ("padding" in longhand or "border" in longhand or "-" not in longhand):
        return ValueNotUnderstood(
            f"{name} cannot be negative.", remedy="Use a negative margin to pull a block."
        )
    if value == "auto":
        return ValueNotUnderstood(
            f"{name} cannot be auto.", remedy="Type a length such as 40, or 0 for none."
        )
    return ValueNotUnderstood(
        f"“{text}” is not a value for {name}.", remedy="Try 40, 2.5em, 5% or calc(100% - 40px)."
    )


def nudged(written: str, used_px: float, step: float) -> str:
    """The value that an arrow key makes: `step` px more, or `step` of the value's own unit.

    written: the text of the value now; used_px: what it comes to.
    """
    match = _SINGLE.match(written.strip())
    if match is not None and match.group(2).lower() not in ("", "px"):
        unit = match.group(2).lower()
        fine = step if unit in ("%", "vw", "vh", "pt", "mm") else step / 10
        return f"{format_length(float(match.group(1)) + fine)}{unit}"
    number = float(match.group(1)) if match is not None else used_px
    return f"{format_length(number + step)}px"


def dragged(written: str, used_px: float, new_px: float) -> str:
    """The value that a drag to `new_px` writes: in the unit that the value had, where it has one.

    written: the text of the value now; used_px: what it comes to.
    """
    match = _SINGLE.match(written.strip())
    if match is not None and match.group(2).lower() not in ("", "px") and used_px:
        return f"{format_length(round(float(match.group(1)) * new_px / used_px, 3))}{match.group(2).lower()}"
    return f"{format_length(new_px)}px"


def px_text(value: float) -> str:
    """A length in px as people write it."""
    return f"{format_number(value)}px"
