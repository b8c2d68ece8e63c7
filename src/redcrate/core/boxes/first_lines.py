"""Blocks whose first line has a style of its own: CSS Pseudo-Elements 4 §2.1.

A block container that ::first-line speaks of gets a twin: the same lines with the styles that they have as
long as they are the first one. Layout takes the first line from the twin, and the rest from the block.
"""

from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache
from typing import TypeAlias

from redcrate.core.boxes.box import Box, BoxKind, InnerDisplay
from redcrate.core.markup.elements import Element, Text
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.computing import Styled
from redcrate.core.style.styling import PSEUDO_ELEMENTS, StyledTree

# By the element in whose block container the line stands: what the content of that line inherits.
FirstLines: TypeAlias = dict[Element, Styled]

_IN_FLOW = frozenset(("block", "list-item", "flow-root"))
_BLOCKS = _IN_FLOW | {"inline-block", "table-cell", "table-caption"}
# §2.1.2: what ::first-line may change of the boxes on its line.
_OF_THE_LINE = (
    "color",
    "font_family",
    "font_size",
    "font_style",
    "font_weight",
    "font_kerning",
    "font_feature_settings",
    "font_optical_sizing",
    "font_variation_settings",
    "font_variant_numeric",
    "font_variant_caps",
    "line_height",
    "letter_spacing",
    "word_spacing",
    "text_transform",
)


def first_lines(styled: StyledTree) -> FirstLines:
    """The blocks of a page whose first line is styled; inner ones keep their own."""
    found: FirstLines = {}
    for block, kind in styled.pseudo:
        if kind == "first-line" and styled.styles[block].display in _BLOCKS:
            owner = _owner(styled, block)
            if owner is not None:
                found[owner] = _of_line(styled, block, owner)
    return found


def _owner(styled: StyledTree, block: Element) -> Element | None:
    """The element in whose block container the first line stands; None if it has a first line of its own."""
    while True:
        child = _first_in_flow(styled, block)
        if not isinstance(child, Element) or styled.styles[child].display not in _IN_FLOW:
            return block
        if (child, "first-line") in styled.pseudo:
            return None
        block = child


def _of_line(styled: StyledTree, block: Element, owner: Element) -> Styled:
    """§2.1.4: the line of `block` stands inside `owner`, and inherits from it."""
    return _generated(styled, block, "first-line", styled.styled[owner])


def _generated(styled: StyledTree, element: Element, kind: str, around: Styled) -> Styled:
    """The style of a pseudo-element inside `around`."""
    kinds = dict(styled.index.generating(styled.markup.listed, PSEUDO_ELEMENTS)[element])
    return styled.computer.compute(styled.cascading.of_rules(kinds[kind]), around)


def _first_in_flow(styled: StyledTree, block: Element) -> Element | Text | None:
    for child in block.children:
        if isinstance(child, Text):
            if child.data.strip():
                return child
            continue
        style = styled.styles.get(child)
        if style is None or style.display == "none":
            continue
        if style.float_ == "none" and style.position not in ("absolute", "fixed"):
            return child
    return None


def _inside_of(styled: StyledTree, box: Box, element: Element, around: Styled) -> Styled:
    """The style of an inline box, or of a pseudo-element, inside a first line."""
    if box.pseudo:
        return _generated(styled, element, box.pseudo, around)
    return styled.computer.compute(styled.cascade_of(element), around)


def with_first_line(block: Box, styled: StyledTree, around: Styled) -> Box:
    """The block with a twin for its first line; as it is where that line is in a block of its own."""
    if block.children_inline:
        return block.with_first_line(_twin(block, styled, around))
    for at, child in enumerate(block.children):
        if child.in_flow:
            if child.is_anonymous_block and child.children_inline:
                own = child.with_first_line(_twin(child, styled, around))
                return block.with_children((*block.children[:at], own, *block.children[at + 1 :]))
            return block
    return block


def _twin(block: Box, styled: StyledTree, around: Styled) -> Box:
    style = _on_the_line(block.style, around.style)
    children = _twins(block.children, style, styled, around)
    return Box(BoxKind.BLOCK, style, block.element, children, inner=InnerDisplay.LINES)


def _twins(
    boxes: Sequence[Box], line: ComputedStyle, styled: StyledTree, around: Styled
) -> tuple[Box, ...]:
    """Boxes of a line, with what they inherit there; what stands in one piece keeps its style."""
    made: list[Box] = []
    for box in boxes:
        if box.kind is BoxKind.TEXT and box.element is None:
            made.append(Box(BoxKind.TEXT, _on_the_line(box.style, line), None, text=box.text))
        elif box.kind is BoxKind.INLINE and box.element is not None and box.pseudo != "first-letter":
            own = _inside_of(styled, box, box.element, around)
            inside = _twins(box.children, own.style, styled, own)
            made.append(
                Box(
                    BoxKind.INLINE,
                    own.style,
                    box.element,
                    inside,
                    pseudo=box.pseudo,
                    begins_here=box.begins_here,
                    ends_here=box.ends_here,
                )
            )
        else:
            made.append(box)
    return tuple(made)


@lru_cache(maxsize=2000)
def _on_the_line(style: ComputedStyle, line: ComputedStyle) -> ComputedStyle:
    """A style with what the first line changes."""
    return replace(style, **{name: getattr(line, name) for name in _OF_THE_LINE})
