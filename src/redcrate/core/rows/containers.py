"""The rows of flex and grid containers, from what layout kept of them: CSS Flexbox 1 §9.3, CSS Grid 1 §8."""

from collections.abc import Iterator, Sequence
from itertools import pairwise

from redcrate.core.layout.flex_facts import FlexedItem, FlexedLine, FlexFacts, FlexLimit
from redcrate.core.layout.fragments import Facts
from redcrate.core.layout.grid_facts import GridFacts
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page, PlacedBox
from redcrate.core.rows.row import Dropped, Gap, Row, RowItem, RowKind, flow_rect
from redcrate.core.units import ZERO, LayoutUnit, format_px


def container_rows(page: Page, container: Element, at: PlacedBox) -> list[Row]:
    """The lines of a flex container whose main axis is across, or the rows of a grid; none for others."""
    facts = at.fragment.facts
    if isinstance(facts, FlexFacts) and facts.is_row:
        return list(_flex_rows(page, container, at, facts))
    if isinstance(facts, GridFacts):
        return list(_grid_rows(page, container, at, facts))
    if at.fragment.box.style.display == "table-row" and at.fragment.children:
        return [_cells(page, container, at)]
    return []


def _cells(page: Page, container: Element, at: PlacedBox) -> Row:
    """The cells that begin in a table's row, with the spacing between neighbours (CSS 2.2 §17.6.1)."""
    items = [_item(container, page.placed_child(at, c)) for c in at.fragment.children]
    items.sort(key=lambda i: i.margin_box.x)
    gaps = []
    for number, (one, other) in enumerate(pairwise(items)):
        apart = other.margin_box.x - one.margin_box.right
        if apart > 0:
            gaps.append(Gap(number, edges=apart))
    room = at.rect.width
    return Row(container, RowKind.CELLS, at.rect.y, room, tuple(items), tuple(gaps), None)


def gaps_of(facts: Facts | None) -> tuple[LayoutUnit, LayoutUnit]:
    """The gaps between columns and between rows of a container, 1/64 px; 0 where it has none."""
    if isinstance(facts, GridFacts):
        return facts.column_gap, facts.row_gap
    if isinstance(facts, FlexFacts):
        return (facts.gap, facts.line_gap) if facts.is_row else (facts.line_gap, facts.gap)
    return ZERO, ZERO


def _placed(page: Page, at: PlacedBox) -> dict[object, PlacedBox]:
    """The boxes in a container by their own boxes."""
    return {c.fragment.box: page.placed_child(at, c) for c in at.fragment.children}


def _item(container: Element, box: PlacedBox) -> RowItem:
    element = box.fragment.box.element
    return RowItem(container if element is None else element, flow_rect(box), "")


def _flex_rows(page: Page, container: Element, at: PlacedBox, facts: FlexFacts) -> Iterator[Row]:
    inside = _placed(page, at)
    for line, following in zip(facts.lines, [*facts.lines[1:], None], strict=False):
        items = [_item(container, inside[i.box]) for i in line.items]
        order = sorted(items, key=lambda i: i.margin_box.x)
        gaps = tuple(Gap(n, gap=facts.gap) for n in range(len(items) - 1) if facts.gap)
        top = min(i.margin_box.y for i in items)
        row = Row(container, RowKind.FLEX, top, facts.room, tuple(order), gaps, None)
        dropped = None if following is None else _next(row, line, following, facts)
        yield Row(
            container,
            RowKind.FLEX,
            top,
            facts.room,
            row.items,
            gaps,
            dropped,
            _shared(line),
        )


def _next(row: Row, line: FlexedLine, following: FlexedLine, facts: FlexFacts) -> Dropped | None:
    """The item that begins the next line, since it did not fit any more (§9.3.5)."""
    item = following.items[0]
    element = item.box.element
    if element is None:
        return None
    taken = sum((i.hypothetical + i.extra for i in line.items), ZERO)
    room = facts.room - taken - facts.gap * len(line.items)
    width = item.hypothetical + item.extra
    missing = width - room
    return Dropped(element, width, ZERO, max(ZERO, room), missing) if missing > 0 else None


def _shared(line: FlexedLine) -> str:
    """Who got the free space of a line, or gave what it lacked; the outcomes that add up to it."""
    if not line.free:
        return ""
    amount = format_px(abs(line.free))
    what = f"{amount} px free" if line.free > 0 else f"short by {amount} px"
    parts = [f"{i.box.label} {_change(i)}" for i in line.items if i.used != i.base]
    left = f"; {format_px(line.left)} px free" if line.left > 0 else ""
    if line.in_margins:
        left = f"; {format_px(line.in_margins)} px go into auto margins"
    told = ", ".join(parts) if parts else "no item grows" if line.free > 0 else "no item shrinks"
    return f"{what}: {told}{left}"


def _change(item: FlexedItem) -> str:
    change = item.used - item.base
    sign = "+" if change > 0 else "−"
    stopped = " (stopped)" if item.limit is not FlexLimit.NONE else ""
    return f"{sign}{format_px(abs(change))}{stopped}"


def _grid_rows(page: Page, container: Element, at: PlacedBox, facts: GridFacts) -> Iterator[Row]:
    inside = _placed(page, at)
    room = at.content_rect.width
    by_row: dict[int, list[tuple[int, int, RowItem]]] = {}
    for box, area in facts.areas.items():
        if box in inside:
            entry = (*area.columns, _item(container, inside[box]))
            by_row.setdefault(area.rows[0], []).append(entry)
    told = ", ".join(f"{format_px(t.size)}" for t in facts.columns)
    for number in sorted(by_row):
        entries = sorted(by_row[number], key=lambda e: e[2].margin_box.x)
        items = tuple(e[2] for e in entries)
        gaps = tuple(_grid_gaps(entries, facts))
        top = at.content_rect.y + facts.rows[number].start
        yield Row(container, RowKind.GRID, top, room, items, gaps, None, f"columns of {told} px")


def _grid_gaps(entries: Sequence[tuple[int, int, RowItem]], facts: GridFacts) -> Iterator[Gap]:
    """A gap between items whose columns are neighbours."""
    for number, (one, other) in enumerate(pairwise(entries)):
        if facts.column_gap and min(abs(other[0] - one[1]), abs(one[0] - other[1])) == 0:
            yield Gap(number, gap=facts.column_gap)
