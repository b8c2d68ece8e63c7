"""media-range-overlap: max-width: 800px beside min-width: 800px."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding
from redcrate.core.findings.look import Look
from redcrate.core.findings.neighbouring_ranges import found, named, neighbours


def find(look: Look) -> Iterator[Finding]:
    """The pairs of neighbouring ranges that both hold at one px."""
    for pair in neighbours(look, 0):
        at = pair.wider.window.least
        sentence = (
            f"In a window of exactly {at} px both {named(pair.narrower)} and {named(pair.wider)} hold."
        )
        yield found(look, "media-range-overlap", pair, sentence, at)


FAMILY = Family(
    "media-range-overlap",
    "Two ranges of widths that share a px",
    "Both ends of max-width and min-width count in. With max-width: 800px beside min-width: 800px a window of 800 px "
    "gets both, and the later rule wins where they meet. One of them should end a px earlier.",
    "<style>@media (max-width:800px){p{color:teal}}@media (min-width:800px){p{margin:0}}</style><p>both at 800</p>",
    find,
)
