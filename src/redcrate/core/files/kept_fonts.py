"""Font files as the shaper reads them; unpacking takes long, so that what came of it is kept."""

from functools import lru_cache

from redcrate.core.files.kept_work import kept_work
from redcrate.core.text.web_fonts import is_packed, unpacked

_KIND = "font"


@lru_cache(maxsize=24)
def font_data(data: bytes) -> bytes | None:
    """A font file as TrueType or OpenType; None if it is none, or broken."""
    if not is_packed(data):
        return unpacked(data)
    known = kept_work().of(_KIND, data)
    if known is not None:
        return known
    made = unpacked(data)
    if made is not None:
        kept_work().keep(_KIND, data, made)
    return made
