"""Boxes of elements whose style changes in nothing that boxes are made by: the same ones with another style.

Most edits are such: a padding or a margin makes no box another one, and the boxes inside stay as they are.
"""

from collections.abc import Mapping, Sequence
from dataclasses import fields
from functools import lru_cache

from redcrate.core.boxes.box import Box, BoxKind
from redcrate.core.markup.elements import Element
from redcrate.core.style.computed import ComputedStyle

# What layout and painting alone ask for.
_ROOM = ("margin_", "padding_", "border_")
_ASKED = tuple(f.name for f in fields(ComputedStyle) if not f.name.startswith(_ROOM))
_FLOWS = frozenset(("block", "flow-root", "inline-block"))


def restyled(
    element: Element,
    known: Sequence[Box],
    style: ComputedStyle,
    generated: Mapping[Element, Sequence[Box]],
) -> Box | None:
    """The box of an element with another style; None where more of it may be another one.

    known: its boxes before. generated: the boxes of the elements in it, as they are now.
    """
    if len(known) != 1:
        return None
    box = known[0]
    plain = box.kind is BoxKind.BLOCK and box.marker is None and box.first_line is None
    if not plain or box.element is not element or box.style is style:
        return None
    if style.display not in _FLOWS or not _makes_the_same(box.style, style):
        return None
    inside = [generated[child] for child in element.child_elements if child in generated]
    if inside != [
        (child,) for child in box.children
    ]:  # so that nothing stands in it but boxes of elements
        return None
    return box.with_style(style)


@lru_cache(maxsize=1000)
def _makes_the_same(before: ComputedStyle, now: ComputedStyle) -> bool:
    """Whether two styles differ in the room that they take alone."""
    return all(getattr(before, name) == getattr(now, name) for name in _ASKED)
