"""The plan of a page: all its blocks nested and outlined to scale, each named with its outer size.

A block with room for its label has it inside; another one has a number there, and a row in the key beside the
plan. No label stands on another one or on an outline that is not its own block's.
"""

from collections.abc import Callable, Iterator
from contextlib import AbstractContextManager

from redcrate.core.diagram.board import Board
from redcrate.core.diagram.drawing import Area, Drawing, Label, Segment, Stroke
from redcrate.core.diagram.label_places import Bands, Place, spread
from redcrate.core.diagram.lettering import shortened, text_width
from redcrate.core.diagram.title_block import Sheet, finished
from redcrate.core.errors import RedCrateError
from redcrate.core.geometry import Rect
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.records import dataclass
from redcrate.core.units import LayoutUnit, counted, format_px, nearest_from_px

_WIDEST = 760.0
_LEFT, _TOP = 96.0, 40.0
_SIZE, _NUMBER_SIZE, _KEY_SIZE = 11.0, 9.0, 11.0
_ROW = 16.0
_LINE = Stroke("ink", 0.8)
_OUTER = Stroke("ink", 1.6)
_EXTENSION = Stroke("second_ink", 0.7, (1.5, 2.5))
_LONGEST_NAME = 40


class NoPlan(RedCrateError):
    """There is no block to draw."""


@dataclass(frozen=True, slots=True)
class PlanOptions:
    """depth: how many levels of blocks inside the outermost one are drawn; None for all. page_name: in the title.

    link_of: where the name of a block leads. title: whether there is a title block.
    """

    depth: int | None = None
    page_name: str = ""
    link_of: Callable[[Element], str] | None = None
    title: bool = True


@dataclass(frozen=True, slots=True)
class _Block:
    """A block of the plan. place: on the drawing. level: how deep it stands in the plan."""

    element: Element
    rect: Rect
    place: Place
    level: int

    @property
    def name(self) -> str:
        """Selector and outer size, px."""
        label = shortened(self.element.label, _LONGEST_NAME)
        return f"{label}  {format_px(self.rect.width)} × {format_px(self.rect.height)}"


def page_plan(page: Page, element: Element | None = None, options: PlanOptions | None = None) -> Drawing:
    """The plan of a page, or of an element with what stands in it. Raises NoPlan if it has no block."""
    root = element or page.source.markup.body or page.elements[0]
    box = page.box_of(root)
    if box is None or box.box is None:
        raise NoPlan(f"{root.label} has no block to draw.", remedy="Choose another element.")
    return _Plan(page, root, options or PlanOptions()).run()


class _Plan:
    """Collects the shapes of one plan."""

    def __init__(self, page: Page, root: Element, options: PlanOptions) -> None:
        self.page = page
        self.root = root
        self.options = options
        self.board = Board()
        self.labels = Bands()
        self.key: list[_Block] = []
        found = list(_blocks_in(page, root, options.depth))
        self.left = min(r.x for _, r, _ in found) / 64
        self.top = min(r.y for _, r, _ in found) / 64
        width = max(r.right for _, r, _ in found) / 64 - self.left
        self.scale = min(1.0, _WIDEST / max(1.0, width))
        self.blocks = [_Block(e, r, self.place_of(r), level) for e, r, level in found]
        self.outlines = Bands()
        for block in self.blocks:
            self.outlines.add(block.place, block)

    def place_of(self, rect: Rect) -> Place:
        """Where a rectangle of the page stands on the drawing."""
        x, y = (rect.x / 64 - self.left) * self.scale, (rect.y / 64 - self.top) * self.scale
        return Place(_LEFT + x, _TOP + y, rect.width / 64 * self.scale, rect.height / 64 * self.scale)

    def run(self) -> Drawing:
        """Outlines first, then the labels, the chains, the key and the title block."""
        for block in self.blocks:
            place, stroke = block.place, _OUTER if block.level == 0 else _LINE
            self.board.add(Area(place.x, place.y, place.width, place.height, None, stroke))
        for block in self.blocks:
            self.name(block)
        right = max(b.place.x + b.place.width for b in self.blocks)
        bottom = max(b.place.y + b.place.height for b in self.blocks)
        self.chain_down()
        bottom = self.chain_across(bottom)
        self.key_beside(max(right + 32, self.board.right + 24), bottom)
        title = f"Page plan of {self.root.label}, {len(self.blocks)} blocks"
        description = "; ".join(b.name for b in self.blocks)
        count, asked = len(self.blocks), self.options.depth
        depth = (
            "all levels" if asked is None else counted(asked, "1 level inside", "{count} levels inside")
        )
        how = f"page plan · {depth} · {counted(count, '1 block', '{count} blocks')}"
        sheet = Sheet(self.page, self.options.page_name, how, self.scale, self.options.title)
        return finished(self.board, self.root.label, sheet, title, description)

    # -- labels

    def name(self, block: _Block) -> None:
        """The label inside the block, or its number there and a row in the key."""
        size = text_width(block.name, _SIZE)
        place = self.free_place(block, size, _SIZE)
        if place is not None:
            with self.part_of(block):
                self.label(place, block.name, _SIZE)
            return
        self.key.append(block)
        number = str(len(self.key))
        width = text_width(number, _NUMBER_SIZE)
        place = self.free_place(block, width, _NUMBER_SIZE)
        if place is None:
            place = self.place_beside(block, width, _NUMBER_SIZE)
        if place is not None:
            with self.part_of(block):
                self.label(place, number, _NUMBER_SIZE)

    def part_of(self, block: _Block) -> AbstractContextManager[None]:
        """What names a block, and leads to it where links are asked for."""
        link = self.options.link_of(block.element) if self.options.link_of else ""
        return self.board.part(f"block-{block.element.index}", link)

    def label(self, place: Place, text: str, size: float) -> None:
        """A text in its place."""
        self.labels.add(place)
        self.board.add(Label(place.x + 2, place.y + size, text, size))

    def free_place(self, block: _Block, width: float, size: float) -> Place | None:
        """A place in the block for a text, where no label and no outline of what stands in the block is."""
        inner, tall = block.place, size + 4
        if width + 8 > inner.width or tall + 2 > inner.height:
            return None
        left, right = inner.x + 2, inner.x + inner.width - width - 6
        top, bottom = inner.y + 1, inner.y + inner.height - tall - 1
        for x, y in ((left, top), (right, top), (left, bottom), (right, bottom)):
            place = Place(x, y, width + 4, tall)
            if not any(self.labels.meeting(place)) and not self.is_crossed(place, block):
                return place
        return None

    def place_beside(self, block: _Block, width: float, size: float) -> Place | None:
        """A place right outside the block, with a short line to its edge; None where all are taken."""
        at, wide, tall = block.place, width + 4, size + 4
        sides = (
            (at.x - wide - 4, at.y + 1, at.x, at.y + 1 + tall / 2),
            (at.x + at.width + 4, at.y + 1, at.x + at.width, at.y + 1 + tall / 2),
            (at.x + 3, at.y - tall - 3, at.x + 3 + wide / 2, at.y),
            (at.x + 3, at.y + at.height + 3, at.x + 3 + wide / 2, at.y + at.height),
        )
        for x, y, edge_x, edge_y in sides:
            place = Place(x, y, wide, tall)
            crossed = any(not _holds(outline, place) for outline, _ in self.outlines.meeting(place))
            if not crossed and not any(self.labels.meeting(place)):
                middle = (min(max(edge_x, x), x + wide), min(max(edge_y, y), y + tall))
                self.board.add(Segment(*middle, edge_x, edge_y, _LINE))
                return place
        return None

    def is_crossed(self, place: Place, block: _Block) -> bool:
        """Whether another block covers some of the place or has an edge there, those around it apart."""
        return any(
            other is not block and (other.level > block.level or not _holds(outline, place))
            for outline, other in self.outlines.meeting(place)
        )

    # -- chains

    def chain_down(self) -> None:
        """The heights on the left of the first level with more than one block; what stands beside one is left out."""
        x, last = min(_LEFT, self.board.left) - 26, -1.0
        levels = [[b for b in self.blocks if b.level == n] for n in range(1, 6)]
        top = next((level for level in levels if len(level) > 1), levels[0])
        spans = []
        for block in top:
            if block.place.y >= last - 0.01 and block.place.height > 0:
                spans.append(block)
                last = block.place.y + block.place.height
        middles = spread([b.place.y + b.place.height / 2 for b in spans], [13.0] * len(spans), 1.0)
        for block, middle in zip(spans, middles, strict=True):
            start, end = block.place.y, block.place.y + block.place.height
            self.board.add(Segment(x, start, x, end, _LINE))
            for y in (start, end):
                self.board.add(Segment(x - 3, y + 3, x + 3, y - 3, _OUTER))
                self.board.add(Segment(x + 4, y, block.place.x, y, _EXTENSION))
            if abs(middle - (start + end) / 2) > 2:
                self.board.add(Segment(x, (start + end) / 2, x - 8, middle, _EXTENSION))
            self.text(x - 10, middle + 4, format_px(block.rect.height), "end")

    def chain_across(self, bottom: float) -> float:
        """The width of the outermost block and its place in the window, below; returns the new lower edge."""
        block, y = self.blocks[0], max(bottom, self.board.bottom) + 26
        window = LayoutUnit(nearest_from_px(self.page.viewport.width))
        start, end = block.place.x, block.place.x + block.place.width
        self.board.add(Segment(start, y, end, y, _LINE))
        for x in (start, end):
            self.board.add(Segment(x - 3, y + 3, x + 3, y - 3, _OUTER))
            self.board.add(Segment(x, block.place.y + block.place.height, x, y + 6, _EXTENSION))
        words = f"{format_px(block.rect.width)} of the viewport's {format_px(window)} px"
        self.text(max((start + end) / 2, start + text_width(words, _SIZE) / 2), y - 5, words, "middle")
        return y + 16

    def text(self, x: float, y: float, text: str, anchor: str, *, bold: bool = False) -> None:
        """A label of a chain or of the key, with paper behind it."""
        width = text_width(text, _SIZE, bold=bold)
        start = x - {"start": 0.0, "middle": width / 2, "end": width}[anchor]
        self.labels.add(Place(start, y - _SIZE, width, _SIZE + 3))
        self.board.add(Label(x, y, text, _SIZE, bold=bold, anchor=anchor, back=True))

    # -- beside

    def key_beside(self, x: float, bottom: float) -> None:
        """The numbered blocks in columns as tall as the plan."""
        if not self.key:
            return
        rows = max(12, int((bottom - _TOP) / _ROW) - 1)
        self.text(x, _TOP + _SIZE, "Key", "start", bold=True)
        for first in range(0, len(self.key), rows):
            column = self.key[first : first + rows]
            y = _TOP + _SIZE
            for number, block in enumerate(column, first + 1):
                y += _ROW
                with self.part_of(block):
                    self.text(x + 18, y, str(number), "end", bold=True)
                    self.text(x + 26, y, block.name, "start")
            x += 26 + max(text_width(b.name, _KEY_SIZE) for b in column) + 24


def _blocks_in(page: Page, root: Element, depth: int | None) -> Iterator[tuple[Element, Rect, int]]:
    """The blocks of a tree, outer ones first, with their border boxes and levels."""
    stack = [(root, 0)]
    while stack:
        element, level = stack.pop()
        box = page.box_of(element)
        inside = level
        if box is not None and box.box is not None:
            yield element, box.border_box, level
            inside = level + 1
        if depth is None or inside <= depth:
            stack.extend((child, inside) for child in reversed(element.child_elements))


def _holds(outer: Place, inner: Place) -> bool:
    """Whether one place lies in another, edges apart."""
    return (
        outer.x <= inner.x
        and outer.y <= inner.y
        and inner.x + inner.width <= outer.x + outer.width
        and inner.y + inner.height <= outer.y + outer.height
    )
