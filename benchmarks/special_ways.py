#!/usr/bin/env python3
"""What each special way of layout saves: `.venv/bin/python benchmarks/special_ways.py [PAGE]…`.

A special way is a shorter road to a result that another road reaches too: to a line box, or to a fragment that serves
again. Each is taken away in turn, and a job is timed with and without it, one right after the other, since machines get
warm: opening (from parsed source to geometry), a value of the rule that sizes many boxes, another viewport width. What is
printed is the middle of the ratios. A way that saves less than a tenth of the job that it was made for (*) on the
benchmark pages and on real ones has to go; the figures of those that stay are in docs/house.md.
"""

import sys
import tempfile
from collections.abc import Callable, Iterator
from contextlib import ExitStack, contextmanager
from pathlib import Path
from statistics import median
from time import process_time
from unittest.mock import patch

from make_page import page as page_text

from redcrate.core.boxes import generation
from redcrate.core.collecting import collect_seldom
from redcrate.core.edit.patch import Patch, TextEdit
from redcrate.core.layout import block_container, inline, inline_items
from redcrate.core.layout.cache import BoxRecord
from redcrate.core.layout.kept_lines import KeptLines
from redcrate.core.page import compute_page
from redcrate.core.session import Session

_NOT = {"return_value": None}
# way → the job that it was made for, and what is taken away while that is timed without it
WAYS: dict[str, tuple[str, tuple[tuple[object, str, dict[str, object]], ...]]] = {
    "a text alone": ("open", ((inline, "plain_content", _NOT),)),
    "lines of one text": ("open", ((inline._Lines, "plain_lines", _NOT),)),
    "sums of advances": ("open", ((inline_items.InlineContent, "cuts_in", _NOT),)),
    "alike": ("open", ((BoxRecord, "alike", _NOT),)),
    "kept lines": ("width", ((KeptLines, "serves", {"return_value": False}),)),
    "moved content": ("edit", ((block_container, "moved_content", _NOT),)),
    "restyled box": ("edit", ((generation, "restyled", _NOT),)),
}
PAIRS = 16
NESTED = "<!doctype html><style>div { display: flex }</style>" + "<div><p>tide and kale</p>" * 14


@contextmanager
def without(way: str) -> Iterator[None]:
    """Take a way away."""
    with ExitStack() as stack:
        for where, name, instead in WAYS[way][1]:
            stack.enter_context(patch.object(where, name, **instead))  # type: ignore[call-overload]
        yield


def opening(session: Session) -> Callable[[], object]:
    """Opening, the source being parsed and the fonts known."""
    page = session.views.page
    return lambda: compute_page(page.source, page.viewport)


def editing(session: Session) -> Callable[[], object]:
    """A padding that all boxes of the commonest class share gets another value."""
    name, page = session.document.html_name, session.views.page
    text = session.document.text(name).text
    classes = [c for e, b in page.by_element.items() if b.box is not None for c in e.classes]
    most = max(set(classes) or {"none"}, key=classes.count)
    rule = f"<style>.{most}.{most} {{ padding-top: 5px }}</style>"
    at = max(text.lower().find("</head>"), text.lower().find("<body>"), 0)
    session.editor.apply(Patch((TextEdit(name, at, at, rule),), "a rule"))
    at += rule.index("5px")
    number = [5]

    def work() -> None:
        number[0] = 14 - number[0]
        session.editor.apply(Patch((TextEdit(name, at, at + 1, str(number[0])),), "a value"))

    return work


def widening(session: Session) -> Callable[[], object]:
    """The viewport gets another width, by a few px."""
    number = [0]

    def work() -> None:
        number[0] += 1
        session.views.set_width(1280.0 - 3 * (number[0] % 90))

    return work


MAKERS = {"open": opening, "edit": editing, "width": widening}


def timed(work: Callable[[], object]) -> float:
    """Processor seconds."""
    begun = process_time()
    work()
    return process_time() - begun


def saved(work: Callable[[], object], way: str) -> float:
    """How much longer a job takes without a way, as a share."""
    ratios = []
    for number in range(PAIRS):
        if number % 2:
            known = timed(work)
        with without(way):
            bare = timed(work)
        if not number % 2:
            known = timed(work)
        ratios.append(bare / known)
    return median(ratios) - 1


def report(path: Path) -> None:
    """Print what each way saves on a page."""
    session = Session(path, 1280)
    print(f"{path.parent.name}/{path.name}, {len(session.views.page.by_element)} elements")
    for job, maker in MAKERS.items():
        work = maker(session)
        work(), work()
        for way, (made_for, _) in WAYS.items():
            print(f"  {job:<7}{way:<20}{saved(work, way):+7.1%}{' *' if job == made_for else ''}")


def main() -> None:
    """Print, for each page, job and way, how much longer the job takes without it."""
    collect_seldom()
    with tempfile.TemporaryDirectory() as folder:
        for name, text in {"1000": page_text(1000), "nested": NESTED}.items():
            (Path(folder) / f"{name}.html").write_text(text, encoding="utf-8")
        for path in [*sorted(Path(folder).iterdir()), *map(Path, sys.argv[1:])]:
            report(path)


if __name__ == "__main__":
    main()
