"""image-descent-gap: the few px under an inline image, which are the line's descent."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.layout.fragments import Placed, TextPiece
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox
from redcrate.core.units import ZERO, LayoutUnit, format_px


def find(look: Look) -> Iterator[Finding]:
    """Images alone on their line at the bottom of a painted box, standing on the baseline; once for each kind."""
    kinds: dict[object, list[tuple[Element, LayoutUnit]]] = {}
    for element, box in look.boxes:
        gap = _gap_under(look, element, box)
        if gap > 64:
            around = element.parent
            kind = (element.tag, element.classes, around and (around.tag, around.classes))
            kinds.setdefault(kind, []).append((element, gap))
    for alike in kinds.values():
        elements = tuple(e for e, _ in alike)
        gap = alike[0][1]
        others = f" and {len(alike) - 1} similar" if len(alike) > 1 else ""
        yield Finding(
            "image-descent-gap",
            Severity.SUSPICIOUS,
            f"{format_px(gap)} px of empty space under {elements[0].label}{others}: the image is on "
            "the baseline, with room for descenders below.",
            elements,
            {"gap": gap / 64},
            None,
            (
                look.setting(
                    "Make the images blocks (display: block)"
                    if others
                    else "Make the image a block (display: block)",
                    *((e, "display", "block") for e in elements),
                ),
                look.setting(
                    "Align with the bottom of the line (vertical-align: bottom)",
                    *((e, "vertical-align", "bottom") for e in elements),
                ),
            ),
        )


def _gap_under(look: Look, element: Element, box: ElementBox) -> LayoutUnit:
    """The room under a picture that is alone on the last line of a painted box; 0 if it is none."""
    at, holder = box.box, box.container
    if (
        element.tag not in ("img", "svg", "video", "canvas")
        or at is None
        or not at.fragment.box.is_atomic
    ):
        return ZERO
    if look.style(element).vertical_align != "baseline" or holder is None or not holder.fragment.lines:
        return ZERO
    line = holder.fragment.lines[-1]
    content = [
        p for p in line.content if isinstance(p, Placed) or (isinstance(p, TextPiece) and p.text.strip())
    ]
    if len(content) != 1 or content[0] is not at.placed:
        return ZERO
    if not look.shown.is_shown(element) or look.shown.part(box.border_box, holder) is None:
        return ZERO
    painted = element.parent
    while painted is not None and not look.is_painted(painted) and painted.tag != "body":
        painted = painted.parent
    if painted is None or painted.tag == "body":
        return ZERO
    return holder.rect.y + line.y + line.height - box.margin_box.bottom


FAMILY = Family(
    "image-descent-gap",
    "Gap under an image",
    "An inline image is on the baseline; below it the line has room for descenders. A block image, "
    "or one aligned with the bottom, has no gap.",
    "<div style='border:1px solid;width:120px'><svg width='118' height='30'></svg></div>",
    find,
)
