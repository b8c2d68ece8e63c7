"""The intrinsic size of an image, read off its file's header; pixels are never decoded.

CSS 2.2 §10.3.2 and CSS Images 3 §4: width, height and ratio, each of which may be missing.
"""

import base64
import binascii
import re
from functools import lru_cache
from io import BytesIO
from urllib.parse import unquote_to_bytes

from redcrate.core.records import dataclass

_SVG_LENGTH = re.compile(r"\s*([0-9.]+(?:e[+-]?\d+)?)\s*(px|pt|pc|cm|mm|in|em|ex|%)?\s*\Z", re.I)
_SVG_UNITS = {
    "": 1.0,
    "px": 1.0,
    "pt": 96 / 72,
    "pc": 16.0,
    "cm": 96 / 2.54,
    "mm": 96 / 25.4,
    "in": 96.0,
    "em": 16.0,
    "ex": 8.0,
}
_ORIENTATION, _ON_ITS_SIDE = 0x112, (5, 6, 7, 8)  # of a camera: Exif 2.32 §4.6.4
_DATA_URI = re.compile(r"data:([^,;]*)((?:;[^,;]*)*),(.*)", re.DOTALL | re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class IntrinsicSize:
    """Width and height in px and their ratio; None where the image has none."""

    width: float | None
    height: float | None
    ratio: float | None


NO_SIZE = IntrinsicSize(None, None, None)


def data_uri_bytes(address: str) -> bytes | None:
    """The bytes of a `data:` address (RFC 2397); None if it is malformed."""
    match = _DATA_URI.match(address.strip())
    if match is None:
        return None
    body = unquote_to_bytes(match.group(3))
    if ";base64" in match.group(2).lower():
        try:
            packed = b"".join(body.split())
            return base64.b64decode(packed + b"=" * (-len(packed) % 4))
        except (binascii.Error, ValueError):
            return None
    return body


@lru_cache(maxsize=2048)
def intrinsic_size(data: bytes) -> IntrinsicSize | None:
    """The intrinsic size of an image file's bytes, the right way up (CSS Images 3 §6.3); None if it is no image."""
    head = data[:512].lstrip().lower()
    if head.startswith((b"<svg", b"<?xml", b"<!doctype svg", b"<!--")):
        return _svg_size(data)
    from PIL import Image  # takes long to load, and many pages have no such picture

    try:
        with Image.open(BytesIO(data)) as image:
            width, height = image.size
            if image.getexif().get(_ORIENTATION) in _ON_ITS_SIDE:
                width, height = height, width
    except Exception:  # noqa: BLE001 the readers of some formats raise whatever rubbish leads them to
        return None
    return IntrinsicSize(float(width), float(height), width / height if height else None)


def _svg_size(data: bytes) -> IntrinsicSize | None:
    from defusedxml import DefusedXmlException  # as above
    from defusedxml.ElementTree import ParseError, fromstring

    try:
        root = fromstring(data)
    except (ParseError, DefusedXmlException, ValueError, LookupError):
        return None
    if root.tag.rpartition("}")[2] != "svg":
        return None
    return svg_attributes_size(dict(root.attrib))


def svg_attributes_size(attributes: dict[str, str]) -> IntrinsicSize:
    """The size of an SVG root by its attributes: SVG 2 §8.2 and §7.12 (viewBox gives the ratio)."""
    width = _svg_length(attributes.get("width"))
    height = _svg_length(attributes.get("height"))
    ratio = width / height if width and height else None
    if ratio is None:
        box = re.split(r"[\s,]+", attributes.get("viewBox", attributes.get("viewbox", "")).strip())
        try:
            numbers = [float(n) for n in box]
        except ValueError:
            numbers = []
        if len(numbers) == 4 and numbers[2] > 0 and numbers[3] > 0:
            ratio = numbers[2] / numbers[3]
    return IntrinsicSize(width, height, ratio)


def _svg_length(text: str | None) -> float | None:
    match = _SVG_LENGTH.match(text or "")
    if match is None or (match.group(2) or "") == "%":
        return None
    try:
        return float(match.group(1)) * _SVG_UNITS[(match.group(2) or "").lower()]
    except ValueError:
        return None
