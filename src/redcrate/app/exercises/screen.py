"""The Exercises screen: choose a task, work on its page with all of Red Crate, and have the boxes checked."""

from pathlib import Path

from PyQt6.QtCore import QSignalBlocker, Qt
from PyQt6.QtWidgets import (
    QFileDialog,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QSplitter,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.flowing import Flowing
from redcrate.app.page_picture import PagePicture
from redcrate.app.painting.big_view import BigView
from redcrate.app.progress import work_folder
from redcrate.app.screen import Screen
from redcrate.app.theme.heading import heading
from redcrate.app.theme.look import colour, palette, text_px
from redcrate.app.theme.plain import Label
from redcrate.core.diagram.drawing import Drawing
from redcrate.core.errors import RedCrateError
from redcrate.core.exercises.exercise import ENDING
from redcrate.core.exercises.marking import Marked, mark
from redcrate.core.exercises.shelf import Shelf, Shelved
from redcrate.core.handout.task_drawing import solved_page, task_drawing
from redcrate.core.page import Page
from redcrate.core.session import Change, Session
from redcrate.exercise_pages import exercises_folder

_NAME = Qt.ItemDataRole.UserRole


def shelf() -> Shelf:
    """The exercises that come with Red Crate, and this user's copies of them."""
    return Shelf(exercises_folder(), work_folder())


def task_of(session: Session) -> str:
    """What is to be done on a page that is a copy of an exercise's; "" for other pages."""
    found = shelf().of_page(session.document.path)
    return "" if found is None else found.exercise.task


class ExercisesScreen(Screen):
    """Sets and their exercises at the left; task, page and what was checked at the right."""

    def __init__(self, session: Session | None, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self._shelf = shelf()
        self.all = {s.name: s for s in self._shelf.exercises()}
        self.marked: Marked | None = None
        self._hints = 0  # so many are shown
        self.list = QListWidget()
        self.title = Label("")
        self.task = Label("")
        self.words = Label("")
        self.picture = PagePicture()
        self.picture.setAccessibleName("Page of the exercise")
        self.begin = QPushButton("Start")
        self.check = QPushButton("Check")
        self.hint = QPushButton("Next hint")
        self.again = QPushButton("Reset my copy")
        self.next = QPushButton("Next exercise")
        self.solution = QPushButton("Show solution")
        self.drawn = BigView()
        self.record = Label("")
        self.open = QPushButton("Open an exercise…")
        self.make = QPushButton("Create an exercise from this page")
        self._build()
        self._fill()
        if session is not None:
            session.listen(self._changed)

    # -- parts

    def _build(self) -> None:
        self.list.setAccessibleName("Exercises by set")
        self.list.currentItemChanged.connect(lambda *_: self._chosen())
        self.title.setStyleSheet(f"font-weight: bold; font-size: {text_px(16)}px;")
        for label in (self.task, self.words):
            label.setWordWrap(True)
            label.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self.task.setStyleSheet(f"font-size: {text_px(14)}px;")
        self.words.setAccessibleName("Result of the check")
        self.begin.setToolTip("Open your copy of its page on the bench")
        self.check.setToolTip("Check the boxes of your copy, saved or not, against the task")
        self.again.setToolTip("Replace your copy with the original page; your changes to it are lost")
        self.begin.clicked.connect(lambda: self._open(again=False))
        self.again.clicked.connect(lambda: self._open(again=True))
        self.check.clicked.connect(self._check)
        self.hint.clicked.connect(self._one_more)
        self.next.clicked.connect(self._go_on)
        self.solution.setToolTip("One solution, drawn; every solution with these boxes counts")
        self.solution.clicked.connect(self._show_solution)
        buttons = Flowing()
        buttons.setSpacing(6)
        for button in (self.begin, self.check, self.hint, self.solution, self.next, self.again):
            buttons.addWidget(button)
        side = QWidget()
        column = QVBoxLayout(side)
        column.setContentsMargins(18, 14, 18, 14)
        column.setSpacing(10)
        for part in (self.title, self.task):
            column.addWidget(part)
        column.addLayout(buttons)
        column.addWidget(self.words)
        column.addWidget(self.picture)
        self.now = Label("The boxes of the task as they are now")
        self.now.setStyleSheet(f"color: {colour('second_ink').name()};")
        column.addWidget(self.now)
        column.addWidget(self.drawn, 1)
        left = self._left()
        split = QSplitter(Qt.Orientation.Horizontal)
        split.setChildrenCollapsible(False)
        split.addWidget(left)
        split.addWidget(side)
        split.setStretchFactor(1, 1)
        split.setSizes([330, 950])
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.addWidget(split)

    def _left(self) -> QWidget:
        """The list, what was predicted so far, and where other exercises come from."""
        left = QWidget()
        lists = QVBoxLayout(left)
        lists.setContentsMargins(0, 0, 0, 10)
        lists.setSpacing(6)
        self._head = heading("Exercises", "")
        lists.addWidget(self._head)
        lists.addWidget(self.list, 1)
        self.record.setWordWrap(True)
        self.record.setContentsMargins(12, 0, 12, 0)
        self.record.setAccessibleName("Predictions so far")
        lists.addWidget(self.record)
        self.open.setToolTip("Open an exercise from a folder, with its page")
        self.open.clicked.connect(self._choose_file)
        self.make.setToolTip("You set its conditions by clicking boxes")
        self.make.setEnabled(self._session is not None)
        self.make.clicked.connect(lambda: self.wanted.emit("make-exercise", None))
        row = Flowing()
        row.setContentsMargins(12, 0, 12, 0)
        row.setSpacing(6)
        row.addWidget(self.open)
        row.addWidget(self.make)
        lists.addLayout(row)
        return left

    def _fill(self) -> None:
        """The list, with what is done; the exercise of the page that is open is chosen, else the first that is not done."""
        done = self._shelf.done()
        now = self._name() or self._first(done)
        with QSignalBlocker(self.list):
            self.list.clear()
            group = ""
            for one in self.all.values():
                if one.exercise.group != group:
                    group = one.exercise.group
                    self._add_group(group, done)
                item = QListWidgetItem(f"{'✓' if one.name in done else '○'}  {one.exercise.title}")
                item.setData(_NAME, one.name)
                self.list.addItem(item)
                if one.name == now:
                    self.list.setCurrentItem(item)
        self._chosen()

    def _add_group(self, group: str, done: frozenset[str]) -> None:
        of_it = [s.name for s in self.all.values() if s.exercise.group == group]
        item = QListWidgetItem(f"{group}   {len(done.intersection(of_it))} of {len(of_it)}")
        item.setFlags(Qt.ItemFlag.NoItemFlags)
        item.setForeground(colour("second_ink"))
        self.list.addItem(item)

    def _first(self, done: frozenset[str]) -> str:
        open_now = None if self._session is None else self._shelf.of_page(self._session.document.path)
        if open_now is not None:
            return open_now.name
        return next((n for n in self.all if n not in done), next(iter(self.all), ""))

    def _name(self) -> str:
        item = self.list.currentItem()
        return "" if item is None else str(item.data(_NAME) or "")

    @property
    def chosen(self) -> Shelved | None:
        """The exercise that is chosen in the list."""
        return self.all.get(self._name())

    @property
    def is_open(self) -> bool:
        """Whether the page that is open is the learner's copy of it."""
        one = self.chosen
        return (
            one is not None
            and self._session is not None
            and self._session.document.path == self._shelf.copy_of(one)
        )

    # -- what is shown

    def _chosen(self) -> None:
        """Another exercise: nothing of it is checked yet."""
        self.marked, self._hints = None, 0
        one = self.chosen
        self.title.setText("" if one is None else one.exercise.title)
        self.task.setText("" if one is None else one.exercise.task)
        self._show()

    def _show(self) -> None:
        one, marked = self.chosen, self.marked
        begun = one is not None and self._shelf.copy_of(one).is_file()
        passed = marked is not None and marked.passed
        self.begin.setText("To the bench" if self.is_open else "Continue" if begun else "Start")
        self.check.setEnabled(self.is_open)
        self.again.setVisible(begun)
        self.next.setVisible(passed)
        left = 0 if marked is None else len(marked.hints) - self._hints
        self.hint.setVisible(left > 0)
        stuck = marked is not None and not passed and left <= 0
        self.solution.setVisible(stuck and one is not None and bool(one.exercise.solution))
        self.words.setText(self._said())
        if one is not None:
            self._show_page(one)

    def _said(self) -> str:
        if self.marked is None:
            return (
                ""
                if self.is_open
                else "Start opens your copy of this page on the bench. Come back here to check it."
            )
        if self.marked.passed:
            return "All conditions are met:\n" + "\n".join(f"✓  {v.said}" for v in self.marked.verdicts)
        held = f"{self.marked.held} of {len(self.marked.verdicts)} conditions are met."
        return "\n".join([held, *(f"→  {h}" for h in self.marked.hints[: self._hints])])

    def _show_page(self, one: Shelved) -> None:
        """The page as it is, and below it, with their numbers, the boxes that the task asks about."""
        try:
            if self.is_open and self._session is not None:
                page, resources = self._page(one), self._session.document.resources
                self.picture.show_page(page, resources)
            else:
                self.picture.show_file(one.exercise.page, one.exercise.window)
        except RedCrateError as problem:
            self.words.setText(problem.sentence)
            return
        if self.marked is None or not self.marked.passed:
            self._draw(one, self.picture.page, now=True)

    def _page(self, one: Shelved) -> Page:
        assert self._session is not None
        return self._session.views.page_at(one.exercise.window)

    # -- working

    def _open(self, *, again: bool) -> None:
        one = self.chosen
        if one is None:
            return
        if self.is_open and not again:
            self.wanted.emit("bench", None)
            return
        try:
            self.page_wanted.emit(self._shelf.begin(one, again=again))
        except RedCrateError as problem:
            self.said.emit(problem.sentence, True)

    def _check(self) -> None:
        one = self.chosen
        if one is None or self._session is None or not self.is_open:
            return
        self.marked, self._hints = mark(one.exercise, self._page(one), self._session.document.path), 1
        if self.marked.passed:
            try:
                self._shelf.keep_done(one)
            except RedCrateError as problem:
                self.said.emit(problem.sentence, True)
            marked = self.marked
            self._fill()
            self.marked = marked
            self._draw(one, self._page(one))
        self._show()

    def _show_solution(self) -> None:
        """The exercise's own, for those who have had all hints."""
        one = self.chosen
        if one is None:
            return
        try:
            self._draw(one, solved_page(one.exercise))
            self.words.setText(
                f"{self._said()}\nOne solution, drawn; every solution with these boxes counts."
            )
        except RedCrateError as problem:
            self.said.emit(problem.sentence, True)

    def _draw(self, one: Shelved, page: Page | None, *, now: bool = False) -> None:
        """now: as the page is; else a solution."""
        try:
            self._put_drawing(None if page is None else task_drawing(one.exercise, page), now=now)
        except RedCrateError as problem:
            self.said.emit(problem.sentence, True)

    def _put_drawing(self, drawing: Drawing | None, *, now: bool) -> None:
        """A solution has the whole room: its numbers are to be read."""
        self.drawn.setVisible(drawing is not None)
        self.now.setVisible(drawing is not None and now)
        self.picture.setVisible(now or drawing is None)
        if drawing is not None:
            self.drawn.show_drawing(drawing, palette())

    def _choose_file(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "Open an exercise", "", f"Exercises (*{ENDING})")
        if name:
            self.take(Path(name))

    def show_what(self, what: object) -> None:
        """The file of an exercise that was opened."""
        assert isinstance(what, Path)
        self.take(what)

    def take(self, file: Path) -> None:
        """Take an exercise from elsewhere into the list, and choose it."""
        try:
            one = self._shelf.add(file)
        except RedCrateError as problem:
            self.said.emit(problem.sentence, True)
            return
        self.all = {s.name: s for s in self._shelf.exercises()}
        self._fill()
        self._choose(one.name)

    def _one_more(self) -> None:
        self._hints += 1
        self._show()

    def _go_on(self) -> None:
        names = list(self.all)
        at = names.index(self._name()) + 1 if self._name() in names else 0
        self._choose(names[at % len(names)])

    def _choose(self, name: str) -> None:
        for row in range(self.list.count()):
            item = self.list.item(row)
            if item is not None and item.data(_NAME) == name:
                self.list.setCurrentItem(item)

    def _changed(self, change: Change) -> None:
        if change is Change.PAGE and self.isVisible():
            self._chosen()

    def enter(self) -> None:
        """The page may be another one than when it was last looked at."""
        self._chosen()
        said = self._shelf.progress.predictions().sentence
        self.record.setText(f"Predictions: {said}." if said else "")
        self.record.setVisible(bool(said))
        self.list.setFocus()
