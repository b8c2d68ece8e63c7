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
from redcrate.core.layout.text_alignment import aligned_start
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.text.cuts import Cuts
from redcrate.core.text.inline_fonts import inline_font
from redcrate.core.units import ZERO, LayoutUnit, ceil_from_px

# A line's text from the first to the last character, its width, and that of the space behind it.
_Piece = tuple[int, int, LayoutUnit, LayoutUnit]


class PlainText:
    """The lines from `start` in a text, each in a room of that width, 1/64 px, as they are broken (CSS Text 3 §5).

    The line in which the text ends is one of them where nothing follows. They stop before one that does not fit.
    start: where the next line begins. ends: the content does, too. least, below: in any room from `least` to less than
    `below` the same lines break in the same way.
    """

    def __init__(
        self, content: InlineContent, item: Item, cuts: Cuts, start: int, room: LayoutUnit
    ) -> None:
        run = item.run
        assert run is not None
        self.start = start
        self.ends = False
        self.pieces: list[_Piece] = []
        self.least: LayoutUnit = ZERO
        self.below: LayoutUnit = UNBOUNDED
        self._item, self._cuts = item, cuts
        self._sums, self._upem = run.sums, run.face.upem
        self._room = room + MERCY
        self._is_last = item is content.items[-1]
        self._text = content.text
        self._width = room
        self._break()
        self.least, self.below = self.least - MERCY, self.below - MERCY

    def _break(self) -> None:
        """Line by line, up to the last one that is to be known here."""
        cuts = self._cuts
        first, last = cuts.behind(self.start), len(cuts.ends)
        while True:
            found, used = self._last_that_fits(first, last)
            if found == last and (not self._is_last or self._takes_the_rest()):
                return
            if found == first:
                return
            self._take(cuts.ends[found - 1], cuts.offsets[found - 1], used)
            first = found

    def _last_that_fits(self, first: int, last: int) -> tuple[int, LayoutUnit]:
        """How many cuts fit, those before the line counted, and the width up to there.

        About so many as the advances say; at the last one that fits, and the first that does not, exactly.
        """
        sums, room, size, upem = self._cuts.sums, self._room, self._item.face_size, self._upem
        begun = self._sums[self.start - self._item.base]
        found = bisect_right(sums, begun + room * upem / (64 * size), first)
        used = ZERO
        while found > first:
            used = ceil_from_px((sums[found - 1] - begun) * size / upem)
            if used <= room:
                break
            self.below = min(self.below, used)
            found -= 1
        while found < last:
            more = ceil_from_px((sums[found] - begun) * size / upem)
            if more > room:
                self.below = min(self.below, more)
                break
            used = more
            found += 1
        return found, used

    def _takes_the_rest(self) -> bool:
        """Whether all that is left fits; then it is the last line."""
        item, end = self._item, self._item.end
        while end > self.start and self._text[end - 1] == " ":
            end -= 1
        used = item.width(self.start, end, self._text)
        if used > self._room:
            self.below = min(self.below, used)
            return False
        self._take(end, item.end, used)
        self.ends = True
        return True

    def _take(self, end: int, cut: int, used: LayoutUnit) -> None:
        """A line from where the last one ended; its text ends at `end`, and the next one begins at `cut`."""
        whole = self._item.width(self.start, cut, self._text)
        self.pieces.append((self.start, end, used, whole - used))
        self.least = max(self.least, used)
        self.start = cut

    def lines(self, block: ComputedStyle, x: LayoutUnit, y: LayoutUnit) -> list[Line]:
        """The line boxes in a block of that style, the first one at x, y."""
        item, room, strut = self._item, self._width, inline_font(block)
        font, base = inline_font(item.style), item.base
        ascent, descent = strut.leading_ascent, strut.leading_descent
        height, text_height = ascent + descent, font.ascent + font.descent
        lines: list[Line] = []
        for number, (first, end, used, trimmed) in enumerate(self.pieces, 1):
            ends = self.ends and number == len(self.pieces)
            left, _ = aligned_start(block, max(ZERO, room - used), ends=ends)
            baseline = y + ascent
            piece = TextPiece(
                item.box,
                x + left,
                baseline - font.ascent,
                used,
                text_height,
                baseline,
                self._text[first:end],
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


def plain_text(content: InlineContent, item: Item, start: int, room: LayoutUnit) -> PlainText | None:
    """The lines from `start` in a text; None where there is none, or they are not as wide as its advances say."""
    cuts = content.cuts_in(item)
    if cuts is None or room < 0:
        return None
    if item is not content.items[-1] and item.ends_within(room, start):
        return None  # the rest of it fits, more or less, and what follows decides
    text = PlainText(content, item, cuts, start, room)
    return text if text.pieces else None


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
    lines = text.lines(block, area.x, area.y)
    height = lines[-1].y + lines[-1].height - area.y
    first, last = lines[0].baseline, lines[-1].baseline
    found = Content((), tuple(lines), height, "lines", NO_MARGINS, first, last, ())
    return found, text.least, text.below
