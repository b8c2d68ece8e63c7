"""Making an exercise of a page: what it asks for, tried on the page that it begins with, and written beside a copy."""

import json
from collections.abc import Mapping
from dataclasses import replace
from pathlib import Path

from redcrate.core.errors import RedCrateError
from redcrate.core.exercises.conditions import judge
from redcrate.core.exercises.exercise import ENDING, Exercise, exercise_data
from redcrate.core.exercises.solution import Replacement, replacements
from redcrate.core.exercises.wording import in_words
from redcrate.core.files.copying import copy_page
from redcrate.core.files.resources import Resources
from redcrate.core.files.saving import save_bytes
from redcrate.core.markup import SourceText
from redcrate.core.page import Page
from redcrate.core.records import dataclass


class ExerciseNotMade(RedCrateError):
    """Something is missing for it to be an exercise."""


@dataclass(frozen=True, slots=True, eq=False)
class Material:
    """The page that is made an exercise of.

    saved, now: its files by name, as they are on disk and with unsaved edits. start, solved: the pages that they
    make in the exercise's window.
    """

    path: Path
    resources: Resources
    saved: Mapping[str, SourceText]
    now: Mapping[str, SourceText]
    start: Page
    solved: Page

    @property
    def is_edited(self) -> bool:
        """Whether there are edits that could be the solution."""
        return any(self.now[name].text != source.text for name, source in self.saved.items())


def what_is_missing(exercise: Exercise, material: Material) -> str:
    """What has to be mended before it is an exercise, in a sentence; "" where nothing has."""
    for value, name in ((exercise.title, "title"), (exercise.task, "task"), (exercise.group, "set")):
        if not value.strip():
            return f"The exercise has no {name} yet."
    if not exercise.conditions:
        return "The task has no condition yet: click a box and choose one."
    if all(judge(c, material.start).holds for c in exercise.conditions):
        return (
            "The page already meets all conditions, so learners would have nothing to do. "
            "Change the page or a required value."
        )
    return ""


def what_begins(exercise: Exercise, material: Material) -> str:
    """What the learner begins with, and whether a solution is kept, in a sentence or two."""
    held = sum(judge(c, material.start).holds for c in exercise.conditions)
    begins = f"Learners start with the page as saved: it meets {held} of {len(exercise.conditions)} conditions."
    if not material.is_edited:
        return begins
    failed = next((c for c in exercise.conditions if not judge(c, material.solved).holds), None)
    if failed is None:
        return f"{begins} Your changes since then are kept as the solution."
    return f"{begins} Your changes since then are not a solution: not met: {in_words(failed)}."


def exercise_file(file: Path) -> Path:
    """The name with the ending that exercises have."""
    name = file.name.removesuffix(ENDING).removesuffix(".json").removesuffix(".redcrate-exercise")
    return file.with_name(f"{name}{ENDING}")


def write_exercise(file: Path, exercise: Exercise, material: Material) -> Path:
    """Write the exercise, and beside it the page that it begins with, with all that the page uses.

    Returns the exercise's file. Raises ExerciseNotMade where something is missing or the folder holds other files,
    and PageNotWritable.
    """
    missing = what_is_missing(exercise, material)
    if missing:
        raise ExerciseNotMade(missing)
    file = exercise_file(file)
    if not file.exists() and file.parent.is_dir() and any(file.parent.iterdir()):
        raise ExerciseNotMade(
            "that folder contains other files.",
            where=str(file.parent),
            remedy="Choose an empty folder: the page is saved there with its stylesheets and pictures.",
        )
    if file.parent.resolve() == material.path.parent.resolve():
        raise ExerciseNotMade(
            "that folder contains the page itself, which can still change.",
            where=str(file.parent),
            remedy="Choose an empty folder.",
        )
    data = {name: source.encode() for name, source in material.saved.items()}
    markup = material.start.source.markup
    copy_page(material.path, file.parent / material.path.name, markup, material.resources, data)
    exercise = replace(
        exercise, page=file.parent / material.path.name, solution=_solution(exercise, material)
    )
    text = json.dumps(exercise_data(exercise), ensure_ascii=False, indent=1)
    save_bytes(file, f"{text}\n".encode())
    return file


def _solution(exercise: Exercise, material: Material) -> tuple[Replacement, ...]:
    """The edits, where they solve it."""
    if not all(judge(c, material.solved).holds for c in exercise.conditions):
        return ()
    saved = {n: s.text for n, s in material.saved.items()}
    return replacements(saved, {n: s.text for n, s in material.now.items()})
