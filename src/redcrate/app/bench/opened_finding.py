"""What is known of one finding: its cause, its fixes, and, folded, what its family teaches."""

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from redcrate.app.bench.example import Example
from redcrate.app.bench.fix_button import FixButton
from redcrate.app.theme.look import colour
from redcrate.app.theme.plain import Label, plain_tip
from redcrate.core.findings import FAMILIES, Finding, Fix
from redcrate.core.units import counted

_LISTED = 8


class OpenedFinding(QWidget):
    """Stands in the list below the finding's sentence."""

    place_wanted = pyqtSignal(str, int)
    silenced = pyqtSignal()
    previewed = pyqtSignal(object)  # a fix that is looked at, or None
    taken = pyqtSignal(object)
    resized = pyqtSignal()

    def __init__(self, finding: Finding, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._family = FAMILIES[finding.family]
        self._is_list = bool(finding.parts)
        box = QVBoxLayout(self)
        box.setContentsMargins(10, 4, 10, 10)
        box.setSpacing(5)
        if finding.parts:
            self._list(finding, box)
        else:
            self._cause(finding, box)
        self._fixes = QVBoxLayout()
        self._fixes.setSpacing(4)
        self._waiting = Label("Computing fixes …" if finding.ways else "")
        self._waiting.setStyleSheet(f"color: {colour('second_ink').name()};")
        self._waiting.setVisible(bool(finding.ways))
        box.addLayout(self._fixes)
        self._effects = Label("")
        self._effects.setWordWrap(True)
        self._effects.hide()
        box.addWidget(self._effects)
        box.addWidget(self._waiting)
        row = QHBoxLayout()
        row.setSpacing(6)
        self.more = QPushButton("Why")
        self.more.setCheckable(True)
        self.more.toggled.connect(self._fold)
        silence = QPushButton("Ignore on this element")
        silence.setToolTip(
            "Ignore this finding on this element; kept in the settings file beside the page"
        )
        silence.clicked.connect(self.silenced)
        for button in (self.more, silence):
            button.setStyleSheet("padding: 3px 6px;")
            row.addWidget(button)
        row.addStretch()
        box.addLayout(row)
        self._teaching = self._teach()
        self._teaching.hide()
        box.addWidget(self._teaching)

    def _cause(self, finding: Finding, box: QVBoxLayout) -> None:
        cause = finding.cause
        if cause is None or not cause.line:
            return
        button = QPushButton(
            f"{' '.join(cause.selector.split())[:60]}, {cause.short_file} line {cause.line}"
        )
        button.setToolTip("Show in Source")
        button.setStyleSheet(
            "text-align: left; border: none; text-decoration: underline; padding: 0; background: transparent;"
        )
        button.clicked.connect(lambda: self.place_wanted.emit(cause.file, cause.line))
        box.addWidget(button)

    def _list(self, finding: Finding, box: QVBoxLayout) -> None:
        """What a line about many stands for, the first of them by name."""
        names = [p.fold_name or (p.cause.selector if p.cause is not None else "") for p in finding.parts]
        shown = [" ".join(n.split())[:40] for n in names[:_LISTED]]
        rest = len(names) - len(shown)
        label = Label("\n".join([*shown, *([f"and {rest} more"] if rest else [])]))
        label.setStyleSheet(f"color: {colour('second_ink').name()};")
        label.setIndent(0)
        box.addWidget(label)

    def _teach(self) -> QWidget:
        teaching = QWidget()
        box = QVBoxLayout(teaching)
        box.setContentsMargins(0, 4, 0, 0)
        for text, weight in ((self._family.title, "bold"), (self._family.teaches, "normal")):
            label = Label(text)
            label.setWordWrap(True)
            label.setIndent(0)
            label.setStyleSheet(f"font-weight: {weight};")
            box.addWidget(label)
        return teaching

    def _fold(self, shown: bool) -> None:
        """Show what the family teaches, with its example, or fold it away."""
        layout = self._teaching.layout()
        if shown and layout is not None and layout.count() == 2:
            example = Example()
            example.show_family(self._family.name)
            layout.addWidget(example)
        self._teaching.setVisible(shown)
        self.resized.emit()

    def add_fix(self, fix: Fix) -> None:
        """Offer a fix that was verified."""
        button = FixButton(fix.told)
        button.setToolTip(plain_tip(f"{fix.told}. The sheet shows it as a preview."))
        button.looked_at.connect(lambda looked: self.previewed.emit(fix if looked else None))
        button.clicked.connect(lambda: self.taken.emit(fix))
        self._fixes.addWidget(button)
        button.show()  # at once, so that its height counts
        self.resized.emit()

    def tell_effects(self, sentences: list[str]) -> None:
        """Say which other findings the first fix mends too."""
        if sentences:
            count = counted(len(sentences), "1 other finding", "{count} other findings")
            self._effects.setText(f"The first fix also removes {count}.")
            self._effects.setToolTip(plain_tip("\n".join(sentences)))
            self._effects.show()
            self.resized.emit()

    def all_known(self, found: bool) -> None:
        """No more fixes are worked out."""
        told = found or self._is_list
        self._waiting.setText("" if told else "No fix passed the check; edit by hand.")
        self._waiting.setVisible(not told)
        self.resized.emit()

    def height_in(self, width: int) -> int:
        """How high it is when it is that wide."""
        self.setFixedWidth(width)
        layout = self.layout()
        assert layout is not None
        layout.invalidate()
        layout.activate()
        return (
            layout.totalHeightForWidth(width) if layout.hasHeightForWidth() else self.sizeHint().height()
        )
