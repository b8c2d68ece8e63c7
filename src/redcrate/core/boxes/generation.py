"""Box generation: CSS 2.2 §9.2, CSS Display 3 §2, CSS Lists 3 §3.

Elements become boxes bottom-up with an explicit order (any depth of tree). A box whose element,
style and children are what they were is taken over from the earlier tree.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from heapq import heapify, heappop, heappush
from typing import TypeAlias

from redcrate.core.boxes.box import Box, BoxKind, scrolls_nothing
from redcrate.core.boxes.fallback import fallback_content, fallback_style
from redcrate.core.boxes.image_size import IntrinsicSize, svg_attributes_size
from redcrate.core.boxes.markers import SYMBOL_MARKERS, inside_marker, marker_text
from redcrate.core.boxes.ordinals import ordinals_in
from redcrate.core.boxes.wrapping import LATER, anonymous_style, block_container, is_block_child
from redcrate.core.markup.elements import Element, Text
from redcrate.core.markup.numbers import parse_integer
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.sheets import Origin
from redcrate.core.style.styling import PSEUDO_ELEMENTS, StyledTree

# The intrinsic size of the image that an element refers to; None if it is missing.
ImageSize: TypeAlias = Callable[[Element], IntrinsicSize | None]

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


@dataclass(frozen=True, slots=True, eq=False, repr=False)
class BoxTree:
    """The boxes of a page.

    root: the html element's box, None if it generates none. generated: the boxes that take the place
    of each element. later: elements whose display is laid out as blocks. missing_images: elements whose
    image was not found. split: the blocks that stand in inline boxes, with the inline elements round each,
    inner ones first. sizes: of the images, as they were found. styled: what it was made from.
    """

    root: Box | None
    generated: dict[Element, tuple[Box, ...]]
    later: tuple[Element, ...]
    missing_images: tuple[Element, ...]
    split: dict[Box, tuple[Element, ...]]
    sizes: dict[Element, IntrinsicSize | None]
    styled: StyledTree


def generate_boxes(styled: StyledTree, image_size: ImageSize, earlier: BoxTree | None = None) -> BoxTree:
    """The box tree of a styled page; boxes of `earlier` that still hold are used again.

    Where the styles are those of `earlier` but for some elements, only these are looked at.
    """
    markup = styled.markup
    if earlier is not None and earlier.styled.markup.root is not markup.root:
        earlier = None
    images = markup.those("images", _is_image)
    sizes = {e: image_size(e) for e in images if e.index >= 0}
    work = _Generation(styled, sizes, earlier)
    if earlier is not None and styled.based_on is earlier.styled.version:
        changed = set(styled.restyled)
        changed.update(e for e in sizes if sizes[e] != earlier.sizes[e])
        return work.again(earlier, changed)
    return work.whole()


def _is_image(element: Element) -> bool:
    return element.tag == "img" or (
        element.tag == "input" and element.attributes.get("type", "").lower() == "image"
    )


class _Generation:
    """One pass over elements, children before parents."""

    def __init__(
        self,
        styled: StyledTree,
        sizes: dict[Element, IntrinsicSize | None],
        earlier: BoxTree | None,
    ) -> None:
        self.styled = styled
        self.sizes = sizes
        self.earlier = earlier.generated if earlier else {}
        self.earlier_styled = earlier.styled if earlier else None
        self._root_restyled = self._root_has_other_style()
        self.no_pseudo = not styled.pseudo and not (earlier and earlier.styled.pseudo)
        self.changed: set[Element | None] = set()  # elements some child of which generates other boxes
        self.generated: dict[Element, tuple[Box, ...]] = {}
        self.later: set[Element] = set()
        self.missing: set[Element] = set()
        self.splitting: set[Element] = set()  # inline elements that blocks split
        self._hidden: dict[Element, bool] = {}
        self.ordinals: dict[Element, dict[Element, int]] = {}

    def whole(self) -> BoxTree:
        """Generate all boxes."""
        hidden: set[Element] = set()
        shown: list[Element] = []
        for element in self.styled.markup.listed:
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
            self._keep(element, made)
        return self._tree()

    def again(self, earlier: BoxTree, changed: set[Element]) -> BoxTree:
        """Generate the boxes of changed elements anew, and those above them as far as these change."""
        self.generated = dict(earlier.generated)
        self.later, self.missing = set(earlier.later), set(earlier.missing_images)
        self.splitting = {e for inlines in earlier.split.values() for e in inlines}
        listed = self.styled.markup.listed
        wanted = self._reached(changed)
        waiting = [-e.index for e in wanted]  # children stand behind their parents
        heapify(waiting)
        while waiting:
            element = listed[-heappop(waiting)]
            before = self.generated.get(element, ())
            made = () if self._is_hidden(element) else self._boxes_of(element)
            if made is before:
                continue
            self._keep(element, made)
            parent = element.parent
            if parent is not None and parent not in wanted:
                wanted.add(parent)
                heappush(waiting, -parent.index)
        return self._tree()

    def _reached(self, changed: set[Element]) -> set[Element]:
        """The elements whose own boxes a change of these styles may change."""
        assert self.earlier_styled is not None
        found = set(changed)
        for element in changed:
            before, now = self.earlier_styled.styles[element], self.styled.styles[element]
            if (before.display == "none") != (now.display == "none"):
                found.update(e for e in element.walk() if e.index >= 0)
            parent = element.parent
            if parent is not None and _is_item(before) != _is_item(now):
                found.update(c for c in parent.child_elements if c.index >= 0)  # counted anew
        return found

    def _is_hidden(self, element: Element) -> bool:
        """Whether it generates nothing: not displayed, or inside something that is not; asked once for each."""
        path: list[Element] = []
        at: Element | None = element
        while at is not None and at not in self._hidden:
            path.append(at)
            at = at.parent
        hidden = at is not None and self._hidden[at]
        for inner in reversed(path):
            none = self.styled.styles[inner].display == "none"
            hidden = self._hidden[inner] = hidden or none or _swallows(inner.parent)
        return hidden

    def _keep(self, element: Element, made: tuple[Box, ...]) -> None:
        """The boxes of an element, and what is told of it."""
        for told in (self.later, self.missing, self.splitting):
            told.discard(element)
        if not made:
            self.generated.pop(element, None)
            return
        self.generated[element] = made
        if element in self.sizes:
            if self.sizes[element] is None:
                self.missing.add(element)
        elif made[0].element is element and made[0].laid_out_as:
            self.later.add(element)
        if len(made) > 1 and any(b.kind is BoxKind.INLINE and b.element is element for b in made):
            self.splitting.add(element)

    def _tree(self) -> BoxTree:
        top = self.generated.get(self.styled.markup.listed[0], ())
        return BoxTree(
            top[0] if top else None,
            self.generated,
            _in_order(self.later),
            _in_order(self.missing),
            self._split(),
            self.sizes,
            self.styled,
        )

    def _split(self) -> dict[Box, tuple[Element, ...]]:
        """The blocks that split inline boxes, with the elements whose boxes they split."""
        found: dict[Box, tuple[Element, ...]] = {}
        for element in reversed(_in_order(self.splitting)):
            for box in self.generated[element]:
                if is_block_child(box):
                    found[box] = (*found.get(box, ()), element)
        return found

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
            and style.display not in LATER
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
        marker = self._marker(element, style)
        if marker is not None and (style.list_style_position == "inside" or is_inline(style)):
            children.insert(0, inside_marker(style, marker))
        if is_inline(style):
            return self._inline_parts(element, style, children)
        overflow_counts = not self._overflow_is_the_windows(element)
        block = block_container(style, element, children, marker, overflow_counts=overflow_counts)
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
        return block_container(style, element, children, None, pseudo=kind)

    @staticmethod
    def _content_text(element: Element, part: tuple[str, str] | str) -> str:
        kind, value = part if isinstance(part, tuple) else ("", "")
        if kind == "attr":
            return element.attributes.get(value, "")
        return value if kind == "string" else ""

    def _replaced(self, element: Element, style: ComputedStyle) -> Box | None:
        size: IntrinsicSize | None
        if element in self.sizes:
            size = self.sizes[element]
            if size is None:
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
                return block_container(style, element, [text], None)
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
        winners = self.styled.cascade_of(element).winners
        hinted = {
            n
            for n in ("width", "height")
            if n in winners and winners[n].applied.rule.origin is Origin.HINT
        }
        own = fallback_style(style, frozenset(hinted if alt else ()))
        return block_container(own, element, fallback_content(style, alt or ""), None)

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
        if not any(is_block_child(c) for c in children):
            return self._reused(element, Box(BoxKind.INLINE, style, element, tuple(children)))
        parts: list[Box] = []
        run: list[Box] = []
        for child in [*children, None]:
            if child is not None and not is_block_child(child):
                run.append(child)
                continue
            first, last = not parts, child is None
            parts.append(
                Box(BoxKind.INLINE, style, element, tuple(run), begins_here=first, ends_here=last)
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
    return block_container(moved, None, [child], None)


def _in_order(elements: set[Element]) -> tuple[Element, ...]:
    return tuple(sorted(elements, key=lambda e: e.index))


def _is_item(style: ComputedStyle) -> bool:
    return style.display.endswith("list-item")


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
