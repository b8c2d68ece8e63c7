"""What a change does to the row that an element stands in."""

from collections.abc import Iterator

from redcrate.core.explain.position import refused
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.predictions.question import Outcome, OutcomeQuestion
from redcrate.core.rows import Row, RowKind, row_of
from redcrate.core.units import ZERO, LayoutUnit, format_px

_CLOSE = 4  # a row that has less than one such part of its room left is a close thing
_KINDS = (RowKind.FLOATS, RowKind.INLINE, RowKind.FLEX)


def row_question(before: Page, after: Page, element: Element) -> OutcomeQuestion | None:
    """What becomes of the row of an element; None where that is plain, or it stands alone.

    element: of the page before.
    """
    later = after.elements[element.index]
    old, new = row_of(before, element), row_of(after, later)
    row = old or new
    if row is None or row.kind not in _KINDS:
        return None
    together = _indices(old) | _indices(new)
    if len(together) < 2 or (_spent(old) == _spent(new) and _indices(old) == _indices(new)):
        return None
    outcome = _outcome(old, new)
    room = row.room
    close = new is not None and 0 <= new.left < room / _CLOSE
    if outcome is Outcome.STAYS and not close:
        return None
    choices = [Outcome.STAYS, Outcome.DROPS, Outcome.STICKS_OUT]
    if _lacks_one(before, old, element) or outcome is Outcome.COMES_UP:
        choices.insert(2, Outcome.COMES_UP)
    words = f"What will happen to the row of {element.label}?"
    return OutcomeQuestion(later, words, tuple(choices), outcome, _why(after, later, old, new, outcome))


def _indices(row: Row | None) -> frozenset[int]:
    return frozenset() if row is None else frozenset(i.element.index for i in row.items)


def _spent(row: Row | None) -> LayoutUnit:
    return ZERO if row is None else row.sum


def _outcome(old: Row | None, new: Row | None) -> Outcome:
    if new is not None and new.left < 0 and (old is None or old.left >= 0 or old.left != new.left):
        return Outcome.STICKS_OUT
    if _indices(old) - _indices(new):
        return Outcome.DROPS
    return Outcome.COMES_UP if _indices(new) - _indices(old) else Outcome.STAYS


def _lacks_one(page: Page, row: Row | None, element: Element) -> bool:
    """Whether something found no room in the row, or the element itself found none in another."""
    return any(_refusals(page, element)) or (row is not None and row.dropped is not None)


def _why(page: Page, element: Element, old: Row | None, new: Row | None, outcome: Outcome) -> str:
    """What the row spends, or who lacked how much."""
    if outcome is Outcome.DROPS:
        return _why_dropped(page, element, old, new)
    if new is None:
        return ""
    spent, room = format_px(new.sum), format_px(new.room)
    if new.left < 0:
        return f"The row uses {spent} of {room} px: {format_px(-new.left)} px too wide."
    return f"The row uses {spent} of {room} px: {format_px(new.left)} px free."


def _why_dropped(page: Page, element: Element, old: Row | None, new: Row | None) -> str:
    lacking = None if new is None else new.dropped
    if lacking is not None:
        needs = f"{lacking.element.label} needs {format_px(lacking.width)} px and the row has"
        return f"{needs} {format_px(lacking.room)} px free: short by {format_px(lacking.missing)} px."
    gone = [page.elements[i] for i in sorted(_indices(old) - _indices(new))]
    return next((s for e in (element, *gone) for s in _refusals(page, e)), "")


def _refusals(page: Page, element: Element) -> Iterator[str]:
    """What is said of each place that came before its own and had too little room."""
    box = page.box_of(element)
    at = box.box if box is not None else None
    return iter(()) if at is None else (r.sentence for r in refused(at.placed))
