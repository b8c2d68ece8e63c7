"""auto-margin-without-effect: an auto margin where CSS gives it nothing to do."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, MakeFix, Severity
from redcrate.core.findings.look import Look
from redcrate.core.layout.fragments import SizeReason
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox
from redcrate.core.units import ZERO, LayoutUnit, format_px

_WIDTHS = ("width", "max-width")
_LEAST_ROOM = 10 * 64


def find(look: Look) -> Iterator[Finding]:
    """Auto margins on inline elements, floats, blocks without a width, and above and below (CSS 2.2 §10.3, §10.6)."""
    for element, box in look.boxes:
        yield from _sideways(look, element, box)
        yield from _upright(look, element, box)


def _sideways(look: Look, element: Element, box: ElementBox) -> Iterator[Finding]:
    sides = _auto_sides(look, element, ("left", "right"))
    why = _why(look, element, box) if sides else ""
    if why:
        yield Finding(
            "auto-margin-without-effect",
            Severity.SUSPICIOUS,
            f"The auto margin of {element.label} has no effect: {why}.",
            (element,),
            {"width": box.border_box.width / 64},
            look.source(element, f"margin-{sides[0]}"),
            tuple(_ways(look, element, box, sides)),
        )


def _auto_sides(look: Look, element: Element, sides: tuple[str, str]) -> list[str]:
    style = look.style(element)
    return [
        s
        for s in sides
        if getattr(style, f"margin_{s}") == "auto" and look.winner(element, f"margin-{s}") is not None
    ]


def _why(look: Look, element: Element, box: ElementBox) -> str:
    style = look.style(element)
    if box.box is None or box.box.fragment.box.is_atomic:
        return f"it is {style.display}; auto margins share free width only on blocks"
    if style.float_ != "none":
        return f"it floats {style.float_}"
    across = box.box.fragment.across
    if style.position in ("absolute", "fixed"):
        ends = style.left == "auto" or style.right == "auto"
        return "left and right must both be set" if ends else ""
    if element.tag == "hr" or style.text_align == "center":
        return ""  # nothing in it would stand elsewhere
    fills = across.reason is SizeReason.FILL and not across.limit and style.max_width == "none"
    if fills and element not in look.given_somewhere(*_WIDTHS):
        return "its width is auto, so it fills its containing block and no width is free"
    return ""


def _ways(look: Look, element: Element, box: ElementBox, sides: list[str]) -> Iterator[MakeFix]:
    style = look.style(element)
    if box.box is None or box.box.fragment.box.is_atomic:
        if element.parent is not None and look.style(element.parent).display == "block":
            yield look.setting(
                "Centre it through its parent (text-align: center)",
                (element.parent, "text-align", "center"),
                *((element, f"margin-{s}", "0") for s in sides),
            )
        yield look.setting("Make it a block (display: block)", (element, "display", "block"))
    elif style.float_ != "none":
        if not _floats_in_a_row(look, element):
            yield look.setting("Remove the float (float: none)", (element, "float", "none"))
    elif style.position in ("absolute", "fixed"):
        yield look.setting(
            "Set both offsets (left: 0; right: 0)", (element, "left", "0"), (element, "right", "0")
        )
    else:
        yield look.setting(
            "Use the width of its content (width: fit-content)", (element, "width", "fit-content")
        )
        yield look.setting("Limit its width (max-width: 80%)", (element, "max-width", "80%"))
    yield look.setting("Remove the auto margins (0)", *((element, f"margin-{s}", "0") for s in sides))


def _floats_in_a_row(look: Look, element: Element) -> bool:
    """Whether a neighbour floats too: then it is the floating that was meant."""
    beside = element.parent.child_elements if element.parent is not None else []
    return any(look.style(e).float_ != "none" for e in beside if e is not element and look.box(e))


def _upright(look: Look, element: Element, box: ElementBox) -> Iterator[Finding]:
    """§10.6.3: margins above and below that are auto count as 0, however much room there is."""
    at = box.box
    if at is None or not at.fragment.box.in_flow or at.fragment.box.is_inline_level:
        return
    if len(_auto_sides(look, element, ("top", "bottom"))) < 2:
        return
    left = _left_below(look, element, box)
    if left >= _LEAST_ROOM:
        holder = (
            box.container.fragment.box.label if box.container is not None else "its containing block"
        )
        half = f"{left // 2 / 64:g}px"
        yield Finding(
            "auto-margin-without-effect",
            Severity.SUSPICIOUS,
            f"The auto margins above and below {element.label} have no effect: in normal flow they "
            f"count as 0, and {format_px(left)} px of {holder} are free below it.",
            (element,),
            {"left": left / 64},
            look.source(element, "margin-top"),
            (
                look.setting(
                    f"Move half of the free height above it (margin-top: {half})",
                    (element, "margin-top", half),
                    (element, "margin-bottom", "0"),
                ),
                look.setting(
                    "Remove the auto margins above and below (0)",
                    (element, "margin-top", "0"),
                    (element, "margin-bottom", "0"),
                ),
            ),
        )


def _left_below(look: Look, element: Element, box: ElementBox) -> LayoutUnit:
    """The room under the only child of a container with a written height; 0 where there is none of that."""
    parent = element.parent
    if parent is None or box.container is None or box.container.fragment.box.element is not parent:
        return ZERO
    alone = [c for c in parent.child_elements if look.box(c) is not None] == [element]
    if not alone or not look.size_written(parent, "down"):
        return ZERO
    return box.container.content_rect.bottom - box.border_box.bottom


FAMILY = Family(
    "auto-margin-without-effect",
    "Auto margin without effect",
    "Auto margins share the width that a block leaves free. A block whose width is auto leaves none; "
    "floats and inline elements have no auto margins.",
    "<div style='width:180px;border:1px solid'><p style='margin:0 auto;background:#cde'>no width, no centre</p></div>",
    find,
    judged_at_all_widths=True,
)
