"""Groups: what is composited as one picture is painted apart, and laid over what is behind it (Compositing 1 §3)."""

from dataclasses import dataclass

from PyQt6.QtCore import QPoint, QRectF
from PyQt6.QtGui import QImage, QPainter, QTransform

from redcrate.core.style.computed import ComputedStyle

_DEEPEST = 12  # pictures in pictures; further in, each thing is painted by itself


@dataclass(slots=True)
class _Group:
    """painter: onto its picture; that of the group around it where it has none. corner: of the picture on the device."""

    painter: QPainter
    style: ComputedStyle
    image: QImage | None = None
    corner: QPoint | None = None


class Groups:
    """Which painter is painted with: that of the surface, or of the innermost group's picture."""

    def __init__(self, painter: QPainter) -> None:
        self._outermost = painter
        self._open: list[_Group] = []

    @property
    def painter(self) -> QPainter:
        """The painter of what is painted next."""
        return self._open[-1].painter if self._open else self._outermost

    def begin(self, style: ComputedStyle, bounds: QRectF) -> None:
        """What follows is one group; bounds: where it paints, in the painter's own px."""
        around = self.painter
        place = around.combinedTransform().mapRect(bounds).toAlignedRect()
        device = around.device()
        ratio = device.devicePixelRatioF() if device is not None else 1.0
        if place.isEmpty() or len(self._open) >= _DEEPEST:
            self._open.append(_Group(around, style))
            return
        image = QImage(place.size() * ratio, QImage.Format.Format_ARGB32_Premultiplied)
        image.setDevicePixelRatio(ratio)
        image.fill(0)
        inner = QPainter(image)
        inner.setRenderHints(around.renderHints())
        shift = QTransform.fromTranslate(-place.x(), -place.y())
        inner.setTransform(around.combinedTransform() * shift)
        self._open.append(_Group(inner, style, image, place.topLeft()))

    def end(self) -> None:
        """The innermost group is whole."""
        group = self._open.pop()
        if group.image is None or group.corner is None:
            return
        group.painter.end()
        onto = self.painter
        onto.save()
        onto.resetTransform()
        onto.setOpacity(min(1.0, max(0.0, group.style.opacity)))
        onto.drawImage(group.corner, group.image)
        onto.restore()
