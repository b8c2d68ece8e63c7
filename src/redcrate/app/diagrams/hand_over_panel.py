"""What is handed over, in which form: files, print, clipboard; with progress and a way to give up."""

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QCoreApplication, QThreadPool, pyqtSignal
from PyQt6.QtWidgets import (
    QCheckBox,
    QFileDialog,
    QGridLayout,
    QProgressBar,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.background_task import BackgroundTask, Runner, Step
from redcrate.app.chooser import Chooser
from redcrate.app.diagrams.options_panel import Rows
from redcrate.app.theme.heading import heading
from redcrate.core.diagram.paper import MOST_ON_A_PAGE, PAPERS

_WHAT = {False: "all shown", True: "selected"}  # whether only the selected ones
_AS_LARGE = "size of the drawing"
_EACH = [n for n in (1, 2, 4, 6, 9, 12, 24) if n <= MOST_ON_A_PAGE]
FORMS = {  # by ending
    ".svg": "SVG files",
    ".png": "PNG files",
    ".pdf": "one PDF",
    ".html": "one HTML report",
    ".csv": "boxes as CSV",
    ".json": "boxes as JSON",
}
_FOLDERS = (".svg", ".png")


class HandOverPanel(QWidget):
    """The choices and buttons.

    wanted: files are to be written to a path (a folder for SVG and PNG), in a form (its ending). print_wanted,
    copy_wanted: the other ways. said: a sentence for the note.
    """

    wanted = pyqtSignal(Path, str)
    print_wanted = pyqtSignal()
    copy_wanted = pyqtSignal()
    said = pyqtSignal(str, bool)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.what = Chooser("What to export", _WHAT).fill_column()
        self.form = Chooser("Format", FORMS).fill_column()
        self.fine = Chooser("Resolution, dots per px", {n: f"{n} ×" for n in (1, 2, 3, 4)}).fill_column()
        papers = {name: name.upper() if len(name) == 2 else name.title() for name in PAPERS}
        self.paper = Chooser("Paper", {"": _AS_LARGE, **papers}).fill_column()
        self.each = Chooser("Drawings per page", {n: str(n) for n in _EACH}).fill_column()
        self.force = QCheckBox("Overwrite existing files")
        self.write = QPushButton("Export…")
        self.print = QPushButton("Print…")
        self.copy = QPushButton("Copy")
        self.copy.setToolTip("Copy the focused drawing, as SVG and as a picture")
        self.give_up = QPushButton("Cancel")
        self.progress = QProgressBar()
        self.progress.setTextVisible(False)
        self.progress.setAccessibleName("Progress")
        self.task: BackgroundTask | None = None
        self._rows = Rows()
        self._build()

    def _build(self) -> None:
        rows = self._rows
        rows.put("what", self.what)
        rows.put("form", self.form)
        rows.put("dots", self.fine)
        rows.put("paper", self.paper)
        rows.put("a page", self.each)
        buttons = QGridLayout()
        buttons.setContentsMargins(12, 2, 12, 8)
        buttons.setSpacing(6)
        buttons.addWidget(self.force, 0, 0, 1, 2)
        buttons.addWidget(self.write, 1, 0, 1, 2)
        buttons.addWidget(self.print, 2, 0)
        buttons.addWidget(self.copy, 2, 1)
        buttons.addWidget(self.progress, 3, 0)
        buttons.addWidget(self.give_up, 3, 1)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addWidget(heading("Export"))
        box.addLayout(rows)
        box.addLayout(buttons)
        self.form.currentTextChanged.connect(lambda _: self._fit_rows())
        self.paper.currentTextChanged.connect(lambda _: self._fit_rows())
        self.write.clicked.connect(self._ask_where)
        self.print.clicked.connect(self.print_wanted)
        self.copy.clicked.connect(self.copy_wanted)
        self.give_up.clicked.connect(self._give_up)
        self._fit_rows()
        self._show_work(running=False)

    # -- what was chosen

    @property
    def ending(self) -> str:
        """The ending of what is written, with its dot."""
        return self.form.chosen

    @property
    def paper_name(self) -> str:
        """A name of PAPERS; "" for pages as large as their drawings."""
        return self.paper.chosen

    @property
    def on_a_page(self) -> int:
        """How many drawings stand on a page of paper."""
        return self.each.chosen

    @property
    def scale(self) -> float:
        """Dots of a PNG for one px."""
        return float(self.fine.chosen)

    def show_counts(self, shown: int, selected: int) -> None:
        """How many there are of either."""
        self.what.setItemText(0, f"{_WHAT[False]} ({shown})")
        self.what.setItemText(1, f"{_WHAT[True]} ({selected})")
        self._counts = shown, selected
        self._can()

    @property
    def is_of_selected(self) -> bool:
        """Whether only the selected ones are handed over."""
        return self.what.chosen

    def _can(self) -> None:
        """Nothing can be handed over where there is nothing, or while other work goes on."""
        there = bool(self._counts[0]) and self.task is None
        for button in (self.write, self.print, self.copy):
            button.setEnabled(there)

    _counts = (0, 0)

    def _fit_rows(self) -> None:
        """Only what has a say about this form is shown."""
        ending = self.ending
        self._rows.setRowVisible(self.fine, ending == ".png")
        self._rows.setRowVisible(self.paper, ending == ".pdf")
        self._rows.setRowVisible(self.each, ending == ".pdf" and bool(self.paper_name))
        self._rows.setRowVisible(self.what, ending not in (".csv", ".json"))
        self.force.setVisible(ending in _FOLDERS)

    # -- asking and working

    def _ask_where(self) -> None:
        ending = self.ending
        if ending in _FOLDERS:
            name = QFileDialog.getExistingDirectory(self, "Folder for the drawings")
        else:
            name, _ = QFileDialog.getSaveFileName(
                self, f"Export {FORMS[ending]}", f"boxes{ending}", f"{ending[1:].upper()} (*{ending})"
            )
        if name:
            path = Path(name)
            lacks = ending not in _FOLDERS and path.suffix.lower() != ending
            self.wanted.emit(path.with_name(path.name + ending) if lacks else path, ending)

    def begin(self, work: Callable[[Step], str]) -> None:
        """Do work off the interface thread, one piece at a time."""
        if self.task is not None:
            return
        self.task = BackgroundTask(work)
        self.task.went_on.connect(self._went_on)
        self.task.ended.connect(self._ended)
        self.progress.setRange(0, 0)
        self._show_work(running=True)
        application, pool = QCoreApplication.instance(), QThreadPool.globalInstance()
        assert application is not None and pool is not None
        application.aboutToQuit.connect(self.task.give_up)
        pool.start(Runner(self.task))

    def _went_on(self, done: int, of: int) -> None:
        self.progress.setRange(0, of)
        self.progress.setValue(done)

    def _ended(self, sentence: str, wrong: bool) -> None:
        self.task = None
        self._show_work(running=False)
        self.said.emit(sentence, wrong)

    def _give_up(self) -> None:
        if self.task is not None:
            self.task.give_up()

    def _show_work(self, *, running: bool) -> None:
        self.progress.setVisible(running)
        self.give_up.setVisible(running)
        self._can()
