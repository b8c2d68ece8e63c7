"""What rows of shares have in common: the widths that were written, and what they add up to."""

from collections.abc import Sequence

from redcrate.core.findings.look import Look
from redcrate.core.markup.elements import Element
from redcrate.core.rows import Row
from redcrate.core.style.values import Length
from redcrate.core.units import ZERO, LayoutUnit


def base_widths(look: Look, elements: Sequence[Element]) -> LayoutUnit | None:
    """The written widths together, 1/64 px, as if nothing came on top; None if one has none."""
    total = ZERO
    for element in elements:
        box = look.box(element)
        if box is None or not look.size_written(element):
            return None
        inside = look.style(element).box_sizing != "border-box"
        total += box.content_box.width if inside else box.border_box.width
    return total


def percent_sum(look: Look, elements: Sequence[Element]) -> float | None:
    """What widths that are all plain percentages add up to; None if one is not."""
    total = 0.0
    for element in elements:
        width = look.style(element).width
        if not isinstance(width, Length) or width.px or not width.percent:
            return None
        total += width.percent
    return total


def widths_were_meant_for_one_row(look: Look, row: Row) -> bool:
    """Whether the block that dropped was to stand in the row: not one of many alike in several rows."""
    assert row.dropped is not None
    elements = [*(i.element for i in row.items), row.dropped.element]
    shares = percent_sum(look, elements)
    if shares is not None and 99 <= shares <= 100.5:
        return True
    if len(elements) < 2 or any(not look.size_written(e) for e in elements):
        return False
    if shares is not None and shares > 125:
        return False
    if len({(e.tag, e.classes, look.style(e).width) for e in elements}) > 1:
        return True
    if shares is not None and shares > 100.5:
        return False
    kind = (elements[0].tag, elements[0].classes)
    parent = row.dropped.element.parent
    alike = (
        [e for e in parent.child_elements if (e.tag, e.classes) == kind] if parent is not None else []
    )
    return len(alike) == len(elements) and len(elements) > 2


def rounding_alone(row: Row, shares: float) -> bool:
    """Whether it is the shares' own surplus over 100 % that makes a block drop, and nothing on top of them."""
    assert row.dropped is not None
    surplus = row.room * (shares - 100) / 100
    return 100.0005 < shares <= 100.5 and row.dropped.missing <= surplus + 64


def cut_share(percent: float) -> str:
    """A share to a hundredth of a percent, rounded down: shares of a whole then never make more than it."""
    return f"{int(percent * 100 + 1e-6) / 100:g}"
