"""Who shares a line: rows of floats and of inline-level boxes, and what they cost."""

from redcrate.core.rows.drops import is_surprising
from redcrate.core.rows.sharing import Dropped, Gap, Row, RowItem, RowKind, row_of, rows_of

__all__ = ["Dropped", "Gap", "Row", "RowItem", "RowKind", "is_surprising", "row_of", "rows_of"]
