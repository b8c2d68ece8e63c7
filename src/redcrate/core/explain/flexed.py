"""How a flex item came to its size along its line: CSS Flexbox 1 §9.2 and §9.7, from what layout kept.

The sum is exact: base size, share, and what a limit added or took make the used size, in 1/64 px.
"""

from collections.abc import Iterator

from redcrate.core.explain.terms import Reason, written_value
from redcrate.core.layout.flex_facts import BaseReason, FlexedItem, FlexedLine, FlexFacts, FlexLimit
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox, Page
from redcrate.core.records import dataclass
from redcrate.core.units import ZERO, LayoutUnit, format_px


@dataclass(frozen=True, slots=True)
class FlexSum:
    """One item in its line. share: what growing or shrinking gave it; beyond: what a limit added (or took).

    factor, factors: its own, and all of its line together; along: "width" or "height".
    """

    item: FlexedItem
    line: FlexedLine
    along: str
    share: LayoutUnit
    beyond: LayoutUnit
    factor: float
    factors: float


def flex_sum(box: ElementBox) -> FlexSum | None:
    """The sum of an item; None for what is no flex item."""
    around = None if box.box is None else box.box.container
    facts = None if around is None else around.fragment.facts
    if box.box is None or not isinstance(facts, FlexFacts):
        return None
    for line in facts.lines:
        for item in line.items:
            if item.box is box.box.fragment.box:
                return _sum(item, line, facts)
    return None


def _sum(item: FlexedItem, line: FlexedLine, facts: FlexFacts) -> FlexSum:
    gained = item.used - item.base
    stopped = item.limit is not FlexLimit.NONE
    grows = line.free >= 0
    factors = sum(_factor(i, grows=grows) for i in line.items)
    along = "width" if facts.is_row else "height"
    share, beyond = (ZERO, gained) if stopped else (gained, ZERO)
    return FlexSum(item, line, along, share, beyond, _factor(item, grows=grows), factors)


def _factor(item: FlexedItem, *, grows: bool) -> float:
    style = item.box.style
    return style.flex_grow if grows else style.flex_shrink


def flex_reasons(page: Page, element: Element, found: FlexSum) -> Iterator[Reason]:
    """Sentences: base size, the line's free space, the share of it, and who stopped it."""
    item, line = found.item, found.line
    yield _base(page, element, found)
    yield Reason(_free(line, found), None)
    if item.limit is FlexLimit.NONE:
        yield _share(page, element, found)
    else:
        yield _stopped(page, element, found)


def _base(page: Page, element: Element, found: FlexSum) -> Reason:
    base = format_px(found.item.base)
    longhand = "flex-basis" if found.item.base_reason is BaseReason.BASIS else found.along
    written, source = written_value(page, element, longhand)
    match found.item.base_reason:
        case BaseReason.BASIS:
            whole = source is not None and source.declaration.startswith("flex:")
            name = f"flex-basis (flex: {written})" if whole else f"flex-basis: {written}"
            text = f"Its base size is {base} px of content: {name}."
        case BaseReason.SIZE:
            text = f"Its base size is {base} px of content: flex-basis is auto, so its {found.along} counts."
        case BaseReason.RATIO:
            text = f"Its base size is {base} px of content, from its ratio and its other size."
        case BaseReason.CONTENT:
            text = f"Its base size is its max-content size: {base} px."
    return Reason(text, source)


def _free(line: FlexedLine, found: FlexSum) -> str:
    count = len(line.items)
    whose = (
        "It is the only item of its line"
        if count == 1
        else f"The {count} items of its line have their base sizes"
    )
    free = format_px(abs(line.free))
    if line.free > 0:
        return f"{whose}: {free} px of the line are free."
    if line.free < 0:
        return f"{whose}: together {free} px too {'wide' if found.along == 'width' else 'high'}."
    return f"{whose}: they fill the line exactly."


def _share(page: Page, element: Element, found: FlexSum) -> Reason:
    line, used = found.line, format_px(found.item.used)
    grows = line.free >= 0
    name = "flex-grow" if grows else "flex-shrink"
    _, source = written_value(page, element, name)
    if not line.free:
        return Reason(f"So it stays at {used} px.", source)
    if not found.factor:
        verb = "grow" if grows else "shrink"
        return Reason(f"{name} is 0, so it does not {verb}: {used} px.", source)
    amount = format_px(abs(found.share))
    if found.factor == found.factors:
        what = "no other item grows" if grows else "no other item shrinks"
    else:
        what = f"{found.factor:g} of {found.factors:g} shares"
        what += "" if grows else ", weighted by its size"
    return Reason(f"{name}: {what}, {amount} px {'more' if grows else 'less'}: {used} px.", source)


def _stopped(page: Page, element: Element, found: FlexSum) -> Reason:
    item = found.item
    side = "max" if item.limit is FlexLimit.MAXIMUM else "min"
    _, source = written_value(page, element, f"{side}-{found.along}")
    used = format_px(item.used)
    if item.limit is FlexLimit.AUTOMATIC:
        text = f"It cannot become smaller than its content (min-{found.along} is auto): {used} px."
    else:
        text = f"{side}-{found.along} limits it to {used} px."
    others = [i for i in found.line.items if i is not item and i.limit is FlexLimit.NONE]
    if others and found.line.free:
        text += " The other items share the rest."
    return Reason(text, source)
