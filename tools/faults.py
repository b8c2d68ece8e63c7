"""Kills, injected errors, random sessions, damaged files, hostile pages and strangers' requests: tools/faults.py --seed N.

Each campaign says how many runs it made and prints what went wrong, with the seed and the number that repeat it. The
short run is in ./test; the long one (--long) and its figures are in docs/reliability.md.
"""

import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from pathlib import Path

import click

sys.path.insert(0, str(Path(__file__).parent.parent))

from tests.faults.damages import damages
from tests.faults.requests import requests
from tests.faults.saves import kills, refusals
from tests.faults.sessions import sessions
from tests.hostile.judging import COMMANDS, judged, judged_in_window
from tests.hostile.pages import PAGES

Campaign = Callable[[Path, int, int], Iterator[str]]
# how many runs each has: the short one, and the long one
CAMPAIGNS: dict[str, tuple[Campaign, int, int]] = {
    "kills": (kills, 6, 1000),
    "refusals": (refusals, 1, 12),
    "sessions": (sessions, 2, 400),
    "damages": (damages, 20, 3000),
    "requests": (requests, 150, 20_000),
}


@click.command()
@click.option("--seed", type=int, default=0, show_default=True)
@click.option("--long", "is_long", is_flag=True, help="The long run: some twenty minutes.")
@click.option("--only", type=click.Choice([*CAMPAIGNS, "hostile"]), help="One campaign.")
@click.option("--page", default="", help="Of the hostile pages those whose name has this in it.")
def main(seed: int, is_long: bool, only: str | None, page: str) -> None:
    """Run the campaigns; exit status 1 if anything went wrong."""
    failed = 0
    for name, (campaign, short, long) in CAMPAIGNS.items():
        if only in (None, name):
            with tempfile.TemporaryDirectory() as folder:
                failed += _told(name, campaign(Path(folder), seed, long if is_long else short))
    if only == "hostile" or (only is None and is_long):
        failed += _told("hostile", _hostile(page))
    sys.exit(1 if failed else 0)


def _told(name: str, runs: Iterator[str]) -> int:
    begun, number, wrong = time.monotonic(), 0, 0
    for said in runs:
        number += 1
        if said:
            wrong += 1
            click.echo(said)
    click.echo(f"{name}: {number} runs, {wrong} went wrong, {time.monotonic() - begun:.0f} s")
    return wrong


def _hostile(part: str) -> Iterator[str]:
    """All hostile pages with each command and in the window."""
    for name in (n for n in PAGES if part in n):
        for verdict in (*(judged(name, command) for command in COMMANDS), judged_in_window(name)):
            yield "" if verdict.holds else str(verdict)


if __name__ == "__main__":
    main()
