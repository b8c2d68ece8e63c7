"""Pictures of the real window, drawn offscreen: for the example and for the docs."""

import time
from collections.abc import Callable
from pathlib import Path

from redcrate.app.screens import bench_of
from redcrate.app.start import make_application
from redcrate.app.window import Window
from redcrate.core.diagram.codes import DARK, LIGHT
from redcrate.core.session import Session

_SETTLED_S = 0.15


def picture_of_bench(
    page: Path,
    target: Path,
    *,
    select: str = "",
    width: float | None = None,
    size: tuple[int, int] = (1280, 800),
    prepare: Callable[[Window], None] | None = None,
    dark: bool = False,
) -> None:
    """Save a PNG of the window with `page` open.

    select: a class (`.notice`), id (`#plots`) or tag of the element to select. width: the page's
    window width, px. prepare: what else happens before the picture is taken.
    dark: in the dark palette.
    """
    application = make_application(DARK if dark else LIGHT)
    window = Window()
    window.resize(*size)
    session = Session(page)
    window.show_session(session)
    window.show()
    application.processEvents()
    if width is not None:
        session.views.set_width(width)
    for element in session.views.page.elements:
        names = {element.tag, f"#{element.id}", *(f".{c}" for c in element.classes)}
        if select in names:
            session.views.select(element)
            break
    application.processEvents()
    bench_of(
        window
    ).findings.search.look_now()  # their number is in the picture, however fast the machine is
    if prepare is not None:
        prepare(window)
    # sentences come after the sheet, and wrapped labels settle in a second pass
    until = time.monotonic() + _SETTLED_S
    while time.monotonic() < until:
        application.processEvents()
    window.grab().save(str(target))
    window.close()
    window.deleteLater()
    application.processEvents()
