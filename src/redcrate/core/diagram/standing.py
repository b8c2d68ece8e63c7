"""Where a box stands that the flow does not place by itself, drawn to scale below its diagram.

A float or a dropped box with the places that it was refused, an absolute box in its containing block, a relative box
beside its place in the flow.
"""

from collections.abc import Iterator

from redcrate.core.diagram.board import SMALL, TICK, Board
from redcrate.core.diagram.codes import Fill
from redcrate.core.diagram.drawing import Stroke
from redcrate.core.diagram.label_places import Place
from redcrate.core.diagram.leaders import Named, column_of_names
from redcrate.core.diagram.lettering import shortened
from redcrate.core.diagram.title_block import scale_text
from redcrate.core.explain.across import stands_in_initial_block
from redcrate.core.explain.refused import RefusedPlace, refused_places
from redcrate.core.geometry import Rect, union
from redcrate.core.page import ElementBox, Page, PlacedBox
from redcrate.core.rows import is_surprising
from redcrate.core.units import LayoutUnit, format_px

_WIDEST, _TALLEST = 420.0, 190.0
_REFUSED_SHOWN = 2
_OUTER = Stroke("ink", 1.4)
_ROUND = Stroke("second_ink", 0.8)
_GHOST = Stroke("problem", 1.4, (6, 4))
_FLOW = Stroke("second_ink", 1.0, (5, 3))


def draw_standing(board: Board, page: Page, box: ElementBox, top: float) -> None:
    """Draw it with its upper edge at `top`; nothing for a box that simply stands in the flow."""
    at = box.box
    if at is None or at.container is None:
        return
    style = page.style_of(box.element)
    refused = refused_places(at)[:_REFUSED_SHOWN]
    out_of_flow = style.position in ("absolute", "fixed")
    shifted = bool(at.placed.shift_x or at.placed.shift_y)
    if not (refused or out_of_flow or shifted or style.float_ != "none"):
        return
    _Standing(board, page, at, top).run(out_of_flow=out_of_flow, shifted=shifted)


class _Standing:
    """The figure, mapped from the page to the board."""

    def __init__(self, board: Board, page: Page, at: PlacedBox, top: float) -> None:
        assert at.container is not None
        self.board = board
        self.page = page
        self.at = at
        self.around = at.container
        self.room = self._containing_block()
        self.refused = _worth_showing(page, at)
        parts = [at.rect, *(r.rect for r in self.refused)]
        seen = union([self.room, *parts])
        near = union(parts)
        margin = max(near.height, LayoutUnit(40 * 64))  # of a tall container only what is near
        high, low = max(seen.y, near.y - margin), min(seen.bottom, near.bottom + margin)
        self.shown = Rect(seen.x, high, seen.width, max(LayoutUnit(64), low - high))
        width, height = max(1.0, seen.width / 64), max(1.0, self.shown.height / 64)
        self.scale = min(1.0, _WIDEST / width, _TALLEST / height)
        self.top = top + 16

    def _containing_block(self) -> Rect:
        """On the page: the one that layout placed an absolute box in, else what the container's border leaves."""
        block, around = self.at.placed.block, self.around
        if block is None:
            return around.rect.inset(around.fragment.border)
        return Rect(around.rect.x + block.x, around.rect.y + block.y, block.width, block.height)

    def place(self, rect: Rect) -> Place:
        """A rectangle of the page on the board, cut to what is shown."""
        y, bottom = max(rect.y, self.shown.y), min(rect.bottom, self.shown.bottom)
        return Place(
            self.x(rect.x),
            self.y(y),
            rect.width / 64 * self.scale,
            max(0, bottom - y) / 64 * self.scale,
        )

    def x(self, x: LayoutUnit) -> float:
        """An x of the page on the board."""
        return (x - self.shown.x) / 64 * self.scale

    def y(self, y: LayoutUnit) -> float:
        """A y of the page on the board."""
        return self.top + (y - self.shown.y) / 64 * self.scale

    def run(self, *, out_of_flow: bool, shifted: bool) -> None:
        """The container, what stands beside the box, the box, and at the right what is to be said."""
        board = self.board
        with board.part("where-it-stands"):
            words = f"Position in {shortened(self._around(), 40)}, {scale_text(self.scale)}"
            board.text(0, self.top - 12, words, SMALL, colour="second_ink")
            board.area(self.place(self.room), Fill.CONTENT, _ROUND)
            for rect in self._beside():
                board.area(self.place(rect), Fill.PAPER, _ROUND)
            found = self._ghosts()
            if shifted:
                found += self._flow_place()
            board.area(self.place(self.at.rect), Fill.CONTENT, _OUTER)
            column_of_names(board, _WIDEST + 40, self.top, found, to_left=False)
            if out_of_flow:
                self._offsets()

    def _around(self) -> str:
        """What the box stands in, by name."""
        around = self.around
        if stands_in_initial_block(self.at):
            return "the initial containing block"
        if self.room == around.rect.inset(around.fragment.border):
            return around.fragment.box.label
        return f"an inline box of {around.fragment.box.label}"

    def _beside(self) -> Iterator[Rect]:
        """The borders of what else stands in the container, as far as it is near."""
        for child in self.around.fragment.children:
            if child is not self.at.placed:
                rect = self.page.placed_child(self.around, child).rect
                if (
                    rect.y < self.shown.bottom
                    and rect.bottom > self.shown.y
                    and rect.width
                    and rect.height
                ):
                    yield rect

    def _ghosts(self) -> list[Named]:
        """The refused places, with the px that were missing there."""
        found = []
        for refused in self.refused:
            place = self.place(refused.rect)
            if not is_surprising(self.page, self.at, refused.refusal):
                self.board.area(place, None, _FLOW)
                found.append(Named("next row", (), place.x + place.width, place.y + place.height * 0.3))
                continue
            missing = refused.missing / 64 * self.scale
            lack = Place(place.x + place.width - missing, place.y, missing, place.height)
            self.board.area(place, None, _GHOST)
            self.board.area(lack, Fill.OVERSPENT)
            words = f"short by {format_px(refused.missing)} px"
            below = (
                f"needs {format_px(refused.rect.width)}, {format_px(refused.refusal.room)} available",
            )
            found.append(Named(words, below, lack.x + lack.width, place.y + place.height * 0.3))
        return found

    def _flow_place(self) -> list[Named]:
        """Where the flow put a relative box."""
        placed = self.at.placed
        rect = self.at.rect
        flow = Rect(rect.x - placed.shift_x, rect.y - placed.shift_y, rect.width, rect.height)
        place = self.place(flow)
        self.board.area(place, None, _FLOW)
        moves = f"moved {format_px(placed.shift_x)} across, {format_px(placed.shift_y)} down"
        return [
            Named("its place in the flow", (moves,), place.x + place.width, place.y + place.height * 0.2)
        ]

    def _offsets(self) -> None:
        """From the containing block's padding edges to the margin edges: CSS 2.2 §10.3.7, §10.6.4."""
        rect, room, margin = self.at.rect, self.room, self.at.fragment.margin
        x, y = rect.x + rect.width // 2, rect.y + rect.height // 2
        ends = (
            ("left", room.x, y, rect.x - margin.left, y),
            ("right", rect.right + margin.right, y, room.right, y),
            ("top", x, room.y, x, rect.y - margin.top),
            ("bottom", x, rect.bottom + margin.bottom, x, room.bottom),
        )
        for number, (side, x1, y1, x2, y2) in enumerate(ends):
            self._dimension(x1, y1, x2, y2)
            amount = format_px(x2 - x1 if side in ("left", "right") else y2 - y1)
            is_auto = getattr(self.at.fragment.box.style, side) == "auto"
            words = f"{side} auto → {amount}" if is_auto else f"{side} {amount}"
            self.board.text(_WIDEST + 40, self.top + 11 + 16 * number, words)

    def _dimension(self, x1: LayoutUnit, y1: LayoutUnit, x2: LayoutUnit, y2: LayoutUnit) -> None:
        """A dimension line between two places of the page, as far as it is shown."""
        lowest = self.y(self.shown.bottom)
        ends = [(self.x(x), min(max(self.y(y), self.top), lowest)) for x, y in ((x1, y1), (x2, y2))]
        self.board.line(*ends[0], *ends[1])
        for x, y in ends:
            self.board.line(x - 3, y + 3, x + 3, y - 3, TICK)


def _worth_showing(page: Page, at: PlacedBox) -> tuple[RefusedPlace, ...]:
    """The first refused places; of one that is no news only itself."""
    found = refused_places(at)[:_REFUSED_SHOWN]
    news = [is_surprising(page, at, r.refusal) for r in found]
    return found if all(news) else found[: news.index(False) + 1]
