"""Whether a command answers on a hostile page within a bound of processor time and memory.

Each is tried in a process of its own that begins as a copy of this one, so that nothing is loaded again.
As a program: judging NAME... prints what became of each page with each command.
"""

import json
import os
import resource
import signal
import subprocess
import sys
import tempfile
import traceback
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from click.testing import CliRunner

from redcrate.cli.commands import commands
from tests.hostile.pages import PAGES

ROOT = Path(__file__).parents[2]
MOST_SECONDS, MOST_BYTES = 5.0, 600 * 10**6
_PATIENCE = 30  # s of processor time until it is ended
_ROOM = 6 * 2**30  # bytes that it may take until it is refused more
COMMANDS = {
    "report": ("report", "{page}"),
    "check": ("check", "{page}"),
}


@dataclass(frozen=True, slots=True)
class Verdict:
    """seconds: of the processor. size: the most memory that it had, bytes. ended: how; "" as it should."""

    page: str
    command: str
    seconds: float
    size: int
    ended: str

    @property
    def holds(self) -> bool:
        """Whether it answered within the bound."""
        return not self.ended and self.seconds <= MOST_SECONDS and self.size <= MOST_BYTES

    def __str__(self) -> str:
        mark = "ok  " if self.holds else "FAIL"
        return f"{mark} {self.seconds:6.2f} s {self.size / 1e6:6.0f} MB  {self.command:7} {self.page}  {self.ended}"


def judged(name: str, command: str) -> Verdict:
    """What a command makes of a page of `PAGES`."""
    with tempfile.TemporaryDirectory(prefix="redcrate-hostile-") as folder:
        for file, data in PAGES[name]().items():
            Path(folder, file).write_bytes(data)
        given = [part.format(page=Path(folder, "index.html")) for part in COMMANDS[command]]
        return judge(name, command, lambda: _run(given))


def _run(given: list[str]) -> str:
    result = CliRunner().invoke(commands, given)
    if result.exception is not None and not isinstance(result.exception, SystemExit):
        return f"{type(result.exception).__name__}: {result.exception}"[:200]
    said = result.stderr.strip()
    if "error in Red Crate" in result.output or "error in Red Crate" in said:
        return (said or result.output)[:300]
    return "" if result.exit_code in (0, 1) else f"status {result.exit_code}: {said}"[:300]


def judge(name: str, what: str, work: Callable[[], str]) -> Verdict:
    """Do some work in a process of its own; it returns what is wrong."""
    reading, writing = os.pipe()
    child = os.fork()
    if child == 0:
        os.close(reading)
        _limited(work, writing)
    os.close(writing)
    with os.fdopen(reading, "rb") as pipe:
        said = pipe.read().decode()
    _, status, used = os.wait4(child, 0)
    ended = said or ("" if status == 0 else f"ended by {_named(status)}")
    return Verdict(name, what, used.ru_utime + used.ru_stime, used.ru_maxrss * 1024, ended)


def _named(status: int) -> str:
    return signal.Signals(os.WTERMSIG(status)).name if os.WIFSIGNALED(status) else f"status {status}"


def _limited(work: Callable[[], str], writing: int) -> None:
    """The child: bounded by the system, ends without what the parent would do at its end."""
    resource.setrlimit(resource.RLIMIT_CPU, (_PATIENCE, _PATIENCE + 1))
    resource.setrlimit(resource.RLIMIT_AS, (_ROOM, _ROOM))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    try:
        said = work()
    except BaseException:  # noqa: BLE001 - whatever it is, it is told
        said = traceback.format_exc(limit=-2)[-400:]
    sys.stdout.flush()
    os.write(writing, said.encode("utf-8", "replace"))
    os._exit(0)


def judged_in_window(name: str, patience: float = 90.0) -> Verdict:
    """The same in the window, which is a program of its own."""
    given = [sys.executable, "-P", "-m", "tests.hostile.in_window", name]
    environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen", "PYTHONPATH": str(ROOT)}
    try:
        done = subprocess.run(given, cwd=ROOT, env=environment, capture_output=True, text=True, timeout=patience, check=False)  # fmt: skip
    except subprocess.TimeoutExpired:
        return Verdict(name, "window", patience, 0, "hangs")
    lines = done.stdout.splitlines()
    if done.returncode or not lines:
        return Verdict(name, "window", 0.0, 0, f"status {done.returncode}: {done.stderr[-300:]}")
    told = json.loads(lines[-1])
    ended = "" if told["is_open"] else f"not opened: {told['said']}"
    return Verdict(name, "window", told["seconds"], told["size"], ended)


def main() -> None:
    """Print what became of the pages that are named; status 1 if one does not hold."""
    verdicts = [judged(name, command) for name in sys.argv[1:] for command in COMMANDS]
    print(*verdicts, sep="\n")
    sys.exit(0 if all(verdict.holds for verdict in verdicts) else 1)


if __name__ == "__main__":
    main()
