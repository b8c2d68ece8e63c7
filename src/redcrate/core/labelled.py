"""Enumerations with a key for files, code and commands, and a label for people: a label is never a key."""

from enum import Enum


class Labelled(Enum):
    """Members are written `NAME = "key", "label"`; value: the key, which stays; label: as the interface says it."""

    label: str

    def __new__(cls, key: str, label: str) -> "Labelled":
        """A member whose value is its key."""
        member = object.__new__(cls)
        member._value_ = key
        member.label = label
        return member
