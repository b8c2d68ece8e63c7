"""The arrow keys as ways over the sheet."""

from PyQt6.QtCore import Qt

# Across and down, by one.
ARROWS = {
    Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1),
}  # fmt: skip
