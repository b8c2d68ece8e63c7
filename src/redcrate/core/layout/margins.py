"""Collapsing of adjoining vertical margins: CSS 2.2 §8.3.1.

In: margins in 1/64 px that were judged to be adjoining. Out: the one margin that takes their place,
with all that met, so that an explanation can name the winner. No tree in here.
"""

from redcrate.core.boxes.box import Box
from redcrate.core.markup.elements import DocumentMode
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
    dropped: tuple[MarginMember, ...] = ()  # by the edge of a body or cell in quirks mode

    def including(self, box: Box, side: str, amount: LayoutUnit) -> "MarginSet":
        """The set with one more margin; a margin of 0 changes nothing."""
        if amount == 0:
            return self
        return MarginSet(
            amount if amount > self.most_positive else self.most_positive,
            amount if amount < self.most_negative else self.most_negative,
            (*self.members, MarginMember(box, side, amount)),
            self.dropped,
        )

    def joined(self, other: "MarginSet") -> "MarginSet":
        """Both sets as one."""
        if not other.members and not other.dropped:
            return self
        if not self.members and not self.dropped:
            return other
        return MarginSet(
            max(self.most_positive, other.most_positive),
            min(self.most_negative, other.most_negative),
            self.members + other.members,
            self.dropped + other.dropped,
        )

    def without_defaults(self) -> "MarginSet":
        """The set at the edge of a body or cell of a page in quirks mode, where default margins do not count.

        HTML Standard §15.3.10, as engines carry it out: those that the default styles mark so, and both of a box that
        collapses through itself and whose top margin is such a one.
        """
        if not any(m.box.style.default_margins for m in self.members):
            return self
        through = {m.box for m in self.members if m.side == "top" and _is_default(m)}
        gone = tuple(m for m in self.members if m.box in through or _is_default(m))
        kept = MarginSet(dropped=self.dropped + gone)
        for member in self.members:
            if member not in gone:
                kept = kept.including(member.box, member.side, member.amount)
        return kept

    @property
    def used(self) -> LayoutUnit:
        """The used margin; negative where boxes overlap."""
        return self.most_positive + self.most_negative


def _is_default(member: MarginMember) -> bool:
    """Whether a margin comes from the default styles, and gives way in quirks mode."""
    return member.side in member.box.style.default_margins


def drops_default_margins(box: Box) -> bool:
    """Whether default margins do not count at the top and bottom edge of a box: of body and cells in quirks mode."""
    if box.style.document_mode is not DocumentMode.QUIRKS or box.element is None:
        return False
    return box.element.tag in ("body", "td", "th")


NO_MARGINS = MarginSet()


@dataclass(frozen=True, slots=True)
class MarginGroup:
    """A collapsed margin in its place: which margins met, and y of the far edge in the parent.

    ended_by: what stopped further collapsing, in words of the standard.
    """

    margins: MarginSet
    y: LayoutUnit
    ended_by: str
