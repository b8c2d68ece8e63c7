"""The measured pages of the browsers' shared suite, where they stand beside the project."""

from collections.abc import Iterator

import pytest

from tests.conftest import CASES, SUITE
from tests.measured import check_measured

# Of each half of the suite, the list of pages that are not right yet: without tables, flex and grid, and with them.
LISTS = {
    "scope1": "conformance_not_yet_right.txt",
    "scope2": "conformance_boxes_not_yet_right.txt",
}
NAMES = [
    f"{half}/{path.relative_to(SUITE / half).with_suffix('').as_posix()}"
    for half in LISTS
    for path in sorted((SUITE / half).rglob("*.json"))
]


def not_yet_right() -> Iterator[tuple[str, str]]:
    """The pages of the lists with their causes."""
    for half, name in LISTS.items():
        cause = ""
        for line in (CASES.parent / name).read_text(encoding="utf-8").splitlines():
            if line.startswith(("not offered: ", "open: ")):
                cause = line
            elif line and not line.startswith("#"):
                yield f"{half}/{line}", cause


_NOT_HERE = pytest.mark.skip("the suite is not here")
NOT_YET = dict(not_yet_right())


_AT_ONCE = 24  # a test for each page would take longer to be told of than to run


@pytest.mark.parametrize(
    "first", range(0, len(NAMES), _AT_ONCE) if NAMES else [pytest.param(0, marks=_NOT_HERE)]
)
def test_pages(first: int) -> None:
    """All boxes are right to 0.05 px; a page in a list must still be wrong. All pages that are not so are told."""
    wrong = []
    for name in NAMES[first : first + _AT_ONCE]:
        try:
            check_measured(SUITE, name, NOT_YET)
        except AssertionError as problem:
            wrong.append(f"{name}: {problem}")
        except Exception as problem:
            problem.add_note(name)
            raise
    assert not wrong, "\n".join(wrong)


def test_the_lists_name_each_page_once_with_a_cause() -> None:
    """No page is there twice or without a cause, and none that is not in the suite."""
    listed = [name for name, _ in not_yet_right()]
    assert len(listed) == len(NOT_YET) and all(NOT_YET.values())
    assert not NAMES or set(listed) <= set(NAMES)
