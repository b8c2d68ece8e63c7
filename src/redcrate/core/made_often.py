"""Frozen dataclasses of which a page makes thousands.

A frozen dataclass guards each of its fields while it is made too, which costs four times what a plain one costs: a fifth
of a layout. That nobody writes to a field is held by the type checker, to which these are frozen; when the program
runs, they are made as plain ones are.
"""

from dataclasses import field, fields, is_dataclass, make_dataclass
from typing import Any, TypeVar

Made = TypeVar("Made")


def made_often(cls: type[Made]) -> type[Made]:
    """The frozen dataclass with slots, made without its guard.

    Raises TypeError where it has no guard, or does more than keep what it is given.
    """
    if not is_dataclass(cls) or "__setattr__" not in cls.__dict__ or hasattr(cls, "__post_init__"):
        raise TypeError(f"{cls.__name__} is no frozen dataclass that only keeps what it is given")
    cls.__init__ = _plain_init(cls)  # type: ignore[method-assign]
    del cls.__setattr__, cls.__delattr__
    return cls


def _plain_init(cls: type[Any]) -> Any:
    """What makes a plain dataclass of the same fields."""
    same: list[Any] = [
        (
            one.name,
            one.type,
            field(default=one.default, default_factory=one.default_factory, kw_only=one.kw_only),
        )
        for one in fields(cls)
    ]
    plain: type[Any] = make_dataclass(cls.__name__, same, eq=False, repr=False)
    return plain.__dict__["__init__"]
