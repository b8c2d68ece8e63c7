"""What all tests share: the reference cases, pages from text, and the run in which Qt is absent."""

import gc
import os
import sys
from collections.abc import Callable
from importlib.abc import MetaPathFinder
from pathlib import Path
from typing import Any

import pytest
from hypothesis import settings

ROOT = Path(__file__).parent.parent
CASES = ROOT / "tests" / "reference" / "cases"
SUITE = ROOT.parent / "shared" / "conformance"  # other people's pages, not copied in
DEMO = ROOT / "demo" / "ploverfield" / "index.html"


class _NoQt(MetaPathFinder):
    """Makes every import of Qt raise."""

    def find_spec(self, fullname: str, path: Any = None, target: Any = None) -> None:
        if fullname.split(".")[0] in ("PyQt6", "redcrate.app") or fullname.startswith("redcrate.app"):
            raise ImportError(f"{fullname} must not be imported in this run")


os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ["REDCRATE_CACHE"] = "off"  # no run hangs on an earlier one
# No test is timed: a slow machine is no fault (speed is measured in benchmarks/).
settings.register_profile("untimed", deadline=None, max_examples=40)
settings.load_profile("untimed")
if os.environ.get("REDCRATE_WITHOUT_QT"):
    sys.meta_path.insert(0, _NoQt())

from redcrate.core.collecting import collect_seldom  # noqa: E402
from redcrate.core.files.loading import assemble, read_page  # noqa: E402
from redcrate.core.files.resources import Resources  # noqa: E402
from redcrate.core.markup.elements import Element  # noqa: E402
from redcrate.core.page import Page, compute_page  # noqa: E402
from redcrate.core.style.media import Viewport  # noqa: E402
from tests.laws import check_laws  # noqa: E402

PageOf = Callable[..., Page]


def pytest_terminal_summary(terminalreporter: pytest.TerminalReporter) -> None:
    """Say it where the shared conformance suite could not be run."""
    if not SUITE.is_dir():
        terminalreporter.write_line("The shared conformance suite is not here: its pages were not run.")


@pytest.fixture
def page_of(tmp_path: Path) -> PageOf:
    """Lay out a page given as the content of body and as CSS; it keeps all laws.

    laws=False: for pages so large or so deep that the laws alone would take seconds.
    """

    def make(
        body: str, css: str = "", width: float = 1000, height: float = 800, *, laws: bool = True
    ) -> Page:
        path = tmp_path / "page.html"
        head = f"<style>html {{ font-family: 'Liberation Sans' }} body {{ margin: 0 }} {css}</style>"
        path.write_text(f"<!doctype html><head>{head}</head><body>{body}</body>", encoding="utf-8")
        page = load(path, width, height)
        if laws:
            check_laws(page)
        return page

    return make


def load(path: Path, width: float = 1000, height: float = 800) -> Page:
    """The page of a file."""
    return compute_page(assemble(read_page(path).source, Resources(path)).page, Viewport(width, height))


def by_id(page: Page, ident: str) -> Element:
    """The element with that id."""
    return next(e for e in page.elements if e.id == ident)


def box(page: Page, ident: str) -> tuple[float, float, float, float]:
    """x, y, width and height of an element's border box in px."""
    found = page.box_of(by_id(page, ident))
    assert found is not None
    rect = found.border_box
    return rect.x / 64, rect.y / 64, rect.width / 64, rect.height / 64


@pytest.fixture
def demo_copy(tmp_path: Path) -> Path:
    """A copy of the demo page that a test may change."""
    import shutil

    folder = tmp_path / "ploverfield"
    shutil.copytree(DEMO.parent, folder)
    return folder / "index.html"


def pytest_collection_finish() -> None:
    """What was collected lives as long as the run: the collector need not walk it again and again."""
    collect_seldom()
    gc.collect()
    gc.freeze()
