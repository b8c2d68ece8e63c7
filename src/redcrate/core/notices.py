"""Notices: what a page holds that Red Crate had to ignore, mend or do in another way.

They are data, not exceptions: everything a text file can hold is opened, and what was not computed
is listed with its place.
"""

import re
from collections.abc import Sequence
from dataclasses import replace
from enum import Enum
from typing import Protocol

from redcrate.core.records import dataclass
from redcrate.core.units import first_of


class NoticeKind(Enum):
    """What a notice is about; the values stand in reports."""

    MARKUP = "markup"
    UNKNOWN_PROPERTY = "unknown-property"
    NOT_COMPUTED = "not-computed"
    INVALID_VALUE = "invalid-value"
    MISSING_UNIT = "missing-unit"
    COMMA_IN_SHORTHAND = "comma-in-shorthand"
    BAD_SYNTAX = "bad-syntax"
    BAD_SELECTOR = "bad-selector"
    MISSING_FILE = "missing-file"
    MISSING_FONT = "missing-font"
    MISSING_IMAGE = "missing-image"
    REMOTE_NOT_LOADED = "remote-not-loaded"
    SCRIPT_NOT_RUN = "script-not-run"
    LAID_OUT_AS_BLOCKS = "laid-out-as-blocks"
    QUIRKS = "quirks"
    TOO_DEEP = "too-deep"
    TOO_LONG = "too-long"
    OUTSIDE_FOLDER = "outside-folder"


@dataclass(frozen=True, slots=True)
class Notice:
    """One notice: a sentence for people, and the file and line (from 1; 0: the whole file).

    offset: where what it speaks of begins in the file; -1 where that is not one place. about: what it names, where
    several of a kind are told in one line.
    """

    kind: NoticeKind
    sentence: str
    file: str = ""
    line: int = 0
    offset: int = -1
    about: str = ""


class Telling(Protocol):
    """Something that has notices, which take time to find out unless they are known."""

    @property
    def is_known(self) -> bool:
        """Whether they can be told at once."""

    @property
    def notices(self) -> tuple[Notice, ...]:
        """All of them."""


def told(notices: Sequence[Notice]) -> tuple[Notice, ...]:
    """The notices as people read them: what is on a network, and what is for other browsers only, in one line each."""
    far = [n for n in notices if n.kind is NoticeKind.REMOTE_NOT_LOADED and n.about]
    other = [n for n in notices if n.kind in _WRITTEN and _OTHERS.search(n.sentence)]
    lines: dict[int, Notice | None] = {}
    for group, fold in ((far, _far), (other, _for_others)):
        if len(group) > 1:
            lines |= dict.fromkeys(map(id, group))
            lines[id(group[0])] = fold(group)
    folded = (lines.get(id(n), n) for n in notices)
    return tuple(n for n in folded if n is not None)


def _far(group: Sequence[Notice]) -> Notice:
    names = first_of(list(dict.fromkeys(n.about for n in group)))
    words = f"{len(group)} files on a network are not loaded: {names}. Save copies beside the page to use them."
    return replace(group[0], sentence=words, file="", line=0)


def _for_others(group: Sequence[Notice]) -> Notice:
    found = (m[0].lower() for n in group for m in _OTHERS.finditer(n.sentence))
    prefixes = ", ".join(sorted(set(found)))
    words = f"Ignored: {len(group)} rules and declarations for other browsers only ({prefixes})."
    return replace(group[0], sentence=words, file="", line=0)


_WRITTEN = (NoticeKind.BAD_SELECTOR, NoticeKind.INVALID_VALUE, NoticeKind.UNKNOWN_PROPERTY)
_OTHERS = re.compile(r"(?<![\w-])-(?:moz|webkit|ms|o|khtml)-(?=[a-z])", re.IGNORECASE)
