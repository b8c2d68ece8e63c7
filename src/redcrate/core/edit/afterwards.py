"""Compensation after the fact: a box that is wider than the width it was given gives the surplus back."""

from collections.abc import Mapping

from redcrate.core.edit.gives import Gives, Plan, Planner
from redcrate.core.edit.targets import ANYWHERE, WritesTo
from redcrate.core.errors import EditRefused
from redcrate.core.layout.fragments import SizeReason
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.records import dataclass
from redcrate.core.units import LayoutUnit, format_px


@dataclass(frozen=True, slots=True)
class Surplus:
    """By how much a border box is larger than the size that was written, 1/64 px."""

    axis: str  # "across" or "down"
    given: LayoutUnit
    amount: LayoutUnit

    @property
    def sentence(self) -> str:
        """As the interface says it."""
        what, name = ("wider", "width") if self.axis == "across" else ("taller", "height")
        by = format_px(self.amount)
        return f"The border box is {by} px {what} than its {name} of {format_px(self.given)} px: subtract {by} px."


def surplus_of(page: Page, element: Element, axis: str = "across") -> Surplus | None:
    """The surplus of an element whose size was written for its content; None if there is none."""
    box = page.box_of(element)
    if box is None or box.box is None or page.style_of(element).box_sizing == "border-box":
        return None
    fragment = box.box.fragment
    sizes = fragment.across if axis == "across" else fragment.down
    if sizes.limit or sizes.reason not in (SizeReason.SPECIFIED, SizeReason.PERCENT):
        return None
    across = axis == "across"
    edges = (
        fragment.padding.across + fragment.border.across
        if across
        else fragment.padding.down + fragment.border.down
    )
    return Surplus(axis, sizes.content, edges) if edges else None


def take_off(
    page: Page,
    texts: Mapping[str, str],
    element: Element,
    axis: str = "across",
    writes_to: WritesTo = ANYWHERE,
) -> Plan:
    """The written size less padding and border, so that the border box is what was given.

    Raises EditRefused if there is nothing to take off, or if the content would be negative.
    """
    surplus = surplus_of(page, element, axis)
    box = page.box_of(element)
    if surplus is None or box is None:
        raise EditRefused("the border box is not larger than the written size.")
    planner = Planner(page, element, box)
    planner.compensate(axis, {"": surplus.amount}, Gives.CONTENT)
    return planner.plan(texts, writes_to)


def width_for_outer(page: Page, element: Element, outer: float) -> float:
    """The width, px, with which the margin box of an element is `outer` px wide, by its box-sizing as it is.

    Raises EditRefused where it has no box.
    """
    box = page.box_of(element)
    if box is None:
        raise EditRefused("it has no box.", where=element.label)
    sized_by_border = page.style_of(element).box_sizing == "border-box"
    inside = box.border_box if sized_by_border else box.content_box
    return outer - (box.margin_box.width - inside.width) / 64
