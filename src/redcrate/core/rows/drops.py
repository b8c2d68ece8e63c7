"""Whether a drop surprises: a full list that begins its next row is what floats are made for."""

from redcrate.core.layout.fragments import Refusal
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page, PlacedBox
from redcrate.core.rows.row import Dropped
from redcrate.core.units import LayoutUnit

# Lacking less than one such part of its own width, a block was meant to fit: beside blocks of its own
# kind, and beside others, which seldom are the beginning of a list.
_ALIKE, _OTHERS = 3, 2


def is_surprising(page: Page, box: PlacedBox, refusal: Refusal) -> bool:
    """Whether a refused place is news to a designer.

    It is where the block lacks less than a third of its width, or less than half of it behind a block of
    another kind (another tag or other classes); not where one of many begins the next row.
    """
    return _surprises(page, box.fragment.box.element, refusal.missing, box.fragment.margin_width)


def wraps_unexpectedly(page: Page, dropped: Dropped) -> bool:
    """The same of the block that found too little room in a row of any kind."""
    return _surprises(page, dropped.element, dropped.missing, dropped.width)


def _surprises(page: Page, element: Element | None, missing: LayoutUnit, width: LayoutUnit) -> bool:
    before = _before(page, element) if element is not None else None
    alike = element is not None and before is not None and _kind(before) == _kind(element)
    return missing * (_ALIKE if alike else _OTHERS) < width


def _before(page: Page, element: Element) -> Element | None:
    """The sibling in front that has a box."""
    siblings = element.parent.child_elements if element.parent is not None else []
    earlier = [s for s in siblings[: siblings.index(element)] if page.box_of(s) is not None]
    return earlier[-1] if earlier else None


def _kind(element: Element) -> tuple[str, frozenset[str]]:
    return element.tag, frozenset(element.classes)
