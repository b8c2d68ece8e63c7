"""Default margins that give way in quirks mode: HTML Standard §15.3.10."""

from collections.abc import Mapping

from redcrate.core.style.cascade import Cascaded, Winner
from redcrate.core.style.sheets import Origin

_MARKED = frozenset(("margin-block", "margin-block-start"))


def default_margins(cascaded: Cascaded) -> frozenset[str]:
    """The sides whose margin does not count at the edges of body and cells: HTML Standard §15.3.10, as engines do it.

    The default styles write such margins as `margin-block`, or as `margin-block-start` where that one alone is meant;
    whatever else sets one makes it a margin like any other.
    """
    sides = []
    for side, logical in (("top", "margin-block-start"), ("bottom", "margin-block-end")):
        winner = _last(cascaded.winners, logical, f"margin-{side}")
        if winner is None or winner.applied.rule.origin is not Origin.USER_AGENT:
            continue
        if winner.applied.declaration.name in _MARKED:
            sides.append(side)
    return frozenset(sides)


def _last(winners: Mapping[str, Winner], logical: str, physical: str) -> Winner | None:
    """The one of two names of a longhand that won later, if it is the logical one."""
    found = None
    for name, winner in winners.items():
        if name in (logical, physical):
            found = winner if name == logical else None
    return found
