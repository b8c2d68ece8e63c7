"""The pictures of a page: decoded when first painted, turned as their camera was held, fitted into their boxes."""

import re

from PyQt6.QtCore import QBuffer, QByteArray, QPointF, QRectF, QSizeF, Qt
from PyQt6.QtGui import QColor, QImage, QImageReader, QPainter, QPen, QPixmap
from PyQt6.QtSvg import QSvgRenderer

from redcrate.app.painting.gradients import place_in
from redcrate.app.painting.inline_svg import with_plain_colours
from redcrate.core.files.resources import Resources
from redcrate.core.files.vector_pictures import harmless
from redcrate.core.style.computed import ComputedStyle

_LARGEST_PICTURE = 4096
_VECTORS_KEPT = 500
_STRETCHED = re.compile(rb"""preserveAspectRatio\s*=\s*["']\s*none""")
_ICON = 16.0  # px
_SHARP = ("pixelated", "crisp-edges")
Picture = QPixmap | QSvgRenderer


class Pictures:
    """The pictures of a page, decoded when first painted."""

    def __init__(self, resources: Resources) -> None:
        self._resources = resources
        self._known: dict[str, Picture | None] = {}
        self._drawn: dict[bytes, QSvgRenderer | None] = {}  # SVG of the page itself

    def forget(self) -> None:
        """Read all pictures again when they are next asked for."""
        self._known.clear()

    def find(self, address: str) -> Picture | None:
        """The picture at an address; None if it is missing or no picture."""
        if address not in self._known:
            self._known[address] = self._load(address)
        return self._known[address]

    def vectors(self, data: bytes) -> QSvgRenderer | None:
        """SVG as a picture; None where it is none, or too much to draw."""
        if data not in self._drawn:
            if len(self._drawn) >= _VECTORS_KEPT:
                self._drawn.clear()
            self._drawn[data] = _vectors(data)
        return self._drawn[data]

    def _load(self, address: str) -> Picture | None:
        data = self._resources.image_bytes(address)
        if not data:
            return None
        if data[:512].lstrip().lower().startswith((b"<svg", b"<?xml", b"<!")):
            return _vectors(data)
        image = _decoded(data)
        if image.isNull():
            return None
        if max(image.width(), image.height()) > _LARGEST_PICTURE:
            image = image.scaled(_LARGEST_PICTURE, _LARGEST_PICTURE, Qt.AspectRatioMode.KeepAspectRatio)
        return QPixmap.fromImage(image)


def _vectors(data: bytes) -> QSvgRenderer | None:
    vectors = harmless(data)
    plain = QByteArray(with_plain_colours(vectors)) if vectors is not None else None
    renderer = QSvgRenderer(plain) if plain is not None else None
    if renderer is None or not renderer.isValid():
        return None
    if not _STRETCHED.search(data[:2000]):
        renderer.setAspectRatioMode(Qt.AspectRatioMode.KeepAspectRatio)
    return renderer


def _decoded(data: bytes) -> QImage:
    """CSS Images 3 §6.3 (image-orientation): the right way up, as the file says."""
    buffer = QBuffer()
    buffer.setData(data)
    reader = QImageReader(buffer)
    reader.setAutoTransform(True)
    reader.setDecideFormatFromContent(True)
    return reader.read()


def natural_size(picture: Picture) -> QSizeF:
    """A picture's own size, px."""
    size = picture.defaultSize() if isinstance(picture, QSvgRenderer) else picture.size()
    return QSizeF(size)


def paint_fitted(painter: QPainter, picture: Picture, room: QRectF, style: ComputedStyle) -> None:
    """CSS Images 3 §5.5 (object-fit), §5.6 (object-position): the picture in its content box, which clips it."""
    target = fitted(natural_size(picture), room, style)
    painter.save()
    if not room.contains(target):
        painter.setClipRect(room, Qt.ClipOperation.IntersectClip)
    paint_picture(painter, picture, target, style)
    painter.restore()


def paint_picture(painter: QPainter, picture: Picture, target: QRectF, style: ComputedStyle) -> None:
    """A picture as large as a rectangle; §6.1 (image-rendering)."""
    if isinstance(picture, QSvgRenderer):
        picture.render(painter, target)
        return
    smooth = style.image_rendering not in _SHARP
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform, smooth)
    painter.drawPixmap(target, picture, QRectF(picture.rect()))


def fitted(natural: QSizeF, room: QRectF, style: ComputedStyle) -> QRectF:
    """Where a picture of that size goes in its content box."""
    size, fit = room.size(), style.object_fit
    if fit != "fill" and not natural.isEmpty():
        scales = room.width() / natural.width(), room.height() / natural.height()
        scale = {"contain": min(scales), "cover": max(scales), "none": 1.0}.get(fit, min(1.0, *scales))
        size = natural * scale
    left, top = room.width() - size.width(), room.height() - size.height()
    free = QRectF(room.x(), room.y(), left, top)
    return QRectF(QPointF(place_in(style.object_position, free)), size)


def paint_missing(painter: QPainter, room: QRectF) -> None:
    """HTML Standard §15.4.2: of a picture that is not there a small frame, struck through; an edge where it has a size."""
    grey = QColor(154, 154, 154)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(grey, 1))
    if room.width() > 2 * _ICON and room.height() > 2 * _ICON:
        painter.drawRect(room.adjusted(0.5, 0.5, -0.5, -0.5))
        room = QRectF(room.x() + 4, room.y() + 4, _ICON, _ICON)
    icon = QRectF(room.topLeft(), QSizeF(min(_ICON, room.width()), min(_ICON, room.height())))
    icon = icon.adjusted(1.5, 1.5, -1.5, -1.5)
    painter.drawRect(icon)
    painter.drawLine(icon.bottomLeft(), icon.topRight())
