"""The comp on the sheet: read when it is first shown, painted over the page, under it, or as the difference."""

from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QPointF, QRectF
from PyQt6.QtGui import QImage, QPainter

from redcrate.app.comp.picture import read_comp
from redcrate.core.comp.placing import CompPlace, CompWay
from redcrate.core.errors import RedCrateError
from redcrate.core.session import Session

if TYPE_CHECKING:  # NumPy is loaded when something is measured
    from redcrate.core.comp.edges import Picture

_MODES = {
    CompWay.OVER: QPainter.CompositionMode.CompositionMode_SourceOver,
    CompWay.UNDER: QPainter.CompositionMode.CompositionMode_Multiply,
    CompWay.DIFFERENCE: QPainter.CompositionMode.CompositionMode_Difference,
}


class CompLayer:
    """The comp of the width that is seen. shown: whether it is painted at all. problem: why there is no picture."""

    def __init__(self, session: Session) -> None:
        self._session = session
        self._read: tuple[Path, QImage | None] | None = None
        self._array: Picture | None = None
        self.shown = True
        self.problem = ""

    @property
    def place(self) -> CompPlace | None:
        """Where it lies; None where there is none for this width."""
        return self._session.comp

    @property
    def image(self) -> QImage | None:
        """The picture; None where there is none, or it cannot be read."""
        place = self.place
        if place is None:
            return None
        path = self._session.document.path.parent / place.file
        if self._read is None or self._read[0] != path:
            self._array, self.problem = None, ""
            try:
                self._read = path, read_comp(path)
            except RedCrateError as problem:
                self._read, self.problem = (path, None), problem.sentence
        return self._read[1]

    def forget(self) -> None:
        """Read the picture again."""
        self._read = self._array = None

    @property
    def picture(self) -> "Picture | None":
        """The picture as an array."""
        image = self.image
        if image is not None and self._array is None:
            from redcrate.app.comp.picture_array import array_of

            self._array = array_of(image)
        return self._array if image is not None else None

    def paint(self, painter: QPainter, origin: QPointF, scale: float) -> None:
        """Paint it on a sheet whose page begins at `origin`, at a scale of the sheet."""
        place, image = self.place, self.image
        if place is None or image is None or not self.shown:
            return
        size = scale / place.scale
        target = QRectF(
            origin.x() + place.x * scale,
            origin.y() + place.y * scale,
            image.width() * size,
            image.height() * size,
        )
        painter.save()
        painter.setOpacity(place.strength if place.way is not CompWay.DIFFERENCE else 1.0)
        painter.setCompositionMode(_MODES[place.way])
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.drawImage(target, image)
        painter.restore()

    def colour_at(self, x: float, y: float) -> str:
        """The colour of the picture at a place of the page, px; "" outside of it."""
        place, image = self.place, self.image
        if place is None or image is None:
            return ""
        px, py = (int(v) for v in place.to_picture(x, y))
        if not (0 <= px < image.width() and 0 <= py < image.height()):
            return ""
        return image.pixelColor(px, py).name().upper()
