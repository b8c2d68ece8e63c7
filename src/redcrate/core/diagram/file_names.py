"""Names of files for drawings: after the selector, safe in every file system, and no two alike."""

import re
from collections.abc import Iterable, Iterator

_LONGEST = 80
_UNSAFE = re.compile(r"[^\w.-]+")


def file_names(labels: Iterable[str], ending: str) -> Iterator[str]:
    """A name for each label, in order; one that is taken gets a number. ending: with its dot."""
    taken: set[str] = set()
    for label in labels:
        stem = _UNSAFE.sub("-", label.replace("#", "-")).strip("-. ")[:_LONGEST] or "block"
        name, number = stem, 1
        while name.casefold() in taken:
            number += 1
            name = f"{stem}-{number}"
        taken.add(name.casefold())
        yield f"{name}{ending}"
