"""The sentences of why, in sections, each with its source: rows that are written anew, not made anew, by an edit."""

from collections.abc import Callable, Sequence

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QFrame, QLabel, QPushButton, QVBoxLayout, QWidget

from redcrate.app.theme.look import colour, text_px
from redcrate.app.theme.plain import Label, plain_tip
from redcrate.core.explain import Reason, Source
from redcrate.core.records import dataclass

Section = tuple[str, Sequence[Reason]]


def small_heading(title: str) -> QLabel:
    """A heading inside a panel."""
    label = Label(title.upper())
    label.setIndent(0)
    grey = colour("second_ink").name()
    label.setStyleSheet(
        f"color: {grey}; letter-spacing: 1px; font-size: {text_px(11)}px; padding: 12px 0 4px 0;"
    )
    return label


@dataclass(frozen=True, slots=True)
class _Row:
    """What stands in a row: of a kind, with its text; source: of a row that leads to the Source screen."""

    kind: str
    text: str
    source: Source | None = None


class Reasons(QWidget):
    """The column of sections. place_wanted: a file and a line, from 1."""

    place_wanted = pyqtSignal(str, int)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._rows: list[_Row] = []
        self._widgets: list[QWidget] = []
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(0)

    def show_sections(self, sections: Sequence[Section]) -> None:
        """Show these; rows of the same kinds as before keep their widgets."""
        rows = [row for title, reasons in sections for row in _rows_of(title, reasons)]
        same = 0
        for before, now in zip(self._rows, rows, strict=False):
            if before.kind != now.kind:
                break
            same += 1
        for widget in self._widgets[same:]:
            self._column.removeWidget(widget)
            widget.setParent(None)
            widget.deleteLater()
        del self._widgets[same:]
        for number, (row, widget) in enumerate(zip(rows, self._widgets, strict=False)):
            if row != self._rows[number]:
                _write(row, widget)
        self._rows = rows
        for number in range(same, len(rows)):
            made = self._made(rows[number], number)
            self._widgets.append(made)
            self._column.addWidget(made)

    def _made(self, row: _Row, number: int) -> QWidget:
        widget = _MAKERS[row.kind]()
        if isinstance(widget, QPushButton):
            widget.clicked.connect(lambda: self._go(number))
        _write(row, widget)
        return widget

    def _go(self, number: int) -> None:
        source = self._rows[number].source
        if source is not None:
            self.place_wanted.emit(source.file, source.line)

    def sentences(self) -> list[str]:
        """All sentences shown, for those who test or read aloud."""
        return [w.text() for w in self._widgets if isinstance(w, QLabel)]


def _rows_of(title: str, reasons: Sequence[Reason]) -> list[_Row]:
    """A heading with sentences, each with its source below it."""
    rows = [_Row("heading", title.upper())]
    for reason in reasons:
        rows.append(_Row("sentence", reason.sentence))
        if reason.source is not None:
            kind = "author" if reason.source.is_author else "other"
            rows.append(_Row(kind, reason.source.sentence, reason.source))
        rows.append(_Row("line", ""))
    return rows


def _write(row: _Row, widget: QWidget) -> None:
    if isinstance(widget, QLabel):
        widget.setText(row.text)
    elif isinstance(widget, QPushButton):
        widget.setText(row.text)
        widget.setToolTip(plain_tip(f"{row.text}: show in Source"))


def _sentence() -> QWidget:
    text = Label()
    text.setWordWrap(True)
    text.setIndent(0)
    text.setStyleSheet("padding: 5px 0 1px 0;")
    return text


def _line() -> QWidget:
    line = QFrame()
    line.setFixedHeight(1)
    line.setStyleSheet(f"background: {colour('hairline').name()};")
    return line


def _other_source() -> QWidget:
    """Where a value was written that is not the author's."""
    label = Label()
    label.setWordWrap(True)
    grey = colour("second_ink").name()
    label.setStyleSheet(f"color: {grey}; font-size: {text_px(11)}px; padding: 0 0 4px 0;")
    return label


def _author_source() -> QWidget:
    """Where a value was written; a click goes there on the Source screen."""
    button, grey = QPushButton(), colour("second_ink").name()
    button.setCursor(Qt.CursorShape.PointingHandCursor)
    button.setStyleSheet(
        f"QPushButton {{ color: {grey}; font-size: {text_px(11)}px; padding: 0 0 4px 0; border: none; text-align: left;"
        f" text-decoration: underline; background: transparent; }}"
        f"QPushButton:focus {{ color: {colour('ink').name()}; border: none; padding: 0 0 4px 0; }}"
    )
    return button


_MAKERS: dict[str, Callable[[], QWidget]] = {
    "heading": lambda: small_heading(""),
    "sentence": _sentence,
    "author": _author_source,
    "other": _other_source,
    "line": _line,
}
