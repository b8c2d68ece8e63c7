#!/usr/bin/env python3
"""What several widths and sweeps cost: `.venv/bin/python benchmarks/widths.py`.

The goals: three widths of a page of 1,000 elements at most 1.6 times one; a sweep of the demo from 320 to 1600 px at
most 1.0 s, of an element of a page of 1,000 at most 8 s where a full pass of it takes 0.3 s (27 times a full pass).
"""

import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from make_page import page as page_text

from redcrate.core.collecting import collect_seldom
from redcrate.core.files.trial import Trial
from redcrate.core.findings.breaks import BreakSearch
from redcrate.core.style.media import Viewport
from redcrate.core.widths.sweep import Sweep
from redcrate.demo_pages import demo_page


def best(work: Callable[[], object], times: int) -> float:
    """The shortest of some runs, in seconds."""
    found = float("inf")
    for _ in range(times):
        begun = time.perf_counter()
        work()
        found = min(found, time.perf_counter() - begun)
    return found


def at_widths(path: Path, *widths: float) -> None:
    """Lay a page out from its file at some widths."""
    trial, page = Trial.of_file(path), None
    for width in widths:
        page = trial.page(Viewport(width, 800), page)


def swept(path: Path, select: str = "") -> tuple[float, int]:
    """Seconds of a sweep from 320 to 1600 px, and at how many widths it looked."""
    trial = Trial.of_file(path)
    page = trial.page(Viewport(1600, 800))
    found = next(e.path for e in page.elements if e.label.startswith(select)) if select else None
    begun = time.perf_counter()
    sweep = Sweep.of_trial(trial, 800, 320, 1600, found)
    for _ in sweep.run():
        pass
    return time.perf_counter() - begun, sweep.looked_at


def broken(path: Path) -> float:
    """Seconds of a search for what breaks at any width."""
    trial = Trial.of_file(path)
    begun = time.perf_counter()
    search = BreakSearch.of_trial(trial, 800, 320, 1600)
    for _ in search.run():
        pass
    return time.perf_counter() - begun


def main() -> None:
    """Print the figures."""
    collect_seldom()
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "page.html"
        path.write_text(page_text(1000), encoding="utf-8")
        one = best(lambda: at_widths(path, 1280), 3)
        three = best(lambda: at_widths(path, 1280, 820, 390), 3)
        print(f"1,000 elements: one width {one:.2f} s, three {three / one:.2f} times that")
        for name, where, select in (
            ("the demo, a plot", demo_page(), "article.plot"),
            ("the demo, the page", demo_page(), ""),
            ("1,000 elements, a card", path, "div#c7"),
            ("1,000 elements, the page", path, ""),
        ):
            seconds, looked_at = swept(where, select)
            print(
                f"sweep of {name}: {seconds:.2f} s ({seconds / one:.1f} full passes), {looked_at} widths"
            )
        print(f"what breaks in the demo: {broken(demo_page()):.2f} s")


if __name__ == "__main__":
    main()
