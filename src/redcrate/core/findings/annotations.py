"""A check as lines that put notes beside the lines of a change: one command a finding."""

from collections.abc import Iterator, Sequence

from redcrate.core.findings.checking import Check
from redcrate.core.findings.finding import Severity
from redcrate.core.findings.register import FAMILIES
from redcrate.core.plain_output import for_terminals

_WORDS = {Severity.BREAKS: "error", Severity.SUSPICIOUS: "warning", Severity.ADVICE: "notice"}


def check_annotations(checks: Sequence[Check]) -> Iterator[str]:
    """One line for each finding: its level, file, line and title, then its sentence."""
    for check in checks:
        for one in check.checked:
            file, line = check.place_of(one.finding)
            place = f"file={_value((check.path.parent / file).as_posix())},line={line}"
            title = _value(FAMILIES[one.finding.family].title)
            word = _WORDS[one.finding.severity]
            yield f"::{word} {place},title={title}::{_data(one.finding.sentence)}"


def _data(text: str) -> str:
    coded = text.replace("%", "%25").replace("\r", "%0D").replace("\n", "%0A")
    return for_terminals(coded)


def _value(text: str) -> str:
    return _data(text).replace(":", "%3A").replace(",", "%2C")
