"""Lines that serve again in a container of another width: nearby, most paragraphs break as they did.

A line breaker tells between which widths each of its answers holds. Where nothing else of the lines hangs on the
width, they are the same lines in a longer room.
"""

from dataclasses import replace

from redcrate.core.boxes.box import Box
from redcrate.core.layout import accounts
from redcrate.core.layout.contexts import Content, FlowArea, LayoutRun
from redcrate.core.layout.fragments import Fragment, Line, LineContent, Placed
from redcrate.core.layout.inline_items import InlineContent, ItemKind
from redcrate.core.layout.line_boxes import atomic_baseline
from redcrate.core.layout.space import ConstraintSpace, Sizing
from redcrate.core.layout.text_alignment import begins_left, justifies
from redcrate.core.records import dataclass
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.units import ZERO, LayoutUnit

_FIXED = frozenset((ItemKind.TEXT, ItemKind.OPEN, ItemKind.CLOSE, ItemKind.BREAK, ItemKind.ATOMIC))


@dataclass(frozen=True, slots=True, eq=False)
class KeptLines:
    """What a container's lines came to. Good in any width from `least` to less than `below`, in the same place.

    high: how far down room was looked for. has_atomics: whether inline-blocks or pictures stand on them.
    """

    content: Content
    high: LayoutUnit
    x: LayoutUnit
    y: LayoutUnit
    least: LayoutUnit
    below: LayoutUnit
    has_atomics: bool

    def serves(self, area: FlowArea) -> bool:
        """Whether the lines in an area are these: no float may reach in."""
        if not self.least <= area.width < self.below or (area.x, area.y) != (self.x, self.y):
            return False
        bounds = (area.bfc_x, area.bfc_x + area.width)
        return area.lines_left is None and area.floats.room(area.bfc_y, self.high, *bounds) == bounds

    def in_area(self, run: LayoutRun, area: FlowArea) -> Content | None:
        """The lines in an area; None where an atomic box on them is another one there."""
        lines: list[Line] = []
        for line in self.content.lines:
            pieces = _again(run, line.content, area) if self.has_atomics else line.content
            if pieces is None:
                return None
            lines.append(line.in_room(area.width, pieces))
        return replace(self.content, lines=tuple(lines))


def _again(
    run: LayoutRun, content: tuple[LineContent, ...], area: FlowArea
) -> tuple[LineContent, ...] | None:
    """What stands on a line, with its atomic boxes as they are in an area; None where their places are others."""
    space = ConstraintSpace(area.width, area.percent_height, Sizing.SHRINK_TO_FIT)
    pieces: list[LineContent] = []
    for piece in content:
        if isinstance(piece, Placed):
            known, found = piece.fragment, run.layout(piece.fragment.box, space)
            if _room_taken(known) != _room_taken(found):
                return None
            pieces.append(replace(piece, fragment=found))
        else:
            pieces.append(piece)
    return tuple(pieces)


def _room_taken(fragment: Fragment) -> tuple[object, ...]:
    """What a line knows of an atomic box."""
    return fragment.width, fragment.height, fragment.margin, atomic_baseline(fragment)


def can_be_kept(box: Box, content: InlineContent) -> bool:
    """Whether nothing of the lines but their breaks hangs on the width of the container."""
    style = box.style
    if justifies(style) or not begins_left(style) or not accounts.ON_LINES.covers(style):
        return False
    evened = style.text_wrap_style == "balance"
    if style.text_indent.length.percent or box.first_line is not None or evened:
        return False
    return all(i.kind in _FIXED and _is_fixed(i.box.style, i.kind) for i in content.items)


def _is_fixed(style: ComputedStyle, kind: ItemKind) -> bool:
    """Whether the edges of an inline box hang on no percentage, and nothing moves it, nor an atomic one."""
    if kind is ItemKind.OPEN:
        return accounts.UNMOVED.covers(style) and not accounts.hangs_on_width(style)
    covered = accounts.ON_LINES.covers(style)
    return covered and (kind is not ItemKind.ATOMIC or style.position == "static")


def kept(
    content: Content,
    strut: LayoutUnit,
    area: FlowArea,
    least: LayoutUnit,
    below: LayoutUnit,
    *,
    has_atomics: bool,
) -> KeptLines | None:
    """The lines as they can serve again. strut: the height that each is tried with; all else: see KeptLines."""
    if content.out_of_flow or least >= below:
        return None
    high = content.height + max(ZERO, strut)
    return KeptLines(content, high, area.x, area.y, least, below, has_atomics)
