"""What layout makes: fragments with used values and places relative to their parent.

All places count from the top left of the parent's border box, in 1/64 px; nothing here is changed
after it was made, so a fragment can be used again wherever its box meets the same constraints.
"""

from dataclasses import replace
from enum import Enum
from typing import Literal, NamedTuple, TypeAlias

from redcrate.core.boxes.box import Box
from redcrate.core.geometry import Edges, Rect
from redcrate.core.layout.alignment import Place
from redcrate.core.layout.fieldset_facts import FieldsetFacts
from redcrate.core.layout.flex_facts import FlexFacts
from redcrate.core.layout.grid_facts import GridFacts
from redcrate.core.layout.margins import NO_MARGINS, MarginGroup, MarginSet
from redcrate.core.layout.table_facts import TableFacts
from redcrate.core.records import dataclass
from redcrate.core.text.shaping import ShapedRun
from redcrate.core.units import ZERO, LayoutUnit

# Which limit took over; "" for none.
WidthLimit: TypeAlias = Literal["", "min-width", "max-width"]
HeightLimit: TypeAlias = Literal["", "min-height", "max-height"]
# What an auto height came from; "" where it did not count.
HeightSource: TypeAlias = Literal[
    "", "lines", "even lines", "shown lines", "children", "floats", "nothing", "contained"
]


# What formatting contexts keep of how they shared their room.
Facts: TypeAlias = FieldsetFacts | FlexFacts | GridFacts | TableFacts


class SizeReason(Enum):
    """Why a content width or height is what it is."""

    __hash__ = object.__hash__  # members are equal only to themselves; spaces with them are keys

    SPECIFIED = "a length"
    PERCENT = "a percentage of the containing block"
    FILL = "auto: fills the containing block"
    SHRINK_TO_FIT = "auto: shrink-to-fit"
    MIN_CONTENT = "min-content"
    MAX_CONTENT = "max-content"
    FIT_CONTENT = "fit-content"
    FIELD = "auto: the default width of this field"
    INTRINSIC = "the size of the image"
    RATIO = "the other size times the ratio"
    RATIO_LIMIT = "a limit of the height times the ratio"
    RATIO_CONTENT = "the content, which needs more than the ratio gives"
    CONTENT = "auto: as high as the content"
    STRETCH = "auto between two offsets"
    FLEXED = "its share of a flex line"
    LINE = "stretched to its flex line"
    AREA = "stretched to its grid area"
    COLUMNS = "as wide as its columns"
    ROWS = "as high as its rows"
    VIEWPORT = "the viewport"
    INLINE = "an inline element is as large as its text"
    PERCENT_OF_NOTHING = "a percentage of an auto height, which counts as auto"


class MarginReason(Enum):
    """Why the side margins are what they are."""

    SPECIFIED = "specified"
    AUTO_SPLIT = "both auto: half of the free width each"
    AUTO_LEFT = "the left margin is auto: all of the free width"
    AUTO_RIGHT = "the right margin is auto: all of the free width"
    AUTO_ZERO = "auto counts as 0 here"
    OVER_CONSTRAINED_RIGHT = "over-constrained: the right margin adapts"
    OVER_CONSTRAINED_LEFT = "over-constrained: the left margin adapts"
    ALIGNED = "an align attribute around it moves it"
    JUSTIFIED = "justify-self moves it"
    TOO_WIDE = "auto counts as 0: no width is free"


class ContentSizes(NamedTuple):
    """How narrow and how wide content would like to be: CSS 2.2 §10.3.5, CSS Box Sizing 3 §5; 1/64 px."""

    min_content: LayoutUnit
    max_content: LayoutUnit


@dataclass(frozen=True, slots=True)
class Across:
    """The used widths of a box and why: CSS 2.2 §10.3 and §10.4.

    content: used content width. margins: as specified where they are over-constrained; what is then
    left of the containing block (negative: over) is `rest`. basis: width of the containing block.
    tentative: the width before min-width and max-width. limit: "min-width" or "max-width" where one
    took over. fit: preferred minimum, preferred and available width where it was shrunk to fit.
    """

    content: LayoutUnit
    margin_left: LayoutUnit
    margin_right: LayoutUnit
    basis: LayoutUnit
    reason: SizeReason
    margin_reason: MarginReason = MarginReason.SPECIFIED
    tentative: LayoutUnit = ZERO
    limit: WidthLimit = ""
    fit: tuple[LayoutUnit, LayoutUnit, LayoutUnit] | None = None
    rest: LayoutUnit = ZERO

    @property
    def start(self) -> LayoutUnit:
        """Where the border box begins in the containing block: in rtl the left margin gives."""
        gives = self.margin_reason is MarginReason.OVER_CONSTRAINED_LEFT
        return self.margin_left + (self.rest if gives else 0)


@dataclass(frozen=True, slots=True)
class Down:
    """The used height of a box and why: CSS 2.2 §10.6 and §10.7.

    content: used content height. auto_height: what auto gives, or would have given. basis: the
    containing block's height where it is definite. source: what an auto height came from: "lines", the
    "shown lines" of more, "children", "floats", "nothing", "contained" where content does not count, or "".
    """

    content: LayoutUnit
    reason: SizeReason
    auto_height: LayoutUnit = ZERO
    basis: LayoutUnit | None = None
    tentative: LayoutUnit = ZERO
    limit: HeightLimit = ""
    source: HeightSource = ""


@dataclass(frozen=True, slots=True)
class Refusal:
    """A place that a float (or a box beside floats) could not take, and how much was missing.

    x, y: the refused place in the block formatting context. room: the width there was.
    """

    x: LayoutUnit
    y: LayoutUnit
    room: LayoutUnit
    missing: LayoutUnit


@dataclass(frozen=True, slots=True, eq=False)
class TextPiece:
    """A run of text on one line.

    x, y: of the top left of its font box. text: with white space collapsed. run, start, end: the glyphs.
    scale: of the font size at which they stand (small capitals). expansion: what justification adds at
    each space. hyphen: what stands behind it where the line ends inside a word. box: the text box it
    comes from.
    """

    box: Box
    x: LayoutUnit
    y: LayoutUnit
    width: LayoutUnit
    height: LayoutUnit
    baseline: LayoutUnit
    text: str
    run: ShapedRun | None
    start: int
    end: int
    expansion: float = 0.0
    scale: float = 1.0
    hyphen: str = ""


@dataclass(frozen=True, slots=True, eq=False)
class InlinePiece:
    """The piece of an inline box on one line; the rectangle is its border box.

    has_left, has_right: whether its left or right edge is here, with margin, border and padding.
    """

    box: Box
    x: LayoutUnit
    y: LayoutUnit
    width: LayoutUnit
    height: LayoutUnit
    margin: Edges
    border: Edges
    padding: Edges
    has_left: bool
    has_right: bool


@dataclass(frozen=True, slots=True, eq=False, repr=False)
class Placed:
    """A fragment in its place.

    x, y: of its border box where the flow put it. shift_x, shift_y: what relative positioning adds.
    refusals: the places a float was refused before. clearance: how far clear pushed it. block: the
    containing block of an absolute box, counted as x and y are. below_marker: how far down the marker of the list item
    around moved it.
    """

    fragment: "Fragment"
    x: LayoutUnit
    y: LayoutUnit
    shift_x: LayoutUnit = ZERO
    shift_y: LayoutUnit = ZERO
    refusals: tuple[Refusal, ...] = ()
    clearance: LayoutUnit = ZERO
    block: Rect | None = None
    below_marker: LayoutUnit = ZERO

    def baseline(self, *, last: bool) -> LayoutUnit:
        """The first or last baseline, counted as y is; the lower edge where it has none (CSS Align 3 §9.1)."""
        found = self.fragment.last_baseline if last else self.fragment.first_baseline
        return self.y + (self.fragment.height if found is None else found)

    @property
    def out_of_flow(self) -> "list[OutOfFlowCandidate]":
        """The absolute boxes inside that look for a containing block further out, in places out here."""
        if not self.fragment.out_of_flow:
            return []
        x, y = self.x + self.shift_x, self.y + self.shift_y
        return [replace(c, x=c.x + x, y=c.y + y, area=None) for c in self.fragment.out_of_flow]


LineContent: TypeAlias = TextPiece | InlinePiece | Placed


@dataclass(frozen=True, slots=True, eq=False, repr=False)
class Line:
    """One line box: CSS 2.2 §9.4.2 and §10.8.

    x, width: the room it had between floats. used: the width of its content. content: text, inline
    boxes and atomic boxes in order, places counted as the line's own. trimmed: the spaces that were
    removed at its end.
    """

    x: LayoutUnit
    y: LayoutUnit
    width: LayoutUnit
    height: LayoutUnit
    baseline: LayoutUnit
    used: LayoutUnit
    content: tuple[LineContent, ...]
    strut_ascent: LayoutUnit
    strut_descent: LayoutUnit
    trimmed: LayoutUnit = ZERO

    def in_room(self, width: LayoutUnit, content: tuple[LineContent, ...]) -> "Line":
        """The same line in a room of another width, with what stands on it as it is there."""
        return Line(
            self.x,
            self.y,
            width,
            self.height,
            self.baseline,
            self.used,
            content,
            self.strut_ascent,
            self.strut_descent,
            self.trimmed,
        )


@dataclass(frozen=True, slots=True, eq=False)
class OutOfFlowCandidate:
    """An absolutely positioned box that has not met its containing block yet.

    x, y: its static place. containing_inline: the positioned inline box around it, if any. place_x, place_y:
    whether that is where it starts (from the left, the top), where its middle is, or where it ends. area: of the
    grid container that is its containing block, if it names one.
    """

    box: Box
    x: LayoutUnit
    y: LayoutUnit
    containing_inline: Box | None = None
    place_x: Place = "start"
    place_y: Place = "start"
    area: Rect | None = None


@dataclass(frozen=True, slots=True, eq=False)
class FloatMark:
    """A float's margin box, as the flow outside must know it; from the border box's top left."""

    side: str
    x: LayoutUnit
    y: LayoutUnit
    width: LayoutUnit
    height: LayoutUnit


@dataclass(frozen=True, slots=True, eq=False, weakref_slot=True, repr=False)
class Fragment:
    """A laid-out box: border-box size, used edges, and what is inside.

    baselines count from the top of the border box; None if it has none. out_of_flow: absolute boxes
    that look for a containing block further out. groups: the collapsed margins between its children.
    end_margins: what hangs out at the bottom, still open to collapsing (the box's own excepted).
    made_of: the fragment that this one repeats with other margins; held so that it is found again. facts: what a
    flex, grid or table container found out while it laid out its boxes.
    """

    box: Box
    width: LayoutUnit
    height: LayoutUnit
    margin: Edges
    border: Edges
    padding: Edges
    across: Across
    down: Down
    children: tuple[Placed, ...] = ()
    lines: tuple[Line, ...] = ()
    first_baseline: LayoutUnit | None = None
    last_baseline: LayoutUnit | None = None
    out_of_flow: tuple[OutOfFlowCandidate, ...] = ()
    groups: tuple[MarginGroup, ...] = ()
    end_margins: MarginSet = NO_MARGINS
    made_of: "Fragment | None" = None
    facts: Facts | None = None

    @property
    def margin_width(self) -> LayoutUnit:
        """Width of the margin box."""
        return self.width + self.margin.left + self.margin.right

    @property
    def margin_height(self) -> LayoutUnit:
        """Height of the margin box."""
        return self.height + self.margin.top + self.margin.bottom

    def with_margins(self, margin: Edges, why: MarginReason | None = None) -> "Fragment":
        """The fragment with margins that its place gives it; why: of the side margins, where that is another."""
        reason = self.across.margin_reason if why is None else why
        if margin == self.margin and reason is self.across.margin_reason:
            return self
        rest = self.across.basis - margin.left - self.width - margin.right
        across = replace(
            self.across,
            margin_left=margin.left,
            margin_right=margin.right,
            margin_reason=reason,
            rest=rest,
        )
        return self.repeated(across, self.down, margin)

    def repeated(self, across: Across, down: Down, margin: Edges) -> "Fragment":
        """The same box with the same inside where the room around it is another one."""
        return Fragment(
            self.box,
            self.width,
            self.height,
            margin,
            self.border,
            self.padding,
            across,
            down,
            self.children,
            self.lines,
            self.first_baseline,
            self.last_baseline,
            self.out_of_flow,
            self.groups,
            self.end_margins,
            self.made_of or self,
            self.facts,
        )
