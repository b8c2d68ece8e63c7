"""Unsaved work that outlives the program: the steps since the last save, kept in a folder of its own.

One file a page, replaced as a whole, so that a program that is killed leaves the last or the one
before. It holds patches, and a fingerprint of the files that they fit.
"""

import hashlib
import json
import time
from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path

from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.errors import PageNotWritable
from redcrate.core.files.saving import save_bytes

_VERSION = 1


@dataclass(frozen=True, slots=True)
class UnsavedWork:
    """Steps that were never saved. fits: whether the files are still those that the steps began with."""

    page: Path
    written_at: float  # seconds since the epoch
    steps: tuple[Patch, ...]
    fits: bool


class RecoveryFolder:
    """Keeps the unsaved steps of pages in `folder`."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder

    def _file(self, page: Path) -> Path:
        name = hashlib.sha256(str(page.resolve()).encode("utf-8", "surrogateescape")).hexdigest()[:24]
        return self.folder / f"{name}.json"

    def keep(self, page: Path, on_disk: Mapping[str, bytes], steps: tuple[Patch, ...]) -> None:
        """Keep the steps that turn the files on disk into what is open; none: forget the page.

        Raises PageNotWritable if that fails.
        """
        if not steps:
            self.forget(page)
            return
        try:
            self.folder.mkdir(parents=True, exist_ok=True)
        except OSError as problem:
            raise PageNotWritable(
                f"unsaved work cannot be kept ({problem.strerror}).", where=str(self.folder)
            ) from None
        text = json.dumps(
            {
                "version": _VERSION,
                "page": str(page.resolve()),
                "written_at": time.time(),
                "files": {name: fingerprint(data) for name, data in on_disk.items()},
                "steps": [
                    {
                        "sentence": s.sentence,
                        "edits": [[e.file, e.start, e.end, e.text] for e in s.edits],
                    }
                    for s in steps
                ],
            }
        )
        save_bytes(self._file(page), text.encode("utf-8", "surrogatepass"))

    def forget(self, page: Path) -> None:
        """Nothing of the page is unsaved any more."""
        try:
            self._file(page).unlink(missing_ok=True)
        except OSError:
            return  # it is offered once more than needed; nothing is lost

    def find(self, page: Path, on_disk: Mapping[str, bytes]) -> UnsavedWork | None:
        """What was never saved of a page; None if nothing was. A damaged file counts as nothing."""
        try:
            kept = json.loads(self._file(page).read_bytes().decode("utf-8", "surrogatepass"))
            if kept["version"] != _VERSION:
                return None
            steps = tuple(
                Patch(
                    tuple(TextEdit(f, int(a), int(b), str(t)) for f, a, b, t in s["edits"]),
                    str(s["sentence"]),
                )
                for s in kept["steps"]
            )
            fits = all(fingerprint(on_disk.get(n, b"")) == f for n, f in kept["files"].items())
            return UnsavedWork(page, float(kept["written_at"]), steps, fits)
        except (OSError, ValueError, KeyError, TypeError):
            return None


def fingerprint(data: bytes) -> str:
    """What tells two contents of a file apart."""
    return hashlib.sha256(data).hexdigest()
