"""Checking several pages in one run: what one page alone cannot know, and what was known before."""

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace
from pathlib import Path
from typing import Any

from redcrate.core.findings.at_widths import counts_of
from redcrate.core.findings.checking import Check, Checked
from redcrate.core.findings.finding import Severity
from redcrate.core.findings.register import FAMILIES, ORDER
from redcrate.core.units import counted

_PAGES = (".html", ".htm")
# What makes it the same finding in an earlier run: page, family, cause and element, by their words.
Mark = tuple[str, str, str, str, str]


def pages_in(places: Iterable[Path]) -> list[Path]:
    """The pages that are named, and all that stand in the folders that are named, hidden ones apart."""
    found: dict[Path, None] = {}
    for place in places:
        if place.is_dir():
            inside = (p for p in place.rglob("*") if p.suffix.lower() in _PAGES and p.is_file())
            shown = (p for p in inside if not any(n.startswith(".") for n in p.relative_to(place).parts))
            found.update(dict.fromkeys(sorted(shown)))
        else:
            found[place] = None
    return list(found)


def without_shared_rules(checks: Sequence[Check]) -> list[Check]:
    """The checks without rules that match nothing in sheets of several pages: another page may use them."""
    users = Counter(sheet for check in checks for sheet in check.sheets)
    return [_without_rules_of({s for s in c.sheets if users[s] > 1}, c) for c in checks]


def _without_rules_of(shared: set[Path], check: Check) -> Check:
    def is_told(one: Checked) -> bool:
        cause = one.finding.cause
        if not FAMILIES[one.finding.family].hangs_on_page or cause is None:
            return True
        return (check.path.parent / cause.file).resolve() not in shared

    return replace(check, checked=tuple(c for c in check.checked if is_told(c)))


def at_least(check: Check, severity: Severity) -> Check:
    """The check with what is as bad as that, or worse."""
    kept = (c for c in check.checked if ORDER[c.finding.severity] <= ORDER[severity])
    return replace(check, checked=tuple(kept))


def without_known(check: Check, known: Counter[Mark]) -> Check:
    """The check with what an earlier run did not know; each mark stands for as many as it was there."""
    left = Counter(known)
    new = []
    for one in check.checked:
        mark = mark_of(check, one)
        if left[mark] > 0:
            left[mark] -= 1
        else:
            new.append(one)
    return replace(check, checked=tuple(new))


def mark_of(check: Check, one: Checked) -> Mark:
    """What tells a finding from others in runs before and after an edit elsewhere in the page."""
    cause, elements = one.finding.cause, one.finding.elements
    label = _label(elements[0].tag, elements[0].id or "", elements[0].classes) if elements else ""
    file, selector = (cause.file, cause.selector) if cause is not None else ("", "")
    return str(check.path), one.finding.family, file, selector, label


def marks_in(result: Any) -> Counter[Mark]:
    """The marks in what an earlier run printed as JSON. Raises ValueError for anything else."""
    pages = result.get("pages", [result]) if isinstance(result, Mapping) else None
    if not isinstance(pages, list):
        raise ValueError("not a result of redcrate check")
    found: Counter[Mark] = Counter()
    try:
        for page in pages:
            for one in page.get("findings", ()):
                cause = one["cause"] or {"file": "", "selector": ""}
                first = one["elements"][0] if one["elements"] else None
                label = _label(first["tag"], first["id"], first["classes"]) if first else ""
                found[page["page"], one["family"], cause["file"], cause["selector"], label] += 1
    except (KeyError, TypeError, AttributeError):
        raise ValueError("not a result of redcrate check") from None
    return found


def _label(tag: str, ident: str, classes: Iterable[str]) -> str:
    return f"{tag}{f'#{ident}' if ident else ''}{''.join(f'.{c}' for c in classes)}"


def summary(checks: Sequence[Check]) -> str:
    """One line about all pages."""
    counts = counts_of(c.finding for check in checks for c in check.checked)
    sound = sum(not check.checked for check in checks)
    words = "  ".join(f"{s.shape} {n} {s.value}" for s, n in counts.items())
    pages = counted(len(checks), "1 page", "{count} pages")
    return f"{pages}, {sound} without findings.  {words}"
