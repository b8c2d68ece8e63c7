"""What tests of the layout share."""

from collections.abc import Callable

import pytest

from redcrate.core.layout import block_container


@pytest.fixture
def boxes_laid_out(monkeypatch: pytest.MonkeyPatch) -> Callable[[], int]:
    """How many block containers were laid out since it was last asked."""
    made = 0
    real = block_container.build_fragment

    def counted(*given: object) -> object:
        nonlocal made
        made += 1
        return real(*given)  # type: ignore[arg-type]

    def since() -> int:
        nonlocal made
        found, made = made, 0
        return found

    monkeypatch.setattr(block_container, "build_fragment", counted)
    return since
