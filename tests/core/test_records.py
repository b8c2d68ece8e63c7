"""Classes of which thousands are made: as cheap as plain ones, and to the type checker as frozen as the others."""

import dataclasses
import pickle
from dataclasses import field, replace
from typing import Any
from weakref import ref

import pytest

from redcrate.core.geometry import Rect
from redcrate.core.records import changed, dataclass, put
from redcrate.core.units import LayoutUnit


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


def test_as_the_standard_librarys() -> None:
    """Equal, hashed and shown alike for every way to ask for it, methods of its own kept, one value and none."""
    for said in (
        {},
        {"eq": False},
        {"repr": False},
        {"frozen": True},
        {"frozen": True, "slots": True},
        {"order": True},
    ):
        for body in ({}, {"a": int}, {"a": int, "b": list}):
            spaces = [{"__annotations__": dict(body), "__module__": __name__} for _ in range(2)]
            kinds: list[Any] = [
                kind(**said)(type("Kind", (), space))
                for kind, space in zip((dataclass, dataclasses.dataclass), spaces, strict=True)
            ]
            given = [[1, [2]][: len(body)], [3, [2]][: len(body)]]
            for first, second in ((given[0], given[0]), (given[0], given[1])):
                pairs = [(kind(*first), kind(*second)) for kind in kinds]
                assert len({one == other for one, other in pairs}) == 1
                assert len({hashed(one) == hashed(other) for one, other in pairs}) == 1
                assert len({repr(one).partition(" object at ")[0] for one, _ in pairs}) == 1
            assert kinds[0].__match_args__ == kinds[1].__match_args__


def hashed(value: object) -> int | None:
    """Its hash; None where it has none."""
    try:
        return hash(value)
    except TypeError:
        return None


def test_its_own_methods_are_kept_and_a_circle_is_shown() -> None:
    """What a class says itself about comparing, and a value that holds itself."""

    @dataclass(frozen=True)
    class Always:
        inner: list[object]
        note: str = field(default="", compare=False)

        def __hash__(self) -> int:
            return 7

    one = Always([])
    one.inner.append(one)
    assert hash(one) == 7 and repr(one).endswith("Always(inner=[...], note='')") and one != Always([])
    assert Always([], "a") == Always([], "b") and Always([]) != []


def test_slots_are_those_of_its_own_fields() -> None:
    """One that a class above has is not there twice; a weak reference where that is asked for."""

    @dataclass(frozen=True, slots=True, weakref_slot=True)
    class Upper:
        name: str

    @dataclass(frozen=True, slots=True)
    class Lower(Upper):
        name: str
        number: int = 1

    assert Lower.__slots__ == ("number",) and ref(Lower("a")) is not None and Lower("a", 2) != Upper("a")
    assert Lower.__doc__ == "Lower"


def test_a_field_that_nobody_gives_has_its_default() -> None:
    """Also one made anew for each value."""

    @dataclass(frozen=True, slots=True)
    class Counter:
        name: str
        start: int = field(default=3, init=False)
        seen: list[str] = field(default_factory=list, init=False)

    one, other = Counter("a"), Counter("b")
    assert (one.start, one.seen) == (3, []) and one.seen is not other.seen
    with pytest.raises(TypeError):
        Counter("a", 4)  # type: ignore[call-arg]
