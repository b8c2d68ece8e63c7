"""Box generation: CSS 2.2 §9.2, CSS Display 3 §2, CSS Lists 3 §3.

Elements become boxes bottom-up with an explicit order (any depth of tree). A box whose element,
style and children are what they were is taken over from the earlier tree.
"""

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import TypeAlias

from redcrate.core.boxes.box import Box, BoxKind, scrolls_nothing
from redcrate.core.boxes.fallback import fallback_content, fallback_style
from redcrate.core.boxes.image_size import IntrinsicSize, svg_attributes_size
from redcrate.core.boxes.markers import SYMBOL_MARKERS, inside_marker, marker_text
from redcrate.core.markup.elements import Element, Text
from redcrate.core.markup.numbers import parse_integer
from redcrate.core.style.anonymous import inherited_style
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.sheets import Origin
from redcrate.core.style.styling import PSEUDO_ELEMENTS, StyledTree

# The intrinsic size of the image that an element refers to; None if it is missing.
ImageSize: TypeAlias = Callable[[Element], IntrinsicSize | None]

_COLLAPSIBLE = re.compile(r"[ \t\n\r\f]*\Z")
_LATER = frozenset(("table", "inline-table", "flex", "inline-flex", "grid", "inline-grid"))
_REPLACED_SIZES = {
    "video": IntrinsicSize(300, 150, 2.0),
    "canvas": IntrinsicSize(300, 150, 2.0),
    "iframe": IntrinsicSize(300, 150, None),
    "embed": IntrinsicSize(300, 150, None),
    "object": IntrinsicSize(300, 150, None),
    "audio": IntrinsicSize(300, 54, None),
    "input": IntrinsicSize(146, 15.5, None),
    "textarea": IntrinsicSize(180, 30, None),
    "select": IntrinsicSize(60, 19, None),
    "progress": IntrinsicSize(160, 16, None),
    "meter": IntrinsicSize(80, 16, None),
}


@dataclass(frozen=True, slots=True, eq=False)
class BoxTree:
    """The boxes of a page.

    root: the html element's box, None if it generates none. generated: the boxes that take the place
    of each element. later: elements whose display is laid out as blocks. missing_images: elements
    whose image was not found. split: the blocks that stand in inline boxes, with the inline elements
    round each, inner ones first.
    """

    styled: StyledTree
    root: Box | None
    generated: dict[Element, tuple[Box, ...]]
    later: tuple[Element, ...]
    missing_images: tuple[Element, ...]
    split: dict[Box, tuple[Element, ...]]


def generate_boxes(styled: StyledTree, image_size: ImageSize, earlier: BoxTree | None = None) -> BoxTree:
    """The box tree of a styled page; boxes of `earlier` that still hold are used again."""
    return _Generation(styled, image_size, earlier).run()


class _Generation:
    """One pass over the elements, children before parents."""

    def __init__(self, styled: StyledTree, image_size: ImageSize, earlier: BoxTree | None) -> None:
        self.styled = styled
        self.image_size = image_size
        same_tree = earlier is not None and earlier.styled.markup.root is styled.markup.root
        self.earlier = earlier.generated if earlier and same_tree else {}
        self.earlier_styled = earlier.styled if earlier and same_tree else None
        self._root_restyled = self._root_has_other_style()
        self.no_pseudo = not styled.pseudo and not (earlier and earlier.styled.pseudo)
        self.changed: set[Element | None] = set()  # elements some child of which generates other boxes
        self.generated: dict[Element, tuple[Box, ...]] = {}
        self.later: list[Element] = []
        self.ordinals: dict[Element, dict[Element, int]] = {}
        self.missing: list[Element] = []

    def run(self) -> BoxTree:
        """Generate all boxes."""
        listed = self.styled.markup.listed
        hidden: set[Element] = set()
        shown: list[Element] = []
        for element in listed:
            inside_hidden = element.parent in hidden or _swallows(element.parent)
            if inside_hidden or self.styled.styles[element].display == "none":
                hidden.add(element)
                if element in self.earlier:
                    self.changed.add(element.parent)
            else:
                shown.append(element)
        for element in reversed(shown):
            made = self.earlier.get(element)
            if made is None or not self._holds(element):
                made = self._boxes_of(element)
                if made is not self.earlier.get(element):
                    self.changed.add(element.parent)
            self.generated[element] = made
        top = self.generated.get(listed[0], ())
        root = top[0] if top else None
        return BoxTree(
            self.styled,
            root,
            self.generated,
            tuple(self.later),
            tuple(self.missing),
            _blocks_in_inlines(self.generated),
        )

    def _root_has_other_style(self) -> bool:
        html, before = self.styled.markup.listed[0], self.earlier_styled
        return before is not None and before.styles[html] is not self.styled.styles[html]

    def _overflow_is_the_windows(self, element: Element) -> bool:
        """CSS Overflow 3 §3.3: body's overflow is the window's, unless the root has one of its own."""
        html = element.parent
        return (
            element.tag == "body"
            and html is not None
            and html.parent is None
            and scrolls_nothing(self.styled.styles[html])
            and element is next((c for c in html.child_elements if c.tag == "body"), None)
        )

    def _holds(self, element: Element) -> bool:
        """Whether the earlier boxes hold without a look at them: nothing that makes them has changed."""
        before, now = self.earlier_styled, self.styled
        style = now.styles[element]
        return (
            before is not None
            and before.styles[element] is style
            and element not in self.changed
            and style.display not in _LATER
            and not style.display.endswith("list-item")
            and element.tag not in _IMAGES
            and (element.tag != "body" or not self._root_restyled)
            and (self.no_pseudo or self._same_pseudo(element, before))
        )

    def _same_pseudo(self, element: Element, before: StyledTree) -> bool:
        now = self.styled.pseudo
        return all(before.pseudo.get((element, p)) is now.get((element, p)) for p in PSEUDO_ELEMENTS)

    def _boxes_of(self, element: Element) -> tuple[Box, ...]:
        """The boxes that take the element's place among its parent's children."""
        style = self.styled.styles[element]
        if element.tag == "br":
            return self._reused(element, Box(BoxKind.BREAK, style, element))
        if element.tag == "wbr":
            return self._reused(element, Box(BoxKind.TEXT, style, element, text="\u200b"))
        replaced = self._replaced(element, style)
        if replaced is not None:
            return self._reused(element, replaced)
        children = self._children(element, style)
        if style.display == "contents":
            return tuple(children)
        if style.display in _LATER:
            self.later.append(element)
        marker = self._marker(element, style)
        if marker is not None and (style.list_style_position == "inside" or is_inline(style)):
            children.insert(0, inside_marker(style, marker))
        if is_inline(style):
            return self._inline_parts(element, style, children)
        overflow_counts = not self._overflow_is_the_windows(element)
        block = _block(style, element, children, marker, overflow_counts=overflow_counts)
        return self._reused(element, block)

    def _children(self, element: Element, style: ComputedStyle) -> list[Box]:
        out: list[Box] = []
        before = self._pseudo(element, "before")
        if before:
            out.append(before)
        if element.tag == "details" and summary_of(element) is None:
            out.append(_own_summary(style))
        for child in _shown_children(element):
            if isinstance(child, Text):
                if child.data:
                    out.append(Box(BoxKind.TEXT, style, None, text=child.data))
            else:
                out.extend(self.generated.get(child, ()))
        after = self._pseudo(element, "after")
        if after:
            out.append(after)
        return out

    def _pseudo(self, element: Element, kind: str) -> Box | None:
        """::before and ::after: CSS 2.2 §12.1."""
        style = self.styled.pseudo.get((element, kind))
        if style is None or style.display == "none":
            return None
        texts = [self._content_text(element, part) for part in style.content]
        text = Box(BoxKind.TEXT, style, None, text="".join(texts))
        children = [text] if text.text else []
        if is_inline(style):
            return Box(BoxKind.INLINE, style, element, tuple(children), pseudo=kind)
        return _block(style, element, children, None, pseudo=kind)

    @staticmethod
    def _content_text(element: Element, part: tuple[str, str] | str) -> str:
        kind, value = part if isinstance(part, tuple) else ("", "")
        if kind == "attr":
            return element.attributes.get(value, "")
        return value if kind == "string" else ""

    def _replaced(self, element: Element, style: ComputedStyle) -> Box | None:
        size: IntrinsicSize | None
        if element.tag == "img" or (
            element.tag == "input" and element.attributes.get("type", "").lower() == "image"
        ):
            size = self.image_size(element)
            if size is None:
                self.missing.append(element)
                return self._missing_image(element, style)
        elif element.tag == "svg":
            size = svg_attributes_size(element.attributes)
        elif element.tag in _REPLACED_SIZES:
            size = _REPLACED_SIZES[element.tag]
            if element.tag == "input" and element.attributes.get("type", "").lower() in (
                "button",
                "submit",
                "reset",
            ):
                label = element.attributes.get("value", element.attributes["type"].capitalize())
                text = Box(BoxKind.TEXT, style, None, text=label)
                return _block(style, element, [text], None)
        else:
            return None
        if element.tag in ("video", "canvas"):
            size = _attribute_size(element, size)
        return Box(BoxKind.REPLACED, style, element, intrinsic=size)

    def _missing_image(self, element: Element, style: ComputedStyle) -> Box:
        """HTML Standard §15.4.2: an image that is not there is a small icon with its alternative text.

        Its size attributes then do not count; with an empty text it is nothing, but stands in its line.
        """
        alt = element.attributes.get("alt")
        if alt == "" or (alt is None and not element.attributes.get("src")):
            return Box(BoxKind.REPLACED, style, element, intrinsic=IntrinsicSize(0, 0, None))
        winners = self.styled.cascades[element].winners
        hinted = {
            n
            for n in ("width", "height")
            if n in winners and winners[n].applied.rule.origin is Origin.HINT
        }
        own = fallback_style(style, frozenset(hinted if alt else ()))
        return _block(own, element, fallback_content(style, alt or ""), None)

    def _marker(self, element: Element, style: ComputedStyle) -> str | None:
        """The text of a list item's marker; "•" and its like stand for the drawn symbols."""
        if not style.display.endswith("list-item") or (
            style.list_style_type == "none" and style.list_style_image == "none"
        ):
            return None
        return marker_text(style.list_style_type, self._ordinal(element))

    def _ordinal(self, element: Element) -> int:
        """The number of a list item; all items of one parent are counted at once."""
        parent = element.parent
        if parent is None:
            return 1
        if parent not in self.ordinals:
            self.ordinals[parent] = ordinals_in(parent, self.styled)
        return self.ordinals[parent].get(element, 1)

    def _inline_parts(
        self, element: Element, style: ComputedStyle, children: Sequence[Box]
    ) -> tuple[Box, ...]:
        """An inline element; a block inside it splits it: CSS 2.2 §9.2.1.1."""
        if not any(_is_block_child(c) for c in children):
            return self._reused(element, Box(BoxKind.INLINE, style, element, tuple(children)))
        parts: list[Box] = []
        run: list[Box] = []
        for child in [*children, None]:
            if child is not None and not _is_block_child(child):
                run.append(child)
                continue
            first, last = not parts, child is None
            parts.append(
                Box(BoxKind.INLINE, style, element, tuple(run), part_start=first, part_end=last)
            )
            run = []
            if child is not None:
                parts.append(child if style.position != "relative" else _moved_with(style, child))
        return tuple(parts)

    def _reused(self, element: Element, box: Box) -> tuple[Box, ...]:
        """The earlier tree's boxes for the element, if they equal what was made now."""
        known = self.earlier.get(element)
        if known is not None and len(known) == 1 and _same(known[0], box):
            return known
        return (box,)


def summary_of(details: Element) -> Element | None:
    """The summary of a details element: its first child of that kind."""
    return next((c for c in details.child_elements if c.tag == "summary"), None)


def _own_summary(style: ComputedStyle) -> Box:
    """What stands for the summary that a details element lacks: HTML Standard §4.11.1."""
    own = anonymous_style(style)
    text = Box(BoxKind.TEXT, own, None, text="Details")
    marker = inside_marker(own, SYMBOL_MARKERS["disclosure-closed"])
    return Box(BoxKind.BLOCK, own, None, (marker, text), holds_lines=True)


def _shown_children(element: Element) -> Sequence[Element | Text]:
    """HTML Standard §15.5.4: of a details element the first summary, then the rest if it is open."""
    if element.tag != "details":
        return element.children
    first = summary_of(element)
    summary = [] if first is None else [first]
    if "open" not in element.attributes:
        return summary
    return [*summary, *(c for c in element.children if c is not first)]


def is_inline(style: ComputedStyle) -> bool:
    """Whether an element's box is an inline box: CSS Display 3 §2.1."""
    return style.display in ("inline", "inline list-item")


def _moved_with(style: ComputedStyle, child: Box) -> Box:
    """§9.2.1.1: a block in a relatively positioned inline box moves with it: an anonymous block does it."""
    moved = replace(
        anonymous_style(style),
        position="relative",
        top=style.top,
        right=style.right,
        bottom=style.bottom,
        left=style.left,
    )
    return _block(moved, None, [child], None)


def _blocks_in_inlines(
    generated: dict[Element, tuple[Box, ...]],
) -> dict[Box, tuple[Element, ...]]:
    """The blocks that split inline boxes, with the elements whose boxes they split."""
    found: dict[Box, tuple[Element, ...]] = {}
    for element, boxes in generated.items():
        if len(boxes) > 1 and any(b.kind is BoxKind.INLINE and b.element is element for b in boxes):
            for box in boxes:
                if _is_block_child(box):
                    found[box] = (*found.get(box, ()), element)
    return found


_IMAGES = ("img", "input")  # their files may have come or gone


def _same(known: Box, made: Box) -> bool:
    """Whether two boxes would be laid out alike: same style objects, same children."""
    if (
        known.kind is not made.kind
        or known.style is not made.style
        or known.text != made.text
        or known.marker != made.marker
        or known.intrinsic != made.intrinsic
        or known.pseudo != made.pseudo
        or known.establishes_bfc != made.establishes_bfc
        or len(known.children) != len(made.children)
    ):
        return False
    for old, new in zip(known.children, made.children, strict=True):
        if old is new:
            continue
        if old.element is not new.element or old.pseudo != new.pseudo:
            return False
        if old.element is not None and not old.pseudo:
            return False  # an element's box that is not shared has changed
        if not _same(old, new):
            return False
    return True


def _is_block_child(box: Box) -> bool:
    return box.in_flow and not box.is_inline_level


def _swallows(element: Element | None) -> bool:
    """Whether what is inside `element` generates no boxes of its own."""
    return element is not None and (element.tag in _REPLACED_SIZES or element.tag in ("svg", "img"))


def _attribute_size(element: Element, size: IntrinsicSize) -> IntrinsicSize:
    """A canvas or video is as large as its attributes say."""
    numbers = []
    for name, fallback in (("width", size.width), ("height", size.height)):
        number = parse_integer(element.attributes.get(name, ""))
        numbers.append(float(number) if number is not None and number >= 0 else fallback)
    width, height = numbers
    return IntrinsicSize(width, height, width / height if width and height else None)


def _block(
    style: ComputedStyle,
    element: Element | None,
    children: Sequence[Box],
    marker: str | None,
    pseudo: str = "",
    *,
    overflow_counts: bool = True,
) -> Box:
    """A block container; mixed children get anonymous blocks round their inline runs (§9.2.1.1)."""
    inline = any(_is_inline_content(c) for c in children)
    blocks = any(_is_block_child(c) for c in children)
    if not inline:
        kept = tuple(c for c in children if not c.is_inline_level)
    elif blocks:
        kept = tuple(_with_anonymous_blocks(style, children))
    else:
        kept = tuple(children)
    return Box(
        BoxKind.BLOCK,
        style,
        element,
        kept,
        pseudo=pseudo,
        marker=marker,
        holds_lines=inline and not blocks,
        holds_floats=any(
            c.is_float or (c.holds_floats and not c.establishes_bfc) or _inline_floats(c) for c in kept
        ),
        laid_out_as=style.display if style.display in _LATER else "",
        overflow_counts=overflow_counts,
    )


def _inline_floats(box: Box) -> bool:
    return box.kind is BoxKind.INLINE and any(b.is_float for b in _inline_walk(box))


def _inline_walk(box: Box) -> list[Box]:
    """The boxes inside an inline box, not those inside its atomic boxes or floats."""
    out: list[Box] = []
    stack = list(box.children)
    while stack:
        at = stack.pop()
        out.append(at)
        if at.kind is BoxKind.INLINE:
            stack.extend(at.children)
    return out


def _is_inline_content(box: Box) -> bool:
    """Whether the box makes its parent hold lines: inline-level, and no collapsible white space."""
    if not box.is_inline_level:
        return False
    if box.kind is not BoxKind.TEXT:
        return True
    if box.style.white_space in ("pre", "pre-wrap", "break-spaces"):
        return bool(box.text)
    if box.style.white_space == "pre-line" and "\n" in box.text:
        return True
    return not _COLLAPSIBLE.match(box.text)


def _with_anonymous_blocks(style: ComputedStyle, children: Sequence[Box]) -> list[Box]:
    """Each run of inline-level children in an anonymous block box.

    A run begins with inline content, so that floats in front of it stay children of the block.
    """
    out: list[Box] = []
    run: list[Box] = []
    for child in children:
        if _is_block_child(child):
            _close_run(style, run, out)
            run = []
            out.append(child)
        elif run or _is_inline_content(child):
            run.append(child)
        elif not child.is_inline_level:
            out.append(child)
    _close_run(style, run, out)
    return out


def _close_run(style: ComputedStyle, run: list[Box], out: list[Box]) -> None:
    if run:
        floats = any(c.is_float or _inline_floats(c) for c in run)
        own = anonymous_style(style)
        out.append(Box(BoxKind.BLOCK, own, None, tuple(run), holds_lines=True, holds_floats=floats))


@lru_cache(maxsize=5000)
def anonymous_style(style: ComputedStyle) -> ComputedStyle:
    """The style of an anonymous block: inherited values of its parent, initial ones else."""
    return inherited_style(style, display="block")


def ordinals_in(parent: Element, styled: StyledTree) -> dict[Element, int]:
    """The numbers of all list items among the children of `parent`: HTML Standard §4.4.8."""
    styles = styled.styles  # children outside body, such as head, have none
    items = [c for c in parent.child_elements if c in styles and styles[c].display.endswith("list-item")]
    step, number = 1, 0
    if parent.tag == "ol":
        backwards = "reversed" in parent.attributes
        step = -1 if backwards else 1
        start = parse_integer(parent.attributes.get("start", ""))
        number = (start if start is not None else len(items) if backwards else 1) - step
    found: dict[Element, int] = {}
    for item in items:
        value = parse_integer(item.attributes.get("value", "")) if item.tag == "li" else None
        number = number + step if value is None else value
        found[item] = number
    return found
