"""Saving a file so that it is never half written, and is still the same file to everybody else.

Usually the new content is written beside the file, under a name that nobody can know before, and put in its place.
Where a file has several names, or an owner that we cannot give, it is written in place: then a copy of what it held
stands beside it until that is done.
"""

import errno
import os
import secrets
import stat
import time
from contextlib import suppress
from pathlib import Path

from redcrate.core.errors import ChangedOnDisk, PageNotWritable
from redcrate.core.files.reading import read_regular, reason_of

_PREFIX, _NEW, _BEFORE = ".redcrate-", ".saving", ".before"
_STALE = 60.0  # s: a save takes far less
_OURS = os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_NOFOLLOW | os.O_CLOEXEC
_KEPT_BY_THE_SYSTEM = ("security.", "trusted.")  # attributes that only it may give


class _InPlace(Exception):
    """A new file could not stand for the old one."""


def save_bytes(path: Path, data: bytes, *, expected: bytes | None = None) -> None:
    """Replace the content of `path` by `data`, or leave it as it was.

    Permissions, owner, group and extended attributes are kept; a symbolic link stays, and the file that it means is
    replaced. expected: what the file must still hold right before that; None: whatever it holds, b"": a file that is
    not there will do too. Raises ChangedOnDisk where it holds something else, and PageNotWritable with the
    reason; the old file is then untouched.
    """
    try:
        target = Path(os.path.realpath(path))
        state = _state_of(target)
        try:
            _replace(target, data, state, expected)
        except _InPlace:
            _see_to_expected(target, expected)
            _write_in_place(target, data)
        _sweep(target.parent)
    except ChangedOnDisk:
        raise
    except (OSError, ValueError) as problem:
        why = reason_of(problem) if isinstance(problem, OSError) else "no file can have this name"
        raise PageNotWritable(
            f"the file could not be saved ({why}).",
            where=str(path),
            remedy="Your changes are still here; free the file or save a copy elsewhere.",
        ) from None


def _state_of(target: Path) -> os.stat_result | None:
    """How the file is now; None if there is none. Raises OSError for what cannot be written."""
    try:
        state = os.stat(target)
    except FileNotFoundError:
        return None
    if not stat.S_ISREG(state.st_mode):
        raise OSError(errno.EINVAL, "it is not a regular file")
    if not os.access(target, os.W_OK):
        raise PermissionError(errno.EACCES, "the file is read-only")
    return state


def _see_to_expected(target: Path, expected: bytes | None) -> None:
    if expected is None:
        return
    try:
        held = read_regular(target, max(len(expected), 1))
    except FileNotFoundError:
        held = b""
    except OSError:
        held = None
    if held != expected:
        raise ChangedOnDisk(
            "another program has changed the file since it was read.",
            where=str(target),
            remedy="The file was not changed: compare the versions first.",
        )


def _beside(target: Path, ending: str) -> Path:
    """A name in the same folder that nobody can know, and that no long name makes too long."""
    return target.with_name(f"{_PREFIX}{secrets.token_hex(8)}{ending}")


def _replace(target: Path, data: bytes, state: os.stat_result | None, expected: bytes | None) -> None:
    """Write beside, flush, put in its place. Raises _InPlace where the file would become another one."""
    if state is not None and state.st_nlink > 1:
        raise _InPlace
    beside = _beside(target, _NEW)
    descriptor = os.open(beside, _OURS, 0o666 if state is None else 0o600)
    try:
        with os.fdopen(descriptor, "wb") as file:
            file.write(data)
            if state is not None:
                _make_alike(target, file.fileno(), state)
            file.flush()
            os.fsync(file.fileno())
        _see_to_expected(target, expected)
        os.replace(beside, target)
    except BaseException:
        _remove(beside)
        raise
    _flush_folder(target.parent)


def _make_alike(target: Path, descriptor: int, state: os.stat_result) -> None:
    """Owner, group, attributes and permissions of the old file for the new one."""
    new = os.fstat(descriptor)
    try:
        if (new.st_uid, new.st_gid) != (state.st_uid, state.st_gid):
            os.fchown(descriptor, state.st_uid, state.st_gid)
        for name in _attributes(target):
            if not name.startswith(_KEPT_BY_THE_SYSTEM):
                os.setxattr(descriptor, name, os.getxattr(target, name))
    except OSError:
        raise _InPlace from None
    os.fchmod(descriptor, stat.S_IMODE(state.st_mode))


def _attributes(target: Path) -> list[str]:
    try:
        return os.listxattr(target)
    except OSError:  # a file system without them
        return []


def _write_in_place(target: Path, data: bytes) -> None:
    """Write into the file itself. A copy of what it holds stands beside it until that is done."""
    held = read_regular(target)
    copy = _beside(target, _BEFORE)
    with os.fdopen(os.open(copy, _OURS, 0o600), "wb") as file:
        file.write(held)
        file.flush()
        os.fsync(file.fileno())
    try:
        _overwrite(target, data)
    except OSError as problem:
        try:
            _overwrite(target, held)
        except OSError:
            raise OSError(
                problem.errno, f"{reason_of(problem)}; its previous content is in {copy.name}"
            ) from None
        _remove(copy)
        raise
    _remove(copy)


def _remove(beside: Path) -> None:
    """What stood beside the file is no longer needed; that it stays is no failed save."""
    with suppress(OSError):
        beside.unlink()


def _overwrite(target: Path, data: bytes) -> None:
    descriptor = os.open(target, os.O_WRONLY | os.O_NOFOLLOW | os.O_CLOEXEC)
    with os.fdopen(descriptor, "wb") as file:
        _make_room(descriptor, len(data))
        file.write(data)
        file.truncate()
        file.flush()
        os.fsync(descriptor)


def _make_room(descriptor: int, size: int) -> None:
    """See that the file can become that large before anything of it is written over."""
    if size > os.fstat(descriptor).st_size:
        try:
            os.posix_fallocate(descriptor, 0, size)
        except OSError as problem:
            if problem.errno in (errno.ENOSPC, errno.EDQUOT, errno.EFBIG):
                raise


def _sweep(folder: Path) -> None:
    """Remove what saves that were cut off left beside the files."""
    with suppress(OSError), os.scandir(folder) as found:
        for entry in found:
            if entry.name.startswith(_PREFIX) and entry.name.endswith(_NEW):
                state = entry.stat(follow_symlinks=False)
                if state.st_uid == os.geteuid() and time.time() - state.st_mtime > _STALE:
                    os.unlink(entry.path)


def _flush_folder(folder: Path) -> None:
    """The file is saved by now: a folder that cannot be flushed changes nothing in that."""
    with suppress(OSError):
        descriptor = os.open(folder, os.O_RDONLY | os.O_DIRECTORY | os.O_CLOEXEC)
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
            f"{path}: it cannot be written ({problem.strerror}).",
            remedy="Check the permissions of the folder.",
        ) from None
