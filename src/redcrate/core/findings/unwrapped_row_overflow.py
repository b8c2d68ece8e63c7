"""unwrapped-row-overflow: items that cannot shrink and may not wrap stand in a line that is too short for them."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, MakeFix, Severity
from redcrate.core.findings.look import Look
from redcrate.core.findings.shared_lines import FullLine, full_lines
from redcrate.core.units import format_px


def find(look: Look) -> Iterator[Finding]:
    """CSS Flexbox 1 §6: lines that overflow though no automatic minimum holds them."""
    for full in full_lines(look):
        if full.holding or len(full.line.items) < 2 or look.style(full.container).flex_wrap != "nowrap":
            continue
        room = format_px(full.at.content_rect.width)
        yield Finding(
            "unwrapped-row-overflow",
            Severity.BREAKS,
            f"{len(full.line.items)} items of {full.container.label} are in one line of {room} px, "
            f"short by {format_px(full.over)} px; they cannot wrap.",
            (full.container,),
            {"over": full.over / 64, "items": float(len(full.line.items))},
            look.source(full.container, "display"),
            tuple(_ways(look, full)),
        )


def _ways(look: Look, full: FullLine) -> Iterator[MakeFix]:
    stiff = [
        i.box.element
        for i in full.line.items
        if i.box.element is not None and not i.box.style.flex_shrink
    ]
    yield look.setting(
        "Allow the items to wrap (flex-wrap: wrap)", (full.container, "flex-wrap", "wrap")
    )
    if stiff:
        yield look.setting(
            "Allow the items to shrink (flex-shrink: 1)", *((e, "flex-shrink", "1") for e in stiff)
        )


FAMILY = Family(
    "unwrapped-row-overflow",
    "Items cannot wrap",
    "A flex line does not wrap by default: if its items do not shrink, the last ones overflow. "
    "flex-wrap: wrap starts a new line.",
    "<div style='display:flex;width:200px'><p style='flex:none;width:130px;margin:0'>one</p>"
    "<p style='flex:none;width:130px;margin:0;background:#cde'>two</p></div>",
    find,
)
