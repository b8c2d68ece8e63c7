"""What is open: a page's files with their edits, the width that it is seen at, and the selection.

Every command of the program is a function here or below. Views listen; the session holds none.
"""

from collections.abc import Callable, Sequence
from enum import Enum
from pathlib import Path

from redcrate.core.collecting import collect_seldom
from redcrate.core.edit.gives import Gives, Plan, plan_term
from redcrate.core.edit.history import History, Step
from redcrate.core.edit.patch import Patch, apply_patch, offset_after, patch_between
from redcrate.core.edit.targets import WriteTarget, write_targets
from redcrate.core.edit.typed import typed_value
from redcrate.core.errors import EditRefused
from redcrate.core.files.copying import CopyReport, copy_page
from redcrate.core.files.loading import Assembled, Loaded, Resources, assemble, read_page
from redcrate.core.files.on_disk import DiskChange, disk_changes, reread
from redcrate.core.files.recovery import RecoveryFolder, UnsavedWork
from redcrate.core.files.saving import save_bytes
from redcrate.core.files.settings import read_settings
from redcrate.core.markup import Element, Markup, SourceText
from redcrate.core.page import Page, compute_page
from redcrate.core.style.media import Viewport

DEFAULT_WIDTHS = (1100, 820, 390)
DEFAULT_HEIGHT = 800


class Change(Enum):
    """What listeners are told about."""

    PAGE = "page"  # the geometry is a new one
    SELECTION = "selection"
    HISTORY = "history"
    GIVES = "gives"  # what gives way, or where edits are written to


Listener = Callable[[Change], None]


class Session:
    """One open page."""

    def __init__(
        self, path: Path, width: float = DEFAULT_WIDTHS[0], recovery: RecoveryFolder | None = None
    ) -> None:
        """Open `path`; raises PageNotReadable with a sentence if it cannot be read.

        recovery: where unsaved steps are kept; None: nowhere.
        """
        collect_seldom()
        self.path = path
        self._loaded: Loaded = read_page(path)
        self._resources = Resources(path)
        self._recovery = recovery
        self._listeners: list[Listener] = []
        self._edited: dict[str, SourceText] = {}
        self.history = History()
        self.widths: tuple[float, ...] = read_settings(path).widths or DEFAULT_WIDTHS
        self.viewport = Viewport(width, DEFAULT_HEIGHT)
        self.gives = Gives.CONTENT
        self.writes_to = ""  # the key of a chosen target; "": the default one
        self._selection: tuple[tuple[int, ...], ...] = ()
        self._assembled: Assembled = self._assemble({}, None)
        self.page: Page = compute_page(self._assembled.page, self.viewport)

    # -- listening

    def listen(self, listener: Listener) -> None:
        """Tell `listener` about every change from now on."""
        self._listeners.append(listener)

    def unlisten(self, listener: Listener) -> None:
        """Tell `listener` no more."""
        self._listeners.remove(listener)

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
    def edited_files(self) -> tuple[str, ...]:
        """The names of the files whose text is not the one on disk."""
        files = self.files
        return tuple(n for n, s in self._edited.items() if n in files and s.encode() != files[n].data)

    @property
    def is_edited(self) -> bool:
        """Whether anything is not saved."""
        return bool(self.edited_files)

    def _assemble(self, edited: dict[str, SourceText], earlier: Assembled | None) -> Assembled:
        html = edited.get(self._loaded.source.name, self._loaded.source)
        return assemble(html, self._resources, edited.get, earlier)

    def save(self) -> tuple[str, ...]:
        """Write every edited file; returns their names.

        Raises PageNotWritable; what could not be written stays in memory.
        """
        saved: list[str] = []
        for name in self.edited_files:
            loaded, source = self.files[name], self._edited[name]
            data = source.encode()
            save_bytes(loaded.path, data)
            self._note_on_disk(name, Loaded(loaded.path, source, data))
            saved.append(name)
        self.history = self.history.saved()
        if self._recovery is not None:
            self._recovery.forget(self.path)
        self._tell(Change.HISTORY)
        return tuple(saved)

    def save_as(self, goal: Path) -> CopyReport:
        """Write the page with its stylesheets and pictures to another place; this one stays open."""
        texts = {name: self.text(name).encode() for name in self.files}
        return copy_page(self.path, goal, self.page.source.markup, self._resources, texts)

    def _note_on_disk(self, name: str, loaded: Loaded) -> None:
        if name == self.html_name:
            self._loaded = loaded
        else:
            self._resources.keep_sheet(loaded)
            self._assembled.files[name] = loaded

    # -- files changed by other programs

    def disk_changes(self) -> tuple[DiskChange, ...]:
        """The files that another program has changed since they were read or saved."""
        return disk_changes(self.files, {n: self.text(n) for n in self.edited_files})

    def take_theirs(self, name: str) -> None:
        """Read a file again; edits of it are dropped, and so is the history that no longer fits.

        Raises PageNotReadable if it is gone.
        """
        loaded = reread(self.files[name])
        computed = self._computed({**self._edited, name: loaded.source})
        others = [n for n in self.edited_files if n != name]
        edited = {n: text for n, text in self._edited.items() if n != name}
        history = self.history
        if any(name in s.forward.files for s in (*history.done, *history.undone)):
            history = History(saved_at=-1 if others else 0)
        self._commit(computed, edited, history, on_disk=loaded)

    def keep_mine(self, name: str) -> None:
        """Go on with the text that is open; the next save writes it over theirs."""
        loaded = reread(self.files[name])
        edited = {**self._edited, name: self.text(name)}
        self._commit(self._computed(edited), edited, self.history.never_saved(), on_disk=loaded)

    def keep_text(self, name: str) -> None:
        """Go on with a file that is gone from disk: the next save writes it again."""
        loaded = self.files[name]
        self._edited[name] = self.text(name)
        self._note_on_disk(name, Loaded(loaded.path, loaded.source, b""))
        self.history = self.history.never_saved()
        self._tell(Change.HISTORY)

    def take_both(self, change: DiskChange) -> None:
        """Go on with both changes of a file in one; one undo step takes theirs out again."""
        if change.both is None:
            raise EditRefused("both have changed the same lines.", where=change.name)
        before = self.texts()
        mine = self.text(change.name)
        self._note_on_disk(change.name, reread(self.files[change.name]))
        self._edited[change.name] = mine
        sentence = f"changes of another program taken into {change.name}"
        self.apply(patch_between(before, {**before, change.name: change.both}, sentence))

    def pictures_changed(self) -> None:
        """Look at all pictures again: one has come, gone or changed."""
        self._resources.forget_images()
        self._commit(self._computed(self._edited), self._edited, self.history)

    # -- unsaved work

    def keep_unsaved(self) -> None:
        """Keep the unsaved steps where a crash cannot reach them. Raises PageNotWritable."""
        if self._recovery is not None:
            on_disk = {name: loaded.data for name, loaded in self.files.items()}
            self._recovery.keep(self.path, on_disk, self._unsaved_steps())

    def _unsaved_steps(self) -> tuple[Patch, ...]:
        if not self.is_edited:
            return ()
        steps = self.history.unsaved
        if steps is not None:
            return steps
        saved = {name: loaded.source.text for name, loaded in self.files.items()}
        return (patch_between(saved, self.texts(), "earlier unsaved work"),)

    def unsaved_work(self) -> UnsavedWork | None:
        """What an earlier run of the program never saved."""
        if self._recovery is None:
            return None
        return self._recovery.find(self.path, {n: loaded.data for n, loaded in self.files.items()})

    def take_back(self, work: UnsavedWork) -> None:
        """Do the steps of unsaved work again. Raises EditRefused if they fit the files no more."""
        if not work.fits:
            raise EditRefused("the files were changed since: the unsaved steps fit them no more.")
        for step in work.steps:
            self.apply(step)

    def drop_unsaved(self) -> None:
        """Forget the unsaved work of an earlier run."""
        if self._recovery is not None:
            self._recovery.forget(self.path)

    # -- what is seen

    def set_width(self, width: float) -> None:
        """See the page in a window of another width, in px; at least 1."""
        width = min(max(1.0, width), 20_000.0)
        if width == self.viewport.width:
            return
        viewport = Viewport(width, self.viewport.height)
        page = compute_page(self._assembled.page, viewport, self.page)
        self.viewport, self.page = viewport, page
        self._tell(Change.PAGE)

    @property
    def selected(self) -> Element | None:
        """The element that was selected last."""
        return self._at(self._selection[-1]) if self._selection else None

    @property
    def selection(self) -> tuple[Element, ...]:
        """All selected elements; the last one is the one that panels speak of."""
        found = (self._at(path) for path in self._selection)
        return tuple(e for e in found if e is not None)

    def _at(self, path: tuple[int, ...]) -> Element | None:
        at = self.page.elements[0]
        for index in path:
            if index >= len(at.child_elements):
                return None
            at = at.child_elements[index]
        return at

    def select(self, *elements: Element | None) -> None:
        """Select elements of the page, or none; the last one is the one that panels speak of."""
        paths = tuple(e.path for e in elements if e is not None)
        if paths != self._selection:
            self._selection = paths
            self.writes_to = ""
            self._tell(Change.SELECTION)

    def set_gives(self, gives: Gives) -> None:
        """Choose what gives way when padding or border changes."""
        if gives is not self.gives:
            self.gives = gives
            self._tell(Change.GIVES)

    def set_writes_to(self, key: str) -> None:
        """Choose where the next edits of the selected element are written; "": the default place."""
        if key != self.writes_to:
            self.writes_to = key
            self._tell(Change.GIVES)

    def write_targets(self, longhand: str) -> tuple[WriteTarget, ...]:
        """Where a value of the selected element could be written."""
        element = self.selected
        return write_targets(self.page, element, longhand) if element is not None else ()

    # -- edits

    def plan(self, element: Element, part: str, sides: tuple[str, ...], typed: str) -> Plan:
        """What typing `typed` into a term would write, with what gives way.

        Raises ValueNotUnderstood or EditRefused with a sentence.
        """
        longhand = part if part in ("width", "height") else _any_longhand(part, sides[0])
        value = typed_value(typed, longhand)
        return plan_term(
            self.page, self.texts(), element, part, sides, value, self.gives, self.writes_to
        )

    def preview(self, patch: Patch) -> Page:
        """The page as it would be after `patch`; nothing changes."""
        return self.tried(patch)[0]

    def tried(self, patch: Patch) -> tuple[Page, dict[str, str]]:
        """The page and the texts as they would be after `patch`; nothing changes."""
        texts = self.texts()
        changed, _ = apply_patch(patch, texts)
        edited = dict(self._edited)
        for name, text in changed.items():
            edited[name] = self.text(name).with_text(text)
        assembled = self._assemble(edited, self._assembled)
        return compute_page(assembled.page, self.viewport, self.page), {**texts, **changed}

    def page_as_of(self, step: int) -> Page:
        """The page as it was (or will be again) when `step` steps are done, at the width seen now."""
        texts = self.texts()
        done = len(self.history.done)
        for one in reversed(self.history.done[step:]):
            texts.update(apply_patch(one.backward, texts)[0])
        for one in self.history.undone[: max(0, step - done)]:
            texts.update(apply_patch(one.forward, texts)[0])
        edited = {n: self.text(n).with_text(t) for n, t in texts.items()}
        return compute_page(self._assemble(edited, self._assembled).page, self.viewport, self.page)

    def page_as_saved(self) -> Page:
        """The page as the files on disk have it, at the width that is seen now."""
        return compute_page(self._assemble({}, None).page, self.viewport)

    def apply(self, patch: Patch, *, merges: str = "", select_at: int | None = None) -> None:
        """Do a patch as one undo step.

        merges: steps in a row of one such name are one step. select_at: the offset in the HTML file of
        the start tag that is selected afterwards. Raises EditRefused if it fits the texts no more, and
        LayoutBug; then text, history and page are as before.
        """
        before = self.texts()
        changed, backward = apply_patch(patch, before)
        if self.history.merges_with(merges):
            history = self._merged_step(patch, before, changed, merges)
        else:
            history = self.history.did(Step(patch, backward, merges))
        self._replace_texts(changed, patch, history, select_at)

    def _merged_step(
        self, patch: Patch, before: dict[str, str], changed: dict[str, str], merges: str
    ) -> History:
        last = self.history.done[-1]
        first, _ = apply_patch(last.backward, before)
        start, now = {**before, **first}, {**before, **changed}
        files = dict.fromkeys((*last.forward.files, *patch.files))
        old, new = {f: start[f] for f in files}, {f: now[f] for f in files}
        sentence = patch.sentence
        step = Step(patch_between(old, new, sentence), patch_between(new, old, sentence), merges)
        return self.history.replacing_last(step)

    def undo(self) -> str | None:
        """Take the last step back; returns its sentence, None if there is none."""
        if not self.history.done:
            return None
        step = self.history.done[-1]
        changed = apply_patch(step.backward, self.texts())[0]
        self._replace_texts(changed, step.backward, self.history.undo())
        return step.sentence

    def redo(self) -> str | None:
        """Do the step that was undone last once more; returns its sentence."""
        if not self.history.undone:
            return None
        step = self.history.undone[0]
        changed = apply_patch(step.forward, self.texts())[0]
        self._replace_texts(changed, step.forward, self.history.redo())
        return step.sentence

    def go_to(self, step: int) -> None:
        """Undo or redo until `step` steps are done."""
        while len(self.history.done) > step and self.undo():
            pass
        while len(self.history.done) < step and self.redo():
            pass

    def _replace_texts(
        self, changed: dict[str, str], patch: Patch, history: History, select_at: int | None = None
    ) -> None:
        """Other texts, with the history that leads to them; nothing has changed where this raises."""
        wanted = self._places_after(patch) if self.html_name in changed else None
        edited = {**self._edited, **{n: self.text(n).with_text(t) for n, t in changed.items()}}
        computed = self._computed(edited)
        self._commit(computed, edited, history, wanted if select_at is None else [select_at])

    def _places_after(self, patch: Patch) -> list[int] | None:
        """Where the start tags of the selected elements will stand; None if one has none."""
        markup = self.page.source.markup
        tags = [markup.start_tag(e) for e in self.selection]
        return [offset_after(patch, self.html_name, t.start) for t in tags if t is not None]

    def _computed(self, edited: dict[str, SourceText]) -> tuple[Assembled, Page]:
        """The page with those texts; nothing changes. Raises LayoutBug where the computation fails."""
        assembled = self._assemble(edited, self._assembled)
        return assembled, compute_page(assembled.page, self.viewport, self.page)

    def _commit(
        self,
        computed: tuple[Assembled, Page],
        edited: dict[str, SourceText],
        history: History,
        selected_at: Sequence[int] | None = None,
        on_disk: Loaded | None = None,
    ) -> None:
        """Take what was computed as the state: texts, history, page and selection at once."""
        before = self.page.source.markup.root
        self._edited, self.history = edited, history
        self._assembled, self.page = computed
        if on_disk is not None:
            self._note_on_disk(on_disk.source.name, on_disk)
        if selected_at is not None and self.page.source.markup.root is not before:
            self._selection = _paths_at(self.page.source.markup, selected_at)
        self._tell(Change.PAGE, Change.HISTORY)


def _paths_at(markup: Markup, offsets: Sequence[int]) -> tuple[tuple[int, ...], ...]:
    """The paths of the elements whose start tags stand at `offsets`."""
    wanted = set(offsets)
    found: dict[int, tuple[int, ...]] = {}
    for element in markup.listed:
        tag = markup.start_tag(element)
        if tag is not None and tag.start in wanted:
            found[tag.start] = element.path
    return tuple(found[o] for o in offsets if o in found)


def _any_longhand(part: str, side: str) -> str:
    if part not in ("margin", "border", "padding"):
        raise EditRefused(f"there is no term “{part}”.")
    return f"border-{side}-width" if part == "border" else f"{part}-{side}"
