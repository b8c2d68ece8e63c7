"""`redcrate prove`: a page's boxes held against those of a browser that is installed here."""

import sys
from dataclasses import replace
from pathlib import Path
from typing import Any

import click

from redcrate.cli.batch import batch_json
from redcrate.cli.checking import USUAL_WIDTHS, parse_widths, wanted_widths
from redcrate.cli.reading import height_option
from redcrate.cli.telling import complain, tell, tell_json
from redcrate.core.error_boundary import error_boundary
from redcrate.core.errors import RedCrateError
from redcrate.core.files.trial import Trial
from redcrate.core.proof.browsers import BrowserKind
from redcrate.core.proof.proving import TOLERANCE, Wish
from redcrate.core.proof.reporting import proof_json, proof_text
from redcrate.core.proof.warm import WarmBrowser


@click.command()
@click.argument("page", required=False, type=click.Path(path_type=Path))
@click.option(
    "--batch", type=click.Path(path_type=Path), help="A list of PAGE WIDTHS lines, separated by tabs."
)
@click.option(
    "--widths", default=USUAL_WIDTHS, show_default=True, help="Viewport widths, px, separated by commas."
)
@height_option
@click.option(
    "--browser",
    "kind",
    type=click.Choice([k.value for k in BrowserKind]),
    help="Browser to compare with; default: the first one installed.",
)
@click.option(
    "--driver", type=click.Path(path_type=Path), help="Path of its driver, if it is not on PATH."
)
@click.option(
    "--tolerance",
    type=click.FloatRange(min=0.0),
    default=TOLERANCE,
    show_default=True,
    help="Allowed difference of a box, px.",
)
@click.option(
    "--scripts",
    is_flag=True,
    help="Run the page's scripts in the browser and compute the resulting document.",
)
@click.option(
    "--patience",
    type=click.FloatRange(min=1.0),
    default=20.0,
    show_default=True,
    help="Longest time for loading a page, s.",
)
@click.option("--format", "form", type=click.Choice(("text", "json")), default="text")
def prove(
    page: Path | None, batch: Path | None, widths: str, height: float, kind: str | None, driver: Path | None,
    tolerance: float, scripts: bool, patience: float, form: str,
) -> None:  # fmt: skip
    """Compare the boxes of PAGE with those of an installed browser; exit status 1 if they differ."""
    wish = Wish(wanted_widths(widths), height, tolerance, scripts)
    if page is None and batch is None:
        raise click.UsageError("Give a PAGE, or a list with --batch.")
    browser = WarmBrowser(None if kind is None else BrowserKind(kind), driver, patience)
    try:
        if batch is not None:
            differs = _all(batch, browser, wish)
        elif page is not None:
            differs = _one(page, browser, wish, form)
    except RedCrateError as problem:
        complain(problem.sentence)
        sys.exit(2)
    finally:
        browser.close()
    sys.exit(1 if differs else 0)


def _one(page: Path, browser: WarmBrowser, wish: Wish, form: str) -> bool:
    with error_boundary(str(page)):
        proof = browser.prove(Trial.of_file(page), wish)
        if form == "json":
            tell_json(proof_json(proof))
        else:
            tell(proof_text(proof))
    return proof.differs


def _all(batch: Path, browser: WarmBrowser, wish: Wish) -> bool:
    """One JSON object a line; what fails is an object with `error`. Raises NoBrowser, before the first."""
    browser.open()
    differs: list[bool] = []

    def one(line: str) -> dict[str, Any]:
        name, _, text = line.partition("\t")
        try:
            with error_boundary(name):
                widths = replace(wish, widths=parse_widths(text)) if text else wish
                proof = browser.prove(Trial.of_file(Path(name)), widths)
        except ValueError:
            return {
                "page": name,
                "error": "expected PAGE and WIDTHS (px, separated by commas) with a tab between",
            }
        except RedCrateError as problem:
            differs.append(True)
            return {"page": name, "error": problem.sentence}
        differs.append(proof.differs)
        return proof_json(proof)

    for told in batch_json(batch, one):
        tell(told)
    return any(differs)
