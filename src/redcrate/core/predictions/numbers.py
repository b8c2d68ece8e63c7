"""Sums that a change makes others of: widths, heights, what is left, and what is between blocks."""

from collections.abc import Iterator

from redcrate.core.explain.across import across
from redcrate.core.explain.down import down
from redcrate.core.explain.position import position
from redcrate.core.explain.terms import Equation
from redcrate.core.layout.fragments import SizeReason
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox, Page
from redcrate.core.predictions.question import NumberQuestion, Span, Topic
from redcrate.core.records import dataclass
from redcrate.core.units import ZERO, format_px

# Widths that follow from what is written and from the room: one can work them out.
_WORKED_OUT = frozenset(
    (SizeReason.SPECIFIED, SizeReason.PERCENT, SizeReason.FILL, SizeReason.FLEXED, SizeReason.AREA, SizeReason.LINE)
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class Both:
    """An element on the page before a change and on the page after it."""

    page: Page
    element: Element
    box: ElementBox
    page_after: Page
    element_after: Element
    box_after: ElementBox


def both_of(before: Page, after: Page, element: Element) -> Both | None:
    """The element on both pages, where it is a block on both; None else. element: of the page before."""
    later = after.elements[element.index]
    one, other = before.box_of(element), after.box_of(later)
    if one is None or other is None or one.box is None or other.box is None:
        return None
    return Both(before, element, one, after, later, other)


def number_questions(both: Both) -> Iterator[NumberQuestion]:
    """What could be asked about an element whose boxes change, the most telling first."""
    yield from _gaps(both)
    if _is_worked_out(both):
        yield from _widths(both)
        yield from _left(both)
    yield from _height(both)


def _is_worked_out(both: Both) -> bool:
    """Whether its width follows from numbers: not where the content takes another one that only its words decide."""
    assert both.box_after.box is not None
    keeps = both.box.content_box.width == both.box_after.content_box.width
    return keeps or both.box_after.box.fragment.across.reason in _WORKED_OUT


# -- across


def _widths(both: Both) -> Iterator[NumberQuestion]:
    label = both.element.label
    for kind, words in (
        ("margin", f"How wide will {label} be, from margin to margin?"),
        ("border", f"How wide will {label} be, from border to border?"),
        ("content", f"How wide will the content of {label} be?"),
    ):
        one, other = _width_of(both.box, kind), _width_of(both.box_after, kind)
        if one.amount != other.amount:
            why = sum_said(across(both.page_after, both.element_after), kind)
            yield NumberQuestion(kind, Topic.SUMS, both.element_after, words, one, other, why)


def _width_of(box: ElementBox, kind: str) -> Span:
    rect = {"margin": box.margin_box, "border": box.border_box, "content": box.content_box}[kind]
    return Span(True, rect.x, rect.right, box.margin_box.y)


_INSIDE = {
    "margin": ("margin", "border", "padding", "content"),
    "border": ("border", "padding", "content"),
    "content": ("content",),
}


def sum_said(equation: Equation | None, kind: str) -> str:
    """The terms of an explanation that make a margin, border or content box, added up; where the content comes from.

    "" without an explanation.
    """
    if equation is None:
        return ""
    terms = [t for t in equation.terms if t.part in _INSIDE[kind] and not t.struck and t.used]
    total = format_px(sum((t.used for t in terms), ZERO))
    added = " + ".join(f"{format_px(t.used)} {t.part}" for t in terms)
    said = f"{added} = {total}." if len(terms) > 1 else ""
    reason = equation.reasons[0].sentence if equation.reasons else ""
    return said if kind != "content" and said else reason


def _left(both: Both) -> Iterator[NumberQuestion]:
    """What is left of the room it stands in, where that is its own."""
    one, other = across(both.page, both.element), across(both.page_after, both.element_after)
    if one is None or other is None or one.is_shared or other.is_shared:
        return
    if one.available is None or other.available is None or one.left == other.left:
        return
    words = f"How many of the {format_px(other.available)} px of {other.container} will be free beside {both.element.label}?"
    edges = []
    for box, equation in ((both.box, one), (both.box_after, other)):
        right = box.margin_box.right
        edges.append(Span(True, right, right + equation.left, box.border_box.y))
    why = f"{format_px(other.available)} − {format_px(other.spent)} = {format_px(other.left)}."
    yield NumberQuestion("left", Topic.SUMS, both.element_after, words, edges[0], edges[1], why)


# -- down


def _height(both: Both) -> Iterator[NumberQuestion]:
    """Its height, where the content keeps the one it has: nobody can count lines of text beforehand."""
    one, other = both.box.border_box, both.box_after.border_box
    if one.height == other.height or both.box.content_box.height != both.box_after.content_box.height:
        return
    words = f"How high will {both.element.label} be, from border to border?"
    spans = [Span(False, r.y, r.bottom, r.x) for r in (one, other)]
    why = sum_said(down(both.page_after, both.element_after), "border")
    yield NumberQuestion("height", Topic.SUMS, both.element_after, words, spans[0], spans[1], why)


def _gaps(both: Both) -> Iterator[NumberQuestion]:
    """What is between it and its neighbours, where its margins above or below change: they may meet others."""
    one, other = both.box.margin, both.box_after.margin
    if one.bottom != other.bottom:
        yield from _gap(both, _neighbour(both, 1), below=True)
    if one.top != other.top:
        upper = _neighbour(both, -1)
        yield from _gap(both, upper, below=False) if upper is not None else _below_top(both)


def _gap(both: Both, neighbour: Both | None, *, below: bool) -> Iterator[NumberQuestion]:
    if neighbour is None:
        return
    upper, lower = (both, neighbour) if below else (neighbour, both)
    words = f"How many px will there be from {upper.element.label} down to {lower.element.label}?"
    middle = lower.box.border_box.x + lower.box.border_box.width // 2
    spans = [
        Span(False, high.border_box.bottom, low.border_box.y, middle)
        for high, low in ((upper.box, lower.box), (upper.box_after, lower.box_after))
    ]
    why = _above(lower)
    yield NumberQuestion("gap", Topic.MARGINS, lower.element_after, words, spans[0], spans[1], why)


def _below_top(both: Both) -> Iterator[NumberQuestion]:
    """From the top edge of its parent, through which its margin may escape."""
    parent = both.element.parent
    around = (
        both_of(both.page, both.page_after, parent) if parent is not None and parent.index >= 0 else None
    )
    if around is None or not _in_flow(both):
        return
    words = f"How far below the top edge of {around.element.label} will {both.element.label} start?"
    middle = both.box.border_box.x + both.box.border_box.width // 2
    spans = [
        Span(False, outer.border_box.y, inner.border_box.y, middle)
        for outer, inner in ((around.box, both.box), (around.box_after, both.box_after))
    ]
    yield NumberQuestion(
        "top", Topic.MARGINS, both.element_after, words, spans[0], spans[1], _above(both)
    )


def _above(both: Both) -> str:
    """Why it begins where it does: the margins that met above it."""
    reasons = [r.sentence for r in position(both.page_after, both.element_after)]
    return next((r for r in reasons if r.startswith("Above it")), reasons[0] if reasons else "")


def _neighbour(both: Both, step: int) -> Both | None:
    """The block that follows it in the flow (1), or comes before it (-1), on both pages."""
    if both.element.parent is None or not _in_flow(both):
        return None
    siblings = [e for e in both.element.parent.child_elements if e.index >= 0]
    at = siblings.index(both.element) + step
    while 0 <= at < len(siblings):
        found = both_of(both.page, both.page_after, siblings[at])
        if found is not None and _in_flow(found):
            return found
        at += step
    return None


def _in_flow(both: Both) -> bool:
    """Whether it is a block among blocks, on both pages."""
    for page, element, box in (
        (both.page, both.element, both.box),
        (both.page_after, both.element_after, both.box_after),
    ):
        style = page.style_of(element)
        assert box.box is not None
        out = style.float_ != "none" or style.position in ("absolute", "fixed")
        outer = box.box.container
        if out or box.box.fragment.box.is_atomic or outer is None or outer.fragment.facts is not None:
            return False
    return True
