"""Lines that are made as even as their number lets them be: CSS Text 4 §6.4.2, `text-wrap: balance`.

As engines do it, for the lines up to the first forced break: the narrowest room in which the content takes no more lines
than in the room that there is. Only the breaks are taken from it; the lines stand in the room as ever.
"""

from collections.abc import Callable

from redcrate.core.layout.inline_items import InlineContent
from redcrate.core.layout.line_breaking import LineBreaker, LineStart
from redcrate.core.units import LayoutUnit

_MOST_LINES = 6  # longer texts stay as they are, as the standard allows

# How far in a line begins, by whether it is the first one.
Indent = Callable[[bool], LayoutUnit]


def even_width(
    content: InlineContent, breaker: LineBreaker, room: LayoutUnit, indent: Indent
) -> LayoutUnit | None:
    """The room that the lines are to be broken in, 1/64 px; None where they are not evened out."""
    if content.has_floats:
        return None
    most = _lines_in(content, breaker, room, indent, _MOST_LINES)
    if most is None or most < 2:
        return None
    low, high = LayoutUnit(0), room
    while high - low > 1:
        middle = LayoutUnit((low + high) // 2)
        if _lines_in(content, breaker, middle, indent, most) is None:
            low = middle
        else:
            high = middle
    return high


def _lines_in(
    content: InlineContent, breaker: LineBreaker, room: LayoutUnit, indent: Indent, most: int
) -> int | None:
    """How many lines there are in that room; None for more than `most`, or where one is wider than the room."""
    place, count, forced = LineStart(0, 0), 0, False
    while place.item < len(content.items) and not forced:
        left = room - indent(count == 0)
        line = breaker.next_line(place, left, float_met=lambda *_: None, narrowed=lambda: False)
        count += 1
        if count > most or line.width > left:
            return None
        place, forced = line.after, line.forced
    return count
