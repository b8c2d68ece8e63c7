"""A stored solution: a few texts that are replaced by others in the files of the exercise's page."""

from collections.abc import Mapping

from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.markup.reparsing import difference
from redcrate.core.records import dataclass


@dataclass(frozen=True, slots=True)
class Replacement:
    """In a file of the page, `old`, which stands there once, becomes `new`."""

    file: str
    old: str
    new: str


def replacements(before: Mapping[str, str], after: Mapping[str, str]) -> tuple[Replacement, ...]:
    """What makes the texts `after` of the texts `before`: whole lines, as many as tell the place apart."""
    found = (_one(file, text, after.get(file, text)) for file, text in before.items())
    return tuple(r for r in found if r is not None)


def _one(file: str, before: str, after: str) -> Replacement | None:
    change = difference(before, after)
    if change is None:
        return None
    start, end = change.start, change.end
    while True:
        start = before.rfind("\n", 0, start) + 1
        end = before.find("\n", end)
        end = len(before) if end < 0 else end
        old = before[start:end]
        if old and _is_once(old, before):
            return Replacement(file, old, after[start : end + change.by])
        if start == 0 and end == len(before):
            return Replacement(file, before, after)
        start, end = max(0, start - 1), min(len(before), end + 1)


def _is_once(old: str, text: str) -> bool:
    """Whether it stands at one place alone; places may overlap."""
    at = text.find(old)
    return at >= 0 and text.find(old, at + 1) < 0


def solving_patch(solution: tuple[Replacement, ...], texts: Mapping[str, str]) -> Patch | None:
    """The patch that solves the page; None where it does not fit these texts."""
    edits = []
    for one in solution:
        text = texts.get(one.file, "")
        if not _is_once(one.old, text):
            return None
        at = text.index(one.old)
        edits.append(TextEdit(one.file, at, at + len(one.old), one.new))
    return Patch(tuple(edits), "Solution") if edits else None
