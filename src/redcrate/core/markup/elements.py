"""The element tree: what a page's tags and texts are, and where each of them stands in the source.

Built once by the parser and then only read. Facts computed about an element (styles, boxes) live
in tables of their own.
"""

from array import array
from collections.abc import Callable, Container, Iterator
from dataclasses import field
from enum import Enum

from redcrate.core.markup.source_text import SourceText
from redcrate.core.records import dataclass

HTML_NAMESPACE = "http://www.w3.org/1999/xhtml"


class DocumentMode(Enum):
    """How old the ways are that the doctype asks for: HTML Standard §13.2.6.4.1, Quirks Mode Standard."""

    NO_QUIRKS = "no quirks"
    LIMITED_QUIRKS = "limited quirks"
    QUIRKS = "quirks"


@dataclass(frozen=True, slots=True)
class Span:
    """A run of characters of a source text: offsets, the end excluded."""

    start: int
    end: int


class Text:
    """A run of text in the tree; `number` is its key in the table of places."""

    __slots__ = ("data", "number", "parent")

    def __init__(self, data: str, number: int = 0) -> None:
        self.data = data
        self.number = number
        self.parent: Element | None = None


class Element:
    """One element: tag, attributes and children.

    `number` is its key in the table of places. `index` is its place among the page's listed elements
    (html, body and everything in body), or -1. The value of its style attribute may be older than the
    source: `Markup.style_attribute` has the current one. `tree` is one and the same for all elements that were
    parsed together.
    """

    __slots__ = (
        "attributes",
        "child_elements",
        "children",
        "classes",
        "id",
        "index",
        "namespace",
        "number",
        "parent",
        "sibling_index",
        "tag",
        "tree",
    )

    def __init__(
        self,
        tag: str,
        namespace: str | None,
        attributes: dict[str, str],
        number: int = 0,
        tree: object = None,
    ) -> None:
        self.tree = tree if tree is not None else object()
        self.tag = tag
        self.namespace = namespace or HTML_NAMESPACE
        self.attributes = attributes
        self.id: str | None = attributes.get("id")
        self.classes: tuple[str, ...] = tuple(attributes.get("class", "").split())
        self.children: list[Element | Text] = []
        self.parent: Element | None = None
        self.number = number
        self.index = -1
        self.child_elements: list[Element] = []  # the children that are elements
        self.sibling_index = 0  # among the parent's child elements

    @property
    def label(self) -> str:
        """How people call it: tag, id and classes as a selector would name them."""
        name = self.tag
        if self.id:
            name += f"#{self.id}"
        return name + "".join(f".{c}" for c in self.classes)

    def walk(self) -> "Iterator[Element]":
        """This element and all inside it, in document order; any depth."""
        stack = [self]
        while stack:
            element = stack.pop()
            yield element
            stack.extend(c for c in reversed(element.children) if isinstance(c, Element))

    def ancestors(self) -> "Iterator[Element]":
        """The parent, its parent and so on up to the root."""
        at = self.parent
        while at is not None:
            yield at
            at = at.parent

    @property
    def path(self) -> tuple[int, ...]:
        """The way from the root down to it, as places among the child elements."""
        places: list[int] = []
        at = self
        while at.parent is not None:
            places.append(at.sibling_index)
            at = at.parent
        return tuple(reversed(places))

    def text_content(self) -> str:
        """All text inside, in order."""
        parts: list[str] = []
        stack: list[Element | Text] = [self]
        while stack:
            node = stack.pop()
            if isinstance(node, Text):
                parts.append(node.data)
            else:
                stack.extend(reversed(node.children))
        return "".join(parts)


def mentions(element: Element, sought: str) -> bool:
    """Whether the name of an element, or the text of one that holds text alone, has `sought` (in lower case)."""
    if sought in element.label.lower():
        return True
    return not element.child_elements and sought in element.text_content().lower()


def at_path(root: Element, path: tuple[int, ...]) -> Element | None:
    """The element at a path from the root (`Element.path`); None if nothing stands there."""
    at = root
    for index in path:
        if index >= len(at.child_elements):
            return None
        at = at.child_elements[index]
    return at


# HTML Standard §4.12.2 and §4.12.3: what stands in for scripts where none run, and what scripts make something of; pages
# are computed as they look where scripts are on.
IDLE = ("noscript", "template")


def _refers(element: Element) -> bool:
    named = element.tag in ("style", "link", "script") or "src" in element.attributes
    return named and not any(e.tag in IDLE for e in element.ancestors())


class Places:
    """Where the tags and texts of a tree stand in its source: a table apart from the tree.

    Four offsets a node: of an element's start tag and end tag, of a text's run; -1 where there is none.
    What edits moved is added when a place is asked for; from time to time all are moved at once.
    """

    __slots__ = ("_moves", "_offsets", "_starts")

    def __init__(self, offsets: "array[int]", moves: tuple[tuple[int, int], ...] = ()) -> None:
        self._offsets = offsets
        self._moves = moves  # (after, by), in the order of the edits
        self._starts: dict[int, int] = {}  # the first offset of a node → its number, as they were

    def _span(self, at: int) -> Span | None:
        start = self._offsets[at]
        if start < 0:
            return None
        return Span(_moved(start, self._moves), _moved(self._offsets[at + 1], self._moves))

    def start_tag(self, element: Element) -> Span | None:
        """The start tag; None for an element that the parser implied (html, body, tbody …)."""
        return self._span(4 * element.number)

    def end_tag(self, element: Element) -> Span | None:
        """The end tag; None where the source has none."""
        return self._span(4 * element.number + 2)

    def text(self, text: Text) -> Span | None:
        """The run of characters; None if it is not in one piece."""
        return self._span(4 * text.number)

    def number_at(self, offset: int) -> int | None:
        """The number of the node that starts just at `offset`; None if none does."""
        if not self._starts:
            starts = self._offsets[::4]
            self._starts = {start: at for at, start in enumerate(starts) if start >= 0}
        for after, by in reversed(self._moves):
            if offset > after:
                offset -= by
        return self._starts.get(offset)

    def moved(self, after: int, by: int) -> "Places":
        """The places after an edit: everything beyond offset `after` stands `by` further on."""
        moves = (*self._moves, (after, by))
        if len(moves) > _MOVES_KEPT:
            return Places(array("l", [o if o < 0 else _moved(o, moves) for o in self._offsets]))
        places = Places(self._offsets, moves)
        places._starts = self._starts
        return places


_MOVES_KEPT = 24


def _moved(offset: int, moves: tuple[tuple[int, int], ...]) -> int:
    for after, by in moves:
        if offset > after:
            offset += by
    return offset


@dataclass(frozen=True, slots=True)
class MarkupFault:
    """Something in the markup that the parser had to mend: a sentence and its offset."""

    sentence: str
    offset: int


@dataclass(frozen=True, slots=True, eq=False, repr=False)
class Markup:
    """A parsed page.

    root: the html element. listed: html, body and every element in body, in document order.
    mode: what the doctype asks for. faults: what the parser mended. places: of all
    tags and texts. restyled: style attributes that were edited since the tree was built.
    """

    source: SourceText
    root: Element
    listed: tuple[Element, ...]
    mode: DocumentMode
    faults: tuple[MarkupFault, ...]
    places: Places
    restyled: dict[Element, str] = field(default_factory=dict)
    _found: dict[str, tuple[Element, ...]] = field(
        default_factory=dict
    )  # shared by all versions of a tree, and so is
    _named: dict[tuple[str, str], tuple[Element, ...]] = field(default_factory=dict)
    _numbered: dict[int, Element] = field(default_factory=dict)
    _names: set[str] = field(default_factory=set)

    @property
    def names(self) -> Container[str]:
        """What selectors can name of the elements: `.class`, `#id` and `tag`; found once for a tree."""
        if not self._names:
            for element in self.root.walk():
                self._names.add(element.tag)
                self._names.update("." + one for one in element.classes)
                if element.id:
                    self._names.add("#" + element.id)
        return self._names

    def named(self, kind: str, name: str) -> "tuple[Element, ...]":
        """The listed elements of a tag, id or class, in document order; filed once for a tree."""
        if not self._named:
            found: dict[tuple[str, str], list[Element]] = {}
            for element in self.listed:
                found.setdefault(("tag", element.tag), []).append(element)
                if element.id:
                    found.setdefault(("id", element.id), []).append(element)
                for one in element.classes:
                    found.setdefault(("class", one), []).append(element)
            self._named.update({key: tuple(those) for key, those in found.items()})
        return self._named.get((kind, name), ())

    def those(self, name: str, wanted: Callable[[Element], bool]) -> "tuple[Element, ...]":
        """The elements that satisfy `wanted`, which asks only what no edit in place changes; kept by name."""
        if name not in self._found:
            self._found[name] = tuple(e for e in self.root.walk() if wanted(e))
        return self._found[name]

    def numbered(self, number: int) -> Element | None:
        """The element of that number; None for a text's."""
        if not self._numbered:
            self._numbered.update({e.number: e for e in self.root.walk()})
        return self._numbered.get(number)

    @property
    def sheet_elements(self) -> tuple[Element, ...]:
        """The style elements, in document order."""
        return self.those("style", lambda e: e.tag == "style")

    @property
    def referring(self) -> tuple[Element, ...]:
        """The elements that bring styles, scripts or other files with them."""
        return self.those("referring", _refers)

    @property
    def with_style(self) -> tuple[Element, ...]:
        """The elements that have a style attribute now, in document order."""
        written = self.those("styled", lambda e: "style" in e.attributes)
        if not self.restyled:
            return written
        those = {e for e in (*written, *self.restyled) if self.style_attribute(e)}
        return tuple(sorted(those, key=lambda e: e.number))

    def start_tag(self, element: Element) -> Span | None:
        """Where the element's start tag stands; None if the parser implied the element."""
        return self.places.start_tag(element)

    def end_tag(self, element: Element) -> Span | None:
        """Where its end tag stands; None if there is none."""
        return self.places.end_tag(element)

    def line_of(self, element: Element) -> int:
        """The line of the start tag, from 1; 0 if there is none."""
        tag = self.places.start_tag(element)
        return self.source.line_of(tag.start) if tag else 0

    def style_attribute(self, element: Element) -> str:
        """The value of the style attribute as it is now; empty if there is none."""
        known = self.restyled.get(element)
        return element.attributes.get("style", "") if known is None else known

    @property
    def head(self) -> Element | None:
        """The head element, or None."""
        return next((e for e in self.root.child_elements if e.tag == "head"), None)

    @property
    def body(self) -> Element | None:
        """The body element, or None (a frameset page has none)."""
        return next((e for e in self.root.child_elements if e.tag == "body"), None)
