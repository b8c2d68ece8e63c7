#!/usr/bin/env python3
"""What people wait for at the start, as multiples of a warm pass of 1,000 elements: `.venv/bin/python benchmarks/start.py`.

Processor seconds of processes of their own, the start of Python included; the least of some runs. PAGE: pages with large
stylesheets. --against SRC: the same with the program of another source folder, in turns. The cache is a new one, so that
the first run of a page is one that nobody has made before.
"""

import argparse
import os
import resource
import subprocess
import sys
import tempfile
from pathlib import Path

from make_page import page as page_text

ROOT = Path(__file__).resolve().parent.parent
DEMO = ROOT / "demo" / "ploverfield" / "index.html"
PASS = """
import sys, time
from pathlib import Path
from redcrate.core.collecting import collect_seldom
from redcrate.core.files.trial import Trial
from redcrate.core.style.media import Viewport
collect_seldom()
def once():
    begun = time.process_time()
    Trial.of_file(Path(sys.argv[1])).page(Viewport(1100, 800)).root
    return time.process_time() - begun
once()
print(min(once() for _ in range(5)))
"""
OPEN = """
import sys, time
from pathlib import Path
from redcrate.core.files.trial import Trial
from redcrate.core.style.media import Viewport
Trial.of_file(Path(sys.argv[1])).page(Viewport(1100, 800)).root
for _ in range(2):
    begun = time.process_time()
    Trial.of_file(Path(sys.argv[2])).page(Viewport(1100, 800)).root
    print(time.process_time() - begun)
"""
COMMAND = "import sys; from redcrate.cli.main import main; main(sys.argv[1:])"


def run(source: Path, script: str, *words: str, cache: Path) -> tuple[float, list[float]]:
    """Processor seconds of a process, and the numbers that it printed."""
    environment = {**os.environ, "PYTHONPATH": str(source), "REDCRATE_CACHE": str(cache)}
    environment.pop("PYTHONDONTWRITEBYTECODE", None)
    before = resource.getrusage(resource.RUSAGE_CHILDREN)
    done = subprocess.run(
        [sys.executable, "-c", script, *words],
        env=environment,
        capture_output=True,
        text=True,
        check=False,
    )
    after = resource.getrusage(resource.RUSAGE_CHILDREN)
    spent = after.ru_utime - before.ru_utime + after.ru_stime - before.ru_stime
    printed = [float(word) for word in done.stdout.split()] if script is not COMMAND else []
    return spent, printed


def measured(source: Path, large: Path, pages: list[Path]) -> dict[str, float]:
    """Seconds of each job, once."""
    with tempfile.TemporaryDirectory() as folder:
        cache = Path(folder) / "cache"
        found = {"full pass": run(source, PASS, str(large), cache=cache)[1][0]}
        found["report of the demo"] = run(source, COMMAND, "report", str(DEMO), cache=cache)[0]
        for page in pages:
            name, words = page.parent.name, ("check", "--widths", "390,820,1100", str(page))
            first, again = run(source, OPEN, str(DEMO), str(page), cache=cache)[1]
            found[f"{name}: opened first"], found[f"{name}: opened again"] = first, again
            found[f"{name}: in another process"] = run(source, OPEN, str(DEMO), str(page), cache=cache)[
                1
            ][0]
            found[f"{name}: check"] = run(source, COMMAND, *words, cache=cache)[0]
    return found


def least(found: list[dict[str, float]]) -> dict[str, float]:
    """The shortest of some runs, job by job."""
    return {job: min(one[job] for one in found) for job in found[0]}


def main() -> None:
    """Print the multiples."""
    reading = argparse.ArgumentParser(description=__doc__)
    reading.add_argument("pages", nargs="*", type=Path)
    reading.add_argument("--against", type=Path)
    reading.add_argument("--times", type=int, default=3)
    wish = reading.parse_args()
    with tempfile.TemporaryDirectory() as folder:
        large = Path(folder) / "large.html"
        large.write_text(page_text(1000), encoding="utf-8")
        sources = [s for s in (ROOT / "src", wish.against) if s is not None]
        runs = [[measured(source, large, wish.pages) for source in sources] for _ in range(wish.times)]
    rows = [least([turn[at] for turn in runs]) for at in range(len(sources))]
    for job in rows[0]:
        passes = "  ".join(f"{row[job] / row['full pass']:7.2f}" for row in rows)
        ratio = f"  {rows[0][job] / rows[1][job]:6.2f} ×" if len(rows) > 1 else ""
        print(f"{job:44} {passes} passes{ratio}")


if __name__ == "__main__":
    main()
