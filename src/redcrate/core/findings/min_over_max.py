"""min-over-max: a smallest size that is larger than the largest one."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.style.values import Length


def find(look: Look) -> Iterator[Finding]:
    """min-width over max-width, min-height over max-height: CSS 2.2 §10.4 lets the smallest one win."""
    for element, _ in look.boxes:
        for axis in ("width", "height"):
            low, high = (
                getattr(look.style(element), f"min_{axis}"),
                getattr(look.style(element), f"max_{axis}"),
            )
            if (
                not isinstance(low, Length)
                or not isinstance(high, Length)
                or low.percent
                or high.percent
                or low.px <= high.px
            ):
                continue
            if (
                look.winner(element, f"min-{axis}") is None
                or look.winner(element, f"max-{axis}") is None
            ):
                continue
            yield Finding(
                "min-over-max",
                Severity.SUSPICIOUS,
                f"{element.label}: min-{axis} {low.px:g} px is more than max-{axis} {high.px:g} px, so "
                f"max-{axis} does nothing.",
                (element,),
                {"min": low.px, "max": high.px},
                look.source(element, f"min-{axis}"),
                (
                    look.setting(
                        f"make min-{axis} {high.px:g} px", (element, f"min-{axis}", f"{high.px:g}px")
                    ),
                    look.setting(
                        f"make max-{axis} {low.px:g} px", (element, f"max-{axis}", f"{low.px:g}px")
                    ),
                ),
            )


FAMILY = Family(
    "min-over-max",
    "The smallest is more than the largest",
    "Where min and max contradict each other, min wins, and max might as well not be there.",
    "<p style='min-width:160px;max-width:90px;background:#cde;margin:0'>160 wins</p>",
    find,
)
