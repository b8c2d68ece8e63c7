"""Dataclasses that are cheap to define and to make: the program defines hundreds at its start, and a page makes thousands.

To the type checker this is the `dataclass` of the standard library, and that nobody writes to a field of a frozen one is
held by it alone: when the program runs there is no guard, which would cost four times what making a plain one costs.
Comparing, hashing and showing are the same functions for all classes, over the names of their fields; only `__init__` is
compiled for each, when the first value is made: a run makes values of a few classes. What a class works out from what it is
given it puts into its own fields while it is made (`put`), and a copy that differs in some fields has the rest without
working it out again (`changed`).
"""

import dataclasses
from collections.abc import Callable
from dataclasses import fields
from functools import partial
from operator import attrgetter
from reprlib import recursive_repr
from typing import TYPE_CHECKING, Any, TypeVar

Made = TypeVar("Made")
# Sets a field of a value that is being made, and of none that anybody has.
put = object.__setattr__


def _dataclass(cls: type[Any] | None = None, /, **said: bool) -> Any:
    """The dataclass of a class, as the standard library's arguments say."""
    if cls is None:
        return partial(_dataclass, **said)
    if said.get("order"):
        return dataclasses.dataclass(**said)(cls)
    own = set(cls.__dict__)
    cls.__doc__ = cls.__doc__ or cls.__name__  # else a signature is made for it
    dataclasses.dataclass(cls, repr=False, eq=False, init=False)
    if said.get("repr", True) and "__repr__" not in own:
        _put_on(cls, "__repr__", _repr_of(cls))
    if said.get("eq", True):
        _compare(cls, own, hashed=said.get("frozen", False))
    made = _with_slots(cls, weakref=said.get("weakref_slot", False)) if said.get("slots") else cls
    if "__init__" not in own:
        _put_on(made, "__init__", _compiled_when_called(made))
    return made


if TYPE_CHECKING:
    from dataclasses import dataclass as dataclass
else:
    dataclass = _dataclass


def _put_on(cls: type[Any], name: str, method: object) -> None:
    setattr(cls, name, method)


def _compiled_when_called(cls: type[Any]) -> Callable[..., None]:
    """The `__init__` of a class, which gives way to the compiled one."""

    def first(self: Any, *given: Any, **named: Any) -> None:
        compiled = _init_of(cls)
        _put_on(cls, "__init__", compiled)
        compiled(self, *given, **named)

    return first


def _init_of(cls: type[Any]) -> Callable[..., None]:
    """Puts into the fields what it is given, or their defaults."""
    known: dict[str, Any] = {"UNSET": dataclasses.MISSING}
    heads: dict[bool, list[str]] = {False: [], True: []}  # given by place or name; by name alone
    lines = []
    for number, one in enumerate(fields(cls)):
        default, value = "", one.name
        if one.default_factory is not dataclasses.MISSING:
            known[f"make_{number}"] = one.default_factory
            default = "=UNSET"
            value = (
                f"make_{number}() if {one.name} is UNSET else {one.name}"
                if one.init
                else f"make_{number}()"
            )
        elif one.default is not dataclasses.MISSING:
            known[f"default_{number}"] = one.default
            default = f"=default_{number}"
            value = one.name if one.init else f"default_{number}"
        if one.init:
            heads[bool(one.kw_only)].append(one.name + default)
        if one.init or default:
            lines.append(f" self.{one.name} = {value}")
    if hasattr(cls, "__post_init__"):
        lines.append(" self.__post_init__()")
    head = ", ".join(["self", *heads[False], *(["*", *heads[True]] if heads[True] else [])])
    exec("\n".join([f"def __init__({head}):", *(lines or [" pass"])]), known)  # noqa: S102  # names of fields alone
    made: Callable[..., None] = known["__init__"]
    made.__qualname__ = f"{cls.__qualname__}.__init__"
    return made


def _compare(cls: type[Any], own: set[str], *, hashed: bool) -> None:
    """Equal where all fields are that count; a value that may change has no hash."""
    names = [one.name for one in fields(cls) if one.compare]
    if "__eq__" not in own:
        _put_on(cls, "__eq__", _eq_of(_values(names)))
    if not hashed:
        _put_on(cls, "__hash__", None)
    elif "__hash__" not in own:
        counted = [one.name for one in fields(cls) if (one.compare if one.hash is None else one.hash)]
        _put_on(cls, "__hash__", _hash_of(_values(counted)))


def _values(names: list[str]) -> Callable[[Any], tuple[Any, ...]]:
    if len(names) > 1:
        return attrgetter(*names)
    return (lambda value: (getattr(value, names[0]),)) if names else (lambda value: ())


def _eq_of(values: Callable[[Any], tuple[Any, ...]]) -> Callable[[Any, object], bool]:
    def equal(self: Any, other: object) -> bool:
        if other.__class__ is not self.__class__:
            return NotImplemented  # type: ignore[no-any-return]
        return bool(values(self) == values(other))

    return equal


def _hash_of(values: Callable[[Any], tuple[Any, ...]]) -> Callable[[Any], int]:
    return lambda self: hash(values(self))


def _repr_of(cls: type[Any]) -> Callable[[Any], str]:
    names = [one.name for one in fields(cls) if one.repr]

    @recursive_repr()
    def shown(self: Any) -> str:
        parts = ", ".join(f"{name}={getattr(self, name)!r}" for name in names)
        return f"{self.__class__.__qualname__}({parts})"

    return shown


def _with_slots(cls: type[Any], *, weakref: bool) -> Any:
    """The same class with a slot for each field that no class above has one for."""
    above = {name for one in cls.__mro__[1:-1] for name in one.__dict__.get("__slots__", ())}
    names = [one.name for one in fields(cls)]
    content = {k: v for k, v in cls.__dict__.items() if k not in (*names, "__dict__", "__weakref__")}
    wanted = [*names, "__weakref__"] if weakref else names
    content["__slots__"] = tuple(name for name in wanted if name not in above)
    metaclass: Any = type(cls)
    made = metaclass(cls.__name__, cls.__bases__, content)
    made.__qualname__ = cls.__qualname__
    return made


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
