"""Why a box stands where it does: margins that met, clearance, places that a float was refused.

All amounts come from the fragments that layout placed; see CSS 2.2 §9.3–9.5, §10.3.3 and §8.3.1.
"""

from collections.abc import Iterator
from typing import assert_never

from redcrate.core.explain.across import container_label
from redcrate.core.explain.columns import table_around
from redcrate.core.explain.down import groups_of, winner_of
from redcrate.core.explain.terms import Reason, Source, written_value
from redcrate.core.layout.fieldset_facts import FieldsetFacts
from redcrate.core.layout.flex_facts import FlexFacts
from redcrate.core.layout.fragments import MarginReason, Placed
from redcrate.core.layout.grid_facts import GridFacts
from redcrate.core.layout.margins import MarginGroup
from redcrate.core.layout.positioned import is_aligned
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox, Page, PlacedBox
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.transforms import own_matrix
from redcrate.core.units import LayoutUnit, format_px, from_px


def position(page: Page, element: Element) -> tuple[Reason, ...]:
    """Sentences on why the element's box is where it is; empty without a box."""
    box = page.box_of(element)
    if box is None:
        return ()
    if box.box is None:
        return tuple(_inline(box))
    return tuple(_block(page, element, box, box.box))


def _inline(box: ElementBox) -> Iterator[Reason]:
    count = len(box.fragments)
    lines = f"{count} lines" if count > 1 else "one line"
    yield Reason(f"It is inline in {container_label(box)}, on {lines}.", None)


def _block(page: Page, element: Element, box: ElementBox, at: PlacedBox) -> Iterator[Reason]:
    style = page.style_of(element)
    placed = at.placed
    if style.position in ("absolute", "fixed"):
        yield _origin(
            page,
            element,
            "position",
            f"It is out of flow (position: {style.position}); its containing block is {container_label(box)}.",
        )
        yield from _between_offsets(page, element, style)
    elif style.float_ != "none":
        yield _origin(
            page,
            element,
            "float",
            f"It floats {style.float_} in {container_label(box)}, as high as possible.",
        )
    elif at.fragment.box.is_atomic:
        yield Reason(f"It is in a line of {container_label(box)}, like a large letter.", None)
    else:
        yield from _among_others(page, box, at)
        yield from _side(page, element, at)
        yield from _above(page, element, at)
    yield from refused(placed)
    if placed.clearance:
        yield _origin(
            page,
            element,
            "clear",
            f"Clearance of {format_px(placed.clearance)} px moves it below the floats (clear).",
        )
    if placed.below_marker and at.container is not None:
        item, moved = at.container.fragment.box.label, format_px(placed.below_marker)
        yield Reason(
            f"The marker of {item} reaches {moved} px above this first line and moves it down.", None
        )
    yield from _painted(page, element, at)
    if placed.shift_x or placed.shift_y:
        moves = [
            f"{format_px(abs(n))} px {w[n < 0]}"
            for n, w in ((placed.shift_x, ("right", "left")), (placed.shift_y, ("down", "up")))
            if n
        ]
        sticks = at.fragment.box.style.position == "sticky"
        why = "sticky holds it in view and" if sticks else "relative"
        yield _origin(
            page, element, "position", f"position: {why} moves it {' and '.join(moves)}; other boxes do not move."
        )  # fmt: skip


def _between_offsets(page: Page, element: Element, style: ComputedStyle) -> Iterator[Reason]:
    """How alignment places an absolute box where two offsets leave it room (CSS Positioned Layout 3 §4)."""
    axes = (
        ("justify-self", style.justify_self, ("left", "right"), (style.left, style.right)),
        ("align-self", style.align_self, ("top", "bottom"), (style.top, style.bottom)),
    )
    for longhand, value, names, offsets in axes:
        if is_aligned(value) and "auto" not in offsets:
            sentence = f"{longhand}: {value} places it between its {names[0]} and {names[1]} offsets."
            yield _origin(page, element, longhand, sentence)


def _among_others(page: Page, box: ElementBox, at: PlacedBox) -> Iterator[Reason]:
    """Which item, area or cell of its container it is, and how that places what is in it."""
    outer = at.container
    facts = None if outer is None else outer.fragment.facts
    if outer is not None and isinstance(facts, FlexFacts):
        yield from _in_line(page, outer, at, facts)
    elif outer is not None and isinstance(facts, GridFacts) and at.fragment.box in facts.areas:
        area = facts.areas[at.fragment.box]
        words = f"column {area.columns[0] + 1}, row {area.rows[0] + 1}"
        yield Reason(f"Its grid area in {outer.fragment.box.label} starts at {words}.", None)
    elif outer is not None and isinstance(facts, FieldsetFacts) and facts.legend is at.fragment.box:
        yield from _on_border(outer.fragment.box.label, facts)
    else:
        around = table_around(box)
        cell = None if around is None else around[1].cells.get(at.fragment.box)
        if around is not None and cell is not None:
            words = f"row {cell.row + 1}, column {cell.column + 1}"
            yield Reason(f"It is the cell in {words} of {around[0].fragment.box.label}.", None)


def _on_border(label: str, facts: FieldsetFacts) -> Iterator[Reason]:
    """HTML Standard §15.3.13: a legend, and what it moves."""
    yield Reason(f"It is on the top border of {label}.", None)
    if facts.room:
        lower = format_px(facts.room)
        yield Reason(f"It is taller than that border: the content below starts {lower} px lower.", None)


def _in_line(page: Page, outer: PlacedBox, at: PlacedBox, facts: FlexFacts) -> Iterator[Reason]:
    label, container = outer.fragment.box.label, outer.fragment.box.element
    for number, line in enumerate(facts.lines, 1):
        place = next((n for n, i in enumerate(line.items, 1) if i.box is at.fragment.box), None)
        if place is None:
            continue
        line_name = f"line {number}" if len(facts.lines) > 1 else "the line"
        gap = f", with gaps of {format_px(facts.gap)} px" if facts.gap and len(line.items) > 1 else ""
        yield Reason(f"It is item {place} of {len(line.items)} in {line_name} of {label}{gap}.", None)
        value = outer.fragment.box.style.justify_content
        if line.left > 0 and value not in ("normal", "flex-start", "start") and container is not None:
            text = f"justify-content is {value}: {format_px(line.left)} px of the line are free."
            yield _origin(page, container, "justify-content", text)


def _painted(page: Page, element: Element, at: PlacedBox) -> Iterator[Reason]:
    """A transform moves the picture of a box, and no box: CSS Transforms 1 §3."""
    matrix = own_matrix(at.fragment.box.style, at.rect)
    if matrix is None:
        return
    rect = at.rect
    x, y = (rect.x + rect.width / 2) / 64, (rect.y + rect.height / 2) / 64
    to_x, to_y = matrix.point(x, y)
    moved = ((to_x - x, ("right", "left")), (to_y - y, ("down", "up")))
    moves = [f"{format_px(from_px(abs(n)))} px {w[n < 0]}" for n, w in moved if from_px(n)]
    where = f"{' and '.join(moves)} of its place" if moves else "in its place"
    turned = "" if matrix.only_moves else ", turned or sized"
    name = next(
        n for n in ("transform", "translate", "rotate", "scale") if getattr(page.style_of(element), n)
    )
    yield _origin(page, element, name, f"{name} paints it {where}{turned}; no box moves.")


def _origin(page: Page, element: Element, longhand: str, sentence: str) -> Reason:
    return Reason(sentence, source_of(page, element, longhand))


def source_of(page: Page, element: Element, longhand: str) -> Source | None:
    """Where a longhand of an element was written; None if nobody did."""
    return written_value(page, element, longhand)[1]


def _side(page: Page, element: Element, at: PlacedBox) -> Iterator[Reason]:
    """From which side it is placed (§10.3.3)."""
    across = at.fragment.across
    left, right = format_px(across.margin_left), format_px(across.margin_right)
    auto: tuple[str, str]
    match across.margin_reason:
        case MarginReason.AUTO_SPLIT:
            auto = (
                "margin-left",
                f"Both side margins are auto: {left} px on each side, so it is centred.",
            )
        case MarginReason.AUTO_LEFT:
            auto = (
                "margin-left",
                f"Only the left margin is auto: its {left} px push the box to the right.",
            )
        case MarginReason.AUTO_RIGHT:
            auto = "margin-right", f"Only the right margin is auto: {right} px are free beside the box."
        case MarginReason.TOO_WIDE:
            auto = "margin-left", "It is wider than its containing block, so auto margins are 0."
        case MarginReason.ALIGNED:
            words = f"{left} px on its left, {right} px on its right"
            yield Reason(f"An align attribute or center element around it moves it: {words}.", None)
            return
        case MarginReason.JUSTIFIED:
            yield _justified(page, element, left, right)
            return
        case MarginReason.OVER_CONSTRAINED_LEFT:
            gives = format_px(across.rest)
            yield Reason(f"direction is rtl: the left margin adapts by {gives} px.", None)
            return
        case MarginReason.SPECIFIED | MarginReason.AUTO_ZERO | MarginReason.OVER_CONSTRAINED_RIGHT:
            yield from _left_margin(page, element, across.margin_left)
            return
        case _:
            assert_never(across.margin_reason)
    yield _origin(page, element, *auto)


def _justified(page: Page, element: Element, left: str, right: str) -> Reason:
    """CSS Align 3 §6.1: where the free width is, and who says so."""
    own = page.style_of(element).justify_self
    said = "justify-items around it" if own == "auto" else f"justify-self: {own}"
    words = f"{left} px on its left, {right} px on its right"
    source = written_value(page, element, "justify-self")[1]
    return Reason(f"Its place across comes from {said}: {words}.", source)


def _left_margin(page: Page, element: Element, amount: LayoutUnit) -> Iterator[Reason]:
    """What a left margin that is no auto one does."""
    if amount:
        where = "in from" if amount > 0 else "out beyond"
        words = f"{format_px(abs(amount))} px {where} the left edge of its containing block"
        yield _origin(page, element, "margin-left", f"Its left margin places it {words}.")


def _above(page: Page, element: Element, at: PlacedBox) -> Iterator[Reason]:
    """The margin above it, and whose it is (§8.3.1)."""
    group = _group_above(at)
    if group is None:
        yield from _trimmed(page, at)
        return
    won = winner_of(group)
    members = group.margins.members
    if won is None:
        return
    whose = (
        "its own top margin"
        if won.box is at.fragment.box
        else f"the {won.side} margin of {won.box.label}"
    )
    used = format_px(group.margins.used)
    if len(members) == 1:
        yield Reason(f"{used} px above it: {whose}.", None)
        return
    amounts = " and ".join(format_px(m.amount) for m in members)
    yield Reason(
        f"{used} px above it: {len(members)} margins collapse ({amounts}); {whose} counts.", None
    )


def _trimmed(page: Page, at: PlacedBox) -> Iterator[Reason]:
    """A margin at the top edge of a container that trims it: CSS Box 4 §3.2."""
    outer = at.container
    container = outer.fragment.box.element if outer is not None else None
    if outer is None or container is None or not at.fragment.margin.top:
        return
    inner = outer.fragment
    at_edge = at.placed.y == inner.border.top + inner.padding.top
    if at_edge and "block-start" in inner.box.style.margin_trim:
        amount = format_px(at.fragment.margin.top)
        sentence = f"margin-trim of {inner.box.label} removes its {amount} px of top margin."
        yield _origin(page, container, "margin-trim", sentence)


def _group_above(at: PlacedBox) -> MarginGroup | None:
    box = at.fragment.box
    for group in groups_of(at):
        if any(m.box is box and m.side == "top" for m in group.margins.members):
            return group
    parent = at.container
    if parent is None:
        return None
    y = at.placed.y
    return next((g for g in parent.fragment.groups if g.y == y and g.margins.members), None)


def refused(placed: Placed) -> Iterator[Reason]:
    """The places that had too little room for a float (§9.5.1), one sentence each; none where the first one would do."""
    for refusal in placed.refusals[:3]:
        if refusal.missing > 0:
            yield Reason(
                f"{format_px(refusal.room)} px available higher up, short by "
                f"{format_px(refusal.missing)} px: it moves below.",
                None,
            )
