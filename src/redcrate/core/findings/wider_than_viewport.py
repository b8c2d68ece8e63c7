"""wider-than-viewport: a box that makes the page wider than the window."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.markup.elements import Element
from redcrate.core.units import format_px, nearest_from_px

_SLACK = 32


def find(look: Look) -> Iterator[Finding]:
    """The outermost boxes with a written width that reach beyond the window's right edge."""
    window = nearest_from_px(look.page.viewport.width)
    told: set[Element] = set()
    for element, box in look.boxes:
        over = box.border_box.right - window
        at = box.box
        if over <= _SLACK or at is None or any(a in told for a in element.ancestors()):
            continue
        if _is_clipped(look, element) or look.style(element).position in ("absolute", "fixed"):
            continue
        names = [n for n in ("width", "min-width") if look.winner(element, n)]
        if not names and element.tag != "img":
            continue
        told.add(element)
        ways = [look.setting("let it be at most as wide as what it stands in", *_at_most(look, element))]
        if look.winner(element, "width") and element.tag != "img":
            ways.append(look.setting("let it take the width that there is", (element, "width", "auto")))
        if "min-width" in names:
            ways.append(look.setting("take its smallest width away", (element, "min-width", "0")))
        yield Finding(
            "wider-than-viewport",
            Severity.BREAKS,
            f"{element.label} is {format_px(box.border_box.width)} px wide and reaches {format_px(over)} px beyond "
            f"the window of {format_px(window)} px.",
            (element,),
            {"room": window / 64, "need": box.border_box.right / 64, "over": over / 64},
            look.source(element, names[0]) if names else None,
            tuple(ways),
        )


def _at_most(look: Look, element: Element) -> list[tuple[Element, str, str]]:
    values = [(element, "max-width", "100%")]
    if look.style(element).box_sizing != "border-box":
        values.append((element, "box-sizing", "border-box"))
    if element.tag == "img" and look.winner(element, "height") is None:
        values.append((element, "height", "auto"))
    return values


def _is_clipped(look: Look, element: Element) -> bool:
    return any(
        look.style(a).overflow_x != "visible"
        for a in element.ancestors()
        if a.tag not in ("html", "body")
    )


FAMILY = Family(
    "wider-than-viewport",
    "A block is wider than the window",
    "A width in px stays what it is on a narrow screen: people must scroll sideways. A largest width of 100 % lets "
    "it shrink where there is less room.",
    "<div style='width:900px;background:#cde'>900 px</div>",
    find,
)
