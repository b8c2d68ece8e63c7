"""The exercises in a folder, the learner's own copies of their pages, and what was done so far."""

from collections.abc import Iterator, Mapping
from hashlib import sha256
from pathlib import Path

from redcrate.core.exercises.exercise import ENDING, Exercise, ExerciseNotReadable, read_exercise
from redcrate.core.exercises.progress import Progress
from redcrate.core.files.trial import Trial
from redcrate.core.records import dataclass

# As they are learned: what comes first asks for nothing that comes later.
SETS = (
    "Sums of a box",
    "Sizing modes",
    "Compensation",
    "Rows and floats",
    "Collapsing margins",
    "Centring and inline",
)


@dataclass(frozen=True, slots=True)
class Shelved:
    """An exercise and the name that it is known by: its folder below the shelf's, such as sums/notice-636."""

    name: str
    exercise: Exercise


def name_of(file: Path) -> str:
    """The name of an exercise from elsewhere: two of one file name stay apart."""
    return f"opened/{file.name.removesuffix(ENDING)}-{sha256(str(file).encode()).hexdigest()[:8]}"


def _place(one: Shelved, order: Mapping[str, int]) -> tuple[int, str, float, str]:
    """The sets as they are learned, then others by their names."""
    exercise = one.exercise
    return order.get(exercise.group, len(order)), exercise.group, exercise.step, one.name


class Shelf:
    """folder: where the exercises lie. work: where the learner's copies and progress.json are kept."""

    def __init__(self, folder: Path, work: Path) -> None:
        self._folder = folder
        self._work = work

    def exercises(self) -> tuple[Shelved, ...]:
        """All that can be read, by set."""
        found = list(self._found())
        order = {group: number for number, group in enumerate(SETS)}
        return tuple(sorted(found, key=lambda s: _place(s, order)))

    def _found(self) -> Iterator[Shelved]:
        files = [
            *(
                (f, f.parent.relative_to(self._folder).as_posix())
                for f in sorted(self._folder.rglob(f"*{ENDING}"))
            ),
            *((f, name_of(f)) for f in self.progress.opened()),
        ]
        for file, name in files:
            try:
                yield Shelved(name, read_exercise(file))
            except ExerciseNotReadable:
                continue

    def add(self, file: Path) -> Shelved:
        """Take an exercise from elsewhere onto the shelf. Raises ExerciseNotReadable and PageNotWritable."""
        file = file.resolve()
        one = Shelved(name_of(file), read_exercise(file))
        self.progress.keep_opened(file)
        return one

    def copy_of(self, one: Shelved) -> Path:
        """The learner's page of an exercise, which may not be there yet."""
        return self._work / one.name / one.exercise.page.name

    def begin(self, one: Shelved, *, again: bool = False) -> Path:
        """The learner's page: made from the exercise's where it is not there, or where it is begun again.

        With all files of its folder that the page uses. Raises PageNotReadable and PageNotWritable.
        """
        page = self.copy_of(one)
        if again or not page.is_file():
            Trial.of_file(one.exercise.page).copy_to(page, overwrite=again)
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
