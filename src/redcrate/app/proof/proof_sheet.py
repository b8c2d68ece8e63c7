"""The sheet of the Proof screen: the page as it is here, with what the browser has otherwise over it."""

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QImage, QPainter, QPen
from PyQt6.QtWidgets import QWidget

from redcrate.app.sheet.looking_sheet import LookingSheet
from redcrate.app.sheet.marks import SheetMarks
from redcrate.app.theme.look import page_colour
from redcrate.core.geometry import Rect
from redcrate.core.proof.comparing import Comparison, Difference, Sizes
from redcrate.core.proof.reporting import short
from redcrate.core.session import Change, Session
from redcrate.core.session.page_view import ViewAt
from redcrate.core.units import from_px

_MOST = 400  # outlines


class ProofSheet(LookingSheet):
    """Boxes that differ in violet: first causes in a full line with both numbers, what follows from them dotted."""

    def __init__(self, session: Session, view: ViewAt, parent: QWidget | None = None) -> None:
        self._comparison: Comparison | None = None
        self._image: QImage | None = None
        self.strength = 0.0
        self._at = view
        super().__init__(session, view, parent)
        self.shows_chains = False
        self.setAccessibleDescription(
            "The page to scale; boxes that differ in the browser are outlined in violet."
        )

    def _changed(self, change: Change) -> None:
        """Nothing is computed for a sheet that nobody sees."""
        if self.isVisible():
            super()._changed(change)

    def set_width(self, width: float) -> None:
        """Show the page in a window of that width, px."""
        self._at.set_width(width)
        self.show_anew()

    def show_comparison(self, comparison: Comparison | None, picture: bytes = b"") -> None:
        """What the browser has otherwise, and its own picture of the page; None: nothing is known."""
        self._comparison = comparison
        image = QImage.fromData(picture) if picture else QImage()
        self._image = None if image.isNull() else image
        self.renew_picture()

    def set_strength(self, strength: float) -> None:
        """How strongly the browser's picture covers the page, 0 to 1."""
        self.strength = strength
        self.renew_picture()

    def paint_over(self, painter: QPainter) -> None:
        """The browser's picture."""
        if self._image is None or not self.strength:
            return
        origin = self.origin()
        size = QRectF(
            origin.x(),
            origin.y(),
            self._image.width() * self.scale,
            self._image.height() * self.scale,
        )
        painter.save()
        painter.setOpacity(self.strength)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.drawImage(size, self._image)
        painter.restore()

    def _paint_marks(self, marks: SheetMarks) -> None:
        super()._paint_marks(marks)
        if self._comparison is None:
            return
        for one in self._comparison.differences[:_MOST]:
            self._outline(marks.painter, one)
        for one in self._comparison.causes[:_MOST]:
            self._number(marks, one)

    def _outline(self, painter: QPainter, one: Difference) -> None:
        """The box as the browser has it; of a cause, a thin line where it is here too."""
        first = one.cause is None
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if first and one.here is not None:
            painter.setPen(QPen(page_colour("problem"), 1, Qt.PenStyle.DashLine))
            painter.drawRect(self._on_screen(one.here))
        line = Qt.PenStyle.SolidLine if first else Qt.PenStyle.DotLine
        painter.setPen(QPen(page_colour("problem"), 2 if first else 1, line))
        shown = one.there or one.here
        if shown is not None:
            painter.drawRect(self._on_screen(shown))

    def _number(self, marks: SheetMarks, one: Difference) -> None:
        shown = one.there or one.here
        if shown is not None:
            where = self._on_screen(shown)
            marks.tag(QPointF(where.left(), where.top() - 2), short(one), wrong=True)

    def _on_screen(self, sizes: Sizes) -> QRectF:
        rect = Rect(from_px(sizes.x), from_px(sizes.y), from_px(sizes.width), from_px(sizes.height))
        return self.to_screen(rect)
