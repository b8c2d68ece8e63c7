"""What makes a page scroll sideways: all that counts for it, seen or hidden, as browsers count it.

CSS Overflow 3 §2.2: boxes and lines that are clipped do not count, nor do boxes fixed to the window; what is hidden
by `visibility` or `opacity` does.
"""

from redcrate.core.geometry import Rect
from redcrate.core.layout.fragments import Placed
from redcrate.core.overflow.clips import Clips, giver_of_the_windows
from redcrate.core.page import Page, PlacedBox
from redcrate.core.records import dataclass
from redcrate.core.units import ZERO, LayoutUnit, nearest_from_px

SLACK = 32  # 1/64 px: nobody sees less than half a px


@dataclass(frozen=True, slots=True, eq=False)
class Beyond:
    """A box that reaches beyond the right edge. right: on the page, after transforms, 1/64 px.

    is_first: whether what it stands in does not.
    """

    at: PlacedBox
    right: LayoutUnit
    is_first: bool


@dataclass(frozen=True, slots=True, eq=False)
class Sideways:
    """reach: how far to the right anything counts, at least the window's width, 1/64 px. beyond: the boxes that reach
    further than the window, in document order. free: those of which what they hold can count.
    """

    reach: LayoutUnit
    beyond: dict[Placed, Beyond]
    free: frozenset[Placed]

    def over(self, page: Page) -> LayoutUnit:
        """By how much the page is wider than its window."""
        return LayoutUnit(self.reach - nearest_from_px(page.viewport.width))


def sideways(page: Page, clips: Clips | None = None) -> Sideways:
    """What reaches beyond the window's right edge; nothing where the page cannot be scrolled that way."""
    window = nearest_from_px(page.viewport.width)
    if page.root is None or not _scrolls(page):
        return Sideways(window, {}, frozenset())
    rooms = clips or Clips(page)
    free = frozenset(_free(page))
    reach, beyond = window, dict[Placed, Beyond]()
    for at in page.in_order:
        if at.container is None or at.placed not in free:
            continue
        right = _right_of(page, rooms, at, at.rect, at.container)
        if right - window > SLACK:
            beyond[at.placed] = Beyond(at, right, at.container.placed not in beyond)
        reach = max(reach, right)
        for line in at.fragment.lines:
            rect = Rect(at.rect.x + line.x, at.rect.y + line.y, line.used, line.height)
            reach = max(reach, _right_of(page, rooms, at, rect, at))
    return Sideways(reach, beyond, free)


def over_the_window(page: Page) -> LayoutUnit:
    """By how much a page is wider than its window, 1/64 px."""
    if page.root is None:
        return ZERO
    most = page.root.rect.x + page.layouts.extents.of(page.root.fragment).reach
    giver = giver_of_the_windows(page)
    is_plain = giver is None or page.style_of(giver).overflow_x == "visible"
    if is_plain and most <= nearest_from_px(page.viewport.width) and not page.is_transformed:
        return ZERO  # whatever counts
    return sideways(page).over(page)


def _scrolls(page: Page) -> bool:
    giver = giver_of_the_windows(page)
    return giver is None or page.style_of(giver).overflow_x not in ("hidden", "clip")


def _free(page: Page) -> list[Placed]:
    """The boxes that neither are fixed to the window nor stand in one that is."""
    found: dict[Placed, bool] = {}
    for at in page.in_order:
        fixed = at.fragment.box.style.position == "fixed"
        to_window = fixed and at.container is not None and at.container.container is None
        found[at.placed] = (at.container is None or found[at.container.placed]) and not to_window
    return [placed for placed, is_free in found.items() if is_free]


def _right_of(page: Page, clips: Clips, at: PlacedBox, rect: Rect, within: PlacedBox) -> LayoutUnit:
    """The right edge of what of a rectangle counts; 0 where it has no area or is clipped away."""
    part = clips.part(rect, within)
    matrix = page.painted.get(at.placed)
    if part is None:
        return ZERO
    return part.right if matrix is None else matrix.bounds(part).right
