"""Shaping of runs of text by HarfBuzz, with results kept.

A run is shaped as a whole, since kerning reaches across spaces. Advances are kept in font units
and as sums from the start of the run, so that the width of any piece is one subtraction, at any
font size.
"""

from functools import lru_cache
from typing import TypeAlias

import uharfbuzz as hb

from redcrate.core.records import dataclass
from redcrate.core.text.fonts import FontFace
from redcrate.core.units import LayoutUnit, ceil_from_px

_RUNS_KEPT = 20_000


@dataclass(frozen=True, slots=True)
class Glyph:
    """One glyph: its number in the font, the character it belongs to, its place in font units."""

    number: int
    cluster: int
    x: int
    y: int


@dataclass(frozen=True, slots=True, eq=False)
class ShapedRun:
    """A shaped run.

    sums: for each character offset (and the end) the advance from the start, font units. missing:
    characters that the face has no glyph for. at_ends: for an offset, how much wider the character before it is where
    a line ends there, as it is not drawn up to what follows; font units, only where there is a difference.
    """

    face: FontFace
    text: str
    sums: tuple[int, ...]
    glyphs: tuple[Glyph, ...]
    missing: str
    at_ends: dict[int, int]

    def width(self, start: int, end: int, size: float) -> LayoutUnit:
        """The width of the characters from `start` to `end` at `size` px, rounded up to 1/64 px."""
        return ceil_from_px((self.sums[end] - self.sums[start]) * size / self.face.upem)


Features: TypeAlias = tuple[tuple[str, int], ...]


@lru_cache(maxsize=_RUNS_KEPT)
def shape(face: FontFace, text: str, features: Features = ()) -> ShapedRun:
    """Shape `text` with the default features of `face`, but for `features` (tag and number)."""
    if not text:
        return ShapedRun(face, "", (0,), (), "", {})
    buffer = hb.Buffer()
    buffer.add_str(text)
    buffer.guess_segment_properties()
    hb.shape(face.hb_font, buffer, dict(features))
    advances = [0] * (len(text) + 1)
    at_ends: dict[int, int] = {}
    own_advance = face.hb_font.get_glyph_h_advance
    glyphs: list[Glyph] = []
    missing: list[str] = []
    x = 0
    for info, position in zip(buffer.glyph_infos, buffer.glyph_positions, strict=True):
        cluster = info.cluster
        advances[cluster] += position.x_advance
        glyphs.append(Glyph(info.codepoint, cluster, x + position.x_offset, position.y_offset))
        if info.codepoint == 0:
            missing.append(text[cluster])
        x += position.x_advance
        loose = own_advance(info.codepoint) - position.x_advance
        if loose and position.x_advance and text[cluster] != " ":
            at_ends[cluster + 1] = loose
    sums = [0] * (len(text) + 1)
    total = 0
    for i, advance in enumerate(advances[:-1]):
        sums[i] = total
        total += advance
    sums[len(text)] = total
    return ShapedRun(face, text, tuple(sums), tuple(glyphs), "".join(missing), at_ends)
