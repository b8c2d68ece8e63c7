"""What is open: a page's files with their edits, the width that it is seen at, and the selection.

Every command of the program is a function here or below. Views listen; the session holds none.
"""

from collections.abc import Callable
from enum import Enum
from pathlib import Path

from redcrate.core.collecting import collect_seldom
from redcrate.core.document import Assembled, Loaded, Resources, assemble, read_page
from redcrate.core.edit.gives import Gives, Plan, plan_term
from redcrate.core.edit.history import History, Step
from redcrate.core.edit.patch import Patch, apply_patch
from redcrate.core.edit.typed import typed_value
from redcrate.core.errors import EditRefused
from redcrate.core.markup import Element, SourceText
from redcrate.core.page import Page, compute_page
from redcrate.core.saving import save_bytes
from redcrate.core.style.media import Viewport

DEFAULT_WIDTHS = (1100, 820, 390)
DEFAULT_HEIGHT = 800


class Change(Enum):
    """What listeners are told about."""

    PAGE = "page"  # the geometry is a new one
    SELECTION = "selection"
    HISTORY = "history"
    GIVES = "gives"


Listener = Callable[[Change], None]


class Session:
    """One open page."""

    def __init__(self, path: Path, width: float = DEFAULT_WIDTHS[0]) -> None:
        """Open `path`; raises PageNotReadable with a sentence if it cannot be read."""
        collect_seldom()
        self.path = path
        self._loaded: Loaded = read_page(path)
        self._resources = Resources(path)
        self._listeners: list[Listener] = []
        self._edited: dict[str, SourceText] = {}
        self.history = History()
        self.widths: tuple[float, ...] = DEFAULT_WIDTHS
        self.viewport = Viewport(width, DEFAULT_HEIGHT)
        self.gives = Gives.CONTENT
        self._selected: tuple[int, ...] | None = None
        self._assembled: Assembled = self._assemble({}, None)
        self.page: Page = compute_page(self._assembled.page, self.viewport)

    # -- listening

    def listen(self, listener: Listener) -> None:
        """Tell `listener` about every change from now on."""
        self._listeners.append(listener)

    def _tell(self, *changes: Change) -> None:
        for change in changes:
            for listener in tuple(self._listeners):
                listener(change)

    # -- files

    @property
    def resources(self) -> Resources:
        """The files beside the page: pictures and stylesheets."""
        return self._resources

    @property
    def html_name(self) -> str:
        """The name of the HTML file among the page's files."""
        return self._loaded.source.name

    @property
    def files(self) -> dict[str, Loaded]:
        """The page's files by name, as they were read."""
        return {self.html_name: self._loaded, **self._assembled.files}

    def text(self, name: str) -> SourceText:
        """The current text of a file of the page."""
        return self._edited.get(name) or self.files[name].source

    def texts(self) -> dict[str, str]:
        """The current text of all files, by name."""
        return {name: self.text(name).text for name in self.files}

    @property
    def is_edited(self) -> bool:
        """Whether anything is not saved."""
        return any(
            source.encode() != self.files[name].data
            for name, source in self._edited.items()
            if name in self.files
        )

    def _assemble(self, edited: dict[str, SourceText], earlier: Assembled | None) -> Assembled:
        html = edited.get(self._loaded.source.name, self._loaded.source)
        return assemble(html, self._resources, edited.get, earlier)

    def save(self) -> tuple[str, ...]:
        """Write every edited file; returns their names.

        Raises PageNotWritable; what could not be written stays in memory.
        """
        saved: list[str] = []
        for name, source in list(self._edited.items()):
            loaded = self.files[name]
            data = source.encode()
            if data != loaded.data:
                save_bytes(loaded.path, data)
                self._note_saved(name, Loaded(loaded.path, source, data))
                saved.append(name)
        self.history = self.history.saved()
        self._tell(Change.HISTORY)
        return tuple(saved)

    def _note_saved(self, name: str, loaded: Loaded) -> None:
        if name == self.html_name:
            self._loaded = loaded
        else:
            self._resources.keep_sheet(loaded)
            self._assembled.files[name] = loaded

    # -- what is seen

    def set_width(self, width: float) -> None:
        """See the page in a window of another width, in px; at least 1."""
        width = min(max(1.0, width), 20_000.0)
        if width == self.viewport.width:
            return
        self.viewport = Viewport(width, self.viewport.height)
        self.page = compute_page(self._assembled.page, self.viewport, self.page)
        self._tell(Change.PAGE)

    @property
    def selected(self) -> Element | None:
        """The selected element."""
        if self._selected is None:
            return None
        at = self.page.elements[0]
        for index in self._selected:
            if index >= len(at.child_elements):
                return None
            at = at.child_elements[index]
        return at

    def select(self, element: Element | None) -> None:
        """Select an element of the page, or none."""
        path = None if element is None else _path_of(element)
        if path != self._selected:
            self._selected = path
            self._tell(Change.SELECTION)

    def set_gives(self, gives: Gives) -> None:
        """Choose what gives way when padding or border changes."""
        if gives is not self.gives:
            self.gives = gives
            self._tell(Change.GIVES)

    # -- edits

    def plan(self, element: Element, part: str, sides: tuple[str, ...], typed: str) -> Plan:
        """What typing `typed` into a term would write, with what gives way.

        Raises ValueNotUnderstood or EditRefused with a sentence.
        """
        longhand = part if part in ("width", "height") else _any_longhand(part, sides[0])
        value = typed_value(typed, longhand)
        return plan_term(self.page, self.texts(), element, part, sides, value, self.gives)

    def preview(self, patch: Patch) -> Page:
        """The page as it would be after `patch`; nothing changes."""
        changed, _ = apply_patch(patch, self.texts())
        edited = dict(self._edited)
        for name, text in changed.items():
            edited[name] = self.text(name).with_text(text)
        assembled = self._assemble(edited, self._assembled)
        return compute_page(assembled.page, self.viewport, self.page)

    def apply(self, patch: Patch) -> None:
        """Do a patch as one undo step.

        Raises EditRefused if it fits the texts no more.
        """
        changed, backward = apply_patch(patch, self.texts())
        self.history = self.history.did(Step(patch, backward))
        self._replace_texts(changed)

    def undo(self) -> str | None:
        """Take the last step back; returns its sentence, None if there is none."""
        if not self.history.done:
            return None
        step = self.history.done[-1]
        self.history = self.history.undo()
        self._replace_texts(apply_patch(step.backward, self.texts())[0])
        return step.sentence

    def redo(self) -> str | None:
        """Do the step that was undone last once more; returns its sentence."""
        if not self.history.undone:
            return None
        step = self.history.undone[0]
        self.history = self.history.redo()
        self._replace_texts(apply_patch(step.forward, self.texts())[0])
        return step.sentence

    def _replace_texts(self, changed: dict[str, str]) -> None:
        for name, text in changed.items():
            self._edited[name] = self.text(name).with_text(text)
        self._assembled = self._assemble(self._edited, self._assembled)
        self.page = compute_page(self._assembled.page, self.viewport, self.page)
        self._tell(Change.PAGE, Change.HISTORY)


def _path_of(element: Element) -> tuple[int, ...]:
    path: list[int] = []
    at = element
    while at.parent is not None:
        path.append(at.sibling_index)
        at = at.parent
    return tuple(reversed(path))


def _any_longhand(part: str, side: str) -> str:
    if part not in ("margin", "border", "padding"):
        raise EditRefused(f"there is no term “{part}”.")
    return f"border-{side}-width" if part == "border" else f"{part}-{side}"
