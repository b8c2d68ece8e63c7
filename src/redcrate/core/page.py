"""The laid-out page: the one result that explanations, findings, drawings and views read.

Geometry is in 1/64 px from the top left of the page. Nothing in here is changed once it is made.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import field
from functools import cached_property
from typing import Any, TypeVar

from redcrate.core.boxes.box import Box, BoxKind
from redcrate.core.boxes.element_content import ImageSize
from redcrate.core.boxes.generation import BoxTree, generate_boxes
from redcrate.core.boxes.long_texts import MOST_SHOWN, cut_off
from redcrate.core.collecting import collector_paused
from redcrate.core.error_boundary import error_boundary
from redcrate.core.geometry import NO_EDGES, Edges, Rect, union
from redcrate.core.layout.cache import LayoutCache
from redcrate.core.layout.engine import layout_page
from redcrate.core.layout.extents import inner_fragments
from redcrate.core.layout.fragments import (
    Fragment,
    InlinePiece,
    Line,
    Placed,
    TextPiece,
)
from redcrate.core.layout.sticky import stuck
from redcrate.core.markup.elements import Element, Markup
from redcrate.core.missing_fonts import missing_font_notices
from redcrate.core.notices import Notice, NoticeKind, Telling
from redcrate.core.page_files import (
    NOTHING_TO_SAY,
    PictureFile,
    missing_picture,
    outside_notice,
    used_pictures,
)
from redcrate.core.records import dataclass
from redcrate.core.style.cascade import Winner
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.style.font_faces import WebFamily
from redcrate.core.style.media import Viewport
from redcrate.core.style.sheets import Sheet, StyleRule
from redcrate.core.style.styling import StyledTree, style_tree
from redcrate.core.text.fonts import measure_font
from redcrate.core.transforms import Matrix, own_matrix
from redcrate.core.units import ZERO, LayoutUnit, from_px

Found = TypeVar("Found")


@dataclass(frozen=True, slots=True, eq=False, repr=False)
class PageSource:
    """What a page is made of, parsed: the input of the whole computation.

    inline_rules: the style attributes. image_size: finds an image's intrinsic size. told: what reading the files gave,
    with what tells of its sheets in their place. sheet_elements: the elements that brought the sheets, in order.
    families: of fonts that the page brings along, by names in lower case. about_picture: what there is to say of the
    file at an address. outside: style sheets and fonts outside the page's folder.
    """

    markup: Markup
    sheets: tuple[Sheet, ...]
    inline_rules: dict[Element, StyleRule]
    image_size: ImageSize
    told: tuple[Notice | Telling, ...] = ()
    sheet_elements: tuple[tuple[Element, Sheet], ...] = ()
    families: Mapping[str, WebFamily] = field(default_factory=dict)
    about_picture: Callable[[str], PictureFile] = lambda address: NOTHING_TO_SAY
    outside: tuple[str, ...] = ()
    _facts: dict[str, Any] = field(default_factory=dict, init=False)

    def once(self, name: str, find: Callable[[], Found]) -> Found:
        """What hangs on no window, worked out for the first one that is looked at. name: tells it from others."""
        if name not in self._facts:
            self._facts[name] = find()
        found: Found = self._facts[name]
        return found

    @property
    def notices(self) -> tuple[Notice, ...]:
        """What reading the files gave; reads all rules of the sheets."""
        return tuple(
            n for one in self.told for n in ((one,) if isinstance(one, Notice) else one.notices)
        )

    @property
    def tells_at_once(self) -> bool:
        """Whether the notices take no time: all rules of large sheets were read, or what they told was kept."""
        return all(isinstance(one, Notice) or one.is_known for one in self.told)


@dataclass(frozen=True, slots=True, eq=False)
class PlacedBox:
    """A fragment with its place on the page, and the box it stands in."""

    placed: Placed
    rect: Rect
    container: "PlacedBox | None"

    @property
    def fragment(self) -> Fragment:
        """The laid-out box."""
        return self.placed.fragment

    @property
    def content_rect(self) -> Rect:
        """The content box on the page."""
        fragment = self.fragment
        return self.rect.inset(fragment.border).inset(fragment.padding)


@dataclass(frozen=True, slots=True, eq=False)
class ElementBox:
    """The geometry of one element.

    box: the placed fragment; None for inline elements, whose pieces are in `pieces`. fragments: one
    rectangle for a block, one for each line of an inline element. container: what it stands in. lines: the line
    box of each piece.
    """

    element: Element
    box: PlacedBox | None
    fragments: tuple[Rect, ...]
    pieces: tuple[InlinePiece, ...]
    container: PlacedBox | None
    lines: tuple[Line, ...] = ()

    @property
    def border_box(self) -> Rect:
        """The border box; of an inline element, round all its parts that are not empty."""
        if len(self.fragments) == 1:
            return self.fragments[0]
        full = [r for r in self.fragments if r.width > 0 and r.height > 0]
        return union(full) if full else self.fragments[0]

    @property
    def _used(self) -> Fragment | InlinePiece | None:
        return self.box.fragment if self.box else self.pieces[0] if self.pieces else None

    @property
    def margin(self) -> Edges:
        """The used margins."""
        return self._used.margin if self._used else NO_EDGES

    @property
    def border(self) -> Edges:
        """The used border widths."""
        return self._used.border if self._used else NO_EDGES

    @property
    def padding(self) -> Edges:
        """The used paddings."""
        return self._used.padding if self._used else NO_EDGES

    @property
    def content_box(self) -> Rect:
        """The content box; of an inline element, round its lines inside border and padding."""
        return self.border_box.inset(self.border).inset(self.padding)

    @property
    def padding_box(self) -> Rect:
        """The padding box."""
        return self.border_box.inset(self.border)

    @property
    def margin_box(self) -> Rect:
        """The margin box."""
        return self.border_box.outset(self.margin)


@dataclass(frozen=True, eq=False, repr=False)
class Page:
    """A page at one viewport, computed from source to geometry.

    root: the html element's box; None if it has none. layouts: what is known of the boxes of all pages
    of this family. Fragments know their places from what they stand in alone, so that pages share them;
    the place on the page is worked out for whom it is asked.
    """

    source: PageSource
    viewport: Viewport
    styled: StyledTree
    boxes: BoxTree
    root: PlacedBox | None
    layouts: LayoutCache
    _standing: "dict[Element | None, dict[Element, ElementBox]]" = field(default_factory=dict)

    @property
    def elements(self) -> tuple[Element, ...]:
        """html, body and every element in body, in document order."""
        return self.source.markup.listed

    @cached_property
    def _whole(self) -> "tuple[dict[Element, ElementBox], tuple[PlacedBox, ...]]":
        if self.root is None:
            return {}, ()
        walk = _Walk(self.boxes.split)
        walk.run(self.root)
        return walk.finish(), tuple(walk.in_order)

    @cached_property
    def painted(self) -> dict[Placed, Matrix]:
        """What transforms do to the picture of each box; those that nothing moves are left out."""
        found: dict[Placed, Matrix] = {}
        for box in self.in_order:  # outer ones first
            around = found.get(box.container.placed) if box.container is not None else None
            own = own_matrix(box.fragment.box.style, box.rect)
            if own is not None or around is not None:
                found[box.placed] = (around or Matrix()).times(own or Matrix())
        return found

    @property
    def by_element(self) -> dict[Element, ElementBox]:
        """The geometry of all elements that have any, in document order."""
        return self._whole[0]

    @property
    def in_order(self) -> tuple[PlacedBox, ...]:
        """All placed boxes, each before those inside it."""
        return self._whole[1]

    @cached_property
    def notices(self) -> tuple[Notice, ...]:
        """What reading the files gave, and what only the computation shows."""
        return (*self.source.notices, *_computing_notices(self.source, self.styled, self.boxes))

    def box_of(self, element: Element) -> ElementBox | None:
        """The element's geometry; None if it has no box.

        Only the boxes that it stands in are looked into, from the nearest one outwards.
        """
        if "_whole" in self.__dict__:
            return self.by_element.get(element)
        if element not in self.boxes.generated:
            return None
        if element.parent not in self._standing:  # else all that is further out is known too
            for around in (None, *reversed(tuple(element.ancestors()))):
                if around not in self._standing:
                    self._standing[around] = self._found_in(around)
        return self._found(element)

    def _found(self, element: Element) -> ElementBox | None:
        """The element's geometry, if what it stands in was looked into."""
        for around in (*element.ancestors(), None):
            found = self._standing[around].get(element)
            if found is not None:
                return found
        return None

    def _found_in(self, around: Element | None) -> "dict[Element, ElementBox]":
        """The elements that stand in an element's own box; those in the window for None."""
        walk = _Walk(self.boxes.split)
        if around is not None:
            box = self._found(around)
            if box is None or box.box is None:
                return {}
            walk.inside(box.box)
        elif self.root is not None:
            walk.note(self.root)
            if self.root.fragment.box.element is None:
                walk.inside(self.root)
        return walk.finish()

    def placed_child(self, parent: PlacedBox, child: Placed) -> PlacedBox:
        """The place on the page of a child of a placed box."""
        return PlacedBox(child, _rect(child, parent.rect.x, parent.rect.y), parent)

    def style_of(self, element: Element) -> ComputedStyle:
        """The element's computed values."""
        return self.styled.styles[element]

    def origin_of(self, element: Element, longhand: str) -> Winner | None:
        """The declaration that set `longhand` on the element itself; None if none did."""
        return self.styled.cascade_of(element).winners.get(longhand)

    @cached_property
    def height(self) -> LayoutUnit:
        """How far down the boxes reach, at least the window's height."""
        window = from_px(self.viewport.height)
        if self.root is None:
            return window
        return max(self.root.rect.y + self.layouts.extents.of(self.root.fragment).lowest, window)

    @cached_property
    def left(self) -> LayoutUnit:
        """How far left of the window boxes reach on a page that is read from right to left; 0 or less.

        CSS Overflow 3 §2.2: what lies left of a page that is read the other way cannot be reached.
        """
        if self.root is None or self.root.fragment.box.style.direction != "rtl":
            return ZERO
        return min(ZERO, LayoutUnit(self.root.rect.x + self.layouts.extents.of(self.root.fragment).left))

    @property
    def is_transformed(self) -> bool:
        """Whether any box is painted elsewhere than it stands."""
        return self.root is not None and self.layouts.extents.of(self.root.fragment).transformed

    def reaching(self, seen: Rect) -> tuple[PlacedBox, ...]:
        """The boxes that reach into a part of the page, and those they stand in, each before those inside it.

        Where nothing is transformed no other box has anything to paint there, shadows and outlines apart.
        """
        if self.root is None:
            return ()
        found, stack, extents = [], [self.root], self.layouts.extents
        while stack:
            at = stack.pop()
            extent, x, y = extents.of(at.fragment), at.rect.x, at.rect.y
            if x + extent.left > seen.right or x + extent.right < seen.x:
                continue
            if y + extent.top > seen.bottom or y + extent.bottom < seen.y:
                continue
            found.append(at)
            inner = [self.placed_child(at, p) for p in inner_fragments(at.fragment)]
            stack.extend(reversed(inner))
        return tuple(found)

    def at_point(self, x: LayoutUnit, y: LayoutUnit) -> Element | None:
        """The innermost visible element whose box holds the point; later boxes lie on top."""
        found: Element | None = None
        for element, box in self.by_element.items():
            if any(r.contains(x, y) for r in box.fragments):
                found = element
        return found


def compute_page(source: PageSource, viewport: Viewport, earlier: Page | None = None) -> Page:
    """Everything from parsed source to geometry.

    earlier: a page of the same document, whose styles, boxes and layouts are used again where they
    still hold. Raises LayoutBug where Red Crate itself fails.
    """
    with error_boundary(source.markup.source.name), collector_paused():
        return _compute(source, viewport, earlier)


def _compute(source: PageSource, viewport: Viewport, earlier: Page | None) -> Page:
    styled = style_tree(
        source.markup,
        source.sheets,
        source.inline_rules,
        viewport,
        measure=measure_font,
        families=source.families,
        earlier=earlier.styled if earlier else None,
    )
    boxes = generate_boxes(styled, source.image_size, earlier.boxes if earlier else None)
    layouts = earlier.layouts if earlier else LayoutCache()
    root = None
    if boxes.root is not None:
        width, height = from_px(viewport.width), from_px(viewport.height)
        placed = layout_page(boxes.root, width, height, layouts)
        if any(style.position == "sticky" for style in set(styled.styles.values())):
            placed = stuck(placed, Rect(ZERO, ZERO, width, height), layouts.extents)
        root = PlacedBox(placed, _rect(placed, ZERO, ZERO), None)
    return Page(source, viewport, styled, boxes, root, layouts)


def _rect(placed: Placed, x: LayoutUnit, y: LayoutUnit) -> Rect:
    fragment = placed.fragment
    return Rect(
        x + placed.x + placed.shift_x,
        y + placed.y + placed.shift_y,
        fragment.width,
        fragment.height,
    )


class _Walk:
    """Turns the fragment tree, with its relative places, into boxes on the page."""

    def __init__(self, split: dict[Box, tuple[Element, ...]]) -> None:
        self.split = split  # the inline elements that blocks stand in
        self.rows: dict[Element, list[Rect]] = {}  # what blocks add to the inline elements round them
        self.blocks: dict[Element, PlacedBox] = {}
        self.pieces: dict[Element, list[tuple[InlinePiece, Rect, PlacedBox, Line]]] = {}
        self.breaks: dict[Element, tuple[Rect, PlacedBox]] = {}
        self.in_order: list[PlacedBox] = []

    def run(self, root: PlacedBox) -> None:
        """Walk all fragments, outer ones first, with an explicit stack."""
        stack = [root]
        while stack:
            at = stack.pop()
            self.in_order.append(at)
            self.note(at)
            stack.extend(self.children(at))

    def inside(self, at: PlacedBox) -> None:
        """Walk what stands in a box, up to the boxes of other elements."""
        stack = self.children(at)
        while stack:
            inner = stack.pop()
            self.note(inner)
            if inner.fragment.box.element is None or inner.fragment.box.pseudo:
                stack.extend(self.children(inner))

    def note(self, at: PlacedBox) -> None:
        """A box, by its element, and for the inline elements that it splits."""
        box = at.fragment.box
        if box.element is not None and not box.pseudo:
            self.blocks[box.element] = at
        if box in self.split:
            self.block_in_inline(at)

    def children(self, at: PlacedBox) -> list[PlacedBox]:
        """The boxes that stand in a box, the last one first; its lines are noted."""
        fragment = at.fragment
        inner = [PlacedBox(c, _rect(c, at.rect.x, at.rect.y), at) for c in fragment.children]
        for line in fragment.lines:
            self.line(line, at, inner)
        inner.reverse()
        return inner

    def block_in_inline(self, at: PlacedBox) -> None:
        """CSS 2.2 §9.2.1.1: an inline box round a block has the whole row of the anonymous block too."""
        row = at.container.content_rect if at.container is not None else at.rect
        above = max(0, at.placed.clearance)  # clearance is inside the row
        rect = Rect(row.x + at.placed.shift_x, at.rect.y - above, row.width, at.rect.height + above)
        for element in self.split[at.fragment.box]:
            self.rows.setdefault(element, []).append(rect)

    def line(self, line: Line, at: PlacedBox, inner: list[PlacedBox]) -> None:
        """The parts of one line."""
        x, y = at.rect.x, at.rect.y
        for piece in line.content:
            if isinstance(piece, Placed):
                inner.append(PlacedBox(piece, _rect(piece, x, y), at))
                continue
            box = piece.box
            if box.element is None or box.pseudo:
                continue
            rect = Rect(x + piece.x, y + piece.y, piece.width, piece.height)
            if isinstance(piece, InlinePiece):
                self.pieces.setdefault(box.element, []).append((piece, rect, at, line))
            elif box.kind is BoxKind.BREAK or box.element.tag == "wbr":
                self.breaks[box.element] = (rect, at)

    def finish(self) -> dict[Element, ElementBox]:
        """All elements that have a box, in document order."""
        found: dict[Element, ElementBox] = {}
        for element, at in self.blocks.items():
            found[element] = ElementBox(element, at, (at.rect,), (), at.container)
        for element, parts in self.pieces.items():
            rects = (*(r for _, r, _, _ in parts), *self.rows.get(element, ()))
            pieces, lines = tuple(p for p, *_ in parts), tuple(part[3] for part in parts)
            found[element] = ElementBox(element, None, rects, pieces, parts[0][2], lines)
        for element, (rect, at) in self.breaks.items():
            found[element] = ElementBox(element, None, (rect,), (), at)
        return dict(sorted(found.items(), key=lambda item: item[0].index))


def text_pieces(lines: Sequence[Line]) -> list[TextPiece]:
    """The text of lines, in order."""
    return [p for line in lines for p in line.content if isinstance(p, TextPiece)]


def _computing_notices(source: PageSource, styled: StyledTree, boxes: BoxTree) -> list[Notice]:
    """What only the computation shows: missing fonts and images, and stand-in layouts."""
    markup = source.markup
    name = markup.source.name
    out: list[Notice] = []

    out.extend(missing_font_notices(styled.styles, boxes.generated, name))
    out.extend(
        Notice(
            NoticeKind.MISSING_IMAGE,
            missing_picture(e, source.about_picture(e.attributes.get("src", ""))),
            name,
            markup.line_of(e),
        )
        for e in boxes.missing_images
    )
    out.extend(
        Notice(
            NoticeKind.LAID_OUT_AS_BLOCKS,
            f"{e.label} has display: {styled.styles[e].display}, which is laid out as blocks here.",
            name,
            markup.line_of(e),
        )
        for e in boxes.later
    )
    out.extend(
        Notice(
            NoticeKind.TOO_LONG,
            f"the text of {e.label} has {length} characters: only the first {MOST_SHOWN} are laid out.",
            name,
            markup.line_of(e),
        )
        for e, length in cut_off(markup)
    )
    out.extend(Notice(NoticeKind.TOO_LONG, sentence, name) for sentence in boxes.cut)
    pictures = used_pictures(styled, boxes.sizes)
    out.extend(
        outside_notice((*source.outside, *(source.about_picture(a).outside for a in pictures)), name)
    )
    return out
