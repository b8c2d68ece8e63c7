"""The parts of an explanation: terms that add up, and sentences with their sources.

A term's amount is taken from the fragment that layout made, its reason from the enum that the same
function returned; nothing is computed here a second time.
"""

from collections.abc import Mapping
from functools import cache
from pathlib import PurePath

from redcrate.core.geometry import SIDES
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.records import dataclass
from redcrate.core.style.cascade import Applied, Winner
from redcrate.core.style.properties import LOGICAL
from redcrate.core.style.sheets import Origin
from redcrate.core.units import ZERO, LayoutUnit


@dataclass(frozen=True, slots=True)
class Source:
    """Where a value was written. selector: as written, or "style attribute". line: from 1."""

    selector: str
    file: str
    line: int
    declaration: str
    is_author: bool

    @property
    def short_file(self) -> str:
        """The file as it is shown: of one that does not stand beside the page, its name alone."""
        return PurePath(self.file).name if PurePath(self.file).is_absolute() else self.file

    @property
    def sentence(self) -> str:
        """As it stands under an explanation."""
        if not self.is_author:
            return f"{self.declaration} · {self.file}"
        return f"{self.declaration} · {self.selector}, {self.short_file} line {self.line}"


@dataclass(frozen=True, slots=True)
class Term:
    """One term of an equation.

    part: "margin", "border", "padding" or "content". side: "left", "right", "top", "bottom" or "".
    used: in 1/64 px. written: the value as specified for this side, "" if nobody did. longhand: the
    property that sets it. why: a few words on how the used value came about; "" if it is as written.
    struck: a vertical margin that another one swallowed.
    """

    part: str
    side: str
    longhand: str
    used: LayoutUnit
    written: str
    source: Source | None
    why: str = ""
    struck: bool = False


@dataclass(frozen=True, slots=True)
class Reason:
    """One sentence of why, and the source that it rests on."""

    sentence: str
    source: Source | None


@dataclass(frozen=True, slots=True)
class Equation:
    """How a container's size is spent.

    terms: in order; `spent` is their sum. available: the container's size, None if it follows from
    the content. container: its name. reasons: the sentences. is_shared: what is left is for others that share the
    container.
    """

    element: Element
    axis: str  # "across" or "down"
    container: str
    available: LayoutUnit | None
    terms: tuple[Term, ...]
    reasons: tuple[Reason, ...]
    is_shared: bool = False

    @property
    def spent(self) -> LayoutUnit:
        """What all terms take together (struck margins do not count)."""
        return sum((t.used for t in self.terms if not t.struck), ZERO)

    @property
    def left(self) -> LayoutUnit:
        """What is left of the container; negative where it is overspent."""
        return ZERO if self.available is None else self.available - self.spent

    def term(self, part: str, side: str) -> Term:
        """The term of that part and side.

        Raises KeyError if the equation has none.
        """
        for term in self.terms:
            if term.part == part and term.side == side:
                return term
        raise KeyError((part, side))


def source_of(applied: Applied | None) -> Source | None:
    """The source of a declaration that reached an element."""
    if applied is None:
        return None
    declaration, rule = applied.declaration, applied.rule
    return Source(
        rule.label,
        declaration.file,
        declaration.line,
        f"{declaration.name}: {declaration.text}",
        rule.origin is not Origin.USER_AGENT,
    )


def written_value(page: Page, element: Element, longhand: str) -> tuple[str, Source | None]:
    """The text written for a longhand on the element, and where; ("", None) if nobody wrote it."""
    winners = page.styled.cascade_of(element).winners
    winner = winners.get(_winner_among(winners, page.style_of(element).direction, longhand))
    if winner is None:
        return "", None
    applied = winner.applied
    return side_text(applied.declaration.name, applied.declaration.text, longhand), source_of(applied)


def physical_winner(page: Page, element: Element, longhand: str) -> str:
    """The name under which the winner of a physical longhand stands: its own, or a logical one."""
    winners = page.styled.cascade_of(element).winners
    return _winner_among(winners, page.style_of(element).direction, longhand)


def _winner_among(winners: Mapping[str, Winner], direction: str, longhand: str) -> str:
    column = 1 if direction == "rtl" else 0
    present = [n for n in _names_of(longhand, column) if n in winners]
    if len(present) < 2:
        return present[0] if present else longhand
    return max(present, key=list(winners).index)


@cache
def _names_of(longhand: str, column: int) -> tuple[str, ...]:
    """A physical longhand and the logical ones that mean it; column: of the table, by direction."""
    return longhand, *(n for n, pair in LOGICAL.items() if pair[column] == longhand)


def side_text(name: str, text: str, longhand: str) -> str:
    """The part of a shorthand's text that sets one side; the whole text where it is not 1–4 values."""
    sides = SIDES
    side = next((s for s in sides if s in longhand.split("-")), None)
    if name not in ("margin", "padding", "border-width", "inset") or side is None:
        return text
    values = split_values(text)
    if not 1 <= len(values) <= 4:
        return text
    places = ((0, 0, 0, 0), (0, 1, 0, 1), (0, 1, 2, 1), (0, 1, 2, 3))[len(values) - 1]
    return values[places[sides.index(side)]]


def split_values(text: str) -> list[str]:
    """The values of a text between white space; what stands in parentheses stays together."""
    values: list[str] = []
    depth = 0
    current = ""
    for char in text:
        if char.isspace() and depth == 0:
            if current:
                values.append(current)
            current = ""
            continue
        depth += {"(": 1, ")": -1}.get(char, 0)
        current += char
    return [*values, current] if current else values
