"""The sweep on the Widths screen: made off the interface thread, shown as it comes, read and stepped through."""

import time
from pathlib import Path

from PyQt6.QtCore import Qt, QThreadPool, QTimer, pyqtSignal
from PyQt6.QtWidgets import (
    QCheckBox,
    QFileDialog,
    QHBoxLayout,
    QListWidget,
    QListWidgetItem,
    QProgressBar,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.background_task import BackgroundTask, Runner, Step
from redcrate.app.chooser import Chooser, labels_of
from redcrate.app.painting.drawing_files import write_png
from redcrate.app.pauses import pause_ms
from redcrate.app.theme.look import colour, text_px
from redcrate.app.theme.plain import Label, plain_tip
from redcrate.app.value_field import ValueField
from redcrate.app.widths.sweep_plot import SweepPlot
from redcrate.core.diagram.codes import LIGHT
from redcrate.core.diagram.svg_end import drawing_svg
from redcrate.core.diagram.sweep_plot import is_problem, sweep_plot
from redcrate.core.edit.typed import typed_px
from redcrate.core.errors import RedCrateError, ValueNotUnderstood
from redcrate.core.files.saving import write_made
from redcrate.core.findings.breaks import BreakSearch, Broken
from redcrate.core.session import Change, Session
from redcrate.core.units import counted
from redcrate.core.widths.standing_at import Quantity
from redcrate.core.widths.sweep import Sweep, Swept
from redcrate.core.widths.sweep_report import sweep_csv

_PATIENCE = 0.25  # s between two pictures of what is known so far
_PARTS = 1000  # of the progress
_AT = Qt.ItemDataRole.UserRole


class _Result:
    """What the work has found so far; written by its thread, read by the window."""

    def __init__(self) -> None:
        self.swept: Swept | None = None
        self.broken: tuple[Broken, ...] = ()


class SweepPanel(QWidget):
    """Plot and events of the selected element, or of the page where nothing is selected.

    wanted: the widths, px, that an event lies between, or one that was picked. said: a sentence, and whether it tells
    of something wrong.
    """

    wanted = pyqtSignal(object)
    said = pyqtSignal(str, bool)

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self._result = _Result()
        self._drawn: Swept | None = None
        self._of: object = None  # the source and the element that were swept last
        self._source: object = None
        self.task: BackgroundTask | None = None
        self.plot: SweepPlot | None = None
        self.quantity = Chooser("Quantity to draw", labels_of(Quantity))
        self.quantity.setSizeAdjustPolicy(Chooser.SizeAdjustPolicy.AdjustToContents)
        self.quantity.taken.connect(self._draw)
        self.first, self.last = ValueField(), ValueField()
        for field, value, what in ((self.first, "320", "from"), (self.last, "1920", "to")):
            field.setText(value)
            field.setFixedWidth(text_px(60))
            field.setAccessibleName(f"Sweep {what}, px")
            field.returnPressed.connect(self.start)
        self.lines = QCheckBox("line counts")
        self.lines.setToolTip("Also compute changes of line counts and heights; slower")
        self.lines.toggled.connect(lambda _: self.start())
        self.every = QPushButton("Every px")
        self.every.setToolTip("Lay out the page at every px; slower, misses nothing")
        self.every.clicked.connect(lambda: self.start(every=True))
        self.give_up = QPushButton("Cancel")
        self.give_up.clicked.connect(self._give_up)
        self.save = QPushButton("Export plot…")
        self.save.clicked.connect(self._ask_where)
        self.progress = QProgressBar()
        self.progress.setRange(0, _PARTS)
        self.progress.setTextVisible(False)
        self.progress.setFixedWidth(90)
        self.progress.setAccessibleName("Progress of the sweep")
        self.words = Label("")
        self.events = QListWidget()
        self.events.setAccessibleName("Events, narrowest width first")
        self.events.setWordWrap(True)
        self.events.setTextElideMode(Qt.TextElideMode.ElideNone)
        self.events.setFixedWidth(360)
        self.events.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.events.currentItemChanged.connect(lambda now, _: self._chosen(now))
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(pause_ms(300))
        self._later.timeout.connect(self.start)
        self._build()
        session.listen(self._changed)

    def _build(self) -> None:
        bar = QHBoxLayout()
        bar.setContentsMargins(12, 4, 12, 4)
        bar.setSpacing(6)
        for widget in (
            self.quantity, Label("viewport from"), self.first, Label("to"), self.last, self.lines,
            self.every, self.save, self.progress, self.give_up,
        ):  # fmt: skip
            bar.addWidget(widget)
        self.words.setStyleSheet(f"color: {colour('second_ink').name()};")
        bar.addWidget(self.words, 1)
        self._body = QHBoxLayout()
        self._body.setContentsMargins(12, 0, 0, 4)
        self._body.setSpacing(8)
        self._body.addWidget(self.events)
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addLayout(bar)
        box.addLayout(self._body, 1)
        self._show_work(running=False)

    # -- when

    def _changed(self, change: Change) -> None:
        changed = change in (Change.PAGE, Change.SELECTION) and self._of != self._about()
        if changed and self.isVisible():
            self._later.start()

    def showEvent(self, event: object) -> None:
        """It is looked at: what has changed meanwhile is swept anew."""
        if self.plot is None:
            self.plot = SweepPlot()
            self.plot.read.connect(self.words.setText)
            self.plot.picked.connect(self._picked)
            self._body.insertWidget(0, self.plot, 1)
        if self._of != self._about():
            self._later.start()

    def hideEvent(self, event: object) -> None:
        """Nobody looks: the work ends."""
        self._give_up()

    def _about(self) -> object:
        element = self._session.views.selected
        return self._session.views.page.source, element.path if element is not None else None

    # -- the work

    def start(self, *, every: bool = False) -> None:
        """Sweep the selected element, or the page."""
        try:
            first, last = (int(typed_px(f.text())) for f in (self.first, self.last))
        except ValueNotUnderstood:
            first, last = 0, 0
        if not 1 <= first < last <= 20_000:
            self.said.emit("Type a smaller and a larger width in px, such as 320 to 1920.", True)
            return
        self._later.stop()
        self._give_up()
        self._of, self._source = self._about(), self._session.views.page.source
        result = self._result = _Result()
        element = self._session.views.selected
        trial, height = self._session.document.trial(), self._session.views.viewport.height
        path = element.path if element is not None else None
        sweep = Sweep.of_trial(trial, height, first, last, path, lines=self.lines.isChecked())
        search = BreakSearch.of_trial(trial, height, first, last)
        task = self.task = BackgroundTask(
            lambda step: _work(sweep, search, result, step, every=every), "this sweep"
        )
        task.went_on.connect(self._went_on)
        task.ended.connect(self._ended)
        self._show_work(running=True)
        pool = QThreadPool.globalInstance()
        assert pool is not None
        pool.start(Runner(task))

    def _give_up(self) -> None:
        if self.task is not None:
            self.task.give_up()
            self.task = None
            self._of = None
            self._show_work(running=False)

    def _went_on(self, done: int, _: int) -> None:
        if self.sender() is self.task:
            self.progress.setValue(done)
            if self._result.swept is not None and self._result.swept is not self._drawn:
                self._renew()

    def _ended(self, words: str, wrong: bool) -> None:
        if self.sender() is not self.task:
            return
        self.task = None
        self._show_work(running=False)
        self._renew()
        if wrong:
            self.said.emit(words, True)
        else:
            self.words.setText(words)
            if self._source is self._session.views.page.source:  # else it was of an earlier text
                self._session.keep_broken(self._result.broken)

    def _show_work(self, *, running: bool) -> None:
        self.progress.setVisible(running)
        self.give_up.setVisible(running)
        self.every.setVisible(not running)
        self.save.setVisible(not running)
        self.save.setEnabled(self._result.swept is not None)

    # -- showing

    @property
    def broken(self) -> tuple[Broken, ...]:
        """What breaks, as far as the selected element has to do with it; all of it where nothing is selected."""
        element = self._session.views.selected
        if element is None:
            return self._result.broken
        about = {element.path, element.parent.path if element.parent is not None else None}
        return tuple(
            b
            for b in self._result.broken
            if any(
                e.path in about or (e.parent is not None and e.parent.path in about)
                for e in b.finding.elements
            )
        )

    def _renew(self) -> None:
        """Show what is known."""
        swept = self._drawn = self._result.swept
        if swept is None:
            return
        if list(swept.pieces) != self.quantity.values:
            self.quantity.offer(labels_of(swept.pieces))
        self._list(swept)
        self._draw()

    def _list(self, swept: Swept) -> None:
        chosen = self.chosen_width
        self.events.blockSignals(True)
        self.events.clear()
        rows: list[tuple[int, str, bool]] = [(e.width, e.sentence, is_problem(e)) for e in swept.events]
        for one in self.broken:
            for r in one.ranges:
                rows.append((r.most + 1, f"▲ {r.least} – {r.most} px: {one.finding.sentence}", True))
        for width, sentence, problem in sorted(rows, key=lambda r: r[0]):
            item = QListWidgetItem(sentence)
            item.setData(_AT, width)
            item.setToolTip(plain_tip(sentence))  # the list may be narrower than it
            if problem:
                item.setForeground(colour("problem"))
            self.events.addItem(item)
        at = [n for n in range(self.events.count()) if self._width_of(self.events.item(n)) == chosen]
        self.events.setCurrentRow(at[0] if at else -1)
        self.events.blockSignals(False)

    @staticmethod
    def _width_of(item: QListWidgetItem | None) -> int | None:
        found = item.data(_AT) if item is not None else None
        return found if isinstance(found, int) else None

    @property
    def chosen_width(self) -> int | None:
        """The width of the event that is chosen, px."""
        return self._width_of(self.events.currentItem())

    def _draw(self) -> None:
        swept = self._drawn
        if swept is None or self.plot is None or not swept.pieces:
            return
        self.plot.show_swept(swept, self._quantity(swept), self.broken, self.chosen_width)

    def _quantity(self, swept: Swept) -> Quantity:
        chosen = self.quantity.chosen
        return chosen if chosen in swept.pieces else next(iter(swept.pieces))

    def _chosen(self, item: QListWidgetItem | None) -> None:
        """Both sides of an event are looked at."""
        width = self._width_of(item)
        self._draw()
        if width is not None:
            self.wanted.emit((width, width - 1))

    def _picked(self, width: int) -> None:
        """A click near an event chooses it; elsewhere the page is looked at in that window."""
        near = [
            n
            for n in range(self.events.count())
            if abs((self._width_of(self.events.item(n)) or -100) - width) <= 6
        ]
        if near:
            self.events.setCurrentRow(near[0])
        else:
            self.wanted.emit((width,))

    # -- handing over

    def _ask_where(self) -> None:
        name, _ = QFileDialog.getSaveFileName(
            self, "Export plot", "sweep.svg", "SVG, PNG or CSV (*.svg *.png *.csv)"
        )
        if name:
            self.save_as(Path(name))

    def save_as(self, path: Path) -> None:
        """Write what is drawn: SVG, PNG or CSV by the name's ending."""
        swept = self._drawn
        if swept is None:
            return
        try:
            ending = path.suffix.lower()
            if ending == ".csv":
                write_made(path, sweep_csv(swept))
            else:
                name = self._session.document.path.name
                drawing = sweep_plot(swept, self._quantity(swept), name)
                if ending == ".png":
                    write_png(drawing, path, LIGHT, 2.0)
                else:
                    write_made(path, drawing_svg(drawing))
        except RedCrateError as problem:
            self.said.emit(problem.sentence, True)
            return
        self.said.emit(f"Exported {path.name}.", False)


def _work(sweep: Sweep, search: BreakSearch, result: _Result, step: Step, *, every: bool) -> str:
    """The sweep, every px of it where that is wanted, then what breaks."""
    shown = 0.0

    def note(done: float, share: float, before: float) -> None:
        nonlocal shown
        if time.monotonic() - shown > _PATIENCE:
            result.swept = sweep.swept
            shown = time.monotonic()
        step(round((before + done * share) * _PARTS), _PARTS)

    for done in sweep.run():
        note(done, 0.4, 0.0)
    for done in sweep.look_at_every_px() if every else ():
        note(done, 0.2, 0.4)
    result.swept = sweep.swept
    whole = sweep.swept if sweep.is_of_page else None
    for done in search.run(whole):
        step(round((0.6 + 0.4 * done) * _PARTS), _PARTS)
    result.broken = search.broken
    count = len(sweep.swept.events)
    events = counted(count, "1 event", "{count} events")
    return f"{events}; laid out at {sweep.looked_at} widths."
