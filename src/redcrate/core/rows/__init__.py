"""Rows: the blocks that share a line, and whether they fit."""

from redcrate.core.rows.drops import is_surprising, wraps_unexpectedly
from redcrate.core.rows.row import Dropped, Gap, Row, RowItem, RowKind
from redcrate.core.rows.sharing import row_of, rows_of

__all__ = [
    "Dropped",
    "Gap",
    "Row",
    "RowItem",
    "RowKind",
    "is_surprising",
    "row_of",
    "rows_of",
    "wraps_unexpectedly",
]
