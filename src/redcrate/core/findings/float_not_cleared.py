"""float-not-cleared: a painted block that slips up behind the floats before it."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look, meet
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox
from redcrate.core.units import format_px


def find(look: Look) -> Iterator[Finding]:
    """Blocks in flow whose background, or border on that side, lies behind floats before them."""
    for _, children in look.siblings():
        floats: list[ElementBox] = []
        for child in children:
            box = look.box(child)
            if box is None or box.box is None:
                continue
            fragment = box.box.fragment
            if fragment.box.is_float:
                floats.append(box)
            elif fragment.box.in_flow and not fragment.box.is_inline_level:
                over = [f for f in floats if meet(f.border_box, box.border_box)]
                plain = not fragment.box.establishes_bfc and look.style(child).clear == "none"
                if over and plain and any(_hides(look, f, child, box) for f in over):
                    yield _finding(look, child, box, over)


def _hides(look: Look, over: ElementBox, child: Element, box: ElementBox) -> bool:
    """Whether something that the block paints lies behind the float: its ground, or its border there."""
    side = "left" if look.style(over.element).float_ == "left" else "right"
    if look.has_ground(child):
        return True
    edge = box.border_box.x if side == "left" else box.border_box.right
    return look.shows_border(child, side) and over.border_box.x <= edge <= over.border_box.right


def _finding(look: Look, child: Element, box: ElementBox, over: list[ElementBox]) -> Finding:
    lowest = max(over, key=lambda f: f.border_box.bottom)
    behind = lowest.border_box.bottom - box.border_box.y
    what = "background" if look.has_ground(child) else "border"
    return Finding(
        "float-not-cleared",
        Severity.SUSPICIOUS,
        f"{child.label} starts {format_px(behind)} px above the bottom of the float "
        f"{lowest.element.label}: its {what} is behind the float.",
        (child, lowest.element),
        {"behind": behind / 64},
        look.source(lowest.element, "float"),
        (
            look.setting("Move it below the floats (clear: both)", (child, "clear", "both")),
            look.setting(
                "Place it beside the floats (display: flow-root)", (child, "display", "flow-root")
            ),
        ),
    )


FAMILY = Family(
    "float-not-cleared",
    "Block behind floats",
    "A block after floats starts at the top of the first float; only its text avoids the floats. "
    "clear: both moves it below.",
    "<b style='float:left;background:#cde'>one</b><b style='float:left;background:#dec'>two</b>"
    "<p style='margin:0;background:#eee'>after them</p>",
    find,
)
