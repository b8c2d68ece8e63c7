"""The Source screen: the files of the page, an editor each, find and replace, and what is wrong."""

from collections.abc import Callable

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtGui import QKeySequence, QShortcut
from PyQt6.QtWidgets import (
    QListWidget,
    QPushButton,
    QSplitter,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.pauses import pause_ms
from redcrate.app.rest_of_sheets import RestOfSheets
from redcrate.app.screen import Screen
from redcrate.app.sheet.sheet import Sheet
from redcrate.app.source.editor import SourceEditor
from redcrate.app.source.find_bar import FindBar
from redcrate.app.theme.heading import heading
from redcrate.app.theme.look import colour
from redcrate.app.theme.plain import Label, plain_tip
from redcrate.core.edit.patch import Patch, TextEdit, patch_between
from redcrate.core.errors import RedCrateError
from redcrate.core.notices import Notice
from redcrate.core.session import Change, Session
from redcrate.core.style.cascade import Winner

PAUSE_MS = 300
_LONGEST = 5_000_000  # characters that are still edited here
_BOX_PARTS = {
    "margin": "margin",
    "border": "border",
    "padding": "padding",
    **dict.fromkeys(
        ("width", "height", "min-width", "min-height", "max-width", "max-height"), "content"
    ),
}


class SourceScreen(Screen):
    """HTML and CSS as text beside the page; what is typed shows there after a short pause."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.editors: dict[str, SourceEditor] = {}
        self.files = QListWidget()
        self.files.setAccessibleName("Files of the page")
        self.files.currentTextChanged.connect(self._show_file)
        self.stack = QStackedWidget()
        self.find_bar = FindBar(lambda: self.editor(self.file), self.take_typing)
        self.find_bar.replaced.connect(self._replace)
        self.sheet = Sheet(session)
        self.sheet.said.connect(self.said)
        self.sheet.held.connect(self.held)
        self.problem = Label("")
        self.problem.setWordWrap(True)
        self.problem.setAccessibleName("Errors")
        self._pause = QTimer(self)
        self._pause.setSingleShot(True)
        self._pause.setInterval(pause_ms(PAUSE_MS))
        self._pause.timeout.connect(self.take_typing)
        self._burst = 0
        self._build()
        self._rest = RestOfSheets(self)
        self._rest.known.connect(self._renew)
        session.listen(self._changed)
        self._renew_files()
        self._renew()

    # -- parts

    def _build(self) -> None:
        left = QWidget()
        column = QVBoxLayout(left)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(heading("Files"))
        column.addWidget(self.files)
        legend = Label(
            "Marks beside lines that set the selected box: ● margin  ■ border  ▶ padding  ➔ content"
        )
        legend.setWordWrap(True)
        legend.setStyleSheet(f"color: {colour('second_ink').name()}; padding: 8px 12px;")
        column.addWidget(legend)
        right = QWidget()
        rows = QVBoxLayout(right)
        rows.setContentsMargins(0, 0, 0, 0)
        rows.setSpacing(0)
        rows.addWidget(self.stack, 1)
        rows.addWidget(self.problem)
        self.splitter = QSplitter(Qt.Orientation.Horizontal)
        self.splitter.setHandleWidth(4)
        self.text_side = QSplitter(Qt.Orientation.Horizontal)
        self.text_side.setHandleWidth(1)
        self.text_side.addWidget(left)
        self.text_side.addWidget(right)
        self.text_side.setSizes([150, 610])
        for widget in (self.text_side, self.sheet):
            self.splitter.addWidget(widget)
        self.splitter.setSizes([740, 540])
        self.splitter.setChildrenCollapsible(False)
        right.setMinimumWidth(300)
        self.sheet.setMinimumWidth(240)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addWidget(self._upper_bar())
        box.addWidget(self.splitter, 1)

    def _side_button(self, name: str, tip: str, side: Callable[[], QWidget]) -> QPushButton:
        """A button that hides or shows one side; the other one then stays."""
        button = QPushButton(name)
        button.setCheckable(True)
        button.setChecked(True)
        button.setToolTip(plain_tip(tip))

        def show(shown: bool) -> None:
            side().setVisible(shown)
            if not shown:
                other = next(b for b in self.side_buttons.values() if b is not button)
                other.setChecked(True)

        button.toggled.connect(show)
        return button

    def _upper_bar(self) -> QWidget:
        """Finding and replacing, and what is shown beside."""
        self.side_buttons = {
            "text": self._side_button("Text", "Hide or show the text", lambda: self.text_side),
            "page": self._side_button(
                "Page", "Hide or show the page beside the text", lambda: self.sheet
            ),
        }
        for button in self.side_buttons.values():
            self.find_bar.add_button(button)
        key = QShortcut(QKeySequence(QKeySequence.StandardKey.Find), self)
        key.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
        key.activated.connect(self.find_bar.sought.setFocus)
        return self.find_bar

    # -- files

    @property
    def file(self) -> str:
        """The name of the file that is shown."""
        item = self.files.currentItem()
        return item.text() if item is not None else self._session.document.html_name

    def editor(self, name: str) -> SourceEditor:
        """The editor of a file."""
        if name not in self.editors:
            made = SourceEditor(name.lower().endswith(".css"))
            made.edited.connect(self._pause.start)
            made.undo_wanted.connect(self._undo)
            made.redo_wanted.connect(self._redo)
            self.editors[name] = made
            self.stack.addWidget(made)
        return self.editors[name]

    def _renew_files(self) -> None:
        names = list(self._session.document.files)
        shown = [
            item.text() for i in range(self.files.count()) if (item := self.files.item(i)) is not None
        ]
        if names == shown:
            return
        current = self.file
        self.files.blockSignals(True)
        self.files.clear()
        self.files.addItems(names)
        self.files.setCurrentRow(names.index(current) if current in names else 0)
        self.files.blockSignals(False)
        self._show_file(self.file)

    def _show_file(self, name: str) -> None:
        if name:
            self.stack.setCurrentWidget(self.editor(name))
            self._show_text(name)
            self._renew()

    def _show_text(self, name: str) -> None:
        editor = self.editor(name)
        text = self._session.document.text(name).text
        odd = len(text) > _LONGEST or not _is_whole(text)
        editor.setReadOnly(odd)
        if odd:
            self._say_problem(
                f"{name} has bytes outside its encoding, or is very long: it is shown but cannot be edited here."
            )
            text = text.encode("utf-8", "replace").decode("utf-8")
        editor.show_text(text)

    def show_place(self, file: str, line: int) -> None:
        """Show a line (from 1) of a file: where an origin leads."""
        names = list(self._session.document.files)
        if file not in names:
            return
        self.files.setCurrentRow(names.index(file))
        source = self._session.document.text(file)
        start = source.offset_of(line, 1)
        end = source.text.find("\n", start)
        self.editor(file).go_to(start, end if end >= 0 else len(source.text))
        self.editor(file).setFocus()

    # -- typing

    def take_typing(self) -> None:
        """Make one step of what was typed; the selection stays, the last good picture too."""
        self._pause.stop()
        before = self._session.document.texts()
        after = {n: e.text() for n, e in self.editors.items() if n in before and not e.isReadOnly()}
        patch = patch_between({n: before[n] for n in after}, after, "typed in the source")
        if not patch.edits:
            return
        name = patch.edits[0].file
        line = self._session.document.text(name).line_of(patch.edits[0].start)
        patch = Patch(patch.edits, f"typed in {name}, line {line}")
        try:
            self._session.editor.apply(patch, merges=f"typing {name} {line}")
        except RedCrateError as problem:
            self._say_problem(problem.sentence)

    def _undo(self) -> None:
        self.take_typing()
        sentence = self._session.editor.undo()
        if sentence:
            self.said.emit(f"Undone: {sentence}", False)

    def _redo(self) -> None:
        self.take_typing()
        sentence = self._session.editor.redo()
        if sentence:
            self.said.emit(f"Redone: {sentence}", False)

    def _replace(self, edits: list[tuple[int, int]], sought: str, instead: str) -> None:
        """Some places of the file that is shown become other words, as one step."""
        self.take_typing()
        made = tuple(TextEdit(self.file, start, end, instead) for start, end in edits)
        sentence = f"“{sought}” → “{instead}” in {self.file}, {len(made)} places"
        self._session.editor.apply(Patch(made, sentence))

    # -- showing

    def _changed(self, change: Change) -> None:
        if change is Change.PAGE and self.isVisible():
            self._renew_files()
            typing = self._pause.isActive()
            for name in self.editors:
                if name in self._session.document.files and not (typing and name == self.file):
                    self._show_text(name)
        if change in (Change.PAGE, Change.SELECTION) and self.isVisible():
            self._renew()
        if change is Change.SELECTION and self.isVisible():
            self._follow()

    def _follow(self) -> None:
        """Bring what belongs to the selected element into view: its tag, or in CSS the lines that set it."""
        element, name = self._session.views.selected, self.file
        if element is None or name not in self.editors:
            return
        self.sheet.show_element(element)
        markup = self._session.views.page.source.markup
        tag = markup.start_tag(element)
        if name == self._session.document.html_name and tag is not None:
            self.editors[name].bring_into_view(markup.source.line_of(tag.start))
            return
        lines = [line for line, _ in self._marks(name)]
        if lines:
            self.editors[name].bring_into_view(min(lines))

    def enter(self) -> None:
        """Keys go to the text that is shown."""
        self.editor(self.file).setFocus()

    def leave(self) -> None:
        """What is being typed counts."""
        self.take_typing()

    def show_what(self, what: object) -> None:
        """A file and a line."""
        assert isinstance(what, tuple)
        file, line = what
        self.show_place(file, line)

    def notes_over(self) -> QWidget:
        """The texts and the page, not the field to find in."""
        return self.splitter

    def forget_pictures(self) -> None:
        """Read the page's pictures again."""
        self.sheet.forget_pictures()

    def showEvent(self, event: object) -> None:
        """Texts and marks are kept up only while they are seen."""
        self._renew_files()
        for name in self.editors:
            if name in self._session.document.files:
                self._show_text(name)
        self._renew()
        self._follow()

    def _renew(self) -> None:
        name = self.file
        if name not in self.editors:
            return
        editor = self.editors[name]
        editor.mark_lines(self._marks(name))
        known = self._rest.notices(self._session.views.page) or ()
        faults = [n for n in known if n.file == name and n.line]
        editor.mark_faults((n.line, n.sentence) for n in faults)
        self._say_problem(_summary(faults))

    def _marks(self, name: str) -> list[tuple[int, str]]:
        """The lines that set the selected element's boxes."""
        element = self._session.views.selected
        if element is None:
            return []
        found: list[tuple[int, str]] = []
        winners = self._session.views.page.styled.cascade_of(element).winners
        for longhand, winner in winners.items():
            part = _BOX_PARTS.get(longhand) or _BOX_PARTS.get(longhand.split("-")[0])
            if part and _place(winner)[0] == name:
                found.append((_place(winner)[1], part))
        return list(dict.fromkeys(found))

    def _say_problem(self, sentence: str) -> None:
        self.problem.setText(sentence)
        self.problem.setVisible(bool(sentence))
        self.problem.setStyleSheet(f"color: {colour('problem').name()}; padding: 6px 12px;")


def _is_whole(text: str) -> bool:
    """Whether all of the file's bytes were characters of its encoding."""
    try:
        text.encode("utf-8")
    except UnicodeEncodeError:
        return False
    return True


def _place(winner: Winner) -> tuple[str, int]:
    declaration = winner.applied.declaration
    return declaration.file, declaration.line


def _summary(faults: list[Notice]) -> str:
    if not faults:
        return ""
    first = faults[0]
    more = f" And {len(faults) - 1} more, each below its line." if len(faults) > 1 else ""
    return f"Line {first.line}: {first.sentence}{more}"
