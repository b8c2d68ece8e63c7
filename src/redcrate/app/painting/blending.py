"""What a group is mixed with: the picture behind it, and the modes that no painter knows (Compositing 1 §10.2)."""

from PyQt6.QtCore import QPoint, QRect
from PyQt6.QtGui import QImage, QPainter, QPixmap

from redcrate.app.painting.pixels import Pixels, image_of, pixels_of

NON_SEPARABLE = ("hue", "saturation", "color", "luminosity")
_LUM = (0.11, 0.59, 0.3)  # blue, green, red: as the standard has them


def behind(painter: QPainter, corner: QPoint, like: QImage) -> QImage | None:
    """What was painted where a picture is to go; None on paper and in files of lines, which have no dots.

    corner: of the picture, px of the device.
    """
    device = painter.device()
    if not isinstance(device, (QImage, QPixmap)):
        return None
    ratio = like.devicePixelRatioF()
    place = QRect(corner * ratio, like.size())
    found = device.copy(place) if isinstance(device, QImage) else device.copy(place).toImage()
    found = found.convertToFormat(QImage.Format.Format_ARGB32_Premultiplied)
    found.setDevicePixelRatio(ratio)
    return found


def blended(source: QImage, backdrop: QImage, mode: str) -> QImage:
    """What is painted over the backdrop so that the source is mixed with it."""
    import numpy

    top, under = pixels_of(source), pixels_of(backdrop)
    alpha, below = top[:, :, 3:], under[:, :, 3:]
    colour = numpy.divide(top[:, :, :3], alpha, out=numpy.zeros_like(top[:, :, :3]), where=alpha > 0)
    behind_it = numpy.divide(under[:, :, :3], below, out=numpy.zeros_like(colour), where=below > 0)
    mixed = _MIXED[mode](colour, behind_it)
    shown = colour * (1 - below) + mixed * below
    return image_of(numpy.concatenate([shown * alpha, alpha], axis=2), source)


def _hue(source: Pixels, backdrop: Pixels) -> Pixels:
    return _with_lum(_with_sat(source, _sat(backdrop)), _lum(backdrop))


def _saturation(source: Pixels, backdrop: Pixels) -> Pixels:
    return _with_lum(_with_sat(backdrop, _sat(source)), _lum(backdrop))


def _colour(source: Pixels, backdrop: Pixels) -> Pixels:
    return _with_lum(source, _lum(backdrop))


def _luminosity(source: Pixels, backdrop: Pixels) -> Pixels:
    return _with_lum(backdrop, _lum(source))


_MIXED = {"hue": _hue, "saturation": _saturation, "color": _colour, "luminosity": _luminosity}


def _lum(colour: Pixels) -> Pixels:
    found: Pixels = (colour @ _LUM)[:, :, None]
    return found


def _sat(colour: Pixels) -> Pixels:
    found: Pixels = (colour.max(axis=2) - colour.min(axis=2))[:, :, None]
    return found


def _with_sat(colour: Pixels, wanted: Pixels) -> Pixels:
    """The parts between the least, which becomes 0, and the greatest, which becomes the saturation, keep their share."""
    import numpy

    spread = _sat(colour)
    above = colour - colour.min(axis=2)[:, :, None]
    found: Pixels = numpy.divide(above * wanted, spread, out=numpy.zeros_like(colour), where=spread > 0)
    return found


def _with_lum(colour: Pixels, wanted: Pixels) -> Pixels:
    """As light as is wanted; what is out of reach is drawn in towards grey."""
    import numpy

    colour = colour + (wanted - _lum(colour))
    lum = _lum(colour)
    low, high = colour.min(axis=2)[:, :, None], colour.max(axis=2)[:, :, None]
    share = numpy.ones_like(lum)
    numpy.divide(lum, lum - low, out=share, where=(low < 0) & (lum > low))
    colour = lum + (colour - lum) * share
    share = numpy.ones_like(lum)
    numpy.divide(1 - lum, high - lum, out=share, where=(high > 1) & (high > lum))
    found: Pixels = lum + (colour - lum) * share
    return found
