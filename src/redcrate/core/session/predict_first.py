"""Predict first: a change waits until the learner has said what it will do."""

from redcrate.core.edit.patch import Patch
from redcrate.core.errors import EditRefused
from redcrate.core.page import PageSource
from redcrate.core.predictions.answering import Answer, Told, told
from redcrate.core.predictions.asking import question_about
from redcrate.core.predictions.question import Question
from redcrate.core.records import dataclass
from redcrate.core.session.changes import Change, Listeners
from redcrate.core.session.editor import Editor
from redcrate.core.session.views import Views


@dataclass(frozen=True, slots=True)
class Waiting:
    """A change that is not shown yet, and what is asked about it. said: the change, in words. source: what it fits."""

    patch: Patch
    merges: str
    said: str
    question: Question
    source: PageSource
    width: float


class PredictFirst:
    """The switch, the change that waits, and what the last prediction was worth.

    told: the last answer beside what it became, until the next change. width: of the window that it was
    asked for, px. dropped: in words, the change that waited while another one was made in front of it.
    """

    def __init__(self, views: Views, editor: Editor, listeners: Listeners) -> None:
        self._views = views
        self._editor = editor
        self._listeners = listeners
        self.on = False
        self.waiting: Waiting | None = None
        self.told: Told | None = None
        self.width = 0.0
        self.dropped = ""
        self._last = ""
        self._doing = False
        listeners.add(self._changed)

    def switch(self, on: bool) -> None:
        """Ask before changes are shown, or no longer. Raises what `show_at_once` raises."""
        if on != self.on:
            self.show_at_once()
            self.on, self.told = on, None
            self._listeners.tell(Change.PREDICTION)

    def offer(self, patch: Patch, *, merges: str = "", said: str = "") -> bool:
        """Do a patch as one step, or let it wait for a prediction; whether it is done.

        said: what the learner knows of it; "": its sentence. Raises EditRefused and LayoutBug as
        `Editor.apply` does, and EditRefused where another change waits.
        """
        if self.waiting is not None:
            raise EditRefused(
                "another change waits for your answer.", remedy="Answer it, or press Esc to see it."
            )
        question = self._question(patch, said or patch.sentence) if self.on else None
        if question is None:
            was_told = self.told is not None
            self._do(patch, merges)
            if was_told:
                self._listeners.tell(Change.PREDICTION)
            return True
        source, width = self._views.page.source, self._views.viewport.width
        self.waiting = Waiting(patch, merges, said or patch.sentence, question, source, width)
        self.told, self.dropped = None, ""
        self._listeners.tell(Change.PREDICTION)
        return False

    def _question(self, patch: Patch, said: str) -> Question | None:
        after = self._editor.page_after(patch)
        return question_about(self._views.page, after, self._views.selected, said, self._last)

    def answer(self, answer: Answer) -> Told:
        """Say what the waiting change will do: it is shown, with what the prediction was worth.

        Raises EditRefused where none waits, and as `Editor.apply` does; then it waits no longer.
        """
        waiting = self.waiting
        if waiting is None:
            raise EditRefused("no change waits for an answer.")
        outcome = told(waiting.question, answer)
        self._last = waiting.question.kind
        self._show(waiting)
        self.told, self.width = outcome, waiting.width
        self._listeners.tell(Change.PREDICTION)
        return outcome

    def show_at_once(self) -> None:
        """Show the waiting change without an answer. Raises what `Editor.apply` does."""
        if self.waiting is not None:
            self._show(self.waiting)
            self._listeners.tell(Change.PREDICTION)

    def let_go(self) -> None:
        """Show at once what waits, or else show the last outcome no longer. Raises what `show_at_once` raises."""
        if self.waiting is not None:
            self.show_at_once()
        elif self.told is not None:
            self.told = None
            self._listeners.tell(Change.PREDICTION)

    def _show(self, waiting: Waiting) -> None:
        self.waiting = None
        self._do(waiting.patch, waiting.merges)

    def _do(self, patch: Patch, merges: str) -> None:
        self._doing = True
        try:
            self._editor.apply(patch, merges=merges)
        finally:
            self._doing = False
        self.told = None

    def preview(self, owner: object, patch: Patch | None) -> None:
        """Show what a patch would do, unless that is to be predicted; None: no longer.

        Raises EditRefused and LayoutBug as `Editor.page_after` does.
        """
        shown = None if self.on else patch
        self._views.preview(owner, None if shown is None else self._editor.page_after(shown))

    def _changed(self, change: Change) -> None:
        """A change that waits fits the texts as they were; an outcome is of its page and element."""
        if self._doing or change not in (Change.PAGE, Change.SELECTION):
            return
        if self.waiting is not None and self.waiting.source is not self._views.page.source:
            self.dropped, self.waiting = self.waiting.said, None
            self._listeners.tell(Change.PREDICTION)
        elif self.told is not None:
            self.told = None
            self._listeners.tell(Change.PREDICTION)
