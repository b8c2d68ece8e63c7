"""Checking a page at several widths: one list of findings, each with the widths at which it holds."""

from collections.abc import Mapping, Sequence
from enum import Enum
from pathlib import Path
from typing import Any

from redcrate.core.edit.patch import Patch
from redcrate.core.files.settings import PageSettings, read_settings
from redcrate.core.files.trial import Trial
from redcrate.core.findings.at_widths import Held, counts_of, held_at, with_causes
from redcrate.core.findings.breaks import BreakSearch, Broken, told_between
from redcrate.core.findings.finding import Finding, Fix, Key, Severity
from redcrate.core.findings.register import FAMILIES, ORDER, findings_of
from redcrate.core.findings.usefulness import ALWAYS_MINOR
from redcrate.core.findings.verifying import PageAfter, Verifier
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.records import dataclass
from redcrate.core.style.media import DEFAULT_HEIGHT, Viewport
from redcrate.core.style.window_ranges import WindowRange

_LARGE = 2000  # elements


class Fixes(Enum):
    """How many of the fixes are worked out and tried."""

    NONE = 0
    FIRST = 1
    ALL = 4


@dataclass(frozen=True, slots=True, eq=False)
class Checked:
    """A finding with the widths, px, at which it is there, and its verified fixes.

    ranges: of what breaks, exactly where it does, if the page was swept.
    """

    held: Held
    fixes: tuple[Fix, ...]
    ranges: tuple[WindowRange, ...] = ()

    @property
    def finding(self) -> Finding:
        """The finding, as it is at the first of its widths."""
        return self.held.finding

    @property
    def widths(self) -> tuple[float, ...]:
        """Where it is there, px."""
        return self.held.widths


@dataclass(frozen=True, slots=True, eq=False)
class Check:
    """All findings of a page. page: at the first width, for the elements' indices. untried: fixes were not tried, since
    the page is large and nobody asked for them.
    """

    path: Path
    page: Page
    checked: tuple[Checked, ...]
    untried: bool = False

    @property
    def breaks(self) -> bool:
        """Whether one of them breaks the layout."""
        return any(c.finding.severity is Severity.BREAKS for c in self.checked)

    def place_of(self, finding: Finding) -> tuple[str, int]:
        """The file, as its name on the page, and the line where a finding's cause, or its element, stands."""
        if finding.cause is not None and finding.cause.line:
            return finding.cause.file, finding.cause.line
        source = self.page.source.markup
        tag = source.start_tag(finding.elements[0]) if finding.elements else None
        return source.source.name, source.source.line_of(tag.start) if tag is not None else 1

    @property
    def sheets(self) -> frozenset[Path]:
        """The files of the page's stylesheets."""
        folder = self.path.parent
        names = {s.source.name for s in self.page.source.sheets} - {self.page.source.markup.source.name}
        return frozenset((folder / name).resolve() for name in names)


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


def is_told(finding: Finding, settings: PageSettings, *, minor: bool = False) -> bool:
    """Whether a finding is told: not a silenced one, and a minor one to those who ask for all."""
    return (minor or not finding.minor) and not is_silenced(finding, settings)


def check_page(
    path: Path,
    widths: Sequence[float],
    height: float = DEFAULT_HEIGHT,
    *,
    fixes: Fixes = Fixes.ALL,
    fold: bool = True,
    minor: bool = False,
    sweep: WindowRange | None = None,
    large_too: bool = False,
) -> Check:
    """Check a page at all widths. Raises PageNotReadable.

    fold: whether many findings of one kind become one. minor: whether those are told that most authors would wave away.
    sweep: the windows in which all that breaks is looked for.
    large_too: fixes are tried whatever that takes; each lays a page out anew at all widths, and looks for all findings.
    """
    trial = Trial.of_file(path)
    pages: dict[float, Page] = {}
    for width in dict.fromkeys(widths):
        known = next(iter(pages.values()), None)
        pages[width] = trial.page(Viewport(width, height), known)
    settings = read_settings(path)
    untried = bool(fixes.value) and not large_too and len(pages[widths[0]].elements) > _LARGE
    fixes = Fixes.NONE if untried else fixes

    wanted = () if minor else [name for name in FAMILIES if name not in ALWAYS_MINOR]
    found = {width: findings_of(page, trial.texts, wanted) for width, page in pages.items()}

    def attempt(patch: Patch) -> PageAfter:
        after = trial.after(patch)
        return lambda width: after(pages[width])

    told = {w: [f for f in those if is_told(f, settings, minor=minor)] for w, those in found.items()}
    held = held_at(told, fold=fold)
    broken = _swept(trial, sweep, height, settings) if sweep is not None else ()
    between = [b for b in broken if not b.holds_at(widths)]
    for one in between:
        width = float(one.ranges[0].least)  # a fix is tried there too
        if width not in pages:
            pages[width] = trial.page(Viewport(width, height), next(iter(pages.values())))
            found[width] = findings_of(pages[width], trial.texts, wanted)

    def page_at(width: float) -> tuple[Page, Mapping[str, str]]:
        near = min(pages, key=lambda w: abs(w - width))
        return trial.page(Viewport(width, height), pages[near]), trial.texts

    verifier = Verifier(pages, found, attempt, page_at)
    ways = {h.finding.key: verifier.fixes(h.finding, fixes.value) for h in held if fixes.value}
    effects = {h.finding.key: verifier.mends_too(h.finding) for h in held}
    ranges = {b.finding.key: b.ranges for b in broken}
    checked = [
        Checked(h, ways.get(h.finding.key, ()), ranges.get(h.finding.key, ()))
        for h in with_causes(held, effects)
    ]
    for one in between:
        kept = verifier.fixes(one.finding, fixes.value) if fixes.value else ()
        checked.append(Checked(Held(told_between(one), (float(one.ranges[0].least),)), kept, one.ranges))
    return Check(path, next(iter(pages.values())), tuple(sorted(checked, key=_order)), untried)


def _order(checked: Checked) -> int:
    """What breaks first; the order within stays as it is."""
    return ORDER[checked.finding.severity]


def _swept(
    trial: Trial, sweep: WindowRange, height: float, settings: PageSettings
) -> tuple[Broken, ...]:
    """What breaks in any window of a range, silenced findings apart."""
    search = BreakSearch.of_trial(trial, height, sweep.least, sweep.most)
    for _ in search.run():
        pass
    return tuple(b for b in search.broken if not is_silenced(b.finding, settings))


def check_json(check: Check) -> dict[str, Any]:
    """The check as plain data: docs/check.md, findings/check_schema.json."""
    number = {c.finding.key: n for n, c in enumerate(check.checked)}
    return {
        "page": str(check.path),
        "findings": [
            {
                **_because(c.held, number),
                "family": c.finding.family,
                "severity": c.finding.severity.value,
                "widths": list(c.widths),
                **({"ranges": [[r.least, r.most] for r in c.ranges]} if c.ranges else {}),
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
                        "sentence": f.told,
                        "verified": True,
                        "changes": {
                            "elements": f.moves,
                            "height": {f"{width:g}": px for width, px in f.taller},
                        },
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


def _because(held: Held, number: Mapping[Key, int]) -> dict[str, Any]:
    """The family and the place in the list of the finding whose fix mends this one too."""
    cause = held.because_of
    if cause is None or cause.finding.key not in number:
        return {}
    return {"because_of": {"family": cause.finding.family, "finding": number[cause.finding.key]}}


def check_text(check: Check) -> str:
    """The check as people read it on a terminal."""
    if not check.checked:
        return f"{check.path}: no findings\n"
    lines = []
    for c in check.checked:
        inner = "  " if c.held.because_of is not None else ""
        widths = ", ".join(f"{w:g}" for w in c.widths)
        if c.ranges:
            widths = " and ".join(f"{r.least} to {r.most}" for r in c.ranges)
        because = f", because of {c.held.because_of.finding.family}" if c.held.because_of else ""
        lines.append(
            f"{inner}{c.finding.severity.shape} {c.finding.sentence}  "
            f"[{c.finding.family}, at {widths} px{because}]"
        )
        if c.finding.cause is not None and c.finding.cause.line and not c.finding.parts:
            lines.append(
                f"{inner}    {c.finding.cause.selector}, {c.finding.cause.short_file} line {c.finding.cause.line}"
            )
        lines += [f"{inner}    fix: {f.told}" for f in c.fixes[:1]]
    if check.untried:
        count = len(check.page.elements)
        lines.append(f"Fixes were not checked: the page has {count} elements. --try-fixes checks them.")
    lines.append(counted(check))
    return "\n".join(lines) + "\n"


def counted(check: Check) -> str:
    """How many findings of each severity there are, in one line."""
    counts = counts_of(c.finding for c in check.checked)
    return "  ".join(f"{s.shape} {n} {s.value}" for s, n in counts.items())
