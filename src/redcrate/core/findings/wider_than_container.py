"""wider-than-container: a box that sticks out of the box around it to the right."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look, more_alike
from redcrate.core.findings.table_wider_than_container import needs_more
from redcrate.core.layout.flex_facts import FlexFacts
from redcrate.core.layout.table_facts import TableFacts
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox
from redcrate.core.units import ZERO, LayoutUnit, format_px

_SLACK = 32  # half a px: nobody sees less
_SMALL = 2 * 64  # as much as a border: it shows, and breaks nothing


def sticks_out(look: Look, element: Element, box: ElementBox) -> LayoutUnit:
    """By how much the border box goes beyond its container's content box, 1/64 px; 0 where that is wanted."""
    at, style = box.box, look.style(element)
    if at is None or at.container is None or style.position in ("absolute", "fixed", "relative"):
        return ZERO
    holder = at.container.fragment.box
    if holder.element is None or holder.style.overflow_x != "visible" or holder.style.direction == "rtl":
        return ZERO
    if at.placed in look.page.painted:
        return ZERO  # painted elsewhere
    if isinstance(at.fragment.facts, TableFacts) and needs_more(at.fragment.facts, at.container):
        return ZERO  # table-wider-than-container speaks of it
    facts = at.container.fragment.facts
    if isinstance(facts, FlexFacts) and box.border_box.width <= at.container.content_rect.width:
        return ZERO  # its line is too full, not it alone
    if box.margin.left < 0 or box.margin.right < 0 or holder.element.tag == "html":
        return ZERO
    over = box.border_box.right - at.container.content_rect.right
    picture = at.fragment.box.intrinsic is not None
    return over if over > _SLACK and (picture or look.winner(element, "width") is not None) else ZERO


def find(look: Look) -> Iterator[Finding]:
    """The outermost boxes whose width is more than there is, as long as the window has room; alike ones once."""
    window = look.page.viewport.width * 64
    kinds: dict[object, list[tuple[Element, ElementBox, LayoutUnit]]] = {}
    for element, box in look.boxes:
        over = sticks_out(look, element, box)
        if not over or box.border_box.right > window + _SLACK or _outgrew(look, element, box, over):
            continue
        kind = (element.tag, element.classes, look.source(element, "width"))
        kinds.setdefault(kind, []).append((element, box, over))
    for alike in kinds.values():
        yield _finding(look, sorted(alike, key=lambda one: -one[2]))


def _finding(look: Look, alike: list[tuple[Element, ElementBox, LayoutUnit]]) -> Finding:
    element, box, over = alike[0]
    assert box.box is not None and box.box.container is not None
    room = box.box.container.content_rect.width
    holder = box.box.container.fragment.box.label
    picture = box.box.fragment.box.intrinsic is not None
    elements = tuple(e for e, _, _ in alike)
    limits = [value for e in elements for value in at_most(look, e)]
    ways = [look.setting("Limit its width (max-width: 100%)", *limits)]
    if not box.box.fragment.box.is_float and not picture:
        auto = [(e, "width", "auto") for e in elements]
        ways.append(look.setting("Use the available width (width: auto)", *auto))
    return Finding(
        "wider-than-container",
        Severity.BREAKS if over > _SMALL else Severity.SUSPICIOUS,
        f"{element.label} is {format_px(box.border_box.width)} px wide and overflows {holder} "
        f"({format_px(room)} px) by {format_px(over)} px{more_alike(len(alike))}.",
        elements,
        {"room": room / 64, "need": box.margin_box.width / 64, "over": over / 64},
        look.source(element, "width"),
        tuple(ways),
        minor=picture and over <= _SMALL,
    )


def at_most(look: Look, element: Element) -> list[tuple[Element, str, str]]:
    """Values that keep a box within its container; a picture keeps its proportions."""
    limit = look.written(element, "max-width")
    whole = "100%" if limit in ("", "none") else f"min({limit}, 100%)"
    values = [(element, "max-width", whole)]
    box = look.box(element)
    if look.style(element).box_sizing != "border-box" and box is not None and _has_edges(box):
        values.append((element, "box-sizing", "border-box"))
    at = box.box if box is not None else None
    if at is not None and at.fragment.box.intrinsic is not None and look.style(element).height != "auto":
        values.append((element, "height", "auto"))
    return values


def _has_edges(box: ElementBox) -> bool:
    return box.padding.across + box.border.across > 0


def _outgrew(look: Look, element: Element, box: ElementBox, over: LayoutUnit) -> bool:
    """Whether it is only its own padding and border that stick out: outgrew-its-width speaks of that."""
    assert box.box is not None and box.box.container is not None
    return (
        look.style(element).box_sizing != "border-box"
        and box.content_box.width == box.box.container.content_rect.width
        and over <= box.padding.across + box.border.across
    )


FAMILY = Family(
    "wider-than-container",
    "Block wider than its container",
    "A fixed width does not adapt to its container: the block overflows on the right and covers its neighbours.",
    "<div style='width:120px;border:1px solid'><p style='width:160px;background:#cde;margin:0'>too wide</p></div>",
    find,
)
