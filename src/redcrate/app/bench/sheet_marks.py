"""What is painted over the page: the hovered and the selected box, chains, distances, ghosts, guides."""

from collections.abc import Callable, Sequence

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QBrush, QFontMetricsF, QPainter, QPainterPath, QPen

from redcrate.app.painting.drawing_end import DrawingEnd
from redcrate.app.theme.look import colour, lettering, part_brush
from redcrate.core.diagram.chain import chain_across, chain_down
from redcrate.core.diagram.codes import Fill
from redcrate.core.diagram.drawing import Drawing, paint
from redcrate.core.explain import across, down
from redcrate.core.explain.distances import Distance, distances
from redcrate.core.geometry import SIDES, Edges, Rect
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox, Page, PlacedBox
from redcrate.core.units import format_px

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
    ) -> None:
        self.painter = painter
        self.page = page
        self.to_screen = to_screen
        self.scale = scale
        self.size = size
        self.ruler = ruler
        self.ratio = ratio

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
        self.painter.setPen(QPen(colour("ink"), 1.4, line))
        for rect in box.fragments if box is not None else ():
            self.painter.drawRect(self.to_screen(rect))

    def lit(self, elements: Sequence[Element]) -> None:
        """The elements that an edit would touch, in a wash."""
        wash = colour("accent")
        wash.setAlpha(90)
        for element in elements:
            box = self.page.box_of(element)
            for rect in box.fragments if box is not None else ():
                self.painter.fillRect(self.to_screen(rect), wash)
                self.painter.setPen(QPen(colour("accent"), 2))
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

    def selected(self, element: Element, *, chains: bool) -> None:
        """The parts in their codes, the container's outline, chains, distances and ghosts."""
        box = self.page.box_of(element)
        if box is None:
            return
        painter = self.painter
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if box.container is not None:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(colour("second_ink"), 1, Qt.PenStyle.DashLine))
            painter.drawRect(self.to_screen(box.container.content_rect))
        if box.box is None:
            self._inline_parts(box)
        else:
            self._ghosts(box.box)
            self._parts(box.border_box, box.margin, box.border, box.padding)
        if chains:
            self._distances(element)
            self._chains(box)

    def _inline_parts(self, box: ElementBox) -> None:
        """Each line's part of an inline element; what pushes nothing is hatched grey."""
        for piece, rect in zip(box.pieces, box.fragments, strict=False):
            left, right = piece.has_left, piece.has_right
            margin = Edges(0, piece.margin.right * right, 0, piece.margin.left * left)
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
            hatch = QBrush(colour("second_ink"), Qt.BrushStyle.BDiagPattern)
            for y, height in ((rect.y, above), (rect.bottom - below, below)):
                if height:
                    self.painter.fillRect(self.to_screen(Rect(rect.x, y, rect.width, height)), hatch)

    def _parts(self, border_box: Rect, margin: Edges, border: Edges, padding: Edges) -> None:
        """Margin, border and padding as frames in their patterns; negative margins with arrows inwards."""
        painter = self.painter
        shown_margin = Edges(*(max(0, margin.side(s)) for s in SIDES))
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
            painter.fillPath(frame.subtracted(hole), part_brush(fill, self.ratio))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(colour("margin_ink"), 1, Qt.PenStyle.DashLine))
        painter.drawRect(outer)
        painter.setPen(QPen(colour("border_ink"), 1.2))
        painter.drawRect(middle)
        painter.setPen(QPen(colour("ink"), 0.8))
        painter.drawRect(content)
        for side in SIDES:
            if margin.side(side) < 0:
                self._negative(middle, side, margin.side(side))

    def _negative(self, box: QRectF, side: str, amount: int) -> None:
        """A negative margin: a teal strip inside the edge, an arrow inwards, and its amount."""
        depth = -amount / 64 * self.scale
        strip = {
            "top": QRectF(box.left(), box.top(), box.width(), depth),
            "bottom": QRectF(box.left(), box.bottom() - depth, box.width(), depth),
            "left": QRectF(box.left(), box.top(), depth, box.height()),
            "right": QRectF(box.right() - depth, box.top(), depth, box.height()),
        }[side]
        self.painter.setPen(QPen(colour("margin_ink"), 1.5, Qt.PenStyle.DashLine))
        self.painter.drawRect(strip)
        self._number(strip.center(), f"− {format_px(-amount)}", "margin_ink")

    def _number(self, at: QPointF, text: str, shade: str) -> None:
        font = lettering(11)
        metrics = QFontMetricsF(font)
        width = metrics.horizontalAdvance(text) + 6
        field = QRectF(at.x() - width / 2, at.y() - 8, width, 16)
        self.painter.fillRect(field, colour("field"))
        self.painter.setFont(font)
        self.painter.setPen(colour(shade))
        self.painter.drawText(field, Qt.AlignmentFlag.AlignCenter, text)

    def _chains(self, box: ElementBox) -> None:
        """The dimensions below and to the right of the selected box."""
        wide, high = across(self.page, box.element), down(self.page, box.element)
        if wide is None or high is None or not wide.terms:
            return
        first = self.to_screen(box.fragments[0])
        margin = box.margin if box.box else Edges()
        k = self.scale / 64
        left, top = first.left() - margin.left * k, first.top() - margin.top * k
        bottom, right = (
            first.bottom() + max(0, margin.bottom) * k,
            first.right() + max(0, margin.right) * k,
        )
        shapes = [
            *chain_across(wide, left, bottom, self.scale),
            *chain_down(high, top, right, self.scale),
        ]
        paint(Drawing(0, 0, tuple(shapes), "chain"), DrawingEnd(self.painter))

    def _distances(self, element: Element) -> None:
        """Thin lines with numbers to the neighbours and to the container's edges."""
        for distance in distances(self.page, element):
            if distance.length > 0 and distance.length / 64 * self.scale >= _LEAST_DISTANCE:
                self._distance(distance)

    def _distance(self, distance: Distance) -> None:
        across_page = distance.is_across
        rect = self.to_screen(
            Rect(
                distance.x,
                distance.y,
                distance.length if across_page else 0,
                0 if across_page else distance.length,
            )
        )
        self.painter.setPen(QPen(colour("second_ink"), 1, Qt.PenStyle.DashDotLine))
        self.painter.drawLine(rect.topLeft(), rect.bottomRight())
        self._number(rect.center(), format_px(distance.length), "second_ink")

    def _ghosts(self, at: PlacedBox) -> None:
        """The places that a dropped box was refused, with the px that it lacked."""
        context = at.container
        while (
            context is not None
            and not context.fragment.box.establishes_bfc
            and context.container is not None
        ):
            context = context.container
        if context is None:
            return
        for refusal in at.placed.refusals[:2]:
            if refusal.missing <= 0:
                continue
            width, height = at.fragment.margin_width, at.fragment.margin_height
            ghost = Rect(context.rect.x + refusal.x, context.rect.y + refusal.y, width, height)
            rect = self.to_screen(ghost)
            self.painter.setBrush(Qt.BrushStyle.NoBrush)
            self.painter.setPen(QPen(colour("problem"), 1.5, Qt.PenStyle.DashLine))
            self.painter.drawRect(rect)
            lack = self.to_screen(Rect(ghost.right - refusal.missing, ghost.y, refusal.missing, height))
            self.painter.fillRect(lack, part_brush(Fill.OVERSPENT, self.ratio))
            self._number(
                QPointF(lack.center().x(), rect.top() + 10),
                f"{format_px(refusal.missing)} too few",
                "problem",
            )

    # -- dragging

    def guides(self, xs: Sequence[int], ys: Sequence[int]) -> None:
        """Lines over the whole sheet at edges that a drag snapped to (1/64 px)."""
        self.painter.setPen(QPen(colour("problem"), 1, Qt.PenStyle.DotLine))
        for x in xs:
            at = self.to_screen(Rect(x, 0, 0, 0)).x()
            self.painter.drawLine(QPointF(at, 0), QPointF(at, self.size.height()))
        for y in ys:
            at = self.to_screen(Rect(0, y, 0, 0)).y()
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
        self.painter.setPen(QPen(colour("ink"), 3))
        self.painter.drawLine(*ends)
        middle = (ends[0] + ends[1]) / 2
        self.painter.setBrush(colour("field"))
        self.painter.setPen(QPen(colour("ink"), 1.5))
        self.painter.drawRect(QRectF(middle.x() - 4, middle.y() - 4, 8, 8))
