"""How the commands print: whatever a page holds, a terminal shows it and does nothing else."""

from typing import Any

import click

from redcrate.core.plain_output import for_terminals, json_text


def tell(text: str, *, nl: bool = True) -> None:
    """Print a text, with a line end unless it has one."""
    click.echo(for_terminals(text), nl=nl)


def tell_json(data: Any, *, indent: int | None = 1) -> None:
    """Print data as JSON."""
    click.echo(json_text(data, indent=indent))


def complain(sentence: str) -> None:
    """Print what went wrong, where it disturbs no output."""
    click.echo(for_terminals(f"redcrate: {sentence}"), err=True)
