"""What passes between memory and disk: saving, changes of other programs, work that was never saved."""

from redcrate.core.edit.history import History
from redcrate.core.edit.patch import Patch, patch_between
from redcrate.core.errors import EditRefused
from redcrate.core.files.loading import Loaded
from redcrate.core.files.on_disk import DiskChange, reread
from redcrate.core.files.recovery import RecoveryFolder, UnsavedWork
from redcrate.core.session.document import Document
from redcrate.core.session.editor import Editor


class Disk:
    """The document's other side.

    recovery: where unsaved steps are kept; None: nowhere.
    """

    def __init__(self, document: Document, editor: Editor, recovery: RecoveryFolder | None) -> None:
        self._document = document
        self._editor = editor
        self._recovery = recovery

    def save(self) -> tuple[str, ...]:
        """Write every edited file; returns their names.

        Raises PageNotWritable; what could not be written stays in memory.
        """
        saved = self._document.write()
        self.drop_unsaved()
        self._editor.set_history(self._editor.history.saved())
        return saved

    # -- files changed by other programs

    def take_theirs(self, name: str) -> None:
        """Read a file again; edits of it are dropped, and so is the history that no longer fits.

        Raises PageNotReadable if it is gone.
        """
        loaded = reread(self._document.files[name])
        others = [n for n in self._document.edited_files if n != name]
        history = self._editor.history
        if any(name in s.forward.files for s in (*history.done, *history.undone)):
            history = History(saved_at=-1 if others else 0)
        edited = {**self._document.edits, name: loaded.source}
        self._editor.take(edited, history, on_disk=loaded)

    def keep_mine(self, name: str) -> None:
        """Go on with the text that is open; the next save writes it over theirs."""
        loaded = reread(self._document.files[name])
        edited = {**self._document.edits, name: self._document.text(name)}
        self._editor.take(edited, self._editor.history.never_saved(), on_disk=loaded)

    def keep_text(self, name: str) -> None:
        """Go on with a file that is gone from disk: the next save writes it again."""
        loaded, mine = self._document.files[name], self._document.text(name)
        self._document.note_on_disk(Loaded(loaded.path, loaded.source, b""))
        self._document.take({**self._document.edits, name: mine}, self._document.assembled)
        self._editor.set_history(self._editor.history.never_saved())

    def take_both(self, change: DiskChange) -> None:
        """Go on with both changes of a file in one; one undo step takes theirs out again."""
        if change.both is None:
            raise EditRefused("both have changed the same lines.", where=change.name)
        document, name = self._document, change.name
        before, mine = document.texts(), document.text(name)
        document.note_on_disk(reread(document.files[name]))
        document.take({**document.edits, name: mine}, document.assembled)
        sentence = f"changes of another program taken into {name}"
        self._editor.apply(patch_between(before, {**before, name: change.both}, sentence))

    def pictures_changed(self) -> None:
        """Look at all pictures again: one has come, gone or changed."""
        self._document.resources.forget_images()
        self._editor.take(self._document.edits, self._editor.history)

    # -- unsaved work

    def keep_unsaved(self) -> None:
        """Keep the unsaved steps where a crash cannot reach them. Raises PageNotWritable."""
        if self._recovery is not None:
            on_disk = {name: loaded.data for name, loaded in self._document.files.items()}
            self._recovery.keep(self._document.path, on_disk, self._unsaved_steps())

    def _unsaved_steps(self) -> tuple[Patch, ...]:
        document = self._document
        if not document.is_edited:
            return ()
        steps = self._editor.history.unsaved
        if steps is not None:
            return steps
        saved = {name: loaded.source.text for name, loaded in document.files.items()}
        return (patch_between(saved, document.texts(), "earlier unsaved work"),)

    def unsaved_work(self) -> UnsavedWork | None:
        """What an earlier run of the program never saved."""
        if self._recovery is None:
            return None
        on_disk = {name: loaded.data for name, loaded in self._document.files.items()}
        return self._recovery.find(self._document.path, on_disk)

    def take_back(self, work: UnsavedWork) -> None:
        """Do the steps of unsaved work again. Raises EditRefused if they fit the files no more."""
        if not work.fits:
            raise EditRefused("the files were changed since: the unsaved steps fit them no more.")
        for step in work.steps:
            self._editor.apply(step)

    def drop_unsaved(self) -> None:
        """Forget the unsaved work of an earlier run."""
        if self._recovery is not None:
            self._recovery.forget(self._document.path)
