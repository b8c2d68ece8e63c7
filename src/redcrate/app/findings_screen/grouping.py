"""In which groups findings are read: by severity, by element, or by what causes them. No widget."""

from collections.abc import Callable, Iterable

from redcrate.app.findings.cause import cause_words
from redcrate.core.findings import Severity
from redcrate.core.findings.at_widths import Held
from redcrate.core.labelled import Labelled

TITLES = {
    Severity.BREAKS: "▲ Breaks the layout",
    Severity.SUSPICIOUS: "◆ Suspicious",
    Severity.ADVICE: "○ Advice",
}


class Grouping(Labelled):
    """What the findings of a group have in common."""

    SEVERITY = "severity", "Severity"
    ELEMENT = "element", "Element"
    CAUSE = "cause", "Cause"


def grouped(held: Iterable[Held], by: Grouping) -> list[tuple[str, list[Held]]]:
    """Titles with their findings; groups and findings in the order in which they come, the worst first."""
    title = _TITLE_OF[by]
    groups: dict[str, list[Held]] = {}
    for one in held:
        groups.setdefault(title(one), []).append(one)
    return list(groups.items())


def _of_severity(held: Held) -> str:
    """An effect stands under its cause, whatever its own severity is."""
    return TITLES[(held.because_of or held).finding.severity]


def _of_element(held: Held) -> str:
    elements = held.finding.elements
    return elements[0].label if elements else "The page and its files"


def _of_cause(held: Held) -> str:
    finding = (held.because_of or held).finding
    file = finding.cause.short_file if finding.parts and finding.cause is not None else ""
    return file or cause_words(finding) or "No single declaration"


_TITLE_OF: dict[Grouping, Callable[[Held], str]] = {
    Grouping.SEVERITY: _of_severity,
    Grouping.ELEMENT: _of_element,
    Grouping.CAUSE: _of_cause,
}
