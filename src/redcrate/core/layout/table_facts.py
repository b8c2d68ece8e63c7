"""What a table has found out about its columns and rows, for explanations: CSS 2.2 §17.5; 1/64 px."""

from collections.abc import Mapping

from redcrate.core.boxes.box import Box
from redcrate.core.geometry import Rect
from redcrate.core.layout.table.borders import CollapsedBorders
from redcrate.core.layout.table.structure import Cell
from redcrate.core.records import dataclass
from redcrate.core.units import LayoutUnit


@dataclass(frozen=True, slots=True)
class TableColumn:
    """One column. start: from the table's border box. least, most: what it asked for, and which cells did.

    percent: of the table, where that was written. has_width: a length was written.
    """

    start: LayoutUnit
    size: LayoutUnit
    least: LayoutUnit
    most: LayoutUnit
    percent: float | None
    has_width: bool
    least_by: Box | None
    most_by: Box | None


@dataclass(frozen=True, slots=True, eq=False)
class TableFacts:
    """The columns of a table; grid: what is inside its captions; room: what its columns share.

    cells: by their boxes. collapsed: who won where borders collapse, None in the separated model.
    """

    columns: tuple[TableColumn, ...]
    cells: Mapping[Box, Cell]
    collapsed: CollapsedBorders | None
    grid: Rect
    room: LayoutUnit
    spacing: LayoutUnit
    is_fixed: bool
