"""From a broken line to a line box: CSS 2.2 §10.8 (heights and baselines) and §16.2 (alignment).

Vertical places are first counted from the root baseline, downwards, then from the line's top.
"""

from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import TypeAlias

from redcrate.core.boxes.box import Box, InnerDisplay
from redcrate.core.geometry import NO_EDGES, Edges
from redcrate.core.layout.alignment import Place
from redcrate.core.layout.edges import border_and_padding, margins_or_zero
from redcrate.core.layout.fragments import (
    Fragment,
    InlinePiece,
    Line,
    LineContent,
    OutOfFlowCandidate,
    Placed,
    TextPiece,
)
from redcrate.core.layout.inline_items import InlineContent, Item, ItemKind
from redcrate.core.layout.line_breaking import BrokenLine, Stretch
from redcrate.core.layout.relative import relative_shift
from redcrate.core.layout.text_alignment import aligned_start
from redcrate.core.markup.buttons import is_button
from redcrate.core.markup.elements import DocumentMode
from redcrate.core.records import dataclass
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.text.inline_fonts import InlineFont, inline_font, with_leading
from redcrate.core.units import ZERO, LayoutUnit, from_px

# The laid-out fragment of an atomic item.
AtomicFragment: TypeAlias = Callable[[Item], Fragment]


@dataclass(slots=True, eq=False)
class _Level:
    """An inline box that is open on the line; the block container itself is the root.

    shift: of its baseline from the baseline of its aligned subtree.
    """

    style: ComputedStyle
    font: InlineFont
    shift: LayoutUnit
    subtree: "_Subtree"
    box: Box | None = None
    slot: int = 0
    x: LayoutUnit = ZERO
    margin: Edges = NO_EDGES
    border: Edges = NO_EDGES
    padding: Edges = NO_EDGES
    has_left: bool = False
    moved_x: LayoutUnit = ZERO  # by relative positioning of this box and those around it
    moved_y: LayoutUnit = ZERO
    is_empty: bool = True  # nothing in it, nor in a box that ended in it, counts for the line

    def count(self) -> None:
        """Let the box's line height count for the line.

        In old documents only a box with text or an edge of its own does (Quirks Mode Standard §3.3); a forced break
        counts there where nothing stands before it.
        """
        self.is_empty = False
        self.subtree.include(self.font.leading_ascent, self.font.leading_descent, self.shift)


@dataclass(slots=True, eq=False)
class _Subtree:
    """Boxes whose baselines hang together: §10.8.1, aligned subtree.

    align: "" for the root's own, else "top" or "bottom". baseline: from the line's top, at last.
    """

    align: str
    ascent: LayoutUnit = LayoutUnit(-(2**40))
    descent: LayoutUnit = LayoutUnit(-(2**40))
    baseline: LayoutUnit = ZERO

    def include(self, ascent: LayoutUnit, descent: LayoutUnit, shift: LayoutUnit) -> None:
        """Make room for a box with that ascent and descent, lowered by `shift`."""
        self.ascent = max(self.ascent, ascent - shift)
        self.descent = max(self.descent, descent + shift)


@dataclass(slots=True, eq=False)
class _Mark:
    """A stretch with its x and the level that it hangs on, before heights are known."""

    stretch: Stretch
    x: LayoutUnit
    level: _Level
    fragment: Fragment | None = None
    expansion: float = 0.0
    width: LayoutUnit = ZERO
    slot: int = 0


class LineBuilder:
    """Builds the line boxes of one block container.

    open_boxes: the inline boxes that continue from line to line, outermost first.
    """

    def __init__(
        self,
        block: ComputedStyle,
        content: InlineContent,
        cb_x: LayoutUnit,
        cb_width: LayoutUnit,
        cb_height: LayoutUnit | None,
        atomic: AtomicFragment,
    ) -> None:
        self.block = block
        self.text = content.text
        self.cb_x = cb_x
        self.cb_width = cb_width
        self.cb_height = cb_height
        self.atomic = atomic
        self.open_boxes: Sequence[Box] = ()
        self.strut = inline_font(block)
        self.quirky = block.document_mode is not DocumentMode.NO_QUIRKS
        self.in_list_item = block.display == "list-item"

    def build(
        self,
        broken: BrokenLine,
        x: LayoutUnit,
        y: LayoutUnit,
        width: LayoutUnit,
        indent: LayoutUnit,
        *,
        is_last: bool,
    ) -> "BuiltLine":
        """The line box of `broken` in a room at x, y (from the border box) of that width.

        Nothing is kept of it until `take` is told that it is final: a line may be tried again.
        """
        return _LineBoxBuilder(self, broken, x, y, width, indent, is_last).run()

    def take(self, built: "BuiltLine") -> None:
        """The line is final: its open inline boxes go on in the next one."""
        self.open_boxes = built.open_boxes

    def shift(self, style: ComputedStyle) -> tuple[LayoutUnit, LayoutUnit]:
        """What relative positioning moves an inline-level box of these lines by."""
        return relative_shift(style, self.cb_width, self.cb_height, self.block.direction)


@dataclass(frozen=True, slots=True, eq=False)
class BuiltLine:
    """A line box, the absolute boxes met on it, and the inline boxes that are still open at its end."""

    line: Line
    out_of_flow: tuple[OutOfFlowCandidate, ...]
    open_boxes: tuple[Box, ...]


class _LineBoxBuilder:
    """The work on one line box."""

    def __init__(
        self,
        builder: LineBuilder,
        broken: BrokenLine,
        x: LayoutUnit,
        y: LayoutUnit,
        width: LayoutUnit,
        indent: LayoutUnit,
        is_last: bool,
    ) -> None:
        self.builder = builder
        self.broken = broken
        self.x = x
        self.y = y
        self.width = width
        self.indent = indent
        self.is_last = is_last
        self.root = _Subtree("")
        self.subtrees = [self.root]
        self.marks: list[_Mark] = []
        self.slots: list[LineContent | None] = []
        self.closed: list[tuple[_Level, LayoutUnit, bool]] = []
        self.out_of_flow: list[OutOfFlowCandidate] = []
        self.below: list[int] = []  # of those pending, the ones whose static place is under the line

    def run(self) -> BuiltLine:
        """Place all stretches."""
        strut = self.builder.strut
        base = _Level(self.builder.block, strut, ZERO, self.root)
        if not self.builder.quirky:
            base.count()
        start, expansion = self.alignment()
        self.cursor = self.x + start + self.indent
        self.levels = [base]
        for box in self.builder.open_boxes:
            self.enter(box, has_left=_is_cloned(box))
        for stretch in self.broken.stretches:
            self.stretch(stretch, expansion)
        still_open = self.levels[1:]
        for level in reversed(still_open):
            self.break_off(level)
        open_boxes = tuple(lv.box for lv in still_open if lv.box is not None)
        height = self.settle()
        for at in self.below:
            self.out_of_flow[at] = replace(self.out_of_flow[at], y=self.y + height)
        self.emit()
        pieces = tuple(p for p in self.slots if p is not None)
        return BuiltLine(self.line(height, pieces), tuple(self.out_of_flow), open_boxes)

    def line(self, height: LayoutUnit, pieces: tuple[LineContent, ...]) -> Line:
        """The line box, when its height and what is in it are known."""
        strut = self.builder.strut
        return Line(
            self.x,
            self.y,
            self.width,
            height,
            self.y + self.root.baseline,
            self.broken.width,
            pieces,
            strut.leading_ascent,
            strut.leading_descent,
            self.broken.trimmed,
        )

    def alignment(self) -> tuple[LayoutUnit, float]:
        """Where the content begins in the room, and what justification adds at each space."""
        free = max(ZERO, self.width - self.indent - self.broken.width)
        start, justifies = aligned_start(
            self.builder.block, free, ends=self.broken.forced or self.is_last
        )
        if justifies and free:
            spaces = sum(self.spaces(p) for p in self.broken.stretches)
            if spaces:
                return ZERO, free / spaces
        return start, 0.0

    def spaces(self, stretch: Stretch) -> int:
        """How many spaces of a stretch justification may widen."""
        style = stretch.item.style
        kept = style.white_space == "pre" or style.text_justify == "none"
        if kept or stretch.item.kind is not ItemKind.TEXT:
            return 0
        return sum(self.builder.text[i] in " \u00a0" for i in range(stretch.start, stretch.end))

    def stretch(self, stretch: Stretch, expansion: float) -> None:
        """Place one stretch horizontally and let it count for the line's height."""
        kind = stretch.item.kind
        if kind is ItemKind.OPEN:
            self.begin_inside(self.levels[-1])
            self.enter(stretch.item.box, has_left=stretch.item.box.begins_here)
        elif kind is ItemKind.CLOSE:
            self.leave(stretch.item.box)
        elif kind is ItemKind.OUT_OF_FLOW:
            self.static_place(stretch.item)
        elif kind is not ItemKind.FLOAT:
            self.content(stretch, expansion)

    @staticmethod
    def count_face(level: _Level, item: Item) -> None:
        """CSS Inline 3 §5.1: where the line height is normal, a face that letters are taken from counts with its own."""
        if item.face is None or item.style.line_height.kind != "normal":
            return
        metrics = item.face.metrics(item.style.font_size)
        level.subtree.include(*with_leading(metrics, None), level.shift)

    def begin_inside(self, level: _Level) -> None:
        """A box begins in an inline box: in list items of old documents, engines let that count for the line."""
        if level.is_empty and self.builder.quirky and self.builder.in_list_item:
            level.count()

    def content(self, stretch: Stretch, expansion: float) -> None:
        """Text, tab, break or atomic box."""
        level = self.levels[-1]
        mark = _Mark(stretch, self.cursor, level, width=stretch.width)
        if stretch.item.kind is ItemKind.ATOMIC:
            self.begin_inside(level)
            mark.fragment = self.builder.atomic(stretch.item)
            self.align_atomic(mark)
            level.is_empty = False
        elif stretch.end > stretch.start and (level.is_empty or stretch.item.kind is not ItemKind.BREAK):
            level.count()
            if stretch.item.face is not None:
                self.count_face(level, stretch.item)
        if mark.fragment is None and expansion:
            count = self.spaces(stretch)
            mark.expansion = expansion
            mark.width += round(count * expansion)
        mark.slot = len(self.slots)
        self.slots.append(None)
        self.marks.append(mark)
        self.cursor += mark.width

    def enter(self, box: Box, *, has_left: bool) -> None:
        """An inline box begins on this line, or goes on from the one before."""
        parent = self.levels[-1]
        style = box.style
        font = inline_font(style)
        cb_width = self.builder.cb_width
        border, padding = border_and_padding(style, cb_width)
        margin = margins_or_zero(style, cb_width)
        subtree, shift = self.baseline(style, parent, font.leading_ascent, font.leading_descent, style)
        level = _Level(style, font, shift, subtree, box, len(self.slots), ZERO, margin, border, padding)
        level.has_left = has_left
        moved_x, moved_y = self.builder.shift(style)
        level.moved_x, level.moved_y = parent.moved_x + moved_x, parent.moved_y + moved_y
        if not self.builder.quirky or border.across or border.down or padding.across or padding.down:
            level.count()
        self.slots.append(None)
        if has_left:
            self.cursor += margin.left
        level.x = self.cursor
        if has_left:
            self.cursor += border.left + padding.left
        self.levels.append(level)

    def leave(self, box: Box) -> None:
        """An inline box ends on this line."""
        level = self.levels.pop()
        self.levels[-1].is_empty &= level.is_empty
        has_right = box.ends_here
        if has_right:
            self.cursor += level.padding.right + level.border.right
        self.closed.append((level, self.cursor, has_right))
        if has_right:
            self.cursor += level.margin.right

    def break_off(self, level: _Level) -> None:
        """An inline box goes on in the next line; one with edges on every line has its right one here."""
        clones = level.box is not None and _is_cloned(level.box)
        if clones:
            self.cursor += level.padding.right + level.border.right
        self.closed.append((level, self.cursor, clones))
        if clones:
            self.cursor += level.margin.right

    def baseline(
        self,
        style: ComputedStyle,
        parent: _Level,
        ascent: LayoutUnit,
        descent: LayoutUnit,
        own: ComputedStyle,
    ) -> tuple[_Subtree, LayoutUnit]:
        """§10.8.1 vertical-align: the aligned subtree and the shift of the baseline in it."""
        align = style.vertical_align
        if align == "baseline":
            return parent.subtree, parent.shift
        if align in ("top", "bottom"):
            subtree = _Subtree(str(align))
            self.subtrees.append(subtree)
            return subtree, ZERO
        return parent.subtree, parent.shift + _raise(align, parent, ascent, descent, own)

    def align_atomic(self, mark: _Mark) -> None:
        """An atomic box hangs on its level by its own vertical-align; §10.8.1 for its baseline."""
        fragment = mark.fragment
        assert fragment is not None
        style = fragment.box.style
        height = fragment.margin_height
        ascent = atomic_baseline(fragment)
        subtree, shift = self.baseline(style, mark.level, ascent, height - ascent, style)
        subtree.include(ascent, height - ascent, shift)
        level = mark.level
        mark.level = _Level(style, level.font, shift, subtree)
        mark.level.moved_x, mark.level.moved_y = level.moved_x, level.moved_y

    def static_place(self, item: Item) -> None:
        """The static place of an absolute box: CSS Positioned Layout 3 §3.5.1.

        If it was inline, in the line; else where a block would begin: at the container's edge, and below
        the line if anything stands on it already.
        """
        if item.style.flow_display.startswith("inline"):
            self.out_of_flow.append(OutOfFlowCandidate(item.box, self.cursor, self.y, item.containing))
            return
        if self.marks:
            self.below.append(len(self.out_of_flow))
        builder = self.builder
        rtl = builder.block.direction == "rtl"
        x = builder.cb_x + builder.cb_width if rtl else builder.cb_x
        place: Place = "end" if rtl else "start"
        self.out_of_flow.append(OutOfFlowCandidate(item.box, x, self.y, item.containing, place))

    def settle(self) -> LayoutUnit:
        """The height of the line box, with boxes aligned to its top and bottom; §10.8."""
        root = self.root
        if not self.broken.has_content:
            root.baseline = root.ascent = ZERO
            return ZERO
        for subtree in self.subtrees:
            if subtree.ascent + subtree.descent < 0:  # nothing in it counts, or less than nothing
                subtree.ascent = subtree.descent = ZERO
        for subtree in self.subtrees[1:]:
            missing = subtree.ascent + subtree.descent - root.ascent - root.descent
            if missing > 0 and subtree.align == "top":
                root.descent += missing
            elif missing > 0:
                root.ascent += missing
        height = root.ascent + root.descent
        root.baseline = root.ascent
        for subtree in self.subtrees[1:]:
            top = subtree.align == "top"
            subtree.baseline = subtree.ascent if top else height - subtree.descent
        return height

    def emit(self) -> None:
        """Make the pieces now that all baselines are known."""
        for level, end, has_right in self.closed:
            self.slots[level.slot] = self.inline_piece(level, end, has_right)
        for mark in self.marks:
            baseline = self.y + mark.level.subtree.baseline + mark.level.shift
            if mark.fragment is not None:
                margin = mark.fragment.margin
                top = baseline - atomic_baseline(mark.fragment) + margin.top
                own_x, own_y = self.builder.shift(mark.fragment.box.style)
                placed = Placed(
                    mark.fragment,
                    mark.x + margin.left,
                    top,
                    own_x + mark.level.moved_x,
                    own_y + mark.level.moved_y,
                )
                self.slots[mark.slot] = placed
                self.out_of_flow += candidates_inside(placed, mark.stretch.item)
            else:
                level = mark.level
                self.slots[mark.slot] = self.text_piece(
                    mark.stretch,
                    mark.x + level.moved_x,
                    mark.width,
                    baseline + level.moved_y,
                    mark.expansion,
                )

    def inline_piece(self, level: _Level, end: LayoutUnit, has_right: bool) -> InlinePiece:
        """The piece of an inline box on this line; vertical padding and border push nothing.

        On a line that is treated as not there (CSS 2.2 §9.4.2) it has no height.
        """
        assert level.box is not None
        border, padding, font = level.border, level.padding, level.font
        baseline = self.y + level.subtree.baseline + level.shift
        above = font.ascent + padding.top + border.top
        below = font.descent + padding.bottom + border.bottom
        if not self.broken.has_content:
            baseline, above, below = self.y, ZERO, ZERO
            border = padding = NO_EDGES
        return InlinePiece(
            level.box,
            level.x + level.moved_x,
            baseline - above + level.moved_y,
            max(ZERO, end - level.x),
            above + below,
            level.margin,
            border,
            padding,
            level.has_left,
            has_right,
        )

    def text_piece(
        self,
        stretch: Stretch,
        x: LayoutUnit,
        width: LayoutUnit,
        baseline: LayoutUnit,
        expansion: float,
    ) -> TextPiece:
        """The text of one stretch with its glyphs, on its baseline."""
        item = stretch.item
        font = inline_font(item.style)
        return TextPiece(
            item.box,
            x,
            baseline - font.ascent,
            width,
            font.ascent + font.descent,
            baseline,
            self.builder.text[stretch.start : stretch.end].rstrip("\n"),
            item.run,
            stretch.start - item.base,
            stretch.end - item.base,
            expansion,
            item.scale,
            stretch.hyphen,
        )


def _is_cloned(box: Box) -> bool:
    """Whether an inline box has its edges on every line: CSS Break 4 §5.1."""
    return box.style.box_decoration_break == "clone"


def _raise(
    align: object, parent: _Level, ascent: LayoutUnit, descent: LayoutUnit, own: ComputedStyle
) -> LayoutUnit:
    """How far a box is lowered against its parent's baseline (negative: raised)."""
    font = parent.font
    size = from_px(parent.style.font_size)
    if align == "sub":
        return size // 5 + 64
    if align == "super":
        return -(size // 3 + 64)
    if align == "middle":
        half_x = int(font.x_height / 2 * 64 + 0.5)
        return (ascent - descent) // 2 - half_x
    if align == "text-top":
        return ascent - font.ascent
    if align == "text-bottom":
        return font.descent - descent
    own_font = inline_font(own)
    line_height = own_font.leading_ascent + own_font.leading_descent
    value = own.vertical_align
    return ZERO if isinstance(value, str) else -value.resolve(line_height)


def candidates_inside(placed: Placed, item: Item) -> list[OutOfFlowCandidate]:
    """The absolute boxes inside a float or atomic box of a line, with the inline box that contains them."""
    return [
        replace(p, containing_inline=p.containing_inline or item.containing) for p in placed.out_of_flow
    ]


_FIRST_BASELINES = (InnerDisplay.TABLE, InnerDisplay.FLEX, InnerDisplay.GRID)


def atomic_baseline(fragment: Fragment) -> LayoutUnit:
    """The baseline of an atomic box from the top of its margin box: §10.8.1, last paragraph.

    That of a table, a flex or a grid container is its first one (§17.5.3, CSS Align 3 §9.1). A button without text
    stands on the lower edge of its content box, as in engines.
    """
    style = fragment.box.style
    if fragment.box.inner in _FIRST_BASELINES:
        found = fragment.first_baseline
        return fragment.margin_height if found is None else fragment.margin.top + found
    if is_button(fragment.box.element):
        below = fragment.border.bottom + fragment.padding.bottom
        found = fragment.last_baseline
        return fragment.margin.top + (fragment.height - below if found is None else found)
    clips = style.overflow_x != "visible" or style.overflow_y != "visible"
    if fragment.last_baseline is None or (clips and fragment.box.intrinsic is None):
        return fragment.margin_height
    return fragment.margin.top + fragment.last_baseline
