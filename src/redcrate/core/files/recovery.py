"""Unsaved work that outlives the program: for each edited file what it was on disk and what it is to be.

Every session keeps a file of its own, replaced as a whole, so that a program that is killed leaves the last or the one
before, and no session touches what another one left. A file that the session holds locked tells the others that it is
still there. What was left is told by comparing it with the disk: a file that is as it was gets its steps again, one
that is already what it was to be is done.
"""

import fcntl
import hashlib
import json
import os
import secrets
import time
from collections.abc import Iterator, Mapping
from contextlib import suppress
from enum import Enum
from pathlib import Path

import msgspec

from redcrate.core.edit.merging import merged
from redcrate.core.edit.patch import Patch, TextEdit, apply_patch, patch_between
from redcrate.core.errors import EditRefused, PageNotWritable
from redcrate.core.files.data_files import parse_json
from redcrate.core.files.reading import read_regular
from redcrate.core.files.saving import save_bytes
from redcrate.core.records import dataclass

_VERSION = 2
_MOST = 2**29  # bytes: two texts of each file, escaped


class Fits(Enum):
    """How unsaved work stands to the files on disk."""

    ALL = "the files are as they were"
    PARTLY_SAVED = "some of the files were saved, others were not"
    CHANGED = "another program has changed a file since"


@dataclass(frozen=True, slots=True)
class UnsavedWork:
    """What a session never saved. steps: what is left to do, on the files as they are now. saved: files that were.

    changed: files that another program changed since; where both changed the same lines, taking the steps puts the
    text that was never saved in the place of theirs, and undoing brings theirs back.
    """

    key: str
    written_at: float  # seconds since the epoch
    steps: tuple[Patch, ...]
    saved: tuple[str, ...] = ()
    changed: tuple[str, ...] = ()

    @property
    def fits(self) -> Fits:
        """How it stands to the files on disk."""
        return Fits.CHANGED if self.changed else Fits.PARTLY_SAVED if self.saved else Fits.ALL


class _File(msgspec.Struct):
    """was, now: the text on disk, and the one that it is to be. was_bytes, now_bytes: what tells their bytes."""

    was: str
    now: str
    was_bytes: str
    now_bytes: str


class _Step(msgspec.Struct):
    sentence: str
    edits: list[tuple[str, int, int, str]]

    def patch(self) -> Patch:
        return Patch(tuple(TextEdit(*edit) for edit in self.edits), self.sentence)


class _Kept(msgspec.Struct):
    version: int
    page: str
    written_at: float
    files: dict[str, _File]
    steps: list[_Step]


class _KeptSteps(msgspec.Struct):
    """As the first version kept it: without the texts, the files by what tells their bytes."""

    written_at: float
    files: dict[str, str]
    steps: list[_Step]


@dataclass(frozen=True, slots=True)
class EditedFile:
    """A file as it is kept: text and bytes on disk, text and bytes as they are to be."""

    was: str
    now: str
    was_bytes: bytes
    now_bytes: bytes


class RecoveryFolder:
    """Keeps the unsaved work of all sessions in `folder`."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder

    def place_for(self, page: Path) -> "RecoveryPlace":
        """A place of its own for a session that works at a page."""
        return RecoveryPlace(self, page)

    def name_of(self, page: Path) -> str:
        """What the names of all that is kept of a page begin with."""
        real = os.path.realpath(page)
        return hashlib.sha256(real.encode("utf-8", "surrogateescape")).hexdigest()[:24]

    def file(self, key: str) -> Path:
        """Where the work of a key is kept."""
        return self.folder / f"{key}.json"

    def lock(self, key: str) -> Path:
        """What a session holds locked as long as it lives."""
        return self.folder / f"{key}.lock"

    def left(self, page: Path) -> Iterator[str]:
        """The keys of what sessions left that are no more."""
        for file in sorted(self.folder.glob(f"{self.name_of(page)}*.json")):
            if not self._is_held(file.stem):
                yield file.stem

    def _is_held(self, key: str) -> bool:
        try:
            descriptor = os.open(self.lock(key), os.O_RDWR | os.O_NOFOLLOW | os.O_CLOEXEC)
        except OSError:
            return False
        try:
            fcntl.flock(descriptor, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            return True
        finally:
            os.close(descriptor)
        return False

    def forget(self, key: str) -> None:
        """What is kept under a key is no longer wanted."""
        for path in (self.file(key), self.lock(key)):
            with suppress(OSError):  # it is offered once more than needed; nothing is lost
                path.unlink(missing_ok=True)


class RecoveryPlace:
    """Where one session keeps what it has not saved."""

    def __init__(self, folder: RecoveryFolder, page: Path) -> None:
        self._folder = folder
        self._page = page
        self._key = f"{folder.name_of(page)}-{secrets.token_hex(6)}"
        self._lock: int | None = None

    def keep(self, files: Mapping[str, EditedFile], steps: tuple[Patch, ...]) -> None:
        """Keep the edited files with the steps that lead to them; none: nothing is unsaved.

        Raises PageNotWritable if that fails.
        """
        if not files:
            self.forget()
            return
        self._hold()
        kept = _Kept(
            _VERSION,
            os.path.realpath(self._page),
            time.time(),
            {n: _File(f.was, f.now, fingerprint(f.was_bytes), fingerprint(f.now_bytes)) for n, f in files.items()},
            [_Step(s.sentence, [(e.file, e.start, e.end, e.text) for e in s.edits]) for s in steps],
        )  # fmt: skip
        save_bytes(self._folder.file(self._key), _encoded(kept))

    def _hold(self) -> None:
        """Tell other sessions that this one is at work."""
        if self._lock is not None:
            return
        try:
            self._folder.folder.mkdir(parents=True, exist_ok=True, mode=0o700)
            flags = os.O_RDWR | os.O_CREAT | os.O_NOFOLLOW | os.O_CLOEXEC
            self._lock = os.open(self._folder.lock(self._key), flags, 0o600)
            fcntl.flock(self._lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError as problem:
            raise PageNotWritable(
                f"unsaved work cannot be kept ({problem.strerror}).", where=str(self._folder.folder)
            ) from None

    def forget(self) -> None:
        """Nothing is unsaved any more."""
        self._folder.forget(self._key)
        self.leave()

    def leave(self) -> None:
        """The session is no more: what it keeps is for others."""
        lock, self._lock = self._lock, None
        if lock is not None:
            with suppress(OSError):
                os.close(lock)

    def found(self, on_disk: Mapping[str, tuple[str, bytes]]) -> tuple[UnsavedWork, ...]:
        """What earlier sessions never saved, the newest first. on_disk: text and bytes of the page's files.

        What is damaged counts as nothing, and is left where it is.
        """
        works = (self._work(key, on_disk) for key in self._folder.left(self._page))
        return tuple(sorted((w for w in works if w is not None), key=lambda w: -w.written_at))

    def _work(self, key: str, on_disk: Mapping[str, tuple[str, bytes]]) -> UnsavedWork | None:
        try:
            raw = parse_json(read_regular(self._folder.file(key), _MOST))
            if isinstance(raw, dict) and raw.get("version") == 1:
                return _work_of_steps(key, msgspec.convert(raw, _KeptSteps), on_disk)
            kept = _decoded(raw)
            work = _work(key, kept, {**self._elsewhere(kept, on_disk), **on_disk})
        except (OSError, ValueError, msgspec.ValidationError, RecursionError):
            return None
        if not work.steps:  # everything was saved: there was no time to forget it
            self._folder.forget(key)
            return None
        return work

    def _elsewhere(
        self, kept: _Kept, known: Mapping[str, tuple[str, bytes]]
    ) -> dict[str, tuple[str, bytes]]:
        """Files that the page names only once its steps are done again."""
        found = {}
        for name, file in kept.files.items():
            if name not in known:
                with suppress(OSError):
                    data = read_regular(self._page.parent / name)
                    is_old = fingerprint(data) == file.was_bytes
                    text = file.was if is_old else data.decode("utf-8", "surrogateescape")
                    found[name] = (text, data)
        return found

    def drop(self, work: UnsavedWork) -> None:
        """Forget what an earlier session left."""
        self._folder.forget(work.key)


def _encoded(kept: _Kept) -> bytes:
    """As JSON, by the standard library, which writes characters that stand for bytes of another encoding as escapes."""
    return json.dumps(msgspec.to_builtins(kept)).encode("ascii")


def _work_of_steps(
    key: str, kept: _KeptSteps, on_disk: Mapping[str, tuple[str, bytes]]
) -> UnsavedWork | None:
    """Work that the first version kept: it can be taken back where the files are as they were."""
    fits = all(fingerprint(on_disk.get(name, ("", b""))[1]) == was for name, was in kept.files.items())
    return UnsavedWork(key, kept.written_at, tuple(s.patch() for s in kept.steps)) if fits else None


def _decoded(raw: object) -> _Kept:
    if not isinstance(raw, dict) or raw.get("version") != _VERSION:
        raise ValueError("kept by another version")
    return msgspec.convert(raw, _Kept)


def _work(key: str, kept: _Kept, on_disk: Mapping[str, tuple[str, bytes]]) -> UnsavedWork:
    """What is left to do of kept work on the files as they are."""
    saved, waiting, changed = [], {}, {}
    for name, file in kept.files.items():
        text, data = on_disk.get(name, ("", b""))
        found = fingerprint(data)
        if found == file.now_bytes:
            saved.append(name)
        elif found == file.was_bytes and text == file.was:
            waiting[name] = file
        else:
            changed[name] = (file, text)
    steps = _steps_of(kept, waiting)
    for name, (file, text) in changed.items():
        mine = merged(file.was, file.now, text)
        sentence = f"unsaved work in {name}, with changes of another program"
        both = mine if mine is not None else file.now
        steps += (patch_between({name: text}, {name: both}, sentence),)
    wanted = tuple(step for step in steps if step.edits)
    return UnsavedWork(key, kept.written_at, wanted, tuple(saved), tuple(changed))


def _steps_of(kept: _Kept, waiting: Mapping[str, _File]) -> tuple[Patch, ...]:
    """The steps on the files that are as they were; in one where they do not lead to what was kept."""
    was, now = {n: f.was for n, f in waiting.items()}, {n: f.now for n, f in waiting.items()}
    steps = []
    texts = dict(was)
    try:
        for patch in (step.patch() for step in kept.steps):
            part = Patch(tuple(e for e in patch.edits if e.file in waiting), patch.sentence)
            texts.update(apply_patch(part, texts)[0])
            steps.append(part)
    except EditRefused:
        texts = {}
    if texts == now:
        return tuple(step for step in steps if step.edits)
    return (patch_between(was, now, "earlier unsaved work"),) if waiting else ()


def fingerprint(data: bytes) -> str:
    """What tells two contents of a file apart."""
    return hashlib.sha256(data).hexdigest()
