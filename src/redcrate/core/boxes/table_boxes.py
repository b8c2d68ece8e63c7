"""Anonymous table boxes: CSS 2.2 §17.2.1, and what the standard drops as white space between boxes.

Boxes come bottom-up, so each container mends its own children: a table wraps what is no part of it in rows, a
row wraps what is no cell in cells, and everything else wraps parts that have lost their table in one.
"""

from collections.abc import Callable, Sequence
from functools import lru_cache
from typing import TypeAlias

from redcrate.core.boxes.box import Box, BoxKind, InnerDisplay
from redcrate.core.style.anonymous import inherited_style
from redcrate.core.style.computed import ComputedStyle

ROW_GROUPS = frozenset(("table-row-group", "table-header-group", "table-footer-group"))
COLUMNS = frozenset(("table-column", "table-column-group"))
_PROPER = ROW_GROUPS | COLUMNS | {"table-row", "table-caption"}  # children of a table
INTERNAL = _PROPER | {"table-cell"}


def is_part(box: Box) -> bool:
    """Whether a box is a table's part, with a table or without."""
    return box.kind is BoxKind.BLOCK and box.in_flow and box.style.display in INTERNAL


@lru_cache(maxsize=5000)
def _anonymous(style: ComputedStyle, display: str) -> ComputedStyle:
    return inherited_style(style, display=display)


# Makes a cell with that style of what flows in it; the wrapping of flow, handed in.
Flow: TypeAlias = Callable[[ComputedStyle, Sequence[Box]], Box]


def _is_blank(box: Box) -> bool:
    return box.kind is BoxKind.TEXT and not box.text.strip(" \t\n\r\f")


def _in_runs(
    children: Sequence[Box], belongs: Callable[[Box], bool], wrap: Callable[[list[Box]], Box]
) -> list[Box]:
    """Children that belong as they are, each run of others wrapped; white space alone goes."""
    out: list[Box] = []
    run: list[Box] = []
    for child in [*(c for c in children if not _is_blank(c)), None]:
        if child is not None and not belongs(child):
            run.append(child)
            continue
        if any(not b.is_out_of_flow for b in run):
            out.append(wrap(run))
        else:
            out += run
        run = []
        if child is not None:
            out.append(child)
    return out


def _part(style: ComputedStyle, children: Sequence[Box]) -> Box:
    return Box(BoxKind.BLOCK, style, None, tuple(children), inner=InnerDisplay.TABLE_PART)


def children_of_table(style: ComputedStyle, children: Sequence[Box], flow: Flow) -> tuple[Box, ...]:
    """§17.2.1, stage 2: what is no proper child of a table stands in anonymous rows."""
    return tuple(
        _in_runs(
            children,
            lambda b: is_part(b) and b.style.display in _PROPER,
            lambda run: _row(style, run, flow),
        )
    )


def children_of_group(style: ComputedStyle, children: Sequence[Box], flow: Flow) -> tuple[Box, ...]:
    """What is no row of a row group stands in anonymous rows."""
    return tuple(
        _in_runs(
            children,
            lambda b: is_part(b) and b.style.display == "table-row",
            lambda run: _row(style, run, flow),
        )
    )


def _row(style: ComputedStyle, run: Sequence[Box], flow: Flow) -> Box:
    own = _anonymous(style, "table-row")
    return _part(own, children_of_row(own, run, flow))


def children_of_row(style: ComputedStyle, children: Sequence[Box], flow: Flow) -> tuple[Box, ...]:
    """What is no cell stands in anonymous cells."""
    return tuple(
        _in_runs(
            children,
            lambda b: is_part(b) and b.style.display == "table-cell",
            lambda run: flow(_anonymous(style, "table-cell"), run),
        )
    )


def with_tables(
    style: ComputedStyle, children: Sequence[Box], flow: Flow, *, inline: bool = False
) -> Sequence[Box]:
    """§17.2.1, stage 3: parts that have lost their table get one; white space between them goes.

    inline: the parent is an inline box, so the table is one in a line.
    """
    if not any(is_part(c) for c in children):
        return children
    out: list[Box] = []
    run: list[Box] = []
    blank: list[Box] = []  # white space that may stand between two parts
    for child in children:
        if is_part(child):
            (run if run else out).extend(blank)
            run.append(child)
            blank = []
        elif _is_blank(child):
            blank.append(child)
        else:
            _close(_table(style, inline=inline), run, out, flow)
            run = []
            out += [*blank, child]
            blank = []
    _close(_table(style, inline=inline), run, out, flow)
    return [*out, *blank]


def _table(style: ComputedStyle, *, inline: bool) -> ComputedStyle:
    return _anonymous(style, "inline-table" if inline else "table")


def _close(own: ComputedStyle, run: Sequence[Box], out: list[Box], flow: Flow) -> None:
    if run:
        children = children_of_table(own, run, flow)
        out.append(Box(BoxKind.BLOCK, own, None, children, inner=InnerDisplay.TABLE))
