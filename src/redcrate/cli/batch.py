"""Lists of many pages in one process: a line each in, a line of JSON each out."""

import json
import sys
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import click


def batch_json(batch: Path, one: Callable[[str], dict[str, Any]]) -> Iterator[str]:
    """One JSON object for each line of the list, in its order; a list that cannot be read ends the program."""
    try:
        lines = batch.read_text(encoding="utf-8").splitlines()
    except (OSError, UnicodeDecodeError) as problem:
        click.echo(f"redcrate: {batch}: the list cannot be read ({problem}).", err=True)
        sys.exit(2)
    for line in lines:
        if line.strip():
            yield json.dumps(one(line), ensure_ascii=False, separators=(",", ":"))
