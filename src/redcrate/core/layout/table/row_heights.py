"""How high rows are: CSS 2.2 §17.5.3, and what browsers do where it is silent (CSS Tables 3 §3.10).

Amounts are 1/64 px.
"""

from collections.abc import Sequence
from dataclasses import field

from redcrate.core.boxes.box import Box
from redcrate.core.layout.fragments import Fragment
from redcrate.core.layout.heights import definite_height
from redcrate.core.layout.proportions import in_proportion
from redcrate.core.layout.table.column_measures import length_of, percent_of_width
from redcrate.core.layout.table.structure import Cell, Row, TableStructure
from redcrate.core.records import dataclass
from redcrate.core.units import ZERO, LayoutUnit

_PLACES = frozenset(("top", "middle", "bottom"))


@dataclass(slots=True, eq=False)
class MeasuredCell:
    """A cell as high as its content. natural: of that border box; outer: at least what its height says."""

    cell: Cell
    fragment: Fragment
    natural: LayoutUnit
    outer: LayoutUnit

    @property
    def align(self) -> str:
        """§17.5.3: top, middle, bottom or baseline."""
        value = self.cell.box.style.vertical_align
        return value if isinstance(value, str) and value in _PLACES else "baseline"

    @property
    def baseline(self) -> LayoutUnit | None:
        """From the top of the border box; None without a line: such a cell is not aligned to others."""
        return self.fragment.first_baseline if self.align == "baseline" else None


@dataclass(slots=True, eq=False)
class RowHeight:
    """One row while it is measured. percent: of the table. has_height: a length was written for it or a cell.

    ascent: where its baseline lies; None without a cell that is aligned to it.
    """

    row: Row
    height: LayoutUnit = ZERO
    percent: float | None = None
    has_height: bool = False
    starts_span: bool = False
    ascent: LayoutUnit | None = None
    descent: LayoutUnit = ZERO
    cells: list[MeasuredCell] = field(default_factory=list)
    asked_by: Box | None = None


def measured_cell(cell: Cell, fragment: Fragment) -> MeasuredCell:
    """A cell that was laid out in its columns."""
    style = cell.box.style
    extra = fragment.border.down + fragment.padding.down
    natural = fragment.down.auto_height + extra
    own = definite_height(style.height, style, None, extra)  # min-height says nothing to cells (§10.7)
    return MeasuredCell(cell, fragment, natural, natural if own is None else max(natural, own + extra))


def row_heights(
    table: TableStructure, cells: dict[Cell, MeasuredCell], spacing: LayoutUnit
) -> list[RowHeight]:
    """The height of each row from its cells, then from those that span several."""
    rows = [_own_height(row, [cells[c] for c in row.cells]) for row in table.rows]
    spanning = [c for c in cells.values() if c.cell.rows > 1]
    for at in sorted(spanning, key=lambda c: (c.cell.rows, c.cell.row)):
        inside = rows[at.cell.row : at.cell.row_end]
        shown = sum(1 for r in inside if not r.row.is_collapsed)
        lack = at.outer - sum((r.height for r in inside), ZERO) - spacing * max(0, shown - 1)
        if lack > 0:
            grow_rows([r for r in inside if not r.row.is_collapsed], lack, None, spans=True)
    return rows


def _own_height(row: Row, cells: Sequence[MeasuredCell]) -> RowHeight:
    found = RowHeight(row, cells=list(cells))
    if row.is_collapsed:
        return found
    style = row.box.style
    own = length_of(style.height)
    found.has_height = own is not None
    found.percent = percent_of_width(style.height)
    found.height = own or ZERO
    for at in cells:
        found.starts_span = found.starts_span or at.cell.rows > 1
        baseline = at.baseline
        if baseline is not None:
            found.ascent = max(found.ascent or ZERO, baseline)
        if at.cell.rows > 1:
            continue
        cell_style = at.cell.box.style
        found.has_height = found.has_height or length_of(cell_style.height) is not None
        percent = percent_of_width(cell_style.height)
        if percent is not None:
            found.percent = max(found.percent or 0.0, percent)
        if at.outer > found.height:
            found.height, found.asked_by = at.outer, at.cell.box
        if baseline is not None:
            found.descent = max(found.descent, at.outer - baseline)
    if found.ascent is not None:
        found.height = max(found.height, found.ascent + found.descent)
    return found


def grow_rows(
    rows: Sequence[RowHeight], extra: LayoutUnit, percent_base: LayoutUnit | None, *, spans: bool
) -> None:
    """More height than rows ask for: to percentages, to rows without a height of their own, to empty ones, to all.

    percent_base: what percentages refer to. spans: it comes from a cell over these rows.
    """
    extra = _grow_to_percentages(rows, extra, percent_base)
    if extra <= 0:
        return
    if spans:
        starting = [r for r in rows[1:] if r.starts_span and not r.height and not r.has_height]
        if starting:
            _add(starting, [1.0] * len(starting), extra)
            return
    open_ = [r for r in rows if r.height and not r.has_height and r.percent is None]
    if open_:
        _add(open_, [float(r.height) for r in open_], extra)
        return
    empty = [r for r in rows if not r.height and not r.has_height]
    if empty:
        last_alone = spans and len(empty) == len(rows)
        _add(empty[-1:] if last_alone else empty, [1.0] * (1 if last_alone else len(empty)), extra)
        return
    filled = [r for r in rows if r.height] or list(rows)
    _add(filled, [float(r.height) or 1.0 for r in filled], extra)


def _grow_to_percentages(
    rows: Sequence[RowHeight], extra: LayoutUnit, base: LayoutUnit | None
) -> LayoutUnit:
    """Rows that are shares of a known height grow up to them; what is left."""
    if base is None:
        return extra
    for row in rows:
        if row.percent is not None and extra > 0:
            lack = min(extra, LayoutUnit(base * row.percent / 100) - row.height)
            if lack > 0:
                row.height += lack
                extra -= lack
    return extra


def _add(rows: Sequence[RowHeight], weights: Sequence[float], extra: LayoutUnit) -> None:
    """`extra` in proportion to weights."""
    for row, part in zip(rows, in_proportion(extra, weights), strict=True):
        row.height += part
