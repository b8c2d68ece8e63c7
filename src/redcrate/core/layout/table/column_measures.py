"""How narrow and how wide columns would like to be: CSS 2.2 §17.5.2.2, CSS Tables 3 §3.8 (column measures).

Amounts are of border boxes of cells, 1/64 px.
"""

from collections.abc import Sequence
from itertools import pairwise

from redcrate.core.boxes.box import Box
from redcrate.core.layout.contexts import LayoutRun
from redcrate.core.layout.edges import border_and_padding
from redcrate.core.layout.fragments import ContentSizes
from redcrate.core.layout.proportions import in_proportion
from redcrate.core.layout.table.borders import TableBorders
from redcrate.core.layout.table.structure import Cell, TableStructure
from redcrate.core.records import dataclass
from redcrate.core.style.values import NO_LENGTH, Length, SizeValue
from redcrate.core.units import ZERO, LayoutUnit

UNLIMITED = LayoutUnit(1_000_000 * 64)  # as wide as a table may ask to be


@dataclass(slots=True, eq=False)
class Measure:
    """What one cell or column asks for. percent: of the table; has_width: a length was written.

    beside_percent: what comes on top of a percentage in the fixed layout. is_merged: no cell begins in it,
    so it takes no room of its own. least_by, most_by: the cells that asked.
    """

    least: LayoutUnit = ZERO
    most: LayoutUnit = ZERO
    percent: float | None = None
    has_width: bool = False
    beside_percent: LayoutUnit = ZERO
    is_merged: bool = False
    is_empty: bool = True
    least_by: Box | None = None
    most_by: Box | None = None

    def encompass(self, other: "Measure") -> None:
        """Also have room for a cell."""
        if self.has_width == other.has_width:
            most = max(self.most, other.most)
        elif self.has_width:
            most = max(self.most, other.least)
        else:
            most = max(self.least, other.most)
        if most > self.most or other.has_width > self.has_width:
            self.most_by = other.most_by
        self.most = most
        if other.least > self.least:
            self.least, self.least_by = other.least, other.least_by
        self.most = max(self.most, self.least)
        self.has_width = self.has_width or other.has_width
        self.is_empty = self.is_empty and other.is_empty
        if other.percent is not None:
            self.percent = max(self.percent or 0.0, other.percent)


def length_of(value: SizeValue) -> LayoutUnit | None:
    """A length without a percentage; None for others."""
    if isinstance(value, NO_LENGTH) or value.has_percent:
        return None
    return max(ZERO, value.resolve(ZERO))


def percent_of_width(value: SizeValue) -> float | None:
    """A percentage alone; None for others (a sum of both counts as auto, CSS Values 4 §10.12)."""
    if isinstance(value, Length) and value.has_percent and not value.px:
        return value.percent
    return None


def cell_measure(run: LayoutRun, cell: Cell, borders: TableBorders, *, fixed: bool) -> Measure:
    """What a cell asks for; in the fixed layout its content does not count."""
    style = cell.box.style
    _, padding = border_and_padding(style, ZERO)
    extra = borders.of_cell(cell).across + padding.across
    sizes = ContentSizes(ZERO, ZERO) if fixed else run.content_sizes(cell.box)
    inset = extra if style.box_sizing == "border-box" else ZERO
    least, most = sizes[0], sizes[1]
    smallest, largest = length_of(style.min_width), length_of(style.max_width)
    if smallest is not None:
        least = max(least, smallest - inset)
    width = length_of(style.width)
    if width is not None:
        most = max(ZERO, width - inset)
    if largest is not None:
        least, most = (min(s, max(ZERO, largest - inset)) for s in (least, most))
    most = max(least, most)
    element = cell.box.element
    if width is not None and element is not None and "nowrap" in element.attributes:
        least = max(least, most)  # HTML Standard §15.3.8: a width that is written is no less then
    found = Measure(least + extra, most + extra, None, width is not None)
    found.percent = percent_of_width(style.width)
    if found.percent is None and width is None:
        found.percent = percent_of_width(style.max_width)
    found.is_empty = False
    found.least_by = found.most_by = cell.box
    found.beside_percent = extra - inset
    return found


def column_measures(
    run: LayoutRun, table: TableStructure, borders: TableBorders, spacing: LayoutUnit, *, fixed: bool
) -> list[Measure]:
    """What each column asks for, from its box and its cells."""
    measures = [Measure(is_merged=c not in table.originating) for c in range(table.count)]
    _of_column_boxes(table, measures, fixed=fixed)
    rows = table.rows[:1] if fixed else table.rows
    spanning: list[tuple[Cell, Measure]] = []
    for row in rows:
        for cell in row.cells:
            found = cell_measure(run, cell, borders, fixed=fixed)
            if fixed:
                _of_first_row(measures[cell.column : cell.column_end], found, spacing)
            elif cell.columns == 1:
                measures[cell.column].encompass(found)
            else:
                spanning.append((cell, found))
    for cell, found in sorted(spanning, key=lambda s: s[0].columns):
        spread(measures[cell.column : cell.column_end], found, spacing)
    if not fixed:
        _limit_percentages(measures)
    return measures


def _of_column_boxes(table: TableStructure, measures: Sequence[Measure], *, fixed: bool) -> None:
    for column in table.columns:
        for box in (column.group, column.box):  # the column's own says the last word
            if box is None or (fixed and box is column.group and column.box is not None):
                continue
            style = box.style
            width, percent = length_of(style.width), percent_of_width(style.width)
            least = length_of(style.min_width) or ZERO
            for measure in measures[column.first : column.first + column.count]:
                measure.least = max(measure.least, least)
                if percent is not None:
                    measure.percent = percent
                elif width is not None:
                    measure.most, measure.has_width = width, True
                    measure.most_by = box
                    measure.is_empty = measure.is_empty and not width
                measure.most = max(measure.most, measure.least)


def _of_first_row(columns: Sequence[Measure], cell: Measure, spacing: LayoutUnit) -> None:
    """§17.5.2.1: a cell of the first row speaks for columns that have no width yet."""
    open_ = [c for c in columns if not c.has_width and c.percent is None]
    count = sum(1 for c in columns if not c.is_merged)
    inner = cell.most - spacing * (count - 1)
    for column in open_:
        column.is_empty = False
        if cell.percent is not None:
            column.percent = cell.percent / len(columns)
            column.beside_percent = cell.beside_percent
        elif cell.has_width:
            column.most = max(column.least, inner // len(columns))
            column.has_width = True
            column.most_by = cell.most_by


def _limit_percentages(measures: Sequence[Measure]) -> None:
    """CSS Tables 3: percentages end at 100 together."""
    left = 100.0
    for measure in measures:
        if measure.percent is not None:
            measure.percent = min(measure.percent, left)
            left -= measure.percent


def spread(columns: Sequence[Measure], cell: Measure, spacing: LayoutUnit) -> None:
    """What a cell over several columns asks of them: CSS Tables 3 §3.8.3."""
    count = sum(1 for c in columns if not c.is_merged)
    gaps = spacing * max(0, count - 1)
    shown = [c for c in columns if not c.is_merged] or list(columns[:1])
    for column in shown:
        column.is_empty = False
    _spread_percent(shown, cell)
    least, most = max(ZERO, cell.least - gaps), max(ZERO, cell.most - gaps)
    _spread_least(shown, least, cell)
    _spread_most(shown, max(most, least), cell)


def _spread_percent(columns: Sequence[Measure], cell: Measure) -> None:
    if cell.percent is None:
        return
    given = sum(c.percent or 0.0 for c in columns)
    open_ = [c for c in columns if c.percent is None]
    left = cell.percent - given
    if left <= 0 or not open_:
        return
    total = sum(c.most for c in open_)
    for column in open_:
        column.percent = left * column.most / total if total else left / len(open_)


def _spread_least(columns: Sequence[Measure], least: LayoutUnit, cell: Measure) -> None:
    lack = least - sum((c.least for c in columns), ZERO)
    if lack <= 0:
        return
    for column, part in zip(columns, distribute(columns, least), strict=True):
        if part > column.least:
            column.least, column.least_by = part, cell.least_by
        column.most = max(column.most, column.least)


def _spread_most(columns: Sequence[Measure], most: LayoutUnit, cell: Measure) -> None:
    if most <= sum((c.most for c in columns), ZERO):
        return
    for column, part in zip(columns, distribute(columns, most), strict=True):
        if part > column.most:
            column.most, column.most_by = part, cell.most_by


def distribute(columns: Sequence[Measure], width: LayoutUnit) -> list[LayoutUnit]:
    """CSS Tables 3 §3.9.3: a width among columns, in steps from their smallest to their largest sizes, and beyond."""
    smallest = [c.least for c in columns]
    by_percent = [
        s if c.percent is None else max(s, LayoutUnit(width * c.percent / 100))
        for c, s in zip(columns, smallest, strict=True)
    ]
    specified = [
        c.most if c.has_width and c.percent is None else p
        for c, p in zip(columns, by_percent, strict=True)
    ]
    largest = [c.most if c.percent is None else s for c, s in zip(columns, specified, strict=True)]
    guesses = [smallest, by_percent, specified, largest]
    if width <= sum(smallest):
        return smallest
    for lower, upper in pairwise(guesses):
        if width <= sum(upper):
            return _between(lower, upper, width)
    return _beyond(columns, largest, width)


def _between(
    lower: Sequence[LayoutUnit], upper: Sequence[LayoutUnit], width: LayoutUnit
) -> list[LayoutUnit]:
    """Each column grows from one guess to the next in proportion to how far these are apart."""
    steps = [high - low for low, high in zip(lower, upper, strict=True)]
    return _added(lower, steps, width - sum(lower, ZERO))


def _added(sizes: Sequence[LayoutUnit], weights: Sequence[float], extra: LayoutUnit) -> list[LayoutUnit]:
    """`extra` on top of sizes, in proportion to weights."""
    return [s + part for s, part in zip(sizes, in_proportion(extra, weights), strict=True)]


def _beyond(
    columns: Sequence[Measure], sizes: Sequence[LayoutUnit], width: LayoutUnit
) -> list[LayoutUnit]:
    """§3.9.3: what is more than all ask for: to auto columns, else to those with lengths, else by percentages."""
    extra = width - sum(sizes, ZERO)
    auto = [
        float(c.most) if not c.has_width and c.percent is None and not c.is_merged else 0.0
        for c in columns
    ]
    if any(not c.has_width and c.percent is None and not c.is_empty for c in columns):
        if not any(auto):
            auto = [
                1.0 if not c.has_width and c.percent is None and not c.is_empty else 0.0 for c in columns
            ]
        return _added(sizes, auto, extra)
    lengths = [float(c.most) if c.has_width and c.percent is None else 0.0 for c in columns]
    if any(lengths):
        return _added(sizes, lengths, extra)
    shares = [c.percent or 0.0 for c in columns]
    if any(shares):
        return _added(sizes, shares, extra)
    return _added(sizes, [0.0 if c.is_merged else 1.0 for c in columns], extra)


def table_content_sizes(
    measures: Sequence[Measure], gaps: LayoutUnit, *, is_percent_free: bool = False
) -> tuple[LayoutUnit, LayoutUnit]:
    """§17.5.2.2: how narrow and how wide the columns are together; percentages widen the latter."""
    least = sum((m.least for m in measures), ZERO)
    most = sum((m.most for m in measures), ZERO)
    if is_percent_free:
        return least + gaps, most + gaps
    total = sum(m.percent or 0.0 for m in measures)
    by_share = [LayoutUnit(m.most * 100 / m.percent) for m in measures if m.percent]
    rest = sum((m.most for m in measures if m.percent is None), ZERO)
    if total and rest:
        by_share.append(LayoutUnit(rest * 100 / (100 - total)) if total < 100 else UNLIMITED)
    return least + gaps, min(UNLIMITED, max([most, *by_share]) + gaps)
