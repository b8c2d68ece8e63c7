"""The places that a box was refused, on the page: CSS 2.2 §9.5.1."""

from redcrate.core.geometry import Rect
from redcrate.core.layout.fragments import Refusal
from redcrate.core.page import PlacedBox
from redcrate.core.records import dataclass
from redcrate.core.units import LayoutUnit


@dataclass(frozen=True, slots=True)
class RefusedPlace:
    """Where the margin box would have stood, and how much was missing there; 1/64 px from the page's top left."""

    rect: Rect
    missing: LayoutUnit
    refusal: Refusal


def refused_places(at: PlacedBox) -> tuple[RefusedPlace, ...]:
    """The places that had too little room, in the order in which they were tried."""
    context = at.container
    while (
        context is not None
        and not context.fragment.box.establishes_bfc
        and context.container is not None
    ):
        context = context.container
    if context is None:
        return ()
    width, height = at.fragment.margin_width, at.fragment.margin_height
    return tuple(
        RefusedPlace(Rect(context.rect.x + r.x, context.rect.y + r.y, width, height), r.missing, r)
        for r in at.placed.refusals
        if r.missing > 0
    )
