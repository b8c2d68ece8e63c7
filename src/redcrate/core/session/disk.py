"""What passes between memory and disk: saving, changes of other programs, work that was never saved."""

from contextlib import suppress

from redcrate.core.edit.history import History
from redcrate.core.edit.merging import merged
from redcrate.core.edit.patch import Patch, apply_patch, patch_between
from redcrate.core.errors import EditRefused, PageNotWritable
from redcrate.core.files.on_disk import DiskChange, reread
from redcrate.core.files.recovery import EditedFile, RecoveryFolder, UnsavedWork
from redcrate.core.files.resources import Loaded
from redcrate.core.session.document import Document
from redcrate.core.session.editor import Editor


class Disk:
    """The document's other side.

    recovery: where unsaved steps are kept; None: nowhere.
    """

    def __init__(self, document: Document, editor: Editor, recovery: RecoveryFolder | None) -> None:
        self._document = document
        self._editor = editor
        self._recovery = recovery.place_for(document.path) if recovery is not None else None

    def save(self) -> tuple[str, ...]:
        """Write every edited file; returns their names.

        What is to be written is kept first: a program that is killed between two files leaves enough to write the
        rest. Raises PageNotWritable, ChangedOnDisk where another program has changed a file meanwhile, and
        OutsideFolder where nobody has said yet that files elsewhere may be written; what could not be written stays in
        memory, and is kept.
        """
        with suppress(PageNotWritable):  # a folder of ours that is full does not forbid to save
            self.keep_unsaved()
        before = self._document.edited_files
        try:
            saved = self._document.write()
        except PageNotWritable:
            if self._document.edited_files != before:
                self._editor.set_history(self._editor.history.never_saved())
                with suppress(PageNotWritable):
                    self.keep_unsaved()
            raise
        self.forget_unsaved()
        self._editor.set_history(self._editor.history.saved())
        return saved

    # -- files changed by other programs

    def take_theirs(self, name: str) -> None:
        """Read a file again; edits of it are dropped, and so is the history that no longer fits.

        Raises PageNotReadable if it is gone.
        """
        loaded = reread(self._document.every_file[name])
        others = [n for n in self._document.edited_files if n != name]
        history = self._editor.history
        if any(name in s.forward.files for s in (*history.done, *history.undone)):
            history = History(saved_at=-1 if others else 0)
        edited = {**self._document.edits, name: loaded.source}
        self._editor.take(edited, history, on_disk=loaded)

    def keep_mine(self, name: str) -> None:
        """Go on with the text that is open; the next save writes it over theirs."""
        loaded = reread(self._document.every_file[name])
        edited = {**self._document.edits, name: self._document.text(name)}
        self._editor.take(edited, self._editor.history.never_saved(), on_disk=loaded)

    def keep_text(self, name: str) -> None:
        """Go on with a file that is gone from disk: the next save writes it again."""
        loaded, mine = self._document.every_file[name], self._document.text(name)
        self._document.note_on_disk(Loaded(loaded.path, loaded.source, b""))
        self._document.take({**self._document.edits, name: mine}, self._document.assembled)
        self._editor.set_history(self._editor.history.never_saved())

    def take_both(self, change: DiskChange) -> None:
        """Go on with both changes of a file in one; one undo step takes theirs out again."""
        if change.both is None:
            raise EditRefused("both versions changed the same lines.", where=change.name)
        document, name = self._document, change.name
        before, mine = document.texts(), document.text(name)
        document.note_on_disk(reread(document.files[name]))
        document.take({**document.edits, name: mine}, document.assembled)
        sentence = f"changes of another program merged into {name}"
        self._editor.apply(patch_between(before, {**before, name: change.both}, sentence))

    def pictures_changed(self) -> None:
        """Look at all pictures again: one has come, gone or changed."""
        self._document.resources.forget_images()
        self._editor.take(self._document.edits, self._editor.history)

    # -- unsaved work

    def keep_unsaved(self) -> None:
        """Keep what is unsaved where a crash cannot reach it. Raises PageNotWritable."""
        if self._recovery is None:
            return
        document = self._document
        files = {}
        for name in document.edited_files:
            loaded, now = document.every_file[name], document.text(name)
            files[name] = EditedFile(loaded.source.text, now.text, loaded.data, now.encode())
        self._recovery.keep(files, self._unsaved_steps() if files else ())

    def _unsaved_steps(self) -> tuple[Patch, ...]:
        steps = self._editor.history.unsaved
        if steps is not None:
            return steps
        document = self._document
        saved = {name: loaded.source.text for name, loaded in document.every_file.items()}
        now = {name: document.text(name).text for name in saved}
        return (patch_between(saved, now, "earlier unsaved work"),)

    def forget_unsaved(self) -> None:
        """What this session keeps is saved now, or is not wanted."""
        if self._recovery is not None:
            self._recovery.forget()

    def leave(self) -> None:
        """The session ends; what it keeps stays, for the next one."""
        if self._recovery is not None:
            self._recovery.leave()

    def unsaved_work(self) -> tuple[UnsavedWork, ...]:
        """What earlier runs of the program, which are no more, never saved; the newest first."""
        if self._recovery is None:
            return ()
        files = self._document.files
        return self._recovery.found({n: (f.source.text, f.data) for n, f in files.items()})

    def take_back(self, work: UnsavedWork) -> None:
        """Do the steps of unsaved work again; it is this session's own from then on.

        Raises EditRefused if they fit the texts no more, PageNotWritable where it cannot be kept; then it stays where it is.
        """
        for step in work.steps if not self._document.is_edited else (self._with_mine(work),):
            self._editor.apply(step)
        self.keep_unsaved()
        self.discard(work)

    def _with_mine(self, work: UnsavedWork) -> Patch:
        """One step to the texts with the unsaved work of an earlier run, and with what was edited since.

        Raises EditRefused where both change the same lines.
        """
        saved = {name: loaded.source.text for name, loaded in self._document.files.items()}
        theirs = dict(saved)
        for step in work.steps:
            theirs.update(apply_patch(step, theirs)[0])
        now = self._document.texts()
        both = {name: merged(saved[name], now[name], theirs[name]) for name in saved}
        same_lines = [name for name, text in both.items() if text is None]
        if same_lines:
            raise EditRefused(
                "later edits and the unsaved changes are on the same lines.",
                where=", ".join(same_lines),
                remedy="The unsaved changes are kept: undo or save, then open the page again.",
            )
        return patch_between(
            now, {n: t for n, t in both.items() if t is not None}, "earlier unsaved work"
        )

    def discard(self, work: UnsavedWork) -> None:
        """Forget unsaved work of an earlier run."""
        if self._recovery is not None:
            self._recovery.drop(work)
