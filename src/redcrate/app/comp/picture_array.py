"""A comp as an array, in which edges are found. Loaded when something is measured, as NumPy is."""

import numpy as np
from PyQt6.QtGui import QImage

from redcrate.core.comp.edges import Picture


def array_of(image: QImage) -> Picture:
    """The picture as rows × columns × (red, green, blue)."""
    bits = image.constBits()
    assert bits is not None
    rows = np.frombuffer(bits.asstring(image.sizeInBytes()), np.uint8).reshape(
        image.height(), image.bytesPerLine()
    )
    return rows[:, : image.width() * 3].reshape(image.height(), image.width(), 3).copy()
