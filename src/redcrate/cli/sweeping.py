"""`redcrate sweep`: an element, or the page, as a function of the window's width."""

import json
from pathlib import Path

import click

from redcrate.cli.reading import guarded
from redcrate.cli.telling import tell
from redcrate.core.diagram.svg_end import drawing_svg
from redcrate.core.diagram.sweep_plot import sweep_plot
from redcrate.core.edit.targets import matched, selectors_of
from redcrate.core.errors import FileIsThere, SelectorMatchesNothing
from redcrate.core.files.saving import write_made
from redcrate.core.files.trial import Trial
from redcrate.core.style.media import Viewport
from redcrate.core.widths.standing_at import Quantity
from redcrate.core.widths.sweep import Sweep
from redcrate.core.widths.sweep_report import sweep_csv, sweep_json

_BY_KEY = {quantity.value: quantity for quantity in Quantity}


@click.command()
@click.argument("page", type=click.Path(path_type=Path))
@click.option(
    "--select", "selector", default="", help="Element to sweep: the first match; default: the page."
)
@click.option("--from", "first", type=click.IntRange(1, 20_000), default=320, show_default=True)
@click.option("--to", "last", type=click.IntRange(1, 20_000), default=1920, show_default=True)
@click.option("--height", type=click.IntRange(1, 20_000), default=800, show_default=True)
@click.option("--format", "form", type=click.Choice(("json", "csv", "svg")), default="json")
@click.option(
    "--quantity",
    type=click.Choice(tuple(_BY_KEY)),
    help="Quantity that the SVG draws; default: the first one.",
)
@click.option("--lines", is_flag=True, help="Also compute changes of line counts and heights.")
@click.option("--every-px", is_flag=True, help="Lay out the page at every px; slower, misses nothing.")
@click.option(
    "-o", "--output", type=click.Path(path_type=Path), help="Output file; default: standard output."
)
@click.option("--force", is_flag=True, help="Overwrite an existing file.")
def sweep(
    page: Path,
    selector: str,
    first: int,
    last: int,
    height: int,
    form: str,
    quantity: str | None,
    lines: bool,
    every_px: bool,
    output: Path | None,
    force: bool,
) -> None:
    """Compute PAGE at every viewport width of a range: what changes, and at which px."""
    if first >= last:
        raise click.UsageError("--from must be less than --to.")
    if quantity == "height" and not lines:
        raise click.UsageError("heights depend on line counts: add --lines.")
    text = guarded(
        lambda: _swept(page, selector, (first, last, height), form, quantity, lines, every_px)
    )
    if output is None:
        tell(text, nl=False)
    else:
        guarded(lambda: _write(output, text, force=force))


def _write(output: Path, text: str, *, force: bool) -> None:
    if output.exists() and not force:
        raise FileIsThere(
            f"{output} already exists: nothing was exported.", remedy="Use --force to overwrite it."
        )
    write_made(output, text)


def _swept(
    path: Path,
    selector: str,
    range_: tuple[int, int, int],
    form: str,
    quantity: str | None,
    lines: bool,
    every_px: bool,
) -> str:
    first, last, height = range_
    trial = Trial.of_file(path)
    page = trial.page(Viewport(last, height))
    element = None
    if selector:
        found = matched(page, selectors_of(selector))
        if not found:
            raise SelectorMatchesNothing(f"no element matches “{selector}”.", where=str(path))
        element = found[0]
    of = element.path if element is not None else None
    wanted = Sweep.of_trial(trial, height, first, last, of, lines=lines)
    for _ in wanted.run():
        pass
    for _ in wanted.look_at_every_px() if every_px else ():
        pass
    swept = wanted.swept
    if form == "csv":
        return sweep_csv(swept)
    if form == "svg":
        drawn = _BY_KEY[quantity] if quantity else next(iter(swept.pieces))
        if drawn not in swept.pieces:
            raise click.UsageError(f"a page has no {quantity}: --select an element.")
        return drawing_svg(sweep_plot(swept, drawn, path.name))
    return json.dumps(sweep_json(swept, page, str(path)), ensure_ascii=False, indent=1) + "\n"
