"""The one register of all families, and how a page is searched for what they know."""

from collections.abc import Collection, Generator, Iterable, Mapping
from dataclasses import replace
from importlib import import_module

from redcrate.core.error_boundary import error_boundary
from redcrate.core.findings.finding import About, Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.findings.usefulness import with_minor
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page

_NAMES = (
    "row-overflow share-rounding wider-than-container wider-than-viewport outgrew-its-width "
    "auto-margin-without-effect nearly-centred text-align-on-wrong-element inline-size-ignored inline-overlaps-lines "
    "margin-escapes-parent margins-collapsed source-space-gap image-descent-gap text-touches-edge "
    "negative-margin-overlap percent-height-without-reference collapsed-over-floats overflows-fixed-height min-over-max "
    "class-missing-on-one class-on-outer-element class-without-rule rule-without-element near-miss-name duplicate-id "
    "comma-in-shorthand unit-missing invalid-value throw-away-colour mixed-sizing-in-row float-not-cleared "
    "flex-minimum-overflow size-overruled no-effect-on-item unwrapped-row-overflow fraction-blown-up "
    "text-over-text text-out-of-box empty-tracks free-room-taken table-wider-than-container default-margin-shift "
    "media-range-overlap media-range-gap breaks-between-widths"
).split()


def _family(name: str) -> Family:
    family: Family = import_module(f"redcrate.core.findings.{name.replace('-', '_')}").FAMILY
    return family


FAMILIES: dict[str, Family] = {name: _family(name) for name in _NAMES}
ORDER = {Severity.BREAKS: 0, Severity.SUSPICIOUS: 1, Severity.ADVICE: 2}
# What they say hangs on boxes, so on the width.
OF_LAYOUT = frozenset(f.name for f in FAMILIES.values() if f.about is About.BOXES)


def findings_of(
    page: Page, texts: Mapping[str, str], families: Collection[str] = ()
) -> tuple[Finding, ...]:
    """All findings of a page, what breaks the layout first, then in document order.

    families: those that are looked for; all if none is named.
    """
    steps = finding_steps(page, texts, families)
    while True:
        try:
            next(steps)
        except StopIteration as end:
            return tuple(end.value)


def finding_steps(
    page: Page, texts: Mapping[str, str], families: Collection[str] = ()
) -> Generator[str, None, list[Finding]]:
    """The same, one family at a time, so that a window stays fluid meanwhile; returns the findings.

    Raises LayoutBug where a family fails.
    """
    look = Look(page, texts)
    found: list[Finding] = []
    for family in FAMILIES.values():
        if families and family.name not in families:
            continue
        with error_boundary(page.source.markup.source.name):
            found += family.find(look)
        yield family.name
    later = frozenset(page.boxes.later)
    with error_boundary(page.source.markup.source.name):
        found = with_minor(look, found)
    grouped = _grouped(f for f in found if not _stands_in(later, f))
    grouped.sort(key=_rank)
    return grouped


def _stands_in(later: frozenset[Element], finding: Finding) -> bool:
    """Whether it speaks of boxes in a container that blocks stand in for: browsers lay those out otherwise."""
    if not later or finding.family not in OF_LAYOUT or not finding.elements:
        return False
    first = finding.elements[0]
    return first in later or any(a in later for a in first.ancestors())


def _rank(finding: Finding) -> tuple[int, bool, int, str]:
    """What breaks first; slips of writing before what may follow from them; then the document's order."""
    place = finding.elements[0].number if finding.elements else 0
    return ORDER[finding.severity], not is_of_writing(finding), place, finding.family


def _grouped(found: Iterable[Finding]) -> list[Finding]:
    """Findings of one family and one cause as one, with all their elements."""
    kept: dict[object, Finding] = {}
    for finding in found:
        key = (finding.family, finding.cause) if finding.cause is not None else id(finding)
        first = kept.get(key)
        if first is None:
            kept[key] = finding
        else:
            if _over(finding) > _over(first):  # the worst is told
                elements = dict.fromkeys((*finding.elements, *first.elements))
                kept[key] = replace(finding, elements=tuple(elements))
            else:
                elements = dict.fromkeys((*first.elements, *finding.elements[:1]))
                kept[key] = replace(first, elements=tuple(elements))
    return list(kept.values())


def _over(finding: Finding) -> float:
    return finding.numbers.get("over", 0.0)


def read_by(finding: Finding) -> frozenset[str]:
    """The families that may say something else after a fix of a finding: not those of names, unless it is one."""
    return OF_LAYOUT if finding.family in OF_LAYOUT else frozenset(FAMILIES)


def is_of_writing(finding: Finding) -> bool:
    """Whether it is a slip of the pen in a name, a declaration or a class."""
    return FAMILIES[finding.family].about is About.WRITING


def needs_no_layout(finding: Finding) -> bool:
    """Whether its fixes take out what has no effect on any box."""
    return FAMILIES[finding.family].fixes_are_harmless
