"""With which rectangles and styles the surface of a box is painted: most in one go, a fieldset round its legend."""

from PyQt6.QtGui import QPainterPath

from redcrate.app.painting.colours import to_rect
from redcrate.app.painting.tables import surface_of, without_borders
from redcrate.core.geometry import Rect
from redcrate.core.layout.fieldset_facts import FieldsetFacts
from redcrate.core.page import PlacedBox
from redcrate.core.records import dataclass
from redcrate.core.style.computed import ComputedStyle

_REACH = 2000  # px: shadows and outlines stand outside the frame


@dataclass(frozen=True, slots=True)
class Surface:
    """What is painted: a border box (1/64 px) in a style, inside a path (px) where that is not None."""

    rect: Rect
    style: ComputedStyle
    inside: QPainterPath | None = None


def surfaces_of(box: PlacedBox) -> tuple[Surface, ...]:
    """The surfaces of a box, in the order in which they are painted; none where nothing shows."""
    facts = box.fragment.facts
    if isinstance(facts, FieldsetFacts):
        return _round_legend(box, facts)
    only = surface_of(box)
    return () if only is None else (Surface(*only),)


def _round_legend(box: PlacedBox, facts: FieldsetFacts) -> tuple[Surface, ...]:
    """HTML Standard §15.3.13: the frame begins lower, and its border stops where the legend stands."""
    rect, style, border = box.rect, box.fragment.box.style, box.fragment.border
    frame = Rect(rect.x, rect.y + facts.frame_top, rect.width, rect.height - facts.frame_top)
    legend = next(p for p in box.fragment.children if p.fragment.box is facts.legend)
    behind = QPainterPath()
    left, top = rect.x + legend.x + legend.shift_x, frame.y
    behind.addRect(to_rect(Rect(left, top, legend.fragment.width, border.top)))
    around = QPainterPath()
    around.addRect(to_rect(frame).adjusted(-_REACH, -_REACH, _REACH, _REACH))
    return (
        Surface(frame, without_borders(style), behind),
        Surface(frame, style, around.subtracted(behind)),
    )
