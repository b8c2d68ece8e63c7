"""image-descent-gap: the few px under an inline image, which are the line's descent."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.layout.fragments import Placed, TextPiece
from redcrate.core.units import format_px


def find(look: Look) -> Iterator[Finding]:
    """Images alone on their line at the bottom of a painted box, standing on the baseline."""
    for element, box in look.boxes:
        if (
            element.tag not in ("img", "svg", "video", "canvas")
            or box.box is None
            or not box.box.fragment.box.is_atomic
        ):
            continue
        if look.style(element).vertical_align != "baseline":
            continue
        holder = box.container
        if holder is None or not holder.fragment.lines:
            continue
        line = holder.fragment.lines[-1]
        placed = [
            p
            for p in line.content
            if isinstance(p, Placed) or (isinstance(p, TextPiece) and p.text.strip())
        ]
        if len(placed) != 1 or not any(p is box.box.placed for p in placed):
            continue
        gap = holder.rect.y + line.y + line.height - box.margin_box.bottom
        painted = element.parent
        while painted is not None and not look.is_painted(painted) and painted.tag != "body":
            painted = painted.parent
        if gap <= 64 or painted is None or painted.tag == "body":
            continue
        yield Finding(
            "image-descent-gap",
            Severity.SUSPICIOUS,
            f"Under {element.label} there are {format_px(gap)} px that nobody wrote: it stands on the line's baseline, and "
            "the line has room for descenders.",
            (element,),
            {"gap": gap / 64},
            None,
            (
                look.setting("make the image a block", (element, "display", "block")),
                look.setting(
                    "stand it on the bottom of the line", (element, "vertical-align", "bottom")
                ),
            ),
        )


FAMILY = Family(
    "image-descent-gap",
    "A gap under an image",
    "An image stands in a line like a letter, on the baseline; below it the line keeps room for g and y. As a block, "
    "or aligned to the bottom, it has no line under it.",
    "<div style='border:1px solid;width:120px'><svg width='118' height='30'></svg></div>",
    find,
)
