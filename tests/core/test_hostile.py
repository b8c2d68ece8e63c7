"""Pages that are slow, large or broken on purpose: some of each kind; `tools/faults.py --hostile` tries all of them."""

import os
import subprocess
import sys

import pytest

from tests.conftest import ROOT
from tests.hostile.pages import PAGES

SOME = [
    "selector: nth of nested 12", "css: nesting that doubles 12", "value: calc nested 800", "html: columns spans",
    "font: woff that unfolds to a gigabyte", "picture: svg of entities", "charset: iso-2022-jp",
    "sheet: imports one another",
]  # fmt: skip


@pytest.mark.parametrize("part", range(4))
def test_hostile_pages_answer_within_their_bounds(part: int) -> None:
    """`report` and `check`: 5 s of processor time and 600 MB each, and an answer, not an error."""
    given = [sys.executable, "-P", "-m", "tests.hostile.judging", *SOME[part::4]]
    done = subprocess.run(
        given,
        cwd=ROOT,
        env={**os.environ, "PYTHONPATH": str(ROOT)},
        capture_output=True,
        text=True,
        check=False,
    )
    assert done.returncode == 0, f"{done.stdout}{done.stderr}"
    assert done.stdout.count("ok  ") == 2 * len(SOME[part::4])


def test_there_are_some_hundred_of_them() -> None:
    """Of every kind."""
    kinds = {name.partition(":")[0] for name in PAGES}
    assert len(PAGES) >= 200 and set(SOME) <= set(PAGES)
    assert {
        "selector",
        "css",
        "value",
        "html",
        "picture",
        "font",
        "sheet",
        "charset",
        "bytes",
        "names",
    } <= kinds
