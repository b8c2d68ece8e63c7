"""What a finding is: a sentence with numbers, the elements, the cause, and fixes that were worked out."""

from collections.abc import Callable, Iterable
from enum import Enum
from typing import TYPE_CHECKING, TypeAlias

from redcrate.core.edit.patch import Patch
from redcrate.core.explain.terms import Source
from redcrate.core.markup.elements import Element
from redcrate.core.records import dataclass
from redcrate.core.style.window_ranges import WindowRange

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
    """One way out: a plain sentence with the values, and the patch that does it.

    moves: how many elements, besides those that the finding speaks of, then have another size or another distance to
    what is beside them, at most of all widths. changes: all that it changes, in words; "" where that is nothing.
    taller: by width, px, by how many px the page becomes taller, where it does (less than 0: shorter).
    """

    sentence: str
    patch: Patch
    moves: int = 0
    changes: str = ""
    taller: tuple[tuple[float, float], ...] = ()

    @property
    def told(self) -> str:
        """The sentence, and what else changes."""
        return f"{self.sentence}; {self.changes}" if self.changes else self.sentence


MakeFix = Callable[[], "Fix | None"]


@dataclass(frozen=True, slots=True, eq=False)
class RangedWay:
    """A way out that can be taken for a range of window widths only. make: works it out; None: for all widths."""

    make: Callable[[WindowRange | None], Fix | None]

    def __call__(self) -> Fix | None:
        """The fix for all widths."""
        return self.make(None)


# Family, places and cause.
Key: TypeAlias = tuple[str, tuple[tuple[int, ...], ...], str]


@dataclass(frozen=True, slots=True, eq=False)
class Finding:
    """Something wrong or suspicious, as computed at one width.

    numbers: in px. ways: make the fixes when somebody wants them, what was meant first, removal last.
    fold, fold_name: what it shares with those that are told in one line with it, and its own name among
    them. parts: the findings that it stands for, where it is such a line. minor: what most pages can do without; told
    to those who ask for all.
    """

    family: str
    severity: Severity
    sentence: str
    elements: tuple[Element, ...]
    numbers: dict[str, float]
    cause: Source | None
    ways: tuple[MakeFix, ...] = ()
    fold: str = ""
    fold_name: str = ""
    parts: "tuple[Finding, ...]" = ()
    minor: bool = False

    @property
    def key(self) -> "Key":
        """What makes it the same finding after an edit or at another width: family, places and cause."""
        cause = f"{self.cause.file} {self.cause.selector}" if self.cause else ""
        return self.family, tuple(e.path for e in self.elements[:1]), cause


class About(Enum):
    """What a kind of finding speaks of, so what it hangs on."""

    BOXES = "boxes: another width, another edit, and it may say something else"
    WRITING = "a slip of the pen in a name, a declaration or a class"
    NAMES = "which names and rules the page uses, and limits that contradict each other"


# Makes one finding of many of a kind.
Fold: TypeAlias = Callable[[list[Finding]], Finding]


@dataclass(frozen=True, slots=True)
class Family:
    """One kind of finding, and all that is asked of it as such.

    name: fixed, for files and the command line. teaches: a paragraph of ours. example: the body of a
    little page that shows it, for the live drawing. find: yields the findings of a page. judged_at_all_widths: what does
    something at one of them is no mistake. fixes_are_harmless: they take out what has no effect on any box. hangs_on_page:
    what is true of one page may not be of another that shares the sheet. fold: makes one line of many; None where each
    is told. folds_alike_only: only those that say what they have in common.
    """

    name: str
    title: str
    teaches: str
    example: str
    find: "Callable[[Look], Iterable[Finding]]"
    about: About = About.BOXES
    judged_at_all_widths: bool = False
    fixes_are_harmless: bool = False
    hangs_on_page: bool = False
    fold: Fold | None = None
    folds_alike_only: bool = False
