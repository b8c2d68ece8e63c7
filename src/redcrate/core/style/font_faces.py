"""@font-face: what a rule says, and the families that a page brings along (CSS Fonts 4 §4)."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import field
from typing import Any

from redcrate.core.records import dataclass
from redcrate.core.style.calc import significant
from redcrate.core.style.css_syntax import block_contents, css_text
from redcrate.core.style.property_parsers import font_family, split_commas

# What a source may be called that Red Crate can read; in their absence the file itself tells.
_FORMATS = frozenset(
    (
        "woff2", "woff", "truetype", "opentype", "ttf", "otf", "woff2-variations", "woff-variations",
        "truetype-variations", "opentype-variations",
    )
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class FontFaceRule:
    """One @font-face rule.

    addresses: of its files that can be read, in order. weights: from and to. ranges: the characters that
    it is for; () for all. file, line, offset: where it stands.
    """

    family: str
    addresses: tuple[str, ...]
    weights: tuple[int, int]
    italic: bool
    ranges: tuple[tuple[int, int], ...]
    file: str
    line: int
    offset: int


@dataclass(frozen=True, slots=True)
class WebFace:
    """One font file of a page. name: tells it from all others; data: as TrueType or OpenType. ranges: see the rule."""

    name: str
    data: bytes = field(compare=False, repr=False)
    weights: tuple[int, int]
    italic: bool
    ranges: tuple[tuple[int, int], ...] = ()

    def is_for(self, char: str) -> bool:
        """Whether the page wants that character set in it (CSS Fonts 4 §4.5)."""
        return not self.ranges or any(first <= ord(char) <= last for first, last in self.ranges)


class WebFamily(str):
    """The name of a family that a page brings along, with its faces; another one than a plain name."""

    __slots__ = ("faces",)
    faces: tuple[WebFace, ...]

    def __new__(cls, name: str, faces: Sequence[WebFace]) -> "WebFamily":
        """A family of that name."""
        made = super().__new__(cls, name)
        made.faces = tuple(faces)
        return made

    def __eq__(self, other: object) -> bool:
        return isinstance(other, WebFamily) and str(self) == str(other) and self.faces == other.faces

    def __ne__(self, other: object) -> bool:
        return not self == other

    def __hash__(self) -> int:
        return hash((str(self), self.faces))

    def __str__(self) -> str:
        return str.__str__(self)

    def face(self, weight: int, *, italic: bool, char: str = " ") -> WebFace | None:
        """§5.2 and §5.3: the face that comes nearest, by slant and then by weight, of those for a character.

        That for the space is the one that lines are measured by. None where none is for the character.
        """
        faces = [f for f in self.faces if f.is_for(char)]
        slanted = [f for f in faces if f.italic == italic] or faces
        return min(slanted, key=lambda f: _weight_distance(f.weights, weight), default=None)


def _weight_distance(weights: tuple[int, int], wanted: int) -> tuple[int, int]:
    """§5.2: first those in the preferred direction, then the nearest."""
    low, high = weights
    if low <= wanted <= high:
        return 0, 0
    above, below = low - wanted, wanted - high
    if 400 <= wanted <= 500:
        if above > 0:
            return (1 if low <= 500 else 3), above
        return 2, below
    lighter_first = wanted < 400
    if above > 0:
        return (2 if lighter_first else 1), above
    return (1 if lighter_first else 2), below


def families_of(faces: Iterable[tuple[FontFaceRule, WebFace]]) -> Mapping[str, WebFamily]:
    """The families of a page by their names in lower case; of rules alike the last one counts, and comes first."""
    found: dict[str, list[tuple[FontFaceRule, WebFace]]] = {}
    for rule, face in faces:
        found.setdefault(rule.family.lower(), []).append((rule, face))
    out: dict[str, WebFamily] = {}
    for name, all_of_them in found.items():
        latest = {(f.weights, f.italic, f.ranges): f for _, f in all_of_them}
        out[name] = WebFamily(all_of_them[0][0].family, tuple(reversed(latest.values())))
    return out


def parse_font_face(content: list[Any], file: str, line: int, offset: int) -> FontFaceRule | None:
    """The rule of a block of descriptors; None if it names no family or no source (§4.1)."""
    found = {
        n.lower_name: significant(n.value) for n in block_contents(content) if n.type == "declaration"
    }
    sources = [n for n in block_contents(content) if n.type == "declaration" and n.lower_name == "src"]
    family = font_family(found.get("font-family", []))
    if family is None or len(family) != 1 or not sources:
        return None
    addresses = [_address(part) for part in split_commas(significant(sources[-1].value))]
    return FontFaceRule(
        family[0],
        tuple(a for a in addresses if a),
        _weights(found.get("font-weight", [])),
        any(t.type == "ident" and t.lower_value in ("italic", "oblique") for t in found.get("font-style", [])),
        tuple(r for r in map(_range, split_commas(found.get("unicode-range", []))) if r),
        file,
        line,
        offset,
    )  # fmt: skip


def _address(part: list[Any]) -> str:
    """The address of a source that can be read; "" for others (§4.3)."""
    if not part:
        return ""
    address = ""
    if part[0].type == "url":
        address = part[0].value
    elif part[0].type == "function" and part[0].lower_name == "url":
        address = next((t.value for t in part[0].arguments if t.type == "string"), "")
    formats = [t for t in part[1:] if t.type == "function" and t.lower_name == "format"]
    names = [t.value.lower() for f in formats for t in f.arguments if t.type in ("string", "ident")]
    return str(address) if not names or _FORMATS & set(names) else ""


def _weights(tokens: list[Any]) -> tuple[int, int]:
    words = {"normal": 400, "bold": 700}
    found = [
        words.get(t.lower_value, 400) if t.type == "ident" else int(t.value)
        for t in tokens
        if t.type in ("ident", "number")
    ]
    return (min(found), max(found)) if found else (400, 400)


def _range(part: list[Any]) -> tuple[int, int] | None:
    """§4.5: one code point, a span, or digits with ? for any."""
    text = css_text(part).strip().lower().removeprefix("u+")
    first, _, last = text.partition("-")
    try:
        low = int(first.replace("?", "0"), 16)
        high = int((last or first).removeprefix("u+").replace("?", "f"), 16)
    except ValueError:
        return None
    return low, high
