"""Breaking inline content into lines: CSS Text 3 §5 and CSS 2.2 §9.4.2.

Works on the flattened items of a block container; knows widths only, no heights. The position is
kept in 1/64 px; white space at the end of a line takes no room.
"""

from bisect import bisect_left, bisect_right
from collections.abc import Callable
from typing import TypeAlias

from redcrate.core.boxes.box import Box
from redcrate.core.layout.edges import border_and_padding, margin_or_zero
from redcrate.core.layout.inline_items import KEEPS_SPACES, InlineContent, Item, ItemKind
from redcrate.core.records import dataclass
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.text.breaks import SOFT_HYPHEN
from redcrate.core.text.cuts import Cuts
from redcrate.core.text.inline_fonts import hyphen_of, hyphen_width
from redcrate.core.units import ZERO, LayoutUnit

# Width of an atomic box's margin box, 1/64 px.
AtomicWidth: TypeAlias = Callable[[Item], LayoutUnit]
# Widths of text are rounded up, room is cut: what is 1/64 px too wide by that still fits, as in engines.
MERCY = LayoutUnit(1)
# A float in the line: (item, room used so far) → the line's new width, or None if it must wait.
FloatMet: TypeAlias = Callable[[Item, LayoutUnit], LayoutUnit | None]
UNBOUNDED = LayoutUnit(2**40)


@dataclass(slots=True)
class Stretch:
    """A piece of an item on one line. start, end: in the content's text. hyphen: what ends a broken word."""

    item: Item
    start: int
    end: int
    width: LayoutUnit
    hyphen: str = ""


@dataclass(frozen=True, slots=True)
class LineStart:
    """Where in the content a line begins: an item, and an offset in the text."""

    item: int
    offset: int


@dataclass(frozen=True, slots=True, eq=False)
class BrokenLine:
    """One line's worth of content.

    width: without white space at the end. hanging: the width of preserved spaces at the end. trimmed:
    of collapsible spaces that were removed there. forced: ended by a forced break. last: nothing
    follows. starved: no content fits although floats narrow the line, so it should be tried further
    down. least, below: in any room from `least` to less than `below` the same content breaks in the same way.
    """

    stretches: tuple[Stretch, ...]
    after: LineStart
    width: LayoutUnit
    hanging: LayoutUnit
    forced: bool
    last: bool
    starved: bool = False
    has_content: bool = True
    trimmed: LayoutUnit = ZERO
    least: LayoutUnit = ZERO
    below: LayoutUnit = UNBOUNDED


@dataclass(slots=True)
class _Opportunity:
    """A place where the line may end: the stretches before it, and a cut of the next one."""

    stretches: int
    item: int
    start: int
    cut: int  # equal to start where nothing of the item stays on the line


def edge_width(item: Item, cb_width: LayoutUnit) -> LayoutUnit:
    """The room of an inline box's left (opening) or right (closing) edge, 1/64 px."""
    box, style = item.box, item.style
    if item.kind is ItemKind.OPEN:
        if not box.begins_here:
            return ZERO
        border, padding = border_and_padding(style, cb_width)
        return margin_or_zero(style.margin_left, cb_width) + border.left + padding.left
    if not box.ends_here:
        return ZERO
    border, padding = border_and_padding(style, cb_width)
    return margin_or_zero(style.margin_right, cb_width) + border.right + padding.right


def has_fixed_edge(style: ComputedStyle, *, left: bool) -> bool:
    """Whether the room of an inline box's edge is the same in all containing blocks."""
    values = (
        (style.margin_left, style.padding_left) if left else (style.margin_right, style.padding_right)
    )
    return not any(not isinstance(value, str) and value.has_percent for value in values)


def cloned_edge(box: Box, cb_width: LayoutUnit, *, left: bool) -> LayoutUnit:
    """The room of an edge that an inline box has on every line (CSS Break 4 §5.1); 0 if it is cut instead."""
    style = box.style
    if style.box_decoration_break != "clone":
        return ZERO
    border, padding = border_and_padding(style, cb_width)
    if left:
        return margin_or_zero(style.margin_left, cb_width) + border.left + padding.left
    return margin_or_zero(style.margin_right, cb_width) + border.right + padding.right


class LineBreaker:
    """Breaks one block container's content; `cb_width` is what inline percentages refer to."""

    def __init__(self, content: InlineContent, cb_width: LayoutUnit, atomic_width: AtomicWidth) -> None:
        self.content = content
        self.text = content.text
        self.items = content.items
        self.breaks = content.breaks
        self.cb_width = cb_width
        self.atomic_width = atomic_width
        self.clones = content.clones

    def edge(self, item: Item) -> LayoutUnit:
        """The room of an inline box's edge, worked out once for all lines and, where it can be, for all widths."""
        known = item.edge
        if known is None:
            known = edge_width(item, self.cb_width)
            if has_fixed_edge(item.style, left=item.kind is ItemKind.OPEN):
                item.edge = known
        return known

    def open_at(self, item: int) -> list[Box]:
        """The inline boxes that are open in front of an item and have edges on every line."""
        boxes: list[Box] = []
        for known in self.items[:item]:
            if known.style.box_decoration_break != "clone":
                continue
            if known.kind is ItemKind.OPEN:
                boxes.append(known.box)
            elif known.kind is ItemKind.CLOSE:
                boxes.pop()
        return boxes

    def cloned(self, item: int, *, left: bool) -> LayoutUnit:
        """The room of those boxes' edges."""
        return sum((cloned_edge(box, self.cb_width, left=left) for box in self.open_at(item)), ZERO)

    def next_line(
        self,
        place: LineStart,
        available: LayoutUnit,
        *,
        float_met: FloatMet,
        narrowed: Callable[[], bool],
    ) -> BrokenLine:
        """The line that begins at `place` in a room of `available`.

        float_met: called for each float. narrowed: whether floats narrow the line now.
        """
        return _Line(self, place, available, float_met, narrowed).run()

    def breaks_between(self, after: int, until: int) -> tuple[int, int]:
        """The range of indices of the break offsets b with after < b <= until."""
        return bisect_right(self.breaks, after), bisect_right(self.breaks, until)

    def breaks_at(self, offset: int) -> bool:
        """Whether a line may begin at `offset`."""
        at = bisect_left(self.breaks, offset)
        return at < len(self.breaks) and self.breaks[at] == offset


class _Line:
    """The work on one line."""

    def __init__(
        self,
        breaker: LineBreaker,
        place: LineStart,
        available: LayoutUnit,
        float_met: FloatMet,
        narrowed: Callable[[], bool],
    ) -> None:
        self.breaker = breaker
        self.items = breaker.items
        self.text = breaker.text
        self.at = place.item
        self.offset = place.offset
        self.available = available + MERCY
        self.float_met = float_met
        self.narrowed = narrowed
        self.stretches: list[Stretch] = []
        self.position: LayoutUnit = ZERO
        self.opportunity: _Opportunity | None = None
        self.done = False
        self.forced = False
        self.starved = False
        self.has_content = False
        # a float stands beside what is on it already, and goes no further down than that
        self.stays = False
        self.removed: LayoutUnit = ZERO  # what trimming took away at the end
        self.around: LayoutUnit = ZERO  # edges that are here again
        self.least: LayoutUnit = ZERO  # the most that was found to fit
        self.below: LayoutUnit = UNBOUNDED  # the least that was found not to
        if breaker.clones:
            self.around = breaker.cloned(place.item, left=True)
            self.available -= self.around + breaker.cloned(place.item, left=False)

    def run(self) -> BrokenLine:
        """Fill the line."""
        items = self.items
        while not self.done and self.at < len(items):
            item = items[self.at]
            if item.kind is ItemKind.TEXT:
                self.text_item(item)
            else:
                _HANDLERS[item.kind](self, item)
        if self.starved:
            return BrokenLine((), LineStart(0, 0), ZERO, ZERO, False, False, starved=True)
        self.take_closing()
        if self.at < len(items) and items[self.at].kind is ItemKind.OPEN:
            self.take_empty()
        hanging = self.trim()
        width = self.position - self.removed
        if self.breaker.clones:
            width += self.around + self.breaker.cloned(self.at, left=False)
        return BrokenLine(
            tuple(self.stretches),
            LineStart(self.at, self.offset),
            width - hanging,
            hanging,
            self.forced,
            self.at >= len(items),
            has_content=self.has_content,
            trimmed=self.removed,
            least=self.least - MERCY,
            below=self.below - MERCY,
        )

    def fits(self, width: LayoutUnit) -> bool:
        """Whether so much fits into the room behind what is on the line; every answer bounds the room it holds for."""
        need = self.position + width
        if need <= self.available:
            if need > self.least:
                self.least = need
            return True
        if need < self.below:
            self.below = need
        return False

    def add(self, item: Item, start: int, end: int, width: LayoutUnit) -> None:
        """Append a stretch."""
        self.stretches.append(Stretch(item, start, end, width))
        self.position += width

    def advance(self) -> None:
        """Go on with the next item."""
        self.at += 1
        self.offset = self.items[self.at].start if self.at < len(self.items) else len(self.text)

    def fitting(self, item: Item, start: int, end: int) -> LayoutUnit:
        """The room that a piece of text needs where the line ends behind it, with the hyphen that it gets."""
        kept = item.style.white_space == "break-spaces"  # CSS Text 3 §4.1.2: these neither hang nor go
        width = item.last_width(start, end if kept else self.trimmed(start, end), self.text)
        return width + hyphen_width(item.style) if self.text[end - 1] == SOFT_HYPHEN else width

    def end_with(self, item: Item, start: int, end: int) -> None:
        """Append the piece of text at the end of the line."""
        width, hyphen = item.last_width(start, end, self.text), ""
        if end > start and end < len(self.text) and self.text[end - 1] == SOFT_HYPHEN:
            width, hyphen = width + hyphen_width(item.style), hyphen_of(item.style)
        self.add(item, start, end, width)
        self.stretches[-1].hyphen = hyphen

    def trimmed(self, start: int, end: int) -> int:
        """`end` without the spaces before it."""
        text = self.text
        while end > start and text[end - 1] == " ":
            end -= 1
        return end

    def text_item(self, item: Item) -> None:
        """As much of a text item as fits, up to a break opportunity."""
        start, end = self.offset, item.end
        if start >= end:
            self.advance()
            return
        text = self.text
        shown = end
        if text[end - 1] == " " and item.style.white_space != "break-spaces":
            shown = self.trimmed(start, end)
        cuts = self.breaker.content.cuts_in(item)
        if cuts is not None and not item.reaches(shown, self.available - self.position + MERCY, start):
            self.too_long(item, start, end)
            return
        width = item.width(start, shown, text)
        if self.fits(width):
            self.has_content = True
            cut = self.last_cut_before(end, start) if cuts is None else cuts.last_behind(start)
            if cut is not None and text[cut - 1] == SOFT_HYPHEN:
                cut = self.last_fitting(item, start, end)  # its hyphen must fit too
            if cut is not None:
                self.opportunity = _Opportunity(len(self.stretches), self.at, start, cut)
            self.add(item, start, end, width if shown == end else item.width(start, end, text))
            self.advance()
            return
        self.too_long(item, start, end)

    def last_cut_before(self, end: int, start: int) -> int | None:
        """The last place up to `end` and behind `start` at which a line may begin."""
        first, past = self.breaker.breaks_between(start, end)
        return self.breaker.breaks[past - 1] if past > first else None

    def too_long(self, item: Item, start: int, end: int) -> None:
        """A text item that does not fit: the last opportunity that does, or an emergency."""
        cut = self.last_fitting(item, start, end)
        if cut is not None:
            self.end_in_text(item, start, cut)
            return
        if self.opportunity is not None:
            self.rewind(self.opportunity)
            return
        breaks = self.breaks_words(item)
        some_fits = breaks and self.last_character(item, start, end) > start
        if self.narrowed() and not self.stays and not some_fits:
            self.done = self.starved = True  # §9.5: all that is on the line goes further down
            return
        if breaks:
            self.break_word(item, start, end)
            return
        first, past = self.breaker.breaks_between(start, end)
        self.has_content = True
        if past > first:
            self.end_in_text(item, start, self.breaker.breaks[first])
        else:
            self.add(item, start, end, item.width(start, end, self.text))
            self.advance()

    def last_fitting(self, item: Item, start: int, end: int) -> int | None:
        """The last break offset up to which the text fits."""
        cuts = self.breaker.content.cuts_in(item)
        if cuts is not None:
            return self.last_cut(cuts, item, start, end)
        low, high = self.breaker.breaks_between(start, end)
        first = low
        breaks = self.breaker.breaks
        while low < high:
            middle = (low + high) // 2
            cut = breaks[middle]
            if self.fits(self.fitting(item, start, cut)):
                low = middle + 1
            else:
                high = middle
        return breaks[low - 1] if low > first else None

    def last_cut(self, cuts: Cuts, item: Item, start: int, end: int) -> int | None:
        """The same from the sums of the text's advances: only where these end, the room is asked for."""
        first, last, text = cuts.behind(start), len(cuts.ends), self.text
        found = bisect_right(cuts.sums, item.advance_in(self.available - self.position, start), first)
        while found > first and not self.fits(item.last_width(start, cuts.ends[found - 1], text)):
            found -= 1
        while found < last and self.fits(item.last_width(start, cuts.ends[found], text)):
            found += 1
        if found == last:  # what did not fit is what comes behind the last cut
            self.fits(item.width(start, self.trimmed(start, end), text))
        return cuts.offsets[found - 1] if found > first else None

    @staticmethod
    def breaks_words(item: Item) -> bool:
        """Whether a word may break anywhere when it fits nowhere: CSS Text 3 §5.5."""
        style = item.style
        return item.wraps and (
            style.overflow_wrap in ("break-word", "anywhere") or style.word_break == "break-word"
        )

    def last_character(self, item: Item, start: int, end: int) -> int:
        """The end of the last character that fits; `start` if none does."""
        cut = start
        while cut < end and self.fits(item.last_width(start, cut + 1, self.text)):
            cut += 1
        return cut

    def break_word(self, item: Item, start: int, end: int) -> None:
        """An emergency break: after the last character that fits, or in front of the item."""
        cut = self.last_character(item, start, end)
        if cut > start or not self.has_text():
            self.end_in_text(item, start, max(cut, start + 1))
            return
        while self.stretches and self.stretches[-1].item.kind is ItemKind.OPEN:
            stretch = self.stretches.pop()  # the boxes that only now begin go on to the next line
            self.position -= stretch.width
            self.at -= 1
        self.offset = self.items[self.at].start
        self.done = True

    def has_text(self) -> bool:
        """Whether something stands on the line in front of which it need not end."""
        return any(p.end > p.start for p in self.stretches)

    def end_in_text(self, item: Item, start: int, cut: int) -> None:
        """End the line inside (or at the end of) a text item."""
        self.has_content = True
        self.end_with(item, start, cut)
        if cut >= item.end:
            self.advance()
        else:
            self.offset = cut
        self.done = True

    def rewind(self, to: _Opportunity) -> None:
        """End the line at an earlier opportunity; floats met since stay on it."""
        floats = [p for p in self.stretches[to.stretches :] if p.item.kind is ItemKind.FLOAT]
        del self.stretches[to.stretches :]
        item = self.items[to.item]
        self.at, self.offset = to.item, to.cut
        self.position = sum((p.width for p in self.stretches), ZERO)
        if to.cut > to.start:
            self.end_with(item, to.start, to.cut)
            if to.cut >= item.end:
                self.advance()
        self.stretches.extend(floats)
        self.done = True

    def atomic(self, item: Item) -> None:
        """An inline-block or image: it may break before and after itself."""
        width = self.breaker.atomic_width(item)
        if not self.fits(width):
            if self.opportunity is not None:
                self.rewind(self.opportunity)
                return
            if self.narrowed() and not self.stays:
                self.done = self.starved = True
                return
        self.has_content = True
        self.add(item, item.start, item.end, width)
        self.advance()
        self.note_opportunity(item.end)

    def note_opportunity(self, offset: int) -> None:
        """Remember that the line may end here, in front of the item at work."""
        if self.at < len(self.items) and self.breaker.breaks_at(offset):
            self.opportunity = _Opportunity(len(self.stretches), self.at, offset, offset)

    def open(self, item: Item) -> None:
        """The left edge of an inline box."""
        width = self.breaker.edge(item)
        self.has_content = self.has_content or width != 0
        if self.breaker.clones:
            self.available -= cloned_edge(item.box, self.breaker.cb_width, left=False)
        self.add(item, item.start, item.end, width)
        self.advance()

    def close(self, item: Item) -> None:
        """The right edge of an inline box; it stays with the text before it."""
        width = self.breaker.edge(item)
        if self.breaker.clones:
            self.available += cloned_edge(item.box, self.breaker.cb_width, left=False)
        if (
            width > 0
            and self.opportunity is not None
            and not self.fits(LayoutUnit(width - self.trailing_space()))
        ):
            self.rewind(self.opportunity)
            return
        self.has_content = self.has_content or width != 0
        self.add(item, item.start, item.end, width)
        self.advance()

    def trailing_space(self) -> LayoutUnit:
        """The width of collapsible spaces at the end of the line so far."""
        for stretch in reversed(self.stretches):
            if stretch.end > stretch.start:
                break
        else:
            return ZERO
        if stretch.item.kind is not ItemKind.TEXT or self.text[stretch.end - 1] != " ":
            return ZERO
        cut = self.trimmed(stretch.start, stretch.end)
        return stretch.width - stretch.item.last_width(stretch.start, cut, self.text)

    def float(self, item: Item) -> None:
        """A float: it stands in this line's height if it fits, else below."""
        self.stays = self.stays or self.has_text()
        narrower = self.float_met(item, self.position - self.trailing_space())
        self.add(item, item.start, item.end, ZERO)
        if narrower is not None:
            self.available = narrower + MERCY
        self.advance()

    def out_of_flow(self, item: Item) -> None:
        """An absolute box: only its static place is noted."""
        self.add(item, item.start, item.end, ZERO)
        self.advance()

    def forced_break(self, item: Item) -> None:
        """A preserved newline or br ends the line."""
        self.add(item, item.start, item.end, ZERO)
        self.has_content = self.forced = self.done = True
        self.advance()

    def tab(self, item: Item) -> None:
        """A preserved tab goes to the next tab stop: CSS Text 3 §4.2."""
        stop = self.breaker.content.tab_stop
        width = stop - self.position % stop if stop > 0 else ZERO
        if item.wraps and not self.fits(width) and self.opportunity:
            self.rewind(self.opportunity)
            return
        self.has_content = True
        self.add(item, item.start, item.end, width)
        self.advance()
        self.note_opportunity(item.end)

    def take_closing(self) -> None:
        """Right edges of inline boxes that end where the line ends belong to it."""
        while self.at < len(self.items) and self.items[self.at].kind is ItemKind.CLOSE:
            item = self.items[self.at]
            if self.offset > item.start:
                break
            self.add(item, item.start, item.end, self.breaker.edge(item))
            self.advance()

    def take_empty(self) -> None:
        """Inline boxes with nothing in them stay with what stands before the break, as engines have it."""
        while not self.forced and self.stretches:
            end = self._end_of_empty()
            items = self.items[self.at : end]
            if not items or not self.fits(sum((self.breaker.edge(i) for i in items), ZERO)):
                return
            for item in items:
                self.add(item, item.start, item.end, self.breaker.edge(item))
                self.advance()

    def _end_of_empty(self) -> int:
        """The number of the item behind an empty inline box that comes next; `at` where none does."""
        depth = 0
        for at in range(self.at, len(self.items)):
            kind = self.items[at].kind
            depth += (kind is ItemKind.OPEN) - (kind is ItemKind.CLOSE)
            if kind not in (ItemKind.OPEN, ItemKind.CLOSE) or depth < 0:
                break
            if not depth:
                return at + 1
        return self.at

    def trim(self) -> LayoutUnit:
        """CSS Text 3 §4.1.2: remove collapsible spaces at the end; preserved ones hang."""
        hanging = ZERO
        for stretch in reversed(self.stretches):
            kind = stretch.item.kind
            if kind in (ItemKind.ATOMIC, ItemKind.TAB):
                break
            if kind is not ItemKind.TEXT:
                continue
            if stretch.hyphen:
                break
            if stretch.end > stretch.start and self.text[stretch.end - 1] != " ":
                break
            cut = self.trimmed(stretch.start, stretch.end)
            mode = stretch.item.style.white_space
            kept = stretch.item.last_width(stretch.start, cut, self.text)
            if mode in KEEPS_SPACES:
                if mode == "pre-wrap" and not self.forced:
                    hanging += stretch.width - kept
            else:
                self.removed += stretch.width - kept
                stretch.end, stretch.width = cut, kept
            if cut > stretch.start:
                break
        return hanging


_HANDLERS: dict[ItemKind, Callable[[_Line, Item], None]] = {
    ItemKind.TEXT: _Line.text_item,
    ItemKind.ATOMIC: _Line.atomic,
    ItemKind.OPEN: _Line.open,
    ItemKind.CLOSE: _Line.close,
    ItemKind.FLOAT: _Line.float,
    ItemKind.OUT_OF_FLOW: _Line.out_of_flow,
    ItemKind.BREAK: _Line.forced_break,
    ItemKind.TAB: _Line.tab,
}
