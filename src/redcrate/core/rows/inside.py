"""How a flex or grid container's room lies on the page: tracks, gaps, and what is left free.

CSS Flexbox 1 §9.5, CSS Grid 1 §7 and §10; CSS Align 3 §8. All places come from what layout kept, in 1/64 px.
"""

from collections.abc import Iterator, Sequence

from redcrate.core.geometry import Rect
from redcrate.core.layout.flex_facts import FlexFacts
from redcrate.core.layout.grid_facts import GridFacts
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page, PlacedBox
from redcrate.core.records import dataclass
from redcrate.core.rows.row import flow_rect
from redcrate.core.units import ZERO, LayoutUnit


@dataclass(frozen=True, slots=True)
class Space:
    """A piece of an axis: from its start, so long."""

    start: LayoutUnit
    size: LayoutUnit


@dataclass(frozen=True, slots=True)
class GapPlace:
    """One gap: the strip between two items or tracks, and whether it lies across."""

    rect: Rect
    is_across: bool

    @property
    def amount(self) -> LayoutUnit:
        """How wide, or how high, it is."""
        return self.rect.width if self.is_across else self.rect.height


@dataclass(frozen=True, slots=True)
class TrackPlace:
    """One track: all of it, and whether it is a column."""

    rect: Rect
    is_column: bool

    @property
    def amount(self) -> LayoutUnit:
        """Its size."""
        return self.rect.width if self.is_column else self.rect.height


@dataclass(frozen=True, slots=True)
class Inside:
    """What lies between the items of a container."""

    tracks: tuple[TrackPlace, ...]
    gaps: tuple[GapPlace, ...]
    free: tuple[Rect, ...]


def inside_of(page: Page, element: Element) -> Inside | None:
    """What is inside a flex or grid container; None for other elements."""
    box = page.box_of(element)
    if box is None or box.box is None:
        return None
    facts = box.box.fragment.facts
    if isinstance(facts, FlexFacts):
        return _flex(page, box.box, facts)
    return _grid(box.box, facts) if isinstance(facts, GridFacts) else None


def spaces_between(
    taken: Sequence[Space], gap: LayoutUnit, room: LayoutUnit
) -> tuple[list[Space], list[Space]]:
    """The gaps and the free pieces of an axis of that room beside what is taken.

    Where nothing overlaps or sticks out, all three together make the room.
    """
    gaps: list[Space] = []
    free: list[Space] = []
    at = ZERO
    for number, one in enumerate(sorted(taken, key=lambda s: s.start)):
        if number and gap and one.start > at:
            size = min(gap, one.start - at)
            gaps.append(Space(at, size))
            at += size
        if one.start > at:
            free.append(Space(at, one.start - at))
        at = max(at, one.start + one.size)
    if room > at:
        free.append(Space(at, room - at))
    return gaps, free


def _flex(page: Page, at: PlacedBox, facts: FlexFacts) -> Inside:
    content = at.content_rect
    boxes = {c.fragment.box: page.placed_child(at, c) for c in at.fragment.children}
    gaps: list[GapPlace] = []
    free: list[Rect] = []
    lines: list[Space] = []
    for line in facts.lines:
        items = [flow_rect(boxes[i.box]) for i in line.items]
        across = _cross(items, facts, content)
        lines.append(across)
        taken = [_along(r, content, is_row=facts.is_row) for r in items]
        room = content.width if facts.is_row else content.height
        between, left = spaces_between(taken, facts.gap, room)
        gaps += [
            GapPlace(_strip(content, s, across, is_row=facts.is_row), facts.is_row) for s in between
        ]
        free += [_strip(content, s, across, is_row=facts.is_row) for s in left]
    room = content.height if facts.is_row else content.width
    between, _ = spaces_between(lines, facts.line_gap, room)
    whole = Space(ZERO, content.width if facts.is_row else content.height)
    gaps += [
        GapPlace(_strip(content, s, whole, is_row=not facts.is_row), not facts.is_row) for s in between
    ]
    return Inside((), tuple(gaps), tuple(free))


def _along(rect: Rect, content: Rect, *, is_row: bool) -> Space:
    """A margin box along the main axis, from the content edge."""
    return Space(rect.x - content.x, rect.width) if is_row else Space(rect.y - content.y, rect.height)


def _cross(items: Sequence[Rect], facts: FlexFacts, content: Rect) -> Space:
    """How far the items of a line reach along the cross axis."""
    pieces = [_along(r, content, is_row=not facts.is_row) for r in items]
    start = min(p.start for p in pieces)
    return Space(start, max(p.start + p.size for p in pieces) - start)


def _strip(content: Rect, along: Space, across: Space, *, is_row: bool) -> Rect:
    x, y = (along, across) if is_row else (across, along)
    return Rect(content.x + x.start, content.y + y.start, x.size, y.size)


def _grid(at: PlacedBox, facts: GridFacts) -> Inside:
    content = at.content_rect
    if at.fragment.box.style.direction == "rtl":
        columns = [Space(content.width - t.start - t.size, t.size) for t in facts.columns]
    else:
        columns = [Space(t.start, t.size) for t in facts.columns]
    rows = [Space(t.start, t.size) for t in facts.rows]
    wide, high = Space(ZERO, content.width), Space(ZERO, content.height)
    across = spaces_between(_shown(columns), facts.column_gap, content.width)
    down = spaces_between(_shown(rows), facts.row_gap, content.height)
    gaps = [GapPlace(_strip(content, s, high, is_row=True), True) for s in across[0]]
    gaps += [GapPlace(_strip(content, s, wide, is_row=False), False) for s in down[0]]
    free = [_strip(content, s, high, is_row=True) for s in across[1]]
    free += [_strip(content, s, wide, is_row=False) for s in down[1]]
    return Inside(tuple(_tracks(content, columns, rows)), tuple(gaps), tuple(free))


def _shown(spaces: Sequence[Space]) -> list[Space]:
    return [s for s in spaces if s.size]


def _tracks(content: Rect, columns: Sequence[Space], rows: Sequence[Space]) -> Iterator[TrackPlace]:
    for column in columns:
        rect = Rect(content.x + column.start, content.y, column.size, content.height)
        yield TrackPlace(rect, is_column=True)
    for row in rows:
        rect = Rect(content.x, content.y + row.start, content.width, row.size)
        yield TrackPlace(rect, is_column=False)
