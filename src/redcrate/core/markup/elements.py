"""The element tree: what a page's tags and texts are, and where each of them stands in the source.

Built once by the parser and then only read. Facts computed about an element (styles, boxes) live
in tables of their own.
"""

from collections.abc import Iterator
from dataclasses import dataclass

from redcrate.core.markup.source_text import SourceText

HTML_NAMESPACE = "http://www.w3.org/1999/xhtml"


@dataclass(frozen=True, slots=True)
class Span:
    """A run of characters of a source text: offsets, the end excluded."""

    start: int
    end: int


class Text:
    """A run of text in the tree; `span` is its place in the source, if it is in one piece."""

    __slots__ = ("data", "parent", "span")

    def __init__(self, data: str, span: Span | None = None) -> None:
        self.data = data
        self.span = span
        self.parent: Element | None = None


class Element:
    """One element: tag, attributes, children, and the places of its tags.

    `start_tag` is None for an element that the parser implied (html, body, tbody …); `end_tag` is
    None where the source has none. `index` is its place among the page's listed elements (html,
    body and everything in body), or -1.
    """

    __slots__ = (
        "attributes",
        "children",
        "classes",
        "end_tag",
        "id",
        "index",
        "namespace",
        "parent",
        "child_elements",
        "sibling_index",
        "start_tag",
        "tag",
    )

    def __init__(self, tag: str, namespace: str | None, attributes: dict[str, str]) -> None:
        self.tag = tag
        self.namespace = namespace or HTML_NAMESPACE
        self.attributes = attributes
        self.id: str | None = attributes.get("id")
        self.classes: tuple[str, ...] = tuple(attributes.get("class", "").split())
        self.children: list[Element | Text] = []
        self.parent: Element | None = None
        self.start_tag: Span | None = None
        self.end_tag: Span | None = None
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


@dataclass(frozen=True, slots=True)
class MarkupFault:
    """Something in the markup that the parser had to mend: a sentence and the line, from 1."""

    sentence: str
    line: int


@dataclass(frozen=True, slots=True)
class Markup:
    """A parsed page.

    root: the html element. listed: html, body and every element in body, in document order.
    quirks: whether the doctype asks for the old ways. faults: what the parser mended.
    """

    source: SourceText
    root: Element
    listed: tuple[Element, ...]
    quirks: bool
    faults: tuple[MarkupFault, ...]

    @property
    def head(self) -> Element | None:
        """The head element, or None."""
        return next((e for e in self.root.child_elements if e.tag == "head"), None)

    @property
    def body(self) -> Element | None:
        """The body element, or None (a frameset page has none)."""
        return next((e for e in self.root.child_elements if e.tag == "body"), None)
