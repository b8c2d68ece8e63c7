"""HTML text → element tree, by `html5lib`, with the place of every tag kept.

Two small subclasses do it: the tokenizer notes where in the stream a token ends (a token starts
where the one before it ended), and the tree builder makes our own nodes and hands them the place
of the token at work. The library normalises line ends, so it is fed text in which they are
normalised already, and offsets are mapped back.
"""

import re
from array import array
from collections.abc import Iterator
from functools import cache
from typing import Any

from html5lib import _inputstream, _tokenizer
from html5lib.constants import tokenTypes
from html5lib.html5parser import HTMLParser
from html5lib.treebuilders import base

from redcrate.core.markup.elements import (
    HTML_NAMESPACE,
    DocumentMode,
    Element,
    Markup,
    MarkupFault,
    Places,
    Span,
    Text,
)
from redcrate.core.markup.source_text import SourceText

_PARSE_ERROR = tokenTypes["ParseError"]
_END_TAG = tokenTypes["EndTag"]
_TEXT_TOKENS = (tokenTypes["Characters"], tokenTypes["SpaceCharacters"])
_WHOLE = 2**31
_TOO_DEEP = (
    "tags-are-nested-more-than-512-deep; those further in are read as standing beside one another"
)
DEEPEST_NESTING = 512  # open elements; browsers' engines let no more stand in one another either
_MOST_TOO_DEEP = 2000  # elements that stand deeper; those beyond are not in the tree
_MANY_ATTRIBUTES = 24
_LONG_TAG = 10_000  # characters
_COMMENT_ENDS = re.compile("--!?>")


class _Stream(_inputstream.HTMLUnicodeInputStream):  # type: ignore[misc]
    """A stream that is read as one chunk, so that its chunk offset is the offset in the text."""

    _defaultChunkSize = _WHOLE

    def __init__(self, text: str) -> None:
        self.length = len(text)
        self.ended = False
        super().__init__(text)
        self.reportCharacterErrors = None

    @property
    def place(self) -> int:
        """The offset of the next character; at the end the library has let go of its chunk."""
        if self.chunkSize:
            return int(self.chunkOffset)
        return self.length if self.ended else 0

    def readChunk(self, chunkSize: int | None = None) -> bool:
        """Read on; notes the end of the text."""
        more = bool(super().readChunk(chunkSize))
        self.ended = not more
        return more


class _Tokenizer(_tokenizer.HTMLTokenizer):  # type: ignore[misc]
    """Tokens with their place in the text."""

    def __init__(self, text: str, parser: "_Parser") -> None:
        super().__init__("", parser=parser)
        self.stream = _Stream(text)

    def commentState(self) -> bool:
        """In a comment: what is in it does not matter, so its end is looked for at once."""
        stream = self.stream
        found = _COMMENT_ENDS.search(stream.chunk, stream.chunkOffset)
        if found is None:
            stream.chunkOffset = stream.chunkSize
            return bool(super().commentState())
        stream.chunkOffset = found.end()
        self.tokenQueue.append(self.currentToken)
        self.state = self.dataState
        return True

    def __iter__(self) -> Iterator[dict[str, Any]]:
        """Yield the tokens; all but the parse errors carry `span`."""
        builder = self.parser.tree
        start = 0
        for token in super().__iter__():
            if token["type"] == _PARSE_ERROR:
                yield token
                continue
            end = self.stream.place
            kind = token["type"]
            builder.token_span = Span(start, end)
            builder.text_span = builder.token_span if kind in _TEXT_TOKENS else None
            start = end
            if kind == _END_TAG:
                closing = builder.innermost_open(token["name"])
                yield token
                builder.close(closing)
            else:
                yield token


class _PatientTokenizer(_Tokenizer):
    """The same for texts in which one tag may have thousands of attributes."""

    def beforeAttributeNameState(self) -> bool:
        """Before an attribute; the library compares each with all before it, which is only done for some of many."""
        data = self.currentToken["data"]
        if len(data) == _MANY_ATTRIBUTES and type(data) is list:
            self.currentToken["data"] = _Attributes(data)
        return bool(super().beforeAttributeNameState())


class _Attributes(list[Any]):
    """Many attributes of one tag, of which the last ones alone are compared with a new one."""

    def __getitem__(self, at: Any) -> Any:
        """The library asks for all but the last one to compare them."""
        if isinstance(at, slice) and (at.start, at.stop, at.step) == (None, -1, None):
            return super().__getitem__(slice(-_MANY_ATTRIBUTES, -1))
        return super().__getitem__(at)


class _Node(base.Node):  # type: ignore[misc]
    """A node as the library wants it, with the places of its tags."""

    def __init__(self, name: str, namespace: str | None, builder: "_Builder | None") -> None:
        super().__init__(name)
        self.builder = builder
        self.namespace = namespace
        self.nameTuple = (namespace, name)
        self.span: Span | None = None
        self.end_span: Span | None = None

    def appendChild(self, node: Any) -> None:
        """Put `node` last; text is joined to text before it."""
        if isinstance(node, _TextNode):
            self._join_text(len(self.childNodes), node)
            return
        if node.parent is not None:
            node.parent.removeChild(node)
        node.parent = self
        self.childNodes.append(node)

    def _join_text(self, at: int, node: "_TextNode") -> None:
        if node.parent is not None:
            node.parent.removeChild(node)
        before = self.childNodes[at - 1] if at else None
        if isinstance(before, _TextNode):
            before.absorb(node)
        else:
            node.parent = self
            self.childNodes.insert(at, node)

    def insertText(self, data: str, insertBefore: Any = None) -> None:
        """Put text last, or in front of a child (text that a table does not take)."""
        at = len(self.childNodes) if insertBefore is None else self.childNodes.index(insertBefore)
        self._join_text(at, _TextNode(data, self.builder.text_span if self.builder else None))

    def insertBefore(self, node: Any, refNode: Any) -> None:
        """Put `node` in front of a child."""
        if node.parent is not None:
            node.parent.removeChild(node)
        node.parent = self
        self.childNodes.insert(self.childNodes.index(refNode), node)

    def removeChild(self, node: Any) -> None:
        """Take a child out."""
        self.childNodes.remove(node)
        node.parent = None

    def reparentChildren(self, newParent: Any) -> None:
        """Hand all children over."""
        for child in list(self.childNodes):
            newParent.appendChild(child)

    def cloneNode(self) -> "_Node":
        """An element of the same name and attributes that stands nowhere in the source."""
        clone = _Node(self.name, self.namespace, self.builder)
        clone.attributes = dict(self.attributes)
        return clone

    def hasContent(self) -> bool:
        """Whether anything is inside."""
        return bool(self.childNodes)


class _TextNode(base.Node):  # type: ignore[misc]
    """A run of text with its place."""

    __slots__ = ("parts", "span", "whole")

    def __init__(self, data: str, span: Span | None) -> None:
        super().__init__("#text")
        self.parts = [data]
        self.span = span
        self.whole = True

    def absorb(self, other: "_TextNode") -> None:
        """Join the text that follows; the place is kept while both lie side by side."""
        self.parts.extend(other.parts)
        if self.span and other.span and other.whole and self.span.end == other.span.start:
            self.span = Span(self.span.start, other.span.end)
        else:
            self.whole = False


class _Comment(_Node):
    """A comment; kept only in the source."""

    def __init__(self, data: str) -> None:
        super().__init__("#comment", None, None)


class _Doctype(_Node):
    def __init__(self, name: str, public_id: str, system_id: str) -> None:
        super().__init__("#doctype", None, None)


class _Document(_Node):
    def __init__(self) -> None:
        super().__init__("#document", None, None)


class _OpenElements(list[_Node]):
    """The stack of open elements, which knows how many of each name there are."""

    def __init__(self) -> None:
        super().__init__()
        self.named: dict[str, int] = {}

    def append(self, node: _Node) -> None:
        """Open one more."""
        self.named[node.name] = self.named.get(node.name, 0) + 1
        super().append(node)

    def pop(self, at: Any = -1) -> _Node:
        """Close one."""
        node = super().pop(at)
        self.named[node.name] -= 1
        return node

    def remove(self, node: _Node) -> None:
        """Close one wherever it is."""
        super().remove(node)
        self.named[node.name] -= 1

    def insert(self, at: Any, node: _Node) -> None:
        """Open one in its place."""
        self.named[node.name] = self.named.get(node.name, 0) + 1
        super().insert(at, node)

    def __setitem__(self, at: Any, node: Any) -> None:
        """Put one in the place of another of the same name."""
        self.named[self[at].name] -= 1
        self.named[node.name] = self.named.get(node.name, 0) + 1
        super().__setitem__(at, node)


class _Builder(base.TreeBuilder):  # type: ignore[misc]
    """Builds `_Node`s that know their tags' places."""

    documentClass = _Document
    commentClass = _Comment
    doctypeClass = _Doctype
    fragmentClass = _Document

    def __init__(self, namespaceHTMLElements: bool) -> None:
        self.token_span: Span | None = None  # the place of the token at work
        self.text_span: Span | None = None  # the same while that token is text
        self.deep_at: int | None = None  # where elements first stood too deep
        self.too_deep = 0  # how many there were
        super().__init__(namespaceHTMLElements)

    def reset(self) -> None:
        """Begin a document."""
        super().reset()
        self.openElements = _OpenElements()

    def elementClass(self, name: str, namespace: str | None) -> _Node:
        """A new element node."""
        return _Node(name, namespace, self)

    def createElement(self, token: dict[str, Any]) -> Any:
        """An element that is not in the tree yet."""
        return self._placed(super().createElement(token), token)

    def insertElementNormal(self, token: dict[str, Any]) -> Any:
        """An element inside the innermost open one; at a depth that is too great, beside it."""
        if len(self.openElements) <= DEEPEST_NESTING:
            return self._placed(super().insertElementNormal(token), token)
        self._close_innermost()
        made = self._placed(super().insertElementNormal(token), token)
        self.too_deep += 1
        if self.too_deep > _MOST_TOO_DEEP:
            made.parent.removeChild(made)
        return made

    def _close_innermost(self) -> None:
        if self.deep_at is None and self.token_span is not None:
            self.deep_at = self.token_span.start
        innermost = self.openElements.pop()
        if innermost in self.activeFormattingElements:
            self.activeFormattingElements.remove(innermost)  # else it would be opened again

    def _placed(self, node: Any, token: dict[str, Any]) -> Any:
        # Tokens that the parser makes up itself (implied tags, reopened formatting) lack this key.
        if "selfClosingAcknowledged" in token:
            node.span = self.token_span
        return node

    def elementInScope(self, target: Any, variant: str | None = None) -> bool:
        """Whether an open element is in scope: the library's test, with less work a step."""
        if hasattr(target, "nameTuple"):
            return bool(super().elementInScope(target, variant))
        name = (HTML_NAMESPACE, target) if isinstance(target, str) else target
        if not self.openElements.named.get(name[1]):
            return False
        limits, inverted = base.listElementsMap[variant]
        for node in reversed(self.openElements):
            found = node.nameTuple
            if found == name:
                return True
            if (found in limits) != inverted:
                return False
        return False

    def innermost_open(self, name: str) -> tuple[int, Any] | None:
        """The place in the stack and the node that an end tag of `name` would close."""
        stack = self.openElements
        if not stack.named.get(name):
            return None
        for i in range(len(stack) - 1, -1, -1):
            if stack[i].name == name:
                return i, stack[i]
        return None

    def close(self, closing: tuple[int, Any] | None) -> None:
        """Give the node its end tag, if the end tag at work did close it."""
        if closing is None:
            return
        at, node = closing
        stack = self.openElements
        still_open = at < len(stack) and stack[at] is node
        if node.end_span is None and (not still_open or node.name in ("body", "html")):
            node.end_span = self.token_span


@cache
def _with_spaces_of_bodies(phase: type[Any]) -> type[Any]:
    """The library's state for cells or captions, that takes white space as that for bodies does (HTML Standard §13.2.6.4.7).

    So the line break that follows the tag of `pre`, `listing` or `textarea` goes there, too.
    """

    class Phase(phase):  # type: ignore[misc]
        __slots__ = ()

        def processSpaceCharacters(self, token: dict[str, Any]) -> Any:
            return self.parser.phases["inBody"].processSpaceCharacters(token)

    return Phase


class _Parser(HTMLParser):  # type: ignore[misc]
    """The library's parser over our tokenizer."""

    def __init__(self) -> None:
        super().__init__(_Builder)
        for name in ("inCell", "inCaption"):
            self.phases[name] = _with_spaces_of_bodies(type(self.phases[name]))(  # type: ignore[arg-type]
                self, self.tree
            )

    def build(self, text: str) -> Any:
        """Return the document node of `text`."""
        self.innerHTMLMode = False
        self.container = None
        self.scripting = False
        longest = max(map(len, text.split("<")))  # of what may be a tag
        self.tokenizer = (_PatientTokenizer if longest > _LONG_TAG else _Tokenizer)(text, self)
        self.reset()
        self.mainLoop()
        if self.tree.deep_at is not None:
            self.errors.insert(0, (self.tree.deep_at, _TOO_DEEP, {}))
        return self.tree.getDocument()

    def parseError(self, errorcode: str = "", datavars: dict[str, Any] | None = None) -> None:
        """Note a fault by its offset; the library would count lines each time."""
        self.errors.append((self.tokenizer.stream.place, errorcode, datavars or {}))


def parse_html(source: SourceText) -> Markup:
    """The element tree of `source`; any text gives one (HTML Standard §13.2)."""
    text, original = _with_plain_line_ends(source.text)
    parser = _Parser()
    document = parser.build(text)
    root = next(n for n in document.childNodes if n.name == "html")
    converter = _Conversion(original)
    element = converter.element_tree(root)
    listed = tuple(_listed(element))
    for index, one in enumerate(listed):
        one.index = index
    faults = tuple(_faults(parser.errors, original))
    mode = DocumentMode(parser.compatMode)
    return Markup(source, element, listed, mode, faults, converter.places)


def start_tag_token(text: str) -> dict[str, Any] | None:
    """The token that `text` is if it is one start tag and nothing else: its name and attributes."""
    if "\r" in text or "\0" in text:
        return None
    parser = _Parser()
    parser.scripting = False
    parser.innerHTMLMode = False
    parser.tokenizer = tokenizer = _Tokenizer(text, parser)
    parser.reset()
    found = None
    for token in _tokenizer.HTMLTokenizer.__iter__(tokenizer):
        if found is not None or token["type"] != tokenTypes["StartTag"]:
            return None
        found = token
    return found


def _with_plain_line_ends(text: str) -> tuple[str, list[int] | None]:
    """The text with LF line ends, and for each of its offsets the original one (None: equal)."""
    if "\r" not in text:
        return text, None
    out: list[str] = []
    original: list[int] = []
    previous = ""
    for offset, char in enumerate(text):
        if char == "\n" and previous == "\r":
            previous = char
            continue
        out.append("\n" if char == "\r" else char)
        original.append(offset)
        previous = char
    original.append(len(text))
    return "".join(out), original


class _Conversion:
    """The library's tree → ours, with an explicit stack: trees can be thousands deep."""

    def __init__(self, original: list[int] | None) -> None:
        self._original = original
        self._offsets = array("l")
        self._tree = object()

    @property
    def places(self) -> Places:
        """The places of all nodes that were made."""
        return Places(self._offsets)

    def element_tree(self, root: Any) -> Element:
        """Our root element with everything inside it."""
        top = self._element(root)
        stack = [(root, top)]
        while stack:
            node, element = stack.pop()
            for child in node.childNodes:
                if isinstance(child, _TextNode):
                    text = Text("".join(child.parts), len(self._offsets) // 4)
                    self._place(child.span if child.whole else None)
                    self._place(None)
                    text.parent = element
                    element.children.append(text)
                elif not child.name.startswith("#"):
                    made = self._element(child)
                    made.parent = element
                    element.children.append(made)
                    stack.append((child, made))
            element.child_elements = [c for c in element.children if isinstance(c, Element)]
            for index, one in enumerate(element.child_elements):
                one.sibling_index = index
        return top

    def _element(self, node: Any) -> Element:
        attributes = {(k if isinstance(k, str) else k[1]): v for k, v in dict(node.attributes).items()}
        number = len(self._offsets) // 4
        element = Element(node.name, node.namespace, attributes, number, self._tree)
        self._place(node.span)
        self._place(node.end_span)
        return element

    def _place(self, span: Span | None) -> None:
        if span is None:
            self._offsets.extend((-1, -1))
        elif self._original is None:
            self._offsets.extend((span.start, span.end))
        else:
            self._offsets.extend((self._original[span.start], self._original[span.end]))


def _listed(root: Element) -> Iterator[Element]:
    yield root
    for child in root.child_elements:
        if child.tag == "body":
            yield from child.walk()


def _faults(
    errors: list[tuple[int, str, dict[str, Any]]], original: list[int] | None
) -> Iterator[MarkupFault]:
    for offset, code, data in errors[:200]:
        at = original[min(offset, len(original) - 1)] if original else offset
        name = data.get("name")
        about = f" (<{name}>)" if isinstance(name, str) else ""
        yield MarkupFault(f"markup: {code.replace('-', ' ')}{about}", max(0, at - 1))
