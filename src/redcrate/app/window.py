"""The window: the top bar with its commands, and the bench of the page that is open."""

from pathlib import Path

from PyQt6.QtCore import QObject, QRunnable, Qt, QThreadPool, QTimer, pyqtSignal
from PyQt6.QtGui import QAction, QCloseEvent, QKeySequence, QPainter, QPaintEvent
from PyQt6.QtWidgets import (
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QMainWindow,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.bench.bench import Bench
from redcrate.app.theme.look import colour
from redcrate.core.diagram.box_diagram import DiagramOptions, box_diagram
from redcrate.core.diagram.svg_end import drawing_svg
from redcrate.core.errors import PageNotWritable, RedCrateError
from redcrate.core.saving import save_bytes
from redcrate.core.session import Change, Session

_SLOW_MS = 300


class Mark(QWidget):
    """The crate: a red frame round a white field."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFixedSize(18, 18)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the mark."""
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("border_ink"))
        painter.fillRect(self.rect().adjusted(4, 4, -4, -4), colour("paper"))


class _Opened(QObject):
    """Carries the outcome of an opening from its thread to the window."""

    ready = pyqtSignal(object, object)


class _Opening(QRunnable):
    """Opens a page off the interface thread."""

    def __init__(self, path: Path, opened: _Opened) -> None:
        super().__init__()
        self._path = path
        self._opened = opened

    def run(self) -> None:
        """Read, parse and lay out; an error of ours is handed over as such."""
        try:
            session: Session | RedCrateError = Session(self._path)
        except RedCrateError as problem:
            session = problem
        self._opened.ready.emit(self._path, session)


class Window(QMainWindow):
    """The main window; at most one page is open in it."""

    opened = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.bench: Bench | None = None
        self._wanted: Path | None = None
        self.setWindowTitle("Red Crate")
        self.resize(1280, 800)
        self.sentence = QLabel("")
        self.sentence.setWordWrap(True)
        self.sentence.setAccessibleName("Message")
        self.sentence.setVisible(False)
        self._file = QLabel("")
        self._stack = QStackedWidget()
        self._empty = QLabel("Open an HTML page to see what its boxes spend.\n\nFile · Open…  (Ctrl+O)")
        self._empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self._stack.addWidget(self._empty)
        self._make_actions()
        whole = QWidget()
        box = QVBoxLayout(whole)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addWidget(self._top_bar())
        box.addWidget(self.sentence)
        box.addWidget(self._stack, 1)
        self.setCentralWidget(whole)
        self._opened = _Opened()
        self._opened.ready.connect(self._take)
        self._renew()

    # -- parts

    def _make_actions(self) -> None:
        def action(text: str, keys: QKeySequence | str | None, what: object) -> QAction:
            made = QAction(text, self)
            if keys is not None:
                made.setShortcut(QKeySequence(keys))
            made.triggered.connect(what)  # type: ignore[arg-type]
            self.addAction(made)
            return made

        standard = QKeySequence.StandardKey
        self.open_action = action("Open…", QKeySequence(standard.Open), self.choose_page)
        self.save_action = action("Save", QKeySequence(standard.Save), self.save)
        self.undo_action = action("Undo", QKeySequence(standard.Undo), self.undo)
        self.redo_action = action("Redo", QKeySequence(standard.Redo), self.redo)
        self.diagram_action = action("Box diagram…", "Ctrl+B", self.choose_diagram)

    def _top_bar(self) -> QWidget:
        bar = QWidget()
        row = QHBoxLayout(bar)
        row.setContentsMargins(12, 6, 12, 6)
        row.setSpacing(8)
        row.addWidget(Mark())
        name = QLabel("Red Crate")
        name.setStyleSheet("font-weight: bold; font-size: 13px;")
        row.addWidget(name)
        self._file.setStyleSheet(f"color: {colour('second_ink').name()};")
        row.addWidget(self._file)
        row.addStretch()
        self.buttons: dict[str, QPushButton] = {}
        for key, action in (
            ("open", self.open_action),
            ("diagram", self.diagram_action),
            ("undo", self.undo_action),
            ("redo", self.redo_action),
            ("save", self.save_action),
        ):
            button = QPushButton(action.text())
            button.setObjectName(key)
            button.clicked.connect(action.trigger)
            row.addWidget(button)
            self.buttons[key] = button
        return bar

    # -- opening

    def open_page(self, path: Path) -> None:
        """Open a page off the interface thread; what is open stays until the new one is there."""
        self._wanted = path
        QTimer.singleShot(_SLOW_MS, lambda: self._still_opening(path))
        pool = QThreadPool.globalInstance()
        assert pool is not None
        pool.start(_Opening(path, self._opened))

    def _still_opening(self, path: Path) -> None:
        if self._wanted == path:
            self.say(f"Opening {path.name} …")

    def _take(self, path: Path, outcome: object) -> None:
        if path != self._wanted:
            return
        self._wanted = None
        if isinstance(outcome, RedCrateError):
            self.say(outcome.sentence, wrong=True)
            self.opened.emit()
            return
        assert isinstance(outcome, Session)
        self.say("")
        self.show_session(outcome)
        self.opened.emit()

    def show_session(self, session: Session) -> None:
        """Show the bench of a session."""
        if self.bench is not None:
            self._stack.removeWidget(self.bench)
            self.bench.deleteLater()
        self.bench = Bench(session)
        self._stack.addWidget(self.bench)
        self._stack.setCurrentWidget(self.bench)
        self.bench.sheet.setFocus()
        session.listen(self._changed)
        self._renew()

    def choose_page(self) -> None:
        """Ask for a page and open it."""
        name, _ = QFileDialog.getOpenFileName(self, "Open a page", "", "Pages (*.html *.htm)")
        if name:
            self.open_page(Path(name))

    # -- commands

    @property
    def session(self) -> Session | None:
        """The session of the page that is open."""
        return self.bench.session if self.bench else None

    def save(self) -> None:
        """Write what was edited."""
        if self.session is None:
            return
        try:
            saved = self.session.save()
        except PageNotWritable as problem:
            self.say(problem.sentence, wrong=True)
            return
        self.say(f"Saved {', '.join(saved)}." if saved else "Nothing was changed since the last save.")

    def undo(self) -> None:
        """Take the last step back."""
        sentence = self.session.undo() if self.session else None
        if sentence:
            self.say(f"Undone: {sentence}")

    def redo(self) -> None:
        """Do the undone step again."""
        sentence = self.session.redo() if self.session else None
        if sentence:
            self.say(f"Done again: {sentence}")

    def choose_diagram(self) -> None:
        """Ask where the box diagram of the selected element goes, and write it."""
        if self.session is None or self.session.selected is None:
            self.say("Select a block first: the diagram is drawn of it.", wrong=True)
            return
        proposed = f"{self.session.selected.label.replace('#', '-').replace('.', '-')}.svg"
        name, _ = QFileDialog.getSaveFileName(self, "Save the box diagram", proposed, "SVG (*.svg)")
        if name:
            self.save_diagram(Path(name))

    def save_diagram(self, path: Path) -> None:
        """Write the box diagram of the selected element as SVG."""
        session = self.session
        if session is None or session.selected is None:
            return
        try:
            page_name = f"{session.path.resolve().parent.name} / {session.path.name}"
            drawing = box_diagram(session.page, session.selected, DiagramOptions(page_name=page_name))
            save_bytes(path, drawing_svg(drawing).encode("utf-8"))
        except RedCrateError as problem:
            self.say(problem.sentence, wrong=True)
            return
        self.say(f"Wrote the box diagram of {session.selected.label} to {path.name}.")

    def say(self, sentence: str, *, wrong: bool = False) -> None:
        """The one line under the top bar; empty hides it."""
        self.sentence.setText(sentence)
        self.sentence.setVisible(bool(sentence))
        ground = colour("problem" if wrong else "ink").name()
        paper = colour("paper").name()
        self.sentence.setStyleSheet(f"background: {ground}; color: {paper}; padding: 5px 12px;")

    # -- state

    def _changed(self, change: Change) -> None:
        if change in (Change.PAGE, Change.HISTORY, Change.SELECTION):
            self._renew()

    def _renew(self) -> None:
        session = self.session
        history = session.history if session else None
        for key, enabled, tip in (
            ("undo", bool(history and history.done), _tip("Undo", history.done[-1:] if history else ())),
            ("redo", bool(history and history.undone), "Redo  (Ctrl+Shift+Z)"),
            ("save", bool(session and session.is_edited), "Save  (Ctrl+S)"),
            ("diagram", session is not None, "Save a labelled drawing of the selected block as SVG"),
        ):
            self.buttons[key].setEnabled(enabled)
            self.buttons[key].setToolTip(tip)
        if session is not None:
            edited = " · edited" if session.is_edited else ""
            self._file.setText(f"{session.path.resolve().parent.name} / {session.path.name}{edited}")
            self.setWindowTitle(f"{session.path.name}{edited} – Red Crate")

    def closeEvent(self, event: QCloseEvent | None) -> None:
        """Unsaved work is asked about in place: the first close says so, the second one closes."""
        assert event is not None
        session = self.session
        if session is not None and session.is_edited and not self._warned:
            self._warned = True
            self.say(
                "There are unsaved changes: save them, or close once more to drop them.", wrong=True
            )
            event.ignore()
            return
        event.accept()

    _warned = False


def _tip(word: str, steps: "tuple[object, ...]") -> str:
    sentence = getattr(steps[0], "sentence", "") if steps else ""
    return f"{word} {sentence}  (Ctrl+Z)" if sentence else f"{word}  (Ctrl+Z)"
