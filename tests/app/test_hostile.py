"""Hostile pages in the window: each is opened, painted and selected in, by a program of its own."""

import pytest

from tests.hostile.judging import judged_in_window

SOME = [
    "picture: svg of uses", "picture: svg of filters", "picture: svg that names devices", "html: a line of ten megabytes",
    "value: huge everything", "value: line height huge", "names: a path of a megabyte",
]  # fmt: skip


@pytest.mark.parametrize("name", SOME)
def test_the_window_opens_it_within_its_bounds(name: str) -> None:
    """5 s of processor time and 600 MB, and the page is open."""
    verdict = judged_in_window(name)
    assert verdict.holds, verdict
