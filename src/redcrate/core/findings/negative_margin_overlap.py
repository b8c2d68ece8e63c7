"""negative-margin-overlap: a negative margin that pulls a block over its neighbour."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.units import format_px


def find(look: Look) -> Iterator[Finding]:
    """Blocks with a negative margin whose border box lies over a sibling's."""
    for element, box in look.boxes:
        if (
            box.box is None
            or element.parent is None
            or look.style(element).position in ("absolute", "fixed")
        ):
            continue
        sides = [
            s
            for s in ("top", "left", "bottom", "right")
            if box.margin.side(s) < 0 and look.winner(element, f"margin-{s}")
        ]
        if not sides:
            continue
        for sibling in element.parent.child_elements:
            other = look.box(sibling)
            if sibling is element or other is None or other.box is None:
                continue
            width = min(box.border_box.right, other.border_box.right) - max(
                box.border_box.x, other.border_box.x
            )
            height = min(box.border_box.bottom, other.border_box.bottom) - max(
                box.border_box.y, other.border_box.y
            )
            if width > 64 and height > 64:
                yield Finding(
                    "negative-margin-overlap",
                    Severity.SUSPICIOUS,
                    f"{element.label} is pulled over {sibling.label} by its {sides[0]} margin of "
                    f"{format_px(box.margin.side(sides[0]))} px: they share {format_px(width)} × {format_px(height)} px.",
                    (element, sibling),
                    {
                        "width": width / 64,
                        "height": height / 64,
                        "margin": box.margin.side(sides[0]) / 64,
                    },
                    look.source(element, f"margin-{sides[0]}"),
                    (
                        look.setting(
                            f"make its {sides[0]} margin 0",
                            *((element, f"margin-{s}", "0") for s in sides),
                        ),
                    ),
                )
                break


FAMILY = Family(
    "negative-margin-overlap",
    "A negative margin covers something",
    "A negative margin pulls a block over what stands beside it. That can be wanted; then silence this finding.",
    "<div><p style='margin:0;background:#cde'>first</p><p style='margin:-12px 0 0 20px;background:#dec'>second</p></div>",
    find,
)
