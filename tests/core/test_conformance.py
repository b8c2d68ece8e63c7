"""The measured pages of the browsers' shared suite, where they stand beside the project."""

from collections.abc import Iterator

import pytest

from tests.conftest import CASES, SUITE
from tests.measured import check_measured

NAMES = [p.relative_to(SUITE).with_suffix("").as_posix() for p in sorted(SUITE.rglob("*.json"))]


def not_yet_right() -> Iterator[tuple[str, str]]:
    """The pages of the list with their causes."""
    cause = ""
    text = (CASES.parent / "conformance_not_yet_right.txt").read_text(encoding="utf-8")
    for line in text.splitlines():
        if line.startswith(("not offered: ", "open: ")):
            cause = line
        elif line and not line.startswith("#"):
            yield line, cause


NOT_YET = dict(not_yet_right())


@pytest.mark.parametrize(
    "name", NAMES or [pytest.param("", marks=pytest.mark.skip("the suite is not here"))]
)
def test_page(name: str) -> None:
    """All boxes are right to 0.05 px; a page in the list must still be wrong."""
    check_measured(SUITE, name, NOT_YET)


def test_the_list_names_each_page_once_with_a_cause() -> None:
    """No page is there twice or without a cause, and none that is not in the suite."""
    listed = [name for name, _ in not_yet_right()]
    assert len(listed) == len(NOT_YET) and all(NOT_YET.values())
    assert not NAMES or set(listed) <= set(NAMES)
