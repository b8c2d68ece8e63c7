"""Box generation: CSS 2.2 §9.2, CSS Display 3 §2, CSS Lists 3 §3.

Elements become boxes bottom-up with an explicit order (any depth of tree). A box whose element,
style and children are what they were is taken over from the earlier tree.
"""

from collections.abc import Sequence
from dataclasses import replace
from heapq import heapify, heappop, heappush

from redcrate.core.boxes.box import Box, BoxKind, scrolls_nothing
from redcrate.core.boxes.element_content import ElementContent, ImageSize, is_inline
from redcrate.core.boxes.first_letters import FirstLetters
from redcrate.core.boxes.first_lines import FirstLines, first_lines, with_first_line
from redcrate.core.boxes.generated_content import Parts
from redcrate.core.boxes.image_size import IntrinsicSize
from redcrate.core.boxes.list_boxes import list_box
from redcrate.core.boxes.replaced_elements import (
    REPLACED_TAGS,
    is_displayed,
    is_image,
    is_list_box,
    swallows,
)
from redcrate.core.boxes.restyling import restyled
from redcrate.core.boxes.wrapping import (
    anonymous_style,
    block_container,
    is_block_child,
    with_inline_tables,
)
from redcrate.core.markup.elements import Element
from redcrate.core.records import dataclass
from redcrate.core.style.affected import Account
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.property import BOXES
from redcrate.core.style.styling import PSEUDO_ELEMENTS, StyledTree


@dataclass(frozen=True, slots=True, eq=False, repr=False)
class BoxTree:
    """The boxes of a page.

    root: the html element's box, None if it generates none. generated: the boxes that take the place
    of each element. later: elements whose display is laid out as blocks. missing_images: elements whose
    image was not found. split: the blocks that stand in inline boxes, with the inline elements round each,
    inner ones first. sizes: of the images, as they were found. pictures: of those that styles name, by
    address. letters, lines, hanging: first letters, first lines and generated texts that hang on more than
    their element.
    styled: what it was made from. cut: of generated texts, what was too long to be laid out whole.
    """

    root: Box | None
    generated: dict[Element, tuple[Box, ...]]
    later: tuple[Element, ...]
    missing_images: tuple[Element, ...]
    split: dict[Box, tuple[Element, ...]]
    sizes: dict[Element, IntrinsicSize | None]
    pictures: dict[str, IntrinsicSize | None]
    letters: FirstLetters
    lines: FirstLines
    hanging: dict[tuple[Element, str], Parts]
    styled: StyledTree
    cut: tuple[str, ...] = ()


def generate_boxes(styled: StyledTree, image_size: ImageSize, earlier: BoxTree | None = None) -> BoxTree:
    """The box tree of a styled page; boxes of `earlier` that still hold are used again.

    Where the styles are those of `earlier` but for some elements, only these are looked at.
    """
    markup = styled.markup
    if earlier is not None and earlier.styled.markup.root is not markup.root:
        earlier = None
    images = markup.those("images", is_image)
    sizes = {e: image_size(e.attributes.get("src", "")) for e in images if e.index >= 0}
    if earlier is not None and any(image_size(a) != s for a, s in earlier.pictures.items()):
        earlier = None
    work = _Generation(styled, sizes, image_size, earlier)
    if earlier is not None and styled.based_on is earlier.styled.version:
        changed = set(styled.restyled) | work.hanging_otherwise
        changed.update(e for e in sizes if sizes[e] != earlier.sizes[e])
        return work.again(earlier, changed)
    return work.whole()


_SPECIAL_TAGS = REPLACED_TAGS | {"br", "wbr"}


class _Generation:
    """One pass over elements, children before parents."""

    def __init__(
        self,
        styled: StyledTree,
        sizes: dict[Element, IntrinsicSize | None],
        image_size: ImageSize,
        earlier: BoxTree | None,
    ) -> None:
        self.styled = styled
        self.sizes = sizes
        self.inside = ElementContent(styled, sizes, image_size, earlier.pictures if earlier else {})
        self.lines = first_lines(styled)
        self.hanging_otherwise = _hanging_otherwise(self.inside, self.lines, earlier)
        self.earlier = earlier.generated if earlier else {}
        self.earlier_styled = earlier.styled if earlier else None
        self._root_restyled = self._root_has_other_style()
        self.no_pseudo = not styled.pseudo and not (earlier and earlier.styled.pseudo)
        self.changed: set[Element | None] = set()  # elements some child of which generates other boxes
        self.generated: dict[Element, tuple[Box, ...]] = {}
        self.later: set[Element] = set()
        self.missing: set[Element] = set()
        self.reused: set[Element] = set()  # elements whose boxes differ in styles alone
        self.splitting: set[Element] = set()  # inline elements that blocks split
        self._hidden: dict[Element, bool] = {}

    def whole(self) -> BoxTree:
        """Generate all boxes."""
        hidden: set[Element] = set()
        shown: list[Element] = []
        for element in self.styled.markup.listed:
            inside_hidden = element.parent in hidden or swallows(element.parent)
            if inside_hidden or not is_displayed(element, self.styled.styles[element].display):
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
            if not _GENERATED.tells(before, now):
                found.update(e for e in (parent or element).walk() if e.index >= 0)
            elif parent is not None and _is_item(before) != _is_item(now):
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
            none = not is_displayed(inner, self.styled.styles[inner].display)
            hidden = self._hidden[inner] = hidden or none or swallows(inner.parent)
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
            self.inside.pictures,
            self.inside.letters,
            self.lines,
            self.inside.generated.hanging,
            self.styled,
            self.inside.generated.cut,
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
            and element not in self.hanging_otherwise
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
        special = self._special(element, style) if element.tag in _SPECIAL_TAGS else None
        if special is not None:
            return self._same_as_before(element, special)
        again = self._restyled(element, style)
        if again is not None:
            self.reused.add(element)
            return (again,)
        children = self.inside.children(element, style, self.generated)
        if style.display == "contents":
            return tuple(children)
        marker = self.inside.marker(element, style)
        if marker is not None and (style.list_style_position == "inside" or is_inline(style)):
            children.insert(0, marker.inside())
            marker = None
        elif marker is not None and marker.size is not None and _begins_with_line(children):
            children.insert(0, marker.picture_outside())
            marker = None
        if is_inline(style):
            return self._inline_parts(element, style, children)
        overflow_counts = not self._overflow_is_the_windows(element)
        text = None if marker is None else marker.text
        block = block_container(style, element, children, text, overflow_counts=overflow_counts)
        if element in self.lines:
            block = with_first_line(block, self.styled, self.lines[element])
        return self._same_as_before(element, block)

    def _special(self, element: Element, style: ComputedStyle) -> Box | None:
        """The box of an element that is not made of what its style and its content say alone."""
        if element.tag == "br":
            return Box(BoxKind.BREAK, style, element)
        if element.tag == "wbr":
            return Box(BoxKind.TEXT, style, element, text="\u200b")
        if is_list_box(element):
            return list_box(element, style, self.inside.children(element, style, self.generated))
        return self.inside.replaced(element, style)

    def _restyled(self, element: Element, style: ComputedStyle) -> Box | None:
        """The box of an element that is another one in its style alone."""
        known = self.earlier.get(element)
        if known is None or element in self.hanging_otherwise or element in self.lines:
            return None
        if element.parent is None or element.tag == "body" or element.tag in REPLACED_TAGS:
            return None
        pseudo = self.styled.pseudo
        if pseudo and any((element, kind) in pseudo for kind in PSEUDO_ELEMENTS):
            return None
        return restyled(element, known, style, self.generated, self.reused)

    def _inline_parts(
        self, element: Element, style: ComputedStyle, children: Sequence[Box]
    ) -> tuple[Box, ...]:
        """An inline element; a block inside it splits it: CSS 2.2 §9.2.1.1."""
        children = with_inline_tables(style, children)
        if not any(is_block_child(c) for c in children):
            return self._same_as_before(element, Box(BoxKind.INLINE, style, element, tuple(children)))
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

    def _same_as_before(self, element: Element, box: Box) -> tuple[Box, ...]:
        """The earlier tree's boxes for the element, if they equal what was made now."""
        known = self.earlier.get(element)
        if known is not None and len(known) == 1 and _same(known[0], box):
            return known
        return (box,)


def _hanging_otherwise(
    inside: ElementContent, lines: FirstLines, earlier: BoxTree | None
) -> set[Element]:
    """The elements whose first letter, first line or generated text is another one than in the earlier tree."""
    if earlier is None:
        return set()
    before, now = earlier.letters, inside.letters
    found = {e for e in (*before, *now) if before.get(e) != now.get(e)}
    old, new = earlier.lines, lines
    found |= {
        e for e in (*old, *new) if e not in old or e not in new or old[e].style is not new[e].style
    }
    texts, those = earlier.hanging, inside.generated.hanging
    return found | {k[0] for k in (*texts, *those) if texts.get(k) != those.get(k)}


def _begins_with_line(children: Sequence[Box]) -> bool:
    """Whether the first line of a block container with these children would be its own."""
    for child in children:
        if is_block_child(child):
            return False
        if child.is_inline_level and (child.kind is not BoxKind.TEXT or child.text.strip()):
            return True
    return True


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


# Of these it is known how far the boxes reach that hang on them; of another one all around may be other boxes.
_GENERATED = Account(
    BOXES,
    """display position float_ contain overflow_x overflow_y content quotes counter_reset counter_increment counter_set
    list_style_type list_style_position list_style_image initial_letter appearance""".split(),
)


def _is_item(style: ComputedStyle) -> bool:
    return style.display.endswith("list-item")


def _same_twin(known: Box | None, made: Box | None) -> bool:
    return known is made or (known is not None and made is not None and _same(known, made))


_IMAGES = ("img", "input")  # their files may have come or gone


def _same(known: Box, made: Box) -> bool:
    """Whether two boxes would be laid out alike: same style objects, same children."""
    if (
        known.kind is not made.kind
        or known.style is not made.style
        or known.text != made.text
        or known.marker != made.marker
        or known.picture != made.picture
        or known.intrinsic != made.intrinsic
        or known.pseudo != made.pseudo
        or known.establishes_bfc != made.establishes_bfc
        or len(known.children) != len(made.children)
        or not _same_twin(known.first_line, made.first_line)
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
