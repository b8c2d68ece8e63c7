"""Classes of which thousands are made: as cheap as plain ones, and to the type checker as frozen as the others."""

import pickle
from dataclasses import dataclass, field, replace

import pytest

from redcrate.core.geometry import Rect
from redcrate.core.made_often import changed, made_often, put
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
        Batch("a", [], False, "late")  # type: ignore[call-arg]


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


def test_what_a_class_works_out_while_it_is_made() -> None:
    """It is there in the value; a changed copy has what it had, and is made without working it out again."""

    @made_often
    @dataclass(frozen=True, slots=True)
    class Counted:
        name: str
        length: int = field(init=False, compare=False)

        def __post_init__(self) -> None:
            """Count."""
            put(self, "length", len(self.name))

    one = Counted("kale")
    other = changed(one, name="chard")
    assert (one.name, one.length, other.name, other.length) == ("kale", 4, "chard", 4)
    assert replace(one, name="chard").length == 5 and other == Counted("chard")


def test_only_frozen_dataclasses() -> None:
    """Where nothing is frozen there is no guard to save."""

    @dataclass
    class Loose:
        number: int

    for wrong in (Loose, int):
        with pytest.raises(TypeError):
            made_often(wrong)
