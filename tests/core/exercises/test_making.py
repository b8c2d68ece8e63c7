"""Exercises that a trainer makes: boxes named and described, solutions kept as replaced texts, files written."""

import json
from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from redcrate.core.edit.patch import apply_patch
from redcrate.core.edit.targets import matched, selectors_of
from redcrate.core.exercises.conditions import Apart, Centred, EdgeIs, Inside, ShareLine, SizeIs, judge
from redcrate.core.exercises.exercise import Exercise, Hint, condition, condition_data, read_exercise
from redcrate.core.exercises.making import (
    ExerciseNotMade,
    Material,
    exercise_file,
    what_begins,
    what_is_missing,
    write_exercise,
)
from redcrate.core.exercises.marking import mark
from redcrate.core.exercises.offering import offered, selector_for
from redcrate.core.exercises.progress import Progress
from redcrate.core.exercises.shelf import Shelf
from redcrate.core.exercises.solution import Replacement, replacements, solving_patch
from redcrate.core.exercises.wording import in_words
from redcrate.core.handout.task_drawing import solved_page, task_drawing
from redcrate.core.predictions.question import Topic
from redcrate.core.session import Session
from tests.conftest import CASES, DEMO
from tests.core.exercises.test_exercises import FILES

ALL_KINDS = (
    SizeIs(".a", "border", "width", 300),
    SizeIs(".a", "content", "height", 20.5, 2),
    EdgeIs(".a", "padding", "left", 8),
    ShareLine(".a", 3),
    Centred(".a"),
    Apart(".a", ".b", 24),
    Inside(".a"),
)


@pytest.mark.parametrize("stated", ALL_KINDS, ids=lambda c: type(c).__name__)
def test_a_condition_is_kept_as_it_is(stated: SizeIs) -> None:
    """Data and back; what is as usual is not written."""
    data = condition_data(stated)
    assert condition(json.loads(json.dumps(data))) == stated
    assert ("tolerance" in data) == (stated == ALL_KINDS[1])


def test_conditions_in_words() -> None:
    """As a trainer would say them."""
    assert [in_words(c) for c in ALL_KINDS] == [
        "the border box of .a is 300 px wide",
        "the content of .a is 20.5 px high",
        "the left padding of .a is 8 px",
        "the 3 .a are in one row",
        ".a is centred within 1 px",
        "the distance from .a down to .b is 24 px",
        ".a does not overflow its container",
    ]


@pytest.mark.parametrize("path", [DEMO, *sorted(CASES.glob("*.html"))[::25]], ids=lambda p: p.stem)
def test_any_box_can_be_pointed_at(path: Path) -> None:
    """A selector matches just the elements that it was made for, and what is offered holds."""
    page = Session(path).views.page
    seen = [e for e in page.elements if page.box_of(e) is not None]
    for pair in zip(seen, seen[3:], strict=False):
        for chosen in ([pair[0]], list(pair)):
            selector = selector_for(page, chosen)
            assert set(matched(page, selectors_of(selector))) == set(chosen), selector
    for element in seen[:12]:
        found = offered(page, [element])
        assert not any(isinstance(c, EdgeIs) and c.px == 0 for c in found)
        assert len(found) >= 4 and all(judge(c, page).holds for c in found)


def test_what_several_boxes_share_is_offered_first() -> None:
    """Three that share a line; two above one another; elements without a box offer nothing."""
    page = Session(DEMO).views.page

    def those(*names: str) -> list:  # type: ignore[type-arg]
        return [e for e in page.elements if any(n in (*e.classes, e.tag) for n in names)]

    assert offered(page, those("plot"))[0] == ShareLine(".plot", 3)
    found = offered(page, [*those("seeds"), those("plot")[0]])
    assert any(
        isinstance(c, Apart) and c.of == ".plot:nth-of-type(1)" and c.to == "#seeds" for c in found
    )
    assert offered(page, those("title")) == offered(page, []) == ()


TEXTS = st.text(alphabet="ab \n", max_size=60)


@given(TEXTS, TEXTS)
def test_a_solution_turns_one_text_into_the_other(before: str, after: str) -> None:
    """Whatever lines are alike: each old text stands there once."""
    found = replacements({"f": before}, {"f": after})
    if not before or before == after:
        return
    patch = solving_patch(found, {"f": before})
    assert patch is not None and apply_patch(patch, {"f": before})[0]["f"] == after


def test_a_solution_that_fits_no_more_is_none() -> None:
    """The page was changed by hand: the text is not there, or twice."""
    one = (Replacement("f", "a", "b"),)
    assert solving_patch(one, {"f": "aa"}) is None and solving_patch(one, {"g": "a"}) is None
    assert solving_patch((), {"f": "a"}) is None
    assert replacements({"f": "a\nb\nc"}, {"f": "a\nbb\nc"}) == (Replacement("f", "b", "bb"),)
    assert replacements({"f": "x\nx\ny"}, {"f": "x\nz\ny"}) == (Replacement("f", "x\nx\ny", "x\nz\ny"),)


@pytest.mark.parametrize("file", FILES, ids=lambda f: f.parent.name)
def test_the_solution_is_drawn(file: Path) -> None:
    """Of every exercise: its own page passes, and the drawing has the number that is asked for."""
    exercise = read_exercise(file)
    page = solved_page(exercise)
    assert page is not None and mark(exercise, page, file).passed
    drawing = task_drawing(exercise, page)
    assert drawing is not None and drawing.parts
    first = exercise.conditions[0]
    if isinstance(first, SizeIs) and first.box in ("border", "content"):
        assert f"{first.px:g}" in repr(drawing)


def made(folder: Path) -> tuple[Session, Exercise, Material]:
    """The demo page with an unsaved edit, and an exercise that the edit solves."""
    session = Session(DEMO)
    notice = next(e for e in session.views.page.elements if "notice" in e.classes)
    session.editor.apply(session.editor.plan(notice, "width", ("",), "500px").patch)
    document = session.document
    saved = {n: f.source for n, f in document.files.items()}
    now = {n: document.text(n) for n in saved}
    start = session.editor.page_as_saved()
    material = Material(document.path, document.resources, saved, now, start, session.views.page)
    asked = (SizeIs(".notice", "content", "width", 500),)
    hints = (Hint((SizeIs(".notice", "border", "width", 500),), "The border counts too."),)
    return (
        session,
        Exercise("T", "Sums of a box", "Do it", document.path, 1100.0, asked, hints),
        material,
    )


def test_it_is_written_with_its_page_and_read_as_it_was(tmp_path: Path) -> None:
    """The learner's page is the saved one, byte for byte, with what it uses; the solution solves it."""
    _, exercise, material = made(tmp_path)
    assert what_is_missing(exercise, material) == ""
    assert "it meets 0 of 1 conditions. Your changes since then are kept" in what_begins(
        exercise, material
    )
    file = write_exercise(tmp_path / "new" / "mine.json", exercise, material)
    assert file.name == "mine.redcrate-exercise.json" == exercise_file(file).name
    again = read_exercise(file)
    assert replace(again, page=exercise.page, solution=()) == exercise
    for name in ("index.html", "style.css", "pictures/badge.svg"):
        assert (file.parent / name).read_bytes() == (DEMO.parent / name).read_bytes()
    page = solved_page(again)
    assert page is not None and mark(again, page, file).passed
    write_exercise(file, replace(exercise, task="Do it well"), material)
    assert read_exercise(file).task == "Do it well", "the same exercise may be written again"
    shelf = Shelf(tmp_path / "none", tmp_path / "work")
    one = shelf.add(file)
    assert shelf.exercises() == (one,)
    copy = shelf.begin(one)
    assert (copy.parent / "style.css").read_bytes() == (DEMO.parent / "style.css").read_bytes()
    assert shelf.of_page(copy) == one


def test_what_is_missing_is_said(tmp_path: Path) -> None:
    """No title, nothing asked, nothing to do; a solution that is none is told, and not kept."""
    _, exercise, material = made(tmp_path)
    for one, words in (
        (replace(exercise, title=" "), "no title"),
        (replace(exercise, group=""), "no set"),
        (replace(exercise, task=""), "no task"),
        (replace(exercise, conditions=()), "no condition yet"),
        (replace(exercise, conditions=(ShareLine(".plot", 3),)), "already meets all conditions"),
    ):
        assert words in what_is_missing(one, material)
        with pytest.raises(ExerciseNotMade, match=words):
            write_exercise(tmp_path / "x" / "x", one, material)
    other = replace(exercise, conditions=(SizeIs(".notice", "content", "width", 77),))
    assert "not a solution: not met: the content of .notice is 77 px wide" in what_begins(
        other, material
    )
    assert read_exercise(write_exercise(tmp_path / "y" / "y", other, material)).solution == ()
    with pytest.raises(ExerciseNotMade, match=r"the page itself is in that folder|other files"):
        write_exercise(DEMO.parent / "x", exercise, material)
    assert not list(DEMO.parent.glob("*exercise*")) and not (tmp_path / "x").exists()


def test_progress_keeps_one_thing_beside_the_other(tmp_path: Path) -> None:
    """Passed, opened and predicted in one file; a broken one counts as none."""
    progress = Progress(tmp_path / "deep" / "progress.json")
    progress.keep_passed("a/b")
    progress.keep_prediction(Topic.ROWS, is_right=True)
    progress.keep_opened(tmp_path / "f")
    progress.keep_opened(tmp_path / "f")
    assert progress.passed() == {"a/b"} and progress.opened() == (tmp_path / "f",)
    assert progress.predictions().sentence == "Rows: 1 of 1 right"
    (tmp_path / "deep" / "progress.json").write_text('{"passed": 3, "opened": [1], "predictions": []}')
    assert progress.passed() == frozenset() and progress.opened() == ()
    (tmp_path / "deep" / "progress.json").write_text("[")
    assert progress.predictions().sentence == ""
