"""The exercises in a folder, the learner's own copies of their pages, and what was done so far."""

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from redcrate.core.errors import PageNotWritable
from redcrate.core.exercises.exercise import ENDING, Exercise, ExerciseNotReadable, read_exercise
from redcrate.core.exercises.progress import Progress
from redcrate.core.files.saving import save_bytes

# As they are learned: what comes first asks for nothing that comes later.
_ORDER = (
    "Sums of a box",
    "Sizing modes",
    "Compensation",
    "Rows and floats",
    "Margins that meet",
    "Centring and inline",
)


@dataclass(frozen=True, slots=True)
class Shelved:
    """An exercise and the name that it is known by: its folder below the shelf's, such as sums/notice-636."""

    name: str
    exercise: Exercise


class Shelf:
    """folder: where the exercises lie. work: where the learner's copies and progress.json are kept."""

    def __init__(self, folder: Path, work: Path) -> None:
        self._folder = folder
        self._work = work

    def exercises(self) -> tuple[Shelved, ...]:
        """All that can be read, by set."""
        found = list(self._found())
        order = {group: number for number, group in enumerate(_ORDER)}
        return tuple(
            sorted(
                found, key=lambda s: (order.get(s.exercise.group, len(order)), s.exercise.step, s.name)
            )
        )

    def _found(self) -> Iterator[Shelved]:
        for file in sorted(self._folder.rglob(f"*{ENDING}")):
            try:
                exercise = read_exercise(file)
            except ExerciseNotReadable:
                continue
            yield Shelved(file.parent.relative_to(self._folder).as_posix(), exercise)

    def copy_of(self, one: Shelved) -> Path:
        """The learner's page of an exercise, which may not be there yet."""
        return self._work / one.name / one.exercise.page.name

    def begin(self, one: Shelved, *, again: bool = False) -> Path:
        """The learner's page: made from the exercise's where it is not there, or where it is begun again.

        Raises PageNotWritable.
        """
        page = self.copy_of(one)
        if again or not page.is_file():
            try:
                page.parent.mkdir(parents=True, exist_ok=True)
                data = one.exercise.page.read_bytes()
            except OSError as problem:
                raise PageNotWritable(
                    f"the exercise cannot be begun ({problem.strerror}).", where=str(page)
                ) from None
            save_bytes(page, data)
        return page

    def of_page(self, page: Path) -> Shelved | None:
        """The exercise whose copy a page is; None for other pages."""
        if not page.is_relative_to(self._work):
            return None
        return next((s for s in self.exercises() if self.copy_of(s) == page), None)

    # -- progress

    @property
    def progress(self) -> Progress:
        """What was done so far."""
        return Progress(self._work / "progress.json")

    def done(self) -> frozenset[str]:
        """The names of the exercises that were passed."""
        return self.progress.passed()

    def keep_done(self, one: Shelved) -> None:
        """It was passed. Raises PageNotWritable."""
        self.progress.keep_passed(one.name)
