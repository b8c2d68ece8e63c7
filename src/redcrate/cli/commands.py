"""The commands of `redcrate`: the window, and what can be done without one."""

import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import click

import redcrate
from redcrate.cli.batch import batch_json
from redcrate.cli.main import COMMANDS
from redcrate.cli.reading import guarded, height_option, load, width_option
from redcrate.cli.telling import tell, tell_json
from redcrate.cli.window_opening import NoWindow, open_window
from redcrate.core.error_boundary import error_boundary
from redcrate.core.errors import RedCrateError
from redcrate.core.report import box_report, report_csv, report_text


class _Commands(click.Group):
    """Knows `check`, `fix`, `draw`, `sweep`, `prove` and `exercise` too, but loads what they need only for them."""

    def list_commands(self, ctx: click.Context) -> list[str]:
        """All names, in the order in which the help shows them."""
        return list(COMMANDS)

    def get_command(self, ctx: click.Context, cmd_name: str) -> click.Command | None:
        """The command of that name."""
        if cmd_name in ("check", "fix"):
            from redcrate.cli import checking

            return checking.check if cmd_name == "check" else checking.fix
        if cmd_name == "draw":
            from redcrate.cli import drawing

            return drawing.draw
        if cmd_name == "sweep":
            from redcrate.cli import sweeping

            return sweeping.sweep
        if cmd_name == "prove":
            from redcrate.cli import proving

            return proving.prove
        if cmd_name == "exercise":
            from redcrate.cli import exercising

            return exercising.exercise
        return super().get_command(ctx, cmd_name)

    def resolve_command(
        self, ctx: click.Context, args: list[str]
    ) -> tuple[str | None, click.Command | None, list[str]]:
        """The command that was asked for; one that there is not is refused with the nearest name."""
        if args and args[0] not in COMMANDS and not args[0].startswith("-"):
            raise click.UsageError(_no_such_command(args[0]), ctx)
        return super().resolve_command(ctx, args)


def _no_such_command(name: str) -> str:
    from difflib import get_close_matches

    near = get_close_matches(name, COMMANDS, 1)
    hint = f" Did you mean `redcrate {near[0]}`?" if near else f" Commands: {', '.join(COMMANDS)}."
    return f"there is no command and no page “{name}”.{hint}"


@click.group(cls=_Commands, invoke_without_command=True)
@click.version_option(redcrate.__version__, prog_name="redcrate")
@click.pass_context
def commands(context: click.Context) -> None:
    """Red Crate: how the boxes of a page use the width. `redcrate PAGE` opens the window."""
    if context.invoked_subcommand is None:
        _open_window(None)


@commands.command()
@click.argument("page", required=False, type=click.Path(path_type=Path))
def window(page: Path | None) -> None:
    """Open the window, with PAGE or the demo page."""
    _open_window(page)


def _open_window(page: Path | None) -> None:
    try:
        sys.exit(open_window(page))
    except NoWindow as fault:
        raise click.ClickException(str(fault)) from None


@commands.command()
@click.argument("page", required=False, type=click.Path(path_type=Path))
@click.option("--batch", type=click.Path(path_type=Path), help="A list of PAGE WIDTH HEIGHT lines.")
@width_option
@height_option
@click.option("--format", "form", type=click.Choice(("json", "csv", "text")), default="json")
def report(page: Path | None, batch: Path | None, width: float, height: float, form: str) -> None:
    """Print the boxes of PAGE; with --batch, one JSON object a line for many pages."""
    if batch is not None:
        for line in _batch_lines(batch):
            tell(line)
        return
    if page is None:
        raise click.UsageError("Give a PAGE, or a list with --batch.")
    computed = guarded(lambda: load(page, width, height))
    if form == "json":
        tell_json(box_report(computed, str(page)))
    elif form == "csv":
        tell(report_csv(computed), nl=False)
    else:
        tell(report_text(computed, str(page)), nl=False)


def _batch_lines(batch: Path) -> Iterator[str]:
    """One JSON object for each line of the list; what fails is an object with `error`."""
    return batch_json(batch, _batch_one)


def _batch_one(line: str) -> dict[str, Any]:
    parts = line.split("\t")
    try:
        name, width, height = parts[0], float(parts[1]), float(parts[2])
    except (IndexError, ValueError):
        return {"page": parts[0], "error": "expected PAGE, WIDTH and HEIGHT with tabs between"}
    try:
        with error_boundary(name):
            return box_report(load(Path(name), width, height), name)
    except RedCrateError as problem:
        return {"page": name, "error": problem.sentence}


@commands.command()
@click.option("--out", type=click.Path(path_type=Path), default=Path("out"), show_default=True)
def example(out: Path) -> None:
    """Compute the demo page without a display and export the results to a folder."""
    from redcrate.cli.example import run_example
    from redcrate.demo_pages import demo_page

    for path in guarded(lambda: run_example(demo_page(), out)):
        tell(f"exported {path}")
