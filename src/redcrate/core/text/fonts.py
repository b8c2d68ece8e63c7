"""Font files: which face stands for a family, and its metrics.

The bundled faces are metric-compatible with the usual web families and come first; other families come from the
fonts installed on the machine, and what is missing is told by name.
"""

import struct
from collections.abc import Mapping
from functools import cache, lru_cache
from importlib.resources import files
from pathlib import Path

import uharfbuzz as hb

from redcrate.core.records import dataclass
from redcrate.core.style.font_faces import WebFace, WebFamily
from redcrate.core.style.values import FontUnits
from redcrate.core.text.installed_fonts import (
    InstalledFont,
    installed_font,
    installed_font_with,
)
from redcrate.core.units import LayoutUnit, float32

_BUNDLED = "redcrate.core.text"
_OBLIQUE = -14.0  # degrees of the axis for slant, where nothing is said (CSS Fonts 4 §2.4)
SANS, SERIF, MONO = "Liberation Sans", "Liberation Serif", "Liberation Mono"

# Generic families (CSS Fonts 4 §2.1.3) and families with the same advance widths as a bundled one.
_SAME_METRICS = {
    "sans-serif": SANS,
    "serif": SERIF,
    "monospace": MONO,
    "system-ui": SANS,
    "cursive": SANS,
    "fantasy": SANS,
    "arial": SANS,
    "helvetica": SANS,
    "liberation sans": SANS,
    "times new roman": SERIF,
    "times": SERIF,
    "liberation serif": SERIF,
    "courier new": MONO,
    "courier": MONO,
    "liberation mono": MONO,
}


@dataclass(frozen=True, slots=True)
class FontMetrics:
    """Vertical metrics of a face at one size.

    ascent, descent, line_gap: whole px in 1/64 px, each rounded (as browsers do). x_height and
    zero_width: px, exact. underline: how far below the baseline, px.
    """

    ascent: LayoutUnit
    descent: LayoutUnit
    line_gap: LayoutUnit
    x_height: float
    zero_width: float
    cap_height: float


class FontFace:
    """One font file, opened for shaping. Lengths are in font units unless they say otherwise."""

    def __init__(
        self,
        path: Path,
        family: str,
        weight: int,
        italic: bool,
        data: bytes | None = None,
        variations: tuple[tuple[str, float], ...] = (),
    ) -> None:
        """data: of a font that a page brings along, or that stands with others in a file; `path` then only names it.

        variations: where on its axes a variable font is taken, by their tags.
        """
        self.path = path
        self.data = data
        self.family = family
        self.weight = weight
        self.italic = italic
        self.variations = variations
        blob = hb.Blob.from_file_path(str(path)) if data is None else hb.Blob(data)
        face = hb.Face(blob)
        self.axes = {i.tag: (i.min_value, i.default_value, i.max_value) for i in face.axis_infos}
        self.hb_font = hb.Font(face)
        if variations:
            self.hb_font.set_variations(dict(variations))
        self.upem: int = face.upem or 1000
        extents = self.hb_font.get_font_extents("ltr")
        self.ascender: int = extents.ascender
        self.descender: int = -extents.descender
        self.line_gap: int = extents.line_gap
        told = _os2_height(face, 86), _os2_height(face, 88)
        self._round_top = 0 if all(told) else self._top_of("o")
        self.x_height = told[0] or self._top_of("x") or self.upem // 2
        self.cap_height = told[1] or self._top_of("H") or self.ascender or self.upem
        self.average_width = _int16(face, "OS/2", 2) or self.upem // 2
        self.widest = _int16(face, "head", 40) - _int16(face, "head", 36)  # of all glyphs' outlines
        zero = self.hb_font.get_nominal_glyph(ord("0"))
        self.zero_width: int = self.hb_font.get_glyph_h_advance(zero) if zero else self.upem // 2
        self._metrics: dict[float, FontMetrics] = {}

    def metrics(self, size: float) -> FontMetrics:
        """The metrics at `size` px."""
        known = self._metrics.get(size)
        if known is None:
            scale = drawn_size(size) / self.upem
            x_height, cap_height = self._heights(scale)
            known = self._metrics[size] = FontMetrics(
                _whole_px(self.ascender * scale),
                _whole_px(self.descender * scale),
                _whole_px(self.line_gap * scale),
                x_height,
                self.zero_width * shaping_size(size) / self.upem,
                cap_height,
            )
        return known

    def _heights(self, scale: float) -> tuple[float, float]:
        """How tall x and H are, px, by what the font says, or else by how engines draw them."""
        if not self._round_top:
            return self.x_height * scale, self.cap_height * scale
        # Letters are drawn so that round ones end at a whole px, rounded up from 3/8, and the flat ones with them.
        grown = int(self._round_top * scale + 0.625) / self._round_top
        return int(self.x_height * grown + 0.5), int(self.cap_height * grown + 0.5)

    def _top_of(self, char: str) -> int:
        """How far a letter reaches up, font units; 0 where there is none."""
        extents = self.hb_font.get_glyph_extents(self.hb_font.get_nominal_glyph(ord(char)) or 0)
        return extents.y_bearing if extents is not None else 0

    def at(self, wanted: Mapping[str, float]) -> "FontFace":
        """The face at those places on its axes (CSS Fonts 4 §2.5, §7.2); itself where it has none of these."""
        found = dict(self.variations)
        for tag, value in wanted.items():
            if tag in self.axes:
                low, default, high = self.axes[tag]
                found[tag] = min(max(value, low), high)
                if found[tag] == default:
                    del found[tag]
        chosen = tuple(sorted(found.items()))
        return self if chosen == self.variations else _varied(self, chosen)

    def has(self, char: str) -> bool:
        """Whether the face has a glyph for `char`."""
        return bool(self.hb_font.get_nominal_glyph(ord(char)))


@lru_cache(maxsize=500)
def _varied(face: FontFace, variations: tuple[tuple[str, float], ...]) -> FontFace:
    return FontFace(face.path, face.family, face.weight, face.italic, face.data, variations)


def drawn_size(size: float) -> float:
    """The font size that heights are taken at: cut to 1/100 px, as engines do."""
    return int(float32(float32(size) * 100)) / 100


def shaping_size(size: float) -> float:
    """The font size that advances are taken at: that, cut to 1/64 px."""
    return int(drawn_size(size) * 64) / 64


def _whole_px(px: float) -> LayoutUnit:
    return LayoutUnit(int(px + 0.5) * 64)


def _int16(face: "hb.Face", table: str, at: int) -> int:
    data = bytes(face.reference_table(table).data or b"")
    return int(struct.unpack(">h", data[at : at + 2])[0]) if len(data) >= at + 2 else 0


def _os2_height(face: "hb.Face", at: int) -> int:
    """`sxHeight` (at 86) or `sCapHeight` (at 88) of the OS/2 table (version 2 and later), or 0."""
    return _int16(face, "OS/2", at)


@dataclass(frozen=True, slots=True)
class FontChoice:
    """The face for a family list. stands_in_for: the first family that is missing, or ""."""

    face: FontFace
    stands_in_for: str


@cache
def _bundled_face(family: str, bold: bool, italic: bool) -> FontFace:
    style = {(False, False): "Regular", (True, False): "Bold", (False, True): "Italic"}.get(
        (bold, italic), "BoldItalic"
    )
    name = f"{family.replace(' ', '')}-{style}.ttf"
    path = Path(str(files(_BUNDLED) / "fonts" / name))
    return FontFace(path, family, 700 if bold else 400, italic)


@cache
def _system_face(family: str, weight: int, italic: bool) -> FontFace | None:
    """The face of a family on the machine that is nearest."""
    is_alias = family.startswith('"')  # a generic name in quotes
    found = installed_font(family.strip('"'), weight, italic=italic, is_alias=is_alias)
    return None if found is None else _file_face(found)


@cache
def _file_face(font: InstalledFont) -> FontFace:
    return FontFace(font.path, font.family, font.weight, font.italic, font.data).at(
        {"wght": font.weight}
    )


@lru_cache(maxsize=500)
def _web_face(family: str, face: WebFace) -> FontFace:
    return FontFace(Path(face.name), family, face.weights[0], face.italic, face.data)


def _web_face_at(family: WebFamily, face: WebFace, weight: int, *, italic: bool) -> FontFace:
    """A font file of a page, set for a weight within those that its rule gives it, and slanted where it has to be."""
    wanted: dict[str, float] = {"wght": min(max(weight, face.weights[0]), face.weights[1])}
    if italic:
        wanted |= {"ital": 1.0, "slnt": _OBLIQUE}
    return _web_face(str(family), face).at(wanted)


def same_metrics(family: str) -> str:
    """A name that all families with the same advance widths have in common, in lower case."""
    return _SAME_METRICS.get(family.lower(), family).lower()


@lru_cache(maxsize=4000)
def choose_font(families: tuple[str, ...], weight: int, style: str) -> FontChoice:
    """The face for the first family that there is; a bundled serif when there is none."""
    missing = ""
    for family in families:
        found = _face_of(family, weight, style, " ")
        if found is None and isinstance(family, WebFamily):  # none of its faces is for the space
            found = _web_face_at(family, family.faces[-1], weight, italic=style != "normal")
        if found is not None:
            return FontChoice(found, missing)
        missing = missing or family
    return FontChoice(_bundled_face(SERIF, weight >= 600, style != "normal"), missing)


def _face_of(family: str, weight: int, style: str, char: str) -> FontFace | None:
    """The face of a family for a character, which it need not have; None where there is none."""
    italic, key = style != "normal", family.lower()
    if isinstance(family, WebFamily):
        web = family.face(weight, italic=italic, char=char)
        return None if web is None else _web_face_at(family, web, weight, italic=italic)
    if key in _SAME_METRICS:
        return _bundled_face(_SAME_METRICS[key], weight >= 600, italic)
    return _system_face(key, weight, italic)


def face_with(char: str, families: tuple[str, ...], weight: int, style: str) -> FontFace | None:
    """CSS Fonts 4 §5.3: the face of the first of the families that has a letter."""
    faces = (_face_of(family, weight, style, char) for family in families)
    return next((face for face in faces if face is not None and face.has(char)), None)


@cache
def installed_face_with(char: str) -> FontFace | None:
    """The face on the machine that fontconfig has for a letter, whatever the family, weight and style."""
    found = installed_font_with(char)
    if found is None:
        return None
    face = _file_face(found)
    return face if face.has(char) else None


def measure_font(families: tuple[str, ...], weight: int, style: str, size: float) -> FontUnits:
    """The units that hang on a font at `size` px: CSS Values 4 §6.1.1. lh is that of `normal`."""
    face = choose_font(families, weight, style).face.at({"opsz": size})
    metrics = face.metrics(size)
    normal = (metrics.ascent + metrics.descent + metrics.line_gap) / 64
    ideograph = face.hb_font.get_nominal_glyph(ord("水"))
    ic = face.hb_font.get_glyph_h_advance(ideograph) * size / face.upem if ideograph else size
    return FontUnits(size, metrics.x_height, metrics.zero_width, metrics.cap_height, ic, normal)
