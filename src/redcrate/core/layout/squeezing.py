"""Boxes that may become as narrow as nothing, since their width is a percentage: CSS Box Sizing 3 §5.2.2.

Engines differ from the standard, and with the place that is asked from, in what they do for controls; this is what they do.
"""

from redcrate.core.boxes.box import Box
from redcrate.core.boxes.form_controls import is_tick
from redcrate.core.boxes.replaced_elements import button_label
from redcrate.core.style.values import NO_LENGTH, SizeValue

_FIELDS = frozenset(("input", "select"))
_CONTROLS = frozenset(("input", "select", "textarea", "meter", "progress"))


def is_percentage(value: SizeValue) -> bool:
    """Whether a size hangs on the containing block's."""
    return not isinstance(value, NO_LENGTH) and bool(value.has_percent)


def field_squeezes(box: Box) -> bool:
    """Whether a field of one line, or a menu, contributes nothing but its edges to the min-content size around it."""
    return _is_one_of(box, _FIELDS) and is_percentage(box.style.width)


def replaced_squeezes(box: Box) -> bool:
    """The same of a replaced box: of text areas only by the width, ticks never."""
    width, limit = is_percentage(box.style.width), is_percentage(box.style.max_width)
    if box.element is None or box.element.tag not in ("input", "textarea"):
        return width or limit
    return width and not is_tick(box.element)


def item_squeezes(box: Box) -> bool:
    """Whether a control has no automatic least width as a flex item (CSS Flexbox 1 §4.5)."""
    if not _is_one_of(box, _CONTROLS):
        return False
    assert box.element is not None
    limited = box.element.tag == "textarea" and is_percentage(box.style.max_width)
    return is_percentage(box.style.width) or limited


def _is_one_of(box: Box, tags: frozenset[str]) -> bool:
    element = box.element
    return element is not None and element.tag in tags and button_label(element) is None
