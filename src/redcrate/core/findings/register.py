"""The one register of all families, and what is done with all of them: find, and verify fixes."""

from collections.abc import Callable, Mapping
from importlib import import_module

from redcrate.core.edit.patch import Patch
from redcrate.core.errors import RedCrateError
from redcrate.core.findings.finding import Family, Finding, Fix, Severity
from redcrate.core.findings.look import Look
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
# The page and the texts after a patch.
Try = Callable[[Patch], tuple[Page, Mapping[str, str]]]


def findings_of(page: Page, texts: Mapping[str, str]) -> tuple[Finding, ...]:
    """All findings of a page, what breaks the layout first, then in document order."""
    look = Look(page, texts)
    found = [f for family in FAMILIES.values() for f in family.find(look)]
    found.sort(key=lambda f: (_ORDER[f.severity], f.elements[0].number if f.elements else 0, f.family))
    return tuple(found)


def verified_fixes(finding: Finding, all_now: tuple[Finding, ...], attempt: Try) -> tuple[Fix, ...]:
    """The fixes of a finding that hold: with each applied, the finding is gone and no new ▲ one is there.

    all_now: the findings of the page as it is. attempt: computes the page after a patch.
    """
    known = {f.key for f in all_now if f.severity is Severity.BREAKS}
    before = sum(f.key == finding.key for f in all_now)
    kept: list[Fix] = []
    for way in finding.ways:
        try:
            fix = way()
            if fix is None:
                continue
            page, texts = attempt(fix.patch)
            after = findings_of(page, texts)
        except RedCrateError:
            continue
        gone = sum(f.key == finding.key for f in after) < before
        new = [f for f in after if f.severity is Severity.BREAKS and f.key not in known]
        if gone and not new:
            kept.append(fix)
    return tuple(kept[:4])
