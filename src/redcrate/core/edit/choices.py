"""The compact row of choices for how an element flows, and what each would change before it is taken."""

from collections.abc import Mapping

from redcrate.core.edit.patch import Patch
from redcrate.core.edit.targets import ANYWHERE, OWN_STYLE, WritesTo, write_targets
from redcrate.core.edit.writing import Assignment, write_edits
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page
from redcrate.core.records import dataclass
from redcrate.core.units import LayoutUnit, counted, format_px

CHOICES: dict[str, tuple[str, ...]] = {
    "display": ("block", "inline", "inline-block", "flow-root", "none"),
    "float": ("none", "left", "right"),
    "clear": ("none", "left", "right", "both"),
    "box-sizing": ("content-box", "border-box"),
    "overflow": ("visible", "hidden", "auto"),
    "text-align": ("left", "center", "right", "justify"),
    "position": ("static", "relative", "absolute"),
    "visibility": ("visible", "hidden"),
}
_LONGHANDS = {"overflow": ("overflow-x", "overflow-y")}


@dataclass(frozen=True, slots=True)
class Moved:
    """One element whose border box would be another one; amounts in 1/64 px, None: no box."""

    element: Element
    before: tuple[LayoutUnit, LayoutUnit, LayoutUnit, LayoutUnit] | None
    after: tuple[LayoutUnit, LayoutUnit, LayoutUnit, LayoutUnit] | None


def current_choice(page: Page, element: Element, name: str) -> str:
    """The value of a choice now."""
    style = page.style_of(element)
    if name == "overflow":
        return str(style.overflow_x)
    value = (
        str(style.flow_display)
        if name == "display"
        else str(getattr(style, name.replace("-", "_") + ("_" if name == "float" else "")))
    )
    return {"start": "left", "end": "right"}.get(value, value) if name == "text-align" else value


def choice_patch(
    page: Page,
    texts: Mapping[str, str],
    element: Element,
    name: str,
    value: str,
    writes_to: WritesTo = ANYWHERE,
) -> Patch:
    """The patch that takes a choice. Raises EditRefused where it cannot be written."""
    assignments = [Assignment(longhand, value) for longhand in _LONGHANDS.get(name, (name,))]
    edits = write_edits(page, texts, element, assignments, writes_to)
    now = current_choice(page, element, name)
    return Patch(tuple(edits), f"{name} of {element.label} {now} → {value}")


def other_sizing_patch(page: Page, texts: Mapping[str, str], element: Element) -> Patch:
    """The patch that gives this element alone the other sizing mode. Raises EditRefused where it would lose."""
    now = current_choice(page, element, "box-sizing")
    other = next(value for value in CHOICES["box-sizing"] if value != now)
    own = next(t for t in write_targets(page, element, "box-sizing") if t.label == OWN_STYLE)
    return choice_patch(page, texts, element, "box-sizing", other, WritesTo(own.key))


def what_moves(before: Page, after: Page) -> tuple[Moved, ...]:
    """The elements whose border boxes differ between two pages of the same tree."""
    found = []
    for one, other in zip(before.elements, after.elements, strict=False):
        old, new = _rect(before, one), _rect(after, other)
        if old != new:
            found.append(Moved(other, old, new))
    return tuple(found)


def boxes_changed(before: Page, after: Page) -> int:
    """How many elements of two pages of the same tree differ in any edge of their boxes."""
    pairs = zip(before.elements, after.elements, strict=False)
    return sum(_edges(before, one) != _edges(after, other) for one, other in pairs)


def _edges(page: Page, element: Element) -> object:
    box = page.box_of(element)
    return (box.fragments, box.margin, box.border, box.padding) if box is not None else None


def _rect(page: Page, element: Element) -> tuple[LayoutUnit, LayoutUnit, LayoutUnit, LayoutUnit] | None:
    box = page.box_of(element)
    if box is None:
        return None
    rect = box.border_box
    return rect.x, rect.y, rect.width, rect.height


def moved_sentence(moved: tuple[Moved, ...], element: Element) -> str:
    """What would change, in one sentence."""
    if not moved:
        return "no box would move"
    mine = next((m for m in moved if m.element.index == element.index), None)
    others = len(moved) - (mine is not None)
    parts = []
    if mine is not None:
        parts.append(own_change(mine))
    if others:
        parts.append(counted(others, "1 other element would move", "{count} other elements would move"))
    return "; ".join(parts)


def own_change(moved: Moved) -> str:
    """How one element's border box differs, in px."""
    if moved.after is None:
        return "it would have no box"
    if moved.before is None:
        return f"it would be {format_px(moved.after[2])} × {format_px(moved.after[3])}"
    names = ("x", "y", "width", "height")
    changes = [
        f"{n} {format_px(a)} → {format_px(b)}"
        for n, a, b in zip(names, moved.before, moved.after, strict=True)
        if a != b
    ]
    return ", ".join(changes)
