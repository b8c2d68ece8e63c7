"""auto-margin-without-effect: an auto margin where CSS gives it nothing to do."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, MakeFix, Severity
from redcrate.core.findings.look import Look
from redcrate.core.layout.fragments import SizeReason
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox


def find(look: Look) -> Iterator[Finding]:
    """Side margins that are auto on inline elements, floats and blocks without a width (CSS 2.2 §10.3)."""
    for element, box in look.boxes:
        style = look.style(element)
        sides = [
            s
            for s in ("left", "right")
            if getattr(style, f"margin_{s}") == "auto"
            and look.winner(element, f"margin-{s}") is not None
        ]
        why = _why(look, element, box) if sides else ""
        if why:
            yield Finding(
                "auto-margin-without-effect",
                Severity.SUSPICIOUS,
                f"The auto margin of {element.label} does nothing: {why}.",
                (element,),
                {"width": box.border_box.width / 64},
                look.source(element, f"margin-{sides[0]}"),
                tuple(_ways(look, element, box, sides)),
            )


def _why(look: Look, element: Element, box: ElementBox) -> str:
    style = look.style(element)
    if box.box is None or box.box.fragment.box.is_atomic:
        return f"it is {style.display}, and inline content has no auto margins"
    if style.float_ != "none":
        return f"it floats to the {style.float_}"
    across = box.box.fragment.across
    if style.position in ("absolute", "fixed"):
        ends = style.left == "auto" or style.right == "auto"
        return "left and right must both be given for that" if ends else ""
    if across.reason is SizeReason.FILL and not across.limit and style.max_width == "none":
        return "it has no width, so it fills its container and nothing is left"
    return ""


def _ways(look: Look, element: Element, box: ElementBox, sides: list[str]) -> Iterator[MakeFix]:
    style = look.style(element)
    winners = [w for s in sides if (w := look.winner(element, f"margin-{s}")) is not None]
    if len(winners) == len(sides):
        yield look.setting("take the auto margins away", *((element, f"margin-{s}", "0") for s in sides))
    if box.box is None or box.box.fragment.box.is_atomic:
        yield look.setting("make it a block", (element, "display", "block"))
        if element.parent is not None and look.style(element.parent).display == "block":
            yield look.setting(
                "centre it as text, through its parent",
                (element.parent, "text-align", "center"),
                *((element, f"margin-{s}", "0") for s in sides),
            )
    elif style.float_ != "none":
        yield look.setting("let it no longer float", (element, "float", "none"))
    elif style.position in ("absolute", "fixed"):
        yield look.setting("give it left 0 and right 0", (element, "left", "0"), (element, "right", "0"))
    else:
        yield look.setting("make it as wide as its content", (element, "width", "fit-content"))
        yield look.setting("give it a width of 80 %", (element, "width", "80%"))


FAMILY = Family(
    "auto-margin-without-effect",
    "An auto margin that does nothing",
    "margin auto shares out what a block leaves of its container. A block without a width leaves nothing; floats and "
    "inline elements take part in no sharing.",
    "<div style='width:180px;border:1px solid'><p style='margin:0 auto;background:#cde'>no width, no centre</p></div>",
    find,
)
