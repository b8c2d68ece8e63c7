"""The borders of cells: their own in the separated model, and who wins where they collapse, CSS 2.2 §17.6.

Widths are 1/64 px. In the collapsing model a cell has half of each border round it, the table half of what
lies on its edge.
"""

from collections.abc import Iterator

from redcrate.core.boxes.box import Box
from redcrate.core.geometry import NO_EDGES, Edges
from redcrate.core.layout.edges import border_of
from redcrate.core.layout.table.structure import Cell, TableStructure
from redcrate.core.records import dataclass
from redcrate.core.units import ZERO, LayoutUnit

_STRENGTH = {
    name: at
    for at, name in enumerate(
        ("none", "inset", "groove", "outset", "ridge", "dotted", "dashed", "solid", "double", "hidden")
    )
}


@dataclass(frozen=True, slots=True, eq=False)
class Border:
    """One border between cells: how wide, how, and whose."""

    width: LayoutUnit
    style: str
    side: str
    owner: Box | None

    def beats(self, other: "Border") -> bool:
        """§17.6.2.1: hidden wins, then the wider one, then the stronger style; else who came first."""
        if "hidden" in (self.style, other.style):
            return self.style == "hidden" and other.style != "hidden"
        mine, theirs = (self.width, _STRENGTH[self.style]), (other.width, _STRENGTH[other.style])
        return mine > theirs


NO_BORDER = Border(ZERO, "none", "", None)


def _own(box: Box, side: str) -> Border:
    style = box.style
    kind: str = getattr(style, f"border_{side}_style")
    width: LayoutUnit = getattr(style, f"border_{side}_width")
    return Border(width, kind, side, box)


def _winner(borders: Iterator[Border]) -> Border:
    """The border that wins; where all are alike, the first one: cell, row, group, column, table."""
    won = NO_BORDER
    for border in borders:
        if border.beats(won):
            won = border
    return won


class CollapsedBorders:
    """Who wins at each edge of the grid of a table.

    beside: of the edge to the left of a slot, by row and column; above: of the edge over it.
    """

    def __init__(self, table: TableStructure) -> None:
        self.table = table
        self.rows = len(table.rows)
        self.columns = table.count
        self._groups = {
            row.number: group.box for group in table.groups for row in group.rows if group.box
        }
        self._first = {group.rows[0].number for group in table.groups if group.rows}
        self._last = {group.rows[-1].number for group in table.groups if group.rows}
        self.beside = {
            (row, column): self._between_columns(row, column)
            for row in range(self.rows)
            for column in range(self.columns + 1)
        }
        self.above = {
            (row, column): self._between_rows(row, column)
            for row in range(self.rows + 1)
            for column in range(self.columns)
        }

    def _between_columns(self, row: int, column: int) -> Border:
        """The vertical edge at the left of a column in one row."""
        slots = self.table.slots
        before, behind = slots.get((row, column - 1)), slots.get((row, column))
        if before is not None and before is behind:
            return NO_BORDER
        return _winner(self._vertical(row, column, before, behind))

    def _vertical(
        self, row: int, column: int, before: Cell | None, behind: Cell | None
    ) -> Iterator[Border]:
        if before is not None:
            yield _own(before.box, "right")
        if behind is not None:
            yield _own(behind.box, "left")
        around = [self.table.rows[row].box, self._groups.get(row)]
        for box in around:
            if box is not None and column == 0:
                yield _own(box, "left")
            elif box is not None and column == self.columns:
                yield _own(box, "right")
        yield from self._of_columns(column)
        if column == 0:
            yield _own(self.table.box, "left")
        elif column == self.columns:
            yield _own(self.table.box, "right")

    def _of_columns(self, column: int) -> Iterator[Border]:
        """The borders of column boxes and their groups at a vertical edge."""
        for number, side in ((column - 1, "right"), (column, "left")):
            found = self.table.column_box(number) if 0 <= number < self.columns else None
            if found is None:
                continue
            if found.box is not None:
                yield _own(found.box, side)
            if found.group is not None and self._is_group_edge(found.group, number, side):
                yield _own(found.group, side)

    def _is_group_edge(self, group: Box, number: int, side: str) -> bool:
        beyond = self.table.column_box(number + (1 if side == "right" else -1))
        return beyond is None or beyond.group is not group

    def _between_rows(self, row: int, column: int) -> Border:
        """The horizontal edge over a row in one column."""
        slots = self.table.slots
        above, below = slots.get((row - 1, column)), slots.get((row, column))
        if above is not None and above is below:
            return NO_BORDER
        return _winner(self._horizontal(row, column, above, below))

    def _horizontal(  # noqa: C901 the order of §17.6.2.1
        self, row: int, column: int, above: Cell | None, below: Cell | None
    ) -> Iterator[Border]:
        if above is not None:
            yield _own(above.box, "bottom")
        if below is not None:
            yield _own(below.box, "top")
        if row > 0:
            yield _own(self.table.rows[row - 1].box, "bottom")
        if row < self.rows:
            yield _own(self.table.rows[row].box, "top")
        for number, side, ends in ((row - 1, "bottom", self._last), (row, "top", self._first)):
            group = self._groups.get(number)
            if group is not None and number in ends:
                yield _own(group, side)
        if row in (0, self.rows):
            side = "top" if row == 0 else "bottom"
            found = self.table.column_box(column)
            if found is not None:
                for box in (found.box, found.group):
                    if box is not None:
                        yield _own(box, side)
            yield _own(self.table.box, side)

    def of_cell(self, cell: Cell) -> Edges:
        """Half of the widest border along each side of a cell."""
        rows, columns = range(cell.row, cell.row_end), range(cell.column, cell.column_end)
        left = max(self.beside[r, cell.column].width for r in rows)
        right = max(self.beside[r, cell.column_end].width for r in rows)
        top = max(self.above[cell.row, c].width for c in columns)
        bottom = max(self.above[cell.row_end, c].width for c in columns)
        return Edges(top // 2, right - right // 2, bottom - bottom // 2, left // 2)

    def of_table(self) -> Edges:
        """§17.6.2: half of the widest border along each edge of the table."""
        if not self.rows or not self.columns:
            return self._empty()
        left = max(self.beside[r, 0].width for r in range(self.rows))
        right = max(self.beside[r, self.columns].width for r in range(self.rows))
        top = max(self.above[0, c].width for c in range(self.columns))
        bottom = max(self.above[self.rows, c].width for c in range(self.columns))
        return Edges(top // 2, right // 2, bottom // 2, left // 2)

    def _empty(self) -> Edges:
        style = self.table.box.style
        return Edges(
            style.border_top_width // 2,
            style.border_right_width // 2,
            style.border_bottom_width // 2,
            style.border_left_width // 2,
        )


@dataclass(frozen=True, slots=True, eq=False)
class TableBorders:
    """The borders of a table and its cells; collapsed: who won, None in the separated model."""

    table: Edges
    collapsed: CollapsedBorders | None

    def of_cell(self, cell: Cell) -> Edges:
        """The border widths that count for a cell."""
        if self.collapsed is not None:
            return self.collapsed.of_cell(cell)
        return border_of(cell.box.style)


def borders_of(table: TableStructure) -> TableBorders:
    """The borders as the table's model has them."""
    style = table.box.style
    if style.border_collapse != "collapse":
        return TableBorders(border_of(style), None)
    collapsed = CollapsedBorders(table)
    return TableBorders(collapsed.of_table() if table.count else NO_EDGES, collapsed)
