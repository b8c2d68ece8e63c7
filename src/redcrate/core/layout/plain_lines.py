"""Lines that hold text of one box and nothing else, broken and built one after another: most lines are such.

What other lines need is not asked for them: all of their text hangs on one baseline, each is as high as the strut, and
in room that no float narrows each has the whole width (CSS 2.2 §9.4.2, §10.8.1).
"""

from bisect import bisect_right

from redcrate.core.layout.contexts import Content, FlowArea
from redcrate.core.layout.fragments import Line, TextPiece
from redcrate.core.layout.inline_items import InlineContent, Item, ItemKind
from redcrate.core.layout.line_breaking import MERCY, UNBOUNDED
from redcrate.core.layout.margins import NO_MARGINS
from redcrate.core.layout.text_alignment import aligned_start, begins_left
from redcrate.core.records import dataclass
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.text.cuts import Cuts
from redcrate.core.text.inline_fonts import inline_font
from redcrate.core.units import ZERO, LayoutUnit, ceil_from_px

# A line's text from the first to the last character, its width, and that of the space behind it.
_Piece = tuple[int, int, LayoutUnit, LayoutUnit]


@dataclass(slots=True, eq=False)
class PlainText:
    """Lines of a text, as they are broken. after: where the next line begins. ends: the content does, too.

    least, below: in any room from `least` to less than `below` the same lines break in the same way.
    """

    item: Item
    pieces: list[_Piece]
    after: int
    ends: bool
    least: LayoutUnit
    below: LayoutUnit

    def lines(
        self, text: str, block: ComputedStyle, x: LayoutUnit, y: LayoutUnit, room: LayoutUnit
    ) -> list[Line]:
        """The line boxes in a block of that style, the first one at x, y. text: of the content."""
        item, strut, font = self.item, inline_font(block), inline_font(self.item.style)
        box, run, base, scale = item.box, item.run, item.base, item.scale
        ascent, descent = strut.leading_ascent, strut.leading_descent
        height, above, text_height = ascent + descent, ascent - font.ascent, font.ascent + font.descent
        is_left = begins_left(block)
        lines: list[Line] = []
        for first, end, used, trimmed in self.pieces:
            left = x
            if not is_left:
                ends = self.ends and end == item.end
                left += aligned_start(block, max(ZERO, room - used), ends=ends)[0]
            top, shown = y + above, text[first:end]
            piece = TextPiece(
                box, left, top, used, text_height, y + ascent, shown, run, first - base, end - base, 0.0, scale
            )  # fmt: skip
            lines.append(Line(x, y, room, height, y + ascent, used, (piece,), ascent, descent, trimmed))
            y += height
        return lines


def plain_text(content: InlineContent, item: Item, start: int, room: LayoutUnit) -> PlainText | None:
    """The lines from `start` in a text, each in a room of that width, 1/64 px (CSS Text 3 §5); None where there is none.

    The line in which the text ends is one of them where nothing follows. They stop before one that does not fit.
    """
    cuts = content.cuts_in(item)
    if cuts is None:
        return None
    is_last = item is content.items[-1]
    room += MERCY
    if not is_last and item.reaches(item.end, room, start):
        return None  # the rest of it fits, more or less, and what follows decides
    broken = _broken(item, cuts, start, room, is_last=is_last)
    return broken if broken.pieces else None


def _broken(item: Item, cuts: Cuts, start: int, room: LayoutUnit, *, is_last: bool) -> PlainText:
    """Line by line. is_last: nothing follows the text, not even a space (§4.1.2)."""
    assert item.run is not None
    advances, base, size, upem = item.run.sums, item.base, item.face_size, item.run.face.upem
    sums, first, last = cuts.sums, cuts.behind(start), len(cuts.sums)
    reach = room * upem / (64 * size)  # font units, about
    pieces: list[_Piece] = []
    least, below, ends = ZERO, UNBOUNDED, False
    while True:
        begun = advances[start - base]
        found = bisect_right(sums, begun + reach, first)
        more = ZERO
        while found < last:  # what is a hair too wide fits too
            more = ceil_from_px((sums[found] - begun) * size / upem)
            if more > room:
                break
            found += 1
        if more > room and more < below:
            below = more
        if found == last:
            if not is_last:
                break
            rest = ceil_from_px((advances[item.end - base] - begun) * size / upem)
            if rest <= room:
                pieces.append((start, item.end, rest, ZERO))
                least, start, ends = max(least, rest), item.end, True
                break
            below = min(below, rest)
        if found == first:
            break
        cut = cuts.offsets[found - 1]
        used = ceil_from_px((sums[found - 1] - begun) * size / upem)
        whole = ceil_from_px((advances[cut - base] - begun) * size / upem)
        pieces.append((start, cuts.ends[found - 1], used, whole - used))
        if used > least:
            least = used
        start, first = cut, found
    return PlainText(item, pieces, start, ends, least - MERCY, below - MERCY)


def plain_content(
    block: ComputedStyle, content: InlineContent, area: FlowArea
) -> tuple[Content, LayoutUnit, LayoutUnit] | None:
    """What a block comes to that holds one text alone; None where there is more to it.

    With the widths, from one to less than another, between which it breaks in the same way.
    """
    if len(content.items) != 1 or not content.may_be_plain or area.lines_left is not None:
        return None
    item, room = content.items[0], (area.bfc_x, area.bfc_x + area.width)
    if item.kind is not ItemKind.TEXT or area.floats.room(area.bfc_y, UNBOUNDED, *room) != room:
        return None
    text = plain_text(content, item, item.start, area.width)
    if text is None or not text.ends:
        return None
    lines = text.lines(content.text, block, area.x, area.y, area.width)
    height = lines[-1].y + lines[-1].height - area.y
    first, last = lines[0].baseline, lines[-1].baseline
    found = Content((), tuple(lines), height, "lines", NO_MARGINS, first, last, ())
    return found, text.least, text.below
