"""Lays out pages made at random and holds the laws against each: tools/fuzz.py --minutes N.

What breaks a law is printed as a family and a seed that reproduce it: tools/fuzz.py --show FAMILY SEED
prints the page, --one FAMILY SEED runs it.
"""

import sys
import tempfile
import time
import traceback
from itertools import count
from pathlib import Path

import click

sys.path.insert(0, str(Path(__file__).parent.parent))

from tests.made_pages import FAMILIES, made_page
from tests.trying import try_page


@click.command()
@click.option("--minutes", type=float, default=1.0, show_default=True)
@click.option("--from", "first", type=int, default=0, show_default=True, help="The first seed.")
@click.option("--show", nargs=2, type=(str, int), help="Print the page of a family and a seed.")
@click.option("--one", nargs=2, type=(str, int), help="Run one page, with its traceback.")
@click.option("--family", type=click.Choice(sorted(FAMILIES)), help="Only this one.")
def main(
    minutes: float,
    first: int,
    show: tuple[str, int] | None,
    one: tuple[str, int] | None,
    family: str | None,
) -> None:
    """Run seeds until the time is up; exit status 1 if one broke a law."""
    with tempfile.TemporaryDirectory() as folder:
        if show:
            click.echo(made_page(*show))
        elif one:
            try_page(*one, Path(folder))
        else:
            sys.exit(_run(minutes, first, Path(folder), [family] if family else sorted(FAMILIES)))


def _run(minutes: float, first: int, folder: Path, families: list[str]) -> int:
    end, failed, done = time.monotonic() + minutes * 60, 0, 0
    for seed in count(first):
        for family in families:
            if time.monotonic() > end:
                click.echo(f"{done} pages, {failed} broke a law")
                return 1 if failed else 0
            done += 1
            begun = time.monotonic()
            try:
                try_page(family, seed, folder)
            except Exception as problem:  # noqa: BLE001 any of them is what is looked for
                failed += 1
                place = traceback.extract_tb(problem.__traceback__)[-1]
                click.echo(
                    f"--one {family} {seed}: {str(problem)[:200]} ({Path(place.filename).name}:{place.lineno})"
                )
            if time.monotonic() - begun > 10:
                click.echo(f"--one {family} {seed}: {time.monotonic() - begun:.0f} s")
    return 0


if __name__ == "__main__":
    main()
