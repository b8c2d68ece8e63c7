"""unit-missing: width: 300."""

import re
from collections.abc import Iterator

from redcrate.core.edit.css_text import DeclarationPlace
from redcrate.core.findings.finding import Family, Finding, MakeFix, Severity
from redcrate.core.findings.look import Look
from redcrate.core.findings.written_faults import faults, removed, replaced, source_of
from redcrate.core.notices import Notice, NoticeKind

_BARE = re.compile(r"(?<![\w.#%-])-?\d*\.?\d+(?![\w.%])")


def find(look: Look) -> Iterator[Finding]:
    """The declarations that the stylesheet reader dropped for this."""
    for notice, rule, elements, place, name in faults(look, NoticeKind.MISSING_UNIT):
        value = look.texts[notice.file][place.value.start : place.value.end]
        yield Finding(
            "unit-missing",
            Severity.SUSPICIOUS,
            f"{name}: {value} lacks a unit, so it is dropped.",
            tuple(e for e in elements if e.index >= 0),
            {"elements": float(len(elements))},
            source_of(notice, rule, name),
            _ways(look, notice, place, name, value),
        )


def _ways(
    look: Look, notice: Notice, place: DeclarationPlace, name: str, value: str
) -> tuple[MakeFix, ...]:
    with_px = _BARE.sub(lambda m: m.group() if float(m.group()) == 0 else f"{m.group()}px", value)
    return (
        look.fix(f"make it px: {with_px}", lambda: replaced(look, notice, place, with_px)),
        look.fix("take the declaration out", lambda: removed(look, notice)),
    )


FAMILY = Family(
    "unit-missing",
    "A number without a unit",
    "Lengths other than 0 need a unit. width: 300 is no width; the declaration is dropped, and the "
    "block is as wide as without it.",
    "<p style='margin:0;width:90;background:#cde'>not 90 wide</p>",
    find,
)
