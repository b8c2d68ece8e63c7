"""What is painted over the page: the hovered and the selected box, dimensions, distances, ghosts, guides.

The page is a light sheet in every palette, and so are the colours of its marks. A label takes a place of its own and
covers no text or picture of the page; where there is none left for a distance, its number is not drawn.
"""

from collections.abc import Callable, Iterable, Sequence

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QBrush, QFontMetricsF, QPainter, QPainterPath, QPen

from redcrate.app.painting.drawing_end import DrawingEnd
from redcrate.app.sheet.dimensions import Dimensions
from redcrate.app.theme.look import colour, lettering, page_colour, part_brush
from redcrate.core.diagram.codes import LIGHT, Fill
from redcrate.core.diagram.drawing import Drawing, Label, Part, paint
from redcrate.core.diagram.label_places import Bands, Place, Taken
from redcrate.core.explain.distances import Distance, distances
from redcrate.core.explain.refused import refused_places
from redcrate.core.geometry import SIDES, Edges, Rect
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox, Page, PlacedBox
from redcrate.core.rows import is_surprising
from redcrate.core.rows.inside import inside_of
from redcrate.core.units import ZERO, LayoutUnit, format_px

_LEAST_DISTANCE = 14.0  # screen px; below it a number has no room


class SheetMarks:
    """Paints marks of one page onto a viewport; rectangles of the page are mapped by `to_screen`."""

    def __init__(
        self,
        painter: QPainter,
        page: Page,
        to_screen: Callable[[Rect], QRectF],
        scale: float,
        size: QSize,
        ruler: float,
        ratio: float,
        ink: Bands,
    ) -> None:
        self.painter = painter
        self.page = page
        self.to_screen = to_screen
        self.scale = scale
        self.size = size
        self.ruler = ruler
        self.ratio = ratio
        self.taken = Taken()
        self.ink = ink

    # -- hovered, lit and also-selected boxes

    def hover(self, element: Element) -> None:
        """The hovered box: its outline and outer size."""
        box = self.page.box_of(element)
        if box is None:
            return
        self.outline(element, Qt.PenStyle.DotLine)
        outer = box.margin_box
        text = f"{element.label}  {format_px(outer.width)} × {format_px(outer.height)}"
        where = self.to_screen(box.border_box)
        self.tag(QPointF(where.left(), where.top() - 6), text)

    def outline(self, element: Element, line: Qt.PenStyle) -> None:
        """The border edges of an element, on each line."""
        box = self.page.box_of(element)
        self.painter.setBrush(Qt.BrushStyle.NoBrush)
        self.painter.setPen(QPen(page_colour("ink"), 1.4, line))
        for rect in box.fragments if box is not None else ():
            self.painter.drawRect(self.to_screen(rect))

    def lit(self, elements: Sequence[Element]) -> None:
        """The elements that an edit would touch, in a wash."""
        wash = page_colour("accent")
        wash.setAlpha(90)
        for element in elements:
            box = self.page.box_of(element)
            for rect in box.fragments if box is not None else ():
                self.painter.fillRect(self.to_screen(rect), wash)
                self.painter.setPen(QPen(page_colour("accent"), 2))
                self.painter.drawRect(self.to_screen(rect))

    def tag(self, at: QPointF, text: str, *, wrong: bool = False) -> None:
        """A small dark label above a point, kept inside the viewport."""
        font = lettering(11)
        metrics = QFontMetricsF(font)
        width, height = metrics.horizontalAdvance(text) + 12, metrics.height() + 4
        x = min(max(at.x(), self.ruler + 2.0), self.size.width() - width - 2)
        y = min(max(at.y() - height, self.ruler + 2.0), self.size.height() - height - 2)
        self.painter.fillRect(QRectF(x, y, width, height), colour("problem" if wrong else "ink"))
        self.painter.setFont(font)
        self.painter.setPen(colour("paper"))
        self.painter.drawText(QPointF(x + 6, y + 2 + metrics.ascent()), text)

    # -- the selected box

    def selected(self, element: Element, dimensions: Dimensions | None) -> None:
        """The parts in their codes, the container's outline, ghosts; dimensions and distances, unless those are None."""
        box = self.page.box_of(element)
        if box is None:
            return
        painter = self.painter
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if box.container is not None:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(page_colour("second_ink"), 1, Qt.PenStyle.DashLine))
            painter.drawRect(self.to_screen(box.container.content_rect))
        if box.box is None:
            self._inline_parts(box)
        else:
            self._ghosts(box.box)
            self._inside(element)
            self._parts(box.border_box, box.margin, box.border, box.padding)
        if dimensions is not None:
            self._dimensions(dimensions)
            self._distances(element)
            self._inside_numbers(element)

    def _inside(self, element: Element) -> None:
        """What a flex or grid container leaves between its items: free room, gaps, thin lines for tracks."""
        found = inside_of(self.page, element)
        if found is None:
            return
        for rect in found.free:
            self.painter.fillRect(self.to_screen(rect), part_brush(Fill.UNSPENT, self.ratio, of=LIGHT))
        for gap in found.gaps:
            self.painter.fillRect(
                self.to_screen(gap.rect), part_brush(Fill.MARGIN, self.ratio, of=LIGHT)
            )
        self.painter.setBrush(Qt.BrushStyle.NoBrush)
        self.painter.setPen(QPen(page_colour("second_ink"), 0.8, Qt.PenStyle.DashDotLine))
        for track in found.tracks:
            self.painter.drawRect(self.to_screen(track.rect))

    def _inside_numbers(self, element: Element) -> None:
        """The sizes of tracks, at their heads, and of gaps, where they have room."""
        found = inside_of(self.page, element)
        for track in found.tracks if found is not None else ():
            screen = self.to_screen(track.rect)
            middle = screen.center()
            head = (
                QPointF(middle.x(), screen.top() + 10)
                if track.is_column
                else QPointF(screen.left() + 22, middle.y())
            )
            self.number([head], format_px(track.amount), "second_ink")
        for gap in found.gaps if found is not None else ():
            screen = self.to_screen(gap.rect)
            way = QPointF(0, screen.height()) if gap.is_across else QPointF(screen.width(), 0)
            start = screen.center() - way / 2
            self.number(
                [start + way * share for share in (0.5, 0.3, 0.7)],
                format_px(gap.amount),
                "margin_ink",
            )

    def _inline_parts(self, box: ElementBox) -> None:
        """Each line's part of an inline element; what pushes nothing is hatched grey."""
        for piece, rect in zip(box.pieces, box.fragments, strict=False):
            left, right = piece.has_left, piece.has_right
            margin = Edges(ZERO, piece.margin.right * right, ZERO, piece.margin.left * left)
            border = Edges(
                piece.border.top,
                piece.border.right * right,
                piece.border.bottom,
                piece.border.left * left,
            )
            padding = Edges(
                piece.padding.top,
                piece.padding.right * right,
                piece.padding.bottom,
                piece.padding.left * left,
            )
            self._parts(rect, margin, border, padding)
            above, below = border.top + padding.top, border.bottom + padding.bottom
            hatch = QBrush(page_colour("second_ink"), Qt.BrushStyle.BDiagPattern)
            for y, height in ((rect.y, above), (rect.bottom - below, below)):
                if height:
                    self.painter.fillRect(self.to_screen(Rect(rect.x, y, rect.width, height)), hatch)

    def _parts(self, border_box: Rect, margin: Edges, border: Edges, padding: Edges) -> None:
        """Margin, border and padding as frames in their patterns; negative margins with arrows inwards."""
        painter = self.painter
        shown_margin = Edges(*(max(ZERO, margin.side(s)) for s in SIDES))
        outer = self.to_screen(border_box.outset(shown_margin))
        middle = self.to_screen(border_box)
        inner = self.to_screen(border_box.inset(border))
        content = self.to_screen(border_box.inset(border).inset(padding))
        painter.setPen(Qt.PenStyle.NoPen)
        for fill, big, small in (
            (Fill.MARGIN, outer, middle),
            (Fill.BORDER, middle, inner),
            (Fill.PADDING, inner, content),
        ):
            frame, hole = QPainterPath(), QPainterPath()
            frame.addRect(big)
            hole.addRect(small)
            painter.fillPath(frame.subtracted(hole), part_brush(fill, self.ratio, of=LIGHT))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(page_colour("margin_ink"), 1, Qt.PenStyle.DashLine))
        painter.drawRect(outer)
        painter.setPen(QPen(page_colour("border_ink"), 1.2))
        painter.drawRect(middle)
        painter.setPen(QPen(page_colour("ink"), 0.8))
        painter.drawRect(content)
        for side in SIDES:
            if margin.side(side) < 0:
                self._negative(middle, side, margin.side(side))

    def _negative(self, box: QRectF, side: str, amount: LayoutUnit) -> None:
        """A negative margin: a teal strip inside the edge, an arrow inwards, and its amount."""
        depth = -amount / 64 * self.scale
        strip = {
            "top": QRectF(box.left(), box.top(), box.width(), depth),
            "bottom": QRectF(box.left(), box.bottom() - depth, box.width(), depth),
            "left": QRectF(box.left(), box.top(), depth, box.height()),
            "right": QRectF(box.right() - depth, box.top(), depth, box.height()),
        }[side]
        self.painter.setPen(QPen(page_colour("margin_ink"), 1.5, Qt.PenStyle.DashLine))
        self.painter.drawRect(strip)
        self.number(_along(strip), f"− {format_px(-amount)}", "margin_ink", over=True)

    def number(self, places: Iterable[QPointF], text: str, shade: str, *, over: bool = False) -> bool:
        """A number in the first of its places (middles) that is free; whether there was one.

        What begins in view ends in view too. over: where no place is free of text it covers some, since it is what one is to
        look at.
        """
        font = lettering(11)
        width = QFontMetricsF(font).horizontalAdvance(text) + 6
        last = self.size.width() - width - 2
        lefts = ((p.x() - width / 2, p.y() - 8) for p in places)
        wanted = [Place(min(x, last) if x < self.size.width() else x, y, width, 16) for x, y in lefts]
        place = self.taken.first_free(p for p in wanted if self.covers_nothing(p))
        if place is None and over:
            place = self.taken.first_free(wanted)
        if place is None:
            return False
        end = DrawingEnd(self.painter, palette=LIGHT, halo=True)
        end.label(Label(place.x + 3, place.y + 12, text, 11.0, colour=shade, back=True))
        return True

    def covers_nothing(self, place: Place) -> bool:
        """Whether no text or picture of the page is there."""
        return next(self.ink.meeting(place), None) is None

    def holds(self, rect: QRectF) -> bool:
        """Whether it is in view, beside the rulers."""
        seen = QRectF(
            self.ruler, self.ruler, self.size.width() - self.ruler, self.size.height() - self.ruler
        )
        return seen.contains(rect)

    def _dimensions(self, found: Dimensions) -> None:
        """The dimensions beside the selected box: lettering in a halo, thin lines, nothing under them."""
        end = DrawingEnd(self.painter, palette=LIGHT, halo=True)
        for chain in found.chains:
            paint(Drawing(0, 0, (Part("chain", chain.shapes),), "chain"), end)
        for note in found.notes:
            left, baseline = note.place.x + 3, note.place.y + 11.5
            end.label(Label(left, baseline, note.text, 11.0, back=True))
        for place in found.places:
            self.taken.take(place)

    def _distances(self, element: Element) -> None:
        """Thin lines with numbers to the neighbours and to the container's edges."""
        box = self.page.box_of(element)
        if box is None:
            return
        for distance in distances(self.page, element):
            if distance.length > 0 and distance.length / 64 * self.scale >= _LEAST_DISTANCE:
                self._distance(distance, box.border_box)

    def _distance(self, distance: Distance, own: Rect) -> None:
        """One distance, where along the box its line crosses nothing that is read and its number finds a free place."""
        for share in (0.25, 0.5, 0.75, 0.1, 0.9):
            if distance.is_across:
                y = own.y + round(own.height * share)
                line = self.to_screen(Rect(distance.x, y, distance.length, ZERO))
            else:
                x = own.x + round(own.width * share)
                line = self.to_screen(Rect(x, distance.y, ZERO, distance.length))
            text = format_px(distance.length)
            across = line.adjusted(-0.5, -0.5, 0.5, 0.5)
            strip = Place(across.x(), across.y(), across.width(), across.height())
            crosses = any(strip.meets(place) for place in self.taken.places)
            if (
                not crosses
                and self.covers_nothing(strip)
                and self.number(_along(line), text, "second_ink")
            ):
                self.painter.setPen(QPen(page_colour("second_ink"), 1, Qt.PenStyle.DashDotLine))
                for start, end in _beside(line, self.taken.places[-1]):
                    self.painter.drawLine(start, end)
                return

    def _ghosts(self, at: PlacedBox) -> None:
        """The places that a dropped box was refused, with the px that it lacked."""
        for refused in refused_places(at)[:2]:
            surprising = is_surprising(self.page, at, refused.refusal)
            self._ghost(refused.rect, refused.missing, surprising=surprising)
            if not surprising:
                return

    def _ghost(self, ghost: Rect, missing: LayoutUnit, *, surprising: bool) -> None:
        """A refused place: loud where the drop surprises, else a hairline and a word."""
        rect = self.to_screen(ghost)
        self.painter.setBrush(Qt.BrushStyle.NoBrush)
        corners = [rect.topLeft() + QPointF(30, 10 + 18 * n) for n in range(4)]
        if not surprising:
            self.painter.setPen(QPen(page_colour("second_ink"), 0.8, Qt.PenStyle.DotLine))
            self.painter.drawRect(rect)
            self.number([p + QPointF(50, 0) for p in corners], "next row", "second_ink")
            return
        self.painter.setPen(QPen(page_colour("problem"), 1.5, Qt.PenStyle.DashLine))
        self.painter.drawRect(rect)
        lack = self.to_screen(Rect(ghost.right - missing, ghost.y, missing, ghost.height))
        self.painter.fillRect(lack, part_brush(Fill.OVERSPENT, self.ratio, of=LIGHT))
        tops = [QPointF(lack.center().x(), rect.top() + 10 + 18 * n) for n in range(4)]
        self.number([*tops, *corners], f"short by {format_px(missing)}", "problem", over=True)

    # -- dragging

    def guides(self, xs: Sequence[LayoutUnit], ys: Sequence[LayoutUnit]) -> None:
        """Lines over the whole sheet at edges that a drag snapped to (1/64 px)."""
        self.painter.setPen(QPen(page_colour("problem"), 1, Qt.PenStyle.DotLine))
        for x in xs:
            at = self.to_screen(Rect(x, ZERO, ZERO, ZERO)).x()
            self.painter.drawLine(QPointF(at, 0), QPointF(at, self.size.height()))
        for y in ys:
            at = self.to_screen(Rect(ZERO, y, ZERO, ZERO)).y()
            self.painter.drawLine(QPointF(0, at), QPointF(self.size.width(), at))

    def edge(self, rect: Rect, side: str) -> None:
        """The edge that has the focus or is under the pointer: a bar with a grip."""
        screen = self.to_screen(rect)
        ends = {
            "left": (screen.topLeft(), screen.bottomLeft()),
            "right": (screen.topRight(), screen.bottomRight()),
            "top": (screen.topLeft(), screen.topRight()),
            "bottom": (screen.bottomLeft(), screen.bottomRight()),
        }[side]
        self.painter.setPen(QPen(page_colour("ink"), 3))
        self.painter.drawLine(*ends)
        middle = (ends[0] + ends[1]) / 2
        self.painter.setBrush(page_colour("field"))
        self.painter.setPen(QPen(page_colour("ink"), 1.5))
        self.painter.drawRect(QRectF(middle.x() - 4, middle.y() - 4, 8, 8))


def _along(line: QRectF) -> list[QPointF]:
    """Middles for a number on a line, the middle first."""
    way = line.bottomRight() - line.topLeft()
    return [line.topLeft() + way * share for share in (0.5, 0.3, 0.7, 0.15, 0.85)]


def _beside(line: QRectF, label: Place) -> list[tuple[QPointF, QPointF]]:
    """What of a line its label leaves free; nothing of one that is shorter than the label."""
    start, end = line.topLeft(), line.bottomRight()
    if line.width() >= line.height():
        parts = [(start, QPointF(label.x, start.y())), (QPointF(label.x + label.width, end.y()), end)]
        return [(a, b) for a, b in parts if a.x() < b.x()]
    parts = [(start, QPointF(start.x(), label.y)), (QPointF(end.x(), label.y + label.height), end)]
    return [(a, b) for a, b in parts if a.y() < b.y()]
