"""A check as SARIF 2.1.0 (OASIS, Static Analysis Results Interchange Format), which build servers read."""

from collections.abc import Sequence
from typing import Any
from urllib.parse import quote

from redcrate import __version__
from redcrate.core.findings.checking import Check, Checked
from redcrate.core.findings.finding import Fix, Severity
from redcrate.core.findings.register import FAMILIES
from redcrate.core.findings.several import mark_of

_SCHEMA = "https://docs.oasis-open.org/sarif/sarif/v2.1.0/os/schemas/sarif-schema-2.1.0.json"
_LEVELS = {Severity.BREAKS: "error", Severity.SUSPICIOUS: "warning", Severity.ADVICE: "note"}


def check_sarif(checks: Sequence[Check]) -> dict[str, Any]:
    """One run with the findings of all pages; offsets count characters."""
    names = sorted({c.finding.family for check in checks for c in check.checked})
    rules = [
        {
            "id": name,
            "shortDescription": {"text": FAMILIES[name].title},
            "fullDescription": {"text": FAMILIES[name].teaches},
        }
        for name in names
    ]
    return {
        "$schema": _SCHEMA,
        "version": "2.1.0",
        "runs": [
            {
                "tool": {"driver": {"name": "Red Crate", "version": __version__, "rules": rules}},
                "columnKind": "unicodeCodePoints",
                "results": [_result(check, c, names) for check in checks for c in check.checked],
            }
        ],
    }


def _result(check: Check, one: Checked, names: list[str]) -> dict[str, Any]:
    file, line = check.place_of(one.finding)
    found: dict[str, Any] = {
        "ruleId": one.finding.family,
        "ruleIndex": names.index(one.finding.family),
        "level": _LEVELS[one.finding.severity],
        "message": {"text": one.finding.sentence},
        "locations": [
            {
                "physicalLocation": {
                    "artifactLocation": {"uri": _uri(check, file)},
                    "region": {"startLine": line},
                }
            }
        ],
        "partialFingerprints": {"redcrate/v1": " ".join(mark_of(check, one))},
        "properties": {"widths": list(one.widths)},
    }
    if one.fixes:
        found["fixes"] = [_fix(check, fix) for fix in one.fixes]
    return found


def _fix(check: Check, fix: Fix) -> dict[str, Any]:
    changes: dict[str, list[dict[str, Any]]] = {}
    for edit in fix.patch.edits:
        deleted = {"charOffset": edit.start, "charLength": edit.end - edit.start}
        replacement = {"deletedRegion": deleted, "insertedContent": {"text": edit.text}}
        changes.setdefault(edit.file, []).append(replacement)
    return {
        "description": {"text": fix.told},
        "artifactChanges": [
            {"artifactLocation": {"uri": _uri(check, file)}, "replacements": replacements}
            for file, replacements in changes.items()
        ],
    }


def _uri(check: Check, file: str) -> str:
    """A relative reference, or an absolute path: RFC 3986 §4.2, SARIF §3.10."""
    return quote((check.path.parent / file).as_posix(), safe="/")
