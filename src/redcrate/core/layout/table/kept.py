"""What is known of a table whatever its width: its structure, its borders, its edges; CSS 2.2 §17.2, §17.6."""

from redcrate.core.boxes.box import Box, InnerDisplay
from redcrate.core.geometry import NO_EDGES, Edges
from redcrate.core.layout.cache import LayoutCache
from redcrate.core.layout.edges import border_and_padding
from redcrate.core.layout.table.borders import TableBorders, borders_of
from redcrate.core.layout.table.structure import TableStructure, structure_of
from redcrate.core.records import dataclass
from redcrate.core.units import LayoutUnit


@dataclass(frozen=True, slots=True, eq=False)
class KeptTable:
    """The structure and the borders of one table."""

    structure: TableStructure
    borders: TableBorders


def kept_table(cache: LayoutCache, box: Box) -> KeptTable:
    """The structure and borders of a table; made once for each box."""
    record = cache.of(box)
    if record.table is None:
        structure = structure_of(box)
        record.table = KeptTable(structure, borders_of(structure))
    return record.table


def used_edges(cache: LayoutCache, box: Box, width: LayoutUnit) -> tuple[Edges, Edges]:
    """The border and padding of any box in a containing block of that width, 1/64 px.

    A table whose borders collapse has half of those on its edge, and no padding (§17.6.2).
    """
    if box.inner is InnerDisplay.TABLE and box.style.border_collapse == "collapse":
        return kept_table(cache, box).borders.table, NO_EDGES
    return border_and_padding(box.style, width)
