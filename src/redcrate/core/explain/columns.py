"""How a table's columns share its width, and whose borders count: CSS 2.2 §17.5.2 and §17.6.2, from layout."""

from collections.abc import Iterator, Sequence

from redcrate.core.explain.terms import Reason
from redcrate.core.geometry import SIDES
from redcrate.core.layout.table.structure import Cell
from redcrate.core.layout.table_facts import TableColumn, TableFacts
from redcrate.core.page import ElementBox, PlacedBox
from redcrate.core.units import ZERO, LayoutUnit, format_px


def table_around(box: ElementBox) -> tuple[PlacedBox, TableFacts] | None:
    """The table that a part of it stands in, with its facts."""
    at = None if box.box is None else box.box.container
    while at is not None:
        facts = at.fragment.facts
        if isinstance(facts, TableFacts):
            return at, facts
        if not at.fragment.box.style.display.startswith("table-"):
            return None
        at = at.container
    return None


def cell_of(box: ElementBox, facts: TableFacts) -> Cell | None:
    """The cell that a box is; None for other parts."""
    assert box.box is not None
    return facts.cells.get(box.box.fragment.box)


def column_reasons(box: ElementBox) -> Iterator[Reason]:
    """Why a cell is as wide as it is: its columns, who asked for them, how the rest was shared."""
    around = table_around(box)
    cell = None if around is None else cell_of(box, around[1])
    if around is None or cell is None:
        return
    table, facts = around
    columns = facts.columns[cell.column : cell.column_end]
    yield Reason(_columns(cell, columns), None)
    for number, column in enumerate(columns, cell.column + 1):
        yield Reason(_column(number, column, facts), None)
    yield Reason(_shared(table, facts), None)
    yield from _borders(cell, facts)


def _columns(cell: Cell, columns: Sequence[TableColumn]) -> str:
    sizes = sum((c.size for c in columns), ZERO)
    width = columns[-1].start + columns[-1].size - columns[0].start
    if len(columns) == 1:
        return f"It is as wide as column {cell.column + 1}: {format_px(width)} px."
    gaps: LayoutUnit = width - sizes
    between = f" + {format_px(gaps)} of spacing" if gaps else ""
    parts = " + ".join(format_px(c.size) for c in columns)
    last = cell.column_end
    return f"It is as wide as columns {cell.column + 1} to {last}: {parts}{between} = {format_px(width)} px."


def _column(number: int, column: TableColumn, facts: TableFacts) -> str:
    name = f"Column {number}"
    size = format_px(column.size)
    if column.percent is not None:
        return f"{name}: {column.percent:g}% of {format_px(facts.room)} px, {size} px."
    if facts.is_fixed:
        written = column.has_width
        why = "a width is written in the first row" if written else "the rest is shared equally"
        return f"{name}: {why} (table-layout is fixed), {size} px."
    least, most = format_px(column.least), format_px(column.most)
    by_least = "" if column.least_by is None else f" ({column.least_by.label})"
    by_most = "" if column.most_by is None else f" ({column.most_by.label})"
    wish = f"written width {most} px" if column.has_width else f"max-content {most} px"
    return f"{name} needs at least {least} px{by_least}, {wish}{by_most}: {size} px."


def _shared(table: PlacedBox, facts: TableFacts) -> str:
    least = sum((c.least for c in facts.columns), ZERO)
    most = sum((c.most for c in facts.columns), ZERO)
    room = format_px(facts.room)
    text = f"{room} px for the columns of {table.fragment.box.label}"
    if facts.is_fixed:
        return f"{text}."
    if facts.room <= least:
        return f"{text}: each column has its min-content width."
    if facts.room < most:
        return f"{text}: between their min-content ({format_px(least)}) and max-content ({format_px(most)}) widths."
    if facts.room == most:
        return f"{text}: each column has its max-content width."
    return f"{text}: {format_px(facts.room - most)} more than their max-content widths."


def _borders(cell: Cell, facts: TableFacts) -> Iterator[Reason]:
    """Where borders collapse: who won each side, and that a half of it counts here."""
    if facts.collapsed is None:
        return
    winners = {
        "left": facts.collapsed.beside[cell.row, cell.column],
        "right": facts.collapsed.beside[cell.row, cell.column_end],
        "top": facts.collapsed.above[cell.row, cell.column],
        "bottom": facts.collapsed.above[cell.row_end, cell.column],
    }
    for side in SIDES:
        border = winners[side]
        if border.owner is None or not border.width:
            continue
        mine = border.owner is cell.box
        whose = "its own border" if mine else f"the border of {border.owner.label}"
        won = f"{whose}, {format_px(border.width)} px {border.style}"
        yield Reason(f"Borders collapse: on the {side}, {won} counts, half of it for this cell.", None)
