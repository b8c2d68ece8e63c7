"""Holds a driver and all that it starts, and ends them with whoever started it, however that one ends.

Run as a program: keeper PROFILE PROGRAM ARGUMENTS... It waits until its standard input closes, which the system sees
to even where Red Crate is killed; then everything below it ends, and the profile folder goes.
"""

import contextlib
import ctypes
import shutil
import signal
import subprocess
import sys
import threading

import psutil

_SUBREAPER = 36  # PR_SET_CHILD_SUBREAPER of Linux: orphans of what runs below become ours
_PATIENCE = 3.0  # s


def main() -> None:
    """Start the program, wait, and end it."""
    profile, *command = sys.argv[1:]
    with contextlib.suppress(OSError, AttributeError):
        ctypes.CDLL(None).prctl(_SUBREAPER, 1, 0, 0, 0)
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
    nothing = subprocess.DEVNULL
    try:
        child = subprocess.Popen(command, stdin=nothing, stdout=nothing, stderr=nothing)
        threading.Thread(target=child.wait, daemon=True).start()  # so that it is no zombie
        sys.stdin.buffer.read()
    finally:
        _end_all()
        shutil.rmtree(profile, ignore_errors=True)


def _end_all() -> None:
    """End what runs below; what is started meanwhile too."""
    me = psutil.Process()
    for ask in (psutil.Process.terminate, psutil.Process.kill, psutil.Process.kill):
        below = me.children(recursive=True)
        for process in below:
            with contextlib.suppress(psutil.Error):
                ask(process)
        psutil.wait_procs(below, _PATIENCE)


if __name__ == "__main__":
    main()
