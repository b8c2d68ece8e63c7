"""One line for many findings of one kind: unused rules of a sheet, classes without a rule, one slip written often."""

from collections.abc import Sequence

from redcrate.core.findings.finding import Finding
from redcrate.core.findings.register import FAMILIES

_MOST_APART = 3  # as many of a kind are told one by one


def folded(findings: Sequence[Finding]) -> list[Finding]:
    """The findings with one for each kind that there are many of, where the first of them stood."""
    groups: dict[tuple[str, ...], list[Finding]] = {}
    for finding in findings:
        groups.setdefault(_kind(finding), []).append(finding)
    out: list[Finding] = []
    seen: set[tuple[str, ...]] = set()
    for finding in findings:
        kind = _kind(finding)
        fold = FAMILIES[finding.family].fold
        many = groups[kind]
        if fold is None or len(many) <= _MOST_APART:
            out.append(finding)
        elif kind not in seen:
            seen.add(kind)
            out.append(fold(many))
    return out


def _kind(finding: Finding) -> tuple[str, ...]:
    """What findings that are folded into one have in common."""
    file = finding.cause.file if finding.cause is not None else ""
    alone = (str(id(finding)),) if FAMILIES[finding.family].folds_alike_only and not finding.fold else ()
    return (finding.family, file, finding.fold, *alone)
