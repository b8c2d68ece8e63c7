"""Checking a page at several widths: one list of findings, each with the widths at which it holds."""

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from redcrate.core.edit.patch import Patch, apply_patch
from redcrate.core.files.loading import Resources, assemble, read_page
from redcrate.core.files.settings import PageSettings, read_settings
from redcrate.core.findings.finding import Finding, Fix, Severity
from redcrate.core.findings.register import findings_of, verified_fixes
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page, compute_page
from redcrate.core.style.media import Viewport


@dataclass(frozen=True, slots=True, eq=False)
class Checked:
    """A finding with the widths, px, at which it is there, and its verified fixes at the first of them."""

    finding: Finding
    widths: tuple[float, ...]
    fixes: tuple[Fix, ...]


@dataclass(frozen=True, slots=True, eq=False)
class Check:
    """All findings of a page. page: at the first width, for the elements' indices."""

    path: Path
    page: Page
    checked: tuple[Checked, ...]

    @property
    def breaks(self) -> bool:
        """Whether one of them breaks the layout."""
        return any(c.finding.severity is Severity.BREAKS for c in self.checked)


def place_of(element: Element | None) -> str:
    """The place of an element in words that outlive most edits: tags with their numbers among siblings."""
    parts: list[str] = []
    at = element
    while at is not None:
        parts.append(f"{at.tag}:{at.sibling_index + 1}" if at.parent is not None else at.tag)
        at = at.parent
    return ">".join(reversed(parts)) or "*"


def is_silenced(finding: Finding, settings: PageSettings) -> bool:
    """Whether the designer has silenced a finding on its element."""
    first = finding.elements[0] if finding.elements else None
    return settings.is_silenced(finding.family, place_of(first))


def check_page(path: Path, widths: Sequence[float], height: float = 800, *, fixes: bool = True) -> Check:
    """Check a page at all widths. Raises PageNotReadable."""
    resources = Resources(path)
    loaded = read_page(path)
    assembled = assemble(loaded.source, resources)
    texts = {
        loaded.source.name: loaded.source.text,
        **{n: f.source.text for n, f in assembled.files.items()},
    }
    sources = {loaded.source.name: loaded.source, **{n: f.source for n, f in assembled.files.items()}}
    settings = read_settings(path)
    found: dict[object, tuple[Finding, list[float], tuple[Fix, ...]]] = {}
    first: Page | None = None
    for width in widths:
        page = compute_page(assembled.page, Viewport(width, height), first)
        first = first or page

        def attempt(patch: Patch, at: Page = page) -> tuple[Page, dict[str, str]]:
            changed, _ = apply_patch(patch, texts)
            edited = {n: sources[n].with_text(t) for n, t in changed.items()}
            html = edited.get(loaded.source.name, loaded.source)
            after = assemble(html, resources, edited.get, assembled)
            return compute_page(after.page, at.viewport, at), {**texts, **changed}

        everything = findings_of(page, texts)
        for finding in everything:
            if is_silenced(finding, settings):
                continue
            known = found.get(finding.key)
            if known is not None:
                known[1].append(width)
            else:
                ways = verified_fixes(finding, everything, attempt) if fixes else ()
                found[finding.key] = (finding, [width], ways)
    assert first is not None
    return Check(
        path, first, tuple(Checked(f, tuple(dict.fromkeys(w)), x) for f, w, x in found.values())
    )


def check_json(check: Check) -> dict[str, Any]:
    """The check as plain data: docs/check.md, findings/check_schema.json."""
    return {
        "page": str(check.path),
        "findings": [
            {
                "family": c.finding.family,
                "severity": c.finding.severity.value,
                "widths": list(c.widths),
                "elements": [
                    {"index": e.index, "tag": e.tag, "id": e.id or "", "classes": list(e.classes)}
                    for e in c.finding.elements
                ],
                "sentence": c.finding.sentence,
                "numbers": c.finding.numbers,
                "cause": None
                if c.finding.cause is None
                else {
                    "file": c.finding.cause.file,
                    "line": c.finding.cause.line,
                    "selector": c.finding.cause.selector,
                },
                "fixes": [
                    {
                        "sentence": f.sentence,
                        "verified": True,
                        "patch": [
                            {"file": e.file, "start": e.start, "end": e.end, "text": e.text}
                            for e in f.patch.edits
                        ],
                    }
                    for f in c.fixes
                ],
            }
            for c in check.checked
        ],
    }


def check_text(check: Check) -> str:
    """The check as people read it on a terminal."""
    if not check.checked:
        return f"{check.path}: nothing found\n"
    lines = []
    for c in check.checked:
        widths = ", ".join(f"{w:g}" for w in c.widths)
        lines.append(
            f"{c.finding.severity.shape} {c.finding.sentence}  [{c.finding.family}, at {widths} px]"
        )
        if c.finding.cause is not None and c.finding.cause.line:
            lines.append(
                f"    {c.finding.cause.selector}, {c.finding.cause.file} line {c.finding.cause.line}"
            )
        lines += [f"    fix: {f.sentence}" for f in c.fixes]
    counts = {s: sum(c.finding.severity is s for c in check.checked) for s in Severity}
    lines.append("  ".join(f"{s.shape} {n} {s.value}" for s, n in counts.items()))
    return "\n".join(lines) + "\n"
