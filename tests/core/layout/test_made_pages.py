"""Pages made at random hold the laws, edit after edit; tools/fuzz.py goes on where this ends."""

from pathlib import Path

import pytest

from tests.made_pages import FAMILIES
from tests.trying import try_page

_SEEDS = 4
_AT_ONCE = 2


@pytest.mark.parametrize("first", range(0, _SEEDS, _AT_ONCE))
@pytest.mark.parametrize("family", sorted(FAMILIES))
def test_made_pages_hold_the_laws(family: str, first: int, tmp_path: Path) -> None:
    """No lost boxes, every piece once, sums, explanations, and incremental like full."""
    for seed in range(first, first + _AT_ONCE):
        try_page(family, seed, tmp_path)
