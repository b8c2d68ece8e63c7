"""Absolutely positioned boxes: CSS 2.2 §10.3.7, §10.3.8, §10.6.4 and §10.6.5.

One axis at a time; both follow the same rules with start and end for left and right. A box is laid
out once, when its width and, where two offsets decide it, its height are known.
"""

from collections.abc import Iterable
from dataclasses import dataclass, replace

from redcrate.core.boxes.box import Box, BoxKind
from redcrate.core.geometry import Edges
from redcrate.core.layout import widths
from redcrate.core.layout.block import assemble_context, remember
from redcrate.core.layout.edges import border_and_padding, margin_or_zero
from redcrate.core.layout.fragments import (
    Across,
    Fragment,
    MarginReason,
    Pending,
    Placed,
    SizeReason,
)
from redcrate.core.layout.heights import (
    definite_height,
    is_from_content,
    limited_height,
    ratio_of,
    ratio_width,
)
from redcrate.core.layout.run import ContainingBlock, LayoutRun
from redcrate.core.style.values import OffsetValue
from redcrate.core.units import LayoutUnit


@dataclass(frozen=True, slots=True)
class AxisRules:
    """One axis of an absolute box.

    start, end: the offsets; None for auto. size: the content size; None for auto. extra: border plus
    padding. static: the static place of the margin edge, of its far edge where static_end says so.
    length: of the containing block. halves_below_zero: auto margins are halves even of less than
    nothing, as §10.6.4 has it and §10.3.7 has not.
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
    static_end: bool = False
    halves_below_zero: bool = False


@dataclass(frozen=True, slots=True)
class AxisPlace:
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


def solve(rules: AxisRules, *, from_end: bool = False) -> AxisPlace:
    """§10.3.7 and §10.6.4. from_end: over-constrained boxes keep the end offset (rtl).

    Without a size the place that follows from it is not final; ask again once it is known.
    """
    base = rules.percent_base
    margin_start = margin_or_zero(rules.margin_start, base)
    margin_end = margin_or_zero(rules.margin_end, base)
    start, end = rules.start, rules.end
    if start is None and end is None:
        if rules.static_end:
            end = rules.length - rules.static
        else:
            start = rules.static
    taken = margin_start + margin_end + rules.extra
    if start is None or end is None:
        available = rules.length - (start or 0) - (end or 0) - taken
        if start is None:
            assert end is not None
            start = rules.length - end - taken - (rules.size or 0)
        return AxisPlace(start, rules.size, margin_start, margin_end, available)
    if rules.size is None:
        available = rules.length - start - end - taken
        return AxisPlace(start, max(0, available), margin_start, margin_end, available, stretched=True)
    return _over_constrained(rules, start, end, margin_start, margin_end, from_end)


def _over_constrained(
    rules: AxisRules,
    start: LayoutUnit,
    end: LayoutUnit,
    margin_start: LayoutUnit,
    margin_end: LayoutUnit,
    from_end: bool,
) -> AxisPlace:
    """Both offsets and the size are given: auto margins share the rest, or one offset gives."""
    assert rules.size is not None
    rest = rules.length - start - end - rules.size - rules.extra
    auto_start, auto_end = rules.margin_start == "auto", rules.margin_end == "auto"
    if auto_start and auto_end:
        if rest >= 0 or rules.halves_below_zero:
            margin_start, margin_end = rest // 2, rest - rest // 2
        else:
            margin_start, margin_end = (rest, 0) if from_end else (0, rest)
    elif auto_start:
        margin_start = rest - margin_end
    elif auto_end:
        margin_end = rest - margin_start
    elif from_end:
        start = rules.length - end - margin_start - margin_end - rules.size - rules.extra
    return AxisPlace(start, rules.size, margin_start, margin_end, 0)


def place_absolute(run: LayoutRun, pending: Pending, block: ContainingBlock) -> Placed:
    """An absolute box in its containing block: its sizes, its one layout, its place."""
    box, style = pending.box, pending.box.style
    border, padding = border_and_padding(style, block.width)
    rules_x = AxisRules(
        offset(style.left, block.width),
        offset(style.right, block.width),
        None,
        border.across + padding.across,
        style.margin_left,
        style.margin_right,
        pending.x - block.x,
        block.width,
        block.width,
        static_end=pending.from_right,
    )
    rules_y = AxisRules(
        offset(style.top, block.height),
        offset(style.bottom, block.height),
        None,
        border.down + padding.down,
        style.margin_top,
        style.margin_bottom,
        pending.y - block.y,
        block.height,
        block.width,
        halves_below_zero=True,
    )
    if box.kind is BoxKind.REPLACED:
        fragment = run.independent(box, block.width, block.height)
        across = replace(fragment.across, margin_reason=MarginReason.SPECIFIED)
    else:
        by_ratio = ratio_width(style, block.height, rules_x.extra, rules_y.extra)
        across = _across(run, box, rules_x, block.width, by_ratio)
        fragment = _laid_out(run, box, across, rules_y, block)
    x = solve(replace(rules_x, size=across.content), from_end=block.direction == "rtl")
    y = solve(replace(rules_y, size=fragment.down.content))
    across = replace(across, margin_left=x.margin_start, margin_right=x.margin_end)
    margin = Edges(y.margin_start, x.margin_end, y.margin_end, x.margin_start)
    fragment = replace(fragment, across=across, margin=margin)
    return Placed(fragment, block.x + x.place + x.margin_start, block.y + y.place + y.margin_start)


def place_all(
    run: LayoutRun, waiting: Iterable[Pending], block: ContainingBlock, *, fixed: bool
) -> tuple[list[Placed], list[Pending]]:
    """Place the absolute boxes that `block` contains; also what waits for a block further out.

    fixed: this is the window, so it contains fixed boxes too, those inside absolute ones included.
    """
    placed: list[Placed] = []
    rest: list[Pending] = []
    queue = list(waiting)
    while queue:
        pending = queue.pop(0)
        if pending.box.style.position == "fixed" and not fixed:
            rest.append(pending)
            continue
        placed.append(place_absolute(run, pending, block))
        queue[:0] = placed[-1].waiting
    return placed, rest


def _across(
    run: LayoutRun, box: Box, rules: AxisRules, cb_width: LayoutUnit, by_ratio: LayoutUnit | None
) -> Across:
    """The width of a non-replaced absolute box: §10.3.7 with §10.4."""
    style, extra = box.style, rules.extra

    def sizes() -> tuple[LayoutUnit, LayoutUnit]:
        return run.min_max(box)

    place = solve(rules)
    given = widths.content_width(style.width, style, cb_width, extra, sizes)
    if given is not None or not place.stretched:
        return widths.shrink_to_fit(style, cb_width, extra, sizes, place.available, by_ratio)
    tentative = place.size or 0
    width, limit = widths.limited_width(tentative, style, cb_width, extra, sizes)
    return Across(width, 0, 0, cb_width, SizeReason.STRETCH, MarginReason.SPECIFIED, tentative, limit)


def _laid_out(
    run: LayoutRun, box: Box, across: Across, rules: AxisRules, block: ContainingBlock
) -> Fragment:
    """The layout of a non-replaced absolute box of known width: §10.6.4 with §10.7."""
    style = box.style
    stretch = (
        definite_height(style.height, style, block.height, rules.extra) is None
        and rules.start is not None
        and rules.end is not None
        and not is_from_content(style.height)
        and ratio_of(style) is None
    )
    tentative = (solve(rules).size or 0) if stretch else None
    key = ("absolute", across, tentative, block.width, block.height)
    known: Fragment | None = box.cache.get(key)
    if known is not None:
        return known
    if tentative is None:
        fragment = assemble_context(run, box, across, block.width, block.height)
    else:
        height, limit = limited_height(tentative, style, block.height, rules.extra)
        fragment = assemble_context(run, box, across, block.width, block.height, height)
        down = replace(
            fragment.down,
            reason=SizeReason.STRETCH,
            auto_height=0,
            tentative=tentative,
            limit=limit,
            source="",
        )
        fragment = replace(fragment, down=down)
    remember(box, key, fragment)
    return fragment
