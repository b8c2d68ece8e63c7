"""Frozen dataclasses of which a page makes thousands: the one answer to what freezing costs.

A frozen dataclass guards each of its fields while it is made too, which costs four times what a plain one costs: a fifth
of a layout. That nobody writes to a field is held by the type checker, to which these are frozen; when the program
runs, they are made as plain ones are. What a class works out from what it is given it puts into its own fields while it
is made (`put`), and a copy that differs in some fields has the rest without working it out again (`changed`).
"""

from collections.abc import Callable
from dataclasses import field, fields, is_dataclass, make_dataclass
from operator import attrgetter
from typing import Any, TypeVar

Made = TypeVar("Made")
# Sets a field of a value that is being made, and of none that anybody has.
put = object.__setattr__


def made_often(cls: type[Made]) -> type[Made]:
    """The frozen dataclass with slots, made without its guard. Raises TypeError where it has none."""
    if not is_dataclass(cls) or "__setattr__" not in cls.__dict__:
        raise TypeError(f"{cls.__name__} is no frozen dataclass")
    cls.__init__ = _plain_init(cls)  # type: ignore[method-assign]
    del cls.__setattr__, cls.__delattr__
    return cls


def _plain_init(cls: type[Any]) -> Any:
    """What makes a plain dataclass of the same fields."""
    same: list[Any] = [
        (
            one.name,
            one.type,
            field(
                default=one.default,
                default_factory=one.default_factory,
                init=one.init,
                kw_only=one.kw_only,
            ),
        )
        for one in fields(cls)
    ]
    more = {"__post_init__": cls.__post_init__} if hasattr(cls, "__post_init__") else {}
    plain: type[Any] = make_dataclass(cls.__name__, same, eq=False, repr=False, namespace=more)
    return plain.__dict__["__init__"]


_copying: dict[type, tuple[Callable[[Any], tuple[Any, ...]], tuple[Callable[..., None], ...]]] = {}


def changed(value: Made, **others: object) -> Made:
    """A copy of a value with slots in which some fields are others, and nothing is worked out again."""
    cls = type(value)
    if cls not in _copying:
        names = [one.name for one in fields(cls)]  # type: ignore[arg-type]
        _copying[cls] = attrgetter(*names), tuple(getattr(cls, name).__set__ for name in names)
    all_of, setters = _copying[cls]
    made = cls.__new__(cls)
    for set_one, held in zip(setters, all_of(value), strict=True):
        set_one(made, held)
    for name, other in others.items():
        put(made, name, other)
    return made
