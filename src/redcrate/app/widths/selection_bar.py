"""What can be done with the selected block for a range: leave it out, bring it back, copy values, the same as wide again."""

from collections.abc import Callable

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QWidget

from redcrate.core.edit.patch import Patch
from redcrate.core.edit.range_edits import (
    RangeValue,
    bring_back,
    copied,
    leave_out,
    left_out,
    same_again,
    told_changes,
    values_for,
)
from redcrate.core.errors import EditRefused, RedCrateError
from redcrate.core.markup.elements import Element
from redcrate.core.session import Change, Session
from redcrate.core.style.window_ranges import WindowRange
from redcrate.core.units import format_number


class SelectionBar(QWidget):
    """Buttons for the selected element. said: a sentence, and whether it tells of something wrong."""

    said = pyqtSignal(str, bool)

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.out = QPushButton("Hide here")
        self.out.setToolTip("Hide the block at the range that edits go to (display: none)")
        self.out.clicked.connect(lambda: self._take(self._leave_out))
        self.back = QPushButton("Show here")
        self.back.setToolTip("Remove the rule that hides the block at the chosen width")
        self.back.clicked.connect(lambda: self._take(self._bring_back))
        self.copy = QPushButton("Copy values from…")
        self.copy.setToolTip("Copy the block's values at another width into the range")
        self.copy.clicked.connect(lambda: self._menu(self.copy, self._sources()))
        self.same = QPushButton("Remove overrides for this range…")
        self.same.setToolTip(
            "Remove the block's values for this range; the values of the other widths apply again"
        )
        self.same.clicked.connect(lambda: self._menu(self.same, self._values()))
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 2, 0, 4)
        row.setSpacing(6)
        for widget in (self.out, self.back, self.copy, self.same):
            row.addWidget(widget)
        session.listen(self._changed)
        self.renew()

    def _changed(self, change: Change) -> None:
        screen = self.parentWidget()  # it hides itself where nothing is selected
        seen = screen is not None and screen.isVisible()
        if seen and change in (Change.PAGE, Change.SELECTION, Change.GIVES):
            self.renew()

    def renew(self) -> None:
        """Say what can be done with the selected element."""
        session, element = self._session, self._session.views.selected
        window = session.editor.window
        self.setVisible(element is not None)
        if element is None:
            return
        is_out = element in left_out(session.views.page)
        self.out.setVisible(not is_out)
        self.back.setVisible(is_out)
        for button in (self.out, self.copy):
            button.setEnabled(window is not None)
        self.same.setEnabled(
            window is not None and bool(values_for(session.views.page, element, window))
        )

    # -- patches

    def _chosen(self) -> tuple[Element, WindowRange]:
        element, window = self._session.views.selected, self._session.editor.window
        if element is None or window is None:
            raise EditRefused("Select a block and choose a range first.")
        return element, window

    def _leave_out(self) -> Patch:
        element, window = self._chosen()
        return leave_out(self._session.views.page, self._session.document.texts(), element, window)

    def _bring_back(self) -> Patch:
        element = self._session.views.selected
        if element is None:
            raise EditRefused("No block is selected.")
        return bring_back(self._session.views.page, self._session.document.texts(), element)

    def _copy(self, width: float) -> Patch:
        element, _ = self._chosen()
        session = self._session
        other = session.views.page_at(width)
        return copied(session.views.page, other, session.document.texts(), element, session.editor.place)

    def _same(self, *values: RangeValue) -> Patch:
        element, _ = self._chosen()
        return same_again(self._session.views.page, self._session.document.texts(), element, values)

    def _sources(self) -> list[tuple[str, Callable[[], Patch]]]:
        now = self._session.views.viewport.width
        return [
            (f"{format_number(w)} px", lambda w=w: self._copy(w))  # type: ignore[misc]
            for w in self._session.widths
            if w != now
        ]

    def _values(self) -> list[tuple[str, Callable[[], Patch]]]:
        element, window = self._chosen()
        values = values_for(self._session.views.page, element, window)
        each: list[tuple[str, Callable[[], Patch]]] = [
            (v.words, lambda v=v: self._same(v))  # type: ignore[misc]
            for v in values
        ]
        return [*each, ("all values", lambda: self._same(*values))] if len(values) > 1 else each

    # -- taking

    def _menu(self, button: QPushButton, ways: list[tuple[str, Callable[[], Patch]]]) -> None:
        menu = QMenu(self)
        for words, make in ways:
            action = menu.addAction(words)
            assert action is not None
            action.triggered.connect(lambda _=False, m=make: self._take(m))
        menu.popup(button.mapToGlobal(button.rect().bottomLeft()))

    def _take(self, make: Callable[[], Patch]) -> None:
        """Do it, and say at which of the page's widths something has changed."""
        session = self._session
        try:
            patch = make()
            changed = session.editor.changes_at(patch, session.widths)
            session.editor.apply(patch)
        except RedCrateError as problem:
            self.said.emit(problem.sentence, True)
            return
        self.said.emit(f"{patch.sentence}. {told_changes(changed)}", False)
