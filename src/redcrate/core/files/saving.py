"""Saving a file so that it is never half written: write beside it, flush, put in its place."""

import os
import stat
from pathlib import Path

from redcrate.core.errors import PageNotWritable

_BESIDE = ".{name}.redcrate-saving"


def save_bytes(path: Path, data: bytes) -> None:
    """Replace the content of `path` by `data`, or leave it as it was.

    Keeps the permissions; a symbolic link stays and the file that it means is replaced.
    Raises PageNotWritable with the reason; the old file is then untouched.
    """
    target = Path(os.path.realpath(path))
    beside = target.with_name(_BESIDE.format(name=target.name))
    try:
        mode = stat.S_IMODE(target.stat().st_mode) if target.exists() else 0o644
        if target.exists() and not os.access(target, os.W_OK):
            raise PermissionError(13, "the file is read-only")
        descriptor = os.open(beside, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, mode)
        with os.fdopen(descriptor, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        os.chmod(beside, mode)
        os.replace(beside, target)
        _flush_folder(target.parent)
    except OSError as problem:
        beside.unlink(missing_ok=True) if _may_unlink(beside) else None
        raise PageNotWritable(
            f"the file could not be saved ({problem.strerror or problem}).",
            where=str(path),
            remedy="Your changes are still here; free the file or save a copy elsewhere.",
        ) from None


def _may_unlink(path: Path) -> bool:
    return os.access(path.parent, os.W_OK)


def _flush_folder(folder: Path) -> None:
    descriptor = os.open(folder, os.O_RDONLY)
    try:
        os.fsync(descriptor)
    finally:
        os.close(descriptor)


def write_made(path: Path, text: str) -> None:
    """Write a file that can be made again, as UTF-8. Raises PageNotWritable."""
    try:
        path.write_text(text, encoding="utf-8", errors="replace")
    except OSError as problem:
        raise PageNotWritable(
            f"{path}: it cannot be written ({problem.strerror}).", remedy="Look at the folder's rights."
        ) from None
