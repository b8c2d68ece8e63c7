"""All that can be seen of a page, as plain values: to compare pages with, and to send one elsewhere.

Values are taken apart by their types, field by field, so that what is added to a result is compared from then on; what
is of a type that nobody thought of is refused. What layout keeps for itself is left out by name.
"""

from collections.abc import Callable, Mapping
from dataclasses import fields, is_dataclass
from enum import Enum
from functools import lru_cache
from operator import attrgetter
from typing import Any
from weakref import WeakKeyDictionary

from redcrate.core.boxes.box import Box
from redcrate.core.layout.fragments import Fragment, Line, Placed, TextPiece
from redcrate.core.layout.table.borders import CollapsedBorders
from redcrate.core.markup.elements import Element
from redcrate.core.page import ElementBox, Page
from redcrate.core.style.computed import ComputedStyle
from redcrate.core.text.fonts import FontFace
from redcrate.core.text.shaping import Glyph, ShapedRun

Plain = Any
_ATOMS = frozenset((int, float, str, bool, bytes, type(None)))
# What tells how a result came about, and not what it is.
_INTERNAL = {
    Box: {"stands_for", "children", "element", "style"},
    Fragment: {"made_of", "box"},
    Placed: {"fragment"},
}
_getters: dict[type, Callable[[Any], tuple[Any, ...]]] = {}
_boxes: WeakKeyDictionary[Box, Plain] = WeakKeyDictionary()
_fragments: WeakKeyDictionary[Fragment, Plain] = WeakKeyDictionary()


def page_snapshot(page: Page) -> Plain:
    """Boxes with their reasons and facts, lines, glyphs, places on the page, painted ones, markers, styles, notices."""
    return {
        "boxes": [(_rect(at), _fragment(at.fragment), plain(at.placed)) for at in page.in_order],
        "painted": [plain(page.painted.get(at.placed)) for at in page.in_order],
        "elements": [(_element(e), *_own(b)) for e, b in page.by_element.items()],
        "styles": [(_element(e), s.values) for e, s in page.styled.styles.items()],
        "generated": {(_element(e), p): s.values for (e, p), s in page.styled.pseudo.items()},
        "notices": sorted((n.file, n.line, n.sentence) for n in page.notices),
        "height": page.height,
    }


def _rect(at: Any) -> Plain:
    return at.rect.x, at.rect.y, at.rect.width, at.rect.height


def _own(box: ElementBox) -> tuple[Plain, ...]:
    """What is known of an element: its rectangles, its edges, what it stands in."""
    container = None if box.container is None else _rect(box.container)
    edges = plain((box.margin, box.border, box.padding))
    return plain(box.fragments), edges, [_piece(p) for p in box.pieces], container


def _piece(piece: Any) -> Plain:
    return piece.x, piece.y, piece.width, piece.height, piece.has_left, piece.has_right


def _fragment(fragment: Fragment) -> Plain:
    found = _fragments.get(fragment)
    if found is None:
        found = _fragments[fragment] = (plain(fragment.box), *_parts(fragment))
    return found


def _element(element: Element | None) -> Plain:
    return None if element is None else (element.index, element.tag)


def _box(box: Box) -> Plain:
    """A box itself: what it is made of and what it says of itself, without the boxes in it."""
    found = _boxes.get(box)
    if found is None:
        found = _boxes[box] = (_element(box.element), box.style.values, *_parts(box))
    return found


def _parts(value: Any) -> tuple[Plain, ...]:
    """The fields of a value, but for those that are internal."""
    kind = type(value)
    getter = _getters.get(kind)
    if getter is None:
        left_out = _INTERNAL.get(kind, set())
        names = [f.name for f in fields(value) if f.name not in left_out]
        getter = attrgetter(*names) if len(names) > 1 else lambda v: (getattr(v, names[0]),)
        _getters[kind] = getter
    return tuple([p if type(p) in _ATOMS else plain(p) for p in getter(value)])


@lru_cache(maxsize=2_000)
def _by_character(run: ShapedRun) -> list[list[Glyph]]:
    """The glyphs of each character of a run."""
    found: list[list[Glyph]] = [[] for _ in run.sums]
    for glyph in run.glyphs:
        found[glyph.cluster].append(glyph)
    return found


def _text(piece: TextPiece) -> Plain:
    """A piece of text with the place of each of its glyphs, in font units."""
    run = piece.run
    around = piece.x, piece.y, piece.width, piece.height, piece.baseline, piece.text, piece.expansion
    if run is None:
        return _box(piece.box), around, piece.scale, piece.hyphen
    start, those = run.sums[piece.start], _by_character(run)[piece.start : piece.end]
    places = tuple([(g.number, g.x - start, g.y) for glyphs in those for g in glyphs])
    return _box(piece.box), around, piece.scale, piece.hyphen, plain(run.face), places


def _borders(borders: CollapsedBorders) -> Plain:
    return plain((borders.beside, borders.above))


_SPECIAL: dict[type, Callable[[Any], Plain]] = {
    Box: _box,
    Element: _element,
    ComputedStyle: lambda style: style.values,
    TextPiece: _text,
    CollapsedBorders: _borders,
    FontFace: lambda face: (face.family, face.weight, face.italic),
    Line: lambda line: (
        _parts(line),
        [_fragment(c.fragment) for c in line.content if type(c) is Placed],
    ),
}


def plain(value: Any) -> Plain:
    """A value taken apart. Raises TypeError for one of a type that is not known to be compared right."""
    kind = type(value)
    if kind in _ATOMS:
        return value
    if kind is tuple or kind is list:
        return tuple([p if type(p) in _ATOMS else plain(p) for p in value])
    special = _SPECIAL.get(kind)
    if special is not None:
        return special(value)
    if isinstance(value, Enum):
        return value.name
    if isinstance(value, Mapping):
        return [(plain(k), plain(v)) for k, v in value.items()]
    if is_dataclass(value):
        return kind.__name__, *_parts(value)
    raise TypeError(f"{kind.__name__} is not known to be compared right")
