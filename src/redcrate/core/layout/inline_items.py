"""The content of a block container's lines, flattened: CSS Text 3 §4 and §5, CSS 2.2 §9.2.2.

Inline boxes become opening and closing items, text is transformed and its white space collapsed
across the edges of inline boxes, and what shapes together becomes one run.
"""

import re
from collections.abc import Iterator
from enum import Enum
from functools import lru_cache
from itertools import groupby

from redcrate.core.boxes.box import Box, BoxKind
from redcrate.core.layout import accounts
from redcrate.core.layout.text_alignment import justifies, needs_ends
from redcrate.core.records import dataclass
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.text.breaks import NON_STARTERS, OBJECT, SMALL_KANA, SOFT_HYPHEN, break_opportunities
from redcrate.core.text.cuts import Cuts, cuts_between
from redcrate.core.text.fonts import FontFace, shaping_size
from redcrate.core.text.inline_fonts import features_of, inline_font
from redcrate.core.text.letters import by_face, is_whole
from redcrate.core.text.shaping import ShapedRun, shape
from redcrate.core.units import ZERO, LayoutUnit, ceil_from_px

_WORD = "\\w\u00ad\u0300-\u036f"  # marks and soft hyphens stay with the letter before
_ALONE = "\u2e80-\u9fff\uac00-\ud7af"  # ideographs and kana: what follows them begins a word
# A word begins at a letter; apostrophes and middle dots between two letters are inside of one (UAX #29).
_WORD_START = re.compile(rf"(?<![{_WORD}])(?<![{_WORD}]['\u2019\u00b7])\w|(?<=[{_ALONE}])\w")
_WHITE_RUN = re.compile(r"[ \t\n\r\f]+")
_PRE_LINE = re.compile(r"[ \t\r\f]*\n[ \t\r\f]*")
_SPACES = re.compile(r"[ \t\r\f]+")
KEEPS_SPACES = frozenset(("pre", "pre-wrap", "break-spaces"))
WRAPS = frozenset(("normal", "pre-wrap", "pre-line", "break-spaces"))


_SMALL = 0.7  # of the font size: capitals that stand for small ones (CSS Fonts 4 §6.6.1)
_ALL_SMALL = frozenset(("all-small-caps", "all-petite-caps"))
_LETTERS_SMALL = frozenset(("small-caps", "petite-caps"))


class ItemKind(Enum):
    """What an item is."""

    __hash__ = object.__hash__  # what is to be done is looked up for each item

    TEXT = "text"
    OPEN = "open"
    CLOSE = "close"
    ATOMIC = "atomic"
    FLOAT = "float"
    OUT_OF_FLOW = "out of flow"
    BREAK = "forced break"
    TAB = "tab"


class Item:
    """One item; start and end count in the content's text."""

    __slots__ = (
        "base",
        "box",
        "cuts",
        "edge",
        "end",
        "ends_exactly",
        "extra",
        "face",
        "face_size",
        "is_plain",
        "kind",
        "positioned",
        "run",
        "scale",
        "start",
        "style",
        "wraps",
    )

    def __init__(self, kind: ItemKind, box: Box, style: ComputedStyle, start: int, end: int) -> None:
        self.kind = kind
        self.box = box
        self.style = style
        self.start = start
        self.end = end
        self.wraps = style.white_space in WRAPS and style.text_wrap_mode == "wrap"
        self.run: ShapedRun | None = None
        self.base = 0  # the offset in the content's text at which the run begins
        self.face_size = 0.0
        self.scale = 1.0  # of the font size
        self.face: FontFace | None = None  # where its letters are not those of the first family
        self.ends_exactly = False  # also in front of a space, as one sees where it ends
        self.extra = bool(style.letter_spacing or style.word_spacing)
        self.is_plain = False  # any piece of it is as wide as its advances say
        self.cuts: Cuts | None = None  # where it is plain, once they were asked for
        self.edge: LayoutUnit | None = None  # an inline box's own, where no width changes it
        self.positioned: tuple[Box, ...] = ()  # the positioned inline boxes around, the outermost first

    @property
    def containing(self) -> Box | None:
        """The inline box that contains absolute boxes here: CSS 2.2 §10.1."""
        return self.positioned[-1] if self.positioned else None

    def width(self, start: int, end: int, text: str) -> LayoutUnit:
        """The width of a piece of a text item, 1/64 px, rounded up."""
        run = self.run
        if run is None or start >= end:
            return ZERO
        sums = run.sums
        px = (sums[end - self.base] - sums[start - self.base]) * self.face_size / run.face.upem
        if self.extra:
            px += self._spacing(start, end, text)
        return ceil_from_px(px)

    def last_width(self, start: int, end: int, text: str) -> LayoutUnit:
        """The same of a piece behind which the line ends: its last letter is not drawn up to what follows.

        In front of a space engines leave that be where it makes no difference to the eye.
        """
        run = self.run
        if run is None or start >= end:
            return ZERO
        more = run.at_ends.get(end - self.base, 0)
        if not more or (not self.ends_exactly and text[end : end + 1] == " "):
            return self.width(start, end, text)
        advance = run.sums[end - self.base] - run.sums[start - self.base] + more
        return ceil_from_px(advance * self.face_size / run.face.upem + self._spacing(start, end, text))

    def _spacing(self, start: int, end: int, text: str) -> float:
        """What letter and word spacing add to a piece, px."""
        px = self.style.letter_spacing * _spaced(text, start, end)
        if self.style.word_spacing:
            px += self.style.word_spacing * sum(text[i] in " \u00a0" for i in range(start, end))
        return px

    def advance_in(self, room: LayoutUnit, start: int) -> float:
        """How far its run has advanced, font units, where a line from `start` has used up a room of 1/64 px, about."""
        run = self.run
        assert run is not None
        return run.sums[start - self.base] + room * run.face.upem / (64 * self.face_size)

    def reaches(self, end: int, room: LayoutUnit, start: int) -> bool:
        """Whether a line from `start` has that room for its text up to `end`, about."""
        run = self.run
        assert run is not None
        px = (run.sums[end - self.base] - run.sums[start - self.base]) * self.face_size / run.face.upem
        return px * 64 <= room


@dataclass(frozen=True, slots=True, eq=False, repr=False)
class InlineContent:
    """All items of a block container's lines.

    breaks: the offsets at which a line may begin, ascending. has_lines: whether any line box will exist
    (CSS 2.2 §9.4.2).
    tab_stop: the distance of tab stops; 0 where there is no tab. may_be_plain: whether lines can hold one text alone and
    be as all others: none begins further in, is justified, or meets a float. clones: whether an inline box has its
    edges on every line (CSS Break 4 §5.1).
    """

    text: str
    items: tuple[Item, ...]
    breaks: tuple[int, ...]
    has_lines: bool
    has_floats: bool
    tab_stop: LayoutUnit
    may_be_plain: bool
    clones: bool

    def cuts_in(self, item: Item) -> Cuts | None:
        """Where a text may end a line; None where its advances alone do not tell what fits."""
        if item.cuts is None and item.is_plain and item.run is not None:
            run = item.run
            at_ends = run.at_ends
            if at_ends and not item.ends_exactly:
                at_ends = {at: more for at, more in at_ends.items() if run.text[at : at + 1] != " "}
            item.cuts = cuts_between(
                self.text, self.breaks, item.start, item.end, item.base, run.sums, at_ends
            )
            item.is_plain = item.cuts is not None
        return item.cuts


# CSS Text 3 §8.2: letter spacing is for typographic characters; these are none.
_NO_CHARACTER = re.compile("[\u200b-\u200f\u2060-\u2064\ufeff]")


def _spaced(text: str, start: int, end: int) -> int:
    """How many characters of a piece of text have letter spacing."""
    return end - start - len(_NO_CHARACTER.findall(text, start, end))


def tab_stop(style: ComputedStyle) -> LayoutUnit:
    """The distance of tab stops in a block container, 1/64 px: a length, or so many spaces (CSS Text 3 §4.2).

    Spaces are those of the block container, with the spacing that it gives them.
    """
    kind, value = style.tab_size
    space = inline_font(style).space + style.letter_spacing + style.word_spacing
    return ceil_from_px(value * space if kind == "spaces" else value)


def _may_be_plain(block: ComputedStyle) -> bool:
    """Whether lines of a block begin where it does, and are not justified."""
    font = inline_font(block)
    is_high = font.leading_ascent + font.leading_descent >= 0
    even = block.text_wrap_style == "balance"
    return is_high and not even and accounts.PLAIN_BLOCK.covers(block) and not justifies(block)


def inline_content(box: Box) -> InlineContent:
    """The items of a block container that holds lines; ask the layout cache for what it keeps."""
    return _Collector(box).collect()


class _Collector:
    """Walks the inline boxes and collects items."""

    def __init__(self, block: Box) -> None:
        self.block = block
        self.items: list[Item] = []
        self.texts: list[str] = []
        self.length = 0
        self.space_pending = True  # a collapsible space here would be dropped
        self.has_lines = False
        self.has_floats = False
        self.new_word = True
        self.positioned: list[Box] = []  # the open inline boxes that contain absolute boxes
        self.decorated = 0  # how many of the open inline boxes have lines along their text
        style = block.style
        self.ends_exactly = bool(style.text_decoration_line) or needs_ends(style)

    def collect(self) -> InlineContent:
        """All items, shaped."""
        stack: list[tuple[Box, bool]] = [(c, False) for c in reversed(self.block.children)]
        while stack:
            box, closing = stack.pop()
            if closing:
                self.add(ItemKind.CLOSE, box, box.style)
                if self.positioned and self.positioned[-1] is box:
                    self.positioned.pop()
                self.decorated -= bool(box.style.text_decoration_line)
            elif box.kind is BoxKind.INLINE:
                self.open(box)
                stack.append((box, True))
                stack.extend((c, False) for c in reversed(box.children))
            else:
                self.leaf(box)
        self.drop_space_at_end()
        text = "".join(self.texts)
        self.shape_runs(text)
        breaks = self.breaks(text)
        stop = tab_stop(self.block.style) if "\t" in text else ZERO
        plain = self.has_lines and not self.has_floats and _may_be_plain(self.block.style)
        items = tuple(self.items)
        clones = any(i.style.box_decoration_break == "clone" for i in items)
        return InlineContent(text, items, breaks, self.has_lines, self.has_floats, stop, plain, clones)

    def add(self, kind: ItemKind, box: Box, style: ComputedStyle, text: str = "") -> Item:
        """Append an item with its text."""
        item = Item(kind, box, style, self.length, self.length + len(text))
        if self.positioned:
            item.positioned = tuple(self.positioned)
        item.ends_exactly = self.ends_exactly or self.decorated > 0 or _has_border(style)
        self.items.append(item)
        if text:
            self.texts.append(text)
            self.length += len(text)
        return item

    def open(self, box: Box) -> None:
        """An inline box begins; one with an edge of its own makes a line exist."""
        self.add(ItemKind.OPEN, box, box.style)
        if box.style.position != "static":
            self.positioned.append(box)
        self.decorated += bool(box.style.text_decoration_line)
        if has_edge(box):
            self.has_lines = True

    def leaf(self, box: Box) -> None:
        """A text, break, atomic, float or absolute box."""
        if box.kind is BoxKind.TEXT:
            self.text(box)
        elif box.kind is BoxKind.BREAK:
            self.forced_break(box, box.style)
        elif box.is_out_of_flow:
            self.add(ItemKind.OUT_OF_FLOW, box, box.style)
        elif box.is_float:
            self.has_floats = True
            self.add(ItemKind.FLOAT, box, box.style)
        else:
            self.add(ItemKind.ATOMIC, box, box.style, OBJECT)
            self.space_pending = False
            self.has_lines = True

    def forced_break(self, box: Box, style: ComputedStyle) -> None:
        """A line ends here; white space after it is at a line's beginning."""
        self.drop_space_at_end()
        self.add(ItemKind.BREAK, box, style, "\n")
        self.space_pending = True
        self.has_lines = True

    def drop_space_at_end(self) -> None:
        """CSS Text 3 §4.1.2: a collapsible space at the end of a line is none, for the letter before it too."""
        for at in range(len(self.items) - 1, -1, -1):
            item = self.items[at]
            if item.kind is ItemKind.TEXT:
                if self.texts[-1].endswith(" ") and item.style.white_space not in KEEPS_SPACES:
                    self._shorten(at, item)
                return
            if item.end > item.start:
                return

    def _shorten(self, at: int, item: Item) -> None:
        self.texts[-1] = self.texts[-1][:-1]
        self.length -= 1
        item.end -= 1
        for behind in self.items[at + 1 :]:
            behind.start -= 1
            behind.end -= 1
        if item.start == item.end:
            del self.items[at], self.texts[-1]

    def text(self, box: Box) -> None:
        """A text box: transformed, collapsed, and cut at preserved breaks and tabs."""
        mode = box.style.white_space
        text = self.transformed(box.text, box.style.text_transform)
        if mode in KEEPS_SPACES:
            self.preserved(box, text.replace("\r\n", "\n").replace("\r", "\n"))
        elif mode == "pre-line":
            text = _PRE_LINE.sub("\n", text)
            lines = _SPACES.sub(" ", text).split("\n")
            for i, line in enumerate(lines):
                if i:
                    self.forced_break(box, box.style)
                self.collapsible(box, line)
        else:
            self.collapsible(box, _WHITE_RUN.sub(" ", text))

    def collapsible(self, box: Box, text: str) -> None:
        """CSS Text 3 §4.1.1: a space that follows a collapsible space is dropped."""
        if self.space_pending and text.startswith(" "):
            text = text[1:]
        if not text:
            return
        self.space_pending = text.endswith(" ")
        if text != " " or not self.space_pending:
            self.has_lines = True
        self.letters(box, text)

    def preserved(self, box: Box, text: str) -> None:
        """White space that is kept: newlines force breaks, tabs go to the next stop."""
        for piece in re.split(r"(\n|\t)", text):
            if piece == "\n":
                self.forced_break(box, box.style)
                self.space_pending = False
            elif piece == "\t":
                self.add(ItemKind.TAB, box, box.style, "\t")
                self.has_lines = True
            elif piece:
                self.letters(box, piece)
                self.has_lines = True
        self.space_pending = text.endswith("\n")

    def letters(self, box: Box, text: str) -> None:
        """Text as items; where small capitals are asked for, each run of these is one of its own."""
        style = box.style
        if text.isascii() and _is_of_one_face(style):
            self.add(ItemKind.TEXT, box, style, text)
            return
        fonts = style.font_family, style.font_weight, style.font_style
        caps = style.font_variant_caps
        for piece, scale in [(text, 1.0)] if caps == "normal" else _small_capitals(text, caps):
            for part, face in by_face(piece, *fonts):
                item = self.add(ItemKind.TEXT, box, style, part)
                item.scale, item.face = scale, face

    def transformed(self, text: str, transform: str) -> str:
        """text-transform: CSS Text 3 §2.1."""
        if transform == "uppercase":
            return text.upper()
        if transform == "lowercase":
            return text.lower()
        if transform == "capitalize":
            before = self.texts[-1][-1:] if self.texts else ""
            return _WORD_START.sub(lambda m: _title(m[0]), before + text)[len(before) :]
        return text

    def shape_runs(self, text: str) -> None:
        """Shape text of one font as one run, across edges of inline boxes that take no room."""
        run: list[Item] = []
        for item in [*self.items, None]:
            if item is not None and item.kind is ItemKind.TEXT:
                if run and not self._same_font(run[0], item):
                    _shape(run, text)
                    run = []
                run.append(item)
            elif item is None or not _lets_shaping_through(item):
                _shape(run, text)
                run = []

    def _same_font(self, one: Item, other: Item) -> bool:
        """Whether two texts are of one font and stand at one height."""
        if one.scale != other.scale or one.face is not other.face:
            return False
        return self._height_of(one) == self._height_of(other) and _fonts_alike(one.style, other.style)

    def _height_of(self, item: Item) -> object:
        """How far up or down a text is moved; that of a cell says where its content goes, not its text."""
        return "baseline" if item.style is self.block.style else item.style.vertical_align

    def breaks(self, text: str) -> tuple[int, ...]:
        """The break opportunities that the white-space and word-break of the text allow."""
        if not self.has_lines:
            return ()
        found = break_opportunities(text)
        plain = all(_breaks_as_usual(i, text) for i in self.items if i.end > i.start)
        if plain and self.block.style.white_space in WRAPS:
            return found
        allowed = set(found)
        before: Item | None = None
        for item in self.items:
            if item.end == item.start:
                continue
            if item.kind is ItemKind.TEXT:
                allowed.update(_everywhere(item, before, text))
                _by_strictness(item, text, allowed)
                if item.style.hyphens == "none":
                    soft = (i for i in range(item.start, item.end) if text[i] == SOFT_HYPHEN)
                    allowed.difference_update(i + 1 for i in soft)
            before = item
            wraps = item.wraps
            if item.kind is ItemKind.ATOMIC:
                wraps = self.block.style.white_space in WRAPS
            if not wraps:
                allowed.difference_update(range(item.start + 1, item.end + 1))
        return tuple(sorted(allowed))


@lru_cache(maxsize=5_000)
def _is_of_one_face(style: ComputedStyle) -> bool:
    """Whether all letters of ASCII are set in one face and one size."""
    fonts = style.font_family, style.font_weight, style.font_style
    return style.font_variant_caps == "normal" and is_whole(*fonts)


@lru_cache(maxsize=5_000)
def _has_border(style: ComputedStyle) -> bool:
    """Whether one sees where an inline box begins and ends."""
    sides = style.border_top_width, style.border_right_width, style.border_bottom_width
    return any(sides) or bool(style.border_left_width)


def _breaks_as_usual(item: Item, text: str) -> bool:
    """Whether an item breaks where UAX #14 lets it, and nowhere else."""
    style = item.style
    return (
        item.wraps
        and style.word_break in ("normal", "break-word")
        and style.line_break in ("auto", "normal")
        and style.white_space != "break-spaces"
        and (style.hyphens != "none" or SOFT_HYPHEN not in text)
        and accounts.ON_LINES.covers(style)
    )


def _small_capitals(text: str, caps: str) -> Iterator[tuple[str, float]]:
    """CSS Fonts 4 §6.6.1: the runs of a text and the scale of each; small letters become small capitals."""
    if caps in _ALL_SMALL:
        yield "".join(_capital(c) for c in text), _SMALL
        return
    small = caps in _LETTERS_SMALL
    for is_small, run in groupby(text, lambda c: small and _capital(c) != c):
        yield "".join(_capital(c) if is_small else c for c in run), _SMALL if is_small else 1.0


def _title(char: str) -> str:
    """CSS Text 3 §2.1: the title case of a letter, where it is one character."""
    title = char.title()
    return title if len(title) == 1 else char


def _capital(char: str) -> str:
    """The capital of a letter, where it is one character."""
    upper = char.upper()
    return upper if len(upper) == 1 else char


def _everywhere(item: Item, previous: Item | None, text: str) -> Iterator[int]:
    """The places at which a text may break beyond the usual ones (CSS Text 3 §5.2 and §5.3).

    break-all: between letters, and between the text `previous` that breaks so and what follows it;
    line-break anywhere: at all; break-spaces: after every space.
    """
    style = item.style
    inside = range(item.start + 1, item.end)
    if style.white_space == "break-spaces" and style.text_wrap_mode == "wrap":
        yield from (at for at in (*inside, item.end) if text[at - 1] == " " and at < len(text))
    if style.line_break == "anywhere":
        keeps = style.white_space in KEEPS_SPACES
        for at in (item.start, *inside):
            if at and text[at - 1] != "\n" and (keeps or " " not in text[at - 1 : at + 1]):
                yield at  # a space that collapses ends a line, and never begins one
    elif _breaks_all(previous) and text[item.start - 1].isalnum() and text[item.start] != " ":
        yield item.start
    if style.word_break == "break-all":
        yield from (at for at in inside if text[at] != " ")


def _by_strictness(item: Item, text: str, allowed: set[int]) -> None:
    """CSS Text 3 §5.3: strict keeps small kana with what is before them, loose lets lines begin with more."""
    inside = range(max(1, item.start), item.end)
    if item.style.line_break == "strict":
        allowed.difference_update(i for i in inside if text[i] in SMALL_KANA)
    elif item.style.line_break == "loose":
        allowed.update(i for i in inside if text[i] in NON_STARTERS and not text[i - 1].isspace())


def _breaks_all(item: Item | None) -> bool:
    """Whether a text may break between any two of its letters."""
    return item is not None and item.wraps and item.style.word_break == "break-all"


def _lets_shaping_through(item: Item) -> bool:
    """Whether text before and after the item is shaped together."""
    if item.kind not in (ItemKind.OPEN, ItemKind.CLOSE):
        return False
    if item.style.unicode_bidi != "normal":
        return False  # CSS Writing Modes 4 §2.2: as with a mark of direction between them
    return item.style.vertical_align == "baseline" and not _edge(
        item.box, left=item.kind is ItemKind.OPEN
    )


def _edge(box: Box, *, left: bool) -> bool:
    """Whether the inline box has a margin, border or padding on that side."""
    style = box.style
    if left:
        values = (style.margin_left, style.padding_left)
        border = style.border_left_width
    else:
        values = (style.margin_right, style.padding_right)
        border = style.border_right_width
    return border != 0 or any(
        not isinstance(v, str) and (v.has_percent or v.resolve(ZERO) != 0) for v in values
    )


def has_edge(box: Box) -> bool:
    """Whether an inline box has horizontal margin, border or padding: then its line exists."""
    return (box.begins_here and _edge(box, left=True)) or (box.ends_here and _edge(box, left=False))


def _fonts_alike(a: ComputedStyle, b: ComputedStyle) -> bool:
    return a is b or (
        a.font_size == b.font_size
        and a.font_weight == b.font_weight
        and a.font_style == b.font_style
        and a.font_family == b.font_family
        and a.font_variant_caps == b.font_variant_caps
        and a.font_optical_sizing == b.font_optical_sizing
        and a.font_variation_settings == b.font_variation_settings
        and features_of(a) == features_of(b)
    )


def _shape(items: list[Item], text: str) -> None:
    if not items:
        return
    font = inline_font(items[0].style)
    start, end = items[0].start, items[-1].end
    run = shape(items[0].face or font.face, text[start:end], features_of(items[0].style))
    for item in items:
        item.run = run
        item.base = start
        item.face_size = (
            font.shaping_size
            if item.scale == 1.0
            else shaping_size(float(int(font.size * item.scale + 0.5)))
        )
        item.is_plain = (
            accounts.PLAIN_TEXT.covers(item.style)
            and item.face is None
            and item.face_size > 0
            and SOFT_HYPHEN not in text
        )
