"""Where a box will be: asked of the changed one, or of the first that it moves."""

from collections.abc import Sequence

from redcrate.core.edit.choices import Moved
from redcrate.core.explain.position import position
from redcrate.core.geometry import Rect
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.predictions.question import PlaceQuestion
from redcrate.core.units import from_px

_WORTH_ASKING = from_px(8)


def place_question(
    before: Page, after: Page, element: Element, moved: Sequence[Moved]
) -> PlaceQuestion | None:
    """Where the element, or else the first block behind it that is moved, will be.

    element: of the page before. What stands in it goes with it, and is not asked about.
    """
    inside = {e.index for e in element.walk()} - {element.index}
    mine = [m.element.index for m in moved if m.element.index == element.index]
    others = [m.element.index for m in moved if m.element.index > element.index]
    for index in (*mine, *(i for i in others if i not in inside)):
        found = _asked(before, after, before.elements[index])
        if found is not None:
            return found
    return None


def _asked(before: Page, after: Page, element: Element) -> PlaceQuestion | None:
    later = after.elements[element.index]
    one, other = before.box_of(element), after.box_of(later)
    if one is None or other is None or one.box is None or other.box is None:
        return None
    old, new = one.border_box, other.border_box
    if max(abs(old.x - new.x), abs(old.y - new.y)) < _WORTH_ASKING:
        return None
    words = f"Where will {element.label} be? Move its outline there."
    ghost = Rect(old.x, old.y, new.width, new.height)
    return PlaceQuestion(later, words, ghost, new, _why(before, element, after, later))


def _why(before: Page, element: Element, after: Page, later: Element) -> str:
    """The first thing that is said of its new place and was not said of the old one."""
    was = {r.sentence for r in position(before, element)}
    now = [r.sentence for r in position(after, later)]
    return next((s for s in now if s not in was), now[0] if now else "")
