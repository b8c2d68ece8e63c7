"""breaks-between-widths: what breaks where none of the page's widths looks; `breaks.py` finds it."""

from collections.abc import Iterable

from redcrate.core.findings.finding import Family, Finding
from redcrate.core.findings.look import Look


def find(look: Look) -> Iterable[Finding]:
    """Nothing: one page at one width does not know of the others."""
    return ()


FAMILY = Family(
    "breaks-between-widths",
    "The page breaks between the widths that are looked at",
    "A page that stands at 1280, at 820 and at 390 px may still break in between: a row wraps a little before the "
    "media rule comes that would have made room. The sweep looks at every event, and tells the exact px.",
    "<div style='width:90%'><p style='float:left;width:50%;margin:0;padding:0 9px'>one</p></div>",
    find,
)
