"""SVG of strangers, before somebody draws it: what would take for ever, or reads other files, is left out or refused.

SVG 2 §5.6 lets `use` repeat what repeats others: twelve lines can stand for a thousand million shapes.
"""

import re
from xml.etree.ElementTree import Element, register_namespace, tostring

from defusedxml import DefusedXmlException
from defusedxml.ElementTree import ParseError, fromstring

_XLINK = "http://www.w3.org/1999/xlink"
_SVG = "http://www.w3.org/2000/svg"
_MOST_BYTES = 4 * 2**20
_MOST_WORK = 60_000  # shapes, each counted as often as it is drawn
_DEEPEST = 200
_FILTER = 5000  # shapes that a step of a filter is as much work as
_HEAVY = {"mask": 500, "pattern": 500, "text": 5, "image": 20}
_PATH_PIECE = 40  # characters of path data that count as one shape
_PIXELS = re.compile(r"\s*data:image/(png|jpe?g|gif|webp)[;,]", re.IGNORECASE)


def harmless(data: bytes) -> bytes | None:
    """The SVG without references to other files; None if it is none, or is too much to draw."""
    if len(data) > _MOST_BYTES:
        return None
    try:
        root = fromstring(data)
    except (ParseError, DefusedXmlException, ValueError, LookupError, RecursionError):
        return None
    if _local(root.tag) != "svg" or _depth(root) > _DEEPEST or _Work(root).of(root) > _MOST_WORK:
        return None
    return _without_files(root) if _names_files(root) else data


def _local(tag: object) -> str:
    return tag.rpartition("}")[2] if isinstance(tag, str) else ""


def _reference(element: Element) -> str:
    return element.get("href") or element.get(f"{{{_XLINK}}}href") or ""


def _depth(root: Element) -> int:
    deepest, level = 0, [root]
    while level and deepest <= _DEEPEST:
        level = [child for one in level for child in one]
        deepest += 1
    return deepest


class _Work:
    """How many shapes an element comes to, with all that it repeats."""

    def __init__(self, root: Element) -> None:
        self._named = {name: one for one in root.iter() if (name := one.get("id"))}
        self._known: dict[Element, int] = {}
        self._open: set[Element] = set()

    def of(self, element: Element) -> int:
        """Its work; what repeats itself counts once more than is drawn. No tree is deeper than `_DEEPEST`."""
        if element in self._known:
            return self._known[element]
        if element in self._open or len(self._open) > 2 * _DEEPEST:
            return _MOST_WORK + 1
        self._open.add(element)
        name = _local(element.tag)
        work = _FILTER if name.startswith("fe") else _HEAVY.get(name, 1)
        work += len(element.get("d") or element.get("points") or "") // _PATH_PIECE
        work += sum(self.of(child) for child in element)
        reference = _reference(element)
        if reference.startswith("#") and reference[1:] in self._named:
            work += self.of(self._named[reference[1:]])
        self._open.discard(element)
        self._known[element] = min(work, _MOST_WORK + 1)
        return self._known[element]


def _is_file(element: Element) -> bool:
    """Whether it shows another file: anything but a part of this one, or pixels that are in it."""
    reference = _reference(element).strip()
    return _local(element.tag) in ("image", "feImage", "use") and not (
        reference.startswith("#") or _PIXELS.match(reference)
    )


def _names_files(root: Element) -> bool:
    return any(_is_file(one) for one in root.iter())


def _without_files(root: Element) -> bytes:
    for parent in list(root.iter()):
        for child in [c for c in parent if _is_file(c)]:
            parent.remove(child)
    register_namespace("", _SVG)
    register_namespace("xlink", _XLINK)
    written: bytes = tostring(root, encoding="utf-8")
    return written
