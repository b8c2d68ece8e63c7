"""A question about what a change will do, whose answer was computed before it is asked. Amounts in 1/64 px."""

from typing import TypeAlias

from redcrate.core.geometry import Rect
from redcrate.core.labelled import Labelled
from redcrate.core.markup.elements import Element
from redcrate.core.records import dataclass
from redcrate.core.units import LayoutUnit


class Topic(Labelled):
    """What a question trains; the values are the words of the interface."""

    SUMS = "sums", "Sums"
    MARGINS = "margins that meet", "Collapsing margins"
    ROWS = "rows", "Rows"
    PLACES = "places", "Positions"


@dataclass(frozen=True, slots=True)
class Span:
    """A length on the page: from start to end along its axis, at a place of the other one."""

    is_across: bool
    start: LayoutUnit
    end: LayoutUnit
    at: LayoutUnit

    @property
    def amount(self) -> LayoutUnit:
        """How long it is; negative where the end comes first."""
        return self.end - self.start


@dataclass(frozen=True, slots=True)
class NumberQuestion:
    """How large something will be. kind: which quantity. before, after: where it is measured on the two pages."""

    kind: str
    topic: Topic
    element: Element
    words: str
    before: Span
    after: Span
    why: str


@dataclass(frozen=True, slots=True)
class PlaceQuestion:
    """Where a border box will be: it is said by moving its ghost there."""

    element: Element
    words: str
    before: Rect
    after: Rect
    why: str
    kind: str = "place"
    topic: Topic = Topic.PLACES


class Outcome(Labelled):
    """What becomes of a row; the values are the words of the interface."""

    STAYS = "stays", "all stay in the row"
    DROPS = "drops", "one block wraps"
    COMES_UP = "comes up", "one more block fits"
    STICKS_OUT = "overflows", "the blocks overflow"


@dataclass(frozen=True, slots=True)
class OutcomeQuestion:
    """What a change does to a row. choices: those that are offered."""

    element: Element
    words: str
    choices: tuple[Outcome, ...]
    outcome: Outcome
    why: str
    kind: str = "row"
    topic: Topic = Topic.ROWS


Question: TypeAlias = NumberQuestion | PlaceQuestion | OutcomeQuestion
