"""`redcrate check` and `redcrate fix`: findings for people and for build servers."""

import difflib
import sys
from collections import Counter
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import click

from redcrate.cli.batch import batch_json
from redcrate.cli.telling import complain, tell
from redcrate.core.edit.targets import matched, selectors_of
from redcrate.core.errors import OutsideFolder, RedCrateError
from redcrate.core.files.data_files import parse_json
from redcrate.core.files.reading import read_regular
from redcrate.core.findings.annotations import check_annotations
from redcrate.core.findings.checking import Check, Fixes, check_json, check_page, check_text
from redcrate.core.findings.finding import Severity
from redcrate.core.findings.register import FAMILIES
from redcrate.core.findings.sarif import check_sarif
from redcrate.core.findings.several import (
    Mark,
    at_least,
    marks_in,
    pages_in,
    summary,
    without_known,
    without_shared_rules,
)
from redcrate.core.plain_output import for_terminals, json_text
from redcrate.core.session import Session
from redcrate.core.style.media import DEFAULT_WIDTHS
from redcrate.core.style.window_ranges import WindowRange, range_between

USUAL_WIDTHS = ",".join(str(w) for w in sorted(DEFAULT_WIDTHS))


def parse_widths(text: str) -> list[float]:
    """Widths between commas, px; raises ValueError for what is none."""
    widths = [float(part) for part in text.split(",") if part.strip()]
    if not widths or not all(1 <= w <= 20_000 for w in widths):
        raise ValueError(text)
    return widths


def wanted_widths(text: str) -> list[float]:
    """The widths of an option, px; other text ends the program with a sentence."""
    try:
        return parse_widths(text)
    except ValueError:
        raise click.UsageError(
            "--widths takes px from 1 to 20000 with commas, such as 390,820,1280."
        ) from None


def wanted_sweep(text: str) -> WindowRange | None:
    """The range of widths that `320-1600` means; None for nothing."""
    if not text:
        return None
    try:
        first, last = (int(part) for part in text.split("-"))
        return range_between(first, last)
    except ValueError:
        raise click.UsageError(
            "--sweep takes two px with a hyphen, the smaller one first, such as 320-1600."
        ) from None


@click.command()
@click.argument("places", nargs=-1, metavar="PAGE_OR_FOLDER...", type=click.Path(path_type=Path))
@click.option(
    "--batch", type=click.Path(path_type=Path), help="A list of PAGE WIDTHS lines, separated by tabs."
)
@click.option(
    "--widths", default=USUAL_WIDTHS, show_default=True, help="Viewport widths, px, separated by commas."
)
@click.option("--format", "form", type=click.Choice(("text", "json", "sarif", "github")), default="text")
@click.option(
    "--severity",
    type=click.Choice([s.value for s in Severity]),
    default=Severity.ADVICE.value,
    show_default=True,
    help="Least severity to list.",
)
@click.option(
    "--baseline",
    type=click.Path(path_type=Path),
    help="JSON output of an earlier run: only new findings are listed and counted.",
)
@click.option(
    "--sweep", default="", help="Range to sweep, such as 320-1600: between which px the page breaks."
)
@click.option(
    "--try-fixes", is_flag=True, help="Check fixes on large pages too (2000 elements and more); slow."
)
@click.option(
    "--all",
    "everything",
    is_flag=True,
    help="List minor advice too, and each unused rule, class and typing error separately.",
)
def check(
    places: tuple[Path, ...],
    batch: Path | None,
    widths: str,
    form: str,
    severity: str,
    baseline: Path | None,
    sweep: str,
    try_fixes: bool,
    everything: bool,
) -> None:
    """Check pages for mistakes; exit status 1 if something breaks a layout."""
    if batch is not None:
        for line in _batch(batch):
            tell(line)
        return
    wanted = wanted_widths(widths)
    pages = pages_in(places)
    if not pages:
        raise click.UsageError("Give a PAGE, a folder with pages, or a list with --batch.")
    fixes = Fixes.FIRST if form == "text" else Fixes.NONE if form == "github" else Fixes.ALL
    checks, failed = _checked(
        pages, wanted, fixes, everything=everything, sweep=wanted_sweep(sweep), large_too=try_fixes
    )
    if failed and not checks:
        sys.exit(2)
    known = _known(baseline)
    told = checks if everything else without_shared_rules(checks)
    told = [without_known(at_least(c, Severity(severity)), known) for c in told]
    for line in _printed(told, form, one=len(pages) == 1 and not places[0].is_dir()):
        tell(line)
    sys.exit(2 if failed else 1 if any(c.breaks for c in told) else 0)


def _checked(
    pages: list[Path],
    widths: list[float],
    fixes: Fixes,
    *,
    everything: bool,
    sweep: WindowRange | None,
    large_too: bool,
) -> tuple[list[Check], bool]:
    """The checks of the pages that can be read, and whether one could not."""
    found, failed = [], False
    for page in pages:
        try:
            found.append(
                check_page(
                    page,
                    widths,
                    fixes=fixes,
                    fold=not everything,
                    minor=everything,
                    sweep=sweep,
                    large_too=large_too,
                )
            )
        except RedCrateError as problem:
            complain(problem.sentence)
            failed = True
    return found, failed


def _known(baseline: Path | None) -> Counter[Mark]:
    if baseline is None:
        return Counter()
    try:
        return marks_in(parse_json(read_regular(baseline)))
    except (OSError, ValueError):
        raise click.UsageError(f"{baseline} is not JSON output of redcrate check.") from None


def _printed(checks: list[Check], form: str, *, one: bool) -> Iterator[str]:
    """The lines of a format. one: whether a single page was asked for."""
    if form == "sarif":
        yield json_text(check_sarif(checks))
    elif form == "github":
        yield from check_annotations(checks)
    elif form == "json":
        pages = [check_json(c) for c in checks]
        shape = pages[0] if one and pages else {"pages": pages}
        yield json_text(shape)
    else:
        for check in checks:
            head = "" if one or not check.checked else f"{check.path}\n"
            yield f"{head}{check_text(check)}".rstrip("\n")
        if not one:
            yield summary(checks)


def _batch(batch: Path) -> Iterator[str]:
    """One JSON object for each line; what fails is an object with `error`."""
    return batch_json(batch, _one)


def _one(line: str) -> dict[str, Any]:
    name, _, text = line.partition("\t")
    try:
        widths = parse_widths(text)
    except ValueError:
        return {
            "page": name,
            "error": "expected PAGE and WIDTHS (px, separated by commas) with a tab between",
        }
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
    help="Family of the finding.",
)
@click.option(
    "--select", "selector", default="", help="Only findings on elements that match this selector."
)
@click.option(
    "--widths", default=USUAL_WIDTHS, show_default=True, help="Viewport widths, px, separated by commas."
)
@click.option("--write", is_flag=True, help="Change the files instead of printing the change.")
@click.option("--outside", is_flag=True, help="Also change files outside the page's folder.")
def fix(page: Path, family: str, selector: str, widths: str, write: bool, outside: bool) -> None:
    """Print the first checked fix of a family of findings on PAGE as a diff, or apply it."""
    wanted = wanted_widths(widths)
    try:
        patch, sentence, session = _first_fix(page, family, selector, wanted)
    except RedCrateError as problem:
        complain(problem.sentence)
        sys.exit(2)
    if patch is None:
        complain(f"{page}: no {family} finding has a fix.")
        sys.exit(1)
    before = session.document.texts()
    session.editor.apply(patch)
    if write:
        session.document.may_write_outside = outside
        try:
            session.disk.save()
        except OutsideFolder as problem:
            complain(f"{problem.sentence} Use --outside to save them.")
            sys.exit(2)
        except RedCrateError as problem:
            complain(problem.sentence)
            sys.exit(2)
        tell(f"{sentence}: saved in {', '.join(patch.files)}")
        return
    after = session.document.texts()
    tell(f"# {sentence}")
    for name in patch.files:
        lines = difflib.unified_diff(
            before[name].splitlines(keepends=True),
            after[name].splitlines(keepends=True),
            f"a/{name}",
            f"b/{name}",
        )
        text = "".join(line if line.endswith("\n") else f"{line}\n" for line in lines)
        # a program that takes the diff wants every character of it
        shown = for_terminals(text) if sys.stdout.isatty() else text
        click.echo(shown.encode("utf-8", "surrogateescape"), nl=False)


def _first_fix(page: Path, family: str, selector: str, widths: list[float]) -> Any:
    found: Check = check_page(page, widths, minor=True, large_too=True)
    session = Session(page, widths[0])
    wanted = {e.index for e in matched(found.page, selectors_of(selector))} if selector else None
    for checked in found.checked:
        mine = wanted is None or any(e.index in wanted for e in checked.finding.elements)
        if checked.finding.family == family and mine and checked.fixes:
            return checked.fixes[0].patch, checked.fixes[0].sentence, session
    return None, "", session
