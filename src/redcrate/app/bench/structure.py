"""The element itself: tag, id, classes and text, and what can be put before, after, inside and around it."""

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import (
    QGridLayout,
    QHBoxLayout,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from redcrate.app.theme.look import colour, dress, text_px
from redcrate.app.theme.plain import Label, plain_tip
from redcrate.app.value_field import ValueField
from redcrate.core.edit import classes, tree_edits
from redcrate.core.edit.extents import VOID
from redcrate.core.edit.patch import Patch, offset_after
from redcrate.core.edit.tree_edits import Where
from redcrate.core.errors import RedCrateError
from redcrate.core.markup.elements import Element
from redcrate.core.session import Session

_INSERTS = {
    Where.BEFORE: "Insert a new element before the selected one",
    Where.AFTER: "Insert a new element after the selected one",
    Where.INSIDE: "Insert a new element inside the selected one, at the end",
    Where.AROUND: "Insert a new element around the selected elements",
}


class Field(QWidget):
    """A name and a field under it; Enter or leaving the field hands the text over."""

    taken = pyqtSignal(str)

    def __init__(self, name: str, tip: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.field = ValueField()
        self.field.setAccessibleName(name)
        self.field.setToolTip(plain_tip(tip))
        self._shown = ""
        label = Label(name)
        label.setStyleSheet(f"color: {colour('second_ink').name()}; font-size: {text_px(11)}px;")
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.setSpacing(1)
        box.addWidget(label)
        box.addWidget(self.field)
        self.field.editingFinished.connect(self._finished)

    def show_text(self, text: str, *, editable: bool = True) -> None:
        """Show a value."""
        self._shown = text
        self.field.setText(text)
        self.field.setReadOnly(not editable)
        self.field.setCursorPosition(0)

    def _finished(self) -> None:
        if self.field.text() != self._shown and not self.field.isReadOnly():
            self._shown = self.field.text()
            self.taken.emit(self._shown)


class Structure(QWidget):
    """Edits of the selected elements; every one is one undo step."""

    def __init__(self, session: Session, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session = session
        self.tag = Field("tag", "Tag name, such as div or section")
        self.ident = Field("id", "One word, unique in the page; empty: no id")
        self.words = Field("text", "The element's text, where it contains only text")
        self.given = Field(
            "classes", "Class names with spaces between; a new class is added to all selected elements"
        )
        self.new_tag = ValueField("div")
        self.new_tag.setAccessibleName("Tag of the new element")
        self.new_tag.setFixedWidth(text_px(56))
        self.problem = Label("")
        self.problem.setWordWrap(True)
        self.problem.setAccessibleName("What is wrong with the edit")
        self.buttons: dict[str, QPushButton] = {}
        self._build()
        self.tag.taken.connect(
            lambda t: self.do(lambda m, e: tree_edits.renamed(m, e, t.strip().lower()))
        )
        self.ident.taken.connect(lambda t: self.do(lambda m, e: tree_edits.with_id(m, e, t.strip())))
        self.words.taken.connect(lambda t: self.do(lambda m, e: tree_edits.with_text(m, e, t)))
        self.given.taken.connect(self._classes_typed)

    def _build(self) -> None:
        grid = QGridLayout()
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(6)
        grid.addWidget(self.tag, 0, 0)
        grid.addWidget(self.ident, 0, 1)
        grid.addWidget(self.given, 1, 0, 1, 2)
        grid.addWidget(self.words, 2, 0, 1, 2)
        adding = QHBoxLayout()
        adding.setSpacing(4)
        adding.addWidget(self.new_tag)
        for where in Where:  # four buttons in a narrow column
            self._button(adding, where.value, where.label, _INSERTS[where], partial(self.add, where))
        acting = QHBoxLayout()
        acting.setSpacing(4)
        self._button(
            acting,
            "duplicate",
            "Duplicate",
            "Insert a copy after it",
            partial(self.do_all, tree_edits.duplicated),
        )
        self._button(
            acting,
            "delete",
            "Delete",
            "Delete the selected elements",
            partial(self.do_all, tree_edits.deleted),
        )
        self._button(
            acting,
            "style-class",
            "Style → class",
            "Move the style attribute to a class",
            self.style_to_class,
        )
        acting.addStretch()
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 4)
        box.setSpacing(6)
        box.addLayout(grid)
        add = Label("insert an element")
        add.setStyleSheet(f"color: {colour('second_ink').name()}; font-size: {text_px(11)}px;")
        box.addWidget(add)
        box.addLayout(adding)
        box.addLayout(acting)
        box.addWidget(self.problem)

    def _button(
        self, row: QHBoxLayout, name: str, label: str, tip: str, what: Callable[..., None]
    ) -> None:
        button = QPushButton(label)
        button.setToolTip(plain_tip(tip))
        button.setStyleSheet("padding: 4px 5px;")
        button.clicked.connect(lambda _=False: what())
        row.addWidget(button)
        self.buttons[name] = button

    # -- showing

    def renew(self) -> None:
        """Show the selected element."""
        element = self._session.views.selected
        if element is None:
            return
        editable = self._session.views.page.source.markup.start_tag(element) is not None
        self._say("")
        self.tag.show_text(element.tag, editable=editable and element.tag not in ("html", "body"))
        self.ident.show_text(element.id or "", editable=editable)
        self.given.show_text(" ".join(element.classes), editable=editable)
        plain = editable and not element.child_elements and element.tag not in VOID
        self.words.show_text(" ".join(element.text_content().split()) if plain else "", editable=plain)
        self.words.setVisible(plain)
        self.buttons["style-class"].setEnabled(
            bool(self._session.views.page.source.markup.style_attribute(element))
        )

    def _say(self, sentence: str) -> None:
        self.problem.setText(sentence)
        self.problem.setVisible(bool(sentence))
        dress(self.problem, f"color: {colour('problem').name()};")

    # -- doing

    def do(self, edit: Callable[..., Patch], select_at: int | None = None) -> None:
        """An edit of the element that was selected last; a refusal is said below."""
        element = self._session.views.selected
        if element is not None:
            self._apply(lambda: edit(self._session.views.page.source.markup, element), select_at)

    def do_all(self, edit: Callable[..., Patch]) -> None:
        """An edit of all selected elements."""
        chosen = self._session.views.selection
        if chosen:
            self._apply(lambda: edit(self._session.views.page.source.markup, chosen))

    def _apply(self, make: Callable[[], Patch], select_at: int | None = None) -> None:
        try:
            self._session.editor.apply(make(), select_at=select_at)
        except RedCrateError as problem:
            self.renew()
            self._say(problem.sentence)

    def add(self, where: Where) -> None:
        """A new element beside, inside or around the selected ones; it is selected afterwards."""
        tag = self.new_tag.text().strip().lower()
        markup, element = self._session.views.page.source.markup, self._session.views.selected
        if element is None:
            return
        try:
            if where is Where.AROUND:
                patch = tree_edits.wrapped(markup, self._session.views.selection, tag)
            else:
                patch = tree_edits.added(markup, element, where, tag)
            edit = patch.edits[0]
            place = offset_after(patch, "", edit.start) + edit.text.index("<")
            self._session.editor.apply(patch, select_at=place)
        except RedCrateError as problem:
            self.renew()
            self._say(problem.sentence)

    def _classes_typed(self, text: str) -> None:
        """The classes as typed: what is new is given to all selected, what is missing taken off all; one step."""
        element = self._session.views.selected
        if element is None:
            return
        wanted, had = list(dict.fromkeys(text.split())), element.classes
        given, taken = [n for n in wanted if n not in had], [n for n in had if n not in wanted]
        if given or taken:
            self.do_all(
                lambda markup, chosen: classes.classes_changed(markup, chosen, given, taken, wanted)
            )

    def style_to_class(self) -> None:
        """The own style into a class: the last class that the element has, or one named for its tag."""
        element = self._session.views.selected
        if element is not None:
            name = element.classes[-1] if element.classes else self._free_name(element)
            session = self._session
            self._apply(
                lambda: classes.style_into_class(
                    session.views.page, session.document.texts(), element, name
                )
            )

    def _free_name(self, element: Element) -> str:
        taken = {c.name for c in classes.class_list(self._session.views.page)}
        base = element.id or element.tag
        return next(n for n in (base, *(f"{base}-{i}" for i in range(2, 9999))) if n not in taken)
