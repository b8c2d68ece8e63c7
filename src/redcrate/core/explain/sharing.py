"""Boxes whose size their container decides: items of flex and grid containers, and parts of tables.

CSS Flexbox 1 §9, CSS Grid 1 §6.2 and §12, CSS 2.2 §17.5.
"""

from collections.abc import Iterator
from enum import Enum

from redcrate.core.explain.columns import column_reasons, table_around
from redcrate.core.explain.flexed import flex_reasons, flex_sum
from redcrate.core.explain.terms import Reason, written_value
from redcrate.core.explain.tracks import area_reasons, area_sums
from redcrate.core.layout.flex_facts import FlexFacts
from redcrate.core.layout.fragments import SizeReason
from redcrate.core.layout.grid_facts import GridFacts
from redcrate.core.page import ElementBox, Page
from redcrate.core.units import format_px


class Sharing(Enum):
    """What a box shares its container with others by."""

    LINE = "a flex line"
    AREA = "a grid"
    COLUMNS = "a table"


def sharing_of(box: ElementBox) -> Sharing | None:
    """How a box shares its container; None for one that flows in it."""
    if box.box is None or box.box.container is None or not box.box.fragment.box.in_flow:
        return None
    facts = box.box.container.fragment.facts
    if isinstance(facts, FlexFacts):
        return Sharing.LINE
    if isinstance(facts, GridFacts):
        return Sharing.AREA
    return Sharing.COLUMNS if table_around(box) is not None else None


def decided_by_container(
    page: Page, box: ElementBox, reason: SizeReason, along: str
) -> Iterator[Reason]:
    """Sentences on a size ("width" or "height") that the container decided; none where it did not."""
    element = box.element
    if reason is SizeReason.FLEXED:
        found = flex_sum(box)
        if found is not None:
            yield from flex_reasons(page, element, found)
    elif reason is SizeReason.LINE:
        yield _stretched(page, box, along)
    elif reason is SizeReason.AREA:
        areas = area_sums(box)
        if areas is not None:
            yield Reason(f"{along} is auto: it fills its area.", None)
            yield from area_reasons(areas[0 if along == "width" else 1])
    elif reason is SizeReason.COLUMNS:
        yield from column_reasons(box)
    elif reason is SizeReason.ROWS:
        yield _rows(box)


def _stretched(page: Page, box: ElementBox, along: str) -> Reason:
    used = box.border_box.width if along == "width" else box.border_box.height
    written, source = written_value(page, box.element, "align-self")
    if not written and box.element.parent is not None:
        written, source = written_value(page, box.element.parent, "align-items")
    why = written or "normal"
    size = "wide" if along == "width" else "high"
    text = f"{along} is auto and it is aligned {why}: it is as {size} as its line, {format_px(used)} px."
    return Reason(text, source)


def _rows(box: ElementBox) -> Reason:
    assert box.box is not None
    natural, used = box.box.fragment.down.auto_height, box.box.fragment.down.content
    text = f"It is as high as its row: {format_px(used)} px of content"
    if natural and used > natural:
        text += f", {format_px(used - natural)} more than its own"
    return Reason(f"{text}.", None)
