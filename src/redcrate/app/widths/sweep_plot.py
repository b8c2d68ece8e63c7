"""The plot of a sweep on the screen: straight pieces, events, what breaks, and a line that reads values.

pyqtgraph is loaded when a plot is first wanted: it takes half a second.
"""

from collections.abc import Sequence
from typing import Any

from PyQt6.QtCore import QPointF, Qt, pyqtSignal
from PyQt6.QtGui import QColor
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from redcrate.app.theme.look import colour, lettering
from redcrate.core.diagram.sweep_plot import is_problem
from redcrate.core.findings.breaks import Broken
from redcrate.core.units import format_number
from redcrate.core.widths.pieces import Piece
from redcrate.core.widths.standing_at import Quantity
from redcrate.core.widths.sweep import Swept
from redcrate.core.widths.sweep_report import value_of


class SweepPlot(QWidget):
    """One quantity against the window's width. read: what the line under the pointer says. picked: a width, px."""

    read = pyqtSignal(str)
    picked = pyqtSignal(int)

    def __init__(self, parent: QWidget | None = None) -> None:
        import pyqtgraph

        super().__init__(parent)
        self._graph: Any = pyqtgraph
        pyqtgraph.setConfigOptions(antialias=True)
        self.canvas: Any = pyqtgraph.PlotWidget(background=colour("paper"))
        self.canvas.setMenuEnabled(False)
        self.canvas.hideButtons()
        self.canvas.setMouseEnabled(False, False)
        self.canvas.getPlotItem().getViewBox().setDefaultPadding(0.02)
        self.canvas.scene().sigMouseMoved.connect(self._over)
        self.canvas.scene().sigMouseClicked.connect(self._clicked)
        self.canvas.setAccessibleName("Sweep")
        self.canvas.setFocusPolicy(
            Qt.FocusPolicy.NoFocus
        )  # the list of events is the way for the keyboard
        for side in ("left", "bottom"):
            axis = self.canvas.getAxis(side)
            axis.setPen(colour("second_ink"))
            axis.setTextPen(colour("second_ink"))
            axis.setStyle(tickFont=lettering(10))
        self._swept: Swept | None = None
        self._quantity = Quantity.WIDTH
        self._cursor: Any = None
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.addWidget(self.canvas)

    def show_swept(
        self, swept: Swept, quantity: Quantity, broken: Sequence[Broken] = (), at: int | None = None
    ) -> None:
        """Draw a quantity. broken: what breaks, as bands. at: the width of the event that is looked at."""
        self._swept, self._quantity = swept, quantity
        self.canvas.clear()
        for one in broken:
            for found in one.ranges:
                band = QColor(colour("problem"))
                band.setAlpha(30)
                region = self._graph.LinearRegionItem(
                    (found.least - 0.5, found.most + 0.5),
                    movable=False,
                    brush=band,
                    pen=self._graph.mkPen(None),
                )
                self.canvas.addItem(region)
        for width in dict.fromkeys(e.width for e in swept.events):
            events = [e for e in swept.events if e.width == width]
            shade = colour("problem" if any(is_problem(e) for e in events) else "second_ink")
            style = Qt.PenStyle.SolidLine if width == at else Qt.PenStyle.DashLine
            pen = self._graph.mkPen(shade, width=2 if width == at else 1, style=style)
            self.canvas.addItem(self._graph.InfiniteLine(width - 0.5, angle=90, pen=pen))
        pen = self._graph.mkPen(colour("ink"), width=2)
        for piece in swept.pieces.get(quantity, ()):
            ends = [(w, value_of(v)) for w, v in ((piece.first, piece.start), (piece.last, piece.end))]
            known = [(w, v) for w, v in ends if v is not None]
            if known:
                self.canvas.plot([w for w, _ in known], [v for _, v in known], pen=pen)
        self._cursor = self._graph.InfiniteLine(
            swept.first, angle=90, pen=self._graph.mkPen(colour("border_ink"), width=2)
        )
        self._cursor.setVisible(False)
        self.canvas.addItem(self._cursor)
        self.canvas.setXRange(swept.first, swept.last)
        values = [v for p in swept.pieces.get(quantity, ()) for v in (p.start, p.end) if v is not None]
        shown = [value_of(v) or 0.0 for v in values] or [1.0]
        self.canvas.setYRange(min(0.0, *shown), max(1.0, *shown) * 1.05)
        self.canvas.setAccessibleDescription(
            "; ".join(f"{p.first} to {p.last} px: {p.words}" for p in swept.pieces.get(quantity, ()))
        )

    def _width_at(self, position: QPointF) -> int | None:
        if self._swept is None:
            return None
        width = round(self.canvas.getPlotItem().getViewBox().mapSceneToView(position).x())
        return width if self._swept.first <= width <= self._swept.last else None

    def _over(self, position: QPointF) -> None:
        """Read the values under the pointer."""
        width = self._width_at(position)
        if self._cursor is not None:
            self._cursor.setVisible(width is not None)
        if width is not None and self._cursor is not None:
            self._cursor.setValue(width)
            self.read.emit(self.value_words(width))

    def value_words(self, width: int) -> str:
        """The quantity at a width, and the piece that it is on."""
        piece = self._piece_at(width)
        value = value_of(piece.at(width)) if piece is not None else None
        if piece is None or value is None:
            return f"{width} px: no box"
        unit = "in a row" if self._quantity is Quantity.ROW else "px"
        more = "" if self._quantity is Quantity.ROW else f" ({piece.words})"
        return f"{width} px: {format_number(value)} {unit}{more}"

    def _piece_at(self, width: int) -> Piece | None:
        pieces = self._swept.pieces.get(self._quantity, ()) if self._swept is not None else ()
        return next((p for p in pieces if p.first <= width <= p.last), None)

    def _clicked(self, event: Any) -> None:
        width = self._width_at(event.scenePos())
        if width is not None:
            self.picked.emit(width)
