"""negative-margin-overlap: a negative margin that pulls a block over its neighbour."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.geometry import Rect
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox
from redcrate.core.units import format_px


def find(look: Look) -> Iterator[Finding]:
    """Blocks with a negative margin whose border box lies over something that a sibling paints."""
    for element, box in look.boxes:
        if box.box is None or look.style(element).position in ("absolute", "fixed"):
            continue
        sides = [
            s
            for s in ("top", "left", "bottom", "right")
            if box.margin.side(s) < 0 and look.winner(element, f"margin-{s}")
        ]
        covered = _covered(look, element, box) if sides and element.parent is not None else None
        if covered is not None:
            yield _finding(look, element, box, sides, *covered)


def _covered(look: Look, element: Element, box: ElementBox) -> tuple[Element, Rect] | None:
    """The first sibling of which something that can be seen lies under (or over) what the box shows."""
    assert element.parent is not None
    for sibling in element.parent.child_elements:
        other = look.box(sibling)
        if sibling is element or other is None or other.box is None:
            continue
        shared = box.border_box.shared_with(other.border_box)
        seen = shared.width > 64 and shared.height > 64
        if seen and look.paints(other, shared) and look.paints(box, shared):
            return sibling, shared
    return None


def _finding(
    look: Look, element: Element, box: ElementBox, sides: list[str], sibling: Element, shared: Rect
) -> Finding:
    side = sides[0]
    amount = box.margin.side(side)
    return Finding(
        "negative-margin-overlap",
        Severity.SUSPICIOUS,
        f"{element.label} covers {format_px(shared.width)} × {format_px(shared.height)} px of "
        f"{sibling.label}, because of its {side} margin of {format_px(amount)} px.",
        (element, sibling),
        {"width": shared.width / 64, "height": shared.height / 64, "margin": amount / 64},
        look.source(element, f"margin-{side}"),
        (
            look.setting(
                f"Remove its {side} margin (0)", *((element, f"margin-{s}", "0") for s in sides)
            ),
        ),
    )


FAMILY = Family(
    "negative-margin-overlap",
    "Negative margin covers a block",
    "A negative margin moves a block over its neighbour. If that is intended, ignore this finding.",
    "<div><p style='margin:0;background:#cde'>first</p><p style='margin:-12px 0 0 20px;background:#dec'>second</p></div>",
    find,
)
