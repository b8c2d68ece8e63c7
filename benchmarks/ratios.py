#!/usr/bin/env python3
"""What edits cost beside a full pass of the same page in the same run: `.venv/bin/python benchmarks/ratios.py`.

Ratios hold on any machine. The goals: one element's own value of 10,000 elements at most 2 % of the
full pass, one class of 1,200 cards 30 %, another window width 45 %; from 1,000 to 10,000 to 40,000
elements at most 11 times the time each step. Findings at three widths, layouts and all: at most three times what
three full passes take.
"""

import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from make_page import page as page_text

from redcrate.core.collecting import collect_seldom
from redcrate.core.findings.checking import Fixes, check_page
from redcrate.core.session import Session

WIDTHS = (1000.0, 930.0, 860.0, 790.0)


def best(work: Callable[[int], object], times: int) -> float:
    """The shortest of some runs, in seconds."""
    found = float("inf")
    for number in range(times):
        begun = time.perf_counter()
        work(number)
        found = min(found, time.perf_counter() - begun)
    return found


def padding_typed(session: Session, card: int, number: int) -> None:
    """A padding of a card is typed; the card's new box is looked at."""
    element = session.views.page.elements[card]
    session.editor.apply(session.editor.plan(element, "padding", ("top",), str(5 + number)).patch)
    session.views.page.box_of(session.views.page.elements[card])


def measure(path: Path, runs: int) -> dict[str, float]:
    """Seconds of a full pass, of three kinds of change, and of all findings at three widths."""
    full = best(lambda _: Session(path, 1100), runs)
    session = Session(path, 1100)
    card = next(e.index for e in session.views.page.elements if e.id == "c2")
    session.views.select(session.views.page.elements[card])
    of_class = best(lambda n: padding_typed(session, card, n), 4)
    session.editor.set_writes_to("style attribute")
    own = best(lambda n: padding_typed(session, card, n), 8)
    width = best(lambda n: session.views.set_width(WIDTHS[n]), len(WIDTHS))
    found = best(lambda _: check_page(path, (390, 820, 1100), fixes=Fixes.NONE), 2)
    return {"full": full, "own value": own, "one class": of_class, "width": width, "findings": found}


def main() -> None:
    """Print the ratios."""
    collect_seldom()
    sizes = [int(n) for n in sys.argv[1:]] or [1000, 10_000, 40_000]
    before: dict[str, float] = {}
    with tempfile.TemporaryDirectory() as folder:
        for size in sizes:
            path = Path(folder) / f"{size}.html"
            path.write_text(page_text(size), encoding="utf-8")
            now = measure(path, 3 if size <= 10_000 else 1)
            print(f"{size} elements, full pass {now['full']:.3f} s")
            for name, seconds in now.items():
                grown = f"   {seconds / before[name]:5.1f} x the size before" if before else ""
                print(f"  {name:<10}{seconds / now['full']:8.1%} of the full pass{grown}")
            before = now


if __name__ == "__main__":
    main()
