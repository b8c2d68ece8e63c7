"""`redcrate exercise`: marks what learners handed in."""

import sys
from collections.abc import Sequence
from pathlib import Path

import click

from redcrate.cli.telling import complain, tell, tell_json
from redcrate.core.error_boundary import error_boundary
from redcrate.core.errors import RedCrateError
from redcrate.core.exercises.exercise import read_exercise
from redcrate.core.exercises.marking import Marked, mark_file, marked_json, marked_rows
from redcrate.core.findings.several import pages_in
from redcrate.core.plain_output import csv_text


@click.group()
def exercise() -> None:
    """Exercises: tasks with conditions on computed boxes."""


@exercise.command()
@click.argument("file", type=click.Path(path_type=Path))
@click.argument(
    "places", nargs=-1, required=True, metavar="PAGE_OR_FOLDER...", type=click.Path(path_type=Path)
)
@click.option("--format", "form", type=click.Choice(("text", "csv", "json")), default="text")
def check(file: Path, places: tuple[Path, ...], form: str) -> None:
    """Mark pages with the exercise in FILE; exit status 1 if one does not pass, 2 if one cannot be read."""
    try:
        wanted = read_exercise(file)
        marked, unread = [], False
        for page in pages_in(places):
            try:
                with error_boundary(str(page)):
                    marked.append(mark_file(wanted, page))
            except RedCrateError as problem:
                complain(problem.sentence)
                unread = True
    except RedCrateError as problem:
        complain(problem.sentence)
        sys.exit(2)
    if form == "json":
        tell_json(marked_json(wanted, marked))
    elif form == "csv":
        tell(csv_text(marked_rows(marked)), nl=False)
    else:
        tell(_text(wanted.title, marked))
    sys.exit(2 if unread else 0 if all(m.passed for m in marked) else 1)


def _text(title: str, marked: Sequence[Marked]) -> str:
    lines = [title, ""]
    for one in marked:
        lines.append(
            f"{'passed' if one.passed else 'not yet'}  {one.held} of {len(one.verdicts)}  {one.page}"
        )
        lines += [f"            {hint}" for hint in one.hints]
    count = sum(m.passed for m in marked)
    return "\n".join([*lines, "", f"{count} of {len(marked)} passed."])
