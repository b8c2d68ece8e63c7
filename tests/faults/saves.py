"""Saves that are killed, and saves of which every call of the system fails in turn."""

import errno
import os
import random
import shutil
import signal
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.errors import PageNotWritable
from redcrate.core.files.recovery import RecoveryFolder
from redcrate.core.session import Session
from tests.conftest import ROOT

DEMO = ROOT / "demo" / "ploverfield"
# What a save asks of the system; each call is a moment at which it can be killed or refused.
CALLS = "stat fstat access open close fdopen write fchmod fchown fsync replace unlink scandir listxattr mkdir utime".split()


@dataclass(frozen=True)
class Scene:
    """A page with two files, edited in both: what they held, what they are to hold, and where work is kept."""

    page: Path
    kept: Path
    old: dict[Path, bytes]
    new: dict[Path, bytes]


def scene(folder: Path, chance: random.Random) -> tuple[Scene, Session]:
    """A copy of the demo page with edits that are not saved; one of its files may have two names."""
    home = folder / "page"
    shutil.copytree(DEMO, home)
    if chance.random() < 0.3:
        os.link(home / "style.css", home / "linked.css")
    session = Session(home / "index.html", recovery=RecoveryFolder(folder / "kept"))
    files = {f.path: name for name, f in session.document.files.items()}
    for _ in range(chance.randint(1, 4)):
        for name in files.values():
            length = len(session.document.text(name).text)
            at, text = (
                (length, "<!-- y -->")
                if name.endswith(".html")
                else (chance.randrange(length), "/* x */")
            )
            session.editor.apply(Patch((TextEdit(name, at, at, text),), f"an edit of {name}"))
    old = {path: path.read_bytes() for path in files}
    new = {path: session.document.text(name).encode() for path, name in files.items()}
    return Scene(home / "index.html", folder / "kept", old, new), session


def stopping_at(number: int, stop: Callable[[], Any]) -> dict[str, Callable[..., Any]]:
    """The calls of the system, of which the one of that number does something else."""
    calls = [0]

    def wrapped(real: Callable[..., Any]) -> Callable[..., Any]:
        def call(*given: Any, **named: Any) -> Any:
            calls[0] += 1
            return stop() if calls[0] == number else real(*given, **named)

        return call

    return {name: wrapped(getattr(os, name)) for name in CALLS}


def killed_save(folder: Path, chance: random.Random) -> str:
    """A process that is killed at some call of its save; then what is on disk, and what a new session makes of it."""
    set_up, session = scene(folder, chance)
    child = os.fork()
    if child == 0:
        for name, call in stopping_at(
            chance.randint(1, 90), lambda: os.kill(os.getpid(), signal.SIGKILL)
        ).items():
            setattr(os, name, call)
        session.disk.save()
        os._exit(0)
    os.waitpid(child, 0)
    session.disk.leave()
    torn = [
        p.name
        for p, old in set_up.old.items()
        if p.read_bytes() not in (old, set_up.new[p]) and not _is_in_place(p)
    ]
    return f"torn: {torn}" if torn else _finished(set_up)


def _is_in_place(path: Path) -> bool:
    """Whether a file has two names: it is written in place, and may be cut off; then its text is kept."""
    return path.stat().st_nlink > 1


def _finished(set_up: Scene) -> str:
    """A new session takes back what was not saved and saves it: then all files are as they were to be."""
    session = Session(set_up.page, recovery=RecoveryFolder(set_up.kept))
    for work in session.disk.unsaved_work():
        session.disk.take_back(work)
    session.disk.save()
    saved = [path for path, text in set_up.new.items() if path.read_bytes() == text]
    kept = list(set_up.kept.glob("*.json"))
    session.disk.leave()
    if kept:
        return f"still kept: {[k.name for k in kept]}"
    untouched = all(path.read_bytes() == old for path, old in set_up.old.items())
    # killed before anything was kept or written: that work was never anywhere but in memory
    return (
        ""
        if len(saved) == len(set_up.new) or untouched
        else f"lost in {[p.name for p in set_up.new if p not in saved]}"
    )


def refused_save(folder: Path, chance: random.Random, number: int) -> str:
    """A save of which one call fails; "end" where there are no more calls. What was not saved is still there."""
    set_up, session = scene(folder, chance)
    reached: list[bool] = []

    def fail() -> None:
        reached.append(True)
        raise OSError(chance.choice([errno.EIO, errno.ENOSPC, errno.EACCES]), "failed on purpose")

    real = {name: getattr(os, name) for name in CALLS}
    try:
        for name, call in stopping_at(number, fail).items():
            setattr(os, name, call)
        session.disk.save()
    except PageNotWritable:
        pass
    finally:
        for name, call in real.items():
            setattr(os, name, call)
    if not reached:
        return "end"
    torn = [p.name for p, old in set_up.old.items() if p.read_bytes() not in (old, set_up.new[p])]
    if torn:
        return f"torn: {torn}"
    now = {f.path: session.document.text(n).encode() for n, f in session.document.files.items()}
    if now != set_up.new:
        return "the texts in memory are others"
    session.disk.save()
    session.disk.leave()
    return (
        ""
        if all(p.read_bytes() == text for p, text in set_up.new.items())
        else "a second save did not save all"
    )


def kills(folder: Path, seed: int, runs: int) -> Iterator[str]:
    """What went wrong in so many kills; "" for each that went well."""
    for run in range(runs):
        place = folder / f"kill-{run}"
        place.mkdir()
        told = killed_save(place, random.Random(f"{seed} {run}"))
        yield f"kill {seed} {run}: {told}" if told else ""
        shutil.rmtree(place)


def refusals(folder: Path, seed: int, scenes: int) -> Iterator[str]:
    """The same for every call of some saves."""
    for one in range(scenes):
        for number in range(1, 400):
            place = folder / f"refusal-{one}-{number}"
            place.mkdir()
            told = refused_save(place, random.Random(f"{seed} {one}"), number)
            shutil.rmtree(place)
            if told == "end":
                break
            yield f"refusal {seed} {one}, call {number}: {told}" if told else ""
