"""Prints each benchmark's figure and its ratio to the kept one; `--keep` keeps the new figures."""

import json
import platform
from pathlib import Path
from typing import Any

import pytest

from redcrate.core.collecting import collect_seldom

FIGURES = Path(__file__).parent / "figures.json"


def pytest_configure() -> None:
    """As the programs do it: the cycle collector looks seldom."""
    collect_seldom()


def pytest_addoption(parser: pytest.Parser) -> None:
    """`--keep`: write the figures of this run to figures.json."""
    parser.addoption("--keep", action="store_true", help="keep the figures of this run")


def pytest_terminal_summary(terminalreporter: Any, config: pytest.Config) -> None:
    """One line a benchmark: milliseconds, and the ratio to the last kept run."""
    session = getattr(config, "_benchmarksession", None)
    if session is None or not session.benchmarks:
        return
    kept = json.loads(FIGURES.read_text()) if FIGURES.exists() else {"figures_ms": {}}
    now = {b.name: round(b["min"] * 1000, 3) for b in session.benchmarks}
    terminalreporter.write_line("")
    for name, figure in sorted(now.items()):
        before = kept["figures_ms"].get(name)
        ratio = f"{figure / before:6.2f} x the kept {before:g}" if before else "  (none kept)"
        terminalreporter.write_line(f"{name:<48}{figure:>10.2f} ms  {ratio}")
    if config.getoption("--keep"):
        figures = {**kept["figures_ms"], **now}
        text = {"python": platform.python_version(), "figures_ms": dict(sorted(figures.items()))}
        FIGURES.write_text(json.dumps(text, indent=1) + "\n")
