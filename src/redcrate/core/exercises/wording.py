"""Conditions in words, as a trainer states them and a learner reads them."""

from typing import assert_never

from redcrate.core.exercises.conditions import (
    Apart,
    Centred,
    Condition,
    EdgeIs,
    Inside,
    ShareLine,
    SizeIs,
)
from redcrate.core.units import format_number


def in_words(condition: Condition) -> str:
    """A condition as a sentence without its full stop."""
    of = condition.of
    match condition:
        case SizeIs():
            box = "content" if condition.box == "content" else f"{condition.box} box"
            way = "wide" if condition.axis == "width" else "high"
            return f"the {box} of {of} is {_px(condition.px)} {way}"
        case EdgeIs():
            return f"the {condition.side} {condition.part} of {of} is {_px(condition.px)}"
        case ShareLine():
            return f"the {condition.count} {of} are in one row"
        case Centred():
            return f"{of} is centred within {_px(condition.tolerance)}"
        case Apart():
            return f"the distance from {of} down to {condition.to} is {_px(condition.px)}"
        case Inside():
            return f"{of} does not overflow its container"
        case _:
            assert_never(condition)


def _px(amount: float) -> str:
    return f"{format_number(amount)} px"
