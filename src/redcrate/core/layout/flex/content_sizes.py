"""How narrow and how wide a flex container would like to be: CSS Flexbox 1 §9.9; 1/64 px."""

from redcrate.core.boxes.box import Box
from redcrate.core.layout.contexts import FlowArea, LayoutRun
from redcrate.core.layout.edges import gap_of, margin_or_zero
from redcrate.core.layout.flex.axes import axes_of
from redcrate.core.layout.flex.items import items_of
from redcrate.core.layout.flex.lines import collect
from redcrate.core.layout.flex.measuring import AlongHeight
from redcrate.core.layout.floats import FloatContext
from redcrate.core.layout.fragments import ContentSizes
from redcrate.core.layout.heights import definite_height
from redcrate.core.layout.intrinsic import contributions
from redcrate.core.layout.known_height import known_height
from redcrate.core.layout.space import ConstraintSpace
from redcrate.core.layout.table.kept import used_edges
from redcrate.core.style.values import NO_LENGTH
from redcrate.core.units import ZERO, LayoutUnit


def flex_content_sizes(run: LayoutRun, box: Box) -> ContentSizes:
    """§9.9.1: items of a row beside each other, of a column one under another, in their lines where they wrap."""
    style = box.style
    inside = {c: _contribution(run, c, box) for c in box.children if c.in_flow}
    if not inside:
        return ContentSizes(ZERO, ZERO)
    widest = max(sizes.max_content for sizes in inside.values())
    narrowest = max(sizes.min_content for sizes in inside.values())
    if not style.flex_direction.startswith("row"):
        wraps = style.flex_wrap != "nowrap" and len(inside) > 1
        columns = _columns(run, box, inside, widest) if wraps else None
        return ContentSizes(narrowest, widest if columns is None else columns)
    gaps = gap_of(style.column_gap, ZERO) * (len(inside) - 1)
    together = sum((sizes.max_content for sizes in inside.values()), ZERO) + gaps
    if style.flex_wrap == "nowrap":
        narrowest = sum((sizes.min_content for sizes in inside.values()), ZERO) + gaps
    return ContentSizes(narrowest, max(together, narrowest))


def _contribution(run: LayoutRun, item: Box, container: Box) -> ContentSizes:
    """§9.9.1: what an item asks for.

    Its flex base size is the most where it cannot grow, the least where it cannot shrink.
    """
    sizes, style = contributions(run, item), item.style
    basis = style.flex_basis
    if not container.style.flex_direction.startswith("row") or isinstance(basis, NO_LENGTH):
        return sizes
    if basis.has_percent:
        return sizes
    border, padding = used_edges(run.cache, item, ZERO)
    extra = border.across + padding.across
    inside = extra if style.box_sizing == "border-box" else ZERO
    margins = margin_or_zero(style.margin_left, ZERO) + margin_or_zero(style.margin_right, ZERO)
    base = max(ZERO, basis.resolve(ZERO) - inside) + extra + margins
    least, most = sizes
    scrolls = style.overflow_x not in ("visible", "clip")
    floor = least if style.min_width == "auto" and not scrolls else ZERO  # the automatic minimum
    if not style.flex_grow:
        least, most = max(floor, min(least, base)), max(floor, min(most, base))
    if not style.flex_shrink:
        least, most = max(least, base), max(most, base)
    return ContentSizes(least, most)


def _columns(
    run: LayoutRun, box: Box, inside: dict[Box, ContentSizes], widest: LayoutUnit
) -> LayoutUnit | None:
    """The columns beside each other, where a height that is written makes several; None where none does."""
    style = box.style
    border, padding = used_edges(run.cache, box, ZERO)
    extra = border.down + padding.down
    height = definite_height(style.height, style, None, extra)
    most = definite_height(style.max_height, style, None, extra)
    limits = [h for h in (height, most) if h is not None]
    if not limits:
        return None
    known = known_height(box, ConstraintSpace(widest, None), extra, None)
    area = FlowArea(ZERO, ZERO, ZERO, ZERO, widest, height, FloatContext(), False, known)
    items = items_of(run.cache, box, axes_of(style), widest)
    along = AlongHeight(run, area, is_single=False)
    for item in items:
        along.measure(item)
    lines = collect(items, min(limits), gap_of(style.row_gap, height), wraps=True)
    wide = sum((max(inside[i.box].max_content for i in line.items) for line in lines), ZERO)
    return wide + gap_of(style.column_gap, ZERO) * (len(lines) - 1)
