"""The blocks that share a line: floats (CSS 2.2 §9.5), atomic inline-level boxes (§9.4.2), flex and grid items.

All amounts are read from fragments.
"""

from redcrate.core.geometry import Rect
from redcrate.core.layout.fragments import InlinePiece, Line, Placed, TextPiece
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox, Page, PlacedBox
from redcrate.core.rows.containers import container_rows
from redcrate.core.rows.row import Dropped, Gap, Row, RowItem, RowKind, flow_rect
from redcrate.core.units import ZERO, LayoutUnit


def rows_of(page: Page, container: Element) -> tuple[Row, ...]:
    """The rows in a container, from top to bottom; a line without any atomic box is no row."""
    box = page.box_of(container)
    if box is None or box.box is None:
        return ()
    found = [
        *_float_rows(page, container, box.box),
        *_line_rows(page, container, box.box),
        *container_rows(page, container, box.box),
    ]
    return tuple(sorted(found, key=lambda r: r.top))


def row_of(page: Page, element: Element) -> Row | None:
    """The row in which an element stands; None for a block that has its line to itself."""
    at = element.parent
    while at is not None:
        for row in rows_of(page, at):
            if any(i.element is element for i in row.items):
                return row
        box = page.box_of(at)
        if box is not None and box.box is not None:
            return None
        at = at.parent
    return None


# -- floats


def _float_rows(page: Page, container: Element, at: PlacedBox) -> list[Row]:
    floats = [b for e in container.child_elements if (b := page.box_of(e)) and _is_float(b)]
    groups: list[list[ElementBox]] = []
    for one in floats:
        top = _margin_box(one).y
        if groups and _margin_box(groups[-1][-1]).y == top:
            groups[-1].append(one)
        else:
            groups.append([one])
    return [_float_row(container, at, g, n[0] if n else None) for g, n in zip(groups, [*groups[1:], []])]


def _is_float(box: ElementBox) -> bool:
    return box.box is not None and box.box.fragment.box.is_float


def _margin_box(box: ElementBox) -> Rect:
    assert box.box is not None
    return flow_rect(box.box)


def _float_row(
    container: Element, at: PlacedBox, group: list[ElementBox], after: ElementBox | None
) -> Row:
    items = [_float_item(b) for b in group]
    room = at.content_rect.width
    top = items[0].margin_box.y
    return Row(
        container,
        RowKind.FLOATS,
        top,
        room,
        tuple(sorted(items, key=lambda i: i.margin_box.x)),
        (),
        _refused(after, top, at) if after else None,
    )


def _float_item(box: ElementBox) -> RowItem:
    assert box.box is not None
    return RowItem(box.element, flow_rect(box.box), box.box.fragment.box.style.float_)


def _refused(after: ElementBox, top: LayoutUnit, at: PlacedBox) -> Dropped | None:
    """What the next float lacked in the row at `top`; None if it went below of its own accord."""
    assert after.box is not None
    first = next(iter(after.box.placed.refusals), None)
    if first is None or first.missing <= 0 or after.box.placed.clearance:
        return None
    width = flow_rect(after.box).width
    return Dropped(after.element, width, ZERO, first.room, first.missing)


# -- lines


def _line_rows(page: Page, container: Element, at: PlacedBox) -> list[Row]:
    holders = [at, *(b for b in _anonymous_inside(page, at))]
    found: list[Row] = []
    for holder in holders:
        lines = holder.fragment.lines
        has_atomic = [_has_atomic(line) for line in lines]
        if not any(has_atomic):
            continue
        rows = [
            _line_row(page, container, holder, line) if has else None
            for has, line in zip(has_atomic, lines, strict=True)
        ]
        for row, following, line in zip(rows, [*rows[1:], None], lines):
            if row is not None:
                found.append(_with_dropped(row, following, line.trimmed))
    return found


def _has_atomic(line: Line) -> bool:
    """Whether a line has anything but text and inline boxes."""
    return bool([piece for piece in line.content if isinstance(piece, Placed)])


def _anonymous_inside(page: Page, at: PlacedBox) -> list[PlacedBox]:
    """The anonymous blocks in a container, which hold its lines where it has blocks too (§9.2.1.1)."""
    return [page.placed_child(at, c) for c in at.fragment.children if c.fragment.box.element is None]


def _line_row(page: Page, container: Element, holder: PlacedBox, line: Line) -> Row:
    items: list[RowItem] = []
    gaps: list[Gap] = []
    spaces = text = ZERO
    at = line_start = _content_start(line)
    for piece in line.content:
        if isinstance(piece, TextPiece):
            if piece.text.strip(" "):
                text += piece.width
            else:
                spaces += piece.width
        elif isinstance(piece, Placed):
            margin = piece.fragment.margin
            start = piece.x - margin.left
            width = piece.fragment.margin_width
            gaps.append(Gap(len(items) - 1, spaces, text, start - at - spaces - text))
            rect = Rect(
                holder.rect.x + start,
                holder.rect.y + piece.y - margin.top,
                width,
                piece.fragment.margin_height,
            )
            element = piece.fragment.box.element
            items.append(RowItem(element if element is not None else container, rect, ""))
            at, spaces, text = start + width, ZERO, ZERO
    rest = line_start + line.used - at
    gaps.append(Gap(len(items) - 1, spaces, text, rest - spaces - text))
    kept = tuple(g for g in gaps if g.spaces or g.text or g.edges)
    top = holder.rect.y + line.y
    return Row(container, RowKind.INLINE, top, line.width, tuple(items), kept, None)


def _content_start(line: Line) -> LayoutUnit:
    """x at which the content of a line begins: its first piece's margin edge."""
    starts: list[LayoutUnit] = []
    for piece in line.content:
        if isinstance(piece, Placed):
            starts.append(piece.x - piece.fragment.margin.left)
        elif isinstance(piece, InlinePiece):
            starts.append(piece.x - (piece.margin.left if piece.has_left else 0))
        else:
            starts.append(piece.x)
    return min(starts, default=line.x)


def _with_dropped(row: Row, following: Row | None, spaces: LayoutUnit) -> Row:
    """The row with the box at the start of the next line that it had too little room for."""
    if following is None or any(g.after == -1 for g in following.gaps):
        return row
    item = following.items[0]
    missing = spaces + item.margin_box.width - row.left
    if missing <= 0:
        return row
    dropped = Dropped(item.element, item.margin_box.width, spaces, row.left, missing)
    return Row(row.container, row.kind, row.top, row.room, row.items, row.gaps, dropped)
