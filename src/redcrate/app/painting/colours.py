"""CSS colours as Qt ones."""

from PyQt6.QtGui import QColor

from redcrate.core.style.property_parsers import Colour


def to_colour(value: Colour) -> QColor:
    """A CSS colour."""
    return QColor(value.red, value.green, value.blue, round(value.alpha * 255))
