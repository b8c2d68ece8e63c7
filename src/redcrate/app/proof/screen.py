"""The Proof screen: ask the browser that is installed here, and see where its boxes are other ones, causes first."""

import time

from PyQt6.QtCore import QRect, QSignalBlocker, QSize, Qt, QTimer
from PyQt6.QtWidgets import (
    QButtonGroup,
    QCheckBox,
    QHBoxLayout,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QSlider,
    QSplitter,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.proof.asking import Asking
from redcrate.app.proof.preview import Preview
from redcrate.app.proof.proof_sheet import ProofSheet
from redcrate.app.screen import Screen
from redcrate.app.settings import Settings
from redcrate.app.theme.look import colour
from redcrate.app.theme.plain import Label
from redcrate.core.proof.comparing import Comparison, Difference
from redcrate.core.proof.proving import Proof, Wish
from redcrate.core.proof.reporting import agreed, followed, told, why
from redcrate.core.proof.warm import WarmBrowser
from redcrate.core.session import Change, Session
from redcrate.core.session.page_view import ViewAt
from redcrate.core.units import counted, first_of, format_number, format_px

_CAUSE = Qt.ItemDataRole.UserRole
_PADDED = 12  # px: above and below the words of an item, and at each side
_INTRODUCTION = (
    "The proof compares each box of this page with the same box in the installed browser. Boxes that differ are "
    "outlined on the sheet and listed here, causes first.\n\nThe browser is cut off from the network. The scripts of "
    "the page run only if you select “Run page scripts”."
)


class ProofScreen(Screen):
    """Sheet at one width, causes beside it; the widths are those of the page."""

    def __init__(
        self, session: Session, parent: QWidget | None = None, browser: WarmBrowser | None = None
    ) -> None:
        super().__init__(parent)
        self._session = session
        self.proof: Proof | None = None
        self._of: object = None  # the source that the proof is of
        self._at = ""  # when it was
        self.asking = Asking(browser or WarmBrowser(), self)
        self.asking.found.connect(self._found)
        self.asking.failed.connect(self._failed)
        self.asking.went_on.connect(self._went_on)
        self.preview = Preview(session, self)
        self._settings: Settings | None = None
        self.ask = QPushButton("Compare with browser")
        self.ask.setToolTip("Compare every box at all widths of the page")
        self.ask.clicked.connect(self._ask_or_give_up)
        self.see = QPushButton("Open in the browser")
        self.see.setToolTip("Show the page as it is now, saved or not; it is updated after each edit")
        self.see.clicked.connect(self._open_preview)
        self.scripts = QCheckBox("Run page scripts")
        self.scripts.setToolTip(
            "Run the scripts of the page in the browser and compute the document that results"
        )
        self.strength = QSlider(Qt.Orientation.Horizontal)
        self.strength.setRange(0, 100)
        self.strength.setFixedWidth(110)
        self.strength.setEnabled(False)
        self.strength.setAccessibleName("Opacity of the browser's picture, %")
        self.strength.setToolTip("Show the browser's picture of the page over the sheet")
        self.strength.valueChanged.connect(lambda value: self.sheet.set_strength(value / 100))
        self.words = Label("")
        self.words.setAccessibleName("Result of the comparison")
        self.widths: dict[float, QPushButton] = {}
        self._group = QButtonGroup(self)
        self._width_row = QHBoxLayout()
        self.sheet = ProofSheet(session, ViewAt(session.views, session.views.viewport.width), self)
        self.causes = QListWidget()
        self.why = Label("")
        self._build()
        self._lay_widths()
        session.listen(self._changed)
        self._show()

    # -- parts

    def _build(self) -> None:
        bar = QHBoxLayout()
        bar.setContentsMargins(12, 6, 12, 6)
        bar.setSpacing(6)
        for widget in (self.ask, self.scripts, self.see):
            bar.addWidget(widget)
        self.words.setStyleSheet(f"color: {colour('second_ink').name()};")
        bar.addWidget(self.words, 1)
        self._name = Label("Browser's picture")
        bar.addWidget(self._name)
        bar.addWidget(self.strength)
        self._width_row.setContentsMargins(12, 0, 12, 6)
        self._width_row.setSpacing(6)
        self.causes.setAccessibleName("Causes at this width")
        self.causes.setWordWrap(True)
        self.causes.setTextElideMode(Qt.TextElideMode.ElideNone)
        self.causes.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.causes.currentItemChanged.connect(lambda now, _: self._chosen(now))
        self.why.setWordWrap(True)
        self.why.setAlignment(Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft)
        self.why.setContentsMargins(12, 8, 12, 12)
        self.why.setTextInteractionFlags(
            Qt.TextInteractionFlag.TextSelectableByMouse
            | Qt.TextInteractionFlag.TextSelectableByKeyboard
        )
        side = QWidget()
        beside = QVBoxLayout(side)
        beside.setContentsMargins(0, 0, 0, 0)
        beside.setSpacing(0)
        beside.addWidget(self.causes, 3)
        beside.addWidget(self.why, 1)
        split = QSplitter(Qt.Orientation.Horizontal)
        split.setChildrenCollapsible(False)
        split.addWidget(self.sheet)
        split.addWidget(side)
        split.setStretchFactor(0, 1)
        split.setSizes([880, 380])
        split.splitterMoved.connect(lambda *_: self._fit_list())
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(0)
        box.addLayout(bar)
        box.addLayout(self._width_row)
        box.addWidget(split, 1)

    def _lay_widths(self) -> None:
        """One button for each of the page's widths."""
        wanted = self._session.widths
        if tuple(self.widths) == wanted:
            return
        shown = self._shown_width()
        for button in self.widths.values():
            self._group.removeButton(button)
            self._width_row.removeWidget(button)
            button.deleteLater()
        while self._width_row.count():
            self._width_row.takeAt(0)
        self.widths = {width: QPushButton() for width in wanted}
        for width, button in self.widths.items():
            button.setCheckable(True)
            self._group.addButton(button)
            self._width_row.addWidget(button)
            button.clicked.connect(lambda _=False, w=width: self._show_width(w))
        self._width_row.addStretch()
        first = shown if shown in self.widths else wanted[0]
        self.widths[first].setChecked(True)
        self.sheet.set_width(first)

    def _shown_width(self) -> float:
        return next((w for w, b in self.widths.items() if b.isChecked()), 0.0)

    # -- asking

    def _ask_or_give_up(self) -> None:
        if self.asking.is_asking:
            self.asking.give_up()
            self._show("Cancelled.")
            return
        wish = Wish(
            tuple(self.widths),
            self._session.views.viewport.height,
            scripts=self.scripts.isChecked(),
            pictures=True,
        )
        self._of = self._session.views.page.source
        self.asking.ask(self._session.document.trial(), wish)
        self._show("The browser is measuring the page …")

    def _went_on(self, done: int, of: int) -> None:
        if self.asking.is_asking:
            self.words.setText(f"The browser is measuring the page: {done} of {of} widths …")

    def _found(self, proof: Proof) -> None:
        self.proof, self._at = proof, time.strftime("%H:%M")
        self._show()
        if not self.isVisible():
            self.said.emit(self.words.text(), False)

    def _failed(self, sentence: str) -> None:
        self.proof = None
        self._show("")
        self.why.setText(sentence)
        self.why.setStyleSheet(f"color: {colour('problem').name()};")
        if not self.isVisible():
            self.said.emit(sentence, True)

    @property
    def is_stale(self) -> bool:
        """Whether the page is another one than that which was proved."""
        return self._of is not self._session.views.page.source

    # -- what is shown

    def _show(self, words: str | None = None) -> None:
        """Bring all parts up to date; words: of the bar, instead of those on the proof."""
        asking = self.asking.is_asking
        self.ask.setText(
            "Cancel" if asking else "Compare with browser" if self.proof is None else "Check again"
        )
        self.words.setText(self._sentence() if words is None else words)
        known = self.proof is not None and not self.is_stale and not asking
        self.strength.setEnabled(known)
        for width, button in self.widths.items():
            button.setText(f"{format_number(width)} px{self._of_width(width) if known else ''}")
        self._show_width(self._shown_width())

    def _sentence(self) -> str:
        if self.proof is None:
            return ""
        seen = f"Compared with {self.proof.browser} at {self._at}"
        if self.is_stale:
            return f"{seen}; the page has changed since then: check again."
        scripts = ", page scripts run" if self.proof.wish.scripts else ""
        if not self.proof.differs:
            return f"{seen}{scripts}: no differences."
        count = sum(len(c.causes) for c in self.proof.comparisons)
        causes = counted(count, "1 cause of differences", "{count} causes of differences")
        return f"{seen}{scripts}: {causes}."

    def _of_width(self, width: float) -> str:
        found = self._comparison(width)
        if found is None:
            return ""
        if not found.differences and not found.other_tree:
            return ": same"
        return f": {len(found.differences)} of {found.compared} differ"

    def _comparison(self, width: float) -> Comparison | None:
        if self.proof is None or self.is_stale or self.asking.is_asking:
            return None
        return next((c for c in self.proof.comparisons if c.width == width), None)

    def _show_width(self, width: float) -> None:
        """The sheet and the causes at one width."""
        self.sheet.set_width(width)
        found = self._comparison(width)
        picture = b""
        if found is not None and self.proof is not None and self.proof.pictures:
            picture = self.proof.pictures[self.proof.comparisons.index(found)]
        self.sheet.show_comparison(found, picture)
        with QSignalBlocker(self.causes):
            self.causes.clear()
            if found is not None:
                self._list(found)
        self.causes.setVisible(self.causes.count() > 0)
        self.why.setStyleSheet("")
        self.why.setText(self._of_all(found))

    def _list(self, found: Comparison) -> None:
        for cause in found.causes:
            item = QListWidgetItem(f"{cause.element.label}: {told(cause)}{followed(found, cause)}")
            item.setData(_CAUSE, cause)
            self.causes.addItem(item)
        QTimer.singleShot(0, self._fit_list)  # lines are broken when the list has its width

    def _fit_list(self) -> None:
        """Each item is as high as its words take, and the list no higher than its items."""
        viewport, metrics = self.causes.viewport(), self.causes.fontMetrics()
        assert viewport is not None
        room = QRect(0, 0, viewport.width() - 2 * _PADDED, 10_000)
        height = 0
        for number in range(self.causes.count()):
            item = self.causes.item(number)
            if item is not None:
                words = metrics.boundingRect(room, Qt.TextFlag.TextWordWrap, item.text())
                item.setSizeHint(QSize(0, words.height() + _PADDED))
                height += words.height() + _PADDED
        self.causes.setMaximumHeight(height + 8)

    def _of_all(self, found: Comparison | None) -> str:
        if self.asking.is_asking:
            return ""
        if found is None:
            return _INTRODUCTION if self.proof is None else ""
        lines = [f"{format_number(found.width)} px wide: {agreed(found)}"]
        if found.causes:
            lines.append("Choose a cause to see how Red Crate computes the box.")
        else:
            lines.append(
                "Compared are border boxes; not colours, nor what is inside pictures, menus and frames."
            )
            lines.append(self._of_selected(found) or "Click a box to read its numbers.")
        if found.failed:
            lines.append(f"The browser could not load {', '.join(found.failed)}.")
        if self.proof is not None and self.proof.refused:
            hosts = ", ".join(self.proof.refused)
            lines.append(f"Files on {hosts} were not loaded; they are missing in both.")
        return "\n\n".join(lines)

    def _of_selected(self, found: Comparison) -> str:
        """The numbers of the selected box, which are the browser's too; "" where none is selected."""
        element = self._session.views.selected
        box = found.page.box_of(element) if element is not None else None
        if element is None or box is None or any(d.element is element for d in found.differences):
            return ""
        r = box.border_box
        size = f"{format_px(r.width)} × {format_px(r.height)} px"
        return f"{element.label}: {size} at x {format_px(r.x)}, y {format_px(r.y)}; the same in the browser."

    def _chosen(self, item: QListWidgetItem | None) -> None:
        """A cause: its element is selected, and why it is as it is here."""
        cause = None if item is None else item.data(_CAUSE)
        found = self._comparison(self._shown_width())
        if not isinstance(cause, Difference) or found is None:
            return
        elements = self._session.views.page.elements
        if 0 <= cause.element.index < len(elements):
            self._session.views.select(elements[cause.element.index])
            self.sheet.show_element(elements[cause.element.index])
        reasons = "\n".join(why(found.page, cause))
        self.why.setText(f"In Red Crate, {cause.element.label}:\n{reasons}" if reasons else told(cause))

    # -- the session

    def _changed(self, change: Change) -> None:
        if not self.isVisible():
            return  # it is brought up to date when it is entered
        if change is Change.PAGE:
            self._lay_widths()
            self._show()
        elif change is Change.SELECTION:
            found = self._comparison(self._shown_width())
            if found is not None and self.causes.currentItem() is None:
                self.why.setText(self._of_all(found))

    # -- screen

    def enter(self) -> None:
        """What to do first."""
        self._lay_widths()
        self._show()
        self.ask.setFocus()

    def notes_over(self) -> QWidget:
        """The sheet."""
        return self.sheet

    def forget_pictures(self) -> None:
        """Read them again."""
        self.sheet.forget_pictures()

    def show_what(self, what: object) -> None:
        """Ask at once, or show the page in the browser."""
        if what == "ask" and not self.asking.is_asking:
            self._ask_or_give_up()
        elif what == "preview":
            self._open_preview()

    def _open_preview(self) -> None:
        """Show the page in the browser; files outside its folder only where that is wanted, asked once."""
        names = self.preview.outside() if self.preview.shows_outside is None else ()
        if names:
            self.question.emit(
                f"The page uses files outside its folder: {first_of(names)}. Allow the browser to read them?",
                [
                    ("Allow", lambda: self._answered(shown=True)),
                    ("Only the folder of the page", lambda: self._answered(shown=False)),
                    ("Cancel", lambda: None),
                ],
            )
            return
        self._open_in_browser()

    def _answered(self, *, shown: bool) -> None:
        self.preview.shows_outside = shown
        if shown and self._settings is not None:
            self._settings.allow("shows_outside", self._session.document.path)
        self._open_in_browser()

    def restore(self, settings: Settings) -> None:
        """What was answered about this page before."""
        self._settings = settings
        if settings.may("shows_outside", self._session.document.path):
            self.preview.shows_outside = True

    def _open_in_browser(self) -> None:
        if not self.preview.open():
            self.said.emit("No default browser is set on this desktop.", True)

    def end(self) -> None:
        """The browser and the server end."""
        self.asking.end()
        self.preview.end()
