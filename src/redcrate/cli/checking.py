"""`redcrate check` and `redcrate fix`: findings for people and for build servers."""

import difflib
import json
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import click

from redcrate.cli.batch import batch_json
from redcrate.core.edit.targets import matched, selectors_of
from redcrate.core.errors import RedCrateError
from redcrate.core.findings.checking import Check, check_json, check_page, check_text
from redcrate.core.findings.register import FAMILIES
from redcrate.core.session import DEFAULT_WIDTHS, Session

_USUAL = ",".join(str(w) for w in sorted(DEFAULT_WIDTHS))


def parse_widths(text: str) -> list[float]:
    """Widths between commas, px; raises ValueError for what is none."""
    widths = [float(part) for part in text.split(",") if part.strip()]
    if not widths or not all(1 <= w <= 20_000 for w in widths):
        raise ValueError(text)
    return widths


def _wanted_widths(text: str) -> list[float]:
    try:
        return parse_widths(text)
    except ValueError:
        raise click.UsageError(
            "--widths takes px from 1 to 20000 with commas, such as 390,820,1280."
        ) from None


@click.command()
@click.argument("page", required=False, type=click.Path(path_type=Path))
@click.option(
    "--batch", type=click.Path(path_type=Path), help="A list of PAGE WIDTHS lines, separated by tabs."
)
@click.option("--widths", default=_USUAL, show_default=True, help="Window widths, px, with commas.")
@click.option("--format", "form", type=click.Choice(("text", "json")), default="text")
def check(page: Path | None, batch: Path | None, widths: str, form: str) -> None:
    """Say what is wrong or suspicious on PAGE; exit status 1 if something breaks the layout."""
    if batch is not None:
        for line in _batch(batch):
            click.echo(line)
        return
    if page is None:
        raise click.UsageError("name a PAGE, or a list with --batch.")
    wanted = _wanted_widths(widths)
    try:
        found = check_page(page, wanted)
    except RedCrateError as problem:
        click.echo(f"redcrate: {problem.sentence}", err=True)
        sys.exit(2)
    if form == "json":
        click.echo(json.dumps(check_json(found), ensure_ascii=False, indent=1))
    else:
        click.echo(check_text(found), nl=False)
    sys.exit(1 if found.breaks else 0)


def _batch(batch: Path) -> Iterator[str]:
    """One JSON object for each line; what fails is an object with `error`."""
    return batch_json(batch, _one)


def _one(line: str) -> dict[str, Any]:
    name, _, text = line.partition("\t")
    try:
        widths = parse_widths(text)
    except ValueError:
        return {"page": name, "error": "expected PAGE and WIDTHS (px with commas), separated by a tab"}
    try:
        return check_json(check_page(Path(name), widths))
    except RedCrateError as problem:
        return {"page": name, "error": problem.sentence}


@click.command()
@click.argument("page", type=click.Path(path_type=Path))
@click.option(
    "--family",
    required=True,
    type=click.Choice(sorted(FAMILIES)),
    metavar="FAMILY",
    help="Which finding.",
)
@click.option(
    "--select", "selector", default="", help="Only findings on the elements that this matches."
)
@click.option("--widths", default=_USUAL, show_default=True, help="Window widths, px, with commas.")
@click.option("--write", is_flag=True, help="Write it into the files instead of printing it.")
def fix(page: Path, family: str, selector: str, widths: str, write: bool) -> None:
    """Print the first verified fix of a family of findings on PAGE as a diff, or write it."""
    wanted = _wanted_widths(widths)
    try:
        patch, sentence, session = _first_fix(page, family, selector, wanted)
    except RedCrateError as problem:
        click.echo(f"redcrate: {problem.sentence}", err=True)
        sys.exit(2)
    if patch is None:
        click.echo(f"redcrate: {page}: there is no {family} with a fix.", err=True)
        sys.exit(1)
    before = session.document.texts()
    session.editor.apply(patch)
    if write:
        try:
            session.disk.save()
        except RedCrateError as problem:
            click.echo(f"redcrate: {problem.sentence}", err=True)
            sys.exit(2)
        click.echo(f"{sentence}: written to {', '.join(patch.files)}")
        return
    after = session.document.texts()
    click.echo(f"# {sentence}")
    for name in patch.files:
        lines = difflib.unified_diff(
            before[name].splitlines(keepends=True),
            after[name].splitlines(keepends=True),
            f"a/{name}",
            f"b/{name}",
        )
        click.echo("".join(line if line.endswith("\n") else f"{line}\n" for line in lines), nl=False)


def _first_fix(page: Path, family: str, selector: str, widths: list[float]) -> Any:
    found: Check = check_page(page, widths)
    session = Session(page, widths[0])
    wanted = {e.index for e in matched(found.page, selectors_of(selector))} if selector else None
    for checked in found.checked:
        mine = wanted is None or any(e.index in wanted for e in checked.finding.elements)
        if checked.finding.family == family and mine and checked.fixes:
            return checked.fixes[0].patch, checked.fixes[0].sentence, session
    return None, "", session
