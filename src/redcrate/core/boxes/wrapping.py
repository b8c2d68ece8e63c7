"""How a block container wraps its children: CSS 2.2 §9.2.1.1, by what its display asks for.

Each inner display type has a way to wrap: flow puts runs of inline-level boxes beside blocks into
anonymous blocks. Those that blocks still stand in for (`LATER`) wrap as flow does.
"""

import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import TypeAlias

from redcrate.core.boxes.box import Box, BoxKind
from redcrate.core.markup.elements import Element
from redcrate.core.style.anonymous import inherited_style
from redcrate.core.style.computed import ComputedStyle

_COLLAPSIBLE = re.compile(r"[ \t\n\r\f]*\Z")
LATER = frozenset(("table", "inline-table", "flex", "inline-flex", "grid", "inline-grid"))


def is_block_child(box: Box) -> bool:
    """Whether a box stands in its parent as a block in flow."""
    return box.in_flow and not box.is_inline_level


@dataclass(frozen=True, slots=True)
class _Wrapped:
    """The children that a box gets, and whether it holds lines of them."""

    children: tuple[Box, ...]
    holds_lines: bool


def _in_flow(style: ComputedStyle, children: Sequence[Box]) -> _Wrapped:
    """§9.2.1.1: mixed children get anonymous blocks round their inline runs; white space alone goes."""
    inline = any(_is_inline_content(c) for c in children)
    if not inline:
        return _Wrapped(tuple(c for c in children if not c.is_inline_level), holds_lines=False)
    if any(is_block_child(c) for c in children):
        return _Wrapped(tuple(_with_anonymous_blocks(style, children)), holds_lines=False)
    return _Wrapped(tuple(children), holds_lines=True)


_Wrapping: TypeAlias = Callable[[ComputedStyle, Sequence[Box]], _Wrapped]
# By display; what is not here flows. Anonymous table boxes and flex and grid items have their place here.
_WRAPPINGS: Mapping[str, _Wrapping] = {}


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
        holds_lines=wrapped.holds_lines,
        holds_floats=any(
            c.is_float or (c.holds_floats and not c.establishes_bfc) or _inline_floats(c) for c in kept
        ),
        laid_out_as=style.display if _stands_in(style) else "",
        overflow_counts=overflow_counts,
    )


def _stands_in(style: ComputedStyle) -> bool:
    """Whether blocks stand in for what the display asks for; an old upright box holds blocks anyway."""
    old = style.display == "-webkit-box" and style.webkit_box_orient in ("horizontal", "inline-axis")
    return old or style.display in LATER


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
        out.append(Box(BoxKind.BLOCK, own, None, tuple(run), holds_lines=True, holds_floats=floats))


@lru_cache(maxsize=5000)
def anonymous_style(style: ComputedStyle) -> ComputedStyle:
    """The style of an anonymous block: inherited values of its parent, initial ones else."""
    return inherited_style(style, display="block")
