"""Media rules whose ranges of window widths meet badly: what the families of gap and overlap share."""

import re
from collections.abc import Iterable, Iterator, Sequence

from redcrate.core.edit.css_text import block_place
from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.edit.range_removal import rules_in
from redcrate.core.edit.range_rules import RangeBlock, range_blocks
from redcrate.core.edit.targets import matched
from redcrate.core.edit.typed import format_length
from redcrate.core.explain.terms import Source
from redcrate.core.findings.finding import Finding, MakeFix, Severity
from redcrate.core.findings.look import Look
from redcrate.core.markup.elements import Element
from redcrate.core.records import dataclass
from redcrate.core.style.window_ranges import WindowRange

_VALUE = r"(\d+(?:\.\d+)?)(px|em|rem)"
_UPPER = rf"max-width\s*:\s*{_VALUE}|width\s*<=\s*{_VALUE}|{_VALUE}\s*>=\s*width"
_LOWER = rf"min-width\s*:\s*{_VALUE}|width\s*>=\s*{_VALUE}|{_VALUE}\s*<=\s*width"
_PX = {"px": 1.0, "em": 16.0, "rem": 16.0}


@dataclass(frozen=True, slots=True, eq=False)
class Neighbours:
    """Two blocks of which one ends about where the other one begins.

    apart: px between them; 1: none is forgotten; 0: one px is in both; 2: one is in neither. elements: those
    that both speak of, or else of either.
    """

    narrower: RangeBlock
    wider: RangeBlock
    elements: tuple[Element, ...]
    share_elements: bool

    @property
    def apart(self) -> int:
        """How many px further the wider range begins than the narrower one ends."""
        return self.wider.window.least - self.narrower.window.most


def neighbours(look: Look, apart: int) -> Iterator[Neighbours]:
    """The pairs of ranges that stand so far apart, each once."""
    ranges = look.page.source.once("ranges", lambda: _by_range(range_blocks(look.page)))
    beginning: dict[int, list[WindowRange]] = {}
    for window in ranges:
        beginning.setdefault(window.least, []).append(window)
    for window, blocks in ranges.items():
        for other in beginning.get(window.most + apart, ()):
            narrower, wider = _used(look, blocks), _used(look, ranges[other])
            if window < other and narrower is not None and wider is not None:
                (one, first), (two, second) = narrower, wider
                behind = set(second)
                both = [e for e in first if e in behind]
                yield Neighbours(one, two, tuple(both or (*first, *second)), bool(both))


def _by_range(blocks: Iterable[RangeBlock]) -> dict[WindowRange, list[RangeBlock]]:
    found: dict[WindowRange, list[RangeBlock]] = {}
    for block in blocks:
        found.setdefault(block.window, []).append(block)
    return found


def _used(look: Look, blocks: Sequence[RangeBlock]) -> tuple[RangeBlock, list[Element]] | None:
    """The first of the blocks of one range that speaks of elements, and these."""
    found = ((block, _elements(look, block)) for block in blocks)
    return next((one for one in found if one[1]), None)


def _elements(look: Look, block: RangeBlock) -> list[Element]:
    found = (e for r in rules_in(look.page, block.rule) for e in matched(look.page, r.selectors))
    return list(dict.fromkeys(found))


def found(look: Look, family: str, pair: Neighbours, sentence: str, at: float) -> Finding:
    """The finding that speaks of a pair; `at`: the width, px, that it is about."""
    rule = pair.wider.rule
    text = f"@media {rule.media[-1].text}"
    return Finding(
        family,
        Severity.SUSPICIOUS if pair.share_elements else Severity.ADVICE,
        sentence,
        pair.elements,
        {"at": float(at)},
        Source(text, rule.file, rule.line, text, True),
        _ways(look, pair),
    )


def named(block: RangeBlock) -> str:
    """A block as a sentence names it."""
    return f"{block.rule.media[-1].text} (line {block.rule.line})"


def _ways(look: Look, pair: Neighbours) -> tuple[MakeFix, ...]:
    """One of both ranges ends or begins a px further, so that they meet."""
    by = pair.apart - 1
    last, first = pair.narrower.window.most + by, pair.wider.window.least - by
    return (
        look.fix(
            f"Start {named(pair.wider)} at {first} px",
            lambda: _moved(look, pair.wider, _LOWER, -by, first),
        ),
        look.fix(
            f"End {named(pair.narrower)} at {last} px",
            lambda: _moved(look, pair.narrower, _UPPER, by, last),
        ),
    )


def _moved(look: Look, block: RangeBlock, bound: str, by: int, to: int) -> Patch | None:
    """The bound of a block's own query moved by so many px, in its own unit."""
    text = look.texts.get(block.rule.file, "")
    inside = block_place(text, block.rule.start)
    match = re.search(bound, text[block.rule.start : inside.start], re.IGNORECASE) if inside else None
    if match is None:
        return None
    number = next(n for n in range(1, len(match.groups()), 2) if match.group(n))
    value = float(match.group(number)) + by / _PX[match.group(number + 1).lower()]
    start, end = (block.rule.start + at for at in match.span(number))
    sentence = f"@media {block.rule.media[-1].text} moved to {to} px"
    return Patch((TextEdit(block.rule.file, start, end, format_length(value)),), sentence)
