"""What a finding is: a sentence with numbers, the elements, the cause, and fixes that were worked out."""

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from enum import Enum
from typing import TYPE_CHECKING

from redcrate.core.edit.patch import Patch
from redcrate.core.explain.terms import Source
from redcrate.core.markup.elements import Element

if TYPE_CHECKING:
    from redcrate.core.findings.look import Look


class Severity(Enum):
    """How bad it is; each has a shape of its own beside its colour."""

    BREAKS = "breaks"
    SUSPICIOUS = "suspicious"
    ADVICE = "advice"

    @property
    def shape(self) -> str:
        """▲ breaks the layout, ◆ suspicious, ○ advice."""
        return {"breaks": "▲", "suspicious": "◆", "advice": "○"}[self.value]


@dataclass(frozen=True, slots=True)
class Fix:
    """One way out: a plain sentence with the values, and the patch that does it."""

    sentence: str
    patch: Patch


MakeFix = Callable[[], "Fix | None"]


@dataclass(frozen=True, slots=True, eq=False)
class Finding:
    """Something wrong or suspicious, as computed at one width.

    numbers: in px. ways: make the fixes when somebody wants them, the least change first.
    """

    family: str
    severity: Severity
    sentence: str
    elements: tuple[Element, ...]
    numbers: dict[str, float]
    cause: Source | None
    ways: tuple[MakeFix, ...] = ()

    @property
    def key(self) -> tuple[str, tuple[tuple[int, ...], ...], str]:
        """What makes it the same finding after an edit or at another width: family, places and cause."""
        cause = f"{self.cause.file} {self.cause.selector}" if self.cause else ""
        return self.family, tuple(e.path for e in self.elements[:1]), cause


@dataclass(frozen=True, slots=True)
class Family:
    """One kind of finding.

    name: fixed, for files and the command line. teaches: a paragraph of ours. example: the body of a
    little page that shows it, for the live drawing. find: yields the findings of a page.
    """

    name: str
    title: str
    teaches: str
    example: str
    find: "Callable[[Look], Iterable[Finding]]"
