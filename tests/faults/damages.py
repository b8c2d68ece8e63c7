"""Our own data files after accidents: nothing is raised, and what is well still counts."""

import json
import random
from collections.abc import Iterator
from contextlib import suppress
from pathlib import Path
from typing import Any

from redcrate.core.exercises.exercise import ExerciseNotReadable, read_exercise
from redcrate.core.exercises.progress import Progress
from redcrate.core.files.recovery import EditedFile, RecoveryFolder
from redcrate.core.files.settings import read_settings, settings_path, write_settings
from redcrate.core.findings.several import marks_in
from redcrate.core.predictions.question import Topic
from redcrate.exercise_pages import exercises_folder

SETTINGS: dict[str, Any] = {
    "version": 1,
    "widths": [1100, 390],
    "names": {"390": "telephone"},
    "comps": {"1100": {"file": "a.png", "scale": 2}},
    "silenced": [{"family": "unit-missing", "place": "*"}],
    "of a newer version": {"kept": [1, None]},
}
_PROGRESS = {"passed": ["a"], "opened": ["b"], "predictions": {"sums": [1, 2]}}
_CHECK = {"findings": [{"family": "a", "cause": None, "elements": []}], "page": "p"}
_ODD: list[Any] = [
    None,
    [],
    {},
    "",
    "x",
    -1,
    1e308,
    float("inf"),
    float("nan"),
    True,
    [[]],
    {"x": None},
    "\0",
    "../../x",
    10**30,
]


def damaged(data: Any, chance: random.Random) -> bytes:
    """A file of that data after an accident."""
    kind = chance.random()
    if kind < 0.05:
        return b"[" * chance.choice([10, 100_000])
    text = json.dumps(_changed(data, chance)).encode()
    return text[: chance.randrange(len(text) + 1)] if kind < 0.15 else text


def _changed(data: Any, chance: random.Random) -> Any:
    if chance.random() < 0.12:
        return chance.choice(_ODD)
    if isinstance(data, dict):
        return {k: _changed(v, chance) for k, v in data.items() if chance.random() > 0.05}
    if isinstance(data, list):
        return [_changed(v, chance) for v in data] * chance.choice((1, 1, 2))
    return data


def damages(folder: Path, seed: int, runs: int) -> Iterator[str]:
    """So many damaged files of each kind."""
    page = folder / "index.html"
    page.write_text("<!doctype html><p>x")
    exercise = json.loads(next(exercises_folder().rglob("*.redcrate-exercise.json")).read_text())
    for run in range(runs):
        chance = random.Random(f"{seed} {run}")
        try:
            told = _settings(page, chance) or _progress(folder / "progress.json", chance)
            _exercise(folder / "x.redcrate-exercise.json", exercise, chance)
            told = told or _recovery(folder / "kept", page, chance)
        except Exception as problem:  # noqa: BLE001 any of them is what is looked for
            told = f"{type(problem).__name__}: {problem}"
        yield f"damage {seed} {run}: {told}" if told else ""


def _settings(page: Path, chance: random.Random) -> str:
    settings_path(page).write_bytes(damaged(SETTINGS, chance))
    before = read_settings(page)
    write_settings(page, before.with_silenced("duplicate-id", "*"))
    after = read_settings(page)
    same = (after.widths, after.names, after.comps) == (before.widths, before.names, before.comps)
    return "" if same and before.silenced < after.silenced | {("", "")} else "what was well is lost"


def _progress(file: Path, chance: random.Random) -> str:
    file.write_bytes(damaged(_PROGRESS, chance))
    kept = Progress(file)
    passed, asked = kept.passed(), kept.predictions().counts.get(Topic.SUMS)
    kept.keep_passed("new")
    kept.keep_prediction(Topic.SUMS, is_right=True)
    now = kept.predictions().counts[Topic.SUMS].asked
    return (
        ""
        if kept.passed() == passed | {"new"} and now == (asked.asked if asked else 0) + 1
        else "progress is lost"
    )


def _exercise(file: Path, exercise: Any, chance: random.Random) -> None:
    file.write_bytes(damaged(exercise, chance))
    with suppress(ExerciseNotReadable):
        read_exercise(file)
    with suppress(ValueError, RecursionError):
        marks_in(json.loads(damaged(_CHECK, chance)))


def _recovery(folder: Path, page: Path, chance: random.Random) -> str:
    """Kept work that is damaged is not offered, or fits what it says; it is never removed."""
    place = RecoveryFolder(folder).place_for(page)
    place.keep({"index.html": EditedFile("a", "b", b"a", b"b")}, ())
    place.leave()
    (file,) = folder.glob("*.json")
    file.write_bytes(damaged(json.loads(file.read_text()), chance))
    other = RecoveryFolder(folder).place_for(page)
    works = other.found({"index.html": ("a", b"a")})
    told = "" if file.exists() or works == () else "damaged work was removed"
    file.unlink(missing_ok=True)
    return told
