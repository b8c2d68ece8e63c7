"""nearly-centred: a block whose middle is a few pixels beside that of its container."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, MakeFix, Severity
from redcrate.core.findings.look import Look
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox, PlacedBox
from redcrate.core.style.values import Length
from redcrate.core.units import format_px

_LEAST = 48  # three quarters of a px: less is rounding
_MOST = 6 * 64
_LEAST_GAP = 10 * 64


def find(look: Look) -> Iterator[Finding]:
    """Blocks in flow that margins in px almost centre: with a width, or of auto width between two margins."""
    for element, box in look.boxes:
        at = box.box
        if at is None or at.container is None or not _is_placed_by_margins(look, element, at):
            continue
        room = at.container.content_rect
        left, right = box.border_box.x - room.x, room.right - box.border_box.right
        off = abs(left - right) // 2
        if not _LEAST <= off <= _MOST or min(left, right) < _LEAST_GAP:
            continue
        side = "left" if left < right else "right"
        yield Finding(
            "nearly-centred",
            Severity.SUSPICIOUS,
            f"{element.label} is {format_px(off)} px too far {side} to be centred: {format_px(left)} "
            f"px on its left, {format_px(right)} px on its right.",
            (element,),
            {"left": left / 64, "right": right / 64, "off": off / 64},
            look.source(element, "margin-left"),
            tuple(_ways(look, element, box)),
        )


def _is_placed_by_margins(look: Look, element: Element, at: PlacedBox) -> bool:
    box, style = at.fragment.box, look.style(element)
    if not box.in_flow or box.is_inline_level or look.winner(element, "margin-left") is None:
        return False
    margins = (style.margin_left, style.margin_right)
    if not all(isinstance(m, Length) and not m.percent for m in margins):
        return False
    if look.size_written(element):
        return True
    return style.width == "auto" and look.winner(element, "margin-right") is not None


def _ways(look: Look, element: Element, box: ElementBox) -> Iterator[MakeFix]:
    if look.size_written(element):
        yield look.setting(
            "Centre it (auto margins)",
            (element, "margin-left", "auto"),
            (element, "margin-right", "auto"),
        )
        return
    for side in ("left", "right"):
        same = look.written(element, f"margin-{side}")
        yield look.setting(
            f"Make both side margins equal ({same})",
            (element, "margin-left", same),
            (element, "margin-right", same),
        )


FAMILY = Family(
    "nearly-centred",
    "Block not quite centred",
    "A margin in px centres a block at one viewport width at most. Auto margins on both sides centre it at every width.",
    "<div style='width:200px;border:1px solid'><p style='width:100px;margin:0 0 0 47px;background:#cde'>47 and 53</p></div>",
    find,
)
