"""What of a page can be seen: not hidden, not transparent, not clipped away, not beyond the top or left edge."""

from redcrate.core.geometry import Rect
from redcrate.core.markup.elements import Element
from redcrate.core.overflow.clips import Clips
from redcrate.core.page import Page, PlacedBox

# Characters that leave no ink: soft hyphens, zero-width marks, joiners, direction marks.
_INVISIBLE = dict.fromkeys(
    (0xAD, *range(0x200B, 0x2010), *range(0x202A, 0x202F), *range(0x2060, 0x2070), 0xFEFF)
)


class Shown:
    """Tells what can be seen of one page's boxes."""

    def __init__(self, page: Page) -> None:
        self.clips = Clips(page)
        self._page = page
        self._opaque: dict[Element, bool] = {}  # whether neither it nor what is around it is transparent

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
        return self.clips.part(rect, within)


def visible_text(text: str) -> str:
    """The characters of a text that leave ink, and the spaces between them."""
    return text.translate(_INVISIBLE).strip()


def has_letters(text: str) -> bool:
    """Whether a text is to be read: not where it is nothing but signs, such as a bullet or an icon."""
    return any(c.isalnum() for c in text)
