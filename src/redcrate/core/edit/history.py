"""The undo history: patches with the words for what they did; pure values, no document."""

from dataclasses import field, replace

from redcrate.core.edit.patch import Patch
from redcrate.core.records import dataclass


@dataclass(frozen=True, slots=True)
class Step:
    """One step: the patch that does it, and the one that takes it back."""

    forward: Patch
    backward: Patch
    merges: str = ""  # steps in a row with one such name are one step: a drag, a key that is held

    @property
    def sentence(self) -> str:
        """What the step did."""
        return self.forward.sentence


@dataclass(frozen=True, slots=True)
class History:
    """Steps done and steps undone; `saved_at` is how many were done when the files were saved."""

    done: tuple[Step, ...] = ()
    undone: tuple[Step, ...] = ()
    saved_at: int = field(default=0)

    @property
    def is_saved(self) -> bool:
        """Whether the texts are those on disk."""
        return len(self.done) == self.saved_at

    def merges_with(self, name: str) -> bool:
        """Whether a step of that name would go on with the last one."""
        return bool(
            name and self.done and not self.undone and self.done[-1].merges == name and not self.is_saved
        )

    def replacing_last(self, step: Step) -> "History":
        """The history with `step` in the place of the last one."""
        return replace(self, done=(*self.done[:-1], step), undone=())

    @property
    def unsaved(self) -> "tuple[Patch, ...] | None":
        """The patches that turn the saved texts into the ones now; None if no steps lead there."""
        if self.saved_at < 0:
            return None
        if self.saved_at <= len(self.done):
            return tuple(s.forward for s in self.done[self.saved_at :])
        back = self.undone[: self.saved_at - len(self.done)]
        return tuple(s.backward for s in reversed(back))

    def did(self, step: Step) -> "History":
        """The history after one more step; what was undone is gone."""
        saved_at = self.saved_at if self.saved_at <= len(self.done) else -1
        return History((*self.done, step), (), saved_at)

    def undo(self) -> "History":
        """The history with the last step undone; itself if there is none."""
        if not self.done:
            return self
        return replace(self, done=self.done[:-1], undone=(self.done[-1], *self.undone))

    def redo(self) -> "History":
        """The history with the last undone step done again; itself if there is none."""
        if not self.undone:
            return self
        return replace(self, done=(*self.done, self.undone[0]), undone=self.undone[1:])

    def never_saved(self) -> "History":
        """The history of texts none of which is the one on disk."""
        return replace(self, saved_at=-1)

    def saved(self) -> "History":
        """The history in which now is the saved state."""
        return replace(self, saved_at=len(self.done))
