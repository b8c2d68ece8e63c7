"""The one register of all families, and what is done with all of them: find, and verify fixes."""

from collections.abc import Callable, Generator, Iterable, Mapping
from dataclasses import replace
from importlib import import_module

from redcrate.core.edit.patch import Patch
from redcrate.core.errors import RedCrateError
from redcrate.core.findings.finding import Family, Finding, Fix, MakeFix, Severity
from redcrate.core.findings.look import Look
from redcrate.core.markup.elements import Element
from redcrate.core.own_faults import own_faults
from redcrate.core.page import Page

_NAMES = (
    "row-overflow share-rounding wider-than-container wider-than-viewport outgrew-its-width "
    "auto-margin-without-effect nearly-centred text-align-on-wrong-element inline-size-ignored inline-overlaps-lines "
    "margin-escapes-parent margins-collapsed source-space-gap image-descent-gap text-touches-edge "
    "negative-margin-overlap percent-height-without-reference collapsed-over-floats overflows-fixed-height min-over-max "
    "class-missing-on-one class-on-outer-element class-without-rule rule-without-element near-miss-name duplicate-id "
    "comma-in-shorthand unit-missing invalid-value throw-away-colour mixed-sizing-in-row float-not-cleared "
    "default-margin-shift"
).split()


def _family(name: str) -> Family:
    family: Family = import_module(f"redcrate.core.findings.{name.replace('-', '_')}").FAMILY
    return family


FAMILIES: dict[str, Family] = {name: _family(name) for name in _NAMES}
_ORDER = {Severity.BREAKS: 0, Severity.SUSPICIOUS: 1, Severity.ADVICE: 2}
_WRITING = frozenset(
    "class-missing-on-one class-on-outer-element near-miss-name duplicate-id comma-in-shorthand unit-missing "
    "invalid-value throw-away-colour".split()
)
_NAMES_ONLY = frozenset(("class-without-rule", "rule-without-element", "min-over-max"))
# The page and the texts after a patch.
Try = Callable[[Patch], tuple[Page, Mapping[str, str]]]


def findings_of(page: Page, texts: Mapping[str, str]) -> tuple[Finding, ...]:
    """All findings of a page, what breaks the layout first, then in document order."""
    steps = finding_steps(page, texts)
    while True:
        try:
            next(steps)
        except StopIteration as end:
            return tuple(end.value)


def finding_steps(page: Page, texts: Mapping[str, str]) -> Generator[str, None, list[Finding]]:
    """The same, one family at a time, so that a window stays fluid meanwhile; returns the findings.

    Raises LayoutBug where a family fails.
    """
    look = Look(page, texts)
    found: list[Finding] = []
    for family in FAMILIES.values():
        with own_faults(page.source.markup.source.name):
            found += family.find(look)
        yield family.name
    later = frozenset(page.boxes.later)
    grouped = _grouped(f for f in found if not _stands_in(later, f))
    grouped.sort(key=_rank)
    return grouped


def _stands_in(later: frozenset[Element], finding: Finding) -> bool:
    """Whether it speaks of boxes in a container that blocks stand in for: browsers lay those out otherwise."""
    if not later or finding.family in _WRITING | _NAMES_ONLY or not finding.elements:
        return False
    first = finding.elements[0]
    return first in later or any(a in later for a in first.ancestors())


def _rank(finding: Finding) -> tuple[int, bool, int, str]:
    """What breaks first; slips of writing before what may follow from them; then the document's order."""
    place = finding.elements[0].number if finding.elements else 0
    return _ORDER[finding.severity], finding.family not in _WRITING, place, finding.family


def _grouped(found: Iterable[Finding]) -> list[Finding]:
    """Findings of one family and one cause as one, with all their elements."""
    kept: dict[object, Finding] = {}
    for finding in found:
        key = (finding.family, finding.cause) if finding.cause is not None else id(finding)
        first = kept.get(key)
        if first is None:
            kept[key] = finding
        else:
            elements = tuple(dict.fromkeys((*first.elements, *finding.elements[:1])))
            kept[key] = replace(first, elements=elements)
    return list(kept.values())


def verified_fixes(finding: Finding, all_now: tuple[Finding, ...], attempt: Try) -> tuple[Fix, ...]:
    """The fixes of a finding that hold: with each applied, the finding is gone and no new ▲ one is there.

    all_now: the findings of the page as it is. attempt: computes the page after a patch.
    """
    known: set[object] = {f.key for f in all_now if f.severity is Severity.BREAKS}
    before = sum(f.key == finding.key for f in all_now)
    kept = (_verified(way, finding, known, before, attempt) for way in finding.ways)
    return tuple(f for f in kept if f is not None)[:4]


def verify(way: MakeFix, finding: Finding, all_now: tuple[Finding, ...], attempt: Try) -> Fix | None:
    """One way of a finding worked out and verified; None if it does not hold."""
    known: set[object] = {f.key for f in all_now if f.severity is Severity.BREAKS}
    return _verified(way, finding, known, sum(f.key == finding.key for f in all_now), attempt)


def _verified(
    way: MakeFix, finding: Finding, known: set[object], before: int, attempt: Try
) -> Fix | None:
    try:
        with own_faults("this fix"):
            fix = way()
        if fix is None:
            return None
        after = findings_of(*attempt(fix.patch))
    except RedCrateError:
        return None
    gone = sum(f.key == finding.key for f in after) < before
    new = any(f.severity is Severity.BREAKS and f.key not in known for f in after)
    return fix if gone and not new else None
