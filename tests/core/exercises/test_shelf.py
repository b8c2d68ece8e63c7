"""The shelf: which exercises there are, copies to work on, what was done."""

from pathlib import Path

import pytest

from redcrate.core.errors import PageNotWritable
from redcrate.core.exercises.shelf import Shelf
from redcrate.exercise_pages import exercises_folder


def test_exercises_stand_in_the_order_in_which_they_are_learned(tmp_path: Path) -> None:
    """By set, then by step."""
    names = [s.name for s in Shelf(exercises_folder(), tmp_path).exercises()]
    assert len(names) == 24
    assert names[:5] == [
        "sums/notice-636",
        "sums/plot-content-250",
        "sums/tides-320",
        "sums/notice-180-high",
        "modes/two-plots",
    ]
    assert names[-1] == "centring/below-the-picture"


def test_a_copy_is_made_once_and_known_again(tmp_path: Path) -> None:
    """What the learner did to it stays, unless it is begun again."""
    shelf = Shelf(exercises_folder(), tmp_path)
    one, other = shelf.exercises()[:2]
    page = shelf.begin(one)
    assert page.read_bytes() == one.exercise.page.read_bytes()
    assert shelf.of_page(page) == one and shelf.of_page(one.exercise.page) is None
    page.write_text("mine", encoding="utf-8")
    assert shelf.begin(one) == page and page.read_text(encoding="utf-8") == "mine"
    assert shelf.begin(one, again=True).read_bytes() == one.exercise.page.read_bytes()
    assert not shelf.copy_of(other).exists()
    blocked = Shelf(exercises_folder(), tmp_path / "file")
    (tmp_path / "file").write_text("", encoding="utf-8")
    with pytest.raises(PageNotWritable):
        blocked.begin(one)
    with pytest.raises(PageNotWritable):
        blocked.keep_done(one)


@pytest.mark.parametrize(
    "text", ["", "[1]", '{"passed": 5}', '{"passed": [5, "sums/tides-320"]}', "[" * 99_999]
)
def test_progress_that_is_damaged_counts_as_far_as_it_can_be_read(tmp_path: Path, text: str) -> None:
    """And the next exercise that is done is kept."""
    (tmp_path / "progress.json").write_text(text, encoding="utf-8")
    shelf = Shelf(exercises_folder(), tmp_path)
    assert shelf.done() == ({"sums/tides-320"} if "tides" in text else frozenset())
    shelf.keep_done(shelf.exercises()[0])
    assert "sums/notice-636" in shelf.done()
