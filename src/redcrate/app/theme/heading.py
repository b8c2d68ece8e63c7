"""The small heading of a panel: its name on the left, a word on the right."""

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QHBoxLayout, QWidget

from redcrate.app.theme.look import colour, text_px
from redcrate.app.theme.plain import Label


def heading(name: str, aside: str = "") -> QWidget:
    """The heading widget."""
    row = QWidget()
    box = QHBoxLayout(row)
    box.setContentsMargins(12, 9, 12, 7)
    shade = colour("second_ink").name()
    left = Label(name.upper())
    left.setStyleSheet(f"color: {shade}; letter-spacing: 1px; font-size: {text_px(11)}px;")
    box.addWidget(left)
    box.addStretch()
    if aside:
        right = Label(aside)
        right.setStyleSheet(f"color: {shade}; font-size: {text_px(11)}px;")
        right.setAlignment(Qt.AlignmentFlag.AlignRight)
        box.addWidget(right)
    return row
