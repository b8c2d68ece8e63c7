"""One longhand property: all that is said of it, in its row of the table (`computed.py`)."""

from collections.abc import Mapping
from enum import Flag, auto
from typing import Any

from redcrate.core.records import dataclass
from redcrate.core.style.property_parsers import Parser


class Affects(Flag):
    """What becomes another one where a value does. Every short way of the core asks for it, and for no names.

    BOXES: which boxes are generated, and of what kind. LINES: what stands on lines, and where they break. INSIDE:
    the layout of what is in the box. ROOM: the room that the box takes round its content, and its place among others.
    PAINT: the picture alone.
    """

    BOXES = auto()
    LINES = auto()
    INSIDE = auto()
    ROOM = auto()
    PAINT = auto()


BOXES, LINES, INSIDE, ROOM, PAINT = Affects
NOTHING = Affects(0)
EVERYTHING = BOXES | LINES | INSIDE | ROOM | PAINT


@dataclass(frozen=True, slots=True)
class Property:
    """One longhand. initial: the specified initial value. attribute: the field of ComputedStyle."""

    name: str
    attribute: str
    inherited: bool
    initial: Any
    parse: Parser
    affects: Affects


def row(
    initial: Any, parse: Parser, affects: Affects, *, inherited: bool = False, name: str = ""
) -> Mapping[str, Any]:
    """What a field of ComputedStyle says of its property. name: where it is not that of the field with hyphens."""
    return {
        "initial": initial,
        "parse": parse,
        "affects": affects,
        "inherited": inherited,
        "name": name,
    }


def property_of(attribute: str, said: Mapping[str, Any]) -> Property:
    """The property of a field by its row."""
    name = said["name"] or attribute.rstrip("_").replace("_", "-")
    return Property(name, attribute, said["inherited"], said["initial"], said["parse"], said["affects"])
