"""What lies in the content box of a flex or grid container: its items, gaps, tracks, and the room left free.

Numbers are those that layout kept; each stands where no other label does.
"""

from collections.abc import Iterator

from redcrate.core.diagram.board import SMALL
from redcrate.core.diagram.codes import Fill
from redcrate.core.diagram.drawing import Label, Stroke
from redcrate.core.diagram.figure import Figure
from redcrate.core.diagram.label_places import Place
from redcrate.core.diagram.lettering import label_place
from redcrate.core.geometry import Rect
from redcrate.core.page import Page, PlacedBox
from redcrate.core.rows.inside import Inside, inside_of
from redcrate.core.rows.row import flow_rect
from redcrate.core.units import LayoutUnit, format_px

_TRACK = Stroke("second_ink", 0.7, (5, 2, 1, 2))
_ITEM = Stroke("second_ink", 0.8)


class InsideDiagram:
    """Draws the inside of one container into the content box of its figure, at that box's scale."""

    def __init__(self, figure: Figure, at: PlacedBox, inside: Inside, page: Page) -> None:
        self.figure = figure
        self.board = figure.board
        self.inside = inside
        self.content = at.content_rect
        self.items = [
            flow_rect(page.placed_child(at, c)) for c in at.fragment.children if c.fragment.box.in_flow
        ]

    def place(self, rect: Rect) -> Place:
        """A rectangle of the page on the drawing, as far as it lies in the content box."""
        at, whole = self.figure.place("content"), self.content
        wide, high = at.width / max(1, whole.width), at.height / max(1, whole.height)

        def inside(value: LayoutUnit, size: LayoutUnit) -> float:
            return float(min(max(value, 0), size))

        left = inside(rect.x - whole.x, whole.width)
        right = inside(rect.right - whole.x, whole.width)
        top = inside(rect.y - whole.y, whole.height)
        bottom = inside(rect.bottom - whole.y, whole.height)
        return Place(at.x + left * wide, at.y + top * high, (right - left) * wide, (bottom - top) * high)

    def areas(self) -> None:
        """Free room hatched, gaps in their pattern, thin lines for tracks and items."""
        with self.board.part("inside"):
            for rect in self.inside.free:
                self.board.area(self.place(rect), Fill.UNSPENT)
            for gap in self.inside.gaps:
                self.board.area(self.place(gap.rect), Fill.MARGIN)
            for track in self.inside.tracks:
                self.board.area(self.place(track.rect), None, _TRACK)
            for item in self.items:
                self.board.area(self.place(item), None, _ITEM)

    def numbers(self) -> None:
        """The sizes of columns, rows and gaps, where they find room."""
        with self.board.part("inside-numbers"):
            for x, y, text, colour in self._wanted():
                label = Label(x, y, text, SMALL, colour=colour, anchor="middle", back=True)
                if self._fits(label_place(label)):
                    self.board.add(label)

    def _wanted(self) -> Iterator[tuple[float, float, str, str]]:
        """Where numbers would stand: at the head of tracks, in the middle of gaps."""
        whole = self.figure.place("content")
        for track in self.inside.tracks:
            at = self.place(track.rect)
            text = format_px(track.amount)
            if track.is_column:
                yield at.x + at.width / 2, whole.y + 14, text, "second_ink"
            else:
                yield whole.x + 20, at.y + at.height / 2 + 4, text, "second_ink"
        for gap in self.inside.gaps:
            at = self.place(gap.rect)
            if gap.is_across:
                yield at.x + at.width / 2, at.y + at.height - 6, format_px(gap.amount), "margin_ink"
            else:
                yield at.x + at.width - 16, at.y + at.height / 2 + 4, format_px(gap.amount), "margin_ink"

    def _fits(self, place: Place) -> bool:
        whole = self.figure.place("content")
        inside = place.x >= whole.x and place.x + place.width <= whole.x + whole.width
        inside = inside and place.y >= whole.y and place.y + place.height <= whole.y + whole.height
        return inside and not any(place.meets(other) for other in self.board.labels)


def inside_diagram(figure: Figure, page: Page) -> InsideDiagram | None:
    """The inside of a figure's element; None where it is no flex or grid container."""
    box, found = page.box_of(figure.element), inside_of(page, figure.element)
    if box is None or box.box is None or found is None:
        return None
    return InsideDiagram(figure, box.box, found, page)
