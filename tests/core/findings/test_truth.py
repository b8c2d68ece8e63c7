"""What is said of pages that nobody here wrote is so, by the boxes that a browser measured.

Here the small ones of the pages that stand beside the project; tools/truth.py has all of them.
"""

import json
from pathlib import Path

import pytest

from redcrate.core.overflow.sideways import over_the_window
from tests.truth import PAGES, cases, index, judged

_MOST, _MOST_CSS = 90, 60_000  # elements and bytes: of the pages that are small
# Its quoted families ("serif") are none that anybody has: each machine shows another font for them.
_OTHER_FONTS = "freetype-design"


def small_pages() -> list[tuple[Path, str, str]]:
    """The pages with few elements, where they are here."""
    found = []
    for folder in PAGES:
        for name, file in index(folder).items():
            measured = json.loads((folder / f"{name}.390.json").read_text(encoding="utf-8"))
            css = sum(p.stat().st_size for p in (folder / name).rglob("*.css") if p.is_file())
            if len(measured["elements"]) <= _MOST and css <= _MOST_CSS and name != _OTHER_FONTS:
                found.append((folder, name, file))
    return found


_HERE = small_pages()
_NOT_HERE = pytest.mark.skip("the measured pages are not here")


@pytest.mark.parametrize("part", range(2) if _HERE else [pytest.param(0, marks=_NOT_HERE)])
def test_nothing_untrue_is_told(part: int) -> None:
    """No finding that measured boxes speak against; a page is told to be too wide where it can be scrolled, and only there."""
    untrue, told = [], 0
    for folder, name, file in _HERE[part::2]:
        for case in cases(folder, name, file, (1280, 390)):
            for finding, verdict in judged(case):
                told += verdict is not None
                if finding.family == "wider-than-viewport" and over_the_window(case.page) <= 32:
                    untrue.append(f"{case.name} is told to be too wide")
                if verdict is False:
                    untrue.append(f"{case.name}: {finding.sentence}")
    assert told and not untrue, "\n".join(untrue)
