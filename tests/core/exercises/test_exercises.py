"""The exercises that are there: each starts failing, right ways pass, typical mistakes get the hint that fits them."""

import json
from collections import Counter
from pathlib import Path

import jsonschema
import pytest

from redcrate.core.exercises import exercise as exercise_module
from redcrate.core.exercises.exercise import ENDING, Exercise, read_exercise
from redcrate.core.exercises.marking import Marked, mark_file
from tests.conftest import ROOT

FILES = sorted((ROOT / "exercises").rglob(f"*{ENDING}"))
Edits = list[list[str]]


def ways_of(file: Path) -> dict[str, list[Edits]]:
    """also, wrong: pieces of text in the page and what stands there instead."""
    ways: dict[str, list[Edits]] = json.loads((file.parent / "ways.json").read_text(encoding="utf-8"))
    return ways


def marked(exercise: Exercise, edits: Edits, folder: Path) -> Marked:
    """The page after edits, marked."""
    text = exercise.page.read_text(encoding="utf-8")
    for old, new in edits:
        assert old in text, f"{old} is not in {exercise.page}"
        text = text.replace(old, new, 1)
    page = folder / "index.html"
    page.write_text(text, encoding="utf-8")
    return mark_file(exercise, page)


@pytest.mark.parametrize("file", FILES, ids=lambda f: f.parent.name)
def test_an_exercise_marks_what_it_should(file: Path, tmp_path: Path) -> None:
    """Start, solution, at least two other right ways, at least three wrong ones with their hint first."""
    exercise, ways = read_exercise(file), ways_of(file)
    assert not mark_file(exercise, exercise.page).passed
    assert {r.file for r in exercise.solution} == {"index.html"}
    solved = marked(exercise, [[r.old, r.new] for r in exercise.solution], tmp_path)
    assert solved.passed and solved.hints == ()
    assert len(ways["also"]) >= 2 and len(ways["wrong"]) >= 3
    for edits in ways["also"]:
        assert marked(exercise, edits, tmp_path).passed, edits
    for wrong in ways["wrong"]:
        assert isinstance(wrong, dict)
        found = marked(exercise, wrong["edits"], tmp_path)
        assert not found.passed
        assert found.hints[0] == exercise.hints[wrong["hint"]].say, wrong
        assert len(found.hints) >= 2


def test_every_hint_is_one_that_somebody_gets() -> None:
    """A hint that no wrong way shows is tried by nobody; sides may stand for one another."""
    for file in FILES:
        hints = [h.say for h in read_exercise(file).hints]
        given = {hints[w["hint"]] for w in ways_of(file)["wrong"]}  # type: ignore[call-overload]
        assert set(hints) == given, file


@pytest.mark.parametrize("file", FILES, ids=lambda f: f.parent.name)
def test_the_files_keep_to_the_schema(file: Path) -> None:
    """And so does what a trainer writes by it."""
    path = Path(exercise_module.__file__).with_name("exercise_schema.json")
    jsonschema.validate(
        json.loads(file.read_text(encoding="utf-8")), json.loads(path.read_text(encoding="utf-8"))
    )


def test_there_are_exercises() -> None:
    """Six sets of four."""
    found = [read_exercise(f) for f in FILES]
    assert set(Counter(e.group for e in found).values()) == {4} and len(found) == 24
    assert len({e.title for e in found}) == 24
