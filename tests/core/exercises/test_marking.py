"""Files of exercises, and a class's hand-ins marked at once."""

import csv
import json
import shutil
from pathlib import Path
from typing import Any

import pytest
from click.testing import CliRunner, Result

from redcrate.cli.commands import commands
from redcrate.core.exercises.conditions import Centred, Condition, EdgeIs, SizeIs
from redcrate.core.exercises.exercise import Exercise, ExerciseNotReadable, read_exercise
from redcrate.core.exercises.marking import mark
from tests.conftest import ROOT, PageOf

NOTICE = ROOT / "exercises" / "sums" / "notice-636"
FILE = NOTICE / "notice-636.redcrate-exercise.json"
GOOD: dict[str, Any] = json.loads(FILE.read_text(encoding="utf-8"))
SIZE = GOOD["conditions"][0]


@pytest.fixture
def class_of_three(tmp_path: Path) -> Path:
    """Ada has it, Ben forgot what comes on top, Cem changed nothing."""
    for name, width, padding in (
        ("ada", "572px", "24px 30px"),
        ("ben", "636px", "24px 30px"),
        ("cem", "600px", "24px 0"),
    ):
        (tmp_path / name).mkdir()
        text = (NOTICE / "index.html").read_text(encoding="utf-8")
        text = text.replace("width: 600px; padding: 24px 0", f"width: {width}; padding: {padding}")
        (tmp_path / name / "index.html").write_text(text, encoding="utf-8")
    return tmp_path


def check(*given: object) -> Result:
    """`redcrate exercise check` with the notice."""
    return CliRunner().invoke(commands, ["exercise", "check", str(FILE), *(str(g) for g in given)])


def test_a_folder_of_hand_ins_is_marked_as_text(class_of_three: Path) -> None:
    """A line for each, the mistake first, then what was measured, then the sum behind it."""
    result = check(class_of_three)
    assert result.exit_code == 1
    lines = result.stdout.splitlines()
    assert lines[0] == GOOD["title"] and lines[-1] == "1 of 3 passed."
    assert lines[2].split("  ")[:2] == ["passed", "5 of 5"]
    assert lines[3].split("  ")[:2] == ["not yet", "4 of 5"]
    assert lines[4].strip() == GOOD["hints"][0]["say"]
    assert lines[5].strip() == "The border box of section.notice is 700 px wide: 64 px too much."
    assert lines[6].strip() == "636 px content + 60 padding + 4 border = 700 px."
    assert lines[7].split("  ")[:2] == ["not yet", "2 of 5"]
    assert check(class_of_three / "ada").exit_code == 0


def test_it_is_a_table_and_data_too(class_of_three: Path) -> None:
    """CSV for a spreadsheet, JSON for all that was measured."""
    rows = list(csv.reader(check(class_of_three, "--format", "csv").stdout.splitlines()))
    assert rows[0] == ["page", "passed", "conditions", "hint"]
    assert [r[1:3] for r in rows[1:]] == [["yes", "5 of 5"], ["no", "4 of 5"], ["no", "2 of 5"]]
    assert rows[1][3] == "" and rows[2][3] == GOOD["hints"][0]["say"]
    told = json.loads(check(class_of_three, "--format", "json").stdout)
    assert told["exercise"] == GOOD["title"]
    assert [p["passed"] for p in told["pages"]] == [True, False, False]
    assert [c["holds"] for c in told["pages"][1]["conditions"]] == [False, True, True, True, True]


def test_a_page_that_cannot_be_read_is_told_and_the_others_are_marked(class_of_three: Path) -> None:
    """Exit status 2."""
    result = check(class_of_three / "ada", class_of_three / "nobody.html")
    assert result.exit_code == 2 and "1 of 1 passed." in result.stdout and "nobody.html" in result.stderr


WRONG = [
    ({"format": 2}, "“format” is not 1"), ({"page": "../index.html"}, "“page” does not name a file beside"), ({"page": "/etc/passwd"}, "“page” does not name a file"),
    ({"page": 5}, "“page” is not text"), ({"window": 0}, "“window” is not a width"), ({"window": True}, "“window” is not a width"), ({"title": " "}, "“title” is not text"),
    ({"conditions": []}, "no “conditions”"), ({"conditions": {}}, "“conditions” is not a list"), ({"conditions": [5]}, "“is” of a condition must be one of size, edge"),
    ({"conditions": [{"is": "red"}]}, "“is” of a condition must be"), ({"conditions": [{"is": "size", "of": "p"}]}, "“size” has no “box”"),
    ({"conditions": [SIZE | {"box": "outer"}]}, "“box” of a condition “size” must be one of margin, border"), ({"conditions": [SIZE | {"px": "636"}]}, "“px” of a condition “size” is not a number"),
    ({"conditions": [SIZE | {"px": 1e300}]}, "is not a number"), ({"conditions": [SIZE | {"of": ""}]}, "“of” of a condition “size” is not text"),
    ({"conditions": [{"is": "share-line", "of": "p", "count": 2.5}]}, "“count” of a condition “share-line” is not a number"),
    ({"step": "first"}, "“step” is not a number"), ({"hints": [5]}, "a hint is not an object"), ({"hints": [{"when": []}]}, "“say” is not text"), ({"hints": [{"when": [{"is": "x"}], "say": "y"}]}, "“is” of a condition must be"),
]  # fmt: skip


@pytest.mark.parametrize(("other", "said"), WRONG)
def test_a_file_that_is_wrong_says_where(tmp_path: Path, other: dict[str, Any], said: str) -> None:
    """One sentence, with the file and what to do."""
    file = tmp_path / "x.redcrate-exercise.json"
    file.write_text(json.dumps(GOOD | other), encoding="utf-8")
    with pytest.raises(ExerciseNotReadable) as raised:
        read_exercise(file)
    assert said in raised.value.sentence and str(file) in raised.value.sentence


@pytest.mark.parametrize("text", ["", "[" * 100_000, "[1]", "nonsense", "null", "\udcff"])
def test_what_is_no_exercise_is_said_to_be_none(tmp_path: Path, text: str) -> None:
    """Whatever a file holds; the command ends with status 2 and that sentence."""
    file = tmp_path / "x.redcrate-exercise.json"
    file.write_bytes(text.encode("utf-8", "surrogateescape"))
    result = CliRunner().invoke(commands, ["exercise", "check", str(file), str(NOTICE)])
    assert result.exit_code == 2 and len(result.stderr.splitlines()) == 1
    with pytest.raises(ExerciseNotReadable):
        read_exercise(tmp_path / "not-there.json")


def test_what_is_left_out_has_its_usual_value(tmp_path: Path) -> None:
    """A window of 1100 px, no hints, half a px of tolerance; a whole number of px may have a point."""
    shutil.copytree(NOTICE, tmp_path / "n")
    file = tmp_path / "n" / FILE.name
    data = {k: v for k, v in GOOD.items() if k not in ("window", "hints")} | {
        "conditions": [SIZE | {"px": 636.4}]
    }
    file.write_text(json.dumps(data), encoding="utf-8")
    found = read_exercise(file)
    assert (found.window, found.hints, found.page) == (1100.0, (), tmp_path / "n" / "index.html")
    (condition,) = found.conditions
    assert condition.tolerance == 0.5


@pytest.mark.parametrize(
    ("condition", "sum_of"),
    [
        (EdgeIs("p", "padding", "left", 30), "width"),
        (EdgeIs("p", "padding", "bottom", 30), "height"),
        (SizeIs("p", "border", "width", 30), "width"),
        (SizeIs("p", "border", "height", 30), "height"),
        (Centred("p"), ""),
    ],
)
def test_the_sum_of_a_hint_is_of_the_axis_that_was_asked_for(
    page_of: PageOf, condition: Condition, sum_of: str
) -> None:
    """What was measured, and where it is a length, why it is so across or down."""
    page = page_of("<p>x</p>", "p { width: 400px; height: 70px; padding: 6px 5px; margin: 0 0 0 9px }")
    exercise = Exercise("t", "g", "task", Path("p.html"), 1000, (condition,), ())
    sums = {
        "width": "400 px content + 10 padding = 410 px.",
        "height": "height: 70px.",
        "": None,
    }
    assert [*mark(exercise, page, Path("p.html")).hints, None][1] == sums[sum_of]
