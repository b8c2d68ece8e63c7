"""Where a page has something to read: its text, pictures and fields, which labels laid over the page keep clear of."""

from collections.abc import Iterable, Iterator

from redcrate.core.geometry import Rect
from redcrate.core.page import PlacedBox, text_pieces


def ink_of(boxes: Iterable[PlacedBox]) -> Iterator[Rect]:
    """The rectangles, 1/64 px of the page, that text and pictures of some of its boxes take."""
    for at in boxes:
        box = at.fragment.box
        if box.style.visibility != "visible" or not box.style.opacity:
            continue
        if box.intrinsic is not None:
            yield at.content_rect
        for piece in text_pieces(at.fragment.lines):
            if piece.text.strip():
                yield Rect(at.rect.x + piece.x, at.rect.y + piece.y, piece.width, piece.height)
