"""Lists of many pages in one process: a line each in, a line of JSON each out."""

import sys
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

from redcrate.cli.telling import complain
from redcrate.core.files.reading import read_text, reason_of
from redcrate.core.plain_output import json_text


def batch_json(batch: Path, one: Callable[[str], dict[str, Any]]) -> Iterator[str]:
    """One JSON object for each line of the list, in its order; a list that cannot be read ends the program."""
    try:
        lines = read_text(batch).splitlines()
    except OSError as problem:
        complain(f"{batch}: the list cannot be read ({reason_of(problem)}).")
        sys.exit(2)
    for line in lines:
        if line.strip():
            yield json_text(one(line), indent=None)
