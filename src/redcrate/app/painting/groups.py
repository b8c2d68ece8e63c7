"""Groups: what is composited as one picture is painted apart, and laid over what is behind it (Compositing 1 §3)."""

from typing import Any

from PyQt6.QtCore import QPoint, QRectF
from PyQt6.QtGui import QImage, QPainter, QPainterPath, QTransform

from redcrate.app.painting.blending import behind, blended
from redcrate.app.painting.effects import cut_out, filtered, reach_of
from redcrate.app.painting.masks import PaintMask
from redcrate.core.records import dataclass

OVER = QPainter.CompositionMode.CompositionMode_SourceOver
INSIDE = QPainter.CompositionMode.CompositionMode_DestinationIn
_MODES = QPainter.CompositionMode
# Of the modes of Compositing 1 §10 those that a painter knows; blending.py has the others.
_BLENDING = {
    "multiply": _MODES.CompositionMode_Multiply,
    "screen": _MODES.CompositionMode_Screen,
    "overlay": _MODES.CompositionMode_Overlay,
    "darken": _MODES.CompositionMode_Darken,
    "lighten": _MODES.CompositionMode_Lighten,
    "color-dodge": _MODES.CompositionMode_ColorDodge,
    "color-burn": _MODES.CompositionMode_ColorBurn,
    "hard-light": _MODES.CompositionMode_HardLight,
    "soft-light": _MODES.CompositionMode_SoftLight,
    "difference": _MODES.CompositionMode_Difference,
    "exclusion": _MODES.CompositionMode_Exclusion,
    "plus-lighter": _MODES.CompositionMode_Plus,
}


def mode_of(name: str) -> QPainter.CompositionMode:
    """How a painter mixes a picture with what is behind it in a mode."""
    return _BLENDING.get(name, OVER)


_DEEPEST = 12  # pictures in pictures; further in, each thing is painted by itself


@dataclass(frozen=True, slots=True)
class Effects:
    """What is done to a group's picture. shape: what is left of it, in the painter's own px.

    behind: filters for what is behind it, within a path (Filter Effects 2 §2). mixed: a mode that no painter knows. moved:
    what transforms do to the shape, the mask and that path.
    """

    filters: tuple[tuple[str, Any], ...] = ()
    shape: QPainterPath | None = None
    mask: PaintMask | None = None
    behind: tuple[tuple[tuple[str, Any], ...], QPainterPath] | None = None
    mixed: str = ""
    moved: QTransform | None = None


NO_EFFECTS = Effects()


@dataclass(slots=True)
class _Group:
    """painter: onto its picture; that of the group around it where it has none. corner: of the picture on the device.

    mode: how the picture meets what is there.
    """

    painter: QPainter
    opacity: float
    mode: QPainter.CompositionMode
    effects: Effects
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

    def begin(
        self,
        bounds: QRectF,
        opacity: float = 1.0,
        mode: QPainter.CompositionMode = OVER,
        effects: Effects = NO_EFFECTS,
    ) -> None:
        """What follows is one group; bounds: where it paints, in the painter's own px."""
        reach = reach_of(effects.filters)
        bounds = bounds.adjusted(-reach, -reach, reach, reach)
        opacity = min(1.0, max(0.0, opacity))
        around = self.painter
        place = around.combinedTransform().mapRect(bounds).toAlignedRect()
        device = around.device()
        ratio = device.devicePixelRatioF() if device is not None else 1.0
        if place.isEmpty() or len(self._open) >= _DEEPEST:
            self._open.append(_Group(around, opacity, mode, effects))
            return
        image = QImage(place.size() * ratio, QImage.Format.Format_ARGB32_Premultiplied)
        image.setDevicePixelRatio(ratio)
        image.fill(0)
        inner = QPainter(image)
        inner.setRenderHints(around.renderHints())
        shift = QTransform.fromTranslate(-place.x(), -place.y())
        inner.setTransform(around.combinedTransform() * shift)
        self._open.append(_Group(inner, opacity, mode, effects, image, place.topLeft()))

    def end(self) -> None:
        """The innermost group is whole."""
        group = self._open.pop()
        if group.image is None or group.corner is None:
            return
        effects, place = group.effects, group.painter.transform()
        if effects.moved is not None:
            place = effects.moved * place
        scale = (
            abs(group.painter.combinedTransform().determinant()) ** 0.5 * group.image.devicePixelRatioF()
        )
        group.painter.end()
        image = group.image
        if effects.filters:
            image = filtered(image, effects.filters, scale)
        if effects.behind is not None:
            image = self._over_what_is_behind(image, group.corner, place, scale, effects.behind)
        self._cut(image, place, effects)
        if effects.mixed:
            backdrop = behind(self.painter, group.corner, image)
            image = image if backdrop is None else blended(image, backdrop, effects.mixed)
        onto = self.painter
        onto.save()
        onto.resetTransform()
        onto.setOpacity(group.opacity)
        onto.setCompositionMode(group.mode)
        onto.drawImage(group.corner, image)
        onto.restore()

    @staticmethod
    def _cut(image: QImage, place: QTransform, effects: Effects) -> None:
        """Masking 1 §4: the shape and the mask leave what is inside them both, of what the filters have made."""
        if effects.shape is None and effects.mask is None:
            return
        painter = QPainter(image)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setTransform(place)
        if effects.shape is not None:
            cut_out(painter, effects.shape)
        hints = painter.renderHints()
        painter.end()
        if effects.mask is not None:
            effects.mask(image, place, hints)

    def _over_what_is_behind(
        self,
        image: QImage,
        corner: QPoint,
        place: QTransform,
        scale: float,
        wanted: tuple[tuple[tuple[str, Any], ...], QPainterPath],
    ) -> QImage:
        """A group's picture over what is behind it after filters."""
        backdrop = behind(self.painter, corner, image)
        if backdrop is None:
            return image
        filters, path = wanted
        under = filtered(backdrop, filters, scale)
        painter = QPainter(under)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setTransform(place)
        cut_out(painter, path)
        painter.resetTransform()
        painter.drawImage(0, 0, image)
        painter.end()
        return under
