"""Which property makes an item as large as somebody wants: in a flex line that is not always width or height.

CSS Flexbox 1 §7.2 (flex-basis wins over the size), §9.7 (an item that grows or shrinks goes on from there).
"""

from redcrate.core.explain.flexed import FlexSum, flex_sum
from redcrate.core.layout.flex_facts import BaseReason
from redcrate.core.page import ElementBox
from redcrate.core.records import dataclass


@dataclass(frozen=True, slots=True)
class Working:
    """longhand: the property to write. also: what must be written beside it, as (longhand, value). note: why."""

    longhand: str
    also: tuple[tuple[str, str], ...] = ()
    note: str = ""


def working(box: ElementBox, longhand: str) -> Working:
    """What to write so that "width" or "height" has its effect; itself where it has."""
    found = flex_sum(box) if longhand in ("width", "height") else None
    if found is None or found.along != longhand:
        return Working(longhand)
    notes = []
    name = longhand
    if found.item.base_reason is BaseReason.BASIS:
        name = "flex-basis"
        notes.append(f"flex-basis overrides {longhand} here, so flex-basis changes.")
    also = _kept(found)
    if also:
        verb = "grow" if also[0][0] == "flex-grow" else "shrink"
        notes.append(f"{also[0][0]} becomes 0, so that the item does not {verb}.")
    return Working(name, also, " ".join(notes))


def _kept(found: FlexSum) -> tuple[tuple[str, str], ...]:
    """What keeps the item at the size that is written."""
    style = found.item.box.style
    if found.line.free > 0 and style.flex_grow:
        return (("flex-grow", "0"),)
    if found.line.free < 0 and style.flex_shrink:
        return (("flex-shrink", "0"),)
    return ()
