"""Which face each letter of a text is set in: CSS Fonts 4 §5.3.

The first family of the list that has the letter, then what fontconfig finds for it on the machine. Marks and joiners stay
with the letter that they belong to, and what no face has is left to the first one.
"""

import unicodedata
from collections.abc import Iterator
from functools import lru_cache

from redcrate.core.text.fonts import FontFace, choose_font, face_with, installed_face_with

_STAYS_WITH_ITS_BASE = frozenset(("Mn", "Me", "Mc"))
_NEEDS_NO_GLYPH = frozenset(("Cc", "Cf", "Zs", "Zl", "Zp"))
_JOINERS = frozenset("\u200c\u200d\ufe0e\ufe0f")


def by_face(
    text: str, families: tuple[str, ...], weight: int, style: str
) -> Iterator[tuple[str, FontFace | None]]:
    """The runs of a text that are set in one face each; None for that of the first family."""
    begun, at_work = 0, None
    for at, char in enumerate(text):
        face = at_work
        if char not in _JOINERS and unicodedata.category(char) not in _STAYS_WITH_ITS_BASE:
            face = other_face(char, families, weight, style)
        if face is not at_work:
            if at > begun:
                yield text[begun:at], at_work
            begun, at_work = at, face
    if begun < len(text):
        yield text[begun:], at_work


@lru_cache(maxsize=1000)
def is_whole(families: tuple[str, ...], weight: int, style: str) -> bool:
    """Whether all letters, figures and marks of ASCII are set in one face."""
    return not any(other_face(chr(code), families, weight, style) for code in range(33, 127))


@lru_cache(maxsize=20_000)
def other_face(char: str, families: tuple[str, ...], weight: int, style: str) -> FontFace | None:
    """The face for a letter that is not set in the first one; None where that is it, none has it, or none is needed."""
    if unicodedata.category(char) in _NEEDS_NO_GLYPH:
        return None
    first = choose_font(families, weight, style).face
    found = face_with(char, families, weight, style)
    if found is None and not first.has(char):  # it may be in none of the families, but stand in for them
        found = installed_face_with(char)
    return None if found is first else found


def missing_letters(text: str, families: tuple[str, ...], weight: int, style: str) -> str:
    """The letters of a text that no face on this machine has."""
    first = choose_font(families, weight, style).face
    return "".join(
        c
        for c in text
        if not first.has(c)
        and unicodedata.category(c) not in _NEEDS_NO_GLYPH | _STAYS_WITH_ITS_BASE
        and other_face(c, families, weight, style) is None
    )
