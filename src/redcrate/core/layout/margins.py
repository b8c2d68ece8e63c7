"""Collapsing of adjoining vertical margins: CSS 2.2 §8.3.1.

In: margins in 1/64 px that were judged to be adjoining. Out: the one margin that takes their place,
with all that met, so that an explanation can name the winner. No tree in here.
"""

from redcrate.core.boxes.box import Box
from redcrate.core.records import dataclass
from redcrate.core.units import ZERO, LayoutUnit


@dataclass(frozen=True, slots=True)
class MarginMember:
    """One margin that met others: whose, on which side ("top" or "bottom"), and how large."""

    box: Box
    side: str
    amount: LayoutUnit


@dataclass(frozen=True, slots=True)
class MarginSet:
    """A set of adjoining margins: its extremes, and who is in it.

    A single running number is not enough: 20, -10, 15 collapse to 10, not to 15.
    """

    most_positive: LayoutUnit = ZERO  # never below 0
    most_negative: LayoutUnit = ZERO  # never above 0
    members: tuple[MarginMember, ...] = ()

    def including(self, box: Box, side: str, amount: LayoutUnit) -> "MarginSet":
        """The set with one more margin; a margin of 0 changes nothing."""
        if amount == 0:
            return self
        return MarginSet(
            amount if amount > self.most_positive else self.most_positive,
            amount if amount < self.most_negative else self.most_negative,
            (*self.members, MarginMember(box, side, amount)),
        )

    def joined(self, other: "MarginSet") -> "MarginSet":
        """Both sets as one."""
        if not other.members:
            return self
        if not self.members:
            return other
        return MarginSet(
            max(self.most_positive, other.most_positive),
            min(self.most_negative, other.most_negative),
            self.members + other.members,
        )

    @property
    def used(self) -> LayoutUnit:
        """The used margin; negative where boxes overlap."""
        return self.most_positive + self.most_negative


NO_MARGINS = MarginSet()


@dataclass(frozen=True, slots=True)
class MarginGroup:
    """A collapsed margin in its place: which margins met, and y of the far edge in the parent.

    ended_by: what stopped further collapsing, in words of the standard.
    """

    margins: MarginSet
    y: LayoutUnit
    ended_by: str
