"""comma-in-shorthand: margin: 4px, 8px."""

from collections.abc import Iterator
from functools import partial

from redcrate.core.edit.css_text import DeclarationPlace
from redcrate.core.findings import folds
from redcrate.core.findings.finding import About, Family, Finding, MakeFix
from redcrate.core.findings.look import Look
from redcrate.core.findings.written_faults import fault_findings, removed, replaced
from redcrate.core.notices import Notice, NoticeKind


def find(look: Look) -> Iterator[Finding]:
    """The declarations that the stylesheet reader dropped for their commas."""
    what = "has commas between its values, so it is ignored."
    return fault_findings(
        look, NoticeKind.COMMA_IN_SHORTHAND, "comma-in-shorthand", what, partial(_ways, look)
    )


def _ways(look: Look, notice: Notice, place: DeclarationPlace, value: str) -> tuple[MakeFix, ...]:
    spaced = " ".join(value.replace(",", " ").split())
    return (
        look.fix(f"Use spaces ({spaced})", lambda: replaced(look, notice, place, spaced)),
        look.fix("Remove the declaration", lambda: removed(look, notice)),
    )


FAMILY = Family(
    "comma-in-shorthand",
    "Commas between the values of a shorthand",
    "Spaces separate the values of margin, padding and similar shorthands. With commas the declaration is ignored.",
    "<p style='margin:0;padding:4px, 8px;background:#cde'>no padding</p>",
    find,
    about=About.WRITING,
    fold=folds.declarations,
)
