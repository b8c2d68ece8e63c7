"""share-rounding: shares that add up to a little more than 100 %, as 33.34 % three times."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.findings.shares import cut_share, percent_sum, rounding_alone
from redcrate.core.units import format_px


def find(look: Look) -> Iterator[Finding]:
    """Rows whose written shares are just over the whole."""
    for row in look.rows:
        if row.dropped is None:
            continue
        elements = [*(i.element for i in row.items), row.dropped.element]
        shares = percent_sum(look, elements)
        if shares is None or not rounding_alone(row, shares):
            continue
        count = len(elements)
        value = f"calc(100% / {count})" if len({look.style(e).width for e in elements}) == 1 else None
        ways = []
        if value:
            ways.append(
                look.setting(
                    f"Give each of the {count} the exact share ({value})",
                    *((e, "width", value) for e in elements),
                )
            )
        last = row.dropped.element
        written = {e: getattr(look.style(e).width, "percent", 0.0) for e in elements}
        rounded = [(e, "width", f"{cut_share(100 * w / shares)}%") for e, w in written.items()]
        ways.append(look.setting("Round each share down", *rounded))
        yield Finding(
            "share-rounding",
            Severity.BREAKS,
            f"{last.label} wraps: the {count} shares add up to {shares:g} %, short by {format_px(row.dropped.missing)} px.",
            (last, *(i.element for i in row.items)),
            {"room": row.room / 64, "over": row.dropped.missing / 64, "percent": shares},
            look.source(last, "width"),
            tuple(ways),
        )


FAMILY = Family(
    "share-rounding",
    "Shares add up to more than 100 %",
    "Three times 33.34 % are 100.02 %, so the last block does not fit. Round the shares down, or use calc(100% / 3).",
    "<div style='width:300px;overflow:hidden'>"
    + "<p style='float:left;width:33.34%;margin:0;background:#cde'>a</p>" * 3
    + "</div>",
    find,
)
