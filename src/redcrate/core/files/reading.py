"""Reading a file whose name somebody else wrote: regular files alone, and only so much of one.

A page may name a device that never ends, a pipe that nobody writes to, a file of the kernel. None of
them is opened, since opening alone can do something; what is read is bounded, whatever the file says of its size.
"""

import errno
import os
import stat
from pathlib import Path

LARGEST = 64 * 2**20  # bytes
_KERNEL = ("/proc", "/sys")  # regular by name; reading one may wait for ever, or do something
_KINDS = {
    stat.S_IFIFO: "it is a pipe, not a file",
    stat.S_IFCHR: "it is a device, not a file",
    stat.S_IFBLK: "it is a device, not a file",
    stat.S_IFSOCK: "it is a socket, not a file",
}


class UnfitFile(OSError):
    """There is something of that name, but nothing that is read; `strerror` says why."""

    def __init__(self, why: str) -> None:
        super().__init__(errno.EINVAL, why)


def read_regular(path: Path, most: int = LARGEST) -> bytes:
    """The bytes of a regular file of at most `most` bytes.

    Raises OSError whose `strerror` says why: UnfitFile for what is no regular file, is too large, or has a name that
    none can have; FileNotFoundError, IsADirectoryError and the others of the system as they are.
    """
    try:
        state = os.stat(path)
        _see_to_kind(path, state)
        # should it have become a pipe meanwhile, opening it does not wait
        descriptor = os.open(path, os.O_RDONLY | os.O_NONBLOCK | os.O_NOCTTY | os.O_CLOEXEC)
    except ValueError:
        raise UnfitFile("no file can have this name") from None
    with os.fdopen(descriptor, "rb") as file:
        _see_to_kind(path, os.fstat(descriptor))
        data = file.read(most + 1) if state.st_size <= most else b""
    if state.st_size > most or len(data) > most:
        raise UnfitFile(f"it is larger than {_in_words(most)}")
    return data


def read_text(path: Path, most: int = LARGEST) -> str:
    """The same as UTF-8. Raises OSError; UnfitFile for other bytes."""
    try:
        return read_regular(path, most).decode("utf-8")
    except UnicodeDecodeError:
        raise UnfitFile("it is not UTF-8 text") from None


def reason_of(problem: OSError) -> str:
    """Why a file was not read, as a clause: "it is a device, not a file"."""
    return (problem.strerror or str(problem) or "it cannot be read").rstrip(".")


def _see_to_kind(path: Path, state: os.stat_result) -> None:
    """Raise for what is no regular file."""
    if stat.S_ISDIR(state.st_mode):
        raise IsADirectoryError(errno.EISDIR, "it is a folder")
    if not stat.S_ISREG(state.st_mode):
        raise UnfitFile(_KINDS.get(stat.S_IFMT(state.st_mode), "it is not a regular file"))
    if os.path.realpath(path).startswith(tuple(f"{root}/" for root in _KERNEL)):
        raise UnfitFile("it is a file of the kernel")


def _in_words(size: int) -> str:
    return f"{size // 2**20} MB" if size >= 2**20 else f"{size // 2**10} kB"
