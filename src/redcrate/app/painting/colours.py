"""CSS colours as Qt ones."""

from PyQt6.QtCore import QRectF
from PyQt6.QtGui import QColor

from redcrate.core.geometry import Rect
from redcrate.core.style.colours import Colour


def to_colour(value: Colour) -> QColor:
    """A CSS colour."""
    return QColor(value.red, value.green, value.blue, round(value.alpha * 255))


def to_rect(rect: Rect) -> QRectF:
    """A rectangle of the page in px."""
    return QRectF(rect.x / 64, rect.y / 64, rect.width / 64, rect.height / 64)
