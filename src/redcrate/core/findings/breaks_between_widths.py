"""breaks-between-widths: what breaks where none of the page's widths looks; `breaks.py` finds it."""

from collections.abc import Iterable

from redcrate.core.findings.finding import Family, Finding
from redcrate.core.findings.look import Look


def find(look: Look) -> Iterable[Finding]:
    """Nothing: one page at one width does not know of the others."""
    return ()


FAMILY = Family(
    "breaks-between-widths",
    "The page breaks between the checked widths",
    "A page that is correct at 1280, 820 and 390 px may break in between, for example where a row "
    "wraps before a media query applies. The sweep computes every change and gives the exact px.",
    "<div style='width:90%'><p style='float:left;width:50%;margin:0;padding:0 9px'>one</p></div>",
    find,
)
