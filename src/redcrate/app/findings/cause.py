"""Where the cause of a finding was written: a link to its line; of a line about many, the first of them by name."""

from collections.abc import Callable

from PyQt6.QtWidgets import QPushButton, QWidget

from redcrate.app.theme.look import colour
from redcrate.app.theme.plain import Label
from redcrate.core.findings import Finding

_LISTED = 8


def cause_of(finding: Finding, show: Callable[[str, int], object]) -> QWidget | None:
    """The link, or the names; None where nothing was written. show: a file and a line of it."""
    if finding.parts:
        return _names(finding)
    cause = finding.cause
    if cause is None or not cause.line:
        return None
    button = QPushButton(cause_words(finding))
    button.setToolTip("Show in Source")
    button.setStyleSheet(
        "text-align: left; border: none; text-decoration: underline; padding: 0; background: transparent;"
    )
    button.clicked.connect(lambda: show(cause.file, cause.line))
    return button


def cause_words(finding: Finding) -> str:
    """Selector, file and line; "" where nothing was written."""
    cause = finding.cause
    if cause is None or not cause.line:
        return ""
    return f"{' '.join(cause.selector.split())[:60]}, {cause.short_file} line {cause.line}"


def _names(finding: Finding) -> Label:
    names = [p.fold_name or (p.cause.selector if p.cause is not None else "") for p in finding.parts]
    shown = [" ".join(n.split())[:40] for n in names[:_LISTED]]
    rest = len(names) - len(shown)
    label = Label("\n".join([*shown, *([f"and {rest} more"] if rest else [])]))
    label.setStyleSheet(f"color: {colour('second_ink').name()};")
    label.setIndent(0)
    return label
