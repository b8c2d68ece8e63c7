"""A small driver on the path of programs, and what it answers."""

import json
import sys
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import psutil
import pytest

from redcrate.core.page import Page
from redcrate.core.proof.browsers import find_browser
from redcrate.core.proof.comparing import sizes_of
from redcrate.core.proof.errors import NoBrowser
from redcrate.core.proof.warm import WarmBrowser
from tests.conftest import ROOT

Rows = list[list[Any]]
SmallDriver = Callable[..., Path]


@pytest.fixture(scope="module")
def browser() -> Iterator[WarmBrowser]:
    """The browser that is installed here, one for all tests of a module; where there is none they are skipped."""
    try:
        find_browser()
    except NoBrowser as problem:
        pytest.skip(problem.sentence)
    warm = WarmBrowser()
    yield warm
    warm.close()


def answer_of(page: Page, change: Callable[[Rows], object] = lambda rows: None) -> dict[str, Any]:
    """What a browser that agrees with a page would say of it, but for a change."""
    rows: Rows = []
    for element in page.elements:
        box, style = page.box_of(element), page.style_of(element)
        family = "Liberation Sans" if element.text_content().strip() else ""
        if box is None:
            rows.append([element.tag, 0, 0, 0, 0, 0, "none", ""])
        else:
            s = sizes_of(page, box)
            rows.append([element.tag, 1, s.x, s.y, s.width, s.height, style.display, family])
    change(rows)
    return {"elements": rows, "width": page.viewport.width, "height": 800, "failed": [], "html": ""}


def started_in(folder: Path) -> list[psutil.Process]:
    """What still runs of all that was started with that folder."""
    found = []
    for process in psutil.process_iter():
        try:
            if (
                any(str(folder) in part for part in process.cmdline())
                and process.status() != psutil.STATUS_ZOMBIE
            ):
                found.append(process)
        except psutil.Error:
            continue
    return found


def nothing_left(folder: Path) -> bool:
    """No process of it, and no profile; waits a little for those that are ending."""
    until = time.monotonic() + 10
    while time.monotonic() < until:
        if not started_in(folder) and not list(folder.glob("redcrate-proof-*")):
            return True
        time.sleep(0.05)
    return False


@pytest.fixture
def small_driver(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> SmallDriver:
    """Puts a driver and a browser on the path: how it behaves, and what it answers by width. Gives their folder."""

    def put(manner: str = "", answers: dict[str, Any] | None = None) -> Path:
        folder = tmp_path / "programs"
        folder.mkdir(exist_ok=True)
        program = ROOT / "tests" / "small_driver.py"
        for name, line in (
            ("chromedriver", f'exec "{sys.executable}" "{program}" "$@" "--of={folder}"'),
            ("chromium", "exit 1"),
        ):
            path = folder / name
            path.write_text(f"#!/bin/sh\n{line}\n", encoding="utf-8")
            path.chmod(0o755)
        (tmp_path / "answers.json").write_text(json.dumps(answers or {}), encoding="utf-8")
        monkeypatch.setenv("PATH", f"{folder}:/bin:/usr/bin")
        monkeypatch.setenv("REDCRATE_DRIVER", manner)
        monkeypatch.setenv("REDCRATE_ANSWERS", str(tmp_path / "answers.json"))
        monkeypatch.setenv("TMPDIR", str(tmp_path))
        monkeypatch.setattr("tempfile.tempdir", None)
        return folder

    return put
