"""What formatting contexts are, and what they need of the layout that they work in: CSS Display 3 §2.

A formatting context lays out a box: its size, and what is inside. They are registered by what a box
holds (`engine.py`), so that block, inline, table, flex and grid stand side by side.
"""

from collections.abc import Iterable
from typing import Protocol

from redcrate.core.boxes.box import Box
from redcrate.core.layout.cache import LayoutCache
from redcrate.core.layout.floats import FloatContext
from redcrate.core.layout.fragments import (
    ContentSizes,
    Facts,
    Fragment,
    HeightSource,
    Line,
    OutOfFlowCandidate,
    Placed,
    SizeReason,
)
from redcrate.core.layout.known_height import KnownHeight
from redcrate.core.layout.margins import MarginGroup, MarginSet
from redcrate.core.layout.space import ConstraintSpace
from redcrate.core.records import dataclass
from redcrate.core.units import LayoutUnit


@dataclass(frozen=True, slots=True, eq=False)
class Content:
    """What a formatting context makes of a box's content; places from its border box.

    height: the auto content height, and what it came from: see HeightSource.
    end_margins: what hangs out at the bottom, still open to collapsing.
    """

    children: tuple[Placed, ...]
    lines: tuple[Line, ...]
    height: LayoutUnit
    source: HeightSource
    end_margins: MarginSet
    first_baseline: LayoutUnit | None
    last_baseline: LayoutUnit | None
    out_of_flow: tuple[OutOfFlowCandidate, ...]
    groups: tuple[MarginGroup, ...] = ()
    facts: Facts | None = None


class FormattingContext(Protocol):
    """A room of the house: one inner display type.

    reasons: the reasons that it gives for widths and heights of the boxes it lays out.
    """

    reasons: frozenset[SizeReason]

    def layout(self, run: "LayoutRun", box: Box, space: ConstraintSpace) -> Fragment:
        """The box with its used size and its content."""
        ...

    def content_sizes(self, run: "LayoutRun", box: Box, space: ConstraintSpace) -> ContentSizes:
        """The min-content and max-content width of the box's content box: CSS 2.2 §10.3.5."""
        ...


class LayoutRun(Protocol):
    """One layout of a page, as its formatting contexts see it.

    cache: what is known of boxes, from this layout and from earlier ones.
    """

    cache: LayoutCache

    def layout(self, box: Box, space: ConstraintSpace) -> Fragment:
        """Lay out a box in its formatting context, or take what is kept for the same space."""
        ...

    def content_sizes(self, box: Box) -> ContentSizes:
        """The min-content and max-content width of a box's content box."""
        ...

    def place_out_of_flow(
        self, candidates: Iterable[OutOfFlowCandidate], block: "ContainingBlock", *, fixed: bool = False
    ) -> tuple[list[Placed], list[OutOfFlowCandidate]]:
        """Lay out absolute boxes in their containing block; also those that look for one further out."""
        ...


@dataclass(frozen=True, slots=True)
class ContainingBlock:
    """What absolute boxes are placed in: CSS 2.2 §10.1; x and y from the border box around it."""

    x: LayoutUnit
    y: LayoutUnit
    width: LayoutUnit
    height: LayoutUnit
    direction: str


@dataclass(frozen=True, slots=True, eq=False)
class FlowArea:
    """Where the content of a box flows.

    x, y: of the content box from the border box. bfc_x, bfc_y: of the content box in its block
    formatting context. width: of the content box. percent_height: what percentages refer to. at_top:
    the margins at the top of the content already count in the box's own place, or not at all
    (CSS Box 4 §3.2). height: what is known of the box's own. lines_left: how many lines are shown;
    None: all.
    """

    x: LayoutUnit
    y: LayoutUnit
    bfc_x: LayoutUnit
    bfc_y: LayoutUnit
    width: LayoutUnit
    percent_height: LayoutUnit | None
    floats: FloatContext
    at_top: bool
    height: KnownHeight
    lines_left: int | None = None
