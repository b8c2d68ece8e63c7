"""Boxes of elements whose style changes in the room that they take or in the picture alone: the same ones in another style.

Most edits are such: a padding or a colour makes no box another one, and neither the boxes inside nor those around.
"""

from collections.abc import Collection, Mapping, Sequence

from redcrate.core.boxes.box import Box, BoxKind
from redcrate.core.markup.elements import Element
from redcrate.core.style.affected import keeps_inside
from redcrate.core.style.computed import ComputedStyle

_FLOWS = frozenset(("block", "flow-root", "inline-block"))


def restyled(
    element: Element,
    known: Sequence[Box],
    style: ComputedStyle,
    generated: Mapping[Element, Sequence[Box]],
    reused: Collection[Element],
) -> Box | None:
    """The box of an element where it is another one in styles alone, its own or those inside; else None.

    known: its boxes before. generated: the boxes of the elements in it, as they are now. reused: the elements whose
    boxes have come about so.
    """
    if len(known) != 1:
        return None
    box = known[0]
    plain = box.kind is BoxKind.BLOCK and box.marker is None and box.first_line is None
    if not plain or box.element is not element or style.display not in _FLOWS:
        return None
    if not keeps_inside(box.style, style):
        return None
    children = _children(element, box.children, generated, reused)
    if children is None or (box.style is style and children == box.children):
        return None
    return box.restyled(style, children)


def _children(
    element: Element,
    before: Sequence[Box],
    generated: Mapping[Element, Sequence[Box]],
    reused: Collection[Element],
) -> tuple[Box, ...] | None:
    """What stands in a box now; None where that is not the boxes of the same elements and nothing else."""
    inside = [generated[child] for child in element.child_elements if child in generated]
    if len(inside) != len(before):
        return None
    found: list[Box] = []
    for made, known in zip(inside, before, strict=True):
        if len(made) != 1:
            return None
        box = made[0]
        if box is not known and not (box.element is known.element and box.element in reused):
            return None
        found.append(box)
    return tuple(found)
