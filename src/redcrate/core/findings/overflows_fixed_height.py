"""overflows-fixed-height: content that is taller than the height that was written."""

import re
from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.geometry import Rect
from redcrate.core.layout.fragments import Down
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox
from redcrate.core.units import LayoutUnit, format_px

_SEEN = 3 * 64  # what a line needs below its letters is no more than that
_CONTROLS = ("select", "input", "textarea", "button")


def find(look: Look) -> Iterator[Finding]:
    """Boxes with a written height and visible overflow out of which something runs that can be seen.

    It breaks something where it lies over something else, or where the edge that it crosses is painted.
    """
    for element, box in look.boxes:
        if not _may_overflow(look, element, box):
            continue
        assert box.box is not None
        over = _lowest_seen(look, element, box) - box.border_box.bottom
        if over > _SEEN:
            covered = _covered(look, element, box, over)
            yield _finding(look, element, box.box.fragment.down, over, covered)


def _may_overflow(look: Look, element: Element, box: ElementBox) -> bool:
    at = box.box
    if at is None or at.fragment.box.intrinsic is not None or element.tag in _CONTROLS:
        return False
    down = at.fragment.down
    if re.search(r"%|\dv", look.written(element, "height")) or at.placed in look.page.painted:
        return False  # it follows the window, or what is around it; or it is painted elsewhere
    return (
        look.size_written(element, "down")
        and down.content > 0
        and down.auto_height - down.content - box.padding.bottom > _SEEN
        and look.style(element).overflow_y == "visible"
        and look.winner(element, "height") is not None
    )


def _lowest_seen(look: Look, element: Element, box: ElementBox) -> LayoutUnit:
    """How far down something reaches that is in the flow inside and can be seen, on the page."""
    lowest = box.border_box.y
    for inner in element.walk():
        its = look.box(inner) if inner is not element else None
        if its is None or its.box is None or not look.shown.is_shown(inner):
            continue
        picture = its.box.fragment.box.intrinsic is not None
        if look.style(inner).position not in ("absolute", "fixed") and (
            picture or look.is_painted(inner)
        ):
            part = look.shown.part(its.border_box, its.box.container)
            lowest = max(lowest, part.bottom) if part is not None else lowest
    for text in look.texts_of(element):
        if look.style(text.element).position not in ("absolute", "fixed"):
            lowest = max(lowest, text.letters.bottom)
    return lowest


def _covered(look: Look, element: Element, box: ElementBox, over: LayoutUnit) -> Element | None:
    """What stands outside and is painted, or has text, where something runs out at the bottom."""
    place = Rect(box.border_box.x, box.border_box.bottom, box.border_box.width, over)
    around = set(element.ancestors())
    at: Element | None = element
    while at is not None and at.parent is not None:
        for following in at.parent.child_elements[at.sibling_index + 1 :]:
            below = look.box(following)
            if below is not None and following not in around and look.paints(below, place):
                return following
        at = at.parent
    return None


def _finding(
    look: Look, element: Element, down: Down, over: LayoutUnit, covered: Element | None
) -> Finding:
    winner = look.winner(element, "height")
    unit = f"{down.content / 64:g}px"
    seen = covered is not None or look.is_painted(element)
    where = f" and overlaps {covered.label}" if covered is not None else ""
    return Finding(
        "overflows-fixed-height",
        Severity.BREAKS if seen else Severity.SUSPICIOUS,
        f"The content of {element.label} overflows it by {format_px(over)} px at the bottom{where}: its height is "
        f"{format_px(down.content)} px, its content needs {format_px(down.auto_height)}.",
        (element, *([covered] if covered is not None else [])),
        {"height": down.content / 64, "need": down.auto_height / 64, "over": over / 64},
        look.source(element, "height"),
        (
            look.setting(
                "Use min-height instead of height",
                (element, "min-height", look.written(element, "height") or unit),
                (element, "height", "auto"),
            ),
            look.removing("Use the height of the content (height: auto)", *([winner] if winner else [])),
            look.setting(
                "Allow scrolling (overflow: auto)",
                (element, "overflow-x", "auto"),
                (element, "overflow-y", "auto"),
            ),
        ),
        minor=not seen,
    )


FAMILY = Family(
    "overflows-fixed-height",
    "Content overflows a fixed height",
    "A fixed height does not change with the content: more content overflows over the next block. "
    "min-height grows with the content.",
    "<p style='width:110px;height:20px;margin:0;background:#cde'>this text needs more than one line</p>",
    find,
)
