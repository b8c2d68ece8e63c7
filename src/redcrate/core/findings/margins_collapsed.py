"""margins-collapsed: two written margins between neighbours, of which only one counts."""

from collections.abc import Iterator

from redcrate.core.findings.finding import Family, Finding, MakeFix, Severity
from redcrate.core.findings.look import Look
from redcrate.core.layout.margins import MarginMember
from redcrate.core.units import LayoutUnit, format_px

_LEAST = 8 * 64


def find(look: Look) -> Iterator[Finding]:
    """Pairs of siblings whose bottom and top margins, both the author's, met; once for each pair of rules."""
    told: set[object] = set()
    body = look.page.source.markup.body
    around = [look.box(body)] if body is not None else []
    for at in [*around, *(b for _, b in look.boxes)]:
        if at is None or at.box is None:
            continue
        for group in at.box.fragment.groups:
            pair = _pair(look, group.margins.members)
            if pair is None:
                continue
            upper, lower = pair
            assert upper.box.element is not None and lower.box.element is not None
            cause = look.source(lower.box.element, "margin-top")
            kind = (cause, look.source(upper.box.element, "margin-bottom"))
            if kind in told:
                continue
            told.add(kind)
            both, used = upper.amount + lower.amount, group.margins.used
            yield Finding(
                "margins-collapsed",
                Severity.ADVICE,
                f"Between {upper.box.label} and {lower.box.label} {format_px(upper.amount)} and "
                f"{format_px(lower.amount)} px of margin collapse: the gap is {format_px(used)} px, the larger margin.",
                (lower.box.element, upper.box.element),
                {"bottom": upper.amount / 64, "top": lower.amount / 64, "used": used / 64},
                cause,
                _ways(look, upper, lower, both),
            )


def _pair(look: Look, members: tuple[MarginMember, ...]) -> tuple[MarginMember, MarginMember] | None:
    ends = [m for m in members if not _is_empty(look, m)]
    if len(ends) != 2:
        return None
    upper, lower = ends
    if upper.side != "bottom" or lower.side != "top" or min(upper.amount, lower.amount) < _LEAST:
        return None
    first, second = upper.box.element, lower.box.element
    if first is None or second is None or first.parent is not second.parent:
        return None
    if (first.tag, first.classes) == (second.tag, second.classes):
        return None  # alike neighbours: the margin is meant once between them
    if all(look.style(e).margin_top == look.style(e).margin_bottom for e in (first, second)):
        return None  # the same above and below: a rhythm, which reckons with it
    written = look.winner(first, "margin-bottom") and look.winner(second, "margin-top")
    return (
        (upper, lower)
        if written and 2 * min(upper.amount, lower.amount) >= max(upper.amount, lower.amount)
        else None
    )


def _is_empty(look: Look, member: MarginMember) -> bool:
    """Whether the margin is of a block that nothing stands in: margins go through it (§8.3.1)."""
    element = member.box.element
    box = look.box(element) if element is not None else None
    return box is not None and box.border_box.height == 0


def _ways(look: Look, upper: MarginMember, lower: MarginMember, both: LayoutUnit) -> tuple[MakeFix, ...]:
    first, second = upper.box.element, lower.box.element
    assert first is not None and second is not None
    less, more = sorted((upper, lower), key=lambda m: m.amount)
    assert less.box.element is not None
    return (
        look.setting(
            f"Set the gap once ({format_px(more.amount)}px; the other margin 0)",
            (less.box.element, f"margin-{less.side}", "0"),
        ),
        look.setting(
            f"Make the gap {format_px(both)} px",
            (first, "margin-bottom", f"{both / 64:g}px"),
            (second, "margin-top", "0"),
        ),
    )


FAMILY = Family(
    "margins-collapsed",
    "Margins collapse",
    "The vertical margins of neighbouring blocks collapse; the larger counts. 30 px below and 20 px "
    "above make a gap of 30 px.",
    "<div style='overflow:hidden'><p style='margin:0 0 30px;background:#cde'>30 below</p>"
    "<b style='display:block;margin:20px 0 0;background:#dec'>20 above</b></div>",
    find,
)
