"""The lines of a flex container: which items they hold, how they lie, and what is in them where.

CSS Flexbox 1 §9.3 to §9.6. Amounts are 1/64 px, counted from where each axis starts.
"""

from collections.abc import Sequence

from redcrate.core.geometry import Edges
from redcrate.core.layout.alignment import Alignment, distribution
from redcrate.core.layout.flex.axes import FlexAxes
from redcrate.core.layout.flex.items import FlexItem
from redcrate.core.layout.flex_facts import FlexedLine
from redcrate.core.records import dataclass
from redcrate.core.units import ZERO, LayoutUnit


@dataclass(slots=True, eq=False)
class FlexLine:
    """One line. free: what flexing shared. above, last_above: its baselines, from its start."""

    items: list[FlexItem]
    gap: LayoutUnit
    free: LayoutUnit = ZERO
    left: LayoutUnit = ZERO
    in_margins: LayoutUnit = ZERO
    cross_start: LayoutUnit = ZERO
    cross_size: LayoutUnit = ZERO

    @property
    def gaps(self) -> LayoutUnit:
        """All gaps between its items."""
        return self.gap * max(0, len(self.items) - 1)

    @property
    def hypothetical(self) -> LayoutUnit:
        """Its main size if nothing flexes."""
        return sum((i.hypothetical + i.outer_extra for i in self.items), ZERO) + self.gaps

    def facts(self) -> FlexedLine:
        """What is kept of it for explanations."""
        items = tuple(i.facts() for i in self.items)
        return FlexedLine(
            items, self.free, self.left, self.in_margins, self.cross_start, self.cross_size
        )


def collect(
    items: Sequence[FlexItem], room: LayoutUnit | None, gap: LayoutUnit, *, wraps: bool
) -> list[FlexLine]:
    """§9.3.5: as many items on each line as fit, one at least."""
    lines: list[FlexLine] = []
    used = ZERO
    for item in items:
        outer = item.hypothetical + item.outer_extra
        if lines and not (wraps and room is not None and used + gap + outer > room):
            lines[-1].items.append(item)
            used += gap + outer
        else:
            lines.append(FlexLine([item], gap))
            used = outer
    return lines


def align_baselines(items: Sequence[FlexItem]) -> LayoutUnit:
    """§9.4.8, §8.3: line up the baselines of items that want it; the room that those items take.

    Their `cross_start` then counts from the edge of their group.
    """
    needed = ZERO
    for group in ("baseline", "last baseline"):
        inside = [i for i in items if i.baseline_group == group]
        if not inside:
            continue
        axes, from_end = inside[0].axes, group == "last baseline"
        turned = axes.cross_reversed != from_end  # measured from where the group is aligned
        reach = [_to_baseline(i, last=from_end, below=turned) for i in inside]
        most = max(reach)
        below = max(i.outer_cross - r for i, r in zip(inside, reach, strict=True))
        needed = max(needed, most + below)
        for item, own in zip(inside, reach, strict=True):
            item.cross_start = most - own
    return needed


def _to_baseline(item: FlexItem, *, last: bool, below: bool) -> LayoutUnit:
    """From the item's margin edge (the lower one for `below`) to its baseline."""
    fragment = item.laid_out
    found = fragment.last_baseline if last else fragment.first_baseline
    baseline = fragment.height if found is None else found  # CSS Align 3 §9.1: from its border box
    if below:
        return item.margin.bottom + fragment.height - baseline
    return item.margin.top + baseline


def cross_size_of(line: FlexLine) -> LayoutUnit:
    """§9.4.8: as large as its largest item asks."""
    others = [i.outer_cross for i in line.items if not i.baseline_group]
    return max([ZERO, *others, align_baselines(line.items)])


def place_lines(
    lines: Sequence[FlexLine], room: LayoutUnit, gap: LayoutUnit, axes: FlexAxes, value: Alignment
) -> None:
    """§9.4.9 and §9.6.16: stretch the lines of a container of that cross size, or give them their places."""
    free = room - sum((line.cross_size for line in lines), ZERO) - gap * (len(lines) - 1)
    if value.keyword in ("normal", "stretch") and free > 0:
        for line in lines:
            line.cross_size += free // len(lines)
        free = ZERO
    shared = distribution(axes.content(_content(value), free), free, len(lines))
    start = shared.before
    for line in lines:
        line.cross_start = start
        start += line.cross_size + gap + shared.between


def _content(value: Alignment) -> Alignment:
    """§5.1.1: baseline content alignment falls back to the start, or the end."""
    if value.keyword == "last baseline":
        return Alignment("end", is_safe=True)
    return value


def place_along(line: FlexLine, room: LayoutUnit, axes: FlexAxes, justify: Alignment) -> None:
    """§9.5: auto margins take what is left of a line; else justify-content shares it."""
    border_boxes = sum((i.target + i.outer_extra for i in line.items), ZERO)
    free = room - border_boxes - line.gaps
    count = sum(sum(i.auto_main) for i in line.items)
    shares = _shares(max(ZERO, free), count)
    if count and free > 0:
        line.in_margins, free = free, ZERO
    line.left = free
    shared = distribution(axes.justify(justify, free), free, len(line.items))
    start = shared.before
    for item in line.items:
        auto = item.auto_main
        first, second = (shares.pop() if a and shares else ZERO for a in auto)
        own = axes.main(item.margin)
        item.main_start = start + own[0] + first
        item.margin = _with_auto(item, first, second)
        start = item.main_start + item.target + item.extra_main + own[1] + second
        start += line.gap + shared.between


def _shares(free: LayoutUnit, count: int) -> list[LayoutUnit]:
    """`free` in `count` equal parts."""
    return [free // count] * count if count else []


def _with_auto(item: FlexItem, first: LayoutUnit, second: LayoutUnit) -> Edges:
    """The margins with what the auto ones along the main axis came to."""
    axes, margin = item.axes, item.margin
    if not first and not second:
        return margin
    start, end = (second, first) if axes.main_reversed else (first, second)
    if axes.is_row:
        return Edges(margin.top, margin.right + end, margin.bottom, margin.left + start)
    return Edges(margin.top + start, margin.right, margin.bottom + end, margin.left)


def place_across(line: FlexLine, item: FlexItem) -> None:
    """§9.6.13 and §9.6.14: auto margins along the cross axis, then align-self."""
    axes = item.axes
    free = line.cross_size - item.outer_cross
    auto = item.auto_cross
    start = ZERO
    if any(auto):
        item.margin = _with_cross_auto(item, free, auto)
    elif item.baseline_group:
        start = item.cross_start
        if item.baseline_group == "last baseline":
            start = free - start
    elif item.align.keyword in ("flex-end", "end", "self-end", "right", "last baseline"):
        start = ZERO if item.align.is_safe and free < 0 else free
    elif item.align.keyword == "center":
        start = ZERO if item.align.is_safe and free < 0 else free // 2
    item.cross_start = start + axes.cross(item.margin)[0]


def _with_cross_auto(item: FlexItem, free: LayoutUnit, auto: tuple[bool, bool]) -> Edges:
    """§9.6.13: auto margins share what is left of the line; where nothing is, the end one takes the lack."""
    axes, margin = item.axes, item.margin
    if free <= 0:
        first, second = (ZERO, free) if auto[1] else (ZERO, ZERO)
    elif all(auto):
        first, second = free // 2, free - free // 2
    else:
        first, second = (free, ZERO) if auto[0] else (ZERO, free)
    start, end = (second, first) if axes.cross_reversed else (first, second)
    if axes.is_row:
        return Edges(margin.top + start, margin.right, margin.bottom + end, margin.left)
    return Edges(margin.top, margin.right + end, margin.bottom, margin.left + start)
