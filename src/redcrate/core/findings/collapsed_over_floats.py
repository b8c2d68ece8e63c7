"""collapsed-over-floats: a container that has no height for the floats in it."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox
from redcrate.core.units import LayoutUnit, format_px


def find(look: Look) -> Iterator[Finding]:
    """Painted boxes, or boxes with something after them, whose floats stick out at the bottom."""
    for element, box in look.boxes:
        if (
            box.box is None
            or box.box.fragment.box.establishes_bfc
            or not box.box.fragment.box.holds_floats
        ):
            continue
        if look.winner(element, "height") is not None:
            continue
        floats = [
            b
            for c in element.child_elements
            if (b := look.box(c)) is not None and b.box is not None and b.box.fragment.box.is_float
        ]
        if not floats:
            continue
        out = max(b.margin_box.bottom for b in floats) - box.content_box.bottom
        empty = box.content_box.height == 0
        if out <= 64 or not (
            look.is_painted(element) or (empty and _overlaps_next(look, element, box, out))
        ):
            continue
        tall = format_px(box.border_box.height)
        yield Finding(
            "collapsed-over-floats",
            Severity.BREAKS if empty else Severity.SUSPICIOUS,
            f"{element.label} is {tall} px high although it holds floats: {format_px(out)} px of them stick out below.",
            (element,),
            {"height": box.border_box.height / 64, "over": out / 64},
            look.source(floats[0].element, "float"),
            (
                look.setting("let it hold its floats (flow-root)", (element, "display", "flow-root")),
                look.setting(
                    "let it hold its floats (overflow hidden)",
                    (element, "overflow-x", "hidden"),
                    (element, "overflow-y", "hidden"),
                ),
            ),
        )


def _overlaps_next(look: Look, element: Element, box: ElementBox, out: LayoutUnit) -> bool:
    """Whether a painted in-flow block that follows lies under the floats."""
    assert element.parent is not None
    for following in element.parent.child_elements[element.sibling_index + 1 :]:
        other = look.box(following)
        if other is None or other.box is None or not other.box.fragment.box.in_flow:
            continue
        return other.border_box.y < box.content_box.bottom + out and look.is_painted(following)
    return False


FAMILY = Family(
    "collapsed-over-floats",
    "A container without a height of its own",
    "Floats do not count for the height of the block around them: one that holds nothing else is 0 px high and shows "
    "no background. flow-root makes it hold them.",
    "<div style='background:#cde;border:1px solid'><p style='float:left;margin:0'>a float</p></div>",
    find,
)
