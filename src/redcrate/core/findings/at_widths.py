"""Findings of one page at several window widths: merged, folded, ranked, effects under their causes."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace

from redcrate.core.findings.finding import Finding, Key, Severity
from redcrate.core.findings.folding import folded
from redcrate.core.findings.register import FAMILIES, ORDER
from redcrate.core.records import dataclass

_SIZES = ("over", "gap", "space", "behind", "off", "margin", "extra", "left", "distance", "height")


@dataclass(frozen=True, slots=True, eq=False)
class Held:
    """A finding with the window widths, px, at which it holds.

    finding: as it is at the first of them. because_of: the finding whose fix mends this one too.
    """

    finding: Finding
    widths: tuple[float, ...]
    because_of: "Held | None" = None

    @property
    def weight(self) -> float:
        """How much of it there is: px × elements × widths, where it has px."""
        numbers = self.finding.numbers
        px = next((abs(numbers[n]) for n in _SIZES if n in numbers), 1.0)
        return max(px, 1.0) * max(1, len(self.finding.elements)) * len(self.widths)


def held_at(
    found: Mapping[float, Sequence[Finding]],
    *,
    of: int = 0,
    fold: bool = True,
) -> tuple[Held, ...]:
    """All findings of a page, the worst first.

    found: those of each width. of: how many widths will be asked for, where not all are known yet. fold:
    whether many of one kind become one line.
    """
    merged: dict[Key, tuple[Finding, list[float]]] = {}
    for width, findings in found.items():
        for finding in findings:
            _, widths = merged.setdefault(finding.key, (finding, []))
            if width not in widths:
                widths.append(width)
    held = [
        Held(finding, tuple(widths))
        for finding, widths in merged.values()
        if not FAMILIES[finding.family].judged_at_all_widths or len(widths) == max(of, len(found))
    ]
    if fold:
        kept = folded([h.finding for h in held])
        by_finding = {id(h.finding): h for h in held}
        held = [by_finding.get(id(f)) or Held(f, _widths_of(f, by_finding, found)) for f in kept]
    return tuple(sorted(held, key=rank))


def _widths_of(
    folded_one: Finding, by_finding: Mapping[int, Held], found: Mapping[float, object]
) -> tuple[float, ...]:
    """The widths at which one at least of many of a kind holds."""
    theirs = {w for part in folded_one.parts for w in by_finding[id(part)].widths}
    return tuple(w for w in found if w in theirs)


def rank(held: Held) -> tuple[int, float, int, str]:
    """What breaks first, then by weight, then in the document's order."""
    finding = held.finding
    place = finding.elements[0].number if finding.elements else 0
    return ORDER[finding.severity], -held.weight, place, finding.family


def with_causes(held: Sequence[Held], effects: Mapping[Key, Iterable[Key]]) -> tuple[Held, ...]:
    """The findings again, each effect right under its cause.

    effects: the key of a finding → the keys of those that its fix mends too.
    """
    by_key = {h.finding.key: h for h in held}
    cause_of: dict[Key, Held] = {}
    for one in sorted(held, key=lambda h: cause_rank(h.finding)):
        for key in effects.get(one.finding.key, ()):
            effect = by_key.get(key)
            earlier = effect is not None and cause_rank(one.finding) < cause_rank(effect.finding)
            if earlier and key not in cause_of and one.finding.key not in cause_of:
                cause_of[key] = one
    groups: list[list[Held]] = []
    mine: dict[int, list[Held]] = {}  # by the cause, the effects
    keys = [h.finding.key for h in held]
    for one, key in zip(held, keys, strict=True):
        if key in cause_of:
            mine.setdefault(id(cause_of[key]), []).append(one)
    for one, key in zip(held, keys, strict=True):
        if key not in cause_of:
            effects_of_it = mine.get(id(one), ())
            groups.append([one, *(replace(h, because_of=one) for h in effects_of_it)])
    groups.sort(key=lambda group: min(rank(h) for h in group))
    return tuple(h for group in groups for h in group)


_CAUSES = (
    "class-missing-on-one class-on-outer-element near-miss-name duplicate-id comma-in-shorthand unit-missing invalid-value",
    "outgrew-its-width mixed-sizing-in-row share-rounding source-space-gap default-margin-shift",
    "row-overflow wider-than-container collapsed-over-floats text-align-on-wrong-element inline-size-ignored",
)
_CAUSE_RANK = {name: n for n, names in enumerate(_CAUSES) for name in names.split()}


def cause_rank(finding: Finding) -> int:
    """How far back in a chain of causes its family stands: slips of writing first, what is seen last."""
    return _CAUSE_RANK.get(finding.family, len(_CAUSES))


def is_cause(finding: Finding) -> bool:
    """Whether other findings may be its effects."""
    return cause_rank(finding) < len(_CAUSES)


def counts_of(findings: Iterable[Finding]) -> dict[Severity, int]:
    """How many there are of each severity."""
    all_of_them = tuple(findings)
    return {s: sum(f.severity is s for f in all_of_them) for s in Severity}
