"""What a family of findings teaches: its title, a paragraph, and a little page that shows it."""

from PyQt6.QtWidgets import QVBoxLayout, QWidget

from redcrate.app.findings.example import Example
from redcrate.app.theme.plain import Label
from redcrate.core.findings import FAMILIES


class Teaching(QWidget):
    """Title and paragraph; the example is laid out when it is first wanted."""

    def __init__(self, family: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._family = FAMILIES[family]
        self._example: Example | None = None
        self._box = QVBoxLayout(self)
        self._box.setContentsMargins(0, 4, 0, 0)
        for text, weight in ((self._family.title, "bold"), (self._family.teaches, "normal")):
            label = Label(text)
            label.setWordWrap(True)
            label.setIndent(0)
            label.setStyleSheet(f"font-weight: {weight};")
            self._box.addWidget(label)

    def show_example(self) -> None:
        """The little page, below the paragraph."""
        if self._example is None:
            self._example = Example()
            self._example.show_family(self._family.name)
            self._box.addWidget(self._example)
