"""What the boxes of a page are clipped to: CSS Overflow 3 §3.1."""

from redcrate.core.geometry import Rect
from redcrate.core.layout.fragments import Placed
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page, PlacedBox
from redcrate.core.units import LayoutUnit

_FAR = LayoutUnit(1 << 30)  # 1/64 px: beyond all pages
_DOT = 64  # 1/64 px: who clips to no more than that shows nothing


class Clips:
    """Tells what of a page's boxes is left where those around them clip or scroll."""

    def __init__(self, page: Page) -> None:
        self._of: dict[
            Placed, Rect | None
        ] = {}  # what a box's content is clipped to; None: nothing does
        windows = giver_of_the_windows(page)
        for at in page.in_order:  # outer ones first
            around = self._of[at.container.placed] if at.container is not None else None
            gives = at.fragment.box.element is windows and windows is not None
            self._of[at.placed] = around if gives else _within(around, _own(at))

    def part(self, rect: Rect, within: PlacedBox | None) -> Rect | None:
        """The part of a rectangle that `within`, and what is around it, leave; None if nothing of it is left, or if all
        of it lies beyond the page's top or left edge, where nobody can scroll.
        """
        clip = self._of.get(within.placed) if within is not None else None
        if clip is not None:
            if min(clip.width, clip.height) <= _DOT:
                return None
            rect = rect.shared_with(clip)
        if rect.width <= 0 or rect.height <= 0 or rect.right <= 0 or rect.bottom <= 0:
            return None
        return rect


def giver_of_the_windows(page: Page) -> Element | None:
    """The element whose overflow is the window's: the root, or body where the root has none of its own (§3.3)."""
    roots = [e for e in page.elements[:2] if e.tag in ("html", "body")]
    with_own = (e for e in roots if page.style_of(e).overflow_x != "visible")
    return next(with_own, roots[0] if roots else None)


def _own(at: PlacedBox) -> Rect | None:
    """The padding box, on the axes on which overflow is not visible."""
    style = at.fragment.box.style
    across, down = style.overflow_x != "visible", style.overflow_y != "visible"
    if not (across or down):
        return None
    box = at.rect.inset(at.fragment.border)
    x, width = (box.x, box.width) if across else (LayoutUnit(-_FAR), LayoutUnit(2 * _FAR))
    y, height = (box.y, box.height) if down else (LayoutUnit(-_FAR), LayoutUnit(2 * _FAR))
    return Rect(x, y, width, height)


def _within(around: Rect | None, own: Rect | None) -> Rect | None:
    if around is None or own is None:
        return own if around is None else around
    return around.shared_with(own)
