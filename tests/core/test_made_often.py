"""Classes of which thousands are made: as cheap as plain ones, and to the type checker as frozen as the others."""

import pickle
from dataclasses import dataclass, field, replace

import pytest

from redcrate.core.geometry import Rect
from redcrate.core.made_often import made_often
from redcrate.core.units import LayoutUnit


@made_often
@dataclass(frozen=True, slots=True)
class Batch:
    """Something with all kinds of fields."""

    name: str
    amounts: list[int] = field(default_factory=list)
    last: bool = False
    note: str = field(default="", kw_only=True)


def test_it_is_made_as_its_fields_say() -> None:
    """Defaults, factories of their own for each, names, and what is missing."""
    one, other = Batch("a"), Batch("a", last=True, note="late")
    assert (one.amounts, one.last, one.note) == ([], False, "") and one.amounts is not other.amounts
    assert (other.last, other.note) == (True, "late")
    with pytest.raises(TypeError):
        Batch()  # type: ignore[call-arg]
    with pytest.raises(TypeError):
        Batch("a", [], False, "late")  # type: ignore[misc]


def test_it_is_compared_hashed_replaced_and_kept_as_before() -> None:
    """What frozen dataclasses can do, these can."""
    rect = Rect(*(LayoutUnit(n) for n in (1, 2, 3, 4)))
    moved = replace(rect, x=LayoutUnit(9))
    assert (
        moved != rect
        and replace(moved, x=rect.x) == rect
        and hash(rect) == hash(replace(moved, x=rect.x))
    )
    assert pickle.loads(pickle.dumps(rect)) == rect and "y=2" in repr(rect)
    with pytest.raises(AttributeError):
        rect.depth = 5  # type: ignore[attr-defined]


def test_only_frozen_classes_that_keep_what_they_are_given() -> None:
    """Where something is worked out as one is made, or nothing is frozen, it is refused."""

    @dataclass(frozen=True, slots=True)
    class Counted:
        number: int

        def __post_init__(self) -> None:
            """Do more."""

    @dataclass
    class Loose:
        number: int

    for wrong in (Counted, Loose, int):
        with pytest.raises(TypeError):
            made_often(wrong)
