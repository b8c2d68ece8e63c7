"""Numbers in attributes: HTML Standard §2.3.4. Only ASCII digits count, and no number is too long."""

import re

_INTEGER = re.compile(r"[ \t\n\f\r]*([+-]?[0-9]{1,9})")
_NUMBER = re.compile(
    r"[ \t\n\f\r]*([+-]?(?:[0-9]{1,30}(?:\.[0-9]{0,30})?|\.[0-9]{1,30})(?:[eE][+-]?[0-9]{1,2})?)"
)
_DIMENSION = re.compile(r"[ \t\n\f\r]*\+?([0-9]+\.?[0-9]*|\.[0-9]+)(%?)")


def parse_integer(text: str) -> int | None:
    """§2.3.4.1: the whole number at the beginning of `text`; None if there is none."""
    match = _INTEGER.match(text)
    return int(match.group(1)) if match else None


def parse_number(text: str) -> float | None:
    """§2.3.4.3: the floating-point number at the beginning of `text`; None if there is none."""
    match = _NUMBER.match(text)
    return None if match is None else float(match.group(1))


def parse_dimension(text: str) -> tuple[float, bool] | None:
    """§2.3.4.4: a dimension value, and whether it is a percentage; None if it is none."""
    match = _DIMENSION.match(text)
    return None if match is None else (float(match.group(1)), match.group(2) == "%")
