"""Code in a page's folder is never run: neither by the commands, started there, nor by any process that they start."""

import os
import subprocess
import sys
from pathlib import Path

import pytest

from redcrate.exercise_pages import exercises_folder
from tests.conftest import load
from tests.driving import SmallDriver, answer_of, small_driver
from tests.planted import plant

__all__ = ["small_driver"]
REDCRATE = Path(sys.executable).with_name("redcrate")
COMMANDS = {
    "report": ["report", "p.html", "--format", "text"],
    "batches": ["report", "--batch", "list"],
    "check": ["check", "p.html", "--widths", "500"],
    "sweep": ["sweep", "p.html", "--from", "480", "--to", "520", "--format", "csv"],
    "fix": ["fix", "p.html", "--family", "unit-missing", "--widths", "500"],
    "draw": ["draw", "p.html", "--select", "p"],
    "handout": ["draw", "p.html", "-o", "out.html"],
    "exercise": ["exercise", "check", "x.redcrate-exercise.json", "p.html"],
    "example": ["example", "--out", "out"],
    "proof": ["prove", "p.html", "--widths", "500"],
}


@pytest.mark.parametrize("case", COMMANDS)
def test_no_module_beside_the_page_is_loaded(
    tmp_path: Path, small_driver: SmallDriver, case: str
) -> None:
    """Modules of all the names that Python, we and what we use have; the page is large enough for worker pools."""
    folder = tmp_path / "page"
    folder.mkdir()
    many = 430 if case == "sweep" else 3
    body = "".join(f"<p style='width: {n % 9 + 1}0%; hieght: 5px'>x</p>" for n in range(many))
    (folder / "p.html").write_text(f"<!doctype html><p style='margin: 5'>a{body}")
    exercise = next(exercises_folder().rglob("*.redcrate-exercise.json"))
    (folder / "x.redcrate-exercise.json").write_bytes(exercise.read_bytes())
    (folder / "list").write_text("p.html\t500\t400\n")
    if case == "proof":
        small_driver("", {"500": answer_of(load(folder / "p.html", 500))})
    mark = plant(folder)
    environment = {n: v for n, v in os.environ.items() if n not in ("PYTHONPATH", "PYTHONSAFEPATH")}
    done = subprocess.run(
        [REDCRATE, *COMMANDS[case]],
        cwd=folder,
        env=environment,
        capture_output=True,
        text=True,
        check=False,
    )
    assert done.returncode in (0, 1) and "Error" not in done.stderr, done.stderr
    assert not mark.exists(), mark.read_text()


def test_the_package_is_no_program_by_itself() -> None:
    """`python -m` looks for modules in the present folder before any code of ours could forbid it."""
    import redcrate

    assert not Path(redcrate.__file__).with_name("__main__.py").exists()
