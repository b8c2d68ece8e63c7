"""The inline formatting context: lines one under another, shortened by floats (CSS 2.2 §9.4.2)."""

from dataclasses import replace
from functools import cached_property

from redcrate.core.boxes.box import Box
from redcrate.core.layout import block_container, intrinsic
from redcrate.core.layout.block_container import layout_block_container
from redcrate.core.layout.contexts import ContainingBlock, Content, FlowArea, LayoutRun
from redcrate.core.layout.even_lines import even_width
from redcrate.core.layout.floats import FloatContext, FloatState
from redcrate.core.layout.fragments import (
    ContentSizes,
    Fragment,
    HeightSource,
    InlinePiece,
    Line,
    OutOfFlowCandidate,
    Placed,
    Refusal,
)
from redcrate.core.layout.inline_items import InlineContent, Item, ItemKind
from redcrate.core.layout.kept_lines import can_be_kept, kept
from redcrate.core.layout.line_boxes import BuiltLine, LineBuilder, candidates_inside
from redcrate.core.layout.line_breaking import UNBOUNDED, BrokenLine, LineBreaker, LineStart
from redcrate.core.layout.margins import NO_MARGINS
from redcrate.core.layout.plain_lines import plain_content, plain_text
from redcrate.core.layout.space import ConstraintSpace, Sizing
from redcrate.core.records import dataclass
from redcrate.core.text.inline_fonts import inline_font
from redcrate.core.units import ZERO, LayoutUnit


class InlineContext:
    """Lays out block containers of lines."""

    reasons = block_container.REASONS

    def layout(self, run: LayoutRun, box: Box, space: ConstraintSpace) -> Fragment:
        """The box, and its lines one under another."""
        return layout_block_container(run, box, space, _flow)

    def content_sizes(self, run: LayoutRun, box: Box, space: ConstraintSpace) -> ContentSizes:
        """From the widest word to the widest line."""
        return intrinsic.of_lines(run, box, run.cache.inline_content(box))


def _flow(run: LayoutRun, box: Box, area: FlowArea) -> Content:
    """The lines, taken again where they were broken in a container of about that width."""
    record = run.cache.of(box)
    known = record.lines
    again = known.in_area(run, area) if known is not None and known.serves(area) else None
    if again is not None:
        return again
    content = record.content or run.cache.inline_content(box)
    if record.keeps_lines is None:
        record.keeps_lines = can_be_kept(box, content)
    plain = plain_content(box.style, content, area) if box.first_line is None else None
    if plain is not None:
        found, least, below = plain
        if record.keeps_lines:
            record.lines = kept(found, ZERO, area, least, below, has_atomics=False)
        return found
    lines = _Lines(run, box, area, content)
    found = lines.run_all()
    if record.keeps_lines and lines.lines and area.lines_left is None and not lines.narrowed:
        strut, atomics = lines.strut_height, bool(lines.inner.laid_out)
        record.lines = kept(found, strut, area, lines.least, lines.below, has_atomics=atomics)
    return found


@dataclass(frozen=True, slots=True, eq=False)
class _Mark:
    """The state before a line is tried."""

    floats: FloatState
    placed: int
    candidates: int
    done: set[Item]
    waiting: list[Item]


def _opened(content: InlineContent) -> list[Box]:
    """The inline boxes of lines in the order in which they begin."""
    return [item.box for item in content.items if item.kind is ItemKind.OPEN]


def _same_place(twin: InlineContent, content: InlineContent, place: LineStart) -> LineStart:
    """A place in the twin's items in those of the block: texts may be in other pieces, all else is alike."""
    others = sum(item.kind is not ItemKind.TEXT for item in twin.items[: place.item])
    at = 0
    items = content.items
    while at < len(items) and (
        others or (items[at].kind is ItemKind.TEXT and items[at].end <= place.offset)
    ):
        others -= items[at].kind is not ItemKind.TEXT
        at += 1
    return LineStart(at, place.offset)


def _is_part_of(box: Box, inline: Box) -> bool:
    """Whether it is the inline box, or what stands for it on a first line."""
    return box is inline or (
        box.element is not None and box.element is inline.element and box.pseudo == inline.pseudo
    )


class _Atomics:
    """The inline-blocks, images and floats of the lines, in the space that these give; each atomic one laid out once."""

    def __init__(self, run: LayoutRun, area: FlowArea) -> None:
        self.run = run
        self.area = area
        self.laid_out: dict[Item, Fragment] = {}

    @cached_property
    def space(self) -> ConstraintSpace:
        """What they are laid out in."""
        return ConstraintSpace(self.area.width, self.area.percent_height, Sizing.SHRINK_TO_FIT)

    def fragment(self, item: Item) -> Fragment:
        """The fragment of an atomic item."""
        known = self.laid_out.get(item)
        if known is None:
            known = self.laid_out[item] = self.run.layout(item.box, self.space)
        return known

    def width(self, item: Item) -> LayoutUnit:
        """The room that an atomic item takes in its line."""
        return self.fragment(item).margin_width


class _Lines:
    """The work on one block container's lines."""

    def __init__(self, run: LayoutRun, box: Box, area: FlowArea, content: InlineContent) -> None:
        self.run = run
        self.box = box
        self.area = area
        self.content = content
        self.floats: FloatContext = area.floats
        self.inner = _Atomics(run, area)
        self.breaker = LineBreaker(content, area.width, self.inner.width)
        self.builder = LineBuilder(
            box.style, content, area.x, area.width, area.percent_height, self.inner.fragment
        )
        self.placed: list[Placed] = []
        self.floats_done: set[Item] = set()
        self.waiting: list[Item] = []
        self.lines: list[Line] = []
        self.out_of_flow: list[OutOfFlowCandidate] = []
        self.y: LayoutUnit = ZERO
        self.indent: LayoutUnit = ZERO
        self.after_break = False
        self.least: LayoutUnit = ZERO  # the widths between which all lines break as they do
        self.below: LayoutUnit = UNBOUNDED
        self.narrowed = False  # by floats, anywhere
        self.broken_in: LayoutUnit | None = None  # the room that evens the next lines out
        self.is_even = False  # such a room was found
        strut = inline_font(box.style)
        self.strut_height = strut.leading_ascent + strut.leading_descent  # each line is tried with it
        self.tried_height = self.strut_height

    def run_all(self) -> Content:
        """All lines, then the absolute boxes that a relative inline box contains."""
        place = LineStart(0, 0)
        items = self.content.items
        first = True
        self.even_out()
        if self.box.first_line is not None:
            place, first = self.first_line(self.box.first_line), False
        while place.item < len(items):
            plain = None
            if self.content.may_be_plain:
                plain = self.plain_lines(place)
            else:
                self.indent = self.indent_of(first)
            place = self.line(place) if plain is None else plain
            first = False
        self.place_waiting()
        children = self.placed
        rest: list[OutOfFlowCandidate] = []
        for candidate in self.out_of_flow:
            inline = candidate.containing_inline
            if inline is not None and candidate.box.style.position != "fixed":
                placed, further = self.in_inline(candidate, inline)
                children += placed
                rest += further
            else:
                rest.append(replace(candidate, containing_inline=None))
        real = [line for line in self.lines if line.height or line.content]
        baselines = self.lines if self.content.has_lines else []
        return Content(
            tuple(children),
            tuple(real),
            self.shown_height(),
            self.source(),
            NO_MARGINS,
            baselines[0].baseline if baselines else None,
            baselines[-1].baseline if baselines else None,
            tuple(rest),
            (),
        )

    def even_out(self) -> None:
        """The room that lines are broken in where they are to be as even as can be."""
        if self.box.style.text_wrap_style == "balance" and self.area.lines_left is None:
            left, right = self.room(self.strut_height)
            self.broken_in = even_width(self.content, self.breaker, right - left, self.indent_of)
            self.is_even = self.broken_in is not None

    def indent_of(self, is_first: bool) -> LayoutUnit:
        """How far in the next line begins: CSS Text 3 §8.1; plain lines never do."""
        indent = self.box.style.text_indent
        indents = is_first or (indent.each_line and self.after_break)
        return indent.length.resolve(self.area.width) if indents != indent.hanging else ZERO

    def first_line(self, twin: Box) -> LineStart:
        """The first line, with the styles that it has as such (CSS Pseudo-Elements 4 §2.1); where the next begins.

        Where those change the length of the text, its lines are laid out as the others.
        """
        start = LineStart(0, 0)
        content = self.run.cache.inline_content(twin)
        if len(content.text) != len(self.content.text) or not content.items:
            return start
        indent = self.box.style.text_indent
        self.indent = ZERO if indent.hanging else indent.length.resolve(self.area.width)
        own = self.content, self.breaker, self.builder
        self.content = content
        self.breaker = LineBreaker(content, self.area.width, own[1].atomic_width)
        self.builder = LineBuilder(
            twin.style,
            content,
            self.area.x,
            self.area.width,
            self.area.percent_height,
            own[2].atomic,
        )
        after = self.line(start)
        still_open = self.builder.open_boxes
        self.content, self.breaker, self.builder = own
        pairs = dict(zip(_opened(content), _opened(self.content), strict=True))
        self.builder.open_boxes = [pairs[box] for box in still_open]
        return _same_place(content, self.content, after)

    def source(self) -> HeightSource:
        """What the height comes from."""
        if not self.content.has_lines:
            return "nothing"
        shown = self.area.lines_left
        if self.is_even:
            return "even lines"
        return "lines" if shown is None or shown >= len(self.lines) else "shown lines"

    def shown_height(self) -> LayoutUnit:
        """The bottom of the last line that is shown: CSS Overflow 4 §5.1.4; the lines after it overflow."""
        shown = self.area.lines_left
        if shown is None or shown >= len(self.lines):
            return self.y
        last = self.lines[shown - 1]
        return last.y + last.height - self.area.y if shown else ZERO

    def plain_lines(self, place: LineStart) -> LineStart | None:
        """The lines that one text fills; returns where the next one begins, None where such lines cannot be."""
        item = self.content.items[place.item]
        if item.kind is not ItemKind.TEXT or self.builder.open_boxes:
            return None
        left, right = self.room(UNBOUNDED)
        if (left, right - left) != (self.area.bfc_x, self.area.width):
            return None
        text = plain_text(self.content, item, place.offset, self.area.width)
        if text is None:
            return None
        self.lines += text.lines(
            self.content.text, self.box.style, self.area.x, self.area.y + self.y, self.area.width
        )
        self.y += len(text.pieces) * self.strut_height
        self.bound(text.least, text.below)
        self.after_break = False
        return LineStart(place.item + text.ends, text.after)

    def bound(self, least: LayoutUnit, below: LayoutUnit) -> None:
        """Some lines break as they do from one width to less than another."""
        if least > self.least:
            self.least = least
        if below < self.below:
            self.below = below

    def line(self, place: LineStart) -> LineStart:
        """One line; returns where the next one begins."""
        if self.waiting:
            self.place_waiting()
        height = self.strut_height
        while True:
            left, right = self.room(height)
            before = self.mark()
            broken = self.broken_line(place, left, right, height)
            if not broken.starved:
                if before is not None:
                    left, right = self.room(height)  # with the floats of this line
                built = self.built_line(broken, left, right)
                line_height = built.line.height
                if line_height <= height or self.room(line_height) == (left, right):
                    break
                self.back_to(before)
                height = line_height
            else:
                self.narrowed = True
                self.y = self.floats.next_step(self.area.bfc_y + self.y) - self.area.bfc_y
        self.bound(broken.least + self.indent, broken.below + self.indent)
        self.narrowed = self.narrowed or right - left != self.area.width
        self.builder.take(built)
        self.lines.append(built.line)
        self.out_of_flow.extend(built.out_of_flow)
        self.y += built.line.height
        self.after_break = broken.forced
        if broken.forced:
            self.broken_in = None
            self.clear_after(broken)
        return broken.after

    def mark(self) -> "_Mark | None":
        """What trying a line may change; None where it holds no floats."""
        if not self.content.has_floats:
            return None
        return _Mark(
            self.floats.state(),
            len(self.placed),
            len(self.out_of_flow),
            set(self.floats_done),
            list(self.waiting),
        )

    def back_to(self, mark: "_Mark | None") -> None:
        """Forget a line that was tried: its floats are met again."""
        if mark is not None:
            self.floats.back_to(mark.floats)
            del self.placed[mark.placed :]
            del self.out_of_flow[mark.candidates :]
            self.floats_done, self.waiting = mark.done, mark.waiting

    def built_line(self, broken: BrokenLine, left: LayoutUnit, right: LayoutUnit) -> BuiltLine:
        """The line box, tried with the inline boxes that are open; taken only if it is final."""
        return self.builder.build(
            broken,
            self.area.x + left - self.area.bfc_x,
            self.area.y + self.y,
            right - left,
            self.indent,
            is_last=broken.last,
        )

    def room(self, height: LayoutUnit) -> tuple[LayoutUnit, LayoutUnit]:
        """The left and right edge of the line in the block formatting context."""
        left = self.area.bfc_x
        return self.floats.room(self.area.bfc_y + self.y, height, left, left + self.area.width)

    def broken_line(
        self, place: LineStart, left: LayoutUnit, right: LayoutUnit, height: LayoutUnit
    ) -> BrokenLine:
        """Break one line of that height in the room between the floats."""
        self.tried_height = height
        room = right - left if self.broken_in is None else min(right - left, self.broken_in)
        room -= self.indent
        return self.breaker.next_line(
            place, room, float_met=self.float_met, narrowed=self.is_narrowed_here
        )

    def float_met(self, item: Item, used: LayoutUnit) -> LayoutUnit | None:
        """A float in the line that is tried: placed beside it, or left to wait; what the line then has."""
        if item in self.floats_done:
            return None
        fragment, y = self.run.layout(item.box, self.inner.space), self.area.bfc_y + self.y
        left, right = self.room(self.tried_height)
        fits = used + fragment.margin_width <= right - left - self.indent
        cleared = item.style.clear != "none" and self.floats.side_bottom(item.style.clear) > y
        self.floats_done.add(item)
        if self.waiting or (not fits and used > 0) or (cleared and used > 0):
            self.waiting.append(item)
            return None
        self.place_float(item, fragment, y)
        left, right = self.room(self.tried_height)
        return right - left - self.indent

    def is_narrowed_here(self) -> bool:
        """Whether floats take room from the line that is tried."""
        left, right = self.room(self.tried_height)
        return (left, right - left) != (self.area.bfc_x, self.area.width)

    def place_waiting(self) -> None:
        """Floats that found no room in their line go below it, in order."""
        waiting, self.waiting = self.waiting, []
        for item in waiting:
            fragment = self.run.layout(item.box, self.inner.space)
            wanted = self.lines[-1].y - self.area.y if self.lines else self.y
            self.place_float(item, fragment, self.area.bfc_y + self.y, wanted)

    def place_float(
        self, item: Item, fragment: Fragment, y: LayoutUnit, wanted: LayoutUnit | None = None
    ) -> None:
        """Place a float of the lines; `wanted` is the y of the line that had no room for it."""
        area, style = self.area, item.style
        place = self.floats.place(
            style.float_,
            style.clear,
            fragment.margin_width,
            fragment.margin_height,
            y,
            area.bfc_x,
            area.bfc_x + area.width,
        )
        refusals = place.refusals
        if wanted is not None:
            line = self.lines[-1] if self.lines else None
            if line is not None:
                room = line.width - line.used
                lack = fragment.margin_width - room
                refused = Refusal(area.bfc_x + line.used, area.bfc_y + wanted, room, lack)
                refusals = (refused, *refusals)
        shifts = [self.builder.shift(s) for s in (style, *(b.style for b in item.positioned))]
        placed = Placed(
            fragment,
            place.x - area.bfc_x + area.x + fragment.margin.left,
            place.y - area.bfc_y + area.y + fragment.margin.top,
            sum((x for x, _ in shifts), ZERO),
            sum((y for _, y in shifts), ZERO),
            refusals,
        )
        self.placed.append(placed)
        self.out_of_flow += candidates_inside(placed, item)

    def clear_after(self, broken: BrokenLine) -> None:
        """A br with clear moves the next line below floats: HTML Standard §15.3.1."""
        item = broken.stretches[-1].item
        for stretch in reversed(broken.stretches):
            if stretch.item.style.clear != "none" and stretch.item.box.element is not None:
                item = stretch.item
                break
        if item.style.clear != "none" and item.box.kind.name == "BREAK":
            bottom = self.floats.side_bottom(item.style.clear) - self.area.bfc_y
            self.y = max(self.y, bottom)

    def in_inline(
        self, candidate: OutOfFlowCandidate, inline: Box
    ) -> tuple[list[Placed], list[OutOfFlowCandidate]]:
        """§10.1: the containing block that an inline box makes is round its padding boxes."""
        pieces = [
            p
            for line in self.lines
            for p in line.content
            if isinstance(p, InlinePiece) and _is_part_of(p.box, inline)
        ]
        first, last = pieces[0], pieces[-1]
        left = first.x + first.border.left * first.has_left
        top = first.y + first.border.top
        right = last.x + last.width - last.border.right * last.has_right
        bottom = last.y + last.height - last.border.bottom
        block = ContainingBlock(left, top, right - left, bottom - top, inline.style.direction)
        return self.run.place_out_of_flow([candidate], block)
