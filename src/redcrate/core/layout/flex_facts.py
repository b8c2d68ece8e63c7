"""What a flex container has found out while it laid out its items, for explanations: CSS Flexbox 1 §9.

Amounts are 1/64 px along the main axis.
"""

from enum import Enum

from redcrate.core.boxes.box import Box
from redcrate.core.records import dataclass
from redcrate.core.units import LayoutUnit


class BaseReason(Enum):
    """Where an item's flex base size comes from: §9.2."""

    BASIS = "flex-basis"
    SIZE = "its size, since flex-basis is auto"
    CONTENT = "its content"
    RATIO = "the ratio of its other size"


class FlexLimit(Enum):
    """What keeps an item from growing or shrinking on: §4.5, §9.7."""

    NONE = ""
    MINIMUM = "the minimum size (min-width or min-height)"
    MAXIMUM = "the maximum size (max-width or max-height)"
    AUTOMATIC = "the automatic minimum: its content"


@dataclass(frozen=True, slots=True)
class FlexedItem:
    """One item of a line: its base size, what it would be without flexing, what it came to.

    limit: what froze it before it had its share, in which `round`. extra: margins, borders and paddings.
    """

    box: Box
    base: LayoutUnit
    base_reason: BaseReason
    hypothetical: LayoutUnit
    used: LayoutUnit
    limit: FlexLimit
    round: int
    extra: LayoutUnit


@dataclass(frozen=True, slots=True)
class FlexedLine:
    """One line. free: the room that flexing had to share, negative where it shrank.

    in_margins: what auto margins took of the rest; left: what nobody took.
    """

    items: tuple[FlexedItem, ...]
    free: LayoutUnit
    left: LayoutUnit
    in_margins: LayoutUnit
    cross_start: LayoutUnit
    cross_size: LayoutUnit


@dataclass(frozen=True, slots=True, eq=False)
class FlexFacts:
    """The lines of a container. is_row: its main axis is across. gap: between two items of a line."""

    lines: tuple[FlexedLine, ...]
    is_row: bool
    room: LayoutUnit
    gap: LayoutUnit
    line_gap: LayoutUnit
