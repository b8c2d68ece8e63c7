#!/usr/bin/env python3
"""What asking a browser costs: `.venv/bin/python benchmarks/proof.py`.

The goal: 1,000 elements compared in at most 2 s once the browser is warm. The page is computed here anew each time.
"""

import sys
import tempfile
import time
from pathlib import Path

from make_page import page as page_text

from redcrate.core.collecting import collect_seldom
from redcrate.core.errors import RedCrateError
from redcrate.core.files.trial import Trial
from redcrate.core.proof.proving import Wish
from redcrate.core.proof.warm import WarmBrowser
from redcrate.core.style.media import Viewport


def main() -> None:
    """Cold and warm, beside a full pass of the same page."""
    collect_seldom()
    browser = WarmBrowser()
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "page.html"
        path.write_text(page_text(1000), encoding="utf-8")
        for name in ("cold", "warm", "warm", "warm"):
            begun = time.perf_counter()
            trial = Trial.of_file(path)
            trial.page(Viewport(1100, 800))
            full = time.perf_counter() - begun
            begun = time.perf_counter()
            try:
                proof = browser.prove(Trial.of_file(path), Wish((1100,)))
            except RedCrateError as problem:
                sys.exit(problem.sentence)
            took = time.perf_counter() - begun
            (found,) = proof.comparisons
            told = f"{found.equal} of {found.compared} the same"
            print(f"{name}: {took:.2f} s, {took / full:.1f} × a full pass; {told}")
    browser.close()


if __name__ == "__main__":
    main()
