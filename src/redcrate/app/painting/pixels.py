"""Pictures as arrays, and back: rows, columns, and blue, green, red and alpha, 0–1, premultiplied."""

from typing import TYPE_CHECKING, Any, TypeAlias

from PyQt6.QtGui import QImage

if TYPE_CHECKING:
    import numpy

Pixels: TypeAlias = "numpy.ndarray[Any, Any]"


def pixels_of(image: QImage) -> Pixels:
    """The dots of a picture, which is of the format ARGB32_Premultiplied."""
    import numpy  # with the first picture that is computed with: most pages have none

    bits = image.constBits()
    assert bits is not None
    flat = numpy.frombuffer(bits.asstring(image.sizeInBytes()), numpy.uint8)
    found: Pixels = flat.reshape(image.height(), image.width(), 4) / 255.0
    return found


def image_of(pixels: Pixels, like: QImage) -> QImage:
    """The picture of an array, of the size and the resolution of another one."""
    import numpy

    done = (numpy.clip(pixels, 0, 1) * 255 + 0.5).astype(numpy.uint8)
    made = QImage(
        done.tobytes(),
        like.width(),
        like.height(),
        4 * like.width(),
        QImage.Format.Format_ARGB32_Premultiplied,
    ).copy()
    made.setDevicePixelRatio(like.devicePixelRatioF())
    return made
