"""collapsed-over-floats: a container that has no height for the floats in it."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox
from redcrate.core.units import LayoutUnit, format_px


def find(look: Look) -> Iterator[Finding]:
    """Painted boxes, or boxes with something after them, whose floats stick out at the bottom."""
    told: set[Element] = set()
    for element, box in reversed(look.boxes):  # the innermost container of a float is the one to mend
        if not _could_collapse(look, element, box):
            continue
        floats = list(_floats_in(look, element))
        if not floats or any(f.element in told for f in floats):
            continue
        out = max(b.border_box.bottom for b in floats) - box.border_box.bottom
        empty = box.content_box.height == 0
        if out <= 64 or not (
            look.is_painted(element) or (empty and _overlaps_next(look, element, box, out))
        ):
            continue
        told.update(f.element for f in floats)
        yield _finding(look, element, box, floats, out)


def _could_collapse(look: Look, element: Element, box: ElementBox) -> bool:
    if box.box is None or look.winner(element, "height") is not None:
        return False
    inside = box.box.fragment.box
    return inside.holds_floats and not inside.establishes_bfc


def _floats_in(look: Look, element: Element) -> Iterator[ElementBox]:
    """The floats that would count for the element's height: its own, and those of plain blocks in it."""
    for child in element.child_elements:
        box = look.box(child)
        if box is None or box.box is None:
            continue
        inside = box.box.fragment.box
        if inside.is_float:
            yield box
        elif inside.in_flow and inside.holds_floats and not inside.establishes_bfc:
            yield from _floats_in(look, child)


def _finding(
    look: Look, element: Element, box: ElementBox, floats: list[ElementBox], out: LayoutUnit
) -> Finding:
    empty = box.content_box.height == 0
    tall = format_px(box.border_box.height)
    return Finding(
        "collapsed-over-floats",
        Severity.BREAKS if empty else Severity.SUSPICIOUS,
        f"{element.label} is {tall} px high although it holds floats: they reach {format_px(out)} px below its end.",
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
