"""The fonts that are installed on this machine, as fontconfig chooses among them: so do browsers here.

Only a family that is there by that name counts: what fontconfig would put in its place is not for us to say.
"""

from functools import cache
from io import BytesIO
from itertools import pairwise
from pathlib import Path
from typing import Any

from redcrate.core.records import dataclass

# Weights of CSS and OpenType, and those of fontconfig; between two of them straight on.
_WEIGHTS = (
    (100, 0), (200, 40), (300, 50), (350, 55), (380, 75), (400, 80), (500, 100), (600, 180), (700, 200), (800, 205),
    (900, 210), (1000, 215),
)  # fmt: skip
_ITALIC = 100
_COLLECTIONS = frozenset((".ttc", ".otc"))
_FACE = 0xFFFF  # of an index; above it stands the instance of a variable font
_LARGEST = 40_000_000  # bytes of a collection from which one face is taken


@dataclass(frozen=True, slots=True)
class InstalledFont:
    """A font file and what it says of itself. data: the face by itself, where the file holds several."""

    path: Path
    family: str
    weight: int
    italic: bool
    data: bytes | None = None


@cache
def installed_font(
    family: str, weight: int, *, italic: bool, is_alias: bool = False
) -> InstalledFont | None:
    """The face of a family that is nearest to a weight (1 to 1000); None where the family is not installed.

    is_alias: whether it is a name for which fontconfig has another family.
    """
    import fontconfig  # the bundled fonts are enough for most pages, and it takes long to load

    wanted = {"family": family, "weight": to_fontconfig(weight), "slant": _ITALIC if italic else 0}
    try:
        there = fontconfig.list(properties={"family": family}, select=("family",))
        if not is_alias and family.lower() not in {font["family"].lower() for font in there}:
            return None  # fontconfig's own comparison overlooks spaces too, which browsers do not
        found = fontconfig.match(properties=wanted, select=("file", "index", "weight", "slant"))
    except (RuntimeError, ValueError, MemoryError):  # no configuration on this machine, no such name
        return None
    return None if found is None else _font(found, family, weight)


def installed_font_with(char: str) -> InstalledFont | None:
    """The first of the machine's fonts, in fontconfig's order, that has a letter; None where none has it."""
    code = ord(char)
    place = next((at for at, font in enumerate(_in_order()) if code in font["charset"]), None)
    return None if place is None else _at_place(place)


@cache
def _at_place(place: int) -> InstalledFont | None:
    """One of these: a face of a collection takes long to take out, and has many letters."""
    found = _in_order()[place]
    return _font(found, str(found.get("family", "")), 400)


@cache
def _in_order() -> list[dict[str, Any]]:
    """All fonts that can be scaled, with the letters that each says it has: asked once, as a text may have thousands."""
    import fontconfig  # as above

    select = ("file", "family", "index", "weight", "slant", "charset")
    try:
        found = fontconfig.sort(pattern=":scalable=true", select=select, trim=False)
    except (RuntimeError, ValueError, MemoryError):
        return []
    return [font for font in found if "file" in font and font.get("charset") is not None]


def _font(found: dict[str, Any], family: str, asked: int) -> InstalledFont | None:
    """What fontconfig tells of a face; a weight that is a range holds what was asked for."""
    path, weight = Path(found["file"]), found.get("weight")
    own = from_fontconfig(weight) if isinstance(weight, int | float) else asked
    data = None
    if path.suffix.lower() in _COLLECTIONS:
        data = _one_of(path, int(found.get("index", 0)) & _FACE)
        if data is None:
            return None
    return InstalledFont(path, family, own, bool(found.get("slant")), data)


def _one_of(path: Path, number: int) -> bytes | None:
    """A face of a collection as a file of its own; None where it cannot be read."""
    from fontTools.ttLib import TTFont

    out = BytesIO()
    try:
        if path.stat().st_size > _LARGEST:
            return None
        TTFont(path, fontNumber=number, lazy=True, recalcBBoxes=False).save(out)
    except Exception:  # noqa: BLE001 a broken font file on the machine is not ours
        return None
    return out.getvalue()


def to_fontconfig(weight: float) -> float:
    """A weight of CSS in fontconfig's."""
    return _between(weight, [(css, own) for css, own in _WEIGHTS])


def from_fontconfig(weight: float) -> int:
    """A weight of fontconfig in CSS's."""
    return round(_between(weight, [(own, css) for css, own in _WEIGHTS]))


def _between(value: float, pairs: list[tuple[int, int]]) -> float:
    for (left, low), (right, high) in pairwise(pairs):
        if value <= right:
            return low + (high - low) * (max(value, left) - left) / (right - left)
    return pairs[-1][1]
