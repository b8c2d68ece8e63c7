"""Which vertical margins adjoin: CSS 2.2 §8.3.1, found before anything is laid out.

Whether a box collapses through itself, and which margins meet at its top, follows from styles and
structure alone, but for clearance, which needs the floats placed so far.
"""

from dataclasses import field

from redcrate.core.boxes.box import Box, BoxKind
from redcrate.core.layout.cache import LayoutCache
from redcrate.core.layout.contexts import LayoutRun
from redcrate.core.layout.edges import border_and_padding, margin_or_zero, margins_or_zero
from redcrate.core.layout.floats import FloatContext
from redcrate.core.layout.heights import definite_height, percent_basis
from redcrate.core.layout.margins import MarginSet, drops_default_margins
from redcrate.core.layout.ratios import ratio_of
from redcrate.core.layout.space import ConstraintSpace, Sizing
from redcrate.core.records import dataclass
from redcrate.core.style.values import NO_LENGTH, OffsetValue, SizeValue
from redcrate.core.units import STEP, ZERO, LayoutUnit


def vertical_margins(box: Box, cb_width: LayoutUnit) -> tuple[LayoutUnit, LayoutUnit]:
    """Top and bottom margin; auto is 0 (§10.6.3)."""
    margins = margins_or_zero(box.style, cb_width)
    return margins.top, margins.bottom


def collapses_through(cache: LayoutCache, box: Box, cb_height: LayoutUnit | None) -> bool:
    """Whether the top and bottom margins of a block adjoin each other.

    No new formatting context, no padding, border or height, no line boxes, and nothing in flow that
    does not collapse through itself. cb_height: what percentages refer to, None if nothing.
    """
    record = cache.of(box)
    if record.collapses_through is None:
        record.collapses_through = _collapses_through(cache, box)
    if not record.collapses_through or cb_height is None:
        return record.collapses_through
    style = box.style
    return not any(
        definite_height(value, style, cb_height, ZERO) for value in (style.height, style.min_height)
    )


def _collapses_through(cache: LayoutCache, box: Box) -> bool:  # noqa: C901 §8.3.1 lists its conditions
    style = box.style
    if box.establishes_bfc or box.kind is not BoxKind.BLOCK:
        return False
    if style.border_top_width or style.border_bottom_width:
        return False
    if _takes_room(style.padding_top) or _takes_room(style.padding_bottom):
        return False
    if _is_length(style.min_height):
        return False
    if _is_length(style.height) and not _is_nothing(style.max_height):
        return False
    if box.marker is not None and style.list_style_position == "outside":
        return False
    if ratio_of(style) is not None or "size" in style.contain:
        return False
    if box.children_inline:
        return not cache.inline_content(box).has_lines
    floated: set[str] = set()
    for child in box.children:  # a plain loop: boxes can be nested thousands deep
        if not child.in_flow:
            pass
        elif _clears_one_of(child, floated) or not collapses_through(cache, child, None):
            return False
        if box.holds_floats:
            floated.update(b.style.float_ for b in child.walk() if b.is_float)
    return True


def _clears_one_of(box: Box, floated: set[str]) -> bool:
    """Whether clearance from floats of the same parent is certain: it separates the margins."""
    clear = box.style.clear
    return clear in floated or (clear == "both" and bool(floated))


def _takes_room(value: OffsetValue) -> bool:
    if isinstance(value, str):
        return False
    return value.has_percent or value.resolve(ZERO) != 0


def _is_length(value: SizeValue) -> bool:
    """Whether a height is above 0 whatever percentages refer to."""
    return not isinstance(value, NO_LENGTH) and value.resolve(ZERO) > 0


def _is_nothing(value: SizeValue) -> bool:
    """Whether a height is 0 whatever percentages refer to."""
    return not isinstance(value, NO_LENGTH) and not value.has_percent and value.resolve(ZERO) == 0


def through_margins(box: Box, cb_width: LayoutUnit, into: MarginSet) -> MarginSet:
    """`into` with all margins of a box that collapses through itself."""
    top, bottom = vertical_margins(box, cb_width)
    into = into.including(box, "top", top)
    for child in box.children if not box.children_inline else ():
        if child.in_flow:
            into = through_margins(child, cb_width, into)
    return into.including(box, "bottom", bottom)


@dataclass(slots=True)
class _Probe:
    """The walk down the tops: what was gathered, floats met on the way, and the y they stand at.

    heeds_clear: False where the place is asked for that a box would have without clearance.
    """

    run: LayoutRun
    margins: MarginSet
    floats: FloatContext
    y: LayoutUnit  # of the edge above the margins, in the block formatting context
    heeds_clear: bool = True
    adjoining: list[Box] = field(default_factory=list)
    drops: bool = False  # default margins, since they are those at the top of a body in quirks mode

    def meet(self, margins: MarginSet) -> None:
        """More margins meet: `margins` are all of them."""
        self.margins = margins.without_defaults() if self.drops else margins

    def clears(self, box: Box, cb_width: LayoutUnit, cb_height: LayoutUnit | None) -> bool:
        """Whether clearance will separate the box from the margins above it; §9.5.2."""
        clear = box.style.clear
        if clear == "none" or not self.heeds_clear:
            return False
        if any(clear in ("both", f.style.float_) for f in self.adjoining):
            return True
        without = _Probe(
            self.run, self.margins, self.floats, self.y, heeds_clear=False, drops=self.drops
        )
        _gather(box, cb_width, cb_height, without)
        return self.floats.clears(clear, self.y + without.margins.used) is not None

    def has_no_room_for(self, box: Box, cb_width: LayoutUnit) -> bool:
        """Whether a box with a new formatting context does not fit beside the floats at this place.

        Then it goes below them as if it cleared them (§9.5): its margin moves nothing above it.
        """
        if not self.adjoining or not box.establishes_bfc:
            return False
        beside = FloatContext()
        space = ConstraintSpace(cb_width, None, Sizing.SHRINK_TO_FIT)
        for known in self.adjoining:
            fragment = self.run.layout(known, space)
            side, clear = known.style.float_, known.style.clear
            beside.place(
                side, clear, fragment.margin_width, fragment.margin_height, ZERO, ZERO, cb_width
            )
        left, right = beside.room(ZERO, STEP, ZERO, cb_width)
        room = ConstraintSpace(cb_width, None, available=max(ZERO, right - left))
        return self.run.layout(box, room).width > right - left


def top_margins(
    run: LayoutRun,
    box: Box,
    cb_width: LayoutUnit,
    cb_height: LayoutUnit | None,
    above: MarginSet,
    floats: FloatContext,
    y: LayoutUnit,
) -> MarginSet:
    """`above` with the margins that meet at the top of an in-flow `box`.

    cb_width, cb_height: of the box's containing block. y: the edge above all these margins, in the
    block formatting context; floats: those placed so far.
    """
    if box.children_inline or box.establishes_bfc:  # nothing in it can meet them
        return above.including(box, "top", vertical_margins(box, cb_width)[0])
    probe = _Probe(run, above, floats, y)
    _gather(box, cb_width, cb_height, probe)
    return probe.margins


def _gather(box: Box, cb_width: LayoutUnit, cb_height: LayoutUnit | None, probe: _Probe) -> None:
    """Walk down first children with a loop; only boxes that collapse through recurse."""
    while True:
        top, _ = vertical_margins(box, cb_width)
        probe.meet(probe.margins.including(box, "top", top))
        trims = "block-start" in box.style.margin_trim
        if trims or not open_top(box, cb_width) or box.children_inline:
            return
        probe.drops = probe.drops or drops_default_margins(box)
        cb_width = inner_width_guess(box, cb_width)
        cb_height = percent_basis(box, cb_height, ZERO)
        following = _next_separating(box, cb_width, cb_height, probe)
        if following is None:
            return
        box = following


def _next_separating(
    box: Box, cb_width: LayoutUnit, cb_height: LayoutUnit | None, probe: _Probe
) -> Box | None:
    """The first child that does not collapse through; None where the margins end before one."""
    for child in box.children:
        if child.is_out_of_flow:
            continue
        if child.is_float:
            probe.adjoining.append(child)
            continue
        if probe.clears(child, cb_width, cb_height) or probe.has_no_room_for(child, cb_width):
            return None
        if not collapses_through(probe.run.cache, child, cb_height):
            return child
        if child.holds_floats:
            probe.adjoining += [inner for inner in child.walk() if inner.is_float]
        probe.meet(through_margins(child, cb_width, probe.margins))
    return None


def open_top(box: Box, cb_width: LayoutUnit) -> bool:
    """Whether the top margin of a block adjoins that of its first in-flow child."""
    if box.establishes_bfc or box.kind is not BoxKind.BLOCK:
        return False
    if box.style.border_top_width:
        return False
    return border_and_padding(box.style, cb_width)[1].top == 0


def open_bottom(box: Box, cb_width: LayoutUnit) -> bool:
    """Whether the bottom margin of a block may adjoin that of its last in-flow child."""
    if box.establishes_bfc or box.style.border_bottom_width:
        return False
    return border_and_padding(box.style, cb_width)[1].bottom == 0


def inner_width_guess(box: Box, cb_width: LayoutUnit) -> LayoutUnit:
    """The content width that percentage margins of the children refer to.

    Only such margins need it, so the rules for auto widths are enough where nothing is specified.
    """
    style = box.style
    border, padding = border_and_padding(style, cb_width)
    extra = border.across + padding.across
    if isinstance(style.width, NO_LENGTH):
        width = cb_width - extra
        width -= margin_or_zero(style.margin_left, cb_width)
        width -= margin_or_zero(style.margin_right, cb_width)
    else:
        width = style.width.resolve(cb_width)
        if style.box_sizing == "border-box":
            width -= extra
    if not isinstance(style.max_width, NO_LENGTH):
        width = min(width, style.max_width.resolve(cb_width))
    return max(ZERO, width)


def height_is_auto(box: Box, cb_height: LayoutUnit | None) -> bool:
    """Whether the height hangs on content (a percentage of an unknown height does)."""
    return definite_height(box.style.height, box.style, cb_height, ZERO) is None
