"""Lines that hold text of one box and nothing else, broken and built one after another: most lines are such.

What other lines need is not asked for them: all of their text hangs on one baseline, each is as high as the strut, and
in room that no float narrows each has the whole width (CSS 2.2 §9.4.2, §10.8.1).
"""

from bisect import bisect_right
from dataclasses import dataclass, field

from redcrate.core.layout.fragments import Line, TextPiece
from redcrate.core.layout.inline_items import InlineContent, Item
from redcrate.core.layout.line_boxes import LineBuilder
from redcrate.core.layout.line_breaking import MERCY, UNBOUNDED
from redcrate.core.layout.text_alignment import aligned_start
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.text.cuts import Cuts
from redcrate.core.text.inline_fonts import inline_font
from redcrate.core.units import ZERO, LayoutUnit, ceil_from_px

# A line's text from the first to the last character, its width, and that of the space behind it.
_Piece = tuple[int, int, LayoutUnit, LayoutUnit]


@dataclass(slots=True, eq=False)
class PlainText:
    """The lines that a text fills to their ends, as they are broken. start: where the next one begins.

    least, below: in any room from `least` to less than `below` the same lines break in the same way.
    """

    start: int
    least: LayoutUnit = ZERO
    below: LayoutUnit = UNBOUNDED
    pieces: list[_Piece] = field(default_factory=list)


def may_be_plain(block: ComputedStyle, content: InlineContent) -> bool:
    """Whether lines of a block can be such: none holds a float, begins further in, or is justified."""
    _, justifies = aligned_start(block, LayoutUnit(64), ends=False)
    indent = block.text_indent.length
    return not (content.has_floats or justifies or indent.px or indent.percent)


def plain_text(content: InlineContent, item: Item, start: int, room: LayoutUnit) -> PlainText | None:
    """The lines from `start` in a text, each in that room, 1/64 px; None where there is none.

    The line in which the text ends is none of them, and they stop before one that does not fit (CSS Text 3 §5).
    """
    cuts = content.cuts_in(item)
    if cuts is None:
        return None
    text = PlainText(start)
    _break(text, item, cuts, room + MERCY)
    text.least, text.below = text.least - MERCY, text.below - MERCY
    return text if text.pieces else None


def _break(text: PlainText, item: Item, cuts: Cuts, room: LayoutUnit) -> None:
    """Line by line: about as far as the advances say, and exactly at the last cut that fits."""
    run, base, size = item.run, item.base, item.face_size
    assert run is not None
    advances, upem = run.sums, run.face.upem
    first, last, reach = cuts.behind(text.start), len(cuts.sums), room * upem / (64 * size)
    while True:
        begun = advances[text.start - base]
        found = bisect_right(cuts.sums, begun + reach, first)
        used = ZERO
        while found > first:
            used = ceil_from_px((cuts.sums[found - 1] - begun) * size / upem)
            if used <= room:
                break
            text.below = min(text.below, used)
            found -= 1
        while found < last:
            more = ceil_from_px((cuts.sums[found] - begun) * size / upem)
            if more > room:
                text.below = min(text.below, more)
                break
            used = more
            found += 1
        if found in (first, last):
            return
        cut, end = cuts.offsets[found - 1], cuts.ends[found - 1]
        whole = ceil_from_px((advances[cut - base] - begun) * size / upem)
        text.pieces.append((text.start, end, used, whole - used))
        text.least = max(text.least, used)
        text.start, first = cut, found


def plain_lines(builder: LineBuilder, item: Item, pieces: list[_Piece], y: LayoutUnit) -> list[Line]:
    """The line boxes of such pieces in the whole width of the builder's containing block, the first one at y."""
    strut, font, block = builder.strut, inline_font(item.style), builder.block
    ascent, descent, room = strut.leading_ascent, strut.leading_descent, builder.cb_width
    height, text_height = ascent + descent, font.ascent + font.descent
    start, _ = aligned_start(block, LayoutUnit(64), ends=False)
    x, base = builder.cb_x, item.base
    lines: list[Line] = []
    for first, end, used, trimmed in pieces:
        left = x
        if start:
            left += aligned_start(block, max(ZERO, room - used), ends=False)[0]
        baseline = y + ascent
        piece = TextPiece(
            item.box,
            left,
            baseline - font.ascent,
            used,
            text_height,
            baseline,
            builder.text[first:end],
            item.run,
            first - base,
            end - base,
            0.0,
            item.scale,
        )
        line = Line(x, y, room, height, baseline, used, (piece,), ascent, descent, trimmed)
        lines.append(line)
        y += height
    return lines
