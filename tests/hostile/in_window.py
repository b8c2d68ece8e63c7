"""A program: opens hostile pages in the window, one after another, and prints what each took as a line of JSON.

in_window NAME...: names of pages. The window is the real one, offscreen; a page is opened, painted, selected in, and its
findings are looked for until they are there or the time is over.
"""

import json
import os
import resource
import sys
import tempfile
import time
from pathlib import Path

from PyQt6.QtCore import QCoreApplication, QEventLoop

from redcrate.app.settings import Settings
from redcrate.app.start import make_application
from redcrate.app.window import Window
from tests.hostile.pages import PAGES

_PATIENCE = 30.0  # s until a page is given up


def main() -> None:
    """Open each page."""
    make_application()
    with tempfile.TemporaryDirectory(prefix="redcrate-hostile-") as folder:
        window = Window(Settings(Path(folder, "home")))
        window.resize(1280, 800)
        window.show()
        for number, name in enumerate(sys.argv[1:]):
            place = Path(folder, str(number))
            place.mkdir()
            for file, data in PAGES[name]().items():
                (place / file).write_bytes(data)
            print(json.dumps({"page": name, **_opened(window, place / "index.html")}), flush=True)
            window._warned = True
    os._exit(0)


def _opened(window: Window, page: Path) -> dict[str, object]:
    said: list[str] = []
    done = [False]
    window.opened.connect(lambda: done.__setitem__(0, True))
    began, until = time.process_time(), time.monotonic() + _PATIENCE
    window.open_page(page)
    while not done[0] and time.monotonic() < until:
        QCoreApplication.processEvents(QEventLoop.ProcessEventsFlag.AllEvents, 20)
        time.sleep(0.002)
    window.opened.disconnect()
    opened = time.process_time() - began
    window.grab()
    session = window.session
    if session is not None and len(session.views.page.elements) > 2:
        session.views.select(session.views.page.elements[2])
    window.grab()
    said.append(window.sentence.text())
    peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss * 1024
    return {
        "is_open": bool(session and session.document.path == page),
        "opened": round(opened, 2),
        "seconds": round(time.process_time() - began, 2),
        "size": peak,
        "said": said[-1][:200],
    }


if __name__ == "__main__":
    main()
