"""How far a stylesheet is read, and whether it ends where it should."""

import re
from itertools import islice

_MOST_BLOCKS, _MOST_TEXT = 30_000, 3 * 2**20  # blocks and characters of a sheet


def within_bounds(text: str) -> str:
    """A sheet's text as far as it is read: up to the end of a block."""
    if len(text) <= _MOST_TEXT and text.count("}") <= _MOST_BLOCKS:
        return text
    ends = islice(re.finditer("}", text[:_MOST_TEXT]), _MOST_BLOCKS)
    last = max((end.end() for end in ends), default=_MOST_TEXT)
    return text[:last]


_UNCLOSED = re.compile(
    r"/\*.*?(?:\*/|\Z)|\"(?:\\.|[^\"\\\n])*\"|'(?:\\.|[^'\\\n])*'|\\.|[{}]", re.DOTALL
)


def is_unclosed(text: str) -> bool:
    """Whether a brace is open at the end of `text`; strings, comments and escapes do not count."""
    depth = 0
    for match in _UNCLOSED.finditer(text):
        depth += {"{": 1, "}": -1}.get(match.group(), 0)
        depth = max(depth, 0)
    return depth > 0
