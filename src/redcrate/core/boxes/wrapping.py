"""How a block container wraps its children: CSS 2.2 §9.2.1.1, by what its display asks for.

Each inner display type has a way to wrap: flow puts runs of inline-level boxes beside blocks into
anonymous blocks; flex and grid make items of runs of text (CSS Flexbox 1 §4), tables rows and cells of what is
neither (CSS 2.2 §17.2.1).
"""

import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from functools import lru_cache
from typing import TypeAlias

from redcrate.core.boxes.box import Box, BoxKind, InnerDisplay
from redcrate.core.boxes.legends import legend_among
from redcrate.core.boxes.table_boxes import (
    ROW_GROUPS,
    children_of_group,
    children_of_row,
    children_of_table,
    is_part,
    with_tables,
)
from redcrate.core.markup.elements import Element
from redcrate.core.records import dataclass
from redcrate.core.style.anonymous import inherited_style
from redcrate.core.style.computed import ComputedStyle

_COLLAPSIBLE = re.compile(r"[ \t\n\r\f]*\Z")


def is_block_child(box: Box) -> bool:
    """Whether a box stands in its parent as a block in flow."""
    return box.in_flow and not box.is_inline_level


@dataclass(frozen=True, slots=True)
class _Wrapped:
    """The children that a box gets, and which formatting context lays them out."""

    children: tuple[Box, ...]
    inner: InnerDisplay


def _in_flow(style: ComputedStyle, children: Sequence[Box]) -> _Wrapped:
    """§9.2.1.1: mixed children get anonymous blocks round their inline runs; white space alone goes."""
    children = with_tables(style, children, _cell)
    inline = any(_is_inline_content(c) for c in children)
    if not inline:
        return _Wrapped(tuple(c for c in children if not c.is_inline_level), InnerDisplay.BLOCKS)
    if any(is_block_child(c) for c in children):
        return _Wrapped(tuple(_with_anonymous_blocks(style, children)), InnerDisplay.BLOCKS)
    return _Wrapped(tuple(children), InnerDisplay.LINES)


def _items(style: ComputedStyle, children: Sequence[Box]) -> tuple[Box, ...]:
    """CSS Flexbox 1 §4, CSS Grid 1 §6: each run of text becomes an item, unless it is white space alone."""
    out: list[Box] = []
    run: list[Box] = []
    for child in [*children, None]:
        if child is not None and child.kind in (BoxKind.TEXT, BoxKind.BREAK, BoxKind.INLINE):
            run.append(child)
            continue
        if any(b.kind is not BoxKind.TEXT or not _COLLAPSIBLE.match(b.text) for b in run):
            own = _anonymous_item_style(style)
            out.append(Box(BoxKind.BLOCK, own, None, tuple(run), inner=InnerDisplay.LINES))
        run = []
        if child is not None:
            out.append(child)
    return tuple(out)


def _in_table(style: ComputedStyle, children: Sequence[Box]) -> _Wrapped:
    return _Wrapped(children_of_table(style, children, _cell), InnerDisplay.TABLE)


def _in_row_group(style: ComputedStyle, children: Sequence[Box]) -> _Wrapped:
    return _Wrapped(children_of_group(style, children, _cell), InnerDisplay.TABLE_PART)


def _in_row(style: ComputedStyle, children: Sequence[Box]) -> _Wrapped:
    return _Wrapped(children_of_row(style, children, _cell), InnerDisplay.TABLE_PART)


def _in_column_group(style: ComputedStyle, children: Sequence[Box]) -> _Wrapped:
    """§17.2.1, stage 1: a column group holds columns alone, a column nothing."""
    columns = tuple(c for c in children if is_part(c) and c.style.display == "table-column")
    return _Wrapped(columns, InnerDisplay.TABLE_PART)


def _nothing(style: ComputedStyle, children: Sequence[Box]) -> _Wrapped:
    return _Wrapped((), InnerDisplay.TABLE_PART)


def _cell(style: ComputedStyle, children: Sequence[Box]) -> Box:
    return block_container(style, None, children, None)


def with_inline_tables(style: ComputedStyle, children: Sequence[Box]) -> Sequence[Box]:
    """The children of an inline box, with parts of tables that have lost theirs in one (§17.2.1)."""
    return with_tables(style, children, _cell, inline=True)


def _in_flex(style: ComputedStyle, children: Sequence[Box]) -> _Wrapped:
    return _Wrapped(_items(style, children), InnerDisplay.FLEX)


def _in_grid(style: ComputedStyle, children: Sequence[Box]) -> _Wrapped:
    return _Wrapped(_items(style, children), InnerDisplay.GRID)


_Wrapping: TypeAlias = Callable[[ComputedStyle, Sequence[Box]], _Wrapped]
# By display; what is not here flows.
_WRAPPINGS: Mapping[str, _Wrapping] = {
    "flex": _in_flex,
    "inline-flex": _in_flex,
    "grid": _in_grid,
    "inline-grid": _in_grid,
    "table": _in_table,
    "inline-table": _in_table,
    **dict.fromkeys(ROW_GROUPS, _in_row_group),
    "table-row": _in_row,
    "table-column-group": _in_column_group,
    "table-column": _nothing,
}


def block_container(
    style: ComputedStyle,
    element: Element | None,
    children: Sequence[Box],
    marker: str | None,
    pseudo: str = "",
    *,
    overflow_counts: bool = True,
) -> Box:
    """A block container with its children wrapped as its display asks for."""
    wrapped = _WRAPPINGS.get(style.display, _in_flow)(style, children)
    kept = wrapped.children
    return Box(
        BoxKind.BLOCK,
        style,
        element,
        kept,
        pseudo=pseudo,
        marker=marker,
        inner=_of_fieldset(element, wrapped),
        holds_floats=any(
            c.is_float or (c.holds_floats and not c.establishes_bfc) or _inline_floats(c) for c in kept
        ),
        laid_out_as=style.display if _stands_in(style) else "",
        overflow_counts=overflow_counts,
    )


def _of_fieldset(element: Element | None, wrapped: _Wrapped) -> InnerDisplay:
    """HTML Standard §15.3.13: a fieldset that flows and has a legend has a context of its own."""
    flows = wrapped.inner is InnerDisplay.BLOCKS and element is not None and element.tag == "fieldset"
    return InnerDisplay.FIELDSET if flows and legend_among(wrapped.children) else wrapped.inner


def _stands_in(style: ComputedStyle) -> bool:
    """Whether blocks stand in for what the display asks for; an old upright box holds blocks anyway."""
    return style.display == "-webkit-box" and style.webkit_box_orient in ("horizontal", "inline-axis")


def _inline_floats(box: Box) -> bool:
    return box.kind is BoxKind.INLINE and any(b.is_float for b in _inline_walk(box))


def _inline_walk(box: Box) -> list[Box]:
    """The boxes inside an inline box, not those inside its atomic boxes or floats."""
    out: list[Box] = []
    stack = list(box.children)
    while stack:
        at = stack.pop()
        out.append(at)
        if at.kind is BoxKind.INLINE:
            stack.extend(at.children)
    return out


def _is_inline_content(box: Box) -> bool:
    """Whether the box makes its parent hold lines: inline-level, and no collapsible white space."""
    if not box.is_inline_level:
        return False
    if box.kind is not BoxKind.TEXT:
        return True
    if box.style.white_space in ("pre", "pre-wrap", "break-spaces"):
        return bool(box.text)
    if box.style.white_space == "pre-line" and "\n" in box.text:
        return True
    return not _COLLAPSIBLE.match(box.text)


def _with_anonymous_blocks(style: ComputedStyle, children: Sequence[Box]) -> list[Box]:
    """Each run of inline-level children in an anonymous block box.

    A run begins with inline content, so that floats in front of it stay children of the block.
    """
    out: list[Box] = []
    run: list[Box] = []
    for child in children:
        if is_block_child(child):
            _close_run(style, run, out)
            run = []
            out.append(child)
        elif run or _is_inline_content(child):
            run.append(child)
        elif not child.is_inline_level:
            out.append(child)
    _close_run(style, run, out)
    return out


def _close_run(style: ComputedStyle, run: list[Box], out: list[Box]) -> None:
    if run:
        floats = any(c.is_float or _inline_floats(c) for c in run)
        own = anonymous_style(style)
        out.append(
            Box(BoxKind.BLOCK, own, None, tuple(run), inner=InnerDisplay.LINES, holds_floats=floats)
        )


@lru_cache(maxsize=5000)
def anonymous_style(style: ComputedStyle) -> ComputedStyle:
    """The style of an anonymous block: inherited values of its parent, initial ones else."""
    return inherited_style(style, display="block")


@lru_cache(maxsize=5000)
def _anonymous_item_style(style: ComputedStyle) -> ComputedStyle:
    """The style of an item that stands for a run of text."""
    return replace(anonymous_style(style), is_item=True)
