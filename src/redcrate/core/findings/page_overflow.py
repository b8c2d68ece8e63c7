"""What makes a page scroll sideways: all that counts for it, seen or hidden, as browsers count it.

CSS Overflow 3 §2.2: boxes and text that are clipped do not count, nor do boxes fixed to the window; what is hidden
by `visibility` or `opacity` does.
"""

from collections.abc import Iterator
from dataclasses import dataclass

from redcrate.core.findings.look import Look
from redcrate.core.geometry import Rect
from redcrate.core.layout.fragments import Placed
from redcrate.core.page import PlacedBox
from redcrate.core.units import ZERO, LayoutUnit, nearest_from_px

SLACK = 32  # half a px: nobody sees less


@dataclass(frozen=True, slots=True, eq=False)
class Beyond:
    """A box that reaches beyond the right edge. right: on the page, after transforms, 1/64 px.

    is_first: whether what it stands in does not.
    """

    at: PlacedBox
    right: LayoutUnit
    is_first: bool


@dataclass(frozen=True, slots=True, eq=False)
class PageOverflow:
    """reach: how far to the right anything counts, 1/64 px. beyond: the boxes that do, in document order."""

    reach: LayoutUnit
    beyond: dict[Placed, Beyond]


def page_overflow(look: Look) -> PageOverflow:
    """What reaches beyond the window's right edge; nothing where the page cannot be scrolled that way."""
    return look.once("page overflow", lambda: _page_overflow(look))


def counts_sideways(look: Look, at: PlacedBox) -> bool:
    """Whether what stands in a box can make the page scroll: it is not fixed, and nothing around it clips."""
    free: dict[Placed, bool] = look.once("free boxes", lambda: dict(_free(look)))
    return free[at.placed] and _scrolls(look)


def _scrolls(look: Look) -> bool:
    """CSS Overflow 3 §3.3: the root's overflow is the window's, or else that of body."""
    roots = [e for e in look.page.elements[:2] if e.tag in ("html", "body")]
    values = [look.style(e).overflow_x for e in roots]
    first = next((v for v in values if v != "visible"), "visible")
    return first not in ("hidden", "clip")


def _free(look: Look) -> Iterator[tuple[Placed, bool]]:
    """Each box, and whether neither it nor a box around it is fixed to the window."""
    known: dict[Placed, bool] = {}
    for at in look.page.in_order:
        style = at.fragment.box.style
        around = at.container is None or known[at.container.placed]
        fixed = style.position == "fixed" and at.container is not None and at.container.container is None
        known[at.placed] = around and not fixed
        yield at.placed, known[at.placed]


def _page_overflow(look: Look) -> PageOverflow:
    window = nearest_from_px(look.page.viewport.width)
    reach, beyond = window, dict[Placed, Beyond]()
    for at in look.page.in_order:
        if at.container is None or not counts_sideways(look, at):
            continue
        right = _right_of(look, at, at.rect, at.container)
        if right - window > SLACK:
            beyond[at.placed] = Beyond(at, right, at.container.placed not in beyond)
        reach = max(reach, right)
        for line in at.fragment.lines:
            rect = Rect(at.rect.x + line.x, at.rect.y + line.y, line.used, line.height)
            reach = max(reach, _right_of(look, at, rect, at))
    return PageOverflow(reach, beyond)


def _right_of(look: Look, at: PlacedBox, rect: Rect, within: PlacedBox) -> LayoutUnit:
    """The right edge of what of a rectangle counts; 0 where it has no area or is clipped away."""
    part = look.shown.part(rect, within)
    matrix = look.page.painted.get(at.placed)
    if part is None:
        return ZERO
    return part.right if matrix is None else matrix.bounds(part).right
