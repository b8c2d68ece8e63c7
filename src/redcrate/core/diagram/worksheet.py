"""A worksheet: a drawing whose numbers are left out, to be filled in; the drawing itself is the key."""

import re
from dataclasses import replace
from enum import Enum

from redcrate.core.diagram.drawing import Drawing, Label, Part, Shape

_NUMBER = re.compile(r"(?<![\w.#-])[−-]?\d+(?:\.\d+)?")
_SUM = re.compile(rf"(?<!of ){_NUMBER.pattern}")  # what is available is given
# What a drawing is of, and what was written in the CSS, is given.
_GIVEN = ("title-block", "where-it-stands")


class Blank(Enum):
    """Which numbers are left out; the values are the words of the command line."""

    SUMS = "sums"
    ALL = "all"


def worksheet(drawing: Drawing, blank: Blank) -> Drawing:
    """The drawing without numbers: those of the boxes that parts add up to, or all that were measured."""
    parts = tuple(_part(p) if _is_asked(p.name, blank) else p for p in drawing.parts)
    told = "Worksheet: fill in the blanks."
    return replace(drawing, parts=parts, description=told)


def blanked(text: str, blank: Blank) -> str:
    """A sum in words, “… 28 + 2 = 30 px”, without what it comes to, or without any number."""
    if blank is Blank.ALL:
        return _NUMBER.sub(_line, text)
    head, equals, total = text.rpartition(" = ")
    return f"{head}{equals}{_SUM.sub(_line, total)}"


def _line(number: re.Match[str]) -> str:
    """A line to write on, about as long as the number, so that it has its room."""
    return "_" * min(4, max(2, len(number[0])))


def _is_asked(name: str, blank: Blank) -> bool:
    if blank is Blank.SUMS:
        return "-box-" in name
    return name not in _GIVEN


def _part(part: Part) -> Part:
    return replace(part, shapes=tuple(_shape(s) for s in part.shapes))


def _shape(shape: Shape) -> Shape:
    if not isinstance(shape, Label):
        return shape
    return replace(shape, text=_NUMBER.sub(_line, shape.text))
