"""margin-escapes-parent: the first or last child's margin that goes through the edge of its painted parent."""

from collections.abc import Iterator

from redcrate.core.explain.down import groups_of
from redcrate.core.findings.finding import Family, Finding, Severity
from redcrate.core.findings.look import Look
from redcrate.core.markup.elements import Element
from redcrate.core.page import PlacedBox
from redcrate.core.units import LayoutUnit, format_px


def find(look: Look) -> Iterator[Finding]:
    """Margins that collapsed through the top or bottom of a parent with a background (CSS 2.2 §8.3.1)."""
    for element, box in look.boxes:
        if box.box is None or not look.has_ground(element):
            continue
        for side in ("top", "bottom"):
            escaped = _escaped(look, box.box, side)
            if escaped is not None:
                yield _finding(look, element, side, *escaped)


def _escaped(look: Look, at: PlacedBox, side: str) -> tuple[Element, LayoutUnit] | None:
    """The child whose margin goes through that side, and how far it moves the parent or what follows."""
    fragment = at.fragment
    parent = fragment.box.element
    if (
        parent is None
        or fragment.box.establishes_bfc
        or fragment.border.side(side)
        or fragment.padding.side(side)
    ):
        return None
    groups = groups_of(at)
    for group in groups[: len(groups) - len(fragment.groups)]:  # those outside: the margin has left
        members = group.margins.members
        own = next((m for m in members if m.box is fragment.box and m.side == side), None)
        inner = [
            m for m in members if m.side == side and m.box is not fragment.box and m.box.element is not None
            and parent in m.box.element.ancestors()
        ]  # fmt: skip
        if not inner or not fragment.height:
            continue
        most = max(inner, key=lambda m: m.amount)
        rest = max((m.amount for m in members if m not in inner), default=0)
        gained = most.amount - max(rest, own.amount if own else 0)
        assert most.box.element is not None
        if gained > 64:
            return most.box.element, most.amount
    return None


def _finding(look: Look, parent: Element, side: str, child: Element, amount: LayoutUnit) -> Finding:
    other = "above" if side == "top" else "below"
    return Finding(
        "margin-escapes-parent",
        Severity.SUSPICIOUS,
        f"The {side} margin of {child.label}, {format_px(amount)} px, collapses through "
        f"{parent.label}: the gap is {other} its background, not inside.",
        (parent, child),
        {"margin": amount / 64},
        look.source(child, f"margin-{side}"),
        (
            look.setting(
                f"Contain the margins of {parent.label} (display: flow-root)",
                (parent, "display", "flow-root"),
            ),
            look.setting(
                "Replace the margin with padding of the parent",
                (parent, f"padding-{side}", f"{amount / 64:g}px"),
                (child, f"margin-{side}", "0"),
            ),
            look.setting(f"Remove the {side} margin (0)", (child, f"margin-{side}", "0")),
        ),
    )


FAMILY = Family(
    "margin-escapes-parent",
    "Margin outside its parent",
    "The top margins of a parent and its first child collapse if no padding or border is between "
    "them: the parent moves down and the gap is outside. Padding, a border or display: flow-root "
    "keeps the margin inside.",
    "<div style='background:#cde'><p style='margin:20px 0 0'>the gap is above the blue</p></div>",
    find,
)
