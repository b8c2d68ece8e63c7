"""The window: the top bar with its commands, and the screens of the page that is open."""

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtCore import Qt, QTimer, pyqtSignal
from PyQt6.QtGui import (
    QAction,
    QCloseEvent,
    QDragEnterEvent,
    QDropEvent,
    QKeySequence,
    QResizeEvent,
)
from PyQt6.QtWidgets import (
    QFileDialog,
    QMainWindow,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.all_commands import all_commands
from redcrate.app.commands.command import Command
from redcrate.app.commands.command_list import CommandList
from redcrate.app.disk_questions import DiskQuestions
from redcrate.app.findings.search import FindingsSearch
from redcrate.app.first_frame import fit_screen
from redcrate.app.greeting import Greeting
from redcrate.app.message_bar import MessageBar
from redcrate.app.opening import Opener
from redcrate.app.pauses import pause_ms
from redcrate.app.screen import OpenPage, Screen
from redcrate.app.screens import FIRST, SCREENS
from redcrate.app.settings import Settings
from redcrate.app.theme.plain import Label
from redcrate.app.top_bar import TopBar
from redcrate.app.watching import FileWatch
from redcrate.core.edit.choices import own_change, what_moves
from redcrate.core.errors import PageNotWritable, RedCrateError
from redcrate.core.session import Change, Session
from redcrate.core.units import first_of

_NO_PAGE = (
    "Open an HTML page to see how its boxes use the width, or start a new page.\n\nOpen…  (Ctrl+O)"
)
_KEEP_MS = 700  # unsaved steps are kept this long after the last one


class Window(QMainWindow):
    """The main window; at most one page is open in it."""

    opened = pyqtSignal()

    def __init__(self, settings: Settings | None = None) -> None:
        super().__init__()
        self.settings = settings
        self._open: OpenPage | None = None  # its session, and what looks for its findings
        self._screens: dict[str, Screen] = {}  # those that were wanted so far
        self.watch: FileWatch | None = None
        self._greeter = ""  # the screen that the greeting is of
        self._warned = self._told_faults = False
        self.disk: DiskQuestions | None = None  # of the page that is open
        self.setWindowTitle("Red Crate")
        self.setAcceptDrops(True)
        fit_screen(self, settings)
        self._stack = QStackedWidget()
        self._empty = Label(_NO_PAGE)
        self._empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self._stack.addWidget(self._empty)
        self.commands: list[Command] = all_commands(self)
        self.actions_by_name: dict[str, QAction] = {}
        self._make_actions()
        self.top_bar = TopBar(self.commands, lambda: settings.recent if settings is not None else [])
        self.top_bar.pressed.connect(lambda name: self.actions_by_name[name].trigger())
        self.top_bar.page_wanted.connect(self.open_page)
        self.buttons = self.top_bar.buttons
        whole = QWidget()
        box = QVBoxLayout(whole)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addWidget(self.top_bar)
        self.greeting = Greeting(whole)
        box.addWidget(self.greeting)
        box.addWidget(self._stack, 1)
        self.setCentralWidget(whole)
        self.sentence = MessageBar(whole)
        self.sentence.hang_on(self._stack)
        self.command_list = CommandList(self.commands, whole)
        self.command_list.chosen.connect(self._do)
        self.opener = Opener(self)
        self.opener.told.connect(lambda what: self.sentence.tell(what, "Cancel", self._cancel_opening))
        self.opener.ready.connect(self._take)
        self._keep = QTimer(self)
        self._keep.setSingleShot(True)
        self._keep.setInterval(pause_ms(_KEEP_MS))
        self._keep.timeout.connect(self.keep_unsaved)
        self._renew()

    # -- parts

    @property
    def session(self) -> Session | None:
        """The session of the page that is open."""
        return self._open.session if self._open is not None else None

    @property
    def shown(self) -> str:
        """The name of the screen that is shown; "" where none is."""
        now = self._stack.currentWidget()
        return next((name for name, screen in self._screens.items() if screen is now), "")

    def _make_actions(self) -> None:
        for command in self.commands:
            action = QAction(command.words, self)
            if command.keys:
                action.setShortcut(QKeySequence(command.keys))
            action.triggered.connect(lambda _=False, c=command: self._do(c))
            self.addAction(action)
            self.actions_by_name[command.name] = action
        self.undo_action = self.actions_by_name["undo"]
        self.redo_action = self.actions_by_name["redo"]

    def _do(self, command: Command) -> None:
        """Carry out a command, if it makes sense now; what it refuses is said."""
        if not command.enabled():
            return
        try:
            command.run()
        except RedCrateError as problem:
            self.say(problem.sentence, wrong=True)

    def show_recent(self) -> None:
        """The pages that were opened last, below the button."""
        self.top_bar.show_recent()

    # -- opening

    def open_page(self, path: Path) -> None:
        """Open a page off the interface thread; what is open stays until the new one is there.

        A file that a screen takes is shown on it.
        """
        taker = _taker_of(path)
        if taker is not None:
            self.show_screen(taker, path)
            return
        if self._holds_unsaved(lambda: self.open_page(path)):
            return
        self._empty.setText(f"Opening {path.name} …")
        self.opener.open(path, self.settings.recovery if self.settings else None)

    def _cancel_opening(self) -> None:
        self.opener.cancel()
        self._empty.setText(_NO_PAGE)
        self.opened.emit()

    def _take(self, path: Path, outcome: object) -> None:
        self.sentence.close_question()
        self._empty.setText(_NO_PAGE)
        if isinstance(outcome, RedCrateError):
            self.say(outcome.sentence, wrong=True)
            self.opened.emit()
            return
        assert isinstance(outcome, Session)
        self.say("")
        self.show_session(outcome)
        if self.settings is not None:
            self.settings.opened(path)
        self.opened.emit()

    def show_session(self, session: Session) -> None:
        """Show a session on the first screen; the screens of the one before go."""
        for screen in self._screens.values():
            self._stack.removeWidget(screen)
            screen.end()
            screen.deleteLater()
        self._screens = {}
        if self.watch is not None:
            self.watch.deleteLater()
        self.sentence.close_question()
        self._warned = self._told_faults = False
        if self.session is not None:
            self.session.disk.leave()
        if self._open is not None:
            self._open.search.deleteLater()
        self._open = OpenPage(session, FindingsSearch(session, self))
        self.watch = FileWatch(session, self)
        self.watch.changed.connect(self.look_at_disk)
        self.watch.pictures_changed.connect(self._pictures_changed)
        self._greet(session)
        self.show_screen(FIRST)
        session.listen(self._changed)
        self.disk = DiskQuestions(session, self.sentence, self.settings)
        self.disk.offer_unsaved()
        self._tell_faults(session)

    def _tell_faults(self, session: Session) -> None:
        """What of our own files is malformed is said once; it stays in them."""
        faults = (*session.document.settings.faults, *(self.settings.faults if self.settings else ()))
        if faults and not self._told_faults:
            self._told_faults = True
            self.say(faults[0] if len(faults) == 1 else f"{faults[0]} And {len(faults) - 1} more.")

    def _greet(self, session: Session) -> None:
        """What a screen has to say of the page stays in sight while it is open."""
        self.greeting.forget()
        for entry in SCREENS:
            words = entry.greets(session)
            if words:
                self.greeting.show_words(words, entry.words, partial(self.show_screen, entry.name))
                self._greeter = entry.name
                break

    def screen_named(self, name: str) -> Screen | None:
        """The screen of that name, made if need be; None where it needs a page and none is open."""
        entry = next(e for e in SCREENS if e.name == name)
        if entry.needs_page and self.session is None:
            return None
        if name not in self._screens:
            screen = self._screens[name] = entry.make(self._open, self._stack)
            screen.said.connect(lambda sentence, wrong: self.say(sentence, wrong=wrong))
            screen.wanted.connect(self.show_screen)
            screen.held.connect(self.before)
            screen.page_wanted.connect(self._open_instead)
            screen.given_up.connect(self._leave)
            screen.question.connect(self.sentence.ask)
            if self.settings is not None:
                screen.restore(self.settings)
            self._stack.addWidget(screen)
        return self._screens[name]

    def show_screen(self, name: str, what: object = None) -> None:
        """Go to a screen; what: something it is to show."""
        screen, now = self.screen_named(name), self._stack.currentWidget()
        if screen is None:
            return
        if isinstance(now, Screen) and now is not screen:
            now.leave()
        self._stack.setCurrentWidget(screen)
        self.sentence.hang_on(screen.notes_over())
        for entry in SCREENS:
            if entry.in_bar:
                self.buttons[entry.name].setChecked(entry.name == name)
        self.greeting.setVisible(bool(self.greeting.words.text()) and self._greeter != name)
        screen.enter()
        if what is not None:
            screen.show_what(what)
        self._renew()

    def _open_instead(self, path: Path) -> None:
        self._leave()
        self.open_page(path)

    def _leave(self) -> None:
        """The screen that is shown is given up."""
        if self.session is not None:
            self.show_screen(FIRST)
        else:
            self._stack.setCurrentWidget(self._empty)

    def choose_page(self) -> None:
        """Ask for a page and open it."""
        others = (f"{e.words} (*{e.takes})" for e in SCREENS if e.takes)
        kinds = ";;".join(("Pages (*.html *.htm)", *others))
        name, _ = QFileDialog.getOpenFileName(self, "Open a page", "", kinds)
        if name:
            self.open_page(Path(name))

    def dragEnterEvent(self, event: QDragEnterEvent | None) -> None:
        """A page can be dropped onto the window."""
        if event is not None and self._dropped(event) is not None:
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent | None) -> None:
        """Open the page that was dropped."""
        path = self._dropped(event) if event is not None else None
        if path is not None:
            self.open_page(path)

    @staticmethod
    def _dropped(event: QDropEvent) -> Path | None:
        data = event.mimeData()
        for url in data.urls() if data is not None else []:
            path = Path(url.toLocalFile())
            if path.suffix.lower() in (".html", ".htm") or _taker_of(path) is not None:
                return path
        return None

    # -- commands

    def _settle(self) -> None:
        """What is being typed counts."""
        for screen in self._screens.values():
            screen.leave()

    def save(self) -> None:
        """Write what was edited."""
        if self.session is None:
            return
        self._settle()
        if self.disk is not None and self.disk.save() and self.watch is not None:
            self.watch.renew()

    def save_as(self) -> None:
        """Ask for a place and write the page there with its stylesheets and pictures."""
        if self.session is None:
            return
        name, _ = QFileDialog.getSaveFileName(
            self, "Save the page as", self.session.document.path.name, "Pages (*.html *.htm)"
        )
        if name:
            self.save_copy(Path(name))

    def save_copy(self, goal: Path) -> None:
        """Write the page to another place; the sentence tells what was left where it is."""
        if self.disk is not None:
            self._settle()
            self.disk.save_copy(goal)

    def undo(self) -> None:
        """Take the last step back."""
        self._settle()
        sentence = self.session.editor.undo() if self.session else None
        if sentence:
            self.say(f"Undone: {sentence}")

    def redo(self) -> None:
        """Do the undone step again."""
        self._settle()
        sentence = self.session.editor.redo() if self.session else None
        if sentence:
            self.say(f"Redone: {sentence}")

    def say(self, sentence: str, *, wrong: bool = False) -> None:
        """The note over the screen; empty takes it away."""
        self.sentence.say(sentence, wrong=wrong)

    def before(self, shown: bool) -> None:
        """Show the page as it was at the last save, while a key is held; say what differs."""
        session = self.session
        if session is None:
            return
        if not shown:
            session.views.preview(self, None)
            self.say("")
            return
        was = session.editor.page_as_saved()
        moved = (
            what_moves(was, session.views.page)
            if len(was.elements) == len(session.views.page.elements)
            else ()
        )
        session.views.preview(self, was)
        lines = first_of([f"{m.element.label}: {own_change(m)}" for m in moved], "; ")
        self.say(f"As saved. Changes since then: {lines or 'no box'}.")

    # -- files on disk

    def _pictures_changed(self) -> None:
        for screen in self._screens.values():
            screen.forget_pictures()
        if self.session is not None:
            self.session.disk.pictures_changed()

    def look_at_disk(self) -> None:
        """What another program changed: read again, or asked about where it was edited here too."""
        if self.disk is not None and not self.sentence.asks:
            self._settle()
            self.disk.look_at_disk()

    def keep_unsaved(self) -> None:
        """Keep the unsaved steps where a crash cannot reach them."""
        if self.session is None:
            return
        try:
            self.session.disk.keep_unsaved()
        except PageNotWritable as problem:
            self.say(problem.sentence, wrong=True)

    # -- state

    def _changed(self, change: Change) -> None:
        if change not in (Change.HISTORY, Change.PREVIEW):
            self.say("")  # what was said of the state before no longer applies
        if change is Change.HISTORY:
            self._keep.start()
            self._warned = False
        if change in (Change.PAGE, Change.HISTORY, Change.SELECTION):
            self._renew()

    def _renew(self) -> None:
        session = self.session
        self.top_bar.renew(session)
        if session is not None:
            edited = " · edited" if session.document.is_edited else ""
            self.setWindowTitle(f"{session.document.path.name}{edited} – Red Crate")

    def _holds_unsaved(self, then: Callable[[], None]) -> bool:
        """Ask about unsaved work before it goes; whether something was asked."""
        session = self.session
        if session is None or not session.document.is_edited or self._warned:
            return False

        def discard() -> None:
            self._warned = True
            session.disk.forget_unsaved()
            then()

        def save() -> None:
            self.save()
            if not session.document.is_edited:
                then()

        self.sentence.ask(
            "There are unsaved changes.",
            [("Save", save), ("Discard changes", discard), ("Cancel", lambda: None)],
        )
        return True

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """The list of commands does not hang about; the note stays where it was."""
        self.command_list.hide()
        super().resizeEvent(event)
        QTimer.singleShot(0, self.sentence.place)

    def _close_now(self) -> None:
        self.close()

    def closeEvent(self, event: QCloseEvent | None) -> None:
        """Unsaved work is asked about in place."""
        assert event is not None
        self._settle()
        if self._holds_unsaved(self._close_now):
            event.ignore()
            return
        self.opener.cancel()
        if self.settings is not None:
            self.settings.keep_bytes("window", self.saveGeometry().data())
            for screen in self._screens.values():
                screen.keep(self.settings)
        for screen in self._screens.values():
            screen.end()
        if self.session is not None:
            self.session.disk.leave()
        event.accept()


def _taker_of(path: Path) -> str | None:
    """The name of the screen that takes a file of that name."""
    return next((e.name for e in SCREENS if e.takes and path.name.endswith(e.takes)), None)
