"""media-range-overlap: max-width: 800px beside min-width: 800px."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding
from redcrate.core.findings.look import Look
from redcrate.core.findings.neighbouring_ranges import found, named, neighbours


def find(look: Look) -> Iterator[Finding]:
    """The pairs of neighbouring ranges that both hold at one px."""
    for pair in neighbours(look, 0):
        at = pair.wider.window.least
        sentence = f"At exactly {at} px both {named(pair.narrower)} and {named(pair.wider)} apply."
        yield found(look, "media-range-overlap", pair, sentence, at)


FAMILY = Family(
    "media-range-overlap",
    "Two media queries overlap",
    "max-width and min-width include their limits. With max-width: 800px and min-width: 800px both "
    "apply at 800 px, and the later rule overrides the earlier one. Move one limit by 1 px.",
    "<style>@media (max-width:800px){p{color:teal}}@media (min-width:800px){p{margin:0}}</style><p>both at 800</p>",
    find,
)
