"""Font files of pages: WOFF and WOFF 2 are unpacked, by `fontTools`, to what the shaper reads."""

from io import BytesIO

import uharfbuzz as hb

_LARGEST = 32 * 2**20
_PACKED = (b"wOFF", b"wOF2")
_PLAIN = (b"\x00\x01\x00\x00", b"OTTO", b"true")


def unpacked(data: bytes) -> bytes | None:
    """A font file as TrueType or OpenType; None if it is none, or broken."""
    if data[:4] in _PLAIN:
        plain: bytes | None = data
    else:
        plain = _unpack(data) if data[:4] in _PACKED else None
    return plain if plain and _is_usable(plain) else None


def _unpack(data: bytes) -> bytes | None:
    from fontTools.ttLib import TTFont  # noqa: PLC0415 - most pages need none, and it takes long to load

    out = BytesIO()
    try:
        font = TTFont(BytesIO(data), lazy=False, recalcBBoxes=False, recalcTimestamp=False)
        font.flavor = None
        font.save(out, reorderTables=False)
    except Exception:  # noqa: BLE001 - whatever a broken file makes of the reader, the page goes on
        return None
    found = out.getvalue()
    return found if len(found) <= _LARGEST else None


def _is_usable(data: bytes) -> bool:
    """Whether the shaper finds glyphs in it."""
    try:
        face = hb.Face(hb.Blob(data))
    except Exception:  # noqa: BLE001 - as above
        return False
    return bool(face.glyph_count and face.upem)
