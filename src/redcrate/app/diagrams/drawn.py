"""The drawings that a contact sheet shows: made when they are seen, kept while they stay the same."""

from collections import OrderedDict
from dataclasses import replace

from PyQt6.QtGui import QImage

from redcrate.app.painting.drawing_files import drawing_image
from redcrate.core.diagram.board import SMALL
from redcrate.core.diagram.codes import Palette
from redcrate.core.diagram.drawing import Drawing
from redcrate.core.diagram.series import Kind, Series
from redcrate.core.markup.elements import Element
from redcrate.core.records import dataclass

_KEPT = 80  # pictures: one of a wide cell takes some 0.6 MB
# The scale down to which the smallest lettering can be read: 9 px.
_READABLE = 9 / SMALL


@dataclass(slots=True)
class _Made:
    """A drawing, of which series and for how much room it was last made, and its picture at a size."""

    drawing: Drawing
    of: Series
    room: tuple[float, float]
    image: QImage | None = None
    size: tuple[float, Palette] | None = None


class Drawn:
    """Small drawings by the paths of their elements, and large ones when one is asked for.

    An edit gives another series: a drawing is then made anew when it is seen, and its picture only where the drawing
    has become another one.
    """

    def __init__(self, series: Series) -> None:
        self._series = series
        self._small = series.small
        self._made: OrderedDict[tuple[int, ...], _Made] = OrderedDict()
        self.painted = 0  # pictures so far: those that know how much an edit paints anew

    @property
    def series(self) -> Series:
        """What is drawn now."""
        return self._series

    def renew(self, series: Series) -> None:
        """Draw another series from now on."""
        self._series, self._small = series, series.small

    def drawing(self, element: Element) -> Drawing:
        """The drawing of an element of the series' page, with all that belongs to it."""
        return self._series.sheet(element)

    def _of(self, element: Element, room: tuple[float, float]) -> _Made:
        path = element.path
        made = self._made.get(path)
        if made is None or made.of is not self._small or made.room != room:
            drawing = self._readable(element, room)
            if made is not None and made.drawing == drawing:
                made.of, made.room = self._small, room
            else:
                made = self._made[path] = _Made(drawing, self._small, room)
        self._made.move_to_end(path)
        while len(self._made) > _KEPT:
            self._made.popitem(last=False)
        return made

    def _readable(self, element: Element, room: tuple[float, float]) -> Drawing:
        """The fullest drawing of an element whose lettering can be read in `room` px; what is left out is seen large."""
        found = self._small.sheet(element)
        if self._small.kind is not Kind.BOX:
            return found
        options = self._small.options
        for less in (replace(options, names=False), replace(options, names=False, sums=False)):
            if self.scale_of(found, room) >= _READABLE:
                return found
            found = replace(self._small, options=less).sheet(element)
        return found

    def picture(
        self, element: Element, room: tuple[float, float], ratio: float, palette: Palette
    ) -> QImage:
        """The picture of the drawing, as large as it fits in `room` px but not larger than itself.

        ratio: dots of the screen for one px.
        """
        made = self._of(element, room)
        scale = self.scale_of(made.drawing, room) * ratio
        if made.image is None or made.size != (scale, palette):
            made.image, made.size = drawing_image(made.drawing, palette, scale), (scale, palette)
            made.image.setDevicePixelRatio(ratio)
            self.painted += 1
        return made.image

    def known_picture(self, element: Element) -> QImage | None:
        """The picture as it was made last, perhaps of an earlier state while the new one is waited for."""
        made = self._made.get(element.path)
        return made.image if made is not None else None

    def is_current(
        self, element: Element, room: tuple[float, float], ratio: float, palette: Palette
    ) -> bool:
        """Whether the picture is that of the series as it is, in this size."""
        made = self._made.get(element.path)
        if made is None or made.of is not self._small or made.room != room:
            return False
        return made.size == (self.scale_of(made.drawing, room) * ratio, palette)

    @staticmethod
    def scale_of(drawing: Drawing, room: tuple[float, float]) -> float:
        """The scale at which a drawing fits."""
        return min(1.0, room[0] / drawing.width, room[1] / drawing.height)
