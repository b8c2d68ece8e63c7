"""Font files of pages: WOFF and WOFF 2 are unpacked, by `fontTools`, to what the shaper reads."""

import struct
import zlib
from io import BytesIO

import uharfbuzz as hb

_LARGEST = 32 * 2**20
_PIECE = 2**20
_PACKED = (b"wOFF", b"wOF2")
_PLAIN = (b"\x00\x01\x00\x00", b"OTTO", b"true")


def is_packed(data: bytes) -> bool:
    """Whether a font file must be unpacked first."""
    return data[:4] in _PACKED


def unpacked(data: bytes) -> bytes | None:
    """A font file as TrueType or OpenType; None if it is none, or broken."""
    if data[:4] in _PLAIN:
        plain: bytes | None = data
    else:
        plain = _unpack(data) if data[:4] in _PACKED else None
    return plain if plain and _is_usable(plain) else None


def _unpack(data: bytes) -> bytes | None:
    """A packed font, unpacked; None for one that says, or turns out, to be too large before it is unpacked."""
    try:
        if not (_fits_woff if data[:4] == b"wOFF" else _fits_woff2)(data):
            return None
    except (struct.error, zlib.error, IndexError, ValueError):
        return None
    from fontTools.ttLib import TTFont  # most pages need none, and it takes long to load

    out = BytesIO()
    try:
        font = TTFont(BytesIO(data), lazy=False, recalcBBoxes=False, recalcTimestamp=False)
        font.flavor = None
        font.save(out, reorderTables=False)
    except Exception:  # noqa: BLE001 - whatever a broken file makes of the reader, the page goes on
        return None
    found = out.getvalue()
    return found if len(found) <= _LARGEST else None


def _fits_woff(data: bytes) -> bool:
    """WOFF 1.0 §4–5: whether its tables together come to no more than is read, each as large as it says."""
    (count,) = struct.unpack_from(">H", data, 12)
    left = _LARGEST
    for at in range(44, 44 + 20 * count, 20):
        offset, packed, size, _ = struct.unpack_from(">IIII", data, at + 4)
        left -= size
        if left < 0:
            return False
        if packed < size:
            table = zlib.decompressobj().decompress(data[offset : offset + packed], size + 1)
            if len(table) > size:
                return False
    return True


def _fits_woff2(data: bytes) -> bool:
    """WOFF 2.0 §4: whether its one stream comes to no more than is read; transformed tables grow little after that."""
    import brotli  # as above

    (packed,) = struct.unpack_from(">I", data, 20)
    start = _end_of_directory(data)
    stream = brotli.Decompressor()
    try:
        found = len(stream.process(data[start : start + packed], output_buffer_limit=_PIECE))
        while found <= _LARGEST and not stream.is_finished():
            piece = stream.process(b"", output_buffer_limit=_PIECE)
            if not piece:
                break
            found += len(piece)
    except brotli.error:
        return False
    return found <= _LARGEST


def _end_of_directory(data: bytes) -> int:
    """WOFF 2.0 §4.1 and §5.1: where the table directory ends, and the packed stream begins."""
    (count,) = struct.unpack_from(">H", data, 12)
    at = 48
    for _ in range(count):
        flags = data[at]
        at += 1 if flags & 0x3F != 0x3F else 5
        transformed = (flags >> 6) != 3 if _is_outline(data, at, flags) else (flags >> 6) != 0
        for _ in range(2 if transformed else 1):
            while data[at] & 0x80:
                at += 1
            at += 1
    return at


def _is_outline(data: bytes, at: int, flags: int) -> bool:
    """Whether a table of the directory is glyf or loca, which are transformed unless they say that they are not."""
    known = flags & 0x3F
    return known in (10, 11) or (known == 0x3F and data[at - 4 : at] in (b"glyf", b"loca"))


def _is_usable(data: bytes) -> bool:
    """Whether the shaper finds glyphs in it."""
    try:
        face = hb.Face(hb.Blob(data))
    except Exception:  # noqa: BLE001 - as above
        return False
    return bool(face.glyph_count and face.upem)
