"""float-not-cleared: a painted block that slips up behind the floats before it."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.page import ElementBox
from redcrate.core.units import format_px


def find(look: Look) -> Iterator[Finding]:
    """In-flow blocks with a background after a row of floats, whose box lies behind those floats."""
    for _, children in look.siblings():
        floats: list[ElementBox] = []
        for child in children:
            box = look.box(child)
            if box is None or box.box is None:
                continue
            fragment = box.box.fragment
            if fragment.box.is_float:
                if child.tag not in ("img", "figure", "svg"):
                    floats.append(box)
                continue
            if not fragment.box.in_flow or fragment.box.is_inline_level:
                continue
            behind = max((f.border_box.bottom for f in floats), default=0) - box.border_box.y
            slipped = len(floats) > 1 and behind > 64 and not fragment.box.establishes_bfc
            if slipped and look.style(child).clear == "none" and look.is_painted(child):
                yield Finding(
                    "float-not-cleared",
                    Severity.SUSPICIOUS,
                    f"{child.label} begins {format_px(behind)} px above the end of the floats before it: its "
                    f"background lies "
                    "behind them.",
                    (child, floats[-1].element),
                    {"behind": behind / 64},
                    look.source(floats[-1].element, "float"),
                    (
                        look.setting(
                            "let it begin below the floats (clear both)", (child, "clear", "both")
                        ),
                        look.setting(
                            "let it stand beside them on its own (flow-root)",
                            (child, "display", "flow-root"),
                        ),
                    ),
                )
            floats = []


FAMILY = Family(
    "float-not-cleared",
    "A block that slipped behind floats",
    "The block after floats begins where the first of them does; only its text makes way. clear "
    "both puts it below.",
    "<b style='float:left;background:#cde'>one</b><b style='float:left;background:#dec'>two</b>"
    "<p style='margin:0;background:#eee'>after them</p>",
    find,
)
