"""unit-missing: width: 300."""

import re
from collections.abc import Iterator
from functools import partial

from redcrate.core.edit.css_text import DeclarationPlace
from redcrate.core.findings import folds
from redcrate.core.findings.finding import About, Family, Finding, MakeFix
from redcrate.core.findings.look import Look
from redcrate.core.findings.written_faults import fault_findings, removed, replaced
from redcrate.core.notices import Notice, NoticeKind

_APART = re.compile(r"(\d)\s+(px|em|rem|ex|ch|pt|pc|cm|mm|in|vw|vh|%)(?![\w-])")
_BARE = re.compile(r"(?<![\w.#%-])-?\d*\.?\d+(?![\w.%])")


def find(look: Look) -> Iterator[Finding]:
    """The declarations that the stylesheet reader dropped for numbers without a unit."""
    what = "has no unit, so it is ignored."
    return fault_findings(look, NoticeKind.MISSING_UNIT, "unit-missing", what, partial(_ways, look))


def _ways(look: Look, notice: Notice, place: DeclarationPlace, value: str) -> tuple[MakeFix, ...]:
    if _APART.search(value):
        joined = _APART.sub(r"\1\2", value)
        return (
            look.fix(
                f"Remove the space before the unit ({joined})",
                lambda: replaced(look, notice, place, joined),
            ),
            look.fix("Remove the declaration", lambda: removed(look, notice)),
        )
    name = look.texts[notice.file][notice.offset : place.value.start].partition(":")[0].strip().lower()
    if name == "font-size":
        return _of_font_size(look, notice, place, value.strip())
    with_px = _BARE.sub(lambda m: m.group() if float(m.group()) == 0 else f"{m.group()}px", value)
    return (
        look.fix(f"Add the unit px ({with_px})", lambda: replaced(look, notice, place, with_px)),
        look.fix("Remove the declaration", lambda: removed(look, notice)),
    )


def _of_font_size(
    look: Look, notice: Notice, place: DeclarationPlace, value: str
) -> tuple[MakeFix, ...]:
    """What the sizes of the font element mean (HTML Standard §15.3.4) is not px; larger numbers are."""
    out = look.fix("Remove the declaration", lambda: removed(look, notice))
    meant = _FONT_SIZES.get(value)
    if meant is None and not value.isdigit():
        return (out,)
    meant = meant or f"{value}px"
    return (look.fix(f"Use {meant}", lambda: replaced(look, notice, place, meant)), out)


_FONT_SIZES = {
    **dict(zip("1234567", "x-small small medium large x-large xx-large xxx-large".split(), strict=True)),
    "+1": "larger",
}

FAMILY = Family(
    "unit-missing",
    "Number without a unit",
    "Lengths other than 0 need a unit. width: 300 is invalid and ignored; the block is as wide as without it.",
    "<p style='margin:0;width:90;background:#cde'>not 90 wide</p>",
    find,
    about=About.WRITING,
    fold=folds.declarations,
)
