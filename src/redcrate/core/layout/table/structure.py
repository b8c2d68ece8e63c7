"""The rows, columns and cells of a table: CSS 2.2 §17.2, HTML Standard §4.9.12 (forming a table).

Rows and columns count from 0 in the order in which they are shown.
"""

from bisect import bisect_right
from collections.abc import Iterator, Mapping, Sequence
from functools import cached_property
from itertools import takewhile
from types import MappingProxyType

from redcrate.core.boxes.box import Box
from redcrate.core.boxes.table_boxes import ROW_GROUPS
from redcrate.core.markup.numbers import parse_integer
from redcrate.core.records import dataclass

_MOST_COLUMNS, _MOST_ROWS = 1000, 65534
_MOST_IN_ALL = 4000  # columns that column boxes stand for


@dataclass(frozen=True, slots=True, eq=False)
class Cell:
    """One cell and the slots that it takes."""

    box: Box
    row: int
    column: int
    rows: int
    columns: int

    @property
    def row_end(self) -> int:
        """One after its last row."""
        return self.row + self.rows

    @property
    def column_end(self) -> int:
        """One after its last column."""
        return self.column + self.columns


@dataclass(frozen=True, slots=True, eq=False)
class Row:
    """One row; number counts through all groups."""

    box: Box
    number: int
    cells: tuple[Cell, ...]

    @property
    def is_collapsed(self) -> bool:
        """§17.5.5: whether it is left out."""
        return self.box.style.visibility == "collapse"


@dataclass(frozen=True, slots=True, eq=False)
class RowGroup:
    """A row group with its rows; box: None for rows that stand in the table itself."""

    box: Box | None
    rows: tuple[Row, ...]


@dataclass(frozen=True, slots=True, eq=False)
class Column:
    """One column box, for `count` columns from `first` on; group: the column group that it stands in."""

    box: Box | None
    first: int
    count: int
    group: Box | None = None


@dataclass(frozen=True, eq=False)
class TableStructure:
    """What a table holds. count: its columns."""

    box: Box
    captions: tuple[Box, ...]
    columns: tuple[Column, ...]
    groups: tuple[RowGroup, ...]
    count: int

    @cached_property
    def rows(self) -> tuple[Row, ...]:
        """All rows as they are shown."""
        return tuple(row for group in self.groups for row in group.rows)

    @cached_property
    def cells(self) -> tuple[Cell, ...]:
        """All cells, row by row."""
        return tuple(cell for row in self.rows for cell in row.cells)

    @cached_property
    def by_box(self) -> Mapping[Box, Cell]:
        """The cells by their boxes."""
        return MappingProxyType({cell.box: cell for cell in self.cells})

    @cached_property
    def slots(self) -> dict[tuple[int, int], Cell]:
        """The cell of each slot; where two overlap, the first one."""
        found: dict[tuple[int, int], Cell] = {}
        for cell in self.cells:
            for row in range(cell.row, cell.row_end):
                for column in range(cell.column, cell.column_end):
                    found.setdefault((row, column), cell)
        return found

    @cached_property
    def originating(self) -> frozenset[int]:
        """The columns in which a cell begins, or that a column box stands for; others are merged (CSS Tables 3 §3.3)."""
        begun = {cell.column for cell in self.cells}
        for column in self.columns:
            begun.update(range(column.first, column.first + column.count))
        return frozenset(begun)

    def column_box(self, number: int) -> Column | None:
        """The column box of a column, or the group that stands for it."""
        at = bisect_right(self._firsts, number) - 1
        found = self.columns[at] if at >= 0 else None
        return found if found is not None and number < found.first + found.count else None

    @cached_property
    def _firsts(self) -> list[int]:
        return [column.first for column in self.columns]


def structure_of(box: Box) -> TableStructure:
    """The structure of a table box."""
    parts = [c for c in box.children if c.in_flow]
    captions = tuple(c for c in parts if c.style.display == "table-caption")
    columns = tuple(_columns(parts))
    groups = tuple(_row_groups(_as_shown(parts)))
    cells = [cell for group in groups for row in group.rows for cell in row.cells]
    count = max([0, *(c.first + c.count for c in columns), *(c.column_end for c in cells)])
    return TableStructure(box, captions, columns, groups, count)


def _as_shown(parts: Sequence[Box]) -> list[list[Box]]:
    """§17.2: the first header group on top, the first footer group at the bottom; loose rows together."""
    head = next((p for p in parts if p.style.display == "table-header-group"), None)
    foot = next((p for p in parts if p.style.display == "table-footer-group"), None)
    middle: list[list[Box]] = []
    loose = False
    for part in parts:
        if part is head or part is foot:
            loose = False
        elif part.style.display in ROW_GROUPS:
            middle.append([part])
            loose = False
        elif part.style.display == "table-row":
            if loose:
                middle[-1].append(part)
            else:
                middle.append([part])
            loose = True
    return [*([[head]] if head else []), *middle, *([[foot]] if foot else [])]


def _row_groups(shown: Sequence[Sequence[Box]]) -> Iterator[RowGroup]:
    number = 0
    for boxes in shown:
        is_group = boxes[0].style.display in ROW_GROUPS
        rows = [r for r in boxes[0].children if r.in_flow] if is_group else list(boxes)
        group = RowGroup(boxes[0] if is_group else None, tuple(_rows(rows, number)))
        number += len(rows)
        yield group


def _rows(boxes: Sequence[Box], first: int) -> Iterator[Row]:
    """Forming a table: each cell in the first free slot of its row; cells end with their group."""
    taken: dict[int, int] = {}  # by column, the row up to which a cell above reaches
    end = first + len(boxes)
    for number, box in enumerate(boxes, first):
        cells = []
        column = 0
        for child in box.children:
            if not child.in_flow:
                continue
            while taken.get(column, 0) > number:
                column += 1
            wide = _span(child, "colspan", _MOST_COLUMNS)
            asked = _span(child, "rowspan", _MOST_ROWS, zero=end - number)
            high = min(asked, end - number)
            cells.append(Cell(child, number, column, high, wide))
            for at in range(column, column + wide):
                taken[at] = max(taken.get(at, 0), number + high)
            column += wide
        yield Row(box, number, tuple(cells))


def _span(box: Box, name: str, most: int, zero: int = 1) -> int:
    """A span attribute of an HTML cell; `zero`: what 0 means."""
    element = box.element
    if element is None or box.pseudo or element.tag not in ("td", "th"):
        return 1
    number = parse_integer(element.attributes.get(name, ""))
    if number is None or number < 0:
        return 1
    if number == 0:
        return zero
    return min(number, most) if name == "rowspan" or number <= most else most


def _columns(parts: Sequence[Box]) -> Iterator[Column]:
    """The columns that column boxes stand for, as far as any table has that many (HTML Standard §4.9.4: 1000 a box)."""
    return takewhile(lambda column: column.first + column.count <= _MOST_IN_ALL, _all_columns(parts))


def _all_columns(parts: Sequence[Box]) -> Iterator[Column]:
    first = 0
    for part in parts:
        if part.style.display == "table-column":
            column = Column(part, first, _column_span(part))
            first += column.count
            yield column
        elif part.style.display == "table-column-group":
            inside = [c for c in part.children if c.in_flow]
            if not inside:
                column = Column(None, first, _column_span(part), part)
                first += column.count
                yield column
            for child in inside:
                column = Column(child, first, _column_span(child), part)
                first += column.count
                yield column


def _column_span(box: Box) -> int:
    element = box.element
    if element is None or box.pseudo or element.tag not in ("col", "colgroup"):
        return 1
    number = parse_integer(element.attributes.get("span", ""))
    return 1 if number is None or number < 1 else min(number, _MOST_COLUMNS)
