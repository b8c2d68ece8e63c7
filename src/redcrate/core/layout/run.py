"""What the modules of layout need of each other: CSS Display 3 §2, formatting contexts.

Each formatting context is a function from a box and its constraints to a fragment's inside. They
are registered by what a box is, so that block, inline, and later table, flex and grid stand side
by side.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Protocol

from redcrate.core.boxes.box import Box
from redcrate.core.layout.floats import FloatContext
from redcrate.core.layout.fragments import Fragment, Line, Pending, Placed
from redcrate.core.layout.margins import MarginGroup, MarginSet
from redcrate.core.units import LayoutUnit


@dataclass(frozen=True, slots=True, eq=False)
class Inside:
    """What a formatting context makes of a box's content; places from its border box.

    height: the auto content height. end_margins: what hangs out at the bottom, still open to
    collapsing. through: nothing separated the top margins from the bottom ones.
    """

    children: tuple[Placed, ...]
    lines: tuple[Line, ...]
    height: LayoutUnit
    source: str
    end_margins: MarginSet
    first_baseline: LayoutUnit | None
    last_baseline: LayoutUnit | None
    pending: tuple[Pending, ...]
    groups: tuple[MarginGroup, ...]


class LayoutRun(Protocol):
    """One layout of a page, as its parts see it."""

    def independent(
        self,
        box: Box,
        cb_width: LayoutUnit,
        cb_height: LayoutUnit | None,
        available: LayoutUnit | None = None,
    ) -> Fragment:
        """Lay out a float or atomic inline-level box: its width shrinks to fit."""
        ...

    def min_max(self, box: Box) -> tuple[LayoutUnit, LayoutUnit]:
        """Preferred minimum and preferred content width of a box: CSS 2.2 §10.3.5."""
        ...

    def place_all(
        self, waiting: Iterable[Pending], block: "ContainingBlock", *, fixed: bool = False
    ) -> tuple[list[Placed], list[Pending]]:
        """Lay out absolute boxes in their containing block; also those that wait for one further out."""
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
    formatting context. width: of the content box. percent_height: what percentages refer to.
    """

    x: LayoutUnit
    y: LayoutUnit
    bfc_x: LayoutUnit
    bfc_y: LayoutUnit
    width: LayoutUnit
    percent_height: LayoutUnit | None
    floats: FloatContext
