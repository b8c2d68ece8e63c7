"""Content sizes of block containers: how narrow and how wide they would like to be (CSS 2.2 §10.3.5).

min-content: the widest piece that cannot be broken. max-content: the widest line when only forced
breaks break. A box contributes its margin box to its container. Percentages count as 0 or auto here,
since their base is not known yet (CSS Box Sizing 3 §5.2).
"""

from redcrate.core.boxes.box import Box, BoxKind, InnerDisplay
from redcrate.core.layout.contexts import LayoutRun
from redcrate.core.layout.edges import margin_or_zero
from redcrate.core.layout.fragments import ContentSizes
from redcrate.core.layout.inline_items import InlineContent, Item, ItemKind
from redcrate.core.layout.line_breaking import edge_width
from redcrate.core.layout.ratios import RatioWidth, ratio_width
from redcrate.core.layout.squeezing import field_squeezes
from redcrate.core.layout.table.kept import used_edges
from redcrate.core.records import dataclass
from redcrate.core.style.values import NO_LENGTH, SizeValue
from redcrate.core.text.breaks import SOFT_HYPHEN
from redcrate.core.text.inline_fonts import hyphen_width
from redcrate.core.units import ZERO, LayoutUnit


def _definite(value: SizeValue) -> LayoutUnit | None:
    if isinstance(value, NO_LENGTH) or value.has_percent:
        return None
    return max(ZERO, value.resolve(ZERO))


def contributions(run: LayoutRun, box: Box) -> ContentSizes:
    """The min-content and max-content contribution of a box to its container: margin box widths."""
    style = box.style
    border, padding = used_edges(run.cache, box, ZERO)
    extra = border.across + padding.across
    inset = extra if style.box_sizing == "border-box" else ZERO
    ratio = ratio_width(style, None, extra, border.down + padding.down)
    sizes = _limited(run, box, _specified(run, box, inset, ratio), inset, ratio)
    margins = margin_or_zero(style.margin_left, ZERO) + margin_or_zero(style.margin_right, ZERO)
    return ContentSizes(
        max(ZERO, sizes.min_content + extra + margins), max(ZERO, sizes.max_content + extra + margins)
    )


def _specified(run: LayoutRun, box: Box, inset: LayoutUnit, ratio: RatioWidth | None) -> ContentSizes:
    """What the width of a box makes of its content sizes."""
    width = box.style.width
    length = _definite(width)
    if box.kind is BoxKind.REPLACED:
        return run.content_sizes(box)
    if length is not None and box.inner is InnerDisplay.TABLE:  # no narrower than its columns (§17.5.2)
        return _both(max(run.content_sizes(box).min_content, length - inset))
    if length is not None:
        return _both(max(ZERO, length - inset))
    sizes = run.content_sizes(box)
    if ratio is not None and width == "auto":
        of_both = [ratio.of_auto(size, sizes) for size in sizes]
        return ContentSizes(*(s if r is None else r[0] for s, r in zip(sizes, of_both, strict=True)))
    sizes = _asked(run, box, ratio)
    if field_squeezes(box):
        return ContentSizes(ZERO, sizes.max_content)
    if width == "min-content":
        return _both(sizes.min_content)
    return _both(sizes.max_content) if width == "max-content" else sizes


def _asked(run: LayoutRun, box: Box, ratio: RatioWidth | None) -> ContentSizes:
    """What sizes from content mean: with a ratio and a definite height the width that these make."""
    if ratio is None or ratio.given is None:
        return run.content_sizes(box)
    return _both(ratio.given)


def _both(size: LayoutUnit) -> ContentSizes:
    return ContentSizes(size, size)


def _limited(
    run: LayoutRun, box: Box, sizes: ContentSizes, inset: LayoutUnit, ratio: RatioWidth | None
) -> ContentSizes:
    most = _limits_of(run, box, box.style.max_width, inset, ratio)
    least = _limits_of(run, box, box.style.min_width, inset, ratio)
    if most is not None:
        sizes = ContentSizes(min(sizes[0], most[0]), min(sizes[1], most[1]))
    if least is not None:
        sizes = ContentSizes(max(sizes[0], least[0]), max(sizes[1], least[1]))
    return sizes


def _limits_of(
    run: LayoutRun, box: Box, value: SizeValue, inset: LayoutUnit, ratio: RatioWidth | None
) -> ContentSizes | None:
    """What a limit makes of the two sizes: a length both alike, sizes from content each its own."""
    length = _definite(value)
    if length is not None:
        return _both(max(ZERO, length - inset))
    if value == "min-content":
        return _both(_asked(run, box, ratio).min_content)
    if value == "max-content":
        return _both(_asked(run, box, ratio).max_content)
    return _asked(run, box, ratio) if value == "fit-content" else None


@dataclass(slots=True)
class _Floats:
    """Floats that stand beside each other at the place reached."""

    left: LayoutUnit = ZERO
    right: LayoutUnit = ZERO

    def clear(self, which: str) -> None:
        """Drop the floats that `which` clears."""
        if which in ("left", "both"):
            self.left = ZERO
        if which in ("right", "both"):
            self.right = ZERO

    def add(self, box: Box, width: LayoutUnit) -> None:
        """One more float."""
        if box.style.float_ == "left":
            self.left += width
        else:
            self.right += width

    @property
    def both(self) -> LayoutUnit:
        """Their widths together."""
        return self.left + self.right


def of_blocks(run: LayoutRun, box: Box) -> ContentSizes:
    """Block-level children: the widest; floats count side by side."""
    smallest = largest = ZERO
    floats = _Floats()
    for child in box.children:
        if child.is_out_of_flow:
            continue
        if child.style.clear != "none":
            largest = max(largest, floats.both)
            floats.clear(child.style.clear)
        sizes = contributions(run, child)
        smallest = max(smallest, sizes[0])
        if child.is_float:
            floats.add(child, sizes[1])
            continue
        beside = floats.both if child.establishes_bfc or child.children_inline else ZERO
        largest = max(largest, sizes[1] + beside, floats.both)
        floats = _Floats()
    return ContentSizes(smallest, max(largest, floats.both, smallest))


def of_lines(run: LayoutRun, box: Box, content: InlineContent) -> ContentSizes:
    """Lines: pieces between break opportunities, and whole lines between forced breaks."""
    return _LineSizes(run, content, box).measure()


class _LineSizes:
    """One walk over the items of lines.

    piece, line: what was gathered since the last break opportunity, and since the last forced break.
    Spaces at their ends wait in piece_space and line_space: at the end of a line they take no room.
    """

    def __init__(self, run: LayoutRun, content: InlineContent, box: Box) -> None:
        self.run = run
        self.content = content
        self.breaks = set(content.breaks)
        self.smallest: LayoutUnit = ZERO
        self.largest: LayoutUnit = ZERO
        self.piece: LayoutUnit = ZERO
        self.piece_space: LayoutUnit = ZERO
        self.line: LayoutUnit = ZERO
        self.line_space: LayoutUnit = ZERO
        self.hangs = False  # the spaces that wait are preserved ones, which hang
        self.floats = _Floats()
        indent = box.style.text_indent
        self.indent: LayoutUnit = ZERO if indent.hanging else indent.length.resolve(ZERO)
        self.indents_each = indent.each_line
        self.piece = self.line = self.indent

    def measure(self) -> ContentSizes:
        """Both sizes."""
        for item in self.content.items:
            if item.kind is ItemKind.TEXT:
                self.text(item)
            elif item.kind is ItemKind.ATOMIC:
                self.atomic(item)
            elif item.kind in (ItemKind.OPEN, ItemKind.CLOSE):
                width = edge_width(item, ZERO)
                self.piece += width
                self.line += width
            elif item.kind is ItemKind.FLOAT:
                self.float(item)
            elif item.kind is ItemKind.BREAK:
                self.end_line()
            elif item.kind is ItemKind.TAB:
                self.tab(item)
        self.end_line()
        return ContentSizes(max(ZERO, self.smallest), max(ZERO, self.largest, self.smallest))

    def take(self, piece: LayoutUnit, line: LayoutUnit) -> None:
        """Something that is no space: the spaces in front of it take room after all."""
        self.piece += self.piece_space + piece
        self.line += self.line_space + line
        self.piece_space = self.line_space = ZERO

    def end_piece(self) -> None:
        """A break opportunity."""
        self.smallest = max(self.smallest, self.piece)
        self.piece = self.piece_space = ZERO

    def end_line(self) -> None:
        """A forced break, or the end; preserved spaces there count for the wider size (Text 3 §4.1.2)."""
        self.end_piece()
        kept = self.line_space if self.hangs else 0
        self.largest = max(self.largest, self.line + kept + self.floats.both)
        self.line = self.line_space = ZERO
        if self.indents_each:
            self.piece = self.line = self.indent
        self.floats = _Floats()

    def text(self, item: Item) -> None:
        """A text item in its pieces."""
        text, start = self.content.text, item.start
        anywhere = item.wraps and (
            item.style.overflow_wrap == "anywhere" or item.style.word_break == "break-word"
        )
        keeps = item.style.white_space in ("pre", "break-spaces")
        self.hangs = item.style.white_space == "pre-wrap"
        last = item.start
        for cut in [b for b in self.content.breaks if start < b < item.end] + [item.end]:
            end = cut
            while end > start and text[end - 1] == " " and not keeps:
                end -= 1
            if end > start:
                hyphen = hyphen_width(item.style) if text[cut - 1] == SOFT_HYPHEN else 0
                before = self.piece + self.piece_space
                ends = end < cut or cut in self.breaks
                self.take((item.last_width if ends else item.width)(start, end, text), ZERO)
                if anywhere:
                    widest = max(item.last_width(i, i + 1, text) for i in range(start, end))
                    self.piece = max(before, widest)
                last = end
                if hyphen and cut in self.breaks:
                    self.smallest = max(self.smallest, self.piece + hyphen)
            self.piece_space += item.width(start, cut, text) - item.width(start, end, text)
            if cut in self.breaks:
                self.end_piece()
            start = cut
        shown = item.width(item.start, last, text)  # rounded once, as it stands on one line
        self.line += shown
        self.line_space += item.width(item.start, item.end, text) - shown

    def tab(self, item: Item) -> None:
        """A preserved tab goes to the next stop: CSS Text 3 §4.2."""
        self.take(ZERO, ZERO)
        stop = self.content.tab_stop
        width = stop - self.line % stop if stop > 0 else ZERO
        self.take(width, width)
        if item.end in self.breaks:
            self.end_piece()

    def atomic(self, item: Item) -> None:
        """An inline-block or image."""
        sizes = contributions(self.run, item.box)
        if item.start in self.breaks:
            self.end_piece()
        self.take(*sizes)
        if item.end in self.breaks:
            self.end_piece()

    def float(self, item: Item) -> None:
        """A float stands beside the line."""
        sizes = contributions(self.run, item.box)
        self.smallest = max(self.smallest, sizes[0])
        if item.style.clear != "none":
            self.largest = max(self.largest, self.floats.both)
            self.floats.clear(item.style.clear)
        self.floats.add(item.box, sizes[1])
