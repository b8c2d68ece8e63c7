"""New page: the designer asks for a frame and sees it, laid out by the real engine, before it is made."""

from pathlib import Path

from PyQt6.QtWidgets import (
    QCheckBox,
    QFileDialog,
    QFormLayout,
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.chooser import Chooser, labels_of
from redcrate.app.page_picture import PagePicture
from redcrate.app.screen import Screen
from redcrate.app.theme.heading import heading
from redcrate.app.theme.look import colour, text_px
from redcrate.app.theme.plain import Label
from redcrate.app.value_field import ValueField
from redcrate.core.edit.page_template import (
    Frame,
    MainKind,
    WrapperKind,
    frame_css,
    frame_html,
    frame_problem,
)
from redcrate.core.edit.typed import typed_count, typed_px
from redcrate.core.errors import PageNotWritable, ValueNotUnderstood
from redcrate.core.files.loading import assemble
from redcrate.core.files.resources import Resources
from redcrate.core.files.saving import save_bytes
from redcrate.core.markup import SourceText
from redcrate.core.page import compute_page
from redcrate.core.style.media import Viewport

_SEEN_AT = 1100


class FramePreview(PagePicture):
    """The frame as a page, to scale."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAccessibleName("Preview of the new page")
        self.setMinimumWidth(400)

    def show_frame(self, frame: Frame) -> None:
        """Lay the frame out and show it."""
        css = f"<style>{frame_css(frame)}</style></head>"
        resources = Resources(Path("new page"))
        source = SourceText("new page", frame_html(frame).replace("</head>", css, 1))
        self.show_page(
            compute_page(assemble(source, resources).page, Viewport(_SEEN_AT, 700)), resources
        )


class NewPage(Screen):
    """The wishes on the left, the page on the right."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.fields: dict[str, QLineEdit] = {}
        self.wrapper = Chooser("Wrapper", labels_of(WrapperKind))
        self.wrapper.choose(WrapperKind.LARGEST)
        self.main = Chooser("Main part", labels_of(MainKind))
        self.header = QCheckBox("with a header")
        self.header.setChecked(True)
        self.problem = Label("")
        self.problem.setWordWrap(True)
        self.preview = FramePreview()
        self._build()
        self._renew()

    def enter(self) -> None:
        """Begin with the title."""
        self.fields["title"].setFocus()

    def _build(self) -> None:
        form = QFormLayout()
        form.setContentsMargins(12, 4, 12, 12)
        form.setVerticalSpacing(8)
        start = Frame()

        def field(key: str, name: str, value: str) -> None:
            made = ValueField(value)
            made.setAccessibleName(name)
            made.textChanged.connect(lambda _: self._renew())
            self.fields[key] = made
            form.addRow(name, made)

        field("title", "Title", start.title)
        form.addRow("Wrapper", self.wrapper)
        field("wrapper_width", "Width of the wrapper", "960")
        form.addRow("", self.header)
        field("links", "Links, separated by commas", ", ".join(start.links))
        form.addRow("Main part", self.main)
        field("columns", "Columns", "3")
        field("gap", "Gap, px", "20")
        field("aside_share", "Aside, %", "30")
        field("footer_parts", "Footer parts", "2")
        self.wrapper.taken.connect(self._renew)
        self.main.taken.connect(self._renew)
        self.header.toggled.connect(lambda _: self._renew())
        left = QWidget()
        left.setFixedWidth(text_px(370))
        column = QVBoxLayout(left)
        column.setContentsMargins(0, 0, 0, 12)
        column.addWidget(heading("New page", "from a frame"))
        column.addLayout(form)
        column.addWidget(self.problem)
        buttons = QHBoxLayout()
        buttons.setContentsMargins(12, 0, 12, 0)
        self.make = QPushButton("Create page…")
        self.make.setToolTip("Choose a folder; index.html and style.css are created there")
        self.make.clicked.connect(self.choose)
        back = QPushButton("Back")
        back.clicked.connect(self.given_up)
        buttons.addWidget(self.make)
        buttons.addWidget(back)
        column.addLayout(buttons)
        column.addStretch()
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(left)
        row.addWidget(self.preview, 1)

    def frame(self) -> Frame | None:
        """The wishes; None (with a sentence) while one of them is no number."""
        text = {key: field.text().strip() for key, field in self.fields.items()}
        try:
            found = Frame(
                text["title"] or "New page",
                self.wrapper.chosen,
                typed_px(text["wrapper_width"]),
                self.header.isChecked(),
                tuple(one.strip() for one in text["links"].split(",") if one.strip()),
                self.main.chosen,
                typed_count(text["columns"]),
                typed_px(text["gap"]),
                typed_px(text["aside_share"].removesuffix("%")),
                typed_count(text["footer_parts"]),
            )
        except ValueNotUnderstood:
            self._say("Type a plain number for widths, gaps and counts, such as 960.")
            return None
        problem = frame_problem(found)
        self._say(problem)
        return None if problem else found

    def _say(self, sentence: str) -> None:
        self.problem.setText(sentence)
        self.problem.setStyleSheet(f"color: {colour('problem').name()}; padding: 0 12px;")

    def _renew(self) -> None:
        frame = self.frame()
        self.make.setEnabled(frame is not None)
        aside = self.main.chosen is MainKind.ASIDE
        self.fields["aside_share"].setEnabled(aside)
        self.fields["columns"].setEnabled(not aside)
        if frame is not None:
            self.preview.show_frame(frame)

    def choose(self) -> None:
        """Ask for a folder and write the page there."""
        name = QFileDialog.getExistingDirectory(self, "A folder for the new page")
        if name:
            self.write(Path(name))

    def write(self, folder: Path) -> None:
        """Write index.html and style.css; files that are there are never overwritten."""
        frame = self.frame()
        if frame is None:
            return
        page, sheet = folder / "index.html", folder / "style.css"
        if page.exists() or sheet.exists():
            self._say(f"{folder.name} already has an index.html or style.css: choose another folder.")
            return
        try:
            save_bytes(sheet, frame_css(frame).encode("utf-8"))
            save_bytes(page, frame_html(frame).encode("utf-8"))
        except PageNotWritable as problem:
            self._say(problem.sentence)
            return
        self.page_wanted.emit(page)
