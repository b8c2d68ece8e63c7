"""How a box spends height: borders, padding, content, and the vertical margins that collapsed."""

from typing import assert_never

from redcrate.core.explain.across import container_label, longhand_of
from redcrate.core.explain.last_asked import last_asked
from redcrate.core.explain.sharing import decided_by_container
from redcrate.core.explain.terms import Equation, Reason, Term, written_value
from redcrate.core.layout.block_container import centres_content
from redcrate.core.layout.fieldset_facts import FieldsetFacts
from redcrate.core.layout.flex_facts import FlexFacts
from redcrate.core.layout.fragments import Down, Fragment, InlinePiece, SizeReason
from redcrate.core.layout.margins import MarginGroup, MarginMember
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox, Page, PlacedBox
from redcrate.core.units import ZERO, LayoutUnit, counted, format_px


@last_asked
def down(page: Page, element: Element) -> Equation | None:
    """The equation of an element's height; None if it has no box.

    Border, padding and content add up to the border box exactly. A margin that another one swallowed
    is struck. available: the containing block's height where percentages have one.
    """
    box = page.box_of(element)
    if box is None:
        return None
    if box.box is None:
        return _inline(page, box)
    fragment = box.box.fragment
    groups = groups_of(box.box)
    amounts = {
        ("margin", "top"): fragment.margin.top,
        ("border", "top"): fragment.border.top,
        ("padding", "top"): fragment.padding.top,
        ("content", ""): fragment.down.content,
        ("padding", "bottom"): fragment.padding.bottom,
        ("border", "bottom"): fragment.border.bottom,
        ("margin", "bottom"): fragment.margin.bottom,
    }
    terms: list[Term] = []
    for (part, side), used in amounts.items():
        longhand = longhand_of(part, side, "down")
        written, source = written_value(page, element, longhand)
        why, struck = "", False
        if part == "content":
            why = height_reason(fragment.down, fragment)
        elif part == "margin":
            why, struck = _collapsed(groups, fragment, side)
        terms.append(Term(part, side, longhand, used, written, source, why, struck))
    decided = list(decided_by_container(page, box, fragment.down.reason, "height"))
    reasons = decided or [Reason(_height_sentence(fragment.down, fragment, terms[3]), terms[3].source)]
    if centres_content(fragment.box) and fragment.down.content > fragment.down.auto_height:
        inside = format_px(fragment.down.auto_height)
        reasons.append(Reason(f"A button centres its content, {inside} px high, in this height.", None))
    reasons += [Reason(t.why + ".", t.source) for t in terms if t.part == "margin" and t.why]
    return Equation(
        element, "down", container_label(box), fragment.down.basis, tuple(terms), tuple(reasons)
    )


def groups_of(at: PlacedBox) -> list[MarginGroup]:
    """The collapsed margins that the box's own margins may be part of: those of all around it."""
    found: list[MarginGroup] = []
    outer: PlacedBox | None = at.container
    while outer is not None:
        found.extend(outer.fragment.groups)
        if outer.fragment.box.establishes_bfc:
            break
        outer = outer.container
    found.extend(at.fragment.groups)
    return found


def winner_of(group: MarginGroup) -> MarginMember | None:
    """The margin that decides a group: the largest, or the most negative where all are."""
    if not group.margins.members:
        return None
    return max(group.margins.members, key=lambda m: (m.amount > 0, abs(m.amount)))


def _collapsed(groups: list[MarginGroup], fragment: Fragment, side: str) -> tuple[str, bool]:
    """What became of one vertical margin, and whether another swallowed it."""
    for group in groups:
        members = group.margins.members
        if any(m.box is fragment.box and m.side == side for m in group.margins.dropped):
            return (
                "does not count: in quirks mode, default margins end at the edge of body and of a cell",
                True,
            )
        mine = next((m for m in members if m.box is fragment.box and m.side == side), None)
        if mine is None or len(members) == 1:
            continue
        won = winner_of(group)
        if won is None or won is mine:
            others = ", ".join(_name(m) for m in members if m is not mine)
            return f"counts; collapses with {others}", False
        if mine.amount < 0 < won.amount:
            return f"negative: subtracted from {_name(won)}, {format_px(won.amount)} px", False
        return f"collapses with {_name(won)}: {format_px(won.amount)} px counts", True
    return "", False


def _name(member: MarginMember) -> str:
    return f"the {member.side} margin of {member.box.label}"


def height_reason(height: Down, fragment: Fragment) -> str:
    """How the content height came about, in a few words."""
    if height.limit:
        return f"limited by {height.limit}"
    if height.reason in (SizeReason.CONTENT, SizeReason.PERCENT_OF_NOTHING):
        if height.source in ("lines", "even lines"):
            count = len(fragment.lines) or _line_count(fragment)
            lines = counted(count, "from 1 line", "from {count} lines")
            return lines if height.source == "lines" else f"{lines}, as even as can be (text-wrap)"
        return {
            "children": _of_children(fragment),
            "floats": "from the floats inside",
            "shown lines": "from the visible lines; the others overflow",
            "contained": "because of contain, its content does not count",
            "nothing": "its content has no height",
        }.get(height.source, "from the content")
    return str(height.reason.value)


def _of_children(fragment: Fragment) -> str:
    """What the height of a box with boxes in it comes from, by what kind of container it is."""
    facts = fragment.facts
    if isinstance(facts, FlexFacts):
        count = len(facts.lines)
        if not facts.is_row:
            return "from the items inside"
        return f"from its {count} lines of items" if count > 1 else "from its line of items"
    if isinstance(facts, FieldsetFacts):
        return "from its legend and the blocks inside" if facts.room else "from the blocks inside"
    return "from the blocks inside" if facts is None else "from its rows"


def _line_count(fragment: Fragment) -> int:
    return sum(len(c.fragment.lines) for c in fragment.children)


def _height_sentence(height: Down, fragment: Fragment, term: Term) -> str:
    content = format_px(height.content)
    if height.limit:
        lost = format_px(height.tentative)
        return (
            f"{height.limit} limits it: the content is {content} px high; without the limit {lost} px."
        )
    match height.reason:
        case SizeReason.SPECIFIED:
            return f"height: {term.written}."
        case SizeReason.PERCENT:
            basis = format_px(height.basis or ZERO)
            return f"height: {term.written} of the {basis} px of its containing block."
        case SizeReason.PERCENT_OF_NOTHING:
            return f"height: {term.written} has no effect, because the height of its containing block is auto: {content} px."
        case SizeReason.CONTENT:
            joint = {"nothing": ", as ", "contained": ", as "}.get(height.source, " ")
            return f"height is auto: {content} px{joint}{height_reason(height, fragment)}."
        case (
            SizeReason.FILL
            | SizeReason.SHRINK_TO_FIT
            | SizeReason.MIN_CONTENT
            | SizeReason.MAX_CONTENT
            | SizeReason.FIT_CONTENT
            | SizeReason.FIELD
            | SizeReason.INTRINSIC
            | SizeReason.RATIO
            | SizeReason.RATIO_LIMIT
            | SizeReason.RATIO_CONTENT
            | SizeReason.STRETCH
            | SizeReason.FLEXED
            | SizeReason.LINE
            | SizeReason.AREA
            | SizeReason.COLUMNS
            | SizeReason.ROWS
            | SizeReason.VIEWPORT
            | SizeReason.INLINE
        ):
            return f"{height.reason.value}: {content} px."
    assert_never(height.reason)


def _inline(page: Page, box: ElementBox) -> Equation:
    """An inline element: vertical margins do nothing, padding and border push nothing (§10.6.1)."""
    element = box.element
    if not box.pieces:
        return Equation(element, "down", container_label(box), None, (), ())
    terms = inline_terms_down(page, element, box.pieces[0])
    sentence = "The vertical padding and border of an inline element do not affect layout; its height comes from its line."
    return Equation(element, "down", container_label(box), None, terms, (Reason(sentence, None),))


def inline_terms_down(page: Page, element: Element, piece: InlinePiece) -> tuple[Term, ...]:
    """The terms of an inline element on one line, which push nothing (§10.6.1)."""
    content: LayoutUnit = piece.height - piece.border.down - piece.padding.down
    amounts = {
        ("border", "top"): piece.border.top,
        ("padding", "top"): piece.padding.top,
        ("content", ""): content,
        ("padding", "bottom"): piece.padding.bottom,
        ("border", "bottom"): piece.border.bottom,
    }
    terms = []
    for (part, side), used in amounts.items():
        longhand = longhand_of(part, side, "down")
        written, source = written_value(page, element, longhand)
        why = "the font's ascent and descent" if part == "content" else "painted, does not affect layout"
        terms.append(Term(part, side, longhand, used, written, source, why))
    return tuple(terms)
