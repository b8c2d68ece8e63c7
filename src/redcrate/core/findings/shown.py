"""What of a page can be seen: not hidden, not transparent, not clipped away, not beyond the top or left edge."""

from redcrate.core.geometry import Rect
from redcrate.core.layout.fragments import Placed
from redcrate.core.markup.elements import Element
from redcrate.core.page import Page, PlacedBox
from redcrate.core.units import LayoutUnit

_FAR = LayoutUnit(1 << 30)  # 1/64 px: beyond all pages
_DOT = 64  # 1/64 px: who clips to no more than that shows nothing
# Characters that leave no ink: soft hyphens, zero-width marks, joiners, direction marks.
_INVISIBLE = dict.fromkeys(
    (0xAD, *range(0x200B, 0x2010), *range(0x202A, 0x202F), *range(0x2060, 0x2070), 0xFEFF)
)


class Shown:
    """Tells what can be seen of one page's boxes."""

    def __init__(self, page: Page) -> None:
        self._page = page
        self._opaque: dict[Element, bool] = {}  # whether neither it nor what is around it is transparent
        self._clips: dict[
            Placed, Rect | None
        ] = {}  # by the box, what its content is clipped to; None: nothing does
        for at in page.in_order:  # outer ones first
            around = self._clips[at.container.placed] if at.container is not None else None
            self._clips[at.placed] = _with(around, self._own_clip(at))

    def _own_clip(self, at: PlacedBox) -> Rect | None:
        """CSS Overflow 3 §3.1: the padding box, on the axes that are not visible; html's and body's is the window's."""
        style, element = at.fragment.box.style, at.fragment.box.element
        across, down = style.overflow_x != "visible", style.overflow_y != "visible"
        if not (across or down) or (element is not None and element.tag in ("html", "body")):
            return None
        box = at.rect.inset(at.fragment.border)
        x, width = (box.x, box.width) if across else (LayoutUnit(-_FAR), LayoutUnit(2 * _FAR))
        y, height = (box.y, box.height) if down else (LayoutUnit(-_FAR), LayoutUnit(2 * _FAR))
        return Rect(x, y, width, height)

    def is_shown(self, element: Element) -> bool:
        """Whether an element is neither hidden (`visibility`) nor transparent (`opacity`, its own or one around it)."""
        return bool(self._page.style_of(element).visibility == "visible") and self._is_opaque(element)

    def _is_opaque(self, element: Element) -> bool:
        known, way = self._opaque, []
        at: Element | None = element
        while at is not None and at not in known:
            way.append(at)
            at = at.parent
        opaque = at is None or known[at]
        for one in reversed(way):
            style = self._page.styled.styles.get(one)
            opaque = opaque and (style is None or style.opacity > 0)
            known[one] = opaque
        return opaque

    def part(self, rect: Rect, within: PlacedBox | None) -> Rect | None:
        """The part of a rectangle that is not clipped away by `within` and what is around it; None if there is none."""
        clip = self._clips.get(within.placed) if within is not None else None
        if clip is not None:
            if min(clip.width, clip.height) <= _DOT:
                return None
            rect = rect.shared_with(clip)
        if rect.width <= 0 or rect.height <= 0 or rect.right <= 0 or rect.bottom <= 0:
            return None
        return rect

    def is_clipped(self, at: PlacedBox) -> bool:
        """Whether something around a box clips, or scrolls, what reaches out of it."""
        return at.container is not None and self._clips.get(at.container.placed) is not None


def _with(around: Rect | None, own: Rect | None) -> Rect | None:
    if around is None or own is None:
        return own if around is None else around
    return around.shared_with(own)


def visible_text(text: str) -> str:
    """The characters of a text that leave ink, and the spaces between them."""
    return text.translate(_INVISIBLE).strip()


def has_letters(text: str) -> bool:
    """Whether a text is to be read: not where it is nothing but signs, such as a bullet or an icon."""
    return any(c.isalnum() for c in text)
