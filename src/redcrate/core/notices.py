"""Notices: what a page holds that Red Crate had to skip, mend or do in another way.

They are data, not exceptions: everything a text file can hold is opened, and what was not computed
is listed with its place.
"""

from dataclasses import dataclass
from enum import Enum


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

    offset: where what it speaks of begins in the file; -1 where that is not one place.
    """

    kind: NoticeKind
    sentence: str
    file: str = ""
    line: int = 0
    offset: int = -1
