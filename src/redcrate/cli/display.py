"""Whether there is a display that a window can be shown on, asked before the toolkit, which would end the program."""

import re
import socket
from collections.abc import Mapping
from pathlib import Path

_PATIENCE = 2.0  # s: a display on another machine that does not answer
_INSTEAD = "Without a display use `redcrate report`, `redcrate check` or `redcrate draw`."


def display_fault(environment: Mapping[str, str]) -> str:
    """Why no window can be shown, and what to do instead; "" where one can be.

    environment: the process's variables. A platform that was chosen by name (`QT_QPA_PLATFORM`) is trusted.
    """
    if environment.get("QT_QPA_PLATFORM"):
        return ""
    wayland, display = environment.get("WAYLAND_DISPLAY", ""), environment.get("DISPLAY", "")
    if not wayland and not display:
        return f"the window needs a display, and none is set (DISPLAY, WAYLAND_DISPLAY). {_INSTEAD}"
    folder = environment.get("XDG_RUNTIME_DIR", "")
    if wayland and _answers(socket.AF_UNIX, str(Path(folder) / wayland)):
        return ""
    if display and _x_answers(display):
        return ""
    return f"the window needs a display, and “{display or wayland}” does not answer. {_INSTEAD}"


def _x_answers(display: str) -> bool:
    """Whether an X server answers under a name such as `:0` or `host:10.0`."""
    found = re.fullmatch(r"(?:unix/?)?(?P<host>[^:]*):(?P<number>\d+)(?:\.\d+)?", display)
    if found is None:
        return False
    number = int(found["number"])
    if found["host"] in ("", "/unix"):
        place = f"/tmp/.X11-unix/X{number}"  # noqa: S108 where X servers listen
        return _answers(socket.AF_UNIX, place) or _answers(socket.AF_UNIX, f"\0{place}")
    return _answers(socket.AF_INET, (found["host"], 6000 + number))


def _answers(family: socket.AddressFamily, place: str | tuple[str, int]) -> bool:
    with socket.socket(family, socket.SOCK_STREAM) as line:
        line.settimeout(_PATIENCE)
        try:
            line.connect(place)
        except OSError:
            return False
        return True
