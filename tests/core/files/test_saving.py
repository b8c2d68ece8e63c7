"""One file saved: what it stays to others, what nobody can plant, and what is true whatever fails on the way."""

import errno
import os
import secrets
import stat
import threading
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest

from redcrate.core.errors import ChangedOnDisk, PageNotWritable
from redcrate.core.files import saving
from redcrate.core.files.saving import save_bytes


def left_in(folder: Path) -> list[str]:
    """What saves left beside the files."""
    return [p.name for p in folder.iterdir() if p.name.startswith(".redcrate-")]


def test_the_file_stays_the_same_to_others(tmp_path: Path) -> None:
    """Permissions, owner, group and attributes; a link stays a link; new files are as the system makes them."""
    real, link = tmp_path / "real.css", tmp_path / "link.css"
    real.write_bytes(b"old")
    link.symlink_to(real)
    real.chmod(0o640)
    as_root = os.geteuid() == 0
    if as_root:
        os.chown(real, 1234, 4321)
    with_attributes = True
    try:
        os.setxattr(real, "user.note", b"kept")
    except OSError:
        with_attributes = False  # a file system without them
    save_bytes(link, b"new")
    state = real.stat()
    assert link.is_symlink() and real.read_bytes() == b"new" and stat.S_IMODE(state.st_mode) == 0o640
    assert not as_root or (state.st_uid, state.st_gid) == (1234, 4321)
    assert not with_attributes or os.getxattr(real, "user.note") == b"kept"
    was = os.umask(0o027)
    save_bytes(tmp_path / "made.css", b"x")
    os.umask(was)
    assert stat.S_IMODE((tmp_path / "made.css").stat().st_mode) == 0o640
    assert left_in(tmp_path) == []


def test_a_file_of_several_names_is_written_in_place(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """All names hold the new text, longer or shorter; a copy of the old one is there until that is done."""
    one, two = tmp_path / "one.css", tmp_path / "two.css"
    one.write_bytes(b"old text")
    os.link(one, two)
    copies: list[bytes] = []
    real = saving._overwrite

    def noting(target: Path, data: bytes) -> None:
        copies.extend(p.read_bytes() for p in tmp_path.glob(".redcrate-*.before"))
        real(target, data)

    monkeypatch.setattr(saving, "_overwrite", noting)
    for text in (b"a new text that is longer", b"short"):
        save_bytes(one, text)
        assert one.read_bytes() == two.read_bytes() == text and one.stat().st_nlink == 2
    assert copies == [b"old text", b"a new text that is longer"] and left_in(tmp_path) == []
    calls = []

    def full(target: Path, data: bytes) -> None:
        calls.append(data)
        if len(calls) == 1:
            target.write_bytes(b"half")
            raise OSError(errno.ENOSPC, "No space left on device")
        real(target, data)

    monkeypatch.setattr(saving, "_overwrite", full)
    with pytest.raises(PageNotWritable, match="No space left"):
        save_bytes(one, b"another")
    assert two.read_bytes() == b"short" and left_in(tmp_path) == []


def test_one_that_cannot_keep_its_owner_is_written_in_place(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """So that it stays its owner's."""
    path = tmp_path / "theirs.css"
    path.write_bytes(b"old")
    number = path.stat().st_ino
    monkeypatch.setattr(saving, "_attributes", lambda target: ["user.nobody-has-this"])
    save_bytes(path, b"new")
    assert path.read_bytes() == b"new" and path.stat().st_ino == number and left_in(tmp_path) == []


@pytest.mark.parametrize("kind", ["link", "pipe", "file"])
def test_nothing_that_is_planted_is_written_through(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, kind: str
) -> None:
    """Even where somebody knew the name beside the file: it is refused, and nothing hangs."""
    path, victim = tmp_path / "a.css", tmp_path / "victim"
    path.write_bytes(b"old")
    victim.write_bytes(b"theirs")
    monkeypatch.setattr(secrets, "token_hex", lambda size: "known")
    planted = tmp_path / ".redcrate-known.saving"
    if kind == "link":
        planted.symlink_to(victim)
    elif kind == "pipe":
        os.mkfifo(planted)
    else:
        planted.write_bytes(b"theirs too")
    with pytest.raises(PageNotWritable):
        save_bytes(path, b"new")
    assert path.read_bytes() == b"old" and victim.read_bytes() == b"theirs" and os.path.lexists(planted)


def test_names_beside_a_file_cannot_be_known(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Another one each time, whatever the file is called; opened as nobody else's."""
    seen: list[tuple[str, int]] = []
    real = os.open

    def noting(path: Any, flags: int, *rest: Any) -> int:
        if flags & os.O_CREAT:
            seen.append((Path(path).name, flags))
        return real(path, flags, *rest)

    monkeypatch.setattr(os, "open", noting)
    for _ in range(3):
        save_bytes(tmp_path / ("a" * 255), b"long names are saved too")
    assert len({name for name, _ in seen}) == 3 and not any("a" * 20 in name for name, _ in seen)
    assert all(flags & os.O_EXCL and flags & os.O_NOFOLLOW for _, flags in seen)


def test_what_is_left_of_saves_that_were_cut_off_is_swept(tmp_path: Path) -> None:
    """Old ones of ours; not what another save is at, nor what else is hidden there."""
    for name, age in (
        (".redcrate-1.saving", 0),
        (".redcrate-2.saving", 3600),
        (".redcrate-3.before", 3600),
        (".other.saving", 3600),
    ):
        (tmp_path / name).write_bytes(b"x")
        os.utime(tmp_path / name, (1e9, 1e9) if age else None)
    save_bytes(tmp_path / "a.css", b"new")
    assert sorted(p.name for p in tmp_path.iterdir()) == [
        ".other.saving", ".redcrate-1.saving", ".redcrate-3.before", "a.css",
    ]  # fmt: skip


def test_what_another_program_wrote_is_not_overwritten(tmp_path: Path) -> None:
    """It is compared right before; gone counts as changed, unless that is known."""
    path = tmp_path / "a.css"
    path.write_bytes(b"theirs")
    for expected in (b"old", b"theirs and more", b""):
        with pytest.raises(ChangedOnDisk, match="another program has changed"):
            save_bytes(path, b"new", expected=expected)
        assert path.read_bytes() == b"theirs" and left_in(tmp_path) == []
    save_bytes(path, b"new", expected=b"theirs")
    os.link(path, tmp_path / "b.css")
    with pytest.raises(ChangedOnDisk):
        save_bytes(path, b"newer", expected=b"theirs")
    path.unlink()
    with pytest.raises(ChangedOnDisk):
        save_bytes(path, b"newer", expected=b"new")
    save_bytes(path, b"newer", expected=b"")
    assert path.read_bytes() == b"newer"


def test_two_who_save_at_once_leave_one_or_the_other(tmp_path: Path) -> None:
    """Never a mixture, and never nothing."""
    path = tmp_path / "a.css"
    texts = [letter * 50_000 for letter in (b"a", b"b", b"c")]
    path.write_bytes(texts[0])
    stop = threading.Event()

    def save(text: bytes) -> None:
        while not stop.is_set():
            save_bytes(path, text)

    savers = [threading.Thread(target=save, args=(text,)) for text in texts[1:]]
    for saver in savers:
        saver.start()
    try:
        assert all(path.read_bytes() in texts for _ in range(400))
    finally:
        stop.set()
        for saver in savers:
            saver.join()
    assert left_in(tmp_path) == []


CALLS = ["stat", "access", "open", "fdopen", "fstat", "fchmod", "fsync", "replace", "listxattr"]


@pytest.mark.parametrize("linked", [False, True])
@pytest.mark.parametrize("call", CALLS)
def test_whatever_call_fails_the_file_is_the_old_one_or_the_new_one(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, call: str, linked: bool
) -> None:
    """Every call of a save in turn, the first time and each later one: a sentence or a whole save."""
    path = tmp_path / "a.css"
    for turn in range(6):
        path.write_bytes(b"old text")
        if linked and not (tmp_path / "b.css").exists():
            os.link(path, tmp_path / "b.css")
        with monkeypatch.context() as patch:
            patch.setattr(os, call, _failing(getattr(os, call), turn))
            try:
                save_bytes(path, b"new", expected=b"old text")
            except PageNotWritable:
                assert path.read_bytes() == b"old text"
            else:
                assert path.read_bytes() == b"new"
        for left in tmp_path.glob(".redcrate-*"):
            left.unlink()


def _failing(real: Callable[..., Any], turn: int) -> Callable[..., Any]:
    """A call of the system that fails once, at its turn."""
    calls = [0]

    def call(*given: Any, **named: Any) -> Any:
        calls[0] += 1
        if calls[0] == turn + 1:
            raise OSError(errno.EIO, "Input/output error")
        return real(*given, **named)

    return call


def test_a_folder_that_cannot_be_flushed_is_no_failed_save(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The file is in its place by then."""
    real = os.fsync

    def only_files(descriptor: int) -> None:
        if stat.S_ISDIR(os.fstat(descriptor).st_mode):
            raise OSError(errno.EINVAL, "Invalid argument")
        real(descriptor)

    monkeypatch.setattr(os, "fsync", only_files)
    save_bytes(tmp_path / "a.css", b"new")
    assert (tmp_path / "a.css").read_bytes() == b"new"
