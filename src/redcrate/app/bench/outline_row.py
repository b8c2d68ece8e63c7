"""How a row of the outline is painted: how the element flows, its name, its outer width, and how far it reaches."""

from PyQt6.QtCore import (
    QModelIndex,
    QPoint,
    QRectF,
    QSize,
    Qt,
)
from PyQt6.QtGui import QPainter, QPen
from PyQt6.QtWidgets import (
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QTreeView,
)

from redcrate.app.bench.outline_model import OutlineModel, outer_width
from redcrate.app.theme.look import colour, text_font, text_px
from redcrate.core.explain.flow import flow_of
from redcrate.core.markup.elements import Element
from redcrate.core.session import Session

_ROW = 30


class OutlineRow(QStyledItemDelegate):
    """Paints a row: flow glyph, name, outer width, and the bar of its extent across the page."""

    def __init__(self, session: Session, view: QTreeView) -> None:
        super().__init__(view)
        self._session = session
        self._view = view
        self.marked: set[Element] = set()  # elements with a finding

    def told(self) -> list[object]:
        """What the rows that are seen tell; where it is the same after an edit, they need not be painted again."""
        viewport = self._view.viewport()
        assert viewport is not None
        found: list[object] = []
        index = self._view.indexAt(QPoint(0, 0))
        while index.isValid() and self._view.visualRect(index).top() < viewport.height():
            element = index.internalPointer()
            assert isinstance(element, Element)
            box = self._session.views.page.box_of(element)
            place = None if box is None else (box.border_box.x, box.border_box.right)
            flow = flow_of(self._session.views.page, element)
            width = outer_width(self._session, element)
            found.append((element, self._name(element), flow, width, place))
            index = self._view.indexBelow(index)
        return [self._session.views.viewport.width, *found]

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        """All rows are alike."""
        return QSize(200, text_px(_ROW))

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        """Paint one row over the whole width of the view."""
        assert painter is not None
        element = index.internalPointer()
        viewport = self._view.viewport()
        assert isinstance(element, Element) and viewport is not None
        row = QRectF(0, option.rect.y(), viewport.width(), option.rect.height())
        chosen = bool(option.state & QStyle.StateFlag.State_Selected)
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(row, colour("ink" if chosen else "paper"))
        ink = colour("paper" if chosen else "ink")
        x = float(option.rect.x()) + 2
        self._glyph(painter, element, x, row.y() + 6, ink)
        self._texts(painter, element, x + 24, row, ink, chosen)
        self._extent(painter, element, row, chosen)
        if option.state & QStyle.StateFlag.State_HasFocus and not chosen:
            painter.setPen(QPen(colour("ink"), 1.5))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(row.adjusted(1, 1, -1, -1))
        painter.restore()

    def _glyph(self, painter: QPainter, element: Element, x: float, y: float, ink: object) -> None:
        """Full bar: block; dashed underline: inline; narrow box: inline-block; pushed: float."""
        flow = flow_of(self._session.views.page, element)
        pen = QPen(ink, 1.2)  # type: ignore[call-overload]
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if flow == "none":
            pen = QPen(colour("second_ink"), 1, Qt.PenStyle.DotLine)
        painter.setPen(pen)
        if flow == "inline":
            pen.setDashPattern([3, 2])
            painter.setPen(pen)
            painter.drawLine(round(x), round(y + 10), round(x + 15), round(y + 10))
        elif flow.startswith("inline"):
            painter.drawRect(QRectF(x + 4, y + 1, 7, 10))
        elif flow.startswith("float"):
            painter.drawRect(QRectF(x if flow.endswith("left") else x + 8, y + 1, 7, 10))
        else:
            painter.drawRect(QRectF(x, y + 1, 15, 10))

    def _name(self, element: Element) -> str:
        model = self._view.model()
        return model.label(element) if isinstance(model, OutlineModel) else element.label

    def _texts(
        self,
        painter: QPainter,
        element: Element,
        x: float,
        row: QRectF,
        ink: object,
        chosen: bool,
    ) -> None:
        width = outer_width(self._session, element)
        font = text_font(12, bold=chosen)
        painter.setFont(font)
        metrics = painter.fontMetrics()
        number_width = metrics.horizontalAdvance(width)
        painter.setPen(ink)  # type: ignore[call-overload]
        room = int(row.right() - 12 - number_width - 8 - x)
        name = metrics.elidedText(self._name(element), Qt.TextElideMode.ElideRight, room)
        painter.drawText(round(x), round(row.y() + text_px(17)), name)
        painter.setPen(ink if chosen else colour("second_ink"))  # type: ignore[call-overload]
        painter.drawText(round(row.right() - 12 - number_width), round(row.y() + text_px(17)), width)

    def _extent(self, painter: QPainter, element: Element, row: QRectF, chosen: bool) -> None:
        """Where the box stands between the left and the right edge of the page."""
        box = self._session.views.page.box_of(element)
        if element in self.marked:
            painter.setBrush(colour("problem"))
            painter.setPen(Qt.PenStyle.NoPen)
            painter.drawRect(QRectF(row.x(), row.y() + 2, 4, row.height() - 4))
        if box is None:
            return
        left, width = 12.0, row.width() - 24
        page = self._session.views.viewport.width * 64
        start = min(1.0, max(0.0, box.border_box.x / page))
        end = min(1.0, max(0.0, box.border_box.right / page))
        painter.fillRect(
            QRectF(left, row.bottom() - 7, width, 1), colour("second_ink" if chosen else "hairline")
        )
        bar = QRectF(left + width * start, row.bottom() - 8, max(2.0, width * (end - start)), 3)
        painter.fillRect(bar, colour("accent" if chosen else "second_ink"))
