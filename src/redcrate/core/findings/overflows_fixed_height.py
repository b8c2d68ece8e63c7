"""overflows-fixed-height: content that is taller than the height that was written."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.markup.elements import Element
from redcrate.core.units import format_px

_SEEN = 3 * 64  # what a line needs below its letters is no more than that
_CONTROLS = ("select", "input", "textarea", "button")


def find(look: Look) -> Iterator[Finding]:
    """Boxes with a written height and visible overflow whose content needs more."""
    for element, box in look.boxes:
        if (
            box.box is None
            or box.box.fragment.box.intrinsic is not None
            or not look.size_written(element, "down")
        ):
            continue
        down = box.box.fragment.down
        over = down.auto_height - down.content
        if (
            over - box.padding.bottom <= _SEEN
            or not down.content
            or element.tag in _CONTROLS
            or look.style(element).overflow_y != "visible"
            or look.winner(element, "height") is None
        ):
            continue
        unit = f"{down.content / 64:g}px"
        winner = look.winner(element, "height")
        smallest = look.setting(
            "use min-height instead, so that it can grow",
            (element, "min-height", look.written(element, "height") or unit),
            (element, "height", "auto"),
        )
        yield Finding(
            "overflows-fixed-height",
            Severity.BREAKS,
            f"The content of {element.label} needs {format_px(down.auto_height)} px, its height is "
            f"{format_px(down.content)}: {format_px(over)} px run {_over_what(look, element)}.",
            (element,),
            {"height": down.content / 64, "need": down.auto_height / 64, "over": over / 64},
            look.source(element, "height"),
            (
                smallest,
                look.removing("let the content decide (height auto)", *([winner] if winner else [])),
                look.setting(
                    "let it scroll", (element, "overflow-x", "auto"), (element, "overflow-y", "auto")
                ),
            ),
        )


def _over_what(look: Look, element: Element) -> str:
    """Out of it, or over something that stands below."""
    box = look.box(element)
    at: Element | None = element
    while at is not None and at.parent is not None and box is not None:
        for following in at.parent.child_elements[at.sibling_index + 1 :]:
            below = look.box(following)
            if below is not None and below.border_box.height > 0:
                return "over what comes below"
        at = at.parent
    return "out of it"


FAMILY = Family(
    "overflows-fixed-height",
    "Content runs out of a fixed height",
    "A written height stands, however much is inside: the rest runs out below and over the next block. A smallest "
    "height grows with the content.",
    "<p style='width:110px;height:20px;margin:0;background:#cde'>this text needs more than one line</p>",
    find,
)
