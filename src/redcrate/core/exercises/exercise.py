"""An exercise as it is kept: one open file beside its page. docs/exercise-format.md, exercise_schema.json."""

from collections.abc import Mapping
from dataclasses import MISSING, fields
from pathlib import Path
from typing import Any, Literal, get_args, get_origin, get_type_hints

from redcrate.core.errors import RedCrateError
from redcrate.core.exercises.conditions import (
    Apart,
    Centred,
    Condition,
    EdgeIs,
    Inside,
    ShareLine,
    SizeIs,
)
from redcrate.core.exercises.solution import Replacement
from redcrate.core.files.data_files import parse_json
from redcrate.core.files.reading import read_regular, reason_of
from redcrate.core.records import dataclass

ENDING = ".redcrate-exercise.json"
_VERSION = 1
_MOST_BYTES = 2**20
_KINDS: Mapping[str, type] = {
    "size": SizeIs,
    "edge": EdgeIs,
    "share-line": ShareLine,
    "centred": Centred,
    "apart": Apart,
    "inside": Inside,
}


class ExerciseNotReadable(RedCrateError):
    """The file of an exercise is not there, or not what an exercise is."""


@dataclass(frozen=True, slots=True)
class Hint:
    """What to say where a mistake shows in the boxes. when: all of these conditions hold."""

    when: tuple[Condition, ...]
    say: str


@dataclass(frozen=True, slots=True)
class Exercise:
    """task: what is to be done, in a sentence or two. page: its file, beside that of the exercise. window: px.

    step: where it stands in its set. solution: one way to do it; () where none is kept.
    """

    title: str
    group: str
    task: str
    page: Path
    window: float
    conditions: tuple[Condition, ...]
    hints: tuple[Hint, ...]
    step: float = 0.0
    solution: tuple[Replacement, ...] = ()


def read_exercise(path: Path) -> Exercise:
    """The exercise in a file. Raises ExerciseNotReadable, which says what is wrong with it."""
    try:
        data = parse_json(read_regular(path, _MOST_BYTES))
    except OSError as problem:
        raise ExerciseNotReadable(
            f"it cannot be read ({reason_of(problem)}).",
            where=str(path),
            remedy="Choose an exercise file.",
        ) from None
    except ValueError:
        raise ExerciseNotReadable(
            "it is not JSON.", where=str(path), remedy="Choose an exercise file."
        ) from None
    try:
        return _exercise(data, path.parent)
    except _Wrong as wrong:
        raise ExerciseNotReadable(
            f"{wrong}.", where=str(path), remedy="docs/exercise-format.md describes the format."
        ) from None


class _Wrong(Exception):
    """What is wrong with the data."""


def _exercise(data: Any, folder: Path) -> Exercise:
    if not isinstance(data, dict) or data.get("format") != _VERSION:
        raise _Wrong(f"“format” is not {_VERSION}")
    page = Path(_text(data, "page"))
    if page.is_absolute() or ".." in page.parts or "\0" in page.name:
        raise _Wrong("“page” does not name a file beside the exercise")
    window = data.get("window", 1100)
    if not _is_number(window) or not 1 <= window <= 20_000:
        raise _Wrong("“window” is not a width from 1 to 20000 px")
    conditions = tuple(condition(c) for c in _list(data, "conditions"))
    if not conditions:
        raise _Wrong("there are no “conditions”")
    hints = tuple(_hint(h) for h in _list(data, "hints"))
    title, group, task = (_text(data, name) for name in ("title", "group", "task"))
    step = data.get("step", 0)
    if not _is_number(step):
        raise _Wrong("“step” is not a number")
    solution = tuple(_replacement(r) for r in _list(data, "solution"))
    return Exercise(
        title, group, task, folder / page, float(window), conditions, hints, float(step), solution
    )


def _replacement(data: Any) -> Replacement:
    if not isinstance(data, dict) or not isinstance(data.get("new"), str):
        raise _Wrong("a replacement in the “solution” needs “file”, “old” and “new”")
    return Replacement(_text(data, "file"), _text(data, "old"), data["new"])


def _hint(data: Any) -> Hint:
    if not isinstance(data, dict):
        raise _Wrong("a hint is not an object")
    return Hint(tuple(condition(c) for c in _list(data, "when")), _text(data, "say"))


def condition(data: Any) -> Condition:
    """A condition from its data: `is` tells the kind, the other keys are its fields."""
    name = data.get("is") if isinstance(data, dict) else None
    kind = _KINDS.get(name) if isinstance(name, str) else None
    if kind is None:
        raise _Wrong(f"“is” of a condition must be one of {', '.join(_KINDS)}")
    hints = get_type_hints(kind)
    values: dict[str, Any] = {}
    for field in fields(kind):
        if field.name in data:
            values[field.name] = _value(data["is"], field.name, data[field.name], hints[field.name])
        elif field.default is MISSING:
            raise _Wrong(f"a condition “{data['is']}” has no “{field.name}”")
    made: Condition = kind(**values)
    return made


def condition_data(stated: Condition) -> dict[str, Any]:
    """A condition as it is kept; what is as usual is left out."""
    name = next(n for n, kind in _KINDS.items() if isinstance(stated, kind))
    values = {f.name: getattr(stated, f.name) for f in fields(stated)}
    usual = {f.name: f.default for f in fields(stated)}
    return {"is": name, **{n: v for n, v in values.items() if v != usual[n]}}


def exercise_data(exercise: Exercise) -> dict[str, Any]:
    """An exercise as it is kept beside its page."""
    return {
        "format": _VERSION,
        "title": exercise.title,
        "group": exercise.group,
        "step": exercise.step,
        "task": exercise.task,
        "page": exercise.page.name,
        "window": exercise.window,
        "conditions": [condition_data(c) for c in exercise.conditions],
        "hints": [{"when": [condition_data(c) for c in h.when], "say": h.say} for h in exercise.hints],
        "solution": [{"file": r.file, "old": r.old, "new": r.new} for r in exercise.solution],
    }


def _value(kind: str, name: str, value: Any, wanted: Any) -> Any:
    if get_origin(wanted) is Literal:
        if not isinstance(value, str) or value not in get_args(wanted):
            raise _Wrong(
                f"“{name}” of a condition “{kind}” must be one of {', '.join(get_args(wanted))}"
            )
    elif wanted is str:
        if not isinstance(value, str) or not value.strip():
            raise _Wrong(f"“{name}” of a condition “{kind}” is not text")
    elif not _is_number(value) or (wanted is int and value != int(value)):
        raise _Wrong(f"“{name}” of a condition “{kind}” is not a number")
    return wanted(value) if wanted in (int, float) else value


def _is_number(value: Any) -> bool:
    return isinstance(value, (int, float)) and not isinstance(value, bool) and abs(value) < 1e6


def _text(data: Mapping[str, Any], name: str) -> str:
    value = data.get(name)
    if not isinstance(value, str) or not value.strip():
        raise _Wrong(f"“{name}” is not text")
    return value


def _list(data: Mapping[str, Any], name: str) -> list[Any]:
    value = data.get(name, [])
    if not isinstance(value, list):
        raise _Wrong(f"“{name}” is not a list")
    return value
