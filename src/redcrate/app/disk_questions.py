"""What passes between the window and the disk: saving, files that others changed, work that was never saved.

Whatever somebody must decide is asked in place, in the note over the screen; nothing is overwritten unasked.
"""

import time
from collections.abc import Callable, Sequence
from pathlib import Path

from redcrate.app.message_bar import MessageBar
from redcrate.app.settings import Settings
from redcrate.core.errors import (
    ChangedOnDisk,
    FileIsThere,
    OutsideFolder,
    PageNotWritable,
    RedCrateError,
)
from redcrate.core.files.on_disk import DiskChange
from redcrate.core.files.recovery import Fits, UnsavedWork
from redcrate.core.session import Session
from redcrate.core.units import FIRST_WORDS, counted, first_of


class DiskQuestions:
    """Asks about the files of one session."""

    def __init__(self, session: Session, bar: MessageBar, settings: Settings | None) -> None:
        self._session = session
        self._bar = bar
        self._settings = settings
        document = session.document
        if settings is not None and settings.may("saves_outside", document.path):
            document.may_write_outside = True

    def _say(self, sentence: str, *, wrong: bool = False) -> None:
        self._bar.say(sentence, wrong=wrong)

    # -- saving

    def save(self) -> bool:
        """Write what was edited; whether all of it is saved now."""
        try:
            saved = self._session.disk.save()
        except OutsideFolder as problem:
            self._ask_outside(problem.names)
            return False
        except ChangedOnDisk as problem:
            self.look_at_disk()
            self._say(problem.sentence, wrong=True)  # unless a question is open now
            return False
        except PageNotWritable as problem:
            self._say(problem.sentence, wrong=True)
            return False
        self._say(f"Saved {', '.join(saved)}." if saved else "There are no changes since the last save.")
        return True

    def _ask_outside(self, names: Sequence[str]) -> None:
        document = self._session.document

        def save_them() -> None:
            document.may_write_outside = True
            if self._settings is not None:
                self._settings.allow("saves_outside", document.path)
            self.save()

        places = [self._whole(name) for name in names]
        self._bar.ask(
            f"Outside the page's folder: {first_of(places)}. Other pages may use these files. Also save them?",
            [("Also save them", save_them), ("Cancel", lambda: None)],
            "\n".join(places[FIRST_WORDS:]),
        )

    def _whole(self, name: str) -> str:
        document = self._session.document
        return document.resources.outside(document.every_file[name].path) or name

    def save_copy(self, goal: Path, *, overwrite: bool = False) -> None:
        """Write the page to another place; the sentence tells what was left where it is."""
        try:
            report = self._session.document.write_copy(goal, overwrite=overwrite)
        except FileIsThere as problem:
            self._bar.ask(
                f"{goal.parent.name} already has other files of these names: {first_of(problem.names)}.",
                [
                    ("Overwrite existing files", lambda: self.save_copy(goal, overwrite=True)),
                    ("Cancel", lambda: None),
                ],
                "\n".join(problem.names[FIRST_WORDS:]),
            )
            return
        except RedCrateError as problem:
            self._say(problem.sentence, wrong=True)
            return
        left = f" Not copied: {first_of(report.left)}." if report.left else ""
        self._say(f"Saved {first_of(report.copied)} in {goal.parent.name}.{left}")

    # -- files changed by other programs

    def look_at_disk(self) -> None:
        """What another program changed: read again, or asked about where it was edited here too."""
        if self._bar.asks:
            return
        for change in self._session.document.disk_changes():
            if change.edited or change.gone:
                self._ask_about(change)
                return
            try:
                self._session.disk.take_theirs(change.name)
            except RedCrateError as problem:
                self._say(problem.sentence, wrong=True)
                return
            self._say(f"{change.name} was changed by another program; Red Crate has read it again.")

    def _ask_about(self, change: DiskChange) -> None:
        disk, name = self._session.disk, change.name
        if change.gone:
            self._say(f"{name} is no longer on disk; saving creates it again.", wrong=True)
            disk.keep_text(name)
            return
        choices = [
            ("Keep my version", lambda: self._after(lambda: disk.keep_mine(name))),
            ("Use version on disk", lambda: self._after(lambda: disk.take_theirs(name))),
        ]
        if change.both is not None:
            choices.append(("Merge both", lambda: self._after(lambda: disk.take_both(change))))
        self._bar.ask(
            f"{name} was changed by another program and also edited here.",
            choices,
            "\n".join(change.differing),
        )

    def _after(self, what: Callable[[], None]) -> None:
        try:
            what()
        except RedCrateError as problem:
            self._say(problem.sentence, wrong=True)
        self.look_at_disk()

    # -- work that was never saved

    def offer_unsaved(self) -> None:
        """What earlier runs never saved, one after another."""
        self._offer(self._session.disk.unsaved_work())

    def _offer(self, works: Sequence[UnsavedWork]) -> None:
        if not works:
            self.look_at_disk()
            return
        work, rest = works[0], works[1:]
        disk = self._session.disk

        def then(what: Callable[[], None]) -> Callable[[], None]:
            def answer() -> None:
                try:
                    what()
                except RedCrateError as problem:
                    self._say(problem.sentence, wrong=True)
                self._offer(rest)

            return answer

        self._bar.ask(
            _offer_words(work, len(rest)),
            [
                ("Restore changes", then(lambda: disk.take_back(work))),
                ("Discard changes", then(lambda: disk.discard(work))),
                ("Not now", then(lambda: None)),
            ],
            "\n".join(step.sentence for step in work.steps),
        )


def _offer_words(work: UnsavedWork, more: int) -> str:
    when = time.strftime("%d %B, %H:%M", time.localtime(work.written_at))
    count = f"{counted(len(work.steps), '1 unsaved change', '{count} unsaved changes')} of {when}"
    others = (
        counted(more, " 1 more question follows.", " {count} more questions follow.") if more else ""
    )
    if work.fits is Fits.PARTLY_SAVED:
        return f"{count}: {first_of(work.saved)} was saved, these changes were not.{others}"
    if work.fits is Fits.CHANGED:
        return (
            f"{count}. Another program has changed {first_of(work.changed)} since: restoring merges both where it can, "
            f"otherwise it uses the unsaved text. Undo returns to the text on disk.{others}"
        )
    return f"{count}.{others}"
