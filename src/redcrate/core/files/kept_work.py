"""What took long to work out of a file, kept in the user's cache folder by the hash of what it was worked out from.

It may be taken away at any time, and is off with `REDCRATE_CACHE=off`; another value names another folder. A folder that
others can write into is not used, and what is damaged is worked out again.
"""

import os
import stat
from collections.abc import Mapping
from contextlib import suppress
from functools import cache
from hashlib import blake2b
from pathlib import Path

_DIGEST = 32  # bytes, in front of what is kept
_LARGEST, _MOST = 2**23, 2**26  # bytes of one piece, and of all
_OWN = 0o700
_OPEN = os.O_RDONLY | os.O_NOFOLLOW | os.O_CLOEXEC | os.O_NONBLOCK


class KeptWork:
    """Pieces of work in one folder; None: nothing is kept. Programs and threads may share it."""

    def __init__(self, folder: Path | None) -> None:
        self._folder = folder

    def of(self, kind: str, source: bytes) -> bytes | None:
        """What was kept of a kind of work on a source; None if it was not, or is damaged."""
        if self._folder is None or not _is_ours(self._folder):
            return None
        path = self._folder / _name(kind, source)
        try:
            whole = _read(path)
            os.utime(path)
        except OSError:
            return None
        data = whole[_DIGEST:]
        return data if whole[:_DIGEST] == _digest(data) else None

    def keep(self, kind: str, source: bytes, data: bytes) -> None:
        """Keep what was worked out; a folder that cannot be written makes no noise."""
        if self._folder is None or len(data) > _LARGEST:
            return
        import secrets  # for the few runs that have something new

        with suppress(OSError):
            self._folder.mkdir(mode=_OWN, parents=True, exist_ok=True)
            if not _is_ours(self._folder):
                return
            new = self._folder / f"new-{secrets.token_hex(8)}"
            try:
                new.write_bytes(_digest(data) + data)
                os.replace(new, self._folder / _name(kind, source))
            finally:
                new.unlink(missing_ok=True)
            self._make_room()

    def _make_room(self) -> None:
        """What was used longest ago goes first."""
        assert self._folder is not None
        found = [(e.stat().st_mtime, e.stat().st_size, e.path) for e in os.scandir(self._folder)]
        left = _MOST - sum(size for _, size, _ in found)
        for _, size, path in sorted(found):
            if left >= 0:
                return
            os.unlink(path)
            left += size


def _name(kind: str, source: bytes) -> str:
    return f"{kind}-{blake2b(source, digest_size=20).hexdigest()}"


def _digest(data: bytes) -> bytes:
    return blake2b(data, digest_size=_DIGEST).digest()


def _is_ours(folder: Path) -> bool:
    """Whether it is a folder into which nobody else can write."""
    try:
        state = os.lstat(folder)
    except OSError:
        return False
    others = stat.S_IWGRP | stat.S_IWOTH
    return stat.S_ISDIR(state.st_mode) and state.st_uid == os.getuid() and not state.st_mode & others


def _read(path: Path) -> bytes:
    """A regular file of ours. Raises OSError."""
    with open(os.open(path, _OPEN), "rb") as file:
        state = os.fstat(file.fileno())
        if not stat.S_ISREG(state.st_mode) or state.st_uid != os.getuid():
            raise OSError("no file of ours")
        return file.read(_LARGEST + _DIGEST)


def _folder_of(environment: Mapping[str, str]) -> Path | None:
    wanted = environment.get("REDCRATE_CACHE", "")
    if wanted == "off":
        return None
    if wanted:
        return Path(wanted)
    from platformdirs import user_cache_path  # where a page asks for it

    return user_cache_path("redcrate") / "read"


@cache
def kept_work() -> KeptWork:
    """What this user's Red Crate keeps."""
    return KeptWork(_folder_of(os.environ))
