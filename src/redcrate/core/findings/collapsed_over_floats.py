"""collapsed-over-floats: a container that has no height for the floats in it."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox
from redcrate.core.units import LayoutUnit, format_px


def find(look: Look) -> Iterator[Finding]:
    """Painted boxes, or boxes with something after them, whose floats stick out at the bottom."""
    lowest: dict[Element, ElementBox] = {}  # of the floats that would count for an element's height
    told: set[Element] = set()
    for element, box in reversed(look.boxes):  # the innermost container of a float is the one to mend
        inside = box.box.fragment.box if box.box is not None else None
        float_ = lowest.get(element)
        if float_ is not None and float_.element not in told and _could_collapse(look, element, box):
            out = float_.border_box.bottom - box.border_box.bottom
            empty = box.content_box.height == 0
            if out > 64 and (
                look.is_painted(element) or (empty and _overlaps_next(look, element, box, out))
            ):
                told.add(float_.element)
                yield _finding(look, element, box, float_, out)
        if inside is not None and inside.is_float:
            float_ = box
        elif inside is not None and (not inside.in_flow or inside.establishes_bfc):
            float_ = None  # its floats are its own affair
        _keep_lower(lowest, element.parent, float_)


def _keep_lower(
    lowest: dict[Element, ElementBox], parent: Element | None, float_: ElementBox | None
) -> None:
    if parent is None or float_ is None:
        return
    known = lowest.get(parent)
    if known is None or known.border_box.bottom < float_.border_box.bottom:
        lowest[parent] = float_


def _could_collapse(look: Look, element: Element, box: ElementBox) -> bool:
    if box.box is None or look.winner(element, "height") is not None:
        return False
    inside = box.box.fragment.box
    return inside.holds_floats and not inside.establishes_bfc


def _finding(
    look: Look, element: Element, box: ElementBox, lowest: ElementBox, out: LayoutUnit
) -> Finding:
    empty = box.content_box.height == 0
    tall = format_px(box.border_box.height)
    return Finding(
        "collapsed-over-floats",
        Severity.BREAKS if empty else Severity.SUSPICIOUS,
        f"{element.label} is {tall} px high: its floats overflow it by {format_px(out)} px at the bottom.",
        (element,),
        {"height": box.border_box.height / 64, "over": out / 64},
        look.source(lowest.element, "float"),
        (
            look.setting("Contain its floats (display: flow-root)", (element, "display", "flow-root")),
            look.setting(
                "Contain its floats (overflow: hidden)",
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
    "Container does not contain its floats",
    "Floats do not count in the height of their container: a container with only floats is 0 px high "
    "and shows no background. display: flow-root contains them.",
    "<div style='background:#cde;border:1px solid'><p style='float:left;margin:0'>a float</p></div>",
    find,
)
