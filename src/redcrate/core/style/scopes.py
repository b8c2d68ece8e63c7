"""@scope: CSS Cascade 6 §2.5 and §3.1.4."""

from collections.abc import Callable
from typing import TypeAlias

from redcrate.core.markup.elements import Element
from redcrate.core.records import dataclass

_Test: TypeAlias = Callable[[Element], bool]
FAR = 2**31  # farther than any scope's root: for rules that have none


@dataclass(frozen=True, slots=True)
class Scope:
    """The part of a page that a rule is about: from a root down to its limits.

    text: as written, to tell scopes apart. roots, limits: whether an element is one. around: of the
    @scope rule outside this one.
    """

    text: str
    roots: tuple[_Test, ...]
    limits: tuple[_Test, ...]
    around: "Scope | None" = None

    def distance(self, element: Element) -> int | None:
        """How many elements up the nearest root is; None for an element that is not in the scope."""
        at: Element | None = element
        steps = 0
        while at is not None:
            if any(test(at) for test in self.roots):
                inside = self.around is None or self.around.distance(at) is not None
                return steps if inside else None
            if any(test(at) for test in self.limits):
                return None
            at, steps = at.parent, steps + 1
        return None
