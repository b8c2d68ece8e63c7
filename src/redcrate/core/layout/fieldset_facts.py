"""What a fieldset has found out about its legend, for explanations and the painter; 1/64 px."""

from redcrate.core.boxes.box import Box
from redcrate.core.records import dataclass
from redcrate.core.units import LayoutUnit


@dataclass(frozen=True, slots=True, eq=False)
class FieldsetFacts:
    """HTML Standard §15.3.13. room: how much higher the legend is, with its margins, than the border that it
    stands on; the content begins so much lower. frame_top: where that border is drawn, from the border box.
    """

    legend: Box
    room: LayoutUnit
    frame_top: LayoutUnit
