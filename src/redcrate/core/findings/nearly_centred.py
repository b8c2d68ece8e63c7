"""nearly-centred: a block whose gaps left and right differ by a few pixels."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.units import format_px

_MOST = 6 * 64
_LEAST_GAP = 10 * 64


def find(look: Look) -> Iterator[Finding]:
    """In-flow blocks with a width and a margin in px that almost centres them."""
    for element, box in look.boxes:
        at = box.box
        if (
            at is None
            or at.container is None
            or not at.fragment.box.in_flow
            or at.fragment.box.is_inline_level
        ):
            continue
        if not look.size_written(element) or "auto" in (
            look.style(element).margin_left,
            look.style(element).margin_right,
        ):
            continue
        room = at.container.content_rect
        left, right = box.border_box.x - room.x, room.right - box.border_box.right
        off = abs(left - right)
        if (
            not 32 < off <= _MOST
            or min(left, right) < _LEAST_GAP
            or look.winner(element, "margin-left") is None
        ):
            continue
        yield Finding(
            "nearly-centred",
            Severity.SUSPICIOUS,
            f"{element.label} is {format_px(off)} px off the middle of its container: {format_px(left)} px on the left, "
            f"{format_px(right)} on the right.",
            (element,),
            {"left": left / 64, "right": right / 64, "off": off / 64},
            look.source(element, "margin-left"),
            (
                look.setting(
                    "centre it with auto margins",
                    (element, "margin-left", "auto"),
                    (element, "margin-right", "auto"),
                ),
            ),
        )


FAMILY = Family(
    "nearly-centred",
    "A block that is not quite in the middle",
    "A margin in px centres a block at one window width at most. Auto on both sides centres it at every width.",
    "<div style='width:200px;border:1px solid'><p style='width:100px;margin:0 0 0 47px;background:#cde'>47 and 53</p></div>",
    find,
)
