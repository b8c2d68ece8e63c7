"""media-range-gap: max-width: 799px beside min-width: 801px."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding
from redcrate.core.findings.look import Look
from redcrate.core.findings.neighbouring_ranges import found, named, neighbours


def find(look: Look) -> Iterator[Finding]:
    """The pairs of neighbouring ranges of which neither holds at the one px between them."""
    for pair in neighbours(look, 2):
        at = pair.narrower.window.most + 1
        sentence = f"At exactly {at} px neither {named(pair.narrower)} nor {named(pair.wider)} applies."
        yield found(look, "media-range-gap", pair, sentence, at)


FAMILY = Family(
    "media-range-gap",
    "Gap between two media queries",
    "With max-width: 799px and min-width: 801px neither query applies at exactly 800 px. Move one limit by 1 px.",
    "<style>@media (max-width:799px){p{color:teal}}@media (min-width:801px){p{margin:0}}</style><p>neither at 800</p>",
    find,
)
