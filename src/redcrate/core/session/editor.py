"""What changes the document: patches as steps of a history, where they are written, what gives way."""

from collections.abc import Callable, Iterable, Mapping, Sequence

from redcrate.core.edit.choices import boxes_changed
from redcrate.core.edit.gives import SIZES, Gives, Plan, plan_term
from redcrate.core.edit.history import History, Step
from redcrate.core.edit.patch import Patch, apply_patch, offset_after, patch_between
from redcrate.core.edit.targets import WritesTo, WriteTarget, write_targets
from redcrate.core.edit.typed import typed_value
from redcrate.core.errors import EditRefused
from redcrate.core.files.resources import Loaded
from redcrate.core.markup import Element, SourceText
from redcrate.core.page import Page
from redcrate.core.session.changes import Change, Listeners
from redcrate.core.session.document import Document
from redcrate.core.session.views import Views
from redcrate.core.style.window_ranges import WindowRange


class Editor:
    """The one who edits a document.

    gives: what gives way when padding or border changes. writes_to: the key of the place that edits of
    the selected element are written to; "": the default one. window: the range of window widths that edits
    are for; None: all.
    """

    def __init__(self, document: Document, views: Views, listeners: Listeners) -> None:
        self._document = document
        self._views = views
        self._listeners = listeners
        self.history = History()
        self.gives = Gives.CONTENT
        self.writes_to = ""
        self.window: WindowRange | None = None
        listeners.add(self._changed)

    def _changed(self, change: Change) -> None:
        if change is Change.SELECTION:
            self.writes_to = ""

    # -- how edits are made

    def set_gives(self, gives: Gives) -> None:
        """Choose what gives way when padding or border changes."""
        if gives is not self.gives:
            self.gives = gives
            self._listeners.tell(Change.GIVES)

    def set_writes_to(self, key: str) -> None:
        """Choose where the next edits of the selected element are written; "": the default place."""
        if key != self.writes_to:
            self.writes_to = key
            self._listeners.tell(Change.GIVES)

    def set_window(self, window: WindowRange | None) -> None:
        """Choose the range of window widths that the next edits are for; None: all.

        The page is looked at in a window of that range, the nearest one to what was seen.
        """
        if window is not None and window.is_all:
            window = None
        if window != self.window:
            self.window = window
            self._listeners.tell(Change.GIVES)
        if window is not None:
            self._views.set_width(window.nearest(self._views.viewport.width))

    @property
    def place(self) -> WritesTo:
        """Where the next edits of the selected element go."""
        return WritesTo(self.writes_to, self.window)

    def write_targets(self, longhand: str) -> tuple[WriteTarget, ...]:
        """Where a value of the selected element could be written."""
        element = self._views.selected
        return write_targets(self._views.page, element, longhand) if element is not None else ()

    def plan(self, element: Element, part: str, sides: tuple[str, ...], typed: str) -> Plan:
        """What typing `typed` into a term would write, with what gives way.

        Raises ValueNotUnderstood or EditRefused with a sentence.
        """
        longhand = part if part in SIZES else _any_longhand(part, sides[0])
        value = typed_value(typed, longhand)
        page, texts = self._views.page, self._document.texts()
        return plan_term(page, texts, element, part, sides, value, self.gives, self.place)

    # -- what it would be, and what it was

    def page_after(self, patch: Patch) -> Page:
        """The page as it would be after `patch`; nothing changes."""
        return self.tried_at_widths(patch)(self._views.viewport.width)[0]

    def tried_at_widths(self, patch: Patch) -> Callable[[float], tuple[Page, Mapping[str, str]]]:
        """What gives the page at a width, px, and the texts, as they would be after `patch`."""
        after = self._document.trial().after(patch)
        return lambda width: after(self._views.page_at(width))

    def changes_at(self, patch: Patch, widths: Iterable[float]) -> dict[float, int]:
        """How many elements' boxes a patch would change in windows of some widths, px."""
        after = self.tried_at_widths(patch)
        return {w: boxes_changed(self._views.page_at(w), after(w)[0]) for w in widths}

    def page_as_of(self, step: int) -> Page:
        """The page as it was (or will be again) when `step` steps are done, at the width seen now."""
        texts = self._document.texts()
        done = len(self.history.done)
        for one in reversed(self.history.done[step:]):
            texts.update(apply_patch(one.backward, texts)[0])
        for one in self.history.undone[: max(0, step - done)]:
            texts.update(apply_patch(one.forward, texts)[0])
        return self._page_with(self._document.edits_with(texts))

    def page_as_saved(self) -> Page:
        """The page as the files on disk have it, at the width that is seen now."""
        return self._page_with({})

    def _page_with(self, edited: Mapping[str, SourceText]) -> Page:
        assembled = self._document.assembled_with(edited, self._document.assembled)
        return self._views.page_of(assembled)

    # -- steps

    def apply(self, patch: Patch, *, merges: str = "", select_at: int | None = None) -> None:
        """Do a patch as one undo step.

        merges: steps in a row of one such name are one step. select_at: the offset in the HTML file of
        the start tag that is selected afterwards. Raises EditRefused if it fits the texts no more, and
        LayoutBug; then text, history and page are as before.
        """
        before = self._document.texts()
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
        changed = apply_patch(step.backward, self._document.texts())[0]
        self._replace_texts(changed, step.backward, self.history.undo())
        return step.sentence

    def redo(self) -> str | None:
        """Do the step that was undone last once more; returns its sentence."""
        if not self.history.undone:
            return None
        step = self.history.undone[0]
        changed = apply_patch(step.forward, self._document.texts())[0]
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
        wanted = self._places_after(patch) if self._document.html_name in changed else None
        selected_at = wanted if select_at is None else [select_at]
        self.take(self._document.edits_with(changed), history, selected_at)

    def _places_after(self, patch: Patch) -> list[int] | None:
        """Where the start tags of the selected elements will stand; None if one has none."""
        markup, name = self._views.page.source.markup, self._document.html_name
        tags = [markup.start_tag(e) for e in self._views.selection]
        return [offset_after(patch, name, t.start) for t in tags if t is not None]

    def take(
        self,
        edited: Mapping[str, SourceText],
        history: History,
        selected_at: Sequence[int] | None = None,
        on_disk: Loaded | None = None,
    ) -> None:
        """Make these the texts: document, history, page and selection at once, or nothing at all.

        on_disk: a file that is on disk now as it says. Raises LayoutBug where the computation fails.
        """
        assembled = self._document.assembled_with(edited, self._document.assembled)
        page = self._views.page_of(assembled)
        self._document.take(edited, assembled)
        if on_disk is not None:
            self._document.note_on_disk(on_disk)
        self.history = history
        self._views.show(page, selected_at)
        self._listeners.tell(Change.PAGE, Change.HISTORY)

    def set_history(self, history: History) -> None:
        """The same texts, with another history: they were saved, or can no longer be."""
        self.history = history
        self._listeners.tell(Change.HISTORY)


def _any_longhand(part: str, side: str) -> str:
    if part not in ("margin", "border", "padding"):
        raise EditRefused(f"there is no term “{part}”.")
    return f"border-{side}-width" if part == "border" else f"{part}-{side}"
