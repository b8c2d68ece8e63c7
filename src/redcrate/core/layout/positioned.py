"""Absolutely positioned boxes: CSS 2.2 §10.3.7, §10.3.8, §10.6.4 and §10.6.5.

One axis at a time; both follow the same rules with start and end for left and right. A box is laid
out once, when its width and, where two offsets decide it, its height are known.
"""

from collections import deque
from collections.abc import Iterable
from dataclasses import replace

from redcrate.core.boxes.box import BoxKind, InnerDisplay
from redcrate.core.geometry import Edges, Rect
from redcrate.core.layout.alignment import Place, alignment, offset_of, place_of
from redcrate.core.layout.contexts import ContainingBlock, LayoutRun
from redcrate.core.layout.edges import border_and_padding, margin_or_zero
from redcrate.core.layout.fragments import OutOfFlowCandidate, Placed
from redcrate.core.layout.heights import (
    definite_height,
    is_from_content,
)
from redcrate.core.layout.ratios import ratio_of
from redcrate.core.layout.space import ConstraintSpace, Sizing
from redcrate.core.records import dataclass
from redcrate.core.style.values import OffsetValue
from redcrate.core.units import ZERO, LayoutUnit


@dataclass(frozen=True, slots=True)
class AxisRules:
    """One axis of an absolute box.

    start, end: the offsets; None for auto. size: the content size; None for auto. extra: border plus
    padding. static: the static place of the margin edge that `static_place` names, or of its middle.
    length: of the containing block. halves_below_zero: auto margins are halves even of less than
    nothing, as §10.6.4 has it and §10.3.7 has not. aligned: where between its offsets it stands by itself, and is no
    larger than its content; None where it fills them (CSS Positioned Layout 3 §4). may_overflow: also over the start.
    """

    start: LayoutUnit | None
    end: LayoutUnit | None
    size: LayoutUnit | None
    extra: LayoutUnit
    margin_start: OffsetValue
    margin_end: OffsetValue
    static: LayoutUnit
    length: LayoutUnit
    percent_base: LayoutUnit  # the width of the containing block, for margins
    static_place: Place = "start"
    halves_below_zero: bool = False
    aligned: Place | None = None
    may_overflow: bool = False


@dataclass(frozen=True, slots=True)
class UsedAxis:
    """The outcome: place of the margin edge from the containing block, used size and margins.

    size is None where the content decides (shrink-to-fit or auto height); `available` is then what
    there is for it.
    """

    place: LayoutUnit
    size: LayoutUnit | None
    margin_start: LayoutUnit
    margin_end: LayoutUnit
    available: LayoutUnit
    stretched: bool = False


def offset(value: OffsetValue, base: LayoutUnit) -> LayoutUnit | None:
    """An offset property; percentages refer to the containing block, whose size is known."""
    return None if isinstance(value, str) else value.resolve(base)


def solve(rules: AxisRules, *, from_end: bool = False) -> UsedAxis:
    """§10.3.7 and §10.6.4. from_end: over-constrained boxes keep the end offset (rtl).

    Without a size the place that follows from it is not final; ask again once it is known.
    """
    base = rules.percent_base
    margin_start = margin_or_zero(rules.margin_start, base)
    margin_end = margin_or_zero(rules.margin_end, base)
    start, end = rules.start, rules.end
    if start is None and end is None:
        if rules.static_place == "center":
            return _about_the_middle(rules, margin_start, margin_end)
        if rules.static_place == "end":
            end = rules.length - rules.static
        else:
            start = rules.static
    taken = margin_start + margin_end + rules.extra
    if start is None or end is None:
        available = rules.length - (start or 0) - (end or 0) - taken
        if start is None:
            assert end is not None
            start = rules.length - end - taken - (rules.size or 0)
        return UsedAxis(start, rules.size, margin_start, margin_end, available)
    if rules.size is None:
        available = rules.length - start - end - taken
        size = None if rules.aligned else max(ZERO, available)
        return UsedAxis(start, size, margin_start, margin_end, available, stretched=size is not None)
    return _over_constrained(rules, start, end, margin_start, margin_end, from_end)


def _about_the_middle(rules: AxisRules, margin_start: LayoutUnit, margin_end: LayoutUnit) -> UsedAxis:
    """A static place that is the middle of the margin box: CSS Flexbox 1 §4.1; what is near it is there."""
    taken = margin_start + margin_end + rules.extra
    room = 2 * min(rules.static, rules.length - rules.static)
    start = rules.static - (taken + (rules.size or 0)) // 2
    return UsedAxis(start, rules.size, margin_start, margin_end, LayoutUnit(room) - taken)


def _over_constrained(
    rules: AxisRules,
    start: LayoutUnit,
    end: LayoutUnit,
    margin_start: LayoutUnit,
    margin_end: LayoutUnit,
    from_end: bool,
) -> UsedAxis:
    """Both offsets and the size are given: auto margins share the rest, or one offset gives."""
    assert rules.size is not None
    rest = rules.length - start - end - rules.size - rules.extra
    auto_start, auto_end = rules.margin_start == "auto", rules.margin_end == "auto"
    if auto_start and auto_end:
        if rest >= 0 or rules.halves_below_zero:
            margin_start, margin_end = rest // 2, rest - rest // 2
        else:
            margin_start, margin_end = (rest, ZERO) if from_end else (ZERO, rest)
    elif auto_start:
        margin_start = rest - margin_end
    elif auto_end:
        margin_end = rest - margin_start
    elif rules.aligned:
        free = rest - margin_start - margin_end
        place = rules.aligned if free >= 0 or rules.may_overflow else "end" if from_end else "start"
        start += offset_of(place, free)
    elif from_end:
        start = rules.length - end - margin_start - margin_end - rules.size - rules.extra
    return UsedAxis(start, rules.size, margin_start, margin_end, ZERO)


def place_absolute(run: LayoutRun, candidate: OutOfFlowCandidate, block: ContainingBlock) -> Placed:
    """An absolute box in its containing block: its sizes, its one layout, its place."""
    box, area = candidate.box, candidate.area
    if area is not None:  # CSS Grid 1 §9.1
        block = ContainingBlock(area.x, area.y, area.width, area.height, block.direction)
    rules_x, rules_y = _rules(candidate, block)
    fragment = run.layout(box, _space(candidate, rules_x, rules_y, block))
    x = solve(replace(rules_x, size=fragment.across.content), from_end=block.direction == "rtl")
    y = solve(replace(rules_y, size=fragment.down.content))
    margin = Edges(y.margin_start, x.margin_end, y.margin_end, x.margin_start)
    fragment = fragment.with_margins(margin)
    left, top = block.x + x.place + x.margin_start, block.y + y.place + y.margin_start
    return Placed(fragment, left, top, block=Rect(block.x, block.y, block.width, block.height))


def _rules(candidate: OutOfFlowCandidate, block: ContainingBlock) -> tuple[AxisRules, AxisRules]:
    """What decides about the two axes of an absolute box."""
    style = candidate.box.style
    border, padding = border_and_padding(style, block.width)
    side, side_overflows = _aligned(
        style.justify_self, block.direction == "rtl", style.direction == "rtl"
    )
    row, row_overflows = _aligned(style.align_self, False, False)
    across = AxisRules(
        offset(style.left, block.width),
        offset(style.right, block.width),
        None,
        border.across + padding.across,
        style.margin_left,
        style.margin_right,
        candidate.x - block.x,
        block.width,
        block.width,
        static_place=candidate.place_x,
        aligned=side,
        may_overflow=side_overflows,
    )
    down = AxisRules(
        offset(style.top, block.height),
        offset(style.bottom, block.height),
        None,
        border.down + padding.down,
        style.margin_top,
        style.margin_bottom,
        candidate.y - block.y,
        block.height,
        block.width,
        static_place=candidate.place_y,
        halves_below_zero=True,
        aligned=row,
        may_overflow=row_overflows,
    )
    return across, down


def is_aligned(value: str) -> bool:
    """Whether an absolute box stands by itself between two offsets, and does not fill what is between."""
    return alignment(value).keyword not in ("auto", "normal", "stretch")


def _aligned(value: str, reversed_axis: bool, reversed_self: bool) -> tuple[Place | None, bool]:
    """CSS Align 3 §6.1, §6.2: where a value puts an absolute box between its offsets, and whether it may overflow the start.

    `auto` and `normal` fill them, as `stretch` does; a baseline has nothing to share it with.
    """
    asked = alignment(value)
    if not is_aligned(value):
        return None, False
    if "baseline" in asked.keyword:
        return "start", False
    place = place_of(asked.keyword, reversed_axis=reversed_axis, reversed_self=reversed_self)
    return place, "unsafe" in value.split()


def _space(
    candidate: OutOfFlowCandidate, across: AxisRules, down: AxisRules, block: ContainingBlock
) -> ConstraintSpace:
    """§10.3.7 and §10.6.4: what an absolute box is laid out in."""
    style = candidate.box.style
    if candidate.box.kind is BoxKind.REPLACED:
        return ConstraintSpace(block.width, block.height, Sizing.SHRINK_TO_FIT)
    place = solve(across)
    filled = style.height == "stretch"  # within the offsets: CSS Sizing 4 §6.1
    stretched = (
        definite_height(style.height, style, block.height, down.extra) is None
        and down.start is not None
        and down.end is not None
        and not is_from_content(style.height)
        and ratio_of(style) is None
        and down.aligned is None
    )
    available = place.available
    if candidate.box.inner is InnerDisplay.TABLE:  # as browsers do: no wider than what contains it
        available = min(available, block.width - across.extra)
    return ConstraintSpace(
        block.width,
        block.height,
        Sizing.STRETCH if place.stretched else Sizing.SHRINK_TO_FIT,
        available + across.extra,
        max(ZERO, solve(down).available) if stretched or filled else None,
    )


def place_all(
    run: LayoutRun, candidates: Iterable[OutOfFlowCandidate], block: ContainingBlock, *, fixed: bool
) -> tuple[list[Placed], list[OutOfFlowCandidate]]:
    """Place the absolute boxes that `block` contains; also what looks for a block further out.

    fixed: this is the window, so it contains fixed boxes too, those inside absolute ones included.
    """
    placed: list[Placed] = []
    rest: list[OutOfFlowCandidate] = []
    queue = deque(candidates)
    while queue:
        candidate = queue.popleft()
        if candidate.box.style.position == "fixed" and not fixed:
            rest.append(candidate)
            continue
        placed.append(place_absolute(run, candidate, block))
        queue.extendleft(reversed(placed[-1].out_of_flow))
    return placed, rest
